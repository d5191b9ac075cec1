import { api, type LoweredRecipe, type Recipe, type RecipeDocument } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { Editing, type Heard } from './editing.svelte';
import { heard } from './events';
import { insisted } from './retry';
import { outline } from './structure';

/** What is chosen on the recipe bench. */
export type Chosen = { kind: 'ingredient'; id: string } | { kind: 'map'; role: string };

/** One open recipe. */
export class RecipeSession extends Editing<RecipeDocument, LoweredRecipe, Recipe> {
	/** Whether it was opened with edits that had not been stored. */
	resumed = false;

	static async open(project: string, id: number): Promise<RecipeSession> {
		const [recipe] = await Promise.all([api.recipe(id), catalogue.load()]);
		const session = new RecipeSession(id, project, recipe.document);
		session.version = recipe.version;
		session.resumed = await session.resume(recipe);
		return session;
	}

	/** Hears what others make of it, until it is ended. */
	listen(): () => void {
		const again = async (): Promise<void> => {
			const stored = await insisted(() => api.recipe(this.id));
			await this.hear({ version: stored.version, key: stored.savedBy, by: '' }, () => Promise.resolve(stored));
		};
		return heard(
			this.project,
			'',
			() => {
				this.live = true;
				void again().catch(() => {});
			},
			() => { this.live = false; this.accompanied = false; },
			{
				recipe: (data) => {
					const told = data as Heard & { target: number };
					if (told.target !== this.id || this.isOwn(told.key)) return;
					// Who has a recipe open is not known before they change it.
					this.accompanied = true;
					void this.hear(told, () => insisted(() => api.recipe(this.id))).catch(() => {});
				}
			}
		);
	}

	protected code(document: RecipeDocument, signal?: AbortSignal): Promise<LoweredRecipe> {
		return api.previewRecipe(document, signal);
	}

	protected get draftName(): string {
		return `recipe ${this.id}`;
	}

	protected store(version: number, document: RecipeDocument, key: string, keepalive: boolean): Promise<Recipe> {
		return api.saveRecipe(this.id, version, document, key, keepalive, this.live);
	}

	/** Recipes have no history: what loses a conflict is kept as a recipe of its own. */
	protected setAside(document: RecipeDocument): Promise<Recipe> {
		return this.copy(document);
	}

	protected copy(document: RecipeDocument): Promise<Recipe> {
		return api.createRecipe(this.project, { ...document, name: `${document.name} (my version)`.slice(0, 120) });
	}

	protected outline(document: RecipeDocument, { structure }: LoweredRecipe): string {
		return outline(document, structure);
	}
}

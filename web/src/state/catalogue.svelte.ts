import { api, type Catalogue, type Control, type StepKind, type StepUse } from '../api/client';

/** The core's declarations: fetched once, never repeated here. */
class CatalogueState {
	value = $state.raw<Catalogue | null>(null);
	private loading: Promise<Catalogue> | null = null;

	async load(): Promise<Catalogue> {
		this.loading ??= api.catalogue();
		try {
			this.value = await this.loading;
		} catch (error) {
			this.loading = null;
			throw error;
		}
		return this.value;
	}

	step(name: string): StepKind | undefined {
		return this.value?.steps.find((step) => step.name === name);
	}

	control(step: string, name: string): Control | undefined {
		return this.step(step)?.controls.find((control) => control.name === name);
	}

	/** The controls that mean something with the other values as they are. */
	shown(use: StepUse): Control[] {
		return (this.step(use.step)?.controls ?? []).filter((control) =>
			Object.entries(control.shownWhen ?? {}).every(([name, values]) => values.includes((use.values[name] ?? this.control(use.step, name)?.default) as never))
		);
	}
}

export const catalogue = new CatalogueState();

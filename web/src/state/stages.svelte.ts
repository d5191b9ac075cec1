import { api, type StageCard } from '../api/client';
import { failed } from './notices.svelte';

/** The stages of the project that is open, for all who name them. */
class Stages {
	all = $state.raw<StageCard[]>([]);

	async load(project: string): Promise<void> {
		try {
			this.all = (await api.stages(project)).stages;
		} catch (error) {
			failed('The stages could not be listed', error);
		}
	}

	name(id: number): string | undefined {
		return this.all.find((one) => one.id === id)?.name;
	}
}

export const stages = new Stages();

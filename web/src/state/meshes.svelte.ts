import { api, type OwnMesh } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { failed, offered } from './notices.svelte';
import { unpacked } from './unpack';

/** All that may stand on a project's stage: ready-made meshes, and those that people bring. */
export class Meshes {
	own = $state.raw<OwnMesh[]>([]);
	/** Share of what is being sent that has gone, 0…1; null if nothing is. */
	sent = $state<number | null>(null);
	refused = $state.raw<{ file: string; reason: string }[]>([]);
	/** A mesh has become another. */
	onChanged: (name: string) => void = () => {};

	constructor(readonly project: string) {}

	async load(): Promise<void> {
		this.own = (await api.meshes(this.project)).meshes;
	}

	find(name: string): OwnMesh | undefined {
		return this.own.find((one) => one.name === name);
	}

	label(name: string): string {
		return this.find(name)?.label ?? catalogue.value?.meshes.find((one) => one.value === name)?.label ?? 'a mesh that was taken out';
	}

	/**
	 * Takes files in.
	 *
	 * @param replaces the mesh whose place one takes
	 */
	async bring(files: File[], replaces = ''): Promise<OwnMesh[]> {
		if (files.length === 0 || this.sent !== null) return [];
		this.sent = 0;
		this.refused = [];
		try {
			const found = await api.bringMeshes(this.project, await unpacked(files), replaces, (share) => (this.sent = share));
			this.refused = found.refused;
			for (const mesh of found.meshes) this.put(mesh);
			if (found.lost.length > 0) failed('Sections are gone', new Error(`The new file has no ${found.lost.join(', ')}. What they wore is kept in case they come back.`));
			return found.meshes;
		} catch (error) {
			failed('The mesh was not taken', error);
			return [];
		} finally {
			this.sent = null;
		}
	}

	async change(mesh: OwnMesh, change: { label?: string; options?: OwnMesh['options']; kept?: boolean }): Promise<void> {
		await this.done('The mesh was not changed', () => api.changeMesh(mesh.name, change));
	}

	async revert(mesh: OwnMesh, number: number): Promise<void> {
		await this.done('The version did not come back', () => api.revertMesh(mesh.name, number));
	}

	async takeOut(mesh: OwnMesh): Promise<void> {
		try {
			await api.changeMesh(mesh.name, { deleted: true });
			this.own = this.own.filter((one) => one.name !== mesh.name);
			offered(`${mesh.label} was taken out`, 'Take back', async () => this.put(await api.changeMesh(mesh.name, { deleted: false })));
		} catch (error) {
			failed('The mesh was not taken out', error);
		}
	}

	/** One was made of another by working on it. */
	took(mesh: OwnMesh): void {
		this.put(mesh);
	}

	private async done(what: string, change: () => Promise<OwnMesh>): Promise<void> {
		try {
			this.put(await change());
		} catch (error) {
			failed(what, error);
		}
	}

	private put(mesh: OwnMesh): void {
		const before = this.find(mesh.name);
		this.own = [...this.own.filter((one) => one.name !== mesh.name), mesh].sort((a, b) => a.label.localeCompare(b.label));
		if (before !== undefined && before.number !== mesh.number) this.onChanged(mesh.name);
	}
}

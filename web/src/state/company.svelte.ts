import { api, type Material } from '../api/client';
import type { Heard } from './editing.svelte';
import { heard } from './events';
import { insisted } from './retry';
import type { StageState } from './stage.svelte';

/** Somebody else who has the same material open. */
export type Other = { person: number; who: string; page: string; /** Where it is and what it looks at, metres; null if it is not to be seen. */ eye: number[] | null };
export const nameOf = (one: Other): string => (one.who === '' ? 'Another window' : one.who);
/** Of each person one, far apart: the golden angle. */
export const hueOf = (one: Other): number => ((one.person === 0 ? [...one.page].reduce((sum, letter) => sum + letter.charCodeAt(0), 0) : one.person) * 137.508) % 360;
export const initialsOf = (one: Other): string => (one.who === '' ? '·' : one.who.split(/\s+/).map((word) => word[0] ?? '').slice(0, 2).join('').toUpperCase());

/** From one telling of where this page looks to the next. */
const GLANCE = 400;
const HIDDEN = 'rilta-eye-hidden';

type Told = Heard & { target: number };

/** What an open document has to be able to do to hear others. */
export interface Listener {
	live: boolean;
	accompanied: boolean;
	version: number;
	hear(heard: Heard, fetch: () => Promise<Material>): Promise<void>;
}

/** Those who have a material open at the same time: who they are, and what they store, as it happens. */
export class Company {
	others = $state.raw<Other[]>([]);
	private end: () => void = () => {};
	/** Whether others see where this page looks. */
	shown = $state(localStorage.getItem(HIDDEN) === null);
	private eye: number[] | null = null;
	private glance = 0;
	private readonly page = Math.random().toString(36).slice(2, 14);

	constructor(
		private readonly project: string,
		private readonly material: number,
		private readonly listener: Listener,
		/** Something was said of the material. */
		private readonly said: () => void = () => {},
		/** The stage that it is looked at on. */
		private readonly stage: () => StageState | null = () => null
	) {}

	join(): void {
		const again = async (): Promise<void> => {
			const stored = await insisted(() => api.material(this.material));
			await this.listener.hear({ version: stored.version, key: stored.savedBy, by: '' }, () => Promise.resolve(stored));
			const stage = this.stage();
			if (stage !== null) await insisted(() => stage.catchUp());
		};
		this.end = heard(
			this.project,
			`?material=${this.material}&page=${this.page}`,
			() => {
				this.listener.live = true;
				this.staged();
				void again().catch(() => {});
			},
			() => {
				this.listener.live = false;
				this.listener.accompanied = false;
				this.others = [];
				this.staged();
			},
			{
				company: (data) => {
					this.others = (data as Other[]).filter((one) => one.page !== this.page);
					const alone = !this.listener.accompanied;
					this.listener.accompanied = this.others.length > 0;
					this.staged();
					if (alone) this.tell();
				},
				comments: (data) => {
					if ((data as Told).target === this.material) this.said();
				},
				stage: (data) => {
					const stage = this.stage();
					if ((data as Told).target === stage?.id) void insisted(() => stage.hear(data as Told)).catch(() => {});
				},
				material: (data) => {
					if ((data as Told).target === this.material) void this.listener.hear(data as Told, () => insisted(() => api.material(this.material))).catch(() => {});
				}
			}
		);
	}

	/** Tells the stage whether it is heard, and whether somebody looks on; to be called when it is another one. */
	staged(): void {
		const stage = this.stage();
		if (stage !== null) [stage.live, stage.accompanied] = [this.listener.live, this.listener.accompanied];
	}

	/** This page looks elsewhere. */
	looks({ position, target }: { position: number[]; target: number[] }): void {
		this.eye = [...position, ...target];
		this.tell();
	}

	/** Whether others are to see it. */
	show(shown: boolean): void {
		this.shown = shown;
		if (shown) localStorage.removeItem(HIDDEN);
		else localStorage.setItem(HIDDEN, '1');
		this.tell();
	}

	/** As often as it is worth it, and only where there is somebody to see it. */
	private tell(): void {
		if (this.glance !== 0 || this.eye === null || this.others.length === 0) return;
		this.glance = window.setTimeout(() => {
			this.glance = 0;
			void api.look(this.material, this.page, this.shown ? this.eye : null).catch(() => {});
		}, GLANCE);
	}

	leave(): void {
		clearTimeout(this.glance);
		this.end();
		this.listener.live = false;
		this.listener.accompanied = false;
	}
}

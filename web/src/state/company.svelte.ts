import { api, type Material } from '../api/client';
import type { Heard } from './editing.svelte';
import { insisted } from './retry';

/** Somebody else who has the same material open. */
export type Other = { person: number; who: string; page: string; /** Where it is and what it looks at, metres; null if it is not to be seen. */ eye: number[] | null };
export const nameOf = (one: Other): string => (one.who === '' ? 'Another window' : one.who);
/** Of each person one, far apart: the golden angle. */
export const hueOf = (one: Other): number => ((one.person === 0 ? [...one.page].reduce((sum, letter) => sum + letter.charCodeAt(0), 0) : one.person) * 137.508) % 360;
export const initialsOf = (one: Other): string => (one.who === '' ? '·' : one.who.split(/\s+/).map((word) => word[0] ?? '').slice(0, 2).join('').toUpperCase());

const AGAIN = 4000;
/** From one telling of where this page looks to the next. */
const GLANCE = 400;
const HIDDEN = 'rilta-eye-hidden';

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
	private source: EventSource | null = null;
	private later = 0;
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
		private readonly said: () => void = () => {}
	) {}

	join(): void {
		const source = new EventSource(`/api/projects/${encodeURIComponent(this.project)}/events?material=${this.material}&page=${this.page}`);
		this.source = source;
		source.addEventListener('open', () => {
			this.listener.live = true;
			// Something may have been stored while nobody was listening.
			void insisted(() => api.material(this.material)).then((stored) => this.listener.hear({ version: stored.version, key: stored.savedBy, by: '' }, () => Promise.resolve(stored))).catch(() => {});
		});
		source.addEventListener('error', () => {
			this.listener.live = false;
			this.listener.accompanied = false;
			this.others = [];
			// The browser tries again by itself, but for what was refused: then it is asked anew from the start.
			if (source.readyState !== EventSource.CLOSED || this.source !== source) return;
			this.later = window.setTimeout(() => this.join(), AGAIN);
		});
		source.addEventListener('company', (event) => {
			this.others = (JSON.parse((event as MessageEvent<string>).data) as Other[]).filter((one) => one.page !== this.page);
			const alone = !this.listener.accompanied;
			this.listener.accompanied = this.others.length > 0;
			if (alone) this.tell();
		});
		source.addEventListener('comments', (event) => {
			if ((JSON.parse((event as MessageEvent<string>).data) as { target: number }).target === this.material) this.said();
		});
		source.addEventListener('material', (event) => {
			const heard = JSON.parse((event as MessageEvent<string>).data) as Heard & { target: number };
			if (heard.target === this.material) void this.listener.hear(heard, () => insisted(() => api.material(this.material))).catch(() => {});
		});
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
		clearTimeout(this.later);
		clearTimeout(this.glance);
		this.source?.close();
		this.source = null;
		this.listener.live = false;
		this.listener.accompanied = false;
	}
}

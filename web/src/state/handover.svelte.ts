import { untrack } from 'svelte';
import { api, type MaterialCode, type MaterialDocument } from '../api/client';
import { passes, pause } from './retry';

/** A name that code can begin with, from what people call a material. */
export function prefixOf(name: string): string {
	const words = name.normalize('NFD').replace(/[\u0300-\u036f]/g, '').split(/[^A-Za-z0-9]+/).filter((word) => word !== '');
	const joined = words.map((word, i) => (i === 0 ? word.toLowerCase() : word[0]!.toUpperCase() + word.slice(1).toLowerCase())).join('').replace(/^[0-9]+/, '').slice(0, 24);
	const small = joined === '' ? '' : joined[0]!.toLowerCase() + joined.slice(1);
	return small === '' || small.startsWith('gl') ? 'material' : small;
}

/** What is handed over of the open material: how it is asked for, and what comes out. */
export class HandOver {
	/** What of it is looked at. */
	part = $state<'deliveries' | 'code' | 'points' | 'sidecar'>('deliveries');
	language = $state('glsl');
	/** What names begin with; as the material is called where nothing is said. */
	said = $state('');
	arrays = $state(true);
	harness = $state(false);
	made = $state.raw<MaterialCode | null>(null);
	trouble = $state('');
	busy = $state(false);

	constructor(private readonly slug: string) {}

	/** The code of a document, as it is asked for. */
	async ask(document: MaterialDocument, signal: AbortSignal, tries = 0): Promise<void> {
		const prefix = this.said.trim() === '' ? prefixOf(document.name) : this.said.trim();
		this.busy = true;
		try {
			const made = await api.code(this.slug, { document, target: this.language, prefix, arrays: this.arrays, harness: this.harness }, signal);
			if (signal.aborted) return;
			this.made = made;
			this.trouble = '';
		} catch (error) {
			if (signal.aborted) return;
			this.trouble = error instanceof Error ? error.message : String(error);
			// What passes is asked for again, until something else is wanted.
			if (passes(error)) {
				const later = window.setTimeout(() => void this.ask(document, signal, tries + 1), pause(tries));
				signal.addEventListener('abort', () => window.clearTimeout(later), { once: true });
			}
		} finally {
			if (!signal.aborted) this.busy = false;
		}
	}

	/** Asks whenever the document or the wishes change, once they rest. */
	follow(document: () => MaterialDocument): void {
		$effect(() => {
			const asked = document();
			void [this.language, this.said, this.arrays, this.harness];
			const left = new AbortController();
			const later = setTimeout(() => untrack(() => void this.ask(asked, left.signal)), CALM);
			return () => {
				clearTimeout(later);
				left.abort();
			};
		});
	}
}

const CALM = 300;

import { createStore, del, delMany, get, keys, set, type UseStore } from 'idb-keyval';
import { account } from './account.svelte';

/** A document that is not stored yet, as it was when this browser last knew. */
export type Draft<D> = {
	/** the version that it was made from */
	version: number;
	document: D;
	/** what the save is called that was last sent of it; "" if none was */
	key: string;
	at: number;
};

let store: UseStore | null = null;
const ours = (): UseStore => (store ??= createStore('rilta-drafts', 'drafts'));
/** Of whoever is signed in: nobody goes on with what somebody else has left. */
const own = (name: string): string => `${account.me?.person?.id ?? 0} ${name}`;

/**
 * What has been changed and not been acknowledged, in the browser's own store: it outlives the page, the browser and the server. A browser
 * that has no such store, or no room in it, works without.
 */
export const drafts = {
	async get<D>(name: string): Promise<Draft<D> | null> {
		try {
			const draft = await get<Draft<D>>(own(name), ours());
			if (draft !== undefined) return draft;
			// As browsers kept them that did not tell people apart.
			const older = await get<Draft<D>>(name, ours());
			if (older === undefined) return null;
			await set(own(name), older, ours());
			await del(name, ours());
			return older;
		} catch {
			return null;
		}
	},
	async put<D>(name: string, draft: Draft<D>): Promise<boolean> {
		if (account.leaving) return false;
		try {
			await set(own(name), draft, ours());
			return true;
		} catch {
			return false;
		}
	},
	async drop(name: string): Promise<void> {
		try {
			await del(own(name), ours());
		} catch {
			// It is dropped the next time.
		}
	},
	/** What there is of whoever is signed in. */
	async names(): Promise<string[]> {
		try {
			const prefix = own('');
			return (await keys<string>(ours())).filter((name) => name.startsWith(prefix)).map((name) => name.slice(prefix.length));
		} catch {
			return [];
		}
	},
	/** Throws all of it away. */
	async clear(): Promise<void> {
		const names = await drafts.names();
		if (names.length > 0) await delMany(names.map(own), ours());
	}
};

/** Saves are called by names that nobody else uses. */
export const saveKey = (): string => Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');

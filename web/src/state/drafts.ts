import { createStore, del, get, set, type UseStore } from 'idb-keyval';

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

/**
 * What has been changed and not been acknowledged, in the browser's own store: it outlives the page, the browser and the server. A browser
 * that has no such store, or no room in it, works without.
 */
export const drafts = {
	async get<D>(name: string): Promise<Draft<D> | null> {
		try {
			return (await get<Draft<D>>(name, ours())) ?? null;
		} catch {
			return null;
		}
	},
	async put<D>(name: string, draft: Draft<D>): Promise<boolean> {
		try {
			await set(name, draft, ours());
			return true;
		} catch {
			return false;
		}
	},
	async drop(name: string): Promise<void> {
		try {
			await del(name, ours());
		} catch {
			// It is dropped the next time.
		}
	}
};

/** Saves are called by names that nobody else uses. */
export const saveKey = (): string => Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');

import { createToaster } from '@skeletonlabs/skeleton-svelte';
import { ApiError, onReached } from '../api/client';

export const toaster = createToaster({ placement: 'bottom-end' });

/** Notices that the server was away or failed: they go when it answers again. */
const away = new Set<string>();
onReached(() => {
	for (const id of away) toaster.dismiss(id);
	away.clear();
});

/** @param asked whether somebody asked for it once, and nobody tries it again: that stays said though the server answers other things */
export function failed(what: string, error: unknown, asked = false): void {
	const detail = error instanceof Error ? error.message : String(error);
	const passing = !asked && error instanceof ApiError && (error.unreachable || error.status >= 500);
	const id = toaster.create({ type: 'error', title: what, description: detail, duration: passing ? 600_000 : 9000 });
	if (passing && id !== undefined) away.add(id);
}

/** @param duration milliseconds: longer where it comes while a page is still being put together */
export function done(title: string, description = '', duration = 5000): void {
	toaster.create({ type: 'success', title, description, duration });
}

/** Puts a text on the clipboard, and says so. Browsers refuse it in windows that nobody looks at. */
export async function copied(text: string, title: string, description = ''): Promise<void> {
	try {
		await navigator.clipboard.writeText(text);
		done(title, description);
	} catch (error) {
		failed('It was not copied', error);
	}
}

/** Something was done that can be taken back. */
export function offered(title: string, label: string, back: () => Promise<void>): void {
	toaster.create({ type: 'info', title, duration: 12000, action: { label, onClick: () => void back().catch((error: unknown) => failed(`${label}: not possible`, error)) } });
}

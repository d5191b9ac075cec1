import { createToaster } from '@skeletonlabs/skeleton-svelte';
import { ApiError } from '../api/client';

export const toaster = createToaster({ placement: 'bottom-end' });

export function failed(what: string, error: unknown): void {
	const detail = error instanceof ApiError ? error.message : error instanceof Error ? error.message : String(error);
	toaster.create({ type: 'error', title: what, description: detail, duration: 9000 });
}

export function done(title: string, description = ''): void {
	toaster.create({ type: 'success', title, description });
}

/** Something was done that can be taken back. */
export function offered(title: string, label: string, back: () => Promise<void>): void {
	toaster.create({ type: 'info', title, duration: 12000, action: { label, onClick: () => void back().catch((error: unknown) => failed(`${label}: not possible`, error)) } });
}

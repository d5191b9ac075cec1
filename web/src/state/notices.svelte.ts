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

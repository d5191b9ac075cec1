import { ApiError } from '../api/client';

/** Milliseconds between one try and the next: they grow, so that a server that comes back is not run over. */
const PAUSES = [1000, 2000, 4000, 8000, 15000, 30000];

export const pause = (tries: number): number => PAUSES[Math.min(tries, PAUSES.length - 1)]!;

/** Whether the same may succeed later, without anybody changing anything. */
export function passes(error: unknown): boolean {
	return error instanceof ApiError && (error.unreachable || error.status >= 500 || error.status === 409 || error.status === 429);
}

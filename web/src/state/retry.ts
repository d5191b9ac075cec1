import { ApiError } from '../api/client';

/** Milliseconds between one try and the next: they grow, so that a server that comes back is not run over. */
const PAUSES = [1000, 2000, 4000, 8000, 15000, 30000];

export const pause = (tries: number): number => PAUSES[Math.min(tries, PAUSES.length - 1)]!;

/**
 * Does something again, with growing pauses, as long as it may succeed later.
 *
 * @param most tries, before it is given up
 */
export async function insisted<T>(does: () => Promise<T>, most = Infinity): Promise<T> {
	for (let tries = 0; ; tries++) {
		try {
			return await does();
		} catch (error) {
			if (!passes(error) || tries + 1 >= most) throw error;
			await new Promise((resolve) => setTimeout(resolve, pause(tries)));
		}
	}
}

/** Whether the same may succeed later, without anybody changing anything of it; whoever was signed out signs in again. */
export function passes(error: unknown): boolean {
	return error instanceof ApiError && (error.unreachable || error.status >= 500 || error.status === 409 || error.status === 401 || error.status === 429);
}

import { api, type Bake } from '../api/client';
import { failed } from './notices.svelte';

const PAUSE = 250;
const AFTER_FAILURE = 3000;
const wait = (time: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, time));

/** Tells how far a bake has come until it has ended, or nobody wants to know any more. */
export async function followed(bake: Bake, told: (bake: Bake) => void, wanted: () => boolean): Promise<Bake> {
	let now = bake;
	told(now);
	while (now.state === 'waiting' && wanted()) {
		await wait(PAUSE);
		if (!wanted()) break;
		try {
			now = await api.bake(now.id);
			told(now);
		} catch (error) {
			failed('It goes on, but how far it is is unknown', error);
			await wait(AFTER_FAILURE);
		}
	}
	return now;
}

import { api, type Delivery, type DeliveredFile, type DeliveryProfile, type OfferedProfile } from '../api/client';
import { done, failed } from './notices.svelte';
import { passes, pause } from './retry';

const CHOSEN = 'rilta-delivery-profile';
const PAUSE = 500;

/** What of a project is wanted of deliveries, and what was delivered of the open material. */
export class Deliveries {
	profiles = $state.raw<OfferedProfile[]>([]);
	/** By name; kept for the person. */
	private wish = $state(localStorage.getItem(CHOSEN) ?? 'web');
	list = $state.raw<Delivery[] | null>(null);
	trouble = $state('');
	/** The delivery that is looked at, by number, and its file, by path. */
	private looked = $state<number | null>(null);
	file = $state<string | null>(null);
	private later = 0;

	constructor(
		readonly slug: string,
		readonly material: number
	) {}

	/** What it is kept under is not there any more: the first one. */
	readonly profile = $derived<OfferedProfile | null>(this.profiles.find((one) => one.profile.name === this.wish) ?? this.profiles[0] ?? null);
	readonly chosen = $derived<Delivery | null>(this.list?.find((one) => one.id === this.looked) ?? this.list?.[0] ?? null);
	readonly shown = $derived<DeliveredFile | null>(this.chosen?.files.find((one) => one.path === this.file) ?? this.chosen?.files.find((one) => one.picture !== undefined) ?? null);

	choose(name: string): void {
		this.wish = name;
		localStorage.setItem(CHOSEN, name);
	}
	look(delivery: Delivery, file: string | null = this.file): void {
		[this.looked, this.file] = [delivery.id, file];
	}

	/** Asks for all of it, and again as long as something is under way; returns what ends that. */
	follow(): () => void {
		let wanted = true;
		const ask = async (tries = 0): Promise<void> => {
			let next: number | null = null;
			try {
				if (this.profiles.length === 0) this.profiles = await api.profiles(this.slug);
				const found = await api.deliveries(this.slug, this.material);
				if (!wanted) return;
				[this.list, this.trouble] = [found, ''];
				if (found.some((one) => one.state === 'waiting')) next = PAUSE;
			} catch (error) {
				this.trouble = error instanceof Error ? error.message : String(error);
				if (passes(error)) next = pause(tries);
			}
			if (wanted && next !== null) this.later = window.setTimeout(() => void ask(this.trouble === '' ? 0 : tries + 1), next);
		};
		this.again = () => {
			clearTimeout(this.later);
			void ask();
		};
		this.again();
		return () => {
			wanted = false;
			clearTimeout(this.later);
		};
	}
	private again: () => void = () => {};

	async ask(materials: number[], variants: string[] | null): Promise<void> {
		const profile = this.profile?.profile.name;
		if (profile === undefined) return;
		const asked = await this.tried('It cannot be delivered', () => api.deliver(this.slug, materials, variants, profile));
		const mine = asked?.find((one) => one.material === this.material);
		if (mine !== undefined) this.look(mine, null);
		if (asked !== null && mine === undefined) done(`${asked.length === 1 ? 'One delivery is' : `${asked.length} deliveries are`} being made`, 'They are listed with their materials');
	}
	async cancel(one: Delivery): Promise<void> {
		await this.tried(`${one.name} was not cancelled`, () => api.cancelDelivery(one.id));
	}
	async retry(one: Delivery): Promise<void> {
		await this.tried(`${one.name} was not begun again`, () => api.deliverAgain(one.id));
	}
	async remove(one: Delivery): Promise<void> {
		await this.tried(`${one.name} was not thrown away`, () => api.deleteDelivery(one.id));
	}
	/** @throws if it is no profile, with what is wrong in it */
	async keep(profile: DeliveryProfile): Promise<void> {
		this.profiles = await api.putProfile(this.slug, profile);
		this.choose(profile.name);
	}
	async drop(name: string): Promise<void> {
		const left = await this.tried('The profile was not deleted', () => api.deleteProfile(this.slug, name));
		if (left !== null) this.profiles = left;
	}

	/** What was done shows in the list. */
	private async tried<T>(what: string, does: () => Promise<T>): Promise<T | null> {
		try {
			const found = await does();
			this.again();
			return found;
		} catch (error) {
			failed(what, error, true);
			return null;
		}
	}
}

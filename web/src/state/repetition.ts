import type { Repetition } from '../api/client';
import { format } from './numbers';

/** Metres from which a surface is looked at. */
export const NEAREST = 0.5;
export const FARTHEST = 500;
/** Those that are written under the strip. */
export const TICKS = [0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500];

type Place = Repetition['places'][number];

/** Where a distance lies between near and far, 0…1. */
export const placeOf = (metres: number): number => Math.min(1, Math.max(0, Math.log(metres / NEAREST) / Math.log(FARTHEST / NEAREST)));

/** The distance at a place between near and far, metres. */
export const distanceAt = (place: number): number => NEAREST * (FARTHEST / NEAREST) ** Math.min(1, Math.max(0, place));

/** Metres as one says them. */
export function metres(value: number): string {
	if (value < 0.00995) return `${format(Math.round(value * 10000) / 10)} mm`;
	if (value < 0.995) return `${format(Math.round(value * 100))} cm`;
	return `${format(value < 9.95 ? Math.round(value * 100) / 100 : Math.round(value))} m`;
}

/** Which way a repeat lies, in words. */
export function wayOf(direction: number): string {
	const turn = Math.abs(direction);
	if (turn < 2) return 'to the right';
	if (turn > 88) return 'upwards';
	return `${Math.round(turn)}° ${direction > 0 ? 'upwards' : 'downwards'}`;
}

/** What a curve says, in one sentence. */
export function summary({ noticed, worst }: Pick<Repetition, 'noticed' | 'worst'>): string {
	if (noticed === null) return 'Nothing is seen to come again.';
	const range = noticed.from <= NEAREST && noticed.to >= FARTHEST ? 'from everywhere' : noticed.to >= FARTHEST ? `from ${metres(noticed.from)} on` : noticed.from <= NEAREST ? `up to ${metres(noticed.to)}` : `from ${metres(noticed.from)} to ${metres(noticed.to)}`;
	return `Noticed ${range}: it comes again every ${metres(worst.length)} ${wayOf(worst.direction)}.`;
}

/** What is known nearest to a distance. */
export const nearest = (places: readonly Place[], distance: number): Place | undefined =>
	places.reduce<Place | undefined>((best, one) => (best === undefined || Math.abs(Math.log(one.distance / distance)) < Math.abs(Math.log(best.distance / distance)) ? one : best), undefined);

/** The curve in a picture of some size, as a path; closed along its foot, if it is to be filled. */
export function curvePath(places: readonly Place[], width: number, height: number, closed: boolean): string {
	const points = places.map((one) => `${(placeOf(one.distance) * width).toFixed(1)} ${((1 - one.score) * height).toFixed(1)}`);
	return points.length === 0 ? '' : closed ? `M0 ${height} L${points.join(' L')} L${width} ${height} Z` : `M${points.join(' L')}`;
}

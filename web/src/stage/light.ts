import type { Catalogue, StageDocument } from '../api/client';

export type StageLight = NonNullable<StageDocument['light']>;
type Light = Catalogue['light'];

/** What pictures are lit by, as the core prints it. It comes with the catalogue. */
export const light: Light = { code: '', fixed: '', prefix: '', exposure: '', partsUniform: '', parts: [], skies: [] };

/** One value of a light: what it says, or what belongs to its sky. */
export function lightValue(one: StageLight | undefined, name: keyof StageLight): unknown {
	return one?.[name] ?? skyOf(one)?.controls.find((control) => control.name === name)?.default;
}

export const skyOf = (one: StageLight | undefined): Light['skies'][number] | undefined => light.skies.find((sky) => sky.value === one?.sky) ?? light.skies[0];

/** Degrees above the horizon that a sun is dragged to at least. */
export const lowestSun = (): number => {
	const control = light.skies[0]?.controls.find((one) => one.name === 'height');
	return control?.type === 'number' ? (control.soft[0] ?? 0) : 0;
};

/** What of the light is shown by itself, if a view is of that kind. */
export const lightPart = (view: string): Light['parts'][number] | undefined => light.parts.find((one) => one.value === view);

/** Handles on the stage: values of a step that people drag there instead of in fields. */
import type { Control, MaterialDocument, StepUse, Triple, Value } from '../api/client';
import { numberOf } from './parameters';

/** A frame that a step projects along, in the world or in the rigid frame of an object; metres and degrees. */
export type Frame = { space: string; place: Triple; turn: Triple };
type Handle = NonNullable<Extract<Control, { type: 'number' }>['handle']>;

const AXES = ['X', 'Y', 'Z'] as const;

/** The value's path of each part of a handle that the shown controls have, by the part's name. */
export function handlePaths(step: string, controls: Control[]): Partial<Record<Handle, string>> {
	return Object.fromEntries(controls.flatMap((one) => (one.type === 'number' && one.handle !== undefined ? [[one.handle, `${step}/values/${one.name}`]] : [])));
}

/** The frame of a step as it stands; null for steps without. */
export function frameOf(document: MaterialDocument, use: StepUse, controls: Control[]): Frame | null {
	const number = (handle: string): number | null => {
		const control = controls.find((one) => one.type === 'number' && one.handle === handle);
		return control?.type === 'number' ? numberOf(document, use.values[control.name], control) : null;
	};
	const triple = (part: string): Triple | null => {
		const [x, y, z] = AXES.map((axis) => number(part + axis));
		return x == null || y == null || z == null ? null : [x, y, z];
	};
	const [place, turn] = [triple('place'), triple('turn')];
	const space = controls.find((one) => one.type === 'choice' && one.handle === 'space');
	if (place === null || turn === null || space?.type !== 'choice') return null;
	return { space: String(use.values[space.name] ?? space.default), place, turn };
}

/** What dragging a frame sets, path by path. Values that follow a parameter stay with it. */
export function framed(paths: Partial<Record<Handle, string>>, frame: Pick<Frame, 'place' | 'turn'>, value: (path: string) => unknown): [string, Value][] {
	return (['place', 'turn'] as const).flatMap((part) =>
		AXES.flatMap((axis, i): [string, Value][] => {
			const path = paths[`${part}${axis}`];
			return path !== undefined && typeof (value(path) ?? 0) === 'number' ? [[path, frame[part][i]!]] : [];
		})
	);
}

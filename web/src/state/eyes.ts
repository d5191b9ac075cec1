import type { StageDocument } from '../api/client';

type Eye = NonNullable<StageDocument['camera']>;

const BEGINS = 'rilta-eye ';
const name = (project: string, material: number, stage: number): string => `${BEGINS}${project} ${material} ${stage}`;

/** Where somebody's eye was when they last looked at a material on a stage: theirs alone, kept in their browser. */
export const eyes = {
	get(project: string, material: number, stage: number): Eye | null {
		try {
			const kept = JSON.parse(localStorage.getItem(name(project, material, stage)) ?? 'null') as Eye | null;
			return kept !== null && [kept.position, kept.target].every((one) => Array.isArray(one) && one.length === 3 && one.every(Number.isFinite)) ? kept : null;
		} catch {
			return null;
		}
	},
	put(project: string, material: number, stage: number, eye: Eye): void {
		try {
			localStorage.setItem(name(project, material, stage), JSON.stringify(eye));
		} catch {
			// Without a place for it the eye begins where the stage says.
		}
	},
	/** Nothing of what somebody looked at stays behind them. */
	forget(): void {
		for (const key of Object.keys(localStorage)) if (key.startsWith(BEGINS)) localStorage.removeItem(key);
	}
};

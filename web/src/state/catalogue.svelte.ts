import { api, type Catalogue, type Control, type Parameter, type StepKind, type StepUse } from '../api/client';
import { light } from '../stage/light';
import { FINISH, GROUP, isTie, LAYER, masked, SIDES, SURFACE } from './parameters';

/** The core's declarations: fetched once, never repeated here. */
class CatalogueState {
	value = $state.raw<Catalogue | null>(null);
	private loading: Promise<Catalogue> | null = null;

	async load(): Promise<Catalogue> {
		this.loading ??= api.catalogue();
		try {
			this.value = await this.loading;
			Object.assign(light, this.value.light);
		} catch (error) {
			this.loading = null;
			throw error;
		}
		return this.value;
	}

	step(name: string): StepKind | undefined {
		return this.value?.steps.find((step) => step.name === name);
	}

	control(step: string, name: string): Control | undefined {
		const controls: Control[] | null | undefined =
			step === FINISH
				? this.value?.layer.finish.flatMap((group) => group.controls)
				: step === LAYER
				? this.value && [this.value.layer.opacity, this.value.layer.width, this.value.layer.set]
				: step === SIDES
				? this.value?.layer.sides
				: step === GROUP
				? this.value && [this.value.layer.group]
				: step === SURFACE
				? this.value?.surface
				: (this.step(step) ?? this.value?.layer.masks.find((kind) => masked(kind.name) === step))?.controls;
		const [rows, column] = name.split('/');
		const control = controls?.find((one) => one.name === rows);
		return column === undefined ? control : control?.type === 'rows' ? control.columns.find((one) => one.name === column) : undefined;
	}

	/** The kind of parameter that a control's value can follow; null if it follows none. */
	kindOf(control: Control): Parameter['kind'] | null {
		return (this.value?.parameterKinds.find((kind) => kind.followers.includes(control.type))?.value ?? null) as Parameter['kind'] | null;
	}

	/** The controls that mean something with the other values as they are. */
	shown(use: StepUse): Control[] {
		return meaningful(this.step(use.step)?.controls ?? [], use.values);
	}
}

/** Those of some controls that mean something with the other values as they are; what follows a parameter may come to be anything. */
export function meaningful(controls: Control[], values: Record<string, unknown>): Control[] {
	const value = (name: string): unknown => values[name] ?? controls.find((one) => one.name === name)?.default;
	return controls.filter((control) => Object.entries(control.shownWhen ?? {}).every(([name, wanted]) => isTie(value(name)) || (wanted as unknown[]).includes(value(name))));
}

export const catalogue = new CatalogueState();

<script lang="ts">
	import { Trash2 } from '@lucide/svelte';
	import type { NumberControl, Parameter, ParameterValue as Plain, SetCard } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { controlOf, isNumber, untieAll, uses, type NumberParameter } from '../state/parameters';
	import type { Session } from '../state/session.svelte';
	import { forgetParameter } from '../state/variants';
	import NumberField from './NumberField.svelte';
	import ParameterValue from './ParameterValue.svelte';

	/** Name, kind, and what else there is to say of one parameter. */
	let { session, parameter, sets, gone }: { session: Session; parameter: Parameter; sets: SetCard[]; gone: () => void } = $props();

	const at = $derived((session.document.parameters ?? []).findIndex((one) => one.id === parameter.id));
	const groups = $derived([...new Set((session.document.parameters ?? []).map((one) => one.group ?? '').filter((group) => group !== ''))]);
	/** The range keeps its order, and the value inside. */
	function control(parameter: NumberParameter, declared: NumberControl): NumberControl {
		if (declared.name === 'value') return controlOf(parameter, declared);
		if (declared.name === 'min') return { ...declared, unit: parameter.unit, hard: [declared.hard[0]!, Math.min(parameter.value, parameter.max - parameter.step / 100)] };
		if (declared.name === 'max') return { ...declared, unit: parameter.unit, hard: [Math.max(parameter.value, parameter.min + parameter.step / 100), declared.hard[1]!] };
		return declared;
	}
	/** Another kind of parameter; only while nothing follows it. */
	function become(kind: string): void {
		const control = catalogue.value?.parameterKinds.find((one) => one.value === kind)?.control;
		if (control === undefined) return;
		session.edit((document) => {
			const { id, name, group, help, live } = document.parameters![at]!;
			const numbers = kind === 'number' ? Object.fromEntries((catalogue.value?.parameter ?? []).map((one) => [one.name, one.default])) : {};
			document.parameters![at] = { id, name, kind: kind as Parameter['kind'], ...(kind === 'number' ? { unit: '' } : {}), value: $state.snapshot(control.default) as Plain, ...numbers, ...(group === undefined ? {} : { group }), ...(help === undefined ? {} : { help }), ...(live === undefined ? {} : { live }) };
			forgetParameter(document, id);
		});
	}
	function remove(): void {
		session.edit((document) => {
			untieAll(document, parameter.id, (step, name) => catalogue.control(step, name));
			forgetParameter(document, parameter.id);
			document.parameters = (document.parameters ?? []).filter((one) => one.id !== parameter.id);
		});
		gone();
	}
</script>

<h2 class="heading">Parameter</h2>
<label>Name
	<input class="field" maxlength="120" value={parameter.name} onchange={(e) => { if (e.currentTarget.value.trim() !== '') session.set(`/parameters/${at}/name`, e.currentTarget.value.trim()); else e.currentTarget.value = parameter.name; }} />
</label>
<label>Kind
	<select class="field" value={parameter.kind} disabled={uses(session.document, parameter.id) > 0} title={uses(session.document, parameter.id) > 0 ? 'What follows it is of this kind' : ''} onchange={(e) => become(e.currentTarget.value)}>
		{#each catalogue.value?.parameterKinds ?? [] as kind (kind.value)}<option value={kind.value}>{kind.label}</option>{/each}
	</select>
</label>
{#if isNumber(parameter)}
	<label>Unit
		<select class="field" value={parameter.unit} onchange={(e) => session.set(`/parameters/${at}/unit`, e.currentTarget.value)}>
			{#each catalogue.value?.units ?? [] as unit (unit)}<option value={unit}>{unit === '' ? 'none' : unit}</option>{/each}
		</select>
	</label>
	{#each catalogue.value?.parameter ?? [] as declared (declared.name)}
		<NumberField control={control(parameter, declared)} value={Number(parameter[declared.name as 'value'])} set={(v) => session.set(`/parameters/${at}/${declared.name}`, v)} hold={() => session.hold()} release={() => session.release()} />
	{/each}
{:else}
	<div class="plain"><span>Value</span> <ParameterValue {session} {parameter} {sets} value={parameter.value} set={(v) => session.set(`/parameters/${at}/value`, v)} label="Value of {parameter.name}" /></div>
{/if}
<label>Group
	<input class="field" maxlength="120" list="parameter-groups" placeholder="none" value={parameter.group ?? ''} onchange={(e) => session.set(`/parameters/${at}/group`, e.currentTarget.value.trim())} />
</label>
<datalist id="parameter-groups">{#each groups as group (group)}<option value={group}></option>{/each}</datalist>
<label class="about">Help
	<textarea class="field" rows="2" maxlength="400" value={parameter.help ?? ''} onchange={(e) => session.set(`/parameters/${at}/help`, e.currentTarget.value.trim())}></textarea>
</label>
<label class="live"><input type="checkbox" checked={parameter.live !== false} onchange={(e) => session.set(`/parameters/${at}/live`, e.currentTarget.checked)} /> A game may change it while it runs</label>
<button class="tool" onclick={remove} title="Values that follow it stay what they are"><Trash2 size={14} /> Delete{uses(session.document, parameter.id) > 0 ? ` and untie ${uses(session.document, parameter.id)}` : ''}</button>

<style>
	label,
	.plain {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	label .field {
		width: 150px;
	}
	label.about {
		align-items: start;
	}
	textarea.field {
		height: auto;
		padding: 4px 8px;
		resize: vertical;
	}
	label.live {
		justify-content: start;
	}
	.live input {
		accent-color: var(--accent);
	}
	button {
		justify-self: start;
	}
</style>

<script lang="ts">
	import type { NumberControl, StageObject, Triple } from '../api/client';
	import NumberField from './NumberField.svelte';

	let { object, place }: {
		object: StageObject;
		place: (change: Partial<Record<'position' | 'turn' | 'scale', Triple>>) => void;
	} = $props();

	type Row = { name: 'position' | 'turn' | 'scale'; label: string; unit: string; soft: [number, number]; hard: [number, number]; step: number; default: number };
	const rows: Row[] = [
		{ name: 'position', label: 'Position', unit: 'm', soft: [-10, 10], hard: [-1000, 1000], step: 0.1, default: 0 },
		{ name: 'turn', label: 'Turn', unit: '°', soft: [-180, 180], hard: [-3600, 3600], step: 5, default: 0 },
		{ name: 'scale', label: 'Scale', unit: '', soft: [0, 4], hard: [0.02, 200], step: 0.1, default: 1 }
	];
	const control = (row: Row, axis: number): NumberControl => ({
		...row, type: 'number', name: row.name, label: `${row.label} ${'XYZ'[axis]}`, help: '', ratio: false, structural: false
	});
	function set(row: Row, axis: number, value: number): void {
		const triple = [...object[row.name]] as Triple;
		triple[axis] = value;
		place({ [row.name]: triple });
	}
</script>

{#each rows as row (row.name)}
	<fieldset>
		<legend>{row.label}</legend>
		<div>
			{#each [0, 1, 2] as axis (axis)}
				<span class="axis">{'XYZ'[axis]}</span>
				<NumberField compact control={control(row, axis)} value={object[row.name][axis] ?? 0} set={(v) => set(row, axis, v)} hold={() => {}} release={() => {}} />
			{/each}
		</div>
	</fieldset>
{/each}

<style>
	div {
		display: grid;
		grid-template-columns: 12px 1fr;
		align-items: center;
		gap: 4px;
		margin-top: 4px;
	}
	.axis {
		color: var(--dim);
	}
</style>

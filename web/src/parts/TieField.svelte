<script lang="ts">
	import type { NumberControl, Tie, Value } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { backwards, isNumber, isTie, numberOf, parameterOf } from '../state/parameters';
	import type { Session } from '../state/session.svelte';
	import FollowButton from './FollowButton.svelte';
	import NumberField from './NumberField.svelte';

	/** A number of the document that may follow a parameter. */
	let { session, control, path, compact = false, compare = false }: {
		session: Session;
		control: NumberControl;
		path: string;
		compact?: boolean;
		/** What it was is to be seen beside what it becomes while it is dragged. */
		compare?: boolean;
	} = $props();

	const value = $derived(session.value(path) as Value | undefined);
	const tie = $derived(isTie(value) ? (value as Tie) : null);
	const parameter = $derived(tie === null ? undefined : parameterOf(session.dressed, tie));
	const number = $derived(numberOf(session.dressed, value, control));
	const parts = $derived(catalogue.value === null ? [] : (['factor', 'offset'] as const).map((name) => ({ name, control: catalogue.value!.tie[name] })));

	/** A tied number that is dragged takes its parameter along. */
	function set(next: number): void {
		if (tie === null || !isNumber(parameter)) {
			session.set(path, next);
			return;
		}
		const back = backwards(tie, next);
		if (back !== null) session.drive(parameter.id, Number(Math.min(parameter.max, Math.max(parameter.min, back)).toPrecision(6)));
	}
</script>

<div class="tied-row">
	<NumberField {control} {compact} value={number} {set} hold={() => session.hold(compare)} release={() => session.release()} />
	{#if !compact}<FollowButton {session} {control} {path} plain={number} />{/if}
</div>
{#if tie !== null && !compact}
	<div class="terms">
		<span class="of">{parameter?.name ?? tie.parameter} ×</span>
		{#each parts as part, i (part.name)}
			{#if i > 0}<span>+</span>{/if}
			<NumberField compact control={{ ...part.control, label: `${part.control.label} of ${control.label}` }} value={tie[part.name]} set={(v) => session.set(`${path}/${part.name}`, v)} hold={() => session.hold()} release={() => session.release()} />
		{/each}
	</div>
{/if}

<style>
	.tied-row {
		display: flex;
		gap: 4px;
		align-items: center;
	}
	.terms {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 64px 8px 64px;
		gap: 4px;
		align-items: center;
		padding-left: 8px;
		font-size: 12px;
		color: var(--dim);
	}
	.of {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		color: var(--accent);
	}
</style>

<script lang="ts">
	import { Link2, Link2Off } from '@lucide/svelte';
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { NumberControl, Tie, Value } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { backwards, freshId, isTie, numberOf, parameterOf } from '../state/parameters';
	import { setAt } from '../state/pointer';
	import type { Session } from '../state/session.svelte';
	import NumberField from './NumberField.svelte';

	/** A number of the document that can be tied to a parameter. */
	let { session, control, path, compact = false }: { session: Session; control: NumberControl; path: string; compact?: boolean } = $props();

	let open = $state(false);
	const value = $derived(session.value(path) as Value | undefined);
	const tie = $derived(isTie(value) ? (value as Tie) : null);
	const parameter = $derived(tie === null ? undefined : parameterOf(session.dressed, tie));
	const number = $derived(numberOf(session.dressed, value, control));
	const parameters = $derived(session.document.parameters ?? []);
	const parts = $derived(catalogue.value === null ? [] : (['factor', 'offset'] as const).map((name) => ({ name, control: catalogue.value!.tie[name] })));

	/** A tied number that is dragged takes its parameter along. */
	function set(next: number): void {
		if (tie === null || parameter === undefined) {
			session.set(path, next);
			return;
		}
		const back = backwards(tie, next);
		if (back !== null) session.drive(parameter.id, Number(Math.min(parameter.max, Math.max(parameter.min, back)).toPrecision(6)));
	}

	function follow(id: string): void {
		open = false;
		session.set(path, { parameter: id, factor: 1, offset: 0 });
	}

	/** A parameter of the same range, with the value that stands here. */
	function makeOne(): void {
		open = false;
		const id = freshId(control.label, parameters.map((one) => one.id));
		const [min, max] = control.soft as [number, number];
		session.edit((document) => {
			(document.parameters ??= []).push({ id, name: control.label, unit: control.unit, min: Math.min(min, number), max: Math.max(max, number), step: control.step, value: number });
			setAt(document, path, { parameter: id, factor: 1, offset: 0 });
		});
	}
</script>

<div class="row" class:tied={tie !== null}>
	<NumberField {control} {compact} value={number} {set} hold={() => session.hold()} release={() => session.release()} />
	{#if !compact}
		{#if tie !== null}
			<button class="tool link" title="Untie from {parameter?.name ?? tie.parameter}" aria-label="Untie {control.label} from {parameter?.name ?? tie.parameter}" onclick={() => session.set(path, number)}><Link2Off size={14} /></button>
		{:else}
			<Popover {open} onOpenChange={(d) => (open = d.open)} positioning={{ placement: 'left' }}>
				<Popover.Trigger class="tool link" title="Let it follow a parameter" aria-label="Tie {control.label} to a parameter"><Link2 size={14} /></Popover.Trigger>
				<Portal>
					<Popover.Positioner class="picker-place">
						<Popover.Content class="ties">
							<Popover.Title class="heading">Follow a parameter</Popover.Title>
							{#each parameters as one (one.id)}
								<button class="choice" onclick={() => follow(one.id)}>{one.name}</button>
							{/each}
							<button class="choice" disabled={parameters.length >= (catalogue.value?.limits.parameters ?? 0)} onclick={makeOne}>New parameter “{control.label}”</button>
						</Popover.Content>
					</Popover.Positioner>
				</Portal>
			</Popover>
		{/if}
	{/if}
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
	.row {
		display: flex;
		gap: 4px;
		align-items: center;
	}
	.row :global(.link) {
		height: 28px;
		width: 24px;
		padding: 0;
		flex: none;
		justify-content: center;
		color: var(--dim);
		opacity: 0.55;
	}
	.row:hover :global(.link),
	.row:focus-within :global(.link),
	.tied :global(.link) {
		opacity: 1;
	}
	.tied :global(.link) {
		color: var(--accent);
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
	:global(.ties) {
		display: grid;
		gap: 4px;
		width: 220px;
		max-height: 320px;
		overflow: auto;
		padding: 8px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		box-shadow: 0 8px 32px rgb(0 0 0 / 0.4);
	}
	:global(.ties .choice) {
		min-height: 28px;
		padding: 0 8px;
		border: 1px solid var(--line);
		border-radius: 3px;
		background: var(--raised);
		color: inherit;
		text-align: left;
		cursor: pointer;
	}
	:global(.ties .choice:hover) {
		border-color: var(--accent);
	}
</style>

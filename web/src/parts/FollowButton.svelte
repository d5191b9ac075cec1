<script lang="ts">
	import { Link2, Link2Off } from '@lucide/svelte';
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Control, MaterialDocument, Parameter, ParameterValue, Row, Value } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { freshId, isTie, parameterOf } from '../state/parameters';
	import { setAt, valueAt } from '../state/pointer';
	import type { Session } from '../state/session.svelte';

	/** Lets a value follow a parameter of its kind, or ends that. */
	let { session, control, path, plain, rows = null }: { session: Session; control: Control; path: string; /** What it comes to now. */ plain: Value; /** Those that it stands in, if it stands in some. */ rows?: Row[] | null } = $props();

	/** How many seeds a slider goes through. */
	const SEEDS = 100;

	let open = $state(false);
	/** The button gave way to another, which the keyboard goes on from. */
	let changed = false;
	function heir(button: HTMLElement): void {
		if (changed) button.focus();
		changed = false;
	}
	const kind = $derived(catalogue.kindOf(control));
	const value = $derived(session.value(path));
	const tied = $derived(isTie(value) ? value : null);
	const parameter = $derived(tied === null ? undefined : parameterOf(session.document, tied));
	const parameters = $derived((session.document.parameters ?? []).filter((one) => one.kind === kind));

	function tie(id: string): Value {
		return control.type === 'number' ? { parameter: id, factor: 1, offset: 0 } : { parameter: id };
	}
	function follow(id: string): void {
		open = false;
		changed = true;
		place((document) => setAt(document, path, tie(id)));
	}
	/** Rows that the document does not say yet come to stand in it. */
	function place(change: (document: MaterialDocument) => void): void {
		session.edit((document) => {
			const list = path.replace(/\/\d+\/[^/]+$/, '');
			if (rows !== null && valueAt(document, list) === undefined) setAt(document, list, structuredClone($state.snapshot(rows)));
			change(document);
		});
	}
	/** A parameter with the value that stands here; of a number, with its range. */
	function makeOne(): void {
		open = false;
		changed = true;
		if (kind === null) return;
		const all = session.document.parameters ?? [];
		const id = freshId(control.label, all.map((one) => one.id));
		const made: Parameter = { id, name: control.label, kind, value: (Array.isArray(plain) ? [...plain] : plain) as ParameterValue };
		if (control.type === 'number') {
			const [min, max] = control.soft as [number, number];
			Object.assign(made, { unit: control.unit, min: Math.min(min, Number(plain)), max: Math.max(max, Number(plain)), step: control.step });
		} else if (control.type === 'seed') {
			Object.assign(made, { unit: '', min: 0, max: SEEDS, step: 1, value: Math.min(SEEDS, Number(plain)) });
		}
		place((document) => {
			document.parameters ??= [];
			document.parameters.push(made);
			setAt(document, path, tie(id));
		});
	}
</script>

{#if tied !== null}
	<button class="tool follow tied" title="Untie from {parameter?.name ?? tied.parameter}" aria-label="Untie {control.label} from {parameter?.name ?? tied.parameter}" {@attach heir} onclick={() => { changed = true; session.set(path, Array.isArray(plain) ? [...plain] : plain); }}><Link2Off size={14} /></button>
{:else if kind !== null}
	<Popover {open} onOpenChange={(d) => (open = d.open)} positioning={{ placement: 'left' }}>
		<Popover.Trigger class="tool follow" title="Let it follow a parameter" aria-label="Tie {control.label} to a parameter" {@attach heir}><Link2 size={14} /></Popover.Trigger>
		<Portal>
			<Popover.Positioner class="picker-place">
				<Popover.Content class="ties">
					<Popover.Title class="heading">Follow a parameter</Popover.Title>
					{#each parameters as one (one.id)}
						<button class="choice" onclick={() => follow(one.id)}>{one.name}</button>
					{/each}
					<button class="choice" disabled={(session.document.parameters ?? []).length >= (catalogue.value?.limits.parameters ?? 0)} onclick={makeOne}>New parameter “{control.label}”</button>
				</Popover.Content>
			</Popover.Positioner>
		</Portal>
	</Popover>
{/if}

<style>
	:global(.follow) {
		height: 28px;
		width: 24px;
		padding: 0;
		flex: none;
		justify-content: center;
		color: var(--dim);
		opacity: 0.55;
	}
	:global(.tied-row:hover .follow),
	:global(.tied-row:focus-within .follow),
	.tied {
		opacity: 1;
	}
	.tied {
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

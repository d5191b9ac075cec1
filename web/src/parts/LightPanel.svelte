<script lang="ts">
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import { Sun } from '@lucide/svelte';
	import type { Control, NumberControl } from '../api/client';
	import { light, lightValue, lowestSun, skyOf, type StageLight } from '../stage/light';
	import { commands } from '../state/commands.svelte';
	import type { StageState } from '../state/stage.svelte';
	import ColourField from './ColourField.svelte';
	import NumberField from './NumberField.svelte';
	import Segments from './Segments.svelte';
	import SunDome from './SunDome.svelte';

	/** The light of the stage: which sky, where the sun stands, how bright. */
	let { stage, follows = $bindable(), toward }: {
		stage: StageState;
		/** Whether the sun follows the pointer. */
		follows: boolean;
		/** The way the eye looks, degrees to the right of -z. */
		toward: number;
	} = $props();

	const now = $derived(stage.document.light);
	const controls = $derived((skyOf(now)?.controls ?? []).filter((control) => control.name !== 'sky'));
	const is = <T extends Control['type']>(control: Control, type: T): control is Extract<Control, { type: T }> => control.type === type;
	const set = (name: string, value: unknown): void => stage.relight({ [name]: value } as StageLight);
	/** Degrees at which relief is seen best. */
	const GRAZING = 8;
	let open = $state(false);
	$effect(() => commands.offer('light', () => [{ group: 'Stage', label: 'Sun and sky', run: () => (open = true) }]));
</script>

<Popover {open} onOpenChange={(details) => (open = details.open)} positioning={{ placement: 'bottom-start' }}>
	<Popover.Trigger class="tool plain light" title="Sky, sun and exposure">
		<Sun size={14} /> Light
	</Popover.Trigger>
	<Portal>
		<Popover.Positioner class="picker-place">
			<Popover.Content class="floating light-panel" aria-label="Light">
				<Segments label="Sky" quiet columns={2} options={light.skies} value={skyOf(now)?.value ?? ''} choose={(value) => stage.sky(value)} />
				<div class="sun">
					<SunDome turn={Number(lightValue(now, 'turn'))} height={Number(lightValue(now, 'height'))} {toward} lowest={lowestSun()} move={(turn, height) => stage.relight({ turn, height })} hold={() => stage.hold()} release={() => stage.release()} />
					<div class="acts">
						<button class="tool plain" title="The sun just over the horizon, so that relief shows" onclick={() => stage.relight({ height: GRAZING })}>Grazing</button>
						<button class="tool plain" aria-pressed={follows} title="The sun stands where the pointer is over the stage, until it is clicked" onclick={() => (follows = !follows)}>Follow the pointer</button>
						<button class="tool plain" title="The sun, strength and brightness that belong to this sky" onclick={() => stage.sky(skyOf(now)?.value ?? '')}>As the sky has it</button>
					</div>
				</div>
				{#each controls as control (control.name)}
					{#if is(control, 'number')}
						<NumberField control={control as NumberControl} value={Number(lightValue(now, control.name as keyof StageLight))} set={(v) => set(control.name, v)} hold={() => stage.hold()} release={() => stage.release()} />
					{:else if is(control, 'colour')}
						<div class="row"><span title={control.help}>{control.label}</span><ColourField label={control.label} value={lightValue(now, 'colour') as number[]} set={(v) => set(control.name, v)} hold={() => stage.hold()} release={() => stage.release()} /></div>
					{:else if is(control, 'switch')}
						<label class="row" title={control.help}>{control.label}<input type="checkbox" checked={lightValue(now, 'shown') === true} onchange={(e) => set(control.name, e.currentTarget.checked)} /></label>
					{/if}
				{/each}
			</Popover.Content>
		</Popover.Positioner>
	</Portal>
</Popover>

<style>
	:global(.tool.light) {
		display: flex;
		align-items: center;
		gap: 4px;
		background: var(--panel);
		border: 1px solid var(--line);
	}
	:global(.light-panel) {
		width: 320px;
	}
	.sun {
		display: grid;
		grid-template-columns: 128px 1fr;
		gap: 12px;
		align-items: center;
	}
	.acts {
		display: grid;
		gap: 4px;
		justify-items: start;
	}
	.acts [aria-pressed='true'] {
		color: var(--accent);
		background: var(--accent-soft);
	}
	.row {
		display: flex;
		align-items: center;
		justify-content: space-between;
		min-height: 24px;
	}
</style>

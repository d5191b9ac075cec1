<script lang="ts">
	import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Company } from '../state/company.svelte';
	import type { StageState } from '../state/stage.svelte';
	import { DISTANCES, type Lookout } from '../stage/eye';
	import NameSheet from './NameSheet.svelte';

	/** Where the eye may stand: near, further off, far away, and places that have a name. */
	let { stage, company, look, away, here }: {
		stage: StageState;
		/** Who else may see where this eye is. */
		company: Company | null;
		look: (place: Lookout) => void;
		/** Goes so many times as far as all objects are seen from. */
		away: (times: number) => void;
		here: () => Lookout | undefined;
	} = $props();

	const places = $derived(stage.document.places ?? []);
	let naming = $state(false);
	const rounded = (numbers: number[]): number[] => numbers.map((one) => Math.round(one * 1000) / 1000);
	async function keep(name: string): Promise<void> {
		const place = here();
		if (place !== undefined) stage.keepPlace({ name, position: rounded(place.position), target: rounded(place.target) });
	}
	function choose(value: string): void {
		const [kind = '', number = ''] = value.split(' ');
		const place = places[Number(number)];
		if (kind === 'keep') naming = true;
		else if (kind === 'eye') company?.show(!company.shown);
		else if (kind === 'away') away(DISTANCES[Number(number)]!.times);
		else if (place !== undefined && kind === 'go') look(place);
		else if (place !== undefined) stage.dropPlace(place.name);
	}
</script>

<Menu onSelect={(details) => choose(details.value)}>
	<Menu.Trigger class="tool plain" title="Places to look from">Places</Menu.Trigger>
	<Portal>
		<Menu.Positioner>
			<Menu.Content class="acts-list">
				{#each DISTANCES as one, i (one.label)}<Menu.Item value="away {i}" class="acts-one"><Menu.ItemText>{one.label}</Menu.ItemText></Menu.Item>{/each}
				{#each places as one, i (one.name)}<Menu.Item value="go {i}" class="acts-one"><Menu.ItemText>{one.name}</Menu.ItemText></Menu.Item>{/each}
				<Menu.Item value="keep" class="acts-one"><Menu.ItemText>Keep this place …</Menu.ItemText></Menu.Item>
				{#if company !== null && company.others.length > 0}<Menu.Item value="eye" class="acts-one"><Menu.ItemText>{company.shown ? 'Hide from others where I look' : 'Show others where I look'}</Menu.ItemText></Menu.Item>{/if}
				{#each places as one, i (one.name)}<Menu.Item value="drop {i}" class="acts-one quiet"><Menu.ItemText>Forget {one.name}</Menu.ItemText></Menu.Item>{/each}
			</Menu.Content>
		</Menu.Positioner>
	</Portal>
</Menu>
{#if naming}<NameSheet title="Keep this place" label="Name of the place" act="Keep" close={() => (naming = false)} take={keep} />{/if}

<style>
	:global(.acts-one.quiet) {
		color: var(--dim);
	}
</style>

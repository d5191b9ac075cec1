<script lang="ts">
	import { catalogue, meaningful } from '../state/catalogue.svelte';
	import type { Session } from '../state/session.svelte';
	import ControlField from './ControlField.svelte';

	/** What kind of surface the material makes, and whether it has a back. */
	let { session }: { session: Session } = $props();

	const shown = $derived(meaningful(catalogue.value?.surface ?? [], session.document.surface?.values ?? {}));
</script>

<h2 class="heading">Surface</h2>
{#each shown as control (control.name)}<ControlField {session} {control} path="/surface/values/{control.name}" />{/each}

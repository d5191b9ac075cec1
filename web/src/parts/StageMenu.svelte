<script lang="ts">
	import { api, type StageDocument } from '../api/client';
	import { commands } from '../state/commands.svelte';
	import { failed, offered } from '../state/notices.svelte';
	import { saved } from '../state/saved';
	import { stages } from '../state/stages.svelte';
	import type { StageState } from '../state/stage.svelte';
	import Acts from './Acts.svelte';
	import NameSheet from './NameSheet.svelte';

	/** Which of the project's stages the material is judged on, and what can be done with that. */
	let { stage, brief = false, judge }: {
		stage: StageState;
		/** Whether it can only be chosen. */
		brief?: boolean;
		/** Another is looked at. */
		judge: (id: number) => Promise<void>;
	} = $props();

	let asking = $state<'new' | 'copy' | 'rename' | null>(null);
	let input = $state<HTMLInputElement>();
	$effect(() => {
		void stage.id;
		void list();
	});
	const list = (): Promise<void> => stages.load(stage.project);
	const name = $derived(stages.name(stage.id) ?? stage.name);
	async function choose(list: HTMLSelectElement): Promise<void> {
		try {
			await judge(Number(list.value));
		} catch (error) {
			failed('The stage was not opened', error);
			list.value = String(stage.id);
		}
	}
	const made = async (start: Parameters<typeof api.createStage>[1]): Promise<void> => judge((await api.createStage(stage.project, start)).id);

	async function remove(): Promise<void> {
		const [gone, document] = [name, stage.snapshot()];
		try {
			const next = stages.all.find((one) => one.id !== stage.id);
			if (next === undefined) throw new Error('A project has at least one stage.');
			const { id } = stage;
			await judge(next.id);
			await api.deleteStage(id);
			await list();
			offered(`${gone} was deleted`, 'Take back', () => made({ name: gone, document }));
		} catch (error) {
			failed('The stage was not deleted', error);
		}
	}
	function save(): void {
		saved(JSON.stringify(stage.snapshot(), null, 2), `${name}.stage.json`, 'application/json');
	}
	async function read(file: File): Promise<void> {
		try {
			await made({ name: file.name.replace(/(\.stage)?\.json$/i, '').slice(0, 120) || 'Stage', document: JSON.parse(await file.text()) as StageDocument });
		} catch (error) {
			failed(`${file.name} is no stage that can be read here`, error);
		}
	}
	const acts = $derived([
		{ value: 'new', label: 'New stage …', do: () => (asking = 'new') },
		{ value: 'copy', label: 'Duplicate …', do: () => (asking = 'copy') },
		{ value: 'rename', label: 'Rename …', do: () => (asking = 'rename') },
		{ value: 'save', label: 'Save as a file', do: save },
		{ value: 'read', label: 'Read from a file …', do: () => input?.click() },
		...(stages.all.length > 1 ? [{ value: 'delete', label: 'Delete', do: () => void remove() }] : [])
	]);
	// The stage's own bar has the brief one always; the other lies beside the objects.
	$effect(() => commands.offer(brief ? 'stages' : 'stage', () => (brief
		? stages.all.filter((one) => one.id !== stage.id).map((one) => ({ group: 'Judge on the stage', label: one.name, run: () => void judge(one.id) }))
		: acts.map((one) => ({ group: `Stage ${name}`, label: one.label, run: one.do })))));

</script>

<div class="stage-menu">
	<select class="field" aria-label="Stage" title="On what it is judged" value={String(stage.id)} onchange={(e) => void choose(e.currentTarget)}>
		{#each stages.all as one (one.id)}<option value={String(one.id)}>{one.name}</option>{:else}<option value={String(stage.id)}>{stage.name}</option>{/each}
	</select>
	{#if !brief}<Acts of={name} {acts} />{/if}
</div>
<input bind:this={input} type="file" aria-label="A stage from a file" accept=".json" hidden onchange={(e) => { const file = e.currentTarget.files?.[0]; e.currentTarget.value = ''; if (file !== undefined) void read(file); }} />
{#if asking === 'rename'}
	<NameSheet title="Rename {name}" act="Rename" value={name} close={() => (asking = null)} take={async (to) => { await api.renameStage(stage.id, to); await list(); }} />
{:else if asking !== null}
	<NameSheet title={asking === 'new' ? 'New stage' : `A stage like ${name}`} act="Create" value={asking === 'new' ? '' : `${name}, again`} close={() => (asking = null)}
		take={async (to) => { await stage.save(); await made(asking === 'copy' ? { name: to, like: stage.id } : { name: to }); }} />
{/if}

<style>
	.stage-menu {
		display: flex;
		gap: 4px;
		min-width: 0;
	}
	select {
		flex: 1;
		min-width: 0;
	}
</style>

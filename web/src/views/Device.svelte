<script lang="ts">
	import { Check, MonitorCheck, TriangleAlert } from '@lucide/svelte';
	import { onDestroy } from 'svelte';
	import { api, type Project } from '../api/client';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { agrees, DeviceCheck, totals } from '../state/device.svelte';
	import { done, failed } from '../state/notices.svelte';

	const address: { project: string } = $props();
	// What it was opened for stays what it is while the view is taken down.
	// svelte-ignore state_referenced_locally
	const { project: slug } = address;
	let project = $state.raw<Project | null>(null);
	let devices = $state.raw<Awaited<ReturnType<typeof api.devices>>['devices']>([]);
	let trouble = $state<unknown>(null);
	let kept = $state(false);
	const check = new DeviceCheck(slug);
	onDestroy(() => check.leave());
	const all = $derived(totals(check.rows));
	const browser = navigator.userAgent.slice(0, 300);
	const count = (n: number): string => n.toLocaleString();
	const share = (part: number, whole: number): string => `${((100 * part) / Math.max(1, whole)).toFixed(2)} %`;

	async function load(): Promise<void> {
		trouble = null;
		try {
			[project, { devices }] = await Promise.all([api.project(slug), api.devices(slug)]);
		} catch (error) {
			trouble = error;
		}
	}
	void load();

	async function run(): Promise<void> {
		kept = false;
		try {
			await check.run();
		} catch (error) {
			failed('The device could not be checked', error);
		}
	}
	async function keep(): Promise<void> {
		const { materials, samples, off, far, worst } = all;
		try {
			({ devices } = await api.keepDevice(slug, { device: check.device.slice(0, 200), browser, materials, samples, off, far, worst }));
			kept = true;
			done('Kept with the project', check.device);
		} catch (error) {
			failed('The result was not kept', error);
		}
	}
</script>

<svelte:head><title>This device · Rilta</title></svelte:head>
<TopBar project={slug} projectName={project?.name ?? ''} view="device">
	<span class="gap"></span>
	{#if check.rows.length > 0 && !check.running}
		<button class="tool plain" disabled={kept || all.samples === 0} title="Keeps the figures with the names of device and browser, for all who work on this project" onclick={keep}>{kept ? 'Kept' : 'Keep with the project'}</button>
	{/if}
	<button class="tool main" disabled={check.running} onclick={run}><MonitorCheck size={16} /> {check.running ? 'Checking …' : check.rows.length > 0 ? 'Check again' : 'Check this device'}</button>
</TopBar>

<main>
	<h1>This device</h1>
	<p class="about">Graphics devices round, filter and divide a little differently. Here yours computes every material of the project at 128 points, and each value is held against what Rilta's core computes there, in double precision. A value is <em>off</em> when it differs by more than 1/255.</p>
	{#if trouble !== null}
		<Trouble error={trouble} retry={load} />
	{/if}
	{#if check.rows.length > 0}
		<section class="verdict" class:good={agrees(all)} role="status">
			{#if check.running}
				<p>{check.rows.length} {check.rows.length === 1 ? 'material' : 'materials'} checked …</p>
			{:else if agrees(all)}
				<p><Check size={18} /> <strong>This device shows what is computed.</strong> {count(all.off)} of {count(all.samples)} values are off ({share(all.off, all.samples)}), {count(all.far)} of them further than rounding explains.</p>
			{:else}
				<p><TriangleAlert size={18} /> <strong>This device shows something else.</strong> {count(all.off)} of {count(all.samples)} values are off ({share(all.off, all.samples)}), {count(all.far)} of them further than rounding explains{all.failed > 0 ? `; ${all.failed} could not be run` : ''}.</p>
			{/if}
			<p class="names">{check.device}</p>
		</section>
		<table>
			<thead><tr><th>Material</th><th class="number">Values</th><th class="number">Off</th><th class="number" title="Further than moving the point by a few roundings could bring it">Beyond rounding</th><th class="number" title="Times what is allowed: 1/255 of a value, 2/255 of a direction">Largest of these</th><th>Verdict</th></tr></thead>
			<tbody>
				{#each check.rows as row (row.id)}
					{@const one = totals([row])}
					<tr>
						<td><a href="/{slug}/materials/{row.id}">{row.name}</a></td>
						<td class="number">{count(one.samples)}</td>
						<td class="number">{count(one.off)}</td>
						<td class="number">{count(one.far)}</td>
						<td class="number">{one.far === 0 ? '–' : `${one.worst.toFixed(1)} ×`}</td>
						<td class:bad={!agrees(one)} title={row.found?.error ?? ''}>{one.failed > 0 ? 'does not run' : agrees(one) ? 'agrees' : 'differs'}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{:else if check.running}
		<p class="about" role="status">Asking the core for the first material …</p>
	{/if}
	{#if devices.length > 0}
		<h2>Devices that were checked</h2>
		<table>
			<thead><tr><th>Device and browser</th><th>Checked</th><th class="number">Materials</th><th class="number">Values</th><th class="number">Off</th><th class="number">Beyond rounding</th></tr></thead>
			<tbody>
				{#each devices as one (`${one.device} ${one.browser}`)}
					<tr>
						<td><span class="device">{one.device}</span><span class="names" title={one.browser}>{one.browser}</span></td>
						<td>{new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(one.checkedAt))}</td>
						<td class="number">{count(one.materials)}</td>
						<td class="number">{count(one.samples)}</td>
						<td class="number">{share(one.off, one.samples)}</td>
						<td class="number">{count(one.far)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
</main>

<style>
	main {
		height: calc(100% - 44px);
		overflow: auto;
		padding: 24px max(24px, calc((100% - 960px) / 2));
	}
	.gap {
		flex: 1;
	}
	h1 {
		font-size: 20px;
		font-weight: 600;
		margin-bottom: 8px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
		margin: 32px 0 8px;
	}
	.about {
		max-width: 68ch;
		color: var(--dim);
		margin-bottom: 24px;
	}
	.verdict {
		padding: 12px 16px;
		margin-bottom: 16px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-left: 3px solid var(--dim);
	}
	.verdict.good {
		border-left-color: var(--accent);
	}
	.verdict p:first-child :global(svg) {
		display: inline;
		vertical-align: -4px;
	}
	.names {
		display: block;
		max-width: 88ch;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		color: var(--dim);
		font-size: 12px;
	}
	.device {
		display: block;
		max-width: 60ch;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	table {
		width: 100%;
		border-collapse: collapse;
	}
	th {
		text-align: left;
		font-weight: 500;
		color: var(--dim);
		font-size: 12px;
	}
	th,
	td {
		padding: 6px 12px 6px 0;
		border-bottom: 1px solid var(--line);
	}
	.number {
		padding-right: 28px;
		text-align: right;
		font-variant-numeric: tabular-nums;
	}
	td a:hover {
		color: var(--accent);
	}
	.bad {
		color: var(--brick);
	}
</style>

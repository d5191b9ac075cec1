<script lang="ts">
	import { onMount } from 'svelte';
	import { api, ApiError, type Member, type PersonRole, type ShareLink } from '../api/client';
	import { account } from '../state/account.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';
	import Done from './Done.svelte';
	import Segments from './Segments.svelte';
	import Sheet from './Sheet.svelte';

	/** Who is what in a project, and who did what. */
	let { project, close }: { project: string; close: () => void } = $props();
	let people = $state.raw<Member[]>([]);
	let tab = $state<'people' | 'links' | 'done'>('people');
	let links = $state.raw<ShareLink[]>([]);
	let order = $state<{ name: string; role: 'viewer' | 'reviewer'; days: number }>({ name: '', role: 'reviewer', days: 14 });
	/** A new link, this once. */
	let address = $state('');
	let invited = $state<{ email: string; name: string; role: PersonRole }>({ email: '', name: '', role: 'editor' });
	let wrong = $state('');
	const roles = $derived(catalogue.value?.people ?? []);
	void catalogue.load().catch(() => {});
	const owns = $derived(account.may('own'));
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

	onMount(() => void api.people(project).then((found) => (people = found), (error: unknown) => failed('The people could not be read', error)));
	$effect(() => {
		if (tab === 'links' && owns) void api.shareLinks(project).then((found) => (links = found), (error: unknown) => failed('The links could not be read', error));
	});
	/** Of the material that is open, if one is. */
	const open = $derived(router.route.view === 'workbench' ? router.route.material : null);
	async function link(what: () => Promise<unknown>): Promise<void> {
		wrong = '';
		try {
			await what();
			links = await api.shareLinks(project);
		} catch (error) {
			wrong = error instanceof ApiError ? error.message : String(error);
		}
	}
	async function attempt(what: () => Promise<unknown>): Promise<void> {
		wrong = '';
		try {
			await what();
			people = await api.people(project);
		} catch (error) {
			wrong = error instanceof ApiError ? error.message : String(error);
			people = await api.people(project).catch(() => people);
		}
	}
</script>

<Sheet title="People of the project" {close} wide>
	{#if owns}<Segments label="What is shown" quiet options={[{ value: 'people', label: 'People' }, { value: 'links', label: 'Links for guests' }, { value: 'done', label: 'What was done' }]} value={tab} choose={(next) => (tab = next as typeof tab)} />{/if}
	{#if tab === 'people'}
		<table>
			<tbody>
				{#each people as one (one.id)}
					<tr>
						<th scope="row">{one.name}{one.you ? ' (you)' : ''}<small>{one.email}{one.waiting ? ', invited' : ''}</small></th>
						<td>
							{#if owns}
								<select class="field" aria-label="Role of {one.name}" value={one.role} onchange={(e) => void attempt(() => api.changeRole(project, one.id, e.currentTarget.value as PersonRole))}>
									{#each roles as role (role.value)}<option value={role.value}>{role.label}</option>{/each}
								</select>
							{:else}{roles.find((role) => role.value === one.role)?.label}{/if}
						</td>
						<td class="help">{roles.find((role) => role.value === one.role)?.help}</td>
						<td>{#if owns || one.you}<button class="tool plain" onclick={() => void attempt(() => api.takeOut(project, one.id)).then(() => { if (one.you && wrong === '') location.assign('/'); })}>{one.you ? 'Leave' : 'Take out'}</button>{/if}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if wrong !== ''}<p class="wrong" role="alert">{wrong}</p>{/if}
		{#if owns}
			<form onsubmit={(e) => { e.preventDefault(); void attempt(async () => { const found = await api.invite(project, invited.email, invited.role, invited.name); invited = { ...invited, email: '', name: '' }; return found; }); }}>
				<input class="field" type="email" aria-label="E-mail address" required maxlength="190" placeholder="E-mail address" bind:value={invited.email} />
				<input class="field" aria-label="Name" maxlength="120" placeholder="Name" bind:value={invited.name} />
				<select class="field" aria-label="Role" bind:value={invited.role}>{#each roles as role (role.value)}<option value={role.value}>{role.label}</option>{/each}</select>
				<button class="tool main">Invite</button>
			</form>
		{/if}
	{:else if tab === 'links'}
		<p class="help">Whoever has such a link looks at the project, at what stands on its stages and what was said, without an account, until the link ends. Nothing of it can be changed.</p>
		<table aria-label="Links for guests">
			<tbody>
				{#each links as one (one.id)}
					<tr><th scope="row">{one.name}<small>{one.path}</small></th><td>{one.role === 'reviewer' ? 'Looks, and may say something' : 'Looks'}</td><td class="help">{one.over ? 'has ended' : `until ${when(one.until)}`}</td>
						<td><button class="tool plain" aria-label="Take the link {one.name} back" onclick={() => void link(() => api.unshare(project, one.id))}>Take back</button></td></tr>
				{/each}
			</tbody>
		</table>
		{#if address !== ''}<p role="status">Copy it now, it is not shown again: <code class="figures">{address}</code></p>{/if}
		{#if wrong !== ''}<p class="wrong" role="alert">{wrong}</p>{/if}
		<form onsubmit={(e) => { e.preventDefault(); void link(async () => { address = (await api.share(project, { ...order, material: open })).address ?? ''; order = { ...order, name: '' }; }); }}>
			<input class="field" aria-label="For whom" maxlength="120" required placeholder="For whom: the harbour office" bind:value={order.name} />
			<select class="field" aria-label="What guests may do" bind:value={order.role}><option value="reviewer">Look, and say something</option><option value="viewer">Look</option></select>
			<label>Days <input class="field figures" type="number" min="1" max="366" required bind:value={order.days} /></label>
			<button class="tool main">Make a link</button>
		</form>
	{:else}
		<Done of={project} />
	{/if}
	{#snippet actions()}<button class="tool main" onclick={close}>Close</button>{/snippet}
</Sheet>

<style>
	table {
		width: 100%;
		margin-top: 8px;
		border-collapse: collapse;
	}
	th,
	td {
		padding: 6px 12px 6px 0;
		border-bottom: 1px solid var(--line);
		text-align: left;
		font-weight: 400;
		overflow-wrap: anywhere;
	}
	th small {
		display: block;
		color: var(--dim);
	}
	.help {
		color: var(--dim);
		font-size: 12px;
	}
	form {
		display: grid;
		grid-template-columns: 1.4fr 1fr 120px auto;
		gap: 8px;
		padding-top: 16px;
	}
	code {
		overflow-wrap: anywhere;
		user-select: all;
	}
	form label {
		display: flex;
		align-items: center;
		gap: 6px;
	}
	.wrong {
		padding-top: 8px;
		color: var(--brick);
	}
</style>

<script lang="ts">
	import { Plus, X } from '@lucide/svelte';
	import type { Catalogue, DeliveryProfile } from '../api/client';

	/** Baked images that have another size than the rest, and those that hold parts of several channels. */
	type Bake = NonNullable<DeliveryProfile['bake']>;
	type Packed = NonNullable<Bake['packed']>[number];
	type Part = Packed['channels'][number];
	let { bake, sizes, channels, sources, said, change }: {
		bake: Bake;
		sizes: readonly number[];
		channels: readonly string[];
		sources: Catalogue['delivery']['sources'];
		/** What is wrong at a place of the profile. */
		said: (path: string) => string;
		change: (bake: Bake) => void;
	} = $props();

	const packed = $derived(bake.packed ?? []);
	const LETTERS = ['Red', 'Green', 'Blue', 'Alpha'];
	const alone = $derived(channels.filter((one) => !packed.some((image) => image.channels.some((part) => part.role === one))));
	const named = $derived([...packed.map((one) => one.name), ...alone]);
	const text = (name: string): string => name.replaceAll('-', ' ');
	const key = (part: Part | undefined): string => (part === undefined ? '' : part.role === undefined ? `=${part.value}` : `${part.inverted === true ? '!' : ''}${part.role}/${part.channel ?? ''}`);

	function put(list: Packed[]): void {
		const rest = Object.fromEntries(Object.entries(bake.sizes ?? {}).filter(([name]) => channels.includes(name) || list.some((one) => one.name === name)));
		change({ ...bake, sizes: rest, packed: list });
	}
	function add(): void {
		let n = 1;
		while (packed.some((one) => one.name === `packed-${n}`)) n += 1;
		put([...packed, { name: `packed-${n}`, channels: [{ role: 'occlusion' }, { role: 'roughness' }, { role: 'metallic' }] }]);
	}
	function rename(i: number, name: string): void {
		const before = packed[i]?.name ?? '';
		const { [before]: size, ...rest } = bake.sizes ?? {};
		change({ ...bake, sizes: size === undefined ? rest : { ...rest, [name]: size }, packed: packed.map((one, at) => (at === i ? { ...one, name } : one)) });
	}
	function choose(i: number, at: number, chosen: string): void {
		const part = sources.find((one) => key(one.part) === chosen)?.part;
		put(packed.map((one, n) => (n !== i ? one : { ...one, channels: part === undefined ? one.channels.slice(0, 3) : one.channels.slice(0, at).concat(part, one.channels.slice(at + 1)) })));
	}
	function resize(name: string, side: string): void {
		const rest = Object.fromEntries(Object.entries(bake.sizes ?? {}).filter(([one]) => one !== name));
		change({ ...bake, sizes: side === '' ? rest : { ...rest, [name]: Number(side) } });
	}
	const wrong = (i: number): string[] => ['name', 'channels', ...[0, 1, 2, 3].map((at) => `channels/${at}`)].map((at) => said(`/bake/packed/${i}/${at}`)).filter((one) => one !== '');
</script>

<div class="heading above">Packed <button class="tool mini" aria-label="Add a packed image" title="An image that holds parts of several channels" onclick={add}><Plus size={14} /></button></div>
{#each packed as image, i (i)}
	<div class="image" role="group" aria-label={`Packed image ${i + 1}`}>
		<input class="field" aria-label="Name of the packed image" title="Stands for {'{role}'} in the name of its file" maxlength="40" spellcheck="false" value={image.name} onchange={(e) => rename(i, e.currentTarget.value)} />
		<button class="tool mini" aria-label="Take the packed image out" title="Take it out: its channels come alone again" onclick={() => put(packed.filter((_, at) => at !== i))}><X size={14} /></button>
		<div class="parts">
			{#each LETTERS as letter, at (letter)}
				<label>{letter}
					<select class="field" aria-label={letter} value={key(image.channels[at])} onchange={(e) => choose(i, at, e.currentTarget.value)}>
						{#if at === 3}<option value="">None</option>{/if}
						{#each sources as one (key(one.part))}<option value={key(one.part)}>{text(one.label)}</option>{/each}
					</select>
				</label>
			{/each}
		</div>
		{#each wrong(i) as one (one)}<small role="alert">{one}</small>{/each}
	</div>
{/each}
<details open={Object.keys(bake.sizes ?? {}).length > 0}>
	<summary>Other sizes</summary>
	<div class="sizes">
		{#each named as name (name)}
			<label>{text(name)}
				<select class="field figures" aria-label={`Size of ${name}`} value={String(bake.sizes?.[name] ?? '')} onchange={(e) => resize(name, e.currentTarget.value)}>
					<option value="">{bake.size}</option>
					{#each sizes.filter((one) => one !== bake.size) as one (one)}<option value={String(one)}>{one}</option>{/each}
				</select>
			</label>
		{/each}
	</div>
</details>

<style>
	.above {
		display: flex;
		align-items: center;
		justify-content: space-between;
		padding-top: 8px;
	}
	.mini {
		width: 28px;
		padding: 0;
	}
	.image {
		display: grid;
		grid-template-columns: 1fr 28px;
		gap: 4px 8px;
		align-items: center;
		padding-bottom: 8px;
	}
	.parts {
		grid-column: 1 / -1;
		display: grid;
		grid-template-columns: repeat(4, minmax(0, 1fr));
		gap: 8px;
	}
	.parts label,
	.sizes label {
		display: grid;
		gap: 2px;
		color: var(--dim);
		font-size: 12px;
	}
	.parts select,
	.sizes select {
		width: 100%;
		color: var(--text);
	}
	.sizes {
		display: grid;
		grid-template-columns: repeat(4, minmax(0, 1fr));
		gap: 8px;
		padding-top: 4px;
	}
	.sizes label::first-letter {
		text-transform: uppercase;
	}
	summary {
		color: var(--dim);
		cursor: pointer;
	}
	small {
		grid-column: 1 / -1;
		color: var(--brick);
		font-size: 12px;
	}
</style>

<script lang="ts">
	import type { MaterialCard, StageObject, Variant } from '../api/client';

	/** What the sections of an object wear by themselves. */
	let { object, names, materials, variants, place }: {
		object: StageObject;
		/** What the sections of its mesh are called. */
		names: string[];
		materials: MaterialCard[];
		/** Those of the material that is shown. */
		variants: Variant[];
		place: (change: Partial<StageObject>) => void;
	} = $props();

	type Worn = NonNullable<StageObject['sections']>[number];
	const LIKE = 'like';
	const OPEN = 'open';
	const worn = (section: string): Worn | undefined => object.sections?.find((one) => one.section === section);
	const value = (one: Worn | undefined): string => (one === undefined ? LIKE : one.wears === undefined ? OPEN : String(one.wears));

	function put(section: string, next: Omit<Worn, 'section'> | null): void {
		const others = (object.sections ?? []).filter((one) => one.section !== section).map((one) => ({ ...one }));
		const sections = next === null ? others : [...others, { section, ...next }];
		place({ sections: sections.length === 0 ? undefined : sections });
	}
	function choose(section: string, chosen: string): void {
		put(section, chosen === LIKE ? null : chosen === OPEN ? {} : { wears: Number(chosen) });
	}
</script>

<fieldset>
	<legend>Sections</legend>
	{#each names as section (section)}
		{@const one = worn(section)}
		<label>
			<span title={section}>{section}</span>
			<select class="field" aria-label="{section} wears" value={value(one)} onchange={(e) => choose(section, e.currentTarget.value)}>
				<option value={LIKE}>as the object</option>
				<option value={OPEN}>the one that is open</option>
				{#each materials as material (material.id)}<option value={String(material.id)}>{material.name}</option>{/each}
				{#if one?.wears !== undefined && !materials.some((material) => material.id === one.wears)}<option value={String(one.wears)}>one that is gone</option>{/if}
			</select>
		</label>
		{#if one !== undefined && one.wears === undefined && variants.length > 0}
			<label>
				<span class="of">its variant</span>
				<select class="field" aria-label="Variant that {section} wears" value={one.variant ?? ''} onchange={(e) => put(section, e.currentTarget.value === '' ? {} : { variant: e.currentTarget.value })}>
					<option value="">what the stage shows</option>
					{#each variants as variant (variant.id)}<option value={variant.id}>{variant.name}</option>{/each}
				</select>
			</label>
		{/if}
	{/each}
</fieldset>

<style>
	fieldset {
		display: grid;
		gap: 4px;
	}
	legend {
		margin-bottom: 4px;
	}
	label {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	span {
		min-width: 0;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.of {
		padding-left: 12px;
		color: var(--dim);
	}
	.field {
		flex: none;
		width: 160px;
	}
</style>

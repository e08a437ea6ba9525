<script lang="ts">
	/** On the tag: what an outline was made from, its numbers as fields, and the way to make it plain. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import {
		isOfOlderEngine,
		madeAnew,
		makePlain,
		problemWith,
		withSettings
	} from '$lib/core/document/edits/made';
	import { lineOf, type Outline } from '$lib/core/document/outline';
	import { twoWayDistance } from '$lib/core/geometry/edge-tree';
	import { formatLength } from '$lib/core/units';
	import { loadReckonings } from '$lib/stores/reckonings';
	import { recipeType, type Recipe } from '$lib/core/document/recipes/recipes';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, outline, recipe }: { bench: Bench; outline: Outline; recipe: Recipe } = $props();
	const type = $derived(recipeType(recipe));
	const word = $derived(type.word(recipe.settings));
	const values = $derived(
		(type.numbers?.(recipe.settings) ?? recipe.settings) as unknown as Record<string, number & string>
	);
	const sources = $derived(
		recipe.inputs.map(({ record }) => {
			const source = bench.drawing.records.get(record);
			return source?.type === 'outline' ? source.name : '';
		})
	);
	/** Settings of which nothing comes are refused with the reason. */
	async function set(field: string, value: number | string): Promise<void> {
		await loadReckonings();
		const settings = (type.typed?.(recipe.settings, field, value) ?? { [field]: value }) as object;
		const problem = problemWith(bench.drawing, outline, settings);
		if (problem) {
			bench.trouble(problem);
			return;
		}
		const before = lineOf(outline);
		if (!bench.commit(`Change the ${word}`, withSettings(bench.drawing, outline, settings))) return;
		const after = bench.drawing.records.get(outline.id);
		// Of a degree one wants to know how far the line went.
		if ((field === 'degree' || (field === 'count' && recipe.kind === 'pulled')) && after?.type === 'outline')
			bench.tell(
				`The line lies up to ${formatLength(twoWayDistance([before], [lineOf(after)], 0.01).distance, bench.unit)} off where it was.`
			);
	}
</script>

<div class="part" data-testid="recipe">
	<b>{word}</b>
	{#if sources.length}
		<span class="quiet"
			>follows {sources.length === 1 ? `"${sources[0]}"` : `${sources.length} outlines`}</span
		>
	{/if}
	{#each type.fields(recipe.settings) as field (field.name)}
		{#if field.kind === 'choice'}
			<span class="kinds" role="group" aria-label={field.word}>
				{#each field.items as item (item.value)}
					<button
						class="word"
						class:here={values[field.name] === item.value}
						aria-pressed={values[field.name] === item.value}
						onclick={() => void set(field.name, item.value)}>{item.word}</button
					>
				{/each}
			</span>
		{:else if field.kind === 'text'}
			<label class="text"
				><span>{field.word}</span><input
					value={values[field.name]}
					spellcheck="false"
					autocomplete="off"
					aria-description="A formula: + - * / ^, brackets, sin, cos, sqrt and the named numbers."
					onchange={(e) => set(field.name, e.currentTarget.value)}
				/></label
			>
		{:else}
			<NumberField
				label={field.word}
				says="A number that it is made from; typed, it is made anew."
				kind={field.kind === 'length' ? 'length' : 'number'}
				unit={bench.unit}
				suffix={field.kind === 'angle' ? '°' : ''}
				digits={field.kind === 'count' ? 0 : 3}
				width={field.kind === 'share' || field.kind === 'count' ? 6 : 11}
				least={field.least}
				most={field.most}
				value={values[field.name]}
				onset={(v) => void set(field.name, field.kind === 'count' ? Math.round(v) : v)}
			/>
			{#if field.name === 'radius' && word === 'circle'}
				<NumberField
					label="diameter"
					says="Twice the radius; typed, the radius follows."
					unit={bench.unit}
					width={11}
					least={2 * field.least}
					most={2 * field.most}
					value={2 * values.radius}
					onset={(v) => void set('radius', v / 2)}
				/>
			{/if}
		{/if}
	{/each}
	{#if recipe.stale}<span class="quiet" role="status">being made anew …</span>{/if}
	{#if isOfOlderEngine(outline)}
		<button
			class="word"
			aria-description="An older reckoning made this line. The newer one may lie a hair beside it."
			onclick={() => bench.commit('Make anew', madeAnew(bench.drawing, outline))}>make anew</button
		>
	{/if}
	<button class="word" onclick={() => bench.commit('Make plain', makePlain(bench.drawing, [outline]))}
		>make plain</button
	>
</div>

<style>
	.text {
		display: flex;
		gap: 6px;
		align-items: baseline;
	}
	.text span {
		color: var(--soft);
	}
	.text input {
		width: 17em;
		padding: 1px 4px;
		border: 0;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
	}
</style>

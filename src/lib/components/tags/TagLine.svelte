<script lang="ts">
	/** On the tag: the sizes of a ready shape, and the length of an open line. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { madePlain, withPath, type Outline } from '$lib/core/document/outline';
	import { setLineLength } from '$lib/core/document/edits/segments';
	import { SHAPE_FIELDS, shapePath, type ShapeRecipe } from '$lib/core/document/recipes/shapes';
	import { toProblem } from '$lib/core/errors';
	import NumberField from '../parts/NumberField.svelte';

	/** @param length mm; undefined while it is not reckoned. */
	let { bench, outline, length }: { bench: Bench; outline: Outline; length: number | undefined } = $props();
	let givingEnd = $state<'end' | 'start'>('end');
	let growing = $state<'straight' | 'curve'>('straight');
	/** Changes the outline as a whole; what cannot be is said. */
	function whole(name: string, change: (o: Outline) => Outline): void {
		try {
			bench.commit(name, { put: [change(outline)] });
		} catch (error) {
			bench.trouble(toProblem(error));
		}
	}
	const setLength = (v: number) => whole('Set the length', (o) => setLineLength(o, v, givingEnd, growing));
	function setShape(field: string, value: number): void {
		whole(`Change the ${outline.recipe?.shape ?? 'shape'}`, (o) => {
			const recipe = { ...o.recipe!, [field]: value } as ShapeRecipe;
			return { ...withPath(o, shapePath(recipe)), recipe };
		});
	}
</script>

{#if outline.recipe}
	<div class="part" data-testid="recipe">
		<b>{outline.recipe.shape}</b>
		{#each SHAPE_FIELDS[outline.recipe.shape] as field (field.name)}
			<NumberField
				label={field.word}
				kind={field.kind === 'length' ? 'length' : 'number'}
				unit={bench.unit}
				suffix={field.kind === 'angle' ? '°' : ''}
				digits={field.kind === 'count' ? 0 : 3}
				width={11}
				least={field.least}
				most={field.most}
				value={(outline.recipe as unknown as Record<string, number>)[field.name]}
				onset={(v) => setShape(field.name, field.kind === 'count' ? Math.round(v) : v)}
			/>
		{/each}
		<button class="word" onclick={() => bench.commit('Make plain', { put: [madePlain(outline)] })}
			>make plain</button
		>
	</div>
{/if}
{#if !outline.closed && length !== undefined}
	<div class="part" data-testid="line-length">
		<NumberField
			label="long in all"
			unit={bench.unit}
			value={length}
			width={11}
			least={0.001}
			onset={(v) => setLength(v)}
		/>
		<span class="kinds" role="group" aria-label="Which end gives">
			{#each ['end', 'start'] as const as end (end)}
				<button class="word" class:here={givingEnd === end} onclick={() => (givingEnd = end)}
					>at its {end}</button
				>
			{/each}
			{#each ['straight', 'curve'] as const as how (how)}
				<button class="word" class:here={growing === how} onclick={() => (growing = how)}
					>{how === 'straight' ? 'straight on' : 'along its curve'}</button
				>
			{/each}
		</span>
	</div>
{/if}

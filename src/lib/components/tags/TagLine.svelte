<script lang="ts">
	/** On the tag: what it was made from, and the length of an open line. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { isClosed, type Outline } from '$lib/core/document/outline';
	import { setLineLength } from '$lib/core/document/edits/segments';
	import { toProblem } from '$lib/core/errors';
	import NumberField from '../parts/NumberField.svelte';
	import TagRecipe from './TagRecipe.svelte';

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
</script>

{#if outline.recipe}<TagRecipe {bench} {outline} recipe={outline.recipe} />{/if}
{#if !isClosed(outline) && length !== undefined && (!outline.recipe || outline.recipe.kind === 'shape')}
	<div class="part" data-testid="line-length">
		<NumberField
			label="long in all"
			says="The whole length; the end that is chosen gives."
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

<script lang="ts">
	/** How deep a facing is, and of which edges. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { edgesOf } from '$lib/core/document/edges';
	import type { FacingOperation } from '$lib/stores/operations/facing-operation.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: FacingOperation } = $props();
	const edges = $derived(edgesOf(operation.outlines[0]));
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Depth"
			says="How far the facing goes into the piece."
			unit={bench.unit}
			least={0.1}
			most={10000}
			value={operation.depth}
			onset={(depth) => operation.set({ depth })}
		/>
		{#if edges.length <= 12}
			<span class="edges" role="group" aria-label="Edges that are faced">
				{#each edges as { id, name }, k (id)}
					<button
						class="word"
						class:here={operation.edges.has(id)}
						aria-pressed={operation.edges.has(id)}
						onclick={() => operation.toggle(id)}>{name ?? `edge ${k + 1}`}</button
					>
				{/each}
			</span>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep the facing">
		{#snippet facts()}
			<span class="quiet"
				>{operation.edges.size
					? 'it follows its piece from now on'
					: 'no edge is faced yet: press one on the drawing'}</span
			>
		{/snippet}
	</OperationStrip>
</div>

<style>
	.edges {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 10px;
	}
	.here {
		font-weight: 600;
		text-decoration: underline;
		text-underline-offset: 4px;
	}
</style>

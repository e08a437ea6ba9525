<script lang="ts">
	/** How wide the allowance is, and what its corners become. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { AllowanceOperation } from '$lib/stores/operations/allowance-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: AllowanceOperation } = $props();
	const CORNERS = [
		{ value: 'miter', word: 'Mitred' },
		{ value: 'bevel', word: 'Bevelled' },
		{ value: 'round', word: 'Round' },
		{ value: 'fold', word: 'Folded back' },
		{ value: 'square', word: 'Square' },
		{ value: 'step', word: 'Stepped' }
	];
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Width"
			says="How far outside the piece the cut line runs."
			unit={bench.unit}
			value={operation.width}
			least={0}
			onset={(v) => operation.set({ width: v })}
		/>
		<Choice
			label="Corners"
			says="What the cut line does at corners; folded back, square or stepped where one edge is wider than the next."
			value={operation.corner}
			items={CORNERS}
			onpick={(v) => operation.set({ corner: v as AllowanceOperation['corner'] })}
		/>
		<p class="quiet">
			{operation.ownWidths
				? `${operation.ownWidths} ${operation.ownWidths === 1 ? 'edge has' : 'edges have'} a width of their own.`
				: 'Enter an outline and pick an edge to give it a width of its own.'}
		</p>
	</div>
	<OperationStrip {bench} keepWord="Keep the allowance">
		{#snippet facts()}
			<span
				><b data-fact="outlines">{operation.preview.length}</b> new {operation.preview.length === 1
					? 'outline'
					: 'outlines'}</span
			>
			<span><b data-fact="anchors">{operation.anchorsAfter}</b> anchors</span>
			<span class="quiet">it follows its piece from now on</span>
		{/snippet}
	</OperationStrip>
</div>

<script lang="ts">
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { SimplifyOperation } from '$lib/stores/operations/simplify-operation.svelte';
	import { formatLength } from '$lib/core/units';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: SimplifyOperation } = $props();
	const set = (tolerance: number) => operation.choose(tolerance);
</script>

<div class="rows">
	<div class="row">
		<div class="settings">
			<NumberField
				label="May drift"
				says="How far the line may move anywhere; or pick a bar in the chart."
				unit={bench.unit}
				value={operation.tolerance}
				least={0.0005}
				onset={set}
			/>
			<div>
				<button
					class="word"
					onclick={() => set(operation.tolerance * 1.5)}
					aria-description="Half as much drift again: fewer anchors.">more</button
				>
				<button
					class="word"
					onclick={() => set(operation.tolerance / 1.5)}
					aria-description="Less drift: more anchors.">less</button
				>
			</div>
			<p class="quiet">
				{operation.outlines.length === 1
					? `"${operation.outlines[0].name}"`
					: `${operation.outlines.length} outlines`}; meant corners stay. Hold Q to see it as it was.
			</p>
		</div>
		{#await import('./AnchorChart.svelte') then { default: AnchorChart }}
			<AnchorChart
				points={operation.chart}
				chosen={operation.tolerance}
				before={operation.anchorsBefore}
				unit={bench.unit}
				onpick={set}
			/>
		{/await}
	</div>
	<OperationStrip {bench} keepWord="Keep the simpler line">
		{#snippet facts()}
			<span
				>anchors <b data-fact="before">{operation.anchorsBefore}</b> →
				<b data-fact="after">{operation.anchorsAfter}</b></span
			>
			<span>drift <b data-fact="drift">{formatLength(operation.moved, bench.unit)}</b></span>
			<span class="quiet"
				>since it first was <b data-fact="total">{formatLength(operation.total, bench.unit)}</b></span
			>
			{#if operation.nothing}<span class="quiet" data-fact="nothing">{operation.nothing}</span>{/if}
		{/snippet}
	</OperationStrip>
</div>

<style>
	.row {
		align-items: stretch;
	}
	.settings {
		flex: 0 0 300px;
		display: grid;
		gap: 4px;
		align-content: start;
	}
	p {
		margin: 0;
		font-size: 14px;
	}
</style>

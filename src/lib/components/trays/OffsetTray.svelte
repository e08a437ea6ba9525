<script lang="ts">
	import { formatNumber } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { OffsetOperation } from '$lib/stores/operations/offset-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: OffsetOperation } = $props();
	const WAYS = [
		{ value: 'outside', word: 'Outside' },
		{ value: 'inside', word: 'Inside' },
		{ value: 'both', word: 'Both' }
	];
	const SIDES = [
		{ value: 'both', word: 'All round' },
		{ value: 'left', word: 'Left of it' },
		{ value: 'right', word: 'Right of it' }
	];
	const ENDS = [
		{ value: 'round', word: 'Round ends' },
		{ value: 'square', word: 'Square' },
		{ value: 'butt', word: 'Flush' }
	];
	const BANDS = [
		{ value: 'line', word: 'A line beside it' },
		{ value: 'band', word: 'A closed band' }
	];
	const JOINS = [
		{ value: 'round', word: 'Round' },
		{ value: 'miter', word: 'Mitred' },
		{ value: 'bevel', word: 'Bevelled' }
	];
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Distance"
			says="How far beside the outline; drag on the drawing to pull it."
			unit={bench.unit}
			value={operation.distance}
			least={0.001}
			onset={(v) => operation.set({ distance: v })}
		/>
		<NumberField
			label="How many"
			says="So many lines, each as far from the one before."
			kind="number"
			digits={0}
			width={4}
			value={operation.steps}
			least={1}
			most={100}
			onset={(v) => operation.set({ steps: Math.round(v) })}
		/>
		{#if operation.hasClosed}
			<Choice
				label="Side"
				says="Outside of closed outlines, inside, or both."
				value={operation.way}
				items={WAYS}
				onpick={(v) => operation.set({ way: v as OffsetOperation['way'] })}
			/>
		{/if}
		<Choice
			label="Corners"
			says="What the new line does at corners."
			value={operation.join}
			items={JOINS}
			onpick={(v) => operation.set({ join: v as OffsetOperation['join'] })}
		/>
		{#if operation.join === 'miter'}
			<NumberField
				label="up to"
				says="Longer tips than so many times the distance are cut off."
				kind="number"
				suffix=" ×"
				digits={1}
				width={5}
				value={operation.miterLimit}
				least={1}
				most={50}
				onset={(v) => operation.set({ miterLimit: v })}
			/>
		{/if}
		{#if operation.hasOpen}
			<span class="quiet">open lines</span>
			<Choice
				label="Side of open lines"
				says="Round an open line, or to one side of it."
				value={operation.side}
				items={SIDES}
				onpick={(v) => operation.set({ side: v as OffsetOperation['side'] })}
			/>
			{#if operation.side === 'both'}
				<Choice
					label="Ends"
					says="What the line does round open ends."
					value={operation.ends}
					items={ENDS}
					onpick={(v) => operation.set({ ends: v as OffsetOperation['ends'] })}
				/>
			{:else}
				<Choice
					label="What comes of it"
					says="A line beside it, or a closed band between both."
					value={operation.band ? 'band' : 'line'}
					items={BANDS}
					onpick={(v) => operation.set({ band: v === 'band' })}
				/>
			{/if}
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep the offset">
		{#snippet facts()}
			<span
				><b data-fact="outlines">{operation.preview.length}</b> new {operation.preview.length === 1
					? 'outline'
					: 'outlines'}</span
			>
			<span><b data-fact="anchors">{operation.anchorsAfter}</b> anchors</span>
			<span class="quiet"
				>within {operation.error < 0.0005 ? '0.0005' : formatNumber(operation.error, 4)} mm of true</span
			>
			{#if operation.fallback}<span class="quiet">the careful way had to serve here</span>{/if}
			{#if operation.partly}<span class="quiet">{operation.partly.sentence}</span>{/if}
		{/snippet}
	</OperationStrip>
</div>

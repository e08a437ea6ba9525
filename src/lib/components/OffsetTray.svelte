<script lang="ts">
	import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { OffsetOperation } from '$lib/stores/operations.svelte';
	import NumberField from './NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: OffsetOperation } = $props();
	const SIDES = [
		{ value: 'out', word: 'Outside' },
		{ value: 'in', word: 'Inside' }
	];
	const JOINS = [
		{ value: 'round', word: 'Round' },
		{ value: 'miter', word: 'Mitred' },
		{ value: 'bevel', word: 'Bevelled' }
	] as const;
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Distance"
			unit={bench.unit}
			value={operation.distance}
			least={0.001}
			onset={(v) => {
				operation.distance = v;
				operation.change(0);
			}}
		/>
		<SegmentedControl
			value={operation.inward ? 'in' : 'out'}
			onValueChange={(d) => {
				operation.inward = d.value === 'in';
				operation.change(0);
			}}
		>
			<SegmentedControl.Label class="hidden-word">Side</SegmentedControl.Label>
			<SegmentedControl.Control>
				<SegmentedControl.Indicator />
				{#each SIDES as side (side.value)}
					<SegmentedControl.Item value={side.value}>
						<SegmentedControl.ItemText>{side.word}</SegmentedControl.ItemText
						><SegmentedControl.ItemHiddenInput />
					</SegmentedControl.Item>
				{/each}
			</SegmentedControl.Control>
		</SegmentedControl>
		<SegmentedControl
			value={operation.join}
			onValueChange={(d) => {
				operation.join = (d.value ?? 'round') as OffsetOperation['join'];
				operation.change(0);
			}}
		>
			<SegmentedControl.Label class="hidden-word">Corners</SegmentedControl.Label>
			<SegmentedControl.Control>
				<SegmentedControl.Indicator />
				{#each JOINS as join (join.value)}
					<SegmentedControl.Item value={join.value}>
						<SegmentedControl.ItemText>{join.word}</SegmentedControl.ItemText
						><SegmentedControl.ItemHiddenInput />
					</SegmentedControl.Item>
				{/each}
			</SegmentedControl.Control>
		</SegmentedControl>
		{#if operation.join === 'miter'}
			<NumberField
				label="up to"
				kind="number"
				suffix=" ×"
				digits={1}
				width={5}
				value={operation.miterLimit}
				least={1}
				most={50}
				onset={(v) => {
					operation.miterLimit = v;
					operation.change(0);
				}}
			/>
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
				>within {operation.error < 0.0005 ? '0.0005' : operation.error.toFixed(4)} mm of true</span
			>
			{#if operation.fallback}<span class="quiet">the careful way had to serve here</span>{/if}
		{/snippet}
	</OperationStrip>
</div>

<style>
	.rows {
		display: grid;
		gap: 10px;
		width: min(680px, calc(100vw - 40px));
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px 18px;
	}
</style>

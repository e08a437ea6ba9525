<script lang="ts">
	/** Edges or middles, and how things are spread. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { AlignOperation, AlignTo, SpreadBy } from '$lib/stores/operations/align-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: AlignOperation } = $props();
	const ACROSS = [
		{ value: 'no', word: 'Stay' },
		{ value: 'least', word: 'Left edges' },
		{ value: 'middle', word: 'Middles' },
		{ value: 'most', word: 'Right edges' }
	];
	const UP = [
		{ value: 'no', word: 'Stay' },
		{ value: 'least', word: 'Lower edges' },
		{ value: 'middle', word: 'Middles' },
		{ value: 'most', word: 'Upper edges' }
	];
	const to = $derived([
		...(operation.things.length > 1
			? [
					{ value: 'all', word: 'All of them' },
					{ value: 'one', word: operation.things[operation.stays].outline.name }
				]
			: []),
		...(operation.sheet ? [{ value: 'sheet', word: 'The sheet' }] : []),
		...(operation.guides.length ? [{ value: 'guide', word: 'A guide' }] : [])
	]);
	const SPREAD = [
		{ value: 'no', word: 'Not spread' },
		{ value: 'gaps', word: 'Equal gaps' },
		{ value: 'middles', word: 'Equal middles' },
		{ value: 'typed', word: 'Gaps of' }
	];
</script>

{#snippet facts()}
	{#if operation.nothing}<span class="quiet">{operation.nothing}</span>
	{:else}<span
			><b data-fact="moved">{operation.moves.filter(([x, y]) => Math.hypot(x, y) > 1e-9).length}</b> of {operation
				.things.length} move</span
		>{/if}
{/snippet}

<div class="rows">
	<div class="row">
		<Choice
			label="Across"
			says="Which edges or middles come to one upright line."
			value={operation.across}
			items={ACROSS}
			onpick={(v) => operation.set({ across: v as AlignOperation['across'] })}
		/>
		<Choice
			label="Up"
			says="Which edges or middles come to one level line."
			value={operation.up}
			items={UP}
			onpick={(v) => operation.set({ up: v as AlignOperation['up'] })}
		/>
		<Choice
			label="To what"
			says="What they are brought to; press a thing or a guide on the drawing."
			value={operation.to}
			items={to}
			onpick={(v) => operation.set({ to: v as AlignTo })}
		/>
	</div>
	{#if operation.things.length > 1}
		<div class="row">
			<Choice
				label="Spread"
				says="Equal gaps, equal distances of the middles, or gaps that you type."
				value={operation.spreadBy}
				items={SPREAD}
				onpick={(v) => operation.set({ spreadBy: v as SpreadBy })}
			/>
			{#if operation.spreadBy === 'typed'}
				<NumberField
					label="Gap"
					says="How much stays free between neighbours."
					unit={bench.unit}
					value={operation.gap}
					least={0}
					onset={(gap) => operation.set({ gap })}
				/>
			{/if}
			{#if operation.spreadBy !== 'no'}
				<Choice
					label="Which way"
					says="Whether they are spread from left to right or upwards."
					value={operation.spreadAxis}
					items={[
						{ value: 'across', word: 'Across' },
						{ value: 'up', word: 'Upwards' }
					]}
					onpick={(v) => operation.set({ spreadAxis: v as 'across' | 'up' })}
				/>
			{/if}
		</div>
	{/if}
	<OperationStrip {bench} {facts} keepWord="Line them up" />
</div>

<style>
	.rows {
		display: grid;
		gap: 4px;
	}
</style>

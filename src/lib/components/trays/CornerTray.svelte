<script lang="ts">
	/** How corners are rounded or cut off. */
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { CornerOperation } from '$lib/stores/operations/corner-operation.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: CornerOperation } = $props();
	const CORNERS = [
		{ value: 'round', word: 'Rounded' },
		{ value: 'cut', word: 'Cut off' }
	];
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label={operation.cutOff ? 'Cut off' : 'Radius'}
			says={operation.cutOff
				? 'How far before the corner the flat begins; 0 makes it sharp again.'
				: 'The radius of the arc; 0 makes the corner sharp again.'}
			unit={bench.unit}
			value={operation.amount}
			least={0}
			onset={(v) => operation.set({ amount: v })}
		/>
		{#if operation.cutOff}
			<NumberField
				label="after it"
				says="How far after the corner the flat ends."
				unit={bench.unit}
				value={operation.second ?? operation.amount}
				least={0.001}
				onset={(v) => operation.set({ second: v })}
			/>
		{/if}
		<Choice
			label="Corners"
			says="An arc in the place of the corner, or a flat."
			value={operation.cutOff ? 'cut' : 'round'}
			items={CORNERS}
			onpick={(v) => operation.set({ cutOff: v === 'cut' })}
		/>
	</div>
	<OperationStrip {bench} keepWord="Keep the corners">
		{#snippet facts()}
			<span></span>
		{/snippet}
	</OperationStrip>
</div>

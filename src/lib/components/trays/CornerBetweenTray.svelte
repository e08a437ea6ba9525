<script lang="ts">
	/** How the corner between two lines is made, and which of the possible ones it is. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { CornerBetweenOperation } from '$lib/stores/operations/corner-between-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: CornerBetweenOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label={operation.cutOff ? 'Cut off' : 'Radius'}
			says={operation.cutOff
				? 'How far from the corner the flat begins on both sides; 0 is sharp.'
				: 'The radius of the arc between the lines; 0 is a sharp corner.'}
			unit={bench.unit}
			value={operation.amount}
			least={0}
			onset={(v) => operation.set({ amount: v })}
		/>
		<Choice
			label="Corners"
			says="An arc between the lines, or a flat."
			value={operation.cutOff ? 'cut' : 'round'}
			items={[
				{ value: 'round', word: 'Rounded' },
				{ value: 'cut', word: 'Cut off' }
			]}
			onpick={(v) => operation.set({ cutOff: v === 'cut' })}
		/>
		{#if operation.ways > 1}
			<button
				class="word"
				onclick={() => operation.next()}
				aria-description="Goes through the corners that the two lines can make; or point at the arms that stay."
				data-act="next-corner">another corner</button
			>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep the corner">
		{#snippet facts()}
			<span class="quiet"
				>{operation.ways > 1 ? `${operation.chosen + 1} of ${operation.ways} ways; ` : ''}one outline
				afterwards</span
			>
		{/snippet}
	</OperationStrip>
</div>

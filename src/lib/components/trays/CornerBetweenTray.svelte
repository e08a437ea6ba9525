<script lang="ts">
	/** How the corner between two lines is made, and which of the possible ones it is. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { CornerBetweenOperation } from '$lib/stores/operations/corner-between-operation.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import RoundOrCut from './RoundOrCut.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: CornerBetweenOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<RoundOrCut
			amount={operation.amount}
			cutOff={operation.cutOff}
			unit={bench.unit}
			onset={(changed) => operation.set(changed)}
		/>
		{#if operation.ways > 1}
			<button
				class="word"
				onclick={() => operation.next()}
				aria-description="Goes through the corners that the two lines can make; or point at the arms that stay."
				data-act="next-corner">another corner</button
			>
		{/if}
		<Toggle
			on="one outline, in the place of both"
			off="a line by itself, it follows both"
			says="Whether the two lines become one outline, or stay as guides of a new one that goes on following them."
			act="one-outline"
			checked={operation.isOne}
			onset={(checked) => operation.set({ isOne: checked })}
		/>
	</div>
	<OperationStrip {bench} keepWord="Keep the corner">
		{#snippet facts()}
			<span class="quiet"
				>{operation.ways > 1 ? `${operation.chosen + 1} of ${operation.ways} ways` : ''}</span
			>
		{/snippet}
	</OperationStrip>
</div>

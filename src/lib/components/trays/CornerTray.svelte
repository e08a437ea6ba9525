<script lang="ts">
	/** How corners are rounded or cut off. */
	import NumberField from '../parts/NumberField.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { CornerOperation } from '$lib/stores/operations/corner-operation.svelte';
	import RoundOrCut from './RoundOrCut.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: CornerOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<RoundOrCut
			amount={operation.amount}
			cutOff={operation.cutOff}
			unit={bench.unit}
			onset={(changed) => operation.set(changed)}
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
	</div>
	<OperationStrip {bench} keepWord="Keep the corners">
		{#snippet facts()}
			<span></span>
		{/snippet}
	</OperationStrip>
</div>

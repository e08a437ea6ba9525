<script lang="ts">
	/** How far ends may lie apart, and whether they move. */
	import { formatLength } from '$lib/core/units';
	import NumberField from '../parts/NumberField.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { JoinOperation } from '$lib/stores/operations/join-operation.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: JoinOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		{#if operation.apart !== undefined}
			<span data-fact="apart"
				>The two picked ends lie <b>{formatLength(operation.apart, bench.unit)}</b> apart.</span
			>
		{:else}
			<NumberField
				label="Gap"
				says="Ends that lie farther apart than this stay loose."
				unit={bench.unit}
				value={operation.gap}
				least={0}
				onset={(v) => operation.set({ gap: v })}
			/>
		{/if}
		<Toggle
			on="a straight between"
			off="ends move together"
			says="Whether a straight bridges the gap and no end moves, or the ends meet half way."
			act="bridged"
			checked={operation.bridge}
			onset={(checked) => operation.set({ bridge: checked })}
		/>
		{#if operation.wider !== undefined}
			<button class="word" onclick={() => operation.set({ gap: operation.wider! })} data-act="wider"
				>Allow {formatLength(operation.wider, bench.unit)}</button
			>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep them joined">
		{#snippet facts()}
			{#if operation.joined}
				<span
					><b data-fact="outlines">{operation.preview.length}</b>
					{operation.preview.length === 1 ? 'line' : 'lines'} from {operation.outlines.length}</span
				>
				<span><b data-fact="unjoined">{operation.joined.unjoined}</b> loose ends left</span>
				<span class="quiet">ends move {formatLength(operation.joined.drift, bench.unit)} at most</span>
			{/if}
		{/snippet}
	</OperationStrip>
</div>

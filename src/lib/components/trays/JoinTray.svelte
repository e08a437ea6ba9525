<script lang="ts">
	/** How far ends may lie apart, and whether they move. */
	import { formatLength } from '$lib/core/units';
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import NumberField from '../parts/NumberField.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { JoinOperation } from '$lib/stores/operations/join-operation.svelte';
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
				unit={bench.unit}
				value={operation.gap}
				least={0}
				onset={(v) => operation.set({ gap: v })}
			/>
		{/if}
		<Switch
			class="switch"
			checked={operation.bridge}
			onCheckedChange={(d) => operation.set({ bridge: d.checked })}
		>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label>Bridge with a straight; no end moves</Switch.Label>
			<Switch.HiddenInput />
		</Switch>
	</div>
	{#if operation.wider !== undefined}
		<div class="row">
			<button class="word strong" onclick={() => operation.set({ gap: operation.wider! })} data-act="wider"
				>Allow {formatLength(operation.wider, bench.unit)}</button
			>
		</div>
	{/if}
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

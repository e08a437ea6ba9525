<script lang="ts">
	/** How far ends may lie apart, and whether they move. */
	import { formatNumber } from '$lib/core/units';
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import NumberField from '../parts/NumberField.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { JoinOperation } from '$lib/stores/operations/join-operation.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: JoinOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Gap"
			unit={bench.unit}
			value={operation.gap}
			least={0}
			onset={(v) => operation.set({ gap: v })}
		/>
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
	<OperationStrip {bench} keepWord="Keep them joined">
		{#snippet facts()}
			{#if operation.joined}
				<span
					><b data-fact="outlines">{operation.preview.length}</b>
					{operation.preview.length === 1 ? 'line' : 'lines'} from {operation.outlines.length}</span
				>
				<span><b data-fact="unjoined">{operation.joined.unjoined}</b> loose ends left</span>
				<span class="quiet">ends move {formatNumber(operation.joined.drift, 3)} mm at most</span>
			{/if}
		{/snippet}
	</OperationStrip>
</div>

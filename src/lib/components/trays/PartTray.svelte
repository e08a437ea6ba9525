<script lang="ts">
	/** Which side of two places is meant, and what becomes of it. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { PartOperation } from '$lib/stores/operations/part-operation.svelte';
	import { formatLength } from '$lib/core/units';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: PartOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<Toggle
			on="an outline of its own"
			off="it goes"
			says="Whether the stretch is taken out, or becomes an outline of its own."
			act="own-outline"
			checked={operation.own}
			onset={(checked) => operation.set({ own: checked })}
		/>
		<button
			class="word"
			disabled={!operation.ready}
			onclick={() => operation.set({ other: !operation.other })}
			aria-description="What lies the other way round is meant; or point at it."
			data-act="other-side">the other side</button
		>
	</div>
	<OperationStrip {bench} keepWord={operation.own ? 'Detach it' : 'Take it out'}>
		{#snippet facts()}
			{#if operation.ready}<span
					><b data-fact="goes">{formatLength(operation.length, bench.unit)}</b>
					{operation.own ? 'by itself' : 'go'}</span
				>{:else}<span class="quiet">{operation.hint}</span>{/if}
		{/snippet}
	</OperationStrip>
</div>

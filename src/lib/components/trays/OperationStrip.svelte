<script lang="ts">
	/** Keep or drop, the drift, anchors before and after: the same for every operation. */
	import { keepOperation } from '$lib/stores/operations/starting';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Snippet } from 'svelte';

	let { bench, facts, keepWord }: { bench: Bench; facts: Snippet; keepWord: string } = $props();
	const operation = $derived(bench.operation!);
</script>

<div class="strip">
	<div class="facts" role="status">
		{#if operation.problem}<span class="trouble">{operation.problem.sentence}</span>
		{:else if operation.busy}
			<span class="quiet"
				>working {operation.progress > 0 ? `${Math.round(operation.progress * 100)} %` : '…'}</span
			>
			<button class="word" onclick={() => operation.stop()}>stop</button>
		{:else}{@render facts()}{/if}
	</div>
	<button class="word strong" disabled={!operation.ready} onclick={() => keepOperation(bench)} data-act="keep"
		>{keepWord}</button
	>
	<button class="word" onclick={() => bench.dropOperation()} data-act="drop">Drop</button>
</div>

<style>
	.strip {
		display: flex;
		align-items: center;
		gap: 12px;
		border-top: 1.5px dashed var(--slip-edge);
		padding-top: 8px;
	}
	.facts {
		flex: 1;
		display: flex;
		flex-wrap: wrap;
		gap: 2px 16px;
		align-items: baseline;
		min-height: 27px;
	}
	.trouble {
		color: var(--rust);
	}
</style>

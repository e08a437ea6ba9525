<script lang="ts">
	/** The drift, anchors before and after; keep or leave, always in the same place: the same for every operation. */
	import { keepOperation } from '$lib/stores/operations/starting';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Snippet } from 'svelte';

	let {
		bench,
		facts,
		keepWord,
		mends
	}: {
		bench: Bench;
		facts: Snippet;
		keepWord: string;
		/** What may be done about a problem, beside it. */
		mends?: Snippet;
	} = $props();
	const operation = $derived(bench.operation!);
</script>

<div class="strip">
	<div class="facts" role="status">
		{#if operation.problem}<span class="trouble">{operation.problem.sentence}</span>{@render mends?.()}
		{:else if operation.busy}
			<span class="quiet"
				>working {operation.progress > 0 ? `${Math.round(operation.progress * 100)} %` : '…'}</span
			>
			<button
				class="word"
				onclick={() => operation.stop()}
				aria-description="Stops the work; what was shown before stays.">stop</button
			>
		{:else}{@render facts()}{/if}
	</div>
	<button
		class="word strong"
		disabled={!operation.ready}
		onclick={() => keepOperation(bench)}
		aria-description="Makes what you see a step of the drawing (Enter)."
		data-act="keep">{keepWord}</button
	>
	<button
		class="word"
		onclick={() => bench.dropOperation()}
		aria-description="Nothing of it is done; the drawing stays as it is (Esc)."
		data-act="leave">Leave</button
	>
</div>

<style>
	.strip {
		display: flex;
		align-items: center;
		gap: 12px;
	}
	/* Keeping and leaving stay in sight, however long the rows above are. */
	@media (max-width: 720px) {
		.strip {
			position: sticky;
			bottom: -4px;
			background: var(--slip);
			gap: 4px;
		}
	}
	.facts {
		flex: 1;
		display: flex;
		flex-wrap: wrap;
		gap: 0 16px;
		align-items: baseline;
		min-height: 30px;
	}
	.trouble {
		color: var(--rust);
	}
</style>

<script lang="ts">
	/** What would stop the cut, one at a time, with its mend. */
	import type { Fault } from '$lib/core/check/fault';
	import type { Bench } from '$lib/stores/bench.svelte';

	let { bench }: { bench: Bench } = $props();
	const faults = $derived(bench.readiness.faults);
	/** The one that is looked at, and those after it, as many as there is room for. */
	const MOST = 2;
	const shown = $derived.by(() => {
		const at = Math.max(0, Math.min(bench.readiness.at, faults.length - MOST));
		return faults.slice(at, at + MOST).map((fault, k) => ({ fault, i: at + k }));
	});
	/** Open lines that are meant to stay so. */
	function meant(fault: Fault): void {
		const put = bench.readiness.chainOf(fault).map((o) => ({ ...o, openOnPurpose: true }));
		bench.commit('Open on purpose', { put });
	}
</script>

<ul>
	{#each shown as { fault, i } (i)}
		<li class:here={i === bench.readiness.at}>
			<button
				class="go"
				onclick={() => bench.readiness.goTo(i)}
				data-fault={fault.kind}
				aria-description="Goes to the place on the drawing."
				><b>{bench.readiness.outlineOf(fault)?.name ?? ''}</b> {fault.why}</button
			>
			{#if bench.readiness.mendWord(fault)}<button
					class="word"
					onclick={() => bench.readiness.mend(fault)}
					aria-description="Mends this one; a step that can be undone."
					data-mend={fault.mend}>{bench.readiness.mendWord(fault)}</button
				>{/if}
			{#if fault.kind === 'open-ends' || fault.kind === 'loose-lines'}<button
					class="word"
					onclick={() => meant(fault)}
					aria-description="It is meant to stay open: then it is no fault."
					data-mend="on-purpose">open on purpose</button
				>{/if}
		</li>
	{/each}
	{#if faults.length > MOST}<li class="quiet">
			{bench.readiness.at + 1 || '–'} of {faults.length}; F goes to the next.
		</li>{/if}
</ul>

<style>
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
		max-width: 640px;
	}
	li {
		display: flex;
		align-items: baseline;
		gap: 10px;
		border-left: 3px solid transparent;
		padding: 0 8px;
	}
	li.here {
		border-left: 3px double var(--rust);
		background: var(--wash);
	}
	.go {
		background: none;
		border: 0;
		padding: 2px 0;
		font: inherit;
		color: var(--ink);
		text-align: left;
		cursor: pointer;
		max-width: 560px;
	}
</style>

<script lang="ts">
	/** The moving preview: run and stand, a slider over the whole time, how fast, and what is being cut. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { MachiningOperation } from '$lib/stores/machining/machining.svelte';
	import type { Watching } from '$lib/stores/machining/watching.svelte';
	import { formatLength } from '$lib/core/units';
	import NumberField from '../parts/NumberField.svelte';
	import CutsStrip from './CutsStrip.svelte';

	let { bench, operation, watching }: { bench: Bench; operation: MachiningOperation; watching: Watching } =
		$props();
	const clock = (seconds: number) => {
		const s = Math.floor(seconds);
		return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
	};
	/** Space runs and stops it, wherever the focus is but in a field. */
	function keydown(event: KeyboardEvent): void {
		if (event.key !== ' ' || (event.target as HTMLElement).matches('input:not([type=range]), button')) return;
		event.preventDefault();
		event.stopImmediatePropagation();
		watching.turn();
	}
	const tool = $derived(watching.tool);
	const place = $derived(watching.cut);
	const cuts = $derived(operation.whole.cuts.map(({ cut }) => cut));
</script>

<svelte:window onkeydowncapture={keydown} />

<div class="row">
	<button
		class="word strong"
		data-act="run"
		aria-description="The tool runs, or stands still (Space)."
		onclick={() => watching.turn()}>{watching.playing ? 'Stand' : 'Run'}</button
	>
	<input
		type="range"
		min="0"
		max={watching.seconds}
		step="any"
		value={watching.at}
		aria-label="Time"
		aria-description="Back and forth through the job."
		data-testid="watch-slider"
		oninput={(e) => {
			watching.pause();
			watching.goTo(Number(e.currentTarget.value));
		}}
	/>
	<span class="clock" data-fact="clock">{clock(watching.at)} / {clock(watching.seconds)}</span>
	<NumberField
		label="Times"
		says="So many times as fast as the machine."
		kind="number"
		suffix=" ×"
		digits={0}
		width={6}
		value={watching.speed}
		least={1}
		most={10000}
		onset={(v) => (watching.speed = v)}
	/>
</div>
<div class="row">
	<div class="facts" role="status">
		{#if place >= 0}
			<span><b data-fact="now">{operation.now}</b></span>
			<span class="quiet">cut {place + 1} of {cuts.length}</span>
		{:else}<span class="quiet">on the way</span>{/if}
		{#if operation.jobs[0]?.tool.tool.kind === 'cutter'}
			<span class="quiet">{tool.z < 0 ? `${formatLength(-tool.z, bench.unit)} deep` : 'above'}</span>
		{/if}
	</div>
	<CutsStrip
		{cuts}
		now={place}
		onpick={(i) => {
			watching.pause();
			watching.goToCut(i);
		}}
	/>
	<button
		class="word"
		data-act="end-watch"
		aria-description="Goes back to the jobs."
		onclick={() => operation.endWatching()}>Back to the jobs</button
	>
</div>

<style>
	input[type='range'] {
		flex: 1;
		accent-color: var(--madder);
	}
	.clock {
		font-variant-numeric: tabular-nums;
		min-width: 11ch;
		text-align: right;
	}
	.facts {
		flex: none;
		min-width: 260px;
		display: flex;
		gap: 14px;
	}
</style>

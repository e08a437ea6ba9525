<script lang="ts">
	/**
	 * The sewn line from the picture to the machine: its stitches show how the work stands. At its ends, by the thumbs, picking more
	 * and finding anything.
	 */
	import { tick } from 'svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { STATIONS, type Station, type StitchState } from '$lib/stores/stations';

	let { bench, onpick }: { bench: Bench; onpick: (station: Station) => void } = $props();

	let room = $state(1200);
	/** px that a station takes at least; where the window is narrower, the thread is pulled along. */
	const LEAST = 76;
	const isNarrow = $derived(room < 220 + LEAST * STATIONS.length);
	/** px at both ends: for the thumbs, or for half a station where these stand outside. */
	const pad = $derived(isNarrow ? 44 : 112);
	const width = $derived(isNarrow ? 2 * pad + LEAST * (STATIONS.length - 1) : room);
	let scroller = $state<HTMLElement>();
	// The station in use is in sight.
	$effect(() => {
		const at = STATIONS.findIndex((s) => s.id === bench.station);
		if (!isNarrow || !scroller || at < 0) return;
		const to = scroller;
		void tick().then(() => (to.scrollLeft = pad + at * step - to.clientWidth / 2));
	});
	const step = $derived((width - 2 * pad) / (STATIONS.length - 1));
	const y = 17;

	/** The stretch of thread that leads to a station. */
	function stretch(i: number, state: StitchState): { d: string; dash: string; colour: string } {
		const x0 = i === 0 ? 0 : pad + (i - 1) * step + 13;
		const x1 = pad + i * step - 13;
		if (state === 'loose') {
			const waves = Math.max(2, Math.round((x1 - x0) / 22));
			const w = (x1 - x0) / waves;
			let d = `M${x0} ${y}`;
			for (let k = 0; k < waves; k++) d += `q${w / 4} ${k % 2 ? -11 : 11} ${w / 2} 0t${w / 2} 0`;
			return { d, dash: 'none', colour: 'var(--weld)' };
		}
		const d = `M${x0} ${y}H${x1}`;
		if (state === 'even') return { d, dash: '11 6', colour: 'var(--madder)' };
		if (state === 'knot') return { d, dash: '11 6', colour: 'var(--rust)' };
		return { d, dash: '7 10', colour: 'var(--slip-edge)' };
	}
</script>

<nav
	class="thread"
	class:narrow={isNarrow}
	aria-label="From the picture to the machine"
	bind:clientWidth={room}
>
	<button
		class="thumb left"
		aria-pressed={bench.pickingMore}
		aria-description={bench.pickingMore
			? 'Each tap picks one more, or lets it go. Tap here to end it.'
			: 'From now on each tap picks one more, without a key.'}
		onclick={() => (bench.pickingMore = !bench.pickingMore)}
		data-act="pick-more"
	>
		<svg viewBox="0 0 32 26" width="32" height="26" aria-hidden="true"
			><path d="M3 20c4-9 8-9 11-2s9 8 15-2" /><path class="plus" d="M16 1v9M11.5 5.5h9" /></svg
		>
		<span>{bench.pickingMore ? 'picking more' : 'pick more'}</span>
	</button>
	<div class="sewn" bind:this={scroller}>
		<svg style:width="{width}px" height="34" aria-hidden="true">
			{#each STATIONS as station, i (station.id)}
				{@const s = stretch(i, bench.stations[station.id].state)}
				<path
					d={s.d}
					fill="none"
					stroke={s.colour}
					stroke-width="2.6"
					stroke-linecap="round"
					stroke-dasharray={s.dash}
				/>
			{/each}
			<path
				d="M{pad + (STATIONS.length - 1) * step + 13} {y}H{width}"
				stroke="var(--slip-edge)"
				stroke-width="2.6"
				stroke-linecap="round"
				stroke-dasharray="7 10"
			/>
			{#each STATIONS as station, i (station.id)}
				{@const { state, knots } = bench.stations[station.id]}
				<g transform="translate({pad + i * step} {y})" fill="none" stroke-width="2.4" stroke-linecap="round">
					{#if state === 'knot'}
						<path d="M-12 5c17 0 19-15 12-15s-5 15 12 15" stroke="var(--rust)" />
						<text x="15" y="-4" fill="var(--rust)" font-size="13" font-weight="700" stroke="none"
							>{knots}</text
						>
					{:else if state === 'even'}
						<path d="M-5 5L5 -5M-5 -5L5 5" stroke="var(--madder)" />
					{:else if state === 'loose'}
						<path d="M-7 0c3-8 11-8 8 0s6 6 6-1" stroke="var(--weld)" />
					{:else}
						<path d="M-6 0h12" stroke="var(--slip-edge)" />
					{/if}
				</g>
			{/each}
		</svg>
		{#each STATIONS as station, i (station.id)}
			{@const { line, state } = bench.stations[station.id]}
			<button
				class="station"
				class:here={bench.station === station.id}
				class:stopped={state === 'knot'}
				style:left="{pad + i * step}px"
				style:width="{step - 4}px"
				aria-current={bench.station === station.id ? 'step' : undefined}
				data-station={station.id}
				onclick={() => onpick(station.id)}
			>
				<span class="name">{station.word}</span><span class="how">{line}</span>
			</button>
		{/each}
	</div>
	<button
		class="thumb right"
		aria-pressed={bench.finding}
		aria-description="Any tool, station, file, unit, setting or page of help by a word (/)."
		onclick={() => (bench.finding = !bench.finding)}
		data-act="find"
	>
		<svg viewBox="0 0 32 26" width="32" height="26" aria-hidden="true"
			><path d="M6 22L24 4" /><ellipse
				cx="22.6"
				cy="5.4"
				rx="4.6"
				ry="2.4"
				transform="rotate(-45 22.6 5.4)"
			/><path class="plus" d="M22 6c6 1 7 8 1 10s-12 2-10 7" /></svg
		>
		<span>find</span>
	</button>
</nav>

<style>
	.thread {
		position: relative;
		height: 64px;
		background: linear-gradient(to top, var(--paper) 70%, transparent);
		pointer-events: none;
	}
	.sewn {
		position: absolute;
		inset: 0;
	}
	.narrow .sewn {
		inset: 0 56px;
		overflow-x: auto;
		scrollbar-width: none;
		pointer-events: auto;
	}
	.narrow .thumb {
		width: 56px;
	}
	.sewn > svg {
		position: absolute;
		top: 4px;
		left: 0;
		overflow: visible;
	}
	.station,
	.thumb {
		pointer-events: auto;
		position: absolute;
		top: 0;
		height: 64px;
		background: none;
		border: 0;
		color: var(--ink);
		font: inherit;
		cursor: pointer;
		text-align: center;
		line-height: 1.1;
	}
	.station {
		transform: translateX(-50%);
		padding: 31px 0 0;
	}
	.thumb {
		width: 60px;
		padding: 6px 0 0;
		display: grid;
		justify-items: center;
		align-content: start;
		gap: 1px;
		font-size: var(--type-small);
		background: var(--paper);
	}
	.thumb svg {
		fill: none;
		stroke: currentColor;
		stroke-width: 2;
		stroke-linecap: round;
	}
	.thumb .plus {
		stroke: var(--madder);
	}
	.left {
		left: 0;
	}
	.right {
		right: 0;
	}
	.thumb[aria-pressed='true'] {
		background: var(--wash);
		font-weight: 700;
	}
	.name {
		display: block;
		font-weight: 600;
	}
	.here .name {
		text-decoration: underline wavy 1.6px var(--madder);
		text-underline-offset: 3px;
	}
	.how {
		display: block;
		font-size: var(--type-least);
		color: var(--soft);
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
		margin-top: 3px;
	}
	.stopped .how {
		color: var(--rust);
	}
</style>

<script lang="ts">
	/** The sewn line from the picture to the machine: its stitches show how the work stands. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Station } from '$lib/stores/stations';
	import type { StitchState } from '$lib/stores/stations';

	let { bench, onpick }: { bench: Bench; onpick: (station: Station) => void } = $props();

	const STATIONS: { id: Station; word: string }[] = [
		{ id: 'picture', word: 'Picture' },
		{ id: 'size', word: 'Size' },
		{ id: 'trace', word: 'Trace' },
		{ id: 'mend', word: 'Mend' },
		{ id: 'build', word: 'Build' },
		{ id: 'offset', word: 'Offset' },
		{ id: 'sheet', word: 'Sheet' },
		{ id: 'cut', word: 'Cut' }
	];
	let width = $state(1200);
	const pad = 64;
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
		return { d, dash: '1.5 9', colour: 'var(--soft)' };
	}
</script>

<nav class="thread" aria-label="From the picture to the machine" bind:clientWidth={width}>
	<svg width="100%" height="34" aria-hidden="true">
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
			stroke="var(--soft)"
			stroke-width="2.6"
			stroke-linecap="round"
			stroke-dasharray="1.5 9"
		/>
		{#each STATIONS as station, i (station.id)}
			{@const { state, knots } = bench.stations[station.id]}
			<g transform="translate({pad + i * step} {y})" fill="none" stroke-width="2.4" stroke-linecap="round">
				{#if state === 'knot'}
					<path d="M-12 5c17 0 19-15 12-15s-5 15 12 15" stroke="var(--rust)" />
					<text x="15" y="-4" fill="var(--rust)" font-size="13" font-weight="700" stroke="none">{knots}</text>
				{:else if state === 'even'}
					<path d="M-5 5L5 -5M-5 -5L5 5" stroke="var(--madder)" />
				{:else if state === 'loose'}
					<path d="M-7 0c3-8 11-8 8 0s6 6 6-1" stroke="var(--weld)" />
				{:else}
					<ellipse rx="3" ry="5.5" stroke="var(--soft)" stroke-width="1.6" />
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
			aria-current={bench.station === station.id ? 'step' : undefined}
			aria-label="{station.word}: {line}"
			data-station={station.id}
			onclick={() => onpick(station.id)}
		>
			<span class="name">{station.word}</span><span class="how">{line}</span>
		</button>
	{/each}
</nav>

<style>
	.thread {
		position: absolute;
		inset: auto 0 0 0;
		height: 66px;
		background: linear-gradient(to top, var(--paper) 70%, transparent);
		pointer-events: none;
	}
	svg {
		position: absolute;
		top: 4px;
		left: 0;
		overflow: visible;
	}
	.station {
		pointer-events: auto;
		position: absolute;
		top: 0;
		transform: translateX(-50%);
		width: 128px;
		height: 66px;
		padding: 32px 0 0;
		background: none;
		border: 0;
		color: var(--ink);
		font: inherit;
		cursor: pointer;
		text-align: center;
		line-height: 1.1;
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
		font-size: 12.5px;
		color: var(--soft);
		white-space: nowrap;
		margin-top: 2px;
	}
	.stopped .how {
		color: var(--rust);
	}
	@media (max-width: 760px) {
		.how {
			display: none;
		}
		.station {
			width: 74px;
		}
	}
</style>

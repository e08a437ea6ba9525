<script lang="ts">
	/** The first help: a sheet that lies at the side and stops nothing, with the job of each station in small moving drawings. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { STATIONS } from '$lib/stores/stations';
	import { HELP } from './help-pages';

	let { bench }: { bench: Bench } = $props();
	const at = $derived(STATIONS.findIndex((s) => s.id === bench.helpOf));
	const station = $derived(STATIONS[at]);
	const go = (by: number) => (bench.helpOf = STATIONS[(at + by + STATIONS.length) % STATIONS.length].id);
</script>

{#if bench.sheet === 'help'}
	<aside class="help slip" aria-label="How the work goes" data-paper data-testid="help">
		<p class="head">
			<b>{station.word}</b>
			<span class="quiet">{at + 1} of {STATIONS.length}</span>
			<button class="word" onclick={() => go(-1)} data-act="help-before">before</button>
			<button class="word" onclick={() => go(1)} data-act="help-next">next</button>
			<button class="word" onclick={() => (bench.sheet = undefined)} data-act="leave-help">Leave</button>
		</p>
		<ol>
			{#each HELP[bench.helpOf] as { say, strokes } (say)}
				<li>
					<svg viewBox="0 0 96 60" width="96" height="60" aria-hidden="true">
						{#each strokes as [d, behaviour, thread], i (i)}
							<path {d} class={behaviour} pathLength="100" style:stroke="var(--{thread ?? 'ink'})" />
						{/each}
					</svg>
					<span>{say}</span>
				</li>
			{/each}
		</ol>
	</aside>
{/if}

<style>
	.help {
		position: absolute;
		top: 70px;
		left: 30px;
		width: 300px;
		padding: 8px 14px;
		z-index: 6;
	}
	.head {
		display: flex;
		align-items: baseline;
		gap: 8px;
		margin: 0;
	}
	.head b {
		flex: 1;
		font-size: var(--type-large);
	}
	.head .word {
		font-weight: 400;
		padding: 2px;
	}
	ol {
		list-style: none;
		margin: 6px 0 0;
		padding: 0;
		display: grid;
		gap: 8px;
	}
	li {
		display: grid;
		grid-template-columns: 96px 1fr;
		gap: 10px;
		align-items: center;
		font-size: var(--type-small);
	}
	svg {
		background: var(--paper);
		border-radius: 3px;
	}
	path {
		fill: none;
		stroke-width: 2.4;
		stroke-linecap: round;
		stroke-linejoin: round;
	}
	.drawn {
		stroke-dasharray: 100;
		animation: drawn 3.6s infinite ease-in-out;
	}
	.comes {
		animation: comes 3.6s infinite ease-in-out;
	}
	.goes {
		animation: goes 3.6s infinite ease-in-out;
	}
	.moves {
		animation: moves 3.6s infinite ease-in-out;
	}
	@keyframes drawn {
		0%,
		10% {
			stroke-dashoffset: 100;
		}
		60%,
		100% {
			stroke-dashoffset: 0;
		}
	}
	@keyframes comes {
		0%,
		40% {
			opacity: 0;
		}
		60%,
		100% {
			opacity: 1;
		}
	}
	@keyframes goes {
		0%,
		35% {
			opacity: 1;
		}
		60%,
		100% {
			opacity: 0.12;
		}
	}
	@keyframes moves {
		0%,
		15% {
			transform: translate(0, 0);
		}
		55%,
		100% {
			transform: translate(12px, -6px);
		}
	}
	@media (prefers-reduced-motion: reduce) {
		path {
			animation: none;
			stroke-dashoffset: 0;
		}
	}
</style>

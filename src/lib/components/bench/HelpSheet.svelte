<script lang="ts">
	/**
	 * The help: a sheet that lies at the side and stops nothing. The job of each station in small moving drawings, and what each
	 * operation is for.
	 */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { STATIONS } from '$lib/stores/stations';
	import { OPERATION_HELP } from '$lib/stores/help/sheets';
	import { HELP } from './help-pages';
	import OperationHelp from './OperationHelp.svelte';

	let { bench }: { bench: Bench } = $props();
	const kind = $derived(/^of (.+)$/.exec(bench.helpOf)?.[1] ?? '');
	const operation = $derived(OPERATION_HELP[kind]);
	const of = $derived(operation?.station ?? bench.helpOf);
	const at = $derived(
		Math.max(
			0,
			STATIONS.findIndex((s) => s.id === of)
		)
	);
	const station = $derived(STATIONS[at]);
	const operations = $derived(
		Object.entries(OPERATION_HELP).filter(([, help]) => help.station === station.id)
	);
	const go = (by: number) => (bench.helpOf = STATIONS[(at + by + STATIONS.length) % STATIONS.length].id);
</script>

{#if bench.sheet === 'help'}
	<aside class="help slip" aria-label="How the work goes" data-paper data-testid="help">
		<p class="head">
			<b>{operation?.word ?? station.word}</b>
			<span class="quiet">{at + 1} of {STATIONS.length}</span>
			<button class="word" onclick={() => go(-1)} data-act="help-before">before</button>
			<button class="word" onclick={() => go(1)} data-act="help-next">next</button>
			<button class="word" onclick={() => (bench.sheet = undefined)} data-act="leave-help">Leave</button>
		</p>
		{#if operation}<OperationHelp {kind} />{:else}
			<ol>
				{#each HELP[station.id] as { say, strokes } (say)}
					<li>
						<svg viewBox="0 0 96 60" width="96" height="60" aria-hidden="true">
							{#each strokes as [d, behaviour, thread], i (i)}
								<path {d} class={behaviour} pathLength="100" style:stroke="var(--{thread ?? 'ink'})" />
							{/each}
						</svg>
						<span>{say}</span>
					</li>
				{/each}
			</ol>{/if}
		<p class="more">
			{#if operation}<button class="word" onclick={() => (bench.helpOf = station.id)}>{station.word}</button
				>{/if}
			{#each operations as [other, help] (other)}
				{#if other !== kind}
					<button class="word" onclick={() => (bench.helpOf = `of ${other}`)} data-help={other}
						>{help.word}</button
					>
				{/if}
			{/each}
		</p>
	</aside>
{/if}

<style>
	.help {
		position: absolute;
		top: 70px;
		left: 30px;
		width: min(300px, calc(100vw - 40px));
		max-height: calc(100vh - 220px);
		overflow: auto;
		padding: 8px 14px;
		z-index: 6;
	}
	.head {
		display: flex;
		align-items: baseline;
		gap: 8px;
		margin: 0;
	}
	.more {
		display: flex;
		flex-wrap: wrap;
		gap: 0 12px;
		margin: 8px 0 0;
		border-top: 1px dashed var(--slip-edge);
		padding-top: 4px;
	}
	.more .word {
		font-weight: 400;
		font-size: var(--type-small);
		padding: 4px 0;
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

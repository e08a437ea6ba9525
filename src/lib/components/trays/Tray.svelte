<script lang="ts">
	/** What lies over the thread: the tools of a station, or what an operation asks for. */
	import { NOT_LOADED } from '$lib/stores/asked';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { BUILD_GROUPS } from '$lib/stores/commands/command';
	import { COMMANDS, type Command } from '$lib/stores/commands/commands';
	import { formatNumber } from '$lib/core/units';
	import { onMount } from 'svelte';
	import { loadReckonings } from '$lib/stores/reckonings';
	import { loadTrays, stationTray, trayOf } from './operation-trays';
	import { whenIdle } from '../parts/later';
	import Tool from '../parts/Tool.svelte';

	let { bench }: { bench: Bench } = $props();
	const grouped = () => import('../parts/Groups.svelte');
	const penTray = import('./PenTray.svelte');
	const operation = $derived(bench.operation);
	// Once the bench stands.
	// What is not needed at once comes while nothing else is to be done.
	onMount(() => {
		setTimeout(() => void loadReckonings().then(loadTrays), 500);
		// The first number takes long to write: the browser looks up how.
		whenIdle(() => void formatNumber(0.5, 1));
	});
	/** What is of use only where something is to be mended is not shown otherwise. */
	const tools = $derived(
		COMMANDS.filter(
			(c) =>
				c.station === bench.station &&
				c.drawing &&
				(bench.readiness.faults.length > 0 || !['next-knot', 'mend-all'].includes(c.id))
		)
	);
	/** Where there are many they stand in groups, of which one is shown. */
	const words = $derived(BUILD_GROUPS.filter((word) => tools.some((c) => c.group === word)));
	const groups = $derived(
		words.map((word) => ({ value: word, word, content: group, of: tools.filter((c) => c.group === word) }))
	);
	const stops = $derived(bench.readiness.faults.some((f) => f.kind !== 'no-size'));
	const fault = $derived(bench.readiness.faults[bench.readiness.at]);
</script>

{#snippet ofStation(word: Parameters<typeof stationTray>[0])}
	{#await stationTray(word) then StationTray}<StationTray {bench} />{:catch}{NOT_LOADED}{/await}
{/snippet}
{#snippet group(of: readonly Command[])}
	{#each of as command (command.id)}<Tool {bench} {command} />{/each}
{/snippet}

<section
	class="tray slip"
	class:wide={operation ?? bench.looking.open}
	class:leavable={!operation && !bench.looking.open && !bench.pen}
	class:charted={operation?.kind === 'simplify' || (!operation && bench.looking.open)}
	aria-label="Tools"
>
	{#if operation}
		{#await trayOf(operation.kind) then OperationTray}<OperationTray
				{bench}
				{operation}
			/>{:catch}{NOT_LOADED}{/await}
	{:else if bench.looking.open}{@render ofStation('look')}
	{:else if bench.pen}
		{@const pen = bench.pen}
		{#await penTray then { default: PenTray }}<PenTray {bench} {pen} />{/await}
	{:else if bench.station === 'picture' || bench.station === 'size' || bench.station === 'sheet' || bench.station === 'cut'}
		{@render ofStation(bench.station)}
	{:else}
		{#if bench.station === 'mend'}
			{#if bench.selection.enteredOutline && bench.tuning}{@render ofStation('moving')}
			{:else if stops && !bench.selection.enteredOutline}{@render ofStation('faults')}
			{:else if fault && !bench.selection.enteredOutline}<p>{fault.why}</p>{/if}
		{/if}
		<div class="row tools">
			{#if groups.length > 1}{#await grouped() then { default: Groups }}<Groups
						{groups}
						label="Tools"
					/>{/await}
			{:else}{#each tools as command (command.id)}<Tool {bench} {command} />{/each}{/if}
			{#if bench.station === 'trace' || bench.station === 'offset'}
				<p class="quiet aside">
					{#if bench.station === 'trace'}{bench.references.length
							? 'The picture becomes closed outlines; you see them before you keep them.'
							: 'There is no picture to trace yet.'}
					{:else}{bench.selection.selected.size
							? `Beside ${bench.selection.selected.size === 1 ? `"${bench.selection.selectedOutlines[0]?.name}"` : `${bench.selection.selected.size} outlines`}.`
							: 'Beside everything; select an outline to take only that.'}{/if}
				</p>
			{/if}
		</div>
	{/if}
	{#if !operation && !bench.looking.open && !bench.pen}
		<button
			class="word away"
			onclick={() => (bench.trayOpen = false)}
			aria-description="Puts these tools away; a word on the thread brings them back (Esc)."
			data-act="leave-tray">Leave</button
		>
	{/if}
</section>

<style>
	.tray {
		position: relative;
		padding: 6px 12px;
		max-width: calc(100vw - 16px);
		display: grid;
		gap: 4px;
		align-items: center;
	}
	/* Room for the word that puts it away. */
	.leavable {
		padding-right: 72px;
	}
	.wide {
		width: calc(100vw - 16px);
	}
	/* A chart is high: the tray is narrower for it. */
	.charted {
		width: min(880px, calc(100vw - 16px));
	}
	.tools {
		gap: 0 2px;
	}
	p {
		margin: 0;
	}
	/* On a phone a tray takes a part of the height, its tools lie in one row, and what leaves it stays in sight. */
	@media (max-width: 720px) {
		.tray {
			max-height: 44vh;
			overflow: auto;
			max-width: calc(100vw - 8px);
			padding: 4px 8px;
		}
		.wide,
		.charted {
			width: calc(100vw - 8px);
		}
		.leavable {
			padding-right: 8px;
		}
		.tools {
			flex-wrap: nowrap;
			overflow-x: auto;
		}
		.tray .away {
			position: sticky;
			bottom: -4px;
			justify-self: end;
			background: var(--slip);
		}
	}
	.aside {
		max-width: 320px;
		padding-left: 10px;
	}
	.away {
		position: absolute;
		right: 8px;
		bottom: 6px;
		font-weight: 400;
		color: var(--soft);
	}
</style>

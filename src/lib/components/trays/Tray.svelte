<script lang="ts">
	/** What lies over the thread: the tools of a station, or what an operation asks for. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { BUILD_GROUPS } from '$lib/stores/commands/command';
	import { COMMANDS, type Command } from '$lib/stores/commands/commands';
	import CutTray from './CutTray.svelte';
	import FaultsRow from './FaultsRow.svelte';
	import LookTray from './LookTray.svelte';
	import MovingRow from './MovingRow.svelte';
	import PenTray from './PenTray.svelte';
	import PictureTray from './PictureTray.svelte';
	import SheetsRow from './SheetsRow.svelte';
	import SizeTray from './SizeTray.svelte';
	import { onMount } from 'svelte';
	import { loadReckonings } from '$lib/stores/reckonings';
	import { loadTrays, trayOf } from './operation-trays';
	import Groups from '../parts/Groups.svelte';
	import Tool from '../parts/Tool.svelte';

	let { bench }: { bench: Bench } = $props();
	const operation = $derived(bench.operation);
	// Once the bench stands.
	// What is not needed at once comes while nothing else is to be done.
	onMount(() => void setTimeout(() => (loadTrays(), void loadReckonings()), 500));
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
		{#await trayOf(operation.kind) then OperationTray}<OperationTray {bench} {operation} />{/await}
	{:else if bench.looking.open}<LookTray {bench} />
	{:else if bench.pen}<PenTray {bench} pen={bench.pen} />
	{:else if bench.station === 'picture'}<PictureTray {bench} />
	{:else if bench.station === 'size'}<SizeTray {bench} />
	{:else if bench.station === 'sheet'}<SheetsRow {bench} />
	{:else if bench.station === 'cut'}<CutTray {bench} />
	{:else}
		{#if bench.station === 'mend'}
			{#if bench.selection.enteredOutline && bench.tuning}<MovingRow {bench} />
			{:else if stops && !bench.selection.enteredOutline}<FaultsRow {bench} />
			{:else if fault && !bench.selection.enteredOutline}<p>{fault.why}</p>{/if}
		{/if}
		<div class="row tools">
			{#if groups.length > 1}<Groups {groups} label="Tools" />
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

<script lang="ts">
	/** The station of the sheet: the material that pieces are cut from, its size and the margin that stays free. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { nextRank, sheetsOf, type Sheet } from '$lib/core/document/drawing';
	import { output } from '$lib/core/document/output';
	import { isEmptyBox, unionBox } from '$lib/core/geometry/measure';
	import { boxOf } from '$lib/core/geometry/pick';
	import { newId } from '$lib/stores/ids';
	import { COMMANDS } from '$lib/stores/commands/commands';
	import NumberField from '../parts/NumberField.svelte';
	import Tool from '../parts/Tool.svelte';

	let { bench }: { bench: Bench } = $props();
	const sheets = $derived(sheetsOf(bench.drawing));
	let chosen = $state<string | undefined>();
	const sheet = $derived(sheets.find((one) => one.id === chosen) ?? sheets[0]);
	const tools = COMMANDS.filter((c) => c.station === 'sheet');
	/** mm: sheets to begin with (ISO 216, and common practice for boards and felt). */
	const READY = [
		{ word: 'A4', width: 297, height: 210 },
		{ word: 'A3', width: 420, height: 297 },
		{ word: 'Board 600 × 400', width: 600, height: 400 }
	];
	const set = (sheet: Sheet, changed: Partial<Sheet>) =>
		bench.commit('Change the sheet', { put: [{ ...sheet, ...changed }] });
	const MARGIN = 5;
	/** mm between sheets. */
	const BESIDE = 20;
	function another(like: Sheet): void {
		const { edge: _edge, spoilt: _spoilt, ...plain } = like;
		const x = Math.max(...sheets.map((one) => one.x + one.width)) + BESIDE;
		const put = {
			...plain,
			id: newId(),
			rank: nextRank(bench.drawing),
			x,
			name: `${like.name} ${sheets.length + 1}`
		};
		if (bench.commit('Another sheet', { put: [put] })) bench.fitAll();
	}
	/** The sheet comes under what is cut, its margin free at the lower left. */
	function add(width: number, height: number, word: string): void {
		const box = unionBox(output(bench.drawing).lines.map((line) => boxOf(line.path)));
		const at = isEmptyBox(box) ? { x: 0, y: 0 } : { x: box.x0 - MARGIN, y: box.y0 - MARGIN };
		const sheet: Sheet = {
			type: 'sheet',
			id: newId(),
			rank: nextRank(bench.drawing),
			name: word,
			...at,
			width,
			height,
			margin: MARGIN
		};
		if (bench.commit(`Lay out a sheet`, { put: [sheet] })) bench.fitAll();
	}
</script>

{#if sheet}
	<div class="row" data-testid="sheet">
		{#if sheets.length > 1}
			<div class="which" role="tablist" aria-label="Sheets">
				{#each sheets as one (one.id)}
					<button
						role="tab"
						aria-selected={one.id === sheet.id}
						aria-description="Its size and margin; pieces fill sheets from left to right."
						onclick={() => (chosen = one.id)}>{one.name}</button
					>
				{/each}
			</div>
		{:else}<b>{sheet.name}</b>{/if}
		<NumberField
			label="Wide"
			says="How wide the material is."
			unit={bench.unit}
			value={sheet.width}
			least={1}
			onset={(width) => set(sheet, { width })}
		/>
		<NumberField
			label="High"
			says="How high the material is."
			unit={bench.unit}
			value={sheet.height}
			least={1}
			onset={(height) => set(sheet, { height })}
		/>
		<NumberField
			label="Margin"
			says="How much of its border stays free."
			unit={bench.unit}
			value={sheet.margin}
			least={0}
			most={Math.min(sheet.width, sheet.height) / 2}
			onset={(margin) => set(sheet, { margin })}
		/>
		<NumberField
			label="Grain"
			says="How the grain of the material runs: 0° is from left to right. Pieces with a grain of their own are laid by it."
			kind="number"
			suffix="°"
			digits={1}
			width={7}
			placeholder="none"
			value={sheet.grain}
			onset={(grain) => set(sheet, { grain })}
		/>
		{#if sheet.grain !== undefined}
			<button
				class="word"
				data-act="no-grain"
				onclick={() => {
					const { grain: _, ...rest } = sheet;
					bench.commit('No grain', { put: [rest] });
				}}>no grain</button
			>
		{/if}
		<button
			class="word"
			data-act="another-sheet"
			aria-description="One more like it, to its right: what finds no room on the first lies there."
			onclick={() => another(sheet)}>another</button
		>
		<button class="word" onclick={() => bench.commit('Take the sheet away', { remove: [sheet.id] })}
			>take it away</button
		>
	</div>
{:else}
	<div class="row">
		<span class="quiet">What is it cut from?</span>
		{#each READY as { word, width, height } (word)}
			<button class="word" data-sheet={word} onclick={() => add(width, height, word)}>{word}</button>
		{/each}
	</div>
{/if}
{#if bench.outlines.length}
	<div class="row">
		{#each tools as command (command.id)}<Tool {bench} {command} />{/each}
	</div>
{/if}

<style>
	.which {
		display: inline-flex;
		gap: 2px;
	}
	.which button {
		height: 30px;
		padding: 0 10px;
		border: none;
		border-bottom: 2px solid transparent;
		background: none;
		color: inherit;
		font: inherit;
	}
	.which button[aria-selected='true'] {
		border-bottom-color: var(--madder);
		font-weight: 600;
	}
</style>

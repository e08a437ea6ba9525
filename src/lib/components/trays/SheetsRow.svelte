<script lang="ts">
	/** The station of the sheet: the material that pieces are cut from, its size and the margin that stays free. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { nextRank, sheetsOf, type Sheet } from '$lib/core/document/drawing';
	import { output } from '$lib/core/document/output';
	import { isEmptyBox, unionBox } from '$lib/core/geometry/measure';
	import { boxOf } from '$lib/core/geometry/pick';
	import { newId } from '$lib/stores/ids';
	import NumberField from '../parts/NumberField.svelte';

	let { bench }: { bench: Bench } = $props();
	const sheets = $derived(sheetsOf(bench.drawing));
	/** mm: sheets to begin with (ISO 216, and common practice for boards and felt). */
	const READY = [
		{ word: 'A4', width: 297, height: 210 },
		{ word: 'A3', width: 420, height: 297 },
		{ word: 'Board 600 × 400', width: 600, height: 400 }
	];
	const set = (sheet: Sheet, changed: Partial<Sheet>) =>
		bench.commit('Change the sheet', { put: [{ ...sheet, ...changed }] });
	const MARGIN = 5;
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

{#each sheets as sheet (sheet.id)}
	<div class="row" data-testid="sheet">
		<b>{sheet.name}</b>
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
{/each}

<script lang="ts">
	/** The station of the picture: brought in or scanned; one picture at a time is faded, hidden, turned, taken in hand. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { COMMANDS } from '$lib/stores/commands/commands';
	import Tool from '../parts/Tool.svelte';
	import PictureChoice from './PictureChoice.svelte';
	import PictureRow from './PictureRow.svelte';
	import ScanRow from './ScanRow.svelte';

	let { bench }: { bench: Bench } = $props();
	const tools = COMMANDS.filter((c) => c.station === 'picture');
	const reference = $derived(bench.pictures.shownReference);
</script>

<div class="row">
	{#each tools as command (command.id)}<Tool {bench} {command} />{/each}
	{#if bench.references.length === 0}
		<p class="quiet">or drop one here, or paste it: PNG, JPEG, WebP, GIF, BMP; drawings as SVG and DXF.</p>
	{:else if bench.references.length > 1}
		<PictureChoice {bench} says="Whose settings are shown." />
	{/if}
</div>
{#if bench.scanning}<ScanRow {bench} onend={() => (bench.scanning = false)} />
{:else if reference}<PictureRow {bench} {reference} />{/if}
{#if bench.pictures.sizing?.purpose === 'level' && reference}
	<p class="ask" role="status">
		Click two points of "{reference.name}" on a line that should be level or plumb.
	</p>
{/if}

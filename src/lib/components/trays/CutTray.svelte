<script lang="ts">
	/** The last station: what stops the cut, what goes out and how it looks, and the files it goes into. */
	import { output } from '$lib/core/document/output';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { goingOut } from '$lib/stores/files/going-out.svelte';
	import ToolDrawing from '../parts/ToolDrawing.svelte';

	interface Props {
		bench: Bench;
		onexport: (format: 'svg' | 'dxf' | 'polylines' | 'file') => void;
	}
	let { bench, onexport }: Props = $props();
	const stopping = $derived(bench.readiness.faults.filter((f) => f.stops));
	/** How many lines and marks go out. */
	const going = $derived.by(() => {
		const { lines, marks } = output(bench.drawing, goingOut.question(bench));
		return lines.length + marks.length;
	});
	const layers = $derived(goingOut.layers(bench));
	const FILES = [
		{ id: 'svg', drawing: 'svg', word: 'SVG', more: 'true mm' },
		{ id: 'dxf', drawing: 'dxf', word: 'DXF', more: 'arcs and curves' },
		{ id: 'polylines', drawing: 'dxf', word: 'DXF', more: 'polylines only' }
	] as const;
</script>

{#if stopping.length}
	<p class="loose">
		{stopping.length}
		{stopping.length === 1 ? 'thing stops' : 'things stop'} the cut: {stopping[0].why}
		<button class="word" onclick={() => bench.readiness.next()}>go there</button>
	</p>
{:else if bench.outlines.length}
	<p>
		Nothing stops the cut. {going}
		{going === 1 ? 'line goes' : 'lines go'} out in true millimetres.{going < bench.outlines.length
			? ' What is hidden, held back or a guide stays here.'
			: ''}
	</p>
{/if}
<div class="row choices">
	<button
		class="word"
		aria-pressed={goingOut.onlyPicked}
		disabled={!bench.selection.selected.size && !goingOut.onlyPicked}
		title="Write out only what is selected"
		data-act="only-picked"
		onclick={() => (goingOut.onlyPicked = !goingOut.onlyPicked)}
		>{goingOut.onlyPicked ? 'only what is selected' : 'everything'}</button
	>
	<button
		class="word"
		aria-pressed={goingOut.filled}
		title="How closed pieces look in the SVG"
		data-act="filled-out"
		onclick={() => goingOut.setFilled(!goingOut.filled)}
		>{goingOut.filled ? 'filled pieces' : 'hair lines'}</button
	>
	{#if layers.length > 1}
		<span class="quiet">layers</span>
		{#each layers as layer (layer.name)}
			<button
				class="word"
				aria-pressed={layer.goes}
				data-layer-out={layer.name}
				title={layer.goes ? 'Its lines are written out' : 'Its lines stay here'}
				onclick={() => goingOut.turn(layer.name)}>{layer.goes ? layer.name : `without ${layer.name}`}</button
			>
		{/each}
	{/if}
</div>
<div class="row tools">
	{#each FILES as file (file.id)}
		<button class="big" disabled={going === 0} onclick={() => onexport(file.id)} data-export={file.id}
			><ToolDrawing name={file.drawing} /><span>{file.word}</span><small>{file.more}</small></button
		>
	{/each}
	<button class="big" onclick={() => onexport('file')} data-export="file"
		><ToolDrawing name="file" /><span>Whole drawing</span><small>one file, with pictures</small></button
	>
</div>

<style>
	p {
		margin: 0;
	}
	.loose {
		color: var(--weld);
	}
	.choices {
		flex-wrap: wrap;
		font-size: 14px;
	}
</style>

<script lang="ts">
	/** The last station: what stops the cut, what goes out and how it looks, and the files it goes into. */
	import { output } from '$lib/core/document/output';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { COMMANDS } from '$lib/stores/commands/commands';
	import { goingOut } from '$lib/stores/files/going-out.svelte';
	import Tool from '../parts/Tool.svelte';

	let { bench }: { bench: Bench } = $props();
	const stopping = $derived(bench.readiness.faults.filter((f) => f.stops));
	/** How many lines and marks go out. */
	const going = $derived.by(() => {
		const { lines, marks } = output(bench.drawing, goingOut.question(bench));
		return lines.length + marks.length;
	});
	const layers = $derived(goingOut.layers(bench));
	const tools = COMMANDS.filter((c) => c.station === 'cut');
</script>

{#if stopping.length}
	<p class="loose">
		{stopping.length}
		{stopping.length === 1 ? 'thing stops' : 'things stop'} the cut: {stopping[0].why}
		<button class="word" onclick={() => bench.readiness.next()} aria-description="Goes to the first of them."
			>go there</button
		>
	</p>
{:else if bench.outlines.length}
	<p>
		Nothing stops the cut. {going}
		{going === 1 ? 'line goes' : 'lines go'} out in true millimetres.{going < bench.outlines.length
			? ' What is hidden, held back or a guide stays here.'
			: ''}
	</p>
{/if}
<div class="row">
	<div class="row">
		{#each tools as command (command.id)}<Tool {bench} {command} />{/each}
	</div>
	<div class="row choices">
		<button
			class="word"
			aria-pressed={goingOut.onlyPicked}
			disabled={!bench.selection.selected.size && !goingOut.onlyPicked}
			aria-description="Whether everything is written out, or only what is selected."
			data-act="only-picked"
			onclick={() => (goingOut.onlyPicked = !goingOut.onlyPicked)}
			>{goingOut.onlyPicked ? 'only what is selected' : 'everything'}</button
		>
		<button
			class="word"
			aria-pressed={goingOut.filled}
			aria-description="Whether closed pieces are filled in the SVG, or are hair lines."
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
					aria-description={layer.goes ? 'Its lines are written out.' : 'Its lines stay here.'}
					onclick={() => goingOut.turn(layer.name)}
					>{layer.goes ? layer.name : `without ${layer.name}`}</button
				>
			{/each}
		{/if}
	</div>
</div>

<style>
	/* What is said, and when, moves no tool from under the pointer. */
	p {
		margin: 0;
		width: 0;
		min-width: 100%;
	}
	.loose {
		color: var(--weld);
	}
</style>

<script lang="ts">
	/** What one can do first, on a drawing in which nothing lies yet. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import ToolDrawing from '../parts/ToolDrawing.svelte';

	let { bench }: { bench: Bench } = $props();
	const WORDS = [
		['bring-in', 'bring in a picture', 'to trace it'],
		['draw-line', 'draw', 'line by line'],
		['draw-shape', 'take a ready shape', 'circle, rectangle, star …'],
		['bring-in', 'open a file', 'SVG, DXF, a drawing']
	] as const;
	const isEmpty = $derived(
		bench.outlines.length === 0 &&
			bench.references.length === 0 &&
			!bench.pen &&
			!bench.finding &&
			!bench.scanning &&
			!bench.opening.reading
	);
</script>

{#if isEmpty}
	<div class="first" data-testid="first" role="group" aria-label="What to begin with">
		{#each WORDS as [id, word, more], i (i)}
			{@const command = commandOf(id)}
			<button onclick={() => useCommand(bench, command)} aria-description={command.line} data-first={word}>
				<ToolDrawing name={i === 3 ? 'file' : (command.drawing ?? '')} />
				<b>{word}</b><span>{more}</span>
			</button>
		{/each}
		<p>or drop a picture, an SVG, a DXF or a drawing anywhere here; or paste one.</p>
	</div>
{/if}

<style>
	.first {
		position: absolute;
		inset: 30% auto auto 50%;
		transform: translateX(-50%);
		display: grid;
		grid-template-columns: repeat(4, 150px);
		gap: 8px;
		justify-items: center;
	}
	button {
		display: grid;
		justify-items: center;
		gap: 2px;
		width: 100%;
		padding: 14px 6px;
		background: none;
		border: 1.5px dashed var(--slip-edge);
		border-radius: 4px;
		font: inherit;
		color: var(--ink);
		cursor: pointer;
	}
	button:hover {
		background: var(--wash);
	}
	span,
	p {
		color: var(--soft);
		font-size: var(--type-small);
	}
	p {
		grid-column: 1 / -1;
		margin: 4px 0;
	}
	@media (max-width: 700px) {
		.first {
			grid-template-columns: repeat(2, 150px);
		}
	}
</style>

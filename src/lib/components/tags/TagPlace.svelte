<script lang="ts">
	/** On the tag: where a chosen one of nine places of what is selected lies; typed, all of it moves there. */
	import { placeOutlines } from '$lib/core/document/edits/transform';
	import { moveBy } from '$lib/core/geometry/maps';
	import type { Box } from '$lib/core/geometry/segment';
	import type { Bench } from '$lib/stores/bench.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, box }: { bench: Bench; box: Box } = $props();
	const WORDS = ['left', 'middle', 'right'] as const;
	const HEIGHTS = ['top', 'middle', 'bottom'] as const;
	/** Chosen of the nine: 0 to 2 across, 0 to 2 down; of what is round its middle at first. */
	const ROUND = ['circle', 'ellipse', 'polygon', 'star', 'arc'];
	const isRound = $derived(
		bench.selection.loose.length === 1 &&
			ROUND.includes(
				String((bench.selection.loose[0].recipe?.settings as { shape?: string } | undefined)?.shape)
			)
	);
	let across = $derived(isRound ? 1 : 0);
	let down = $derived(isRound ? 1 : 2);
	const x = $derived(box.x0 + ((box.x1 - box.x0) * across) / 2);
	const y = $derived(box.y1 - ((box.y1 - box.y0) * down) / 2);
	function move(dx: number, dy: number): void {
		const { loose, tied } = bench.selection;
		if (tied.length) bench.offerPlain(tied);
		const all = [...loose, ...bench.within.outlines];
		bench.commit(
			loose.length === 1 ? `Place "${loose[0].name}"` : `Place ${loose.length} outlines`,
			placeOutlines(bench.drawing, all, moveBy(dx, dy))
		);
	}
</script>

<div class="part nine" data-testid="place">
	<span class="grid" role="group" aria-label="Which of its places">
		{#each HEIGHTS as height, j (j)}
			{#each WORDS as word, i (i)}
				<button
					class:here={across === i && down === j}
					aria-pressed={across === i && down === j}
					aria-label="{height} {word}"
					aria-description="The place of it that x and y tell."
					data-nine="{i}{j}"
					onclick={() => {
						across = i;
						down = j;
					}}
				></button>
			{/each}
		{/each}
	</span>
	<NumberField
		label="x"
		says="Where that place lies, from the left; typed, all of it moves there."
		unit={bench.unit}
		value={x}
		width={10}
		onset={(v) => move(v - x, 0)}
	/>
	<NumberField
		label="y"
		says="Where that place lies, upward; typed, all of it moves there."
		unit={bench.unit}
		value={y}
		width={10}
		onset={(v) => move(0, v - y)}
	/>
</div>

<style>
	.nine {
		grid-template-columns: auto 1fr;
		gap: 0 10px;
		align-items: center;
	}
	.grid {
		grid-row: span 2;
		display: grid;
		grid-template-columns: repeat(3, 24px);
	}
	button {
		width: 24px;
		height: 24px;
		padding: 0;
		border: 0;
		background: radial-gradient(circle, var(--soft) 1.6px, transparent 2px);
		cursor: pointer;
	}
	.here {
		background: radial-gradient(circle, var(--madder) 4px, transparent 4.6px);
	}
</style>

<script lang="ts">
	/** A reading glass over the picture while places are picked on it: eight times as large, every pixel seen. */
	import { pictureKey } from '$lib/core/document/drawing';
	import { onPicture } from '$lib/core/document/edits/placement';
	import type { Bench } from '$lib/stores/bench.svelte';

	let { bench }: { bench: Bench } = $props();
	const SIZE = 168;
	const TIMES = 8;
	let canvas = $state<HTMLCanvasElement>();
	const reference = $derived(bench.references.find((r) => r.id === bench.pictures.sizing?.reference));
	// Where it hides nothing: in the corner away from the pointer.
	const isLeft = $derived.by(() => {
		const p = bench.pictures.pointing;
		return p === undefined || (p.x - bench.sight.view.x) * bench.sight.view.scale > 0;
	});

	$effect(() => {
		const context = canvas?.getContext('2d');
		const p = bench.pictures.pointing;
		if (!context || !reference || !p) return;
		void bench.pictures.bitmapVersion;
		const bitmap = bench.pictures.bitmaps.get(pictureKey(reference));
		const { x, y } = onPicture(reference, p.x, p.y);
		const frame = requestAnimationFrame(() => {
			context.fillStyle = '#777';
			context.fillRect(0, 0, SIZE, SIZE);
			context.imageSmoothingEnabled = false;
			const half = SIZE / 2 / TIMES;
			if (bitmap) context.drawImage(bitmap, x - half, y - half, 2 * half, 2 * half, 0, 0, SIZE, SIZE);
			for (const [colour, width] of [
				['rgba(255,255,255,0.85)', 3],
				['#b3262e', 1]
			] as const) {
				context.strokeStyle = colour;
				context.lineWidth = width;
				context.beginPath();
				for (const [a, b] of [
					[0, SIZE / 2 - 9],
					[SIZE / 2 + 9, SIZE]
				]) {
					context.moveTo(a, SIZE / 2);
					context.lineTo(b, SIZE / 2);
					context.moveTo(SIZE / 2, a);
					context.lineTo(SIZE / 2, b);
				}
				context.stroke();
			}
		});
		return () => cancelAnimationFrame(frame);
	});
</script>

{#if reference && bench.pictures.pointing}
	<canvas
		bind:this={canvas}
		width={SIZE}
		height={SIZE}
		class:left={isLeft}
		data-testid="magnifier"
		aria-hidden="true"
	></canvas>
{/if}

<style>
	canvas {
		position: absolute;
		top: 130px;
		right: 30px;
		border: 2px dashed var(--slip-edge);
		border-radius: 50%;
		box-shadow: 0 3px 12px rgb(0 0 0 / 25%);
		pointer-events: none;
		z-index: 4;
	}
	canvas.left {
		right: auto;
		left: 40px;
	}
</style>

<script lang="ts">
	/** The line that parts what the tracer sees from the picture itself; it is pulled aside to compare. */
	import type { Bench } from '$lib/stores/bench.svelte';

	let { bench }: { bench: Bench } = $props();
	let held = $state(false);
	const place = (x: number) =>
		(bench.pictures.split = Math.min(0.98, Math.max(0.02, x / bench.sight.size.widthPx)));
</script>

<div
	class="line"
	style:left="{100 * bench.pictures.split}%"
	role="slider"
	tabindex="0"
	aria-label="Parts what the tracer sees from the picture"
	aria-valuemin={0}
	aria-valuemax={100}
	aria-valuenow={Math.round(100 * bench.pictures.split)}
	data-testid="split"
	onpointerdown={(e) => {
		held = true;
		e.currentTarget.setPointerCapture(e.pointerId);
	}}
	onpointermove={(e) => held && place(e.clientX)}
	onpointerup={() => (held = false)}
	onkeydown={(e) => {
		const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
		if (!by) return;
		e.preventDefault();
		e.stopPropagation();
		place((bench.pictures.split + by * 0.02) * bench.sight.size.widthPx);
	}}
>
	<span>traced</span><span>picture</span>
</div>

<style>
	.line {
		position: absolute;
		top: 70px;
		bottom: 70px;
		width: 18px;
		margin-left: -9px;
		cursor: ew-resize;
		touch-action: none;
		z-index: 0;
		background: linear-gradient(to right, transparent 8px, var(--madder) 8px 10px, transparent 10px);
	}
	span {
		position: absolute;
		top: 0;
		right: 16px;
		font-size: 12px;
		background: var(--slip);
		padding: 1px 6px;
		border: 1px dashed var(--slip-edge);
	}
	span:last-child {
		right: auto;
		left: 16px;
	}
</style>

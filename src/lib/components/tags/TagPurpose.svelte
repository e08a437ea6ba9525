<script lang="ts">
	/** What is done with what is selected: as its layer says, or by a word of its own; for many at once. */
	import { layersOf } from '$lib/core/document/drawing';
	import type { Outline } from '$lib/core/document/outline';
	import { PURPOSES, type Purpose } from '$lib/core/document/purpose';
	import { setPurpose } from '$lib/stores/purposes';
	import type { Bench } from '$lib/stores/bench.svelte';

	let { bench, outlines }: { bench: Bench; outlines: readonly Outline[] } = $props();
	const LAYER = 'layer';
	const MIXED = 'mixed';
	const own = $derived([...new Set(outlines.map((o) => o.purpose ?? LAYER))]);
	const byLayer = $derived.by(() => {
		const layers = new Map(layersOf(bench.drawing).map((layer) => [layer.id, layer.purpose]));
		const all = [...new Set(outlines.map((o) => layers.get(o.layer) ?? 'cut'))];
		return all.length === 1 ? all[0] : MIXED;
	});
</script>

<dt>for</dt>
<dd>
	<select
		value={own.length === 1 ? own[0] : MIXED}
		aria-label="Purpose"
		aria-description="What is done with it: as its layer says, or by a word of its own."
		data-pick="purpose"
		onchange={(e) => {
			const value = e.currentTarget.value;
			if (value !== MIXED) setPurpose(bench, outlines, value === LAYER ? undefined : (value as Purpose));
		}}
	>
		{#if own.length > 1}<option value={MIXED}>mixed</option>{/if}
		<option value={LAYER}>{byLayer}, as its layer</option>
		{#each PURPOSES as purpose (purpose)}<option value={purpose}>{purpose}</option>{/each}
	</select>
</dd>

<style>
	select {
		height: 24px;
		max-width: 130px;
		border: none;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
	}
</style>

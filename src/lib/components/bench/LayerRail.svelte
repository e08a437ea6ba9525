<script lang="ts">
	/** On the rack: the layers, each with what is done with its lines, whether they are seen, and whether they go out. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { layersOf, nextRank, PURPOSES, type Layer, type Purpose } from '$lib/core/document/drawing';
	import NameField from '../parts/NameField.svelte';
	import { newId } from '$lib/stores/ids';

	let { bench }: { bench: Bench } = $props();
	const layers = $derived(layersOf(bench.drawing));
	const counts = $derived.by(() => {
		const count = new Map<string, number>();
		for (const o of bench.outlines) count.set(o.layer, (count.get(o.layer) ?? 0) + 1);
		return count;
	});
	const put = (name: string, layer: Layer, changed: Partial<Layer>) =>
		bench.commit(name, { put: [{ ...layer, ...changed }] });
	/** Puts what is selected on a layer. */
	function moveHere(layer: Layer): void {
		const put = [
			...bench.selection.selectedOutlines.filter((o) => o.layer !== layer.id),
			...bench.selection.selectedSpots.flatMap((s) => (s.type === 'mark' && s.layer !== layer.id ? [s] : []))
		].map((record) => ({ ...record, layer: layer.id }));
		if (!bench.commit(`Put on "${layer.name}"`, { put })) bench.tell(`All of it lies on "${layer.name}".`);
	}
	function add(): void {
		const taken = new Set(layers.map((l) => l.name));
		let count = layers.length + 1;
		while (taken.has(`Layer ${count}`)) count++;
		const layer: Layer = {
			type: 'layer',
			id: newId(),
			rank: nextRank(bench.drawing),
			name: `Layer ${count}`,
			purpose: 'score',
			colour: '#1c3f5e'
		};
		bench.commit('New layer', { put: [layer] });
	}
</script>

<ul class="layers" aria-label="Layers">
	{#each layers as layer (layer.id)}
		<li class:turned={layer.hidden} data-layer={layer.name}>
			<NameField
				value={layer.name}
				label="Name of the layer"
				onname={(name) => name && put('Rename the layer', layer, { name })}
			/>
			<select
				class="field"
				value={layer.purpose}
				aria-label="What is done with {layer.name}"
				onchange={(e) => put('Set the purpose', layer, { purpose: e.currentTarget.value as Purpose })}
			>
				{#each PURPOSES as purpose (purpose)}<option value={purpose}>{purpose}</option>{/each}
			</select>
			<span class="quiet">{counts.get(layer.id) ?? 0}</span>
			<span class="acts">
				<button
					class="word"
					aria-pressed={!layer.hidden}
					onclick={() =>
						put(layer.hidden ? 'Show the layer' : 'Hide the layer', layer, { hidden: !layer.hidden })}
					>{layer.hidden ? 'show' : 'hide'}</button
				>
				<button
					class="word"
					aria-pressed={layer.locked === true}
					onclick={() =>
						put(layer.locked ? 'Untie the layer' : 'Tie the layer', layer, { locked: !layer.locked })}
					>{layer.locked ? 'untie' : 'tie'}</button
				>
				{#if layer.purpose !== 'guide'}
					<button
						class="word"
						aria-pressed={layer.written !== false}
						aria-description="Whether its lines go into files and to machines."
						onclick={() =>
							put(layer.written === false ? 'Write the layer' : 'Hold the layer back', layer, {
								written: layer.written === false
							})}>{layer.written === false ? 'held back' : 'goes out'}</button
					>
				{/if}
				{#if bench.selection.selected.size}
					<button class="word" onclick={() => moveHere(layer)}>put here</button>
				{/if}
			</span>
		</li>
	{/each}
	<li><button class="word" onclick={add}>new layer</button></li>
</ul>

<style>
	.layers {
		list-style: none;
		margin: 4px 0 8px;
		padding: 0;
		display: grid;
		gap: 4px;
		font-size: 13.5px;
	}
	li {
		display: grid;
		grid-template-columns: 1fr auto 2ch;
		gap: 2px 6px;
		align-items: baseline;
		border-left: 2px solid var(--soft);
		padding-left: 6px;
	}
	.turned {
		opacity: 0.6;
	}
	.acts {
		grid-column: 1 / -1;
	}
	.acts .word {
		padding: 0 8px 0 0;
		font-weight: 400;
		font-size: 12.5px;
	}
	li :global(input),
	select {
		min-width: 0;
		font-size: 13.5px;
	}
</style>

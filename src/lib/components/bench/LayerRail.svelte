<script lang="ts">
	/** A rail of the rack: a layer, with what is done with its lines, its colour, whether they are seen, and whether they go out. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { layersOf, PURPOSES, type Layer, type Purpose } from '$lib/core/document/drawing';
	import { putBefore } from '$lib/core/document/edits/order';
	import NameField from '../parts/NameField.svelte';

	let {
		bench,
		layer,
		count,
		folded,
		onfold,
		onput
	}: {
		bench: Bench;
		layer: Layer;
		/** How many things hang on it. */
		count: number;
		folded: boolean;
		onfold: () => void;
		/** Puts what is selected on it. */
		onput: () => void;
	} = $props();
	const put = (name: string, changed: Partial<Layer>) =>
		bench.commit(name, { put: [{ ...layer, ...changed }] });
	const above = $derived.by(() => {
		const all = layersOf(bench.drawing);
		return all[all.findIndex(({ id }) => id === layer.id) - 1];
	});
</script>

<div class="layer" class:turned={layer.hidden} data-layer={layer.name}>
	<input
		type="color"
		value={layer.colour}
		aria-label="Colour of {layer.name}"
		aria-description="A colour for sorting, your own; what is done with the lines is their purpose."
		onchange={(e) => put('Colour of the layer', { colour: e.currentTarget.value })}
	/>
	<NameField
		value={layer.name}
		label="Name of the layer"
		onname={(name) => name && put('Rename the layer', { name })}
	/>
	<select
		class="field"
		value={layer.purpose}
		aria-label="What is done with {layer.name}"
		onchange={(e) => put('Set the purpose', { purpose: e.currentTarget.value as Purpose })}
	>
		{#each PURPOSES as purpose (purpose)}<option value={purpose}>{purpose}</option>{/each}
	</select>
	<button
		class="word count"
		aria-expanded={!folded}
		aria-label="{count} on {layer.name}"
		aria-description="Folds its things away, or hangs them out."
		onclick={onfold}>{count}{folded ? ' +' : ''}</button
	>
	<span class="acts">
		<button
			class="word"
			aria-pressed={!layer.hidden}
			onclick={() => put(layer.hidden ? 'Show the layer' : 'Hide the layer', { hidden: !layer.hidden })}
			>{layer.hidden ? 'show' : 'hide'}</button
		>
		<button
			class="word"
			aria-pressed={layer.locked === true}
			onclick={() => put(layer.locked ? 'Untie the layer' : 'Tie the layer', { locked: !layer.locked })}
			>{layer.locked ? 'untie' : 'tie'}</button
		>
		{#if layer.purpose !== 'guide'}
			<button
				class="word"
				aria-pressed={layer.written !== false}
				aria-description="Whether its lines go into files and to machines."
				onclick={() =>
					put(layer.written === false ? 'Write the layer' : 'Hold the layer back', {
						written: layer.written === false
					})}>{layer.written === false ? 'held back' : 'goes out'}</button
			>
		{/if}
		{#if above}<button
				class="word"
				data-act="layer-up"
				aria-description="Hangs this rail above the one before it."
				onclick={() => bench.commit('Layer up', putBefore(bench.drawing, new Set([layer.id]), above.id))}
				>up</button
			>{/if}
		{#if bench.selection.selected.size}
			<button class="word" data-act="put-here" onclick={onput}>put here</button>
		{/if}
	</span>
</div>

<style>
	.layer {
		display: grid;
		grid-template-columns: 14px 1fr auto auto;
		gap: 1px 6px;
		align-items: baseline;
		border-top: 3px solid var(--soft);
		border-radius: 2px;
		padding-top: 3px;
		font-size: 13.5px;
	}
	input[type='color'] {
		width: 14px;
		height: 14px;
		padding: 0;
		border: none;
		background: none;
		align-self: center;
	}
	.turned {
		opacity: 0.6;
	}
	.count {
		min-width: 24px;
		min-height: 24px;
		padding: 0 2px;
		font-weight: 400;
	}
	.acts {
		grid-column: 2 / -1;
		white-space: nowrap;
		overflow: hidden;
	}
	.acts .word {
		min-width: 24px;
		min-height: 24px;
		padding: 0 7px 0 0;
		font-weight: 400;
		font-size: 12.5px;
	}
	.layer :global(input:not([type='color'])),
	select {
		min-width: 0;
		font-size: 13.5px;
	}
</style>

<script lang="ts">
	/** On the tag of pieces: how many are wanted on the sheet, and how the grain is to run on them. */
	import { sheetsOf } from '$lib/core/document/drawing';
	import type { Grain, Outline } from '$lib/core/document/outline';
	import type { Bench } from '$lib/stores/bench.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, outlines }: { bench: Bench; outlines: readonly Outline[] } = $props();
	const hasGrain = $derived(sheetsOf(bench.drawing).some((sheet) => sheet.grain !== undefined));
	const same = <T,>(list: readonly T[]): T | undefined => (new Set(list).size === 1 ? list[0] : undefined);
	const wanted = $derived(same(outlines.map((o) => o.wanted ?? 1)));
	const grain = $derived(outlines[0]?.grain);
	function put(name: string, changed: (outline: Outline) => Outline): void {
		bench.commit(name, { put: outlines.map(changed) });
	}
	function setWanted(count: number): void {
		put(`${count} wanted`, ({ wanted: _, ...rest }) => (count > 1 ? { ...rest, wanted: count } : rest));
	}
	const setGrain = (changed: Partial<Grain>) =>
		put('Grain of a piece', (o) => ({ ...o, grain: { angle: 0, within: 0, ...o.grain, ...changed } }));
</script>

<div class="part" data-testid="wanted">
	<NumberField
		label="wanted"
		says="How many of it are laid on the sheet; copies are made when they are."
		kind="number"
		digits={0}
		width={6}
		least={1}
		most={1000}
		value={wanted}
		onset={(count) => setWanted(Math.round(count))}
	/>
	{#if hasGrain}
		<NumberField
			label="grain"
			says="How the grain of the material is to run on it: 0° is from left to right as it lies here."
			kind="number"
			suffix="°"
			digits={1}
			width={7}
			placeholder="any"
			value={grain?.angle}
			onset={(angle) => setGrain({ angle })}
		/>
		{#if grain}
			<NumberField
				label="within"
				says="How far it may lie off the grain."
				kind="number"
				suffix="°"
				digits={1}
				width={7}
				least={0}
				most={90}
				value={grain.within}
				onset={(within) => setGrain({ within })}
			/>
			<button
				class="word"
				aria-pressed={grain.oneWay === true}
				data-act="one-way"
				aria-description="Whether it may be turned end for end."
				onclick={() => setGrain({ oneWay: !grain.oneWay })}
				>{grain.oneWay ? 'with the grain only' : 'either way'}</button
			>
			<button
				class="word"
				data-act="any-grain"
				onclick={() => put('Any grain', ({ grain: _, ...rest }) => rest)}>any way</button
			>
		{/if}
	{/if}
</div>

<script lang="ts">
	/** A picture on its slip: faded, hidden, tied fast, mirrored, turned, cropped, taken in hand. */
	import { Slider } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Reference } from '$lib/core/document/drawing';
	import { middleOf, mirrored, turned } from '$lib/core/document/edits/placement';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, reference }: { bench: Bench; reference: Reference } = $props();
	const put = (name: string, next: Reference) => bench.commit(name, { put: [next] });
	const inHand = $derived(bench.pictures.placing === reference.id);
	const uncropped = $derived.by((): Reference => {
		const { crop: _, ...rest } = reference;
		return rest;
	});
</script>

<div class="row reference" data-picture={reference.name}>
	{#if bench.references.length === 1}<b>{reference.name}</b>{/if}
	<span class="quiet">{reference.widthPx} × {reference.heightPx} px</span>
	<Slider
		class="fade"
		value={[reference.opacity]}
		min={0.05}
		max={1}
		step={0.05}
		aria-description="How strongly the picture shows behind the lines."
		onValueChangeEnd={(d) => put('Fade picture', { ...reference, opacity: d.value[0] })}
	>
		<Slider.Label>Faded ↔ clear</Slider.Label>
		<Slider.Control
			><Slider.Track><Slider.Range /></Slider.Track><Slider.Thumb index={0}
				><Slider.HiddenInput /></Slider.Thumb
			></Slider.Control
		>
	</Slider>
	<button
		class="word"
		class:here={inHand}
		aria-pressed={inHand}
		disabled={reference.locked}
		onclick={() => bench.pictures.place(inHand ? undefined : reference)}
		aria-description="Move it by dragging, turn it by its loop, crop it with Shift and a drag."
		data-act="place">{inHand ? 'let go' : 'take in hand'}</button
	>
	<button
		class="word"
		disabled={reference.locked}
		onclick={() => {
			bench.pictures.place(undefined);
			bench.pictures.shownId = reference.id;
			bench.pictures.pick('level');
		}}
		aria-description="Click two places on a line of the picture that should be level or plumb."
		data-act="level">level it by a line</button
	>
	<button
		class="word"
		disabled={reference.locked}
		onclick={() => put('Mirror picture', mirrored(reference))}
		aria-description="Left and right change places."
		data-act="mirror">mirror</button
	>
	{#if !reference.locked}
		<NumberField
			label="turned"
			says="How far the picture is turned, anticlockwise."
			kind="number"
			suffix="°"
			digits={2}
			width={7}
			value={reference.angle ?? 0}
			least={-3600}
			most={3600}
			onset={(v) => put('Turn picture', turned(reference, v - (reference.angle ?? 0), middleOf(reference)))}
		/>
	{/if}
	{#if reference.crop}
		<button
			class="word"
			onclick={() => put('Show all of the picture', uncropped)}
			aria-description="Shows what was cropped away again."
			data-act="uncrop">all of it again</button
		>
	{/if}
	<button
		class="word"
		aria-description="Whether the picture is seen; it stays in the drawing."
		onclick={() =>
			put(reference.hidden ? 'Show picture' : 'Hide picture', { ...reference, hidden: !reference.hidden })}
		>{reference.hidden ? 'show' : 'hide'}</button
	>
	<button
		class="word"
		onclick={() => {
			if (inHand) bench.pictures.place(undefined);
			put(reference.locked ? 'Untie picture' : 'Tie picture fast', {
				...reference,
				locked: !reference.locked
			});
		}}
		aria-description="A picture that is tied fast cannot be moved by mistake."
		data-act="lock">{reference.locked ? 'untie' : 'tie fast'}</button
	>
	<button
		class="word"
		disabled={reference.locked}
		aria-description="Takes the picture out of the drawing."
		onclick={() => bench.commit('Remove picture', { remove: [reference.id] })}>remove</button
	>
</div>

<style>
	.here {
		color: var(--madder);
	}
</style>

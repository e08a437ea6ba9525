<script lang="ts">
	/** On the tag: the one picked segment; every number of a straight or an arc is a field. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { segmentTotal, type Outline } from '$lib/core/document/outline';
	import {
		restOfCircle,
		segmentNumbers,
		setArcRadius,
		setArcStart,
		setArcSweep,
		setStraight
	} from '$lib/core/document/edits/segments';
	import { formatLength } from '$lib/core/units';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, outline }: { bench: Bench; outline: Outline } = $props();
	/** A single picked segment, and what it measures. */
	const segment = $derived.by(() => {
		if (bench.selection.segments.size !== 1) return undefined;
		const [index] = bench.selection.segmentIndexes();
		return index === undefined || index >= segmentTotal(outline)
			? undefined
			: { index, ...segmentNumbers(outline, index) };
	});
</script>

{#if segment}
	<div class="part" data-testid="segment">
		<b>{segment.type}</b>
		{#if segment.type === 'straight'}
			<NumberField
				label="long"
				says="Its first anchor stays, its last one moves."
				unit={bench.unit}
				value={segment.length}
				width={11}
				least={0.001}
				onset={(v) =>
					bench.changeInHand('Set the length', (o) => setStraight(o, segment.index, v, segment.angle))}
			/>
			<NumberField
				label="at"
				says="Its direction; its first anchor stays."
				kind="number"
				suffix="°"
				digits={3}
				width={9}
				value={segment.angle}
				onset={(v) =>
					bench.changeInHand('Set the angle', (o) => setStraight(o, segment.index, segment.length, v))}
			/>
		{:else if segment.type === 'arc'}
			<NumberField
				label="radius"
				says="Its ends and its side stay."
				unit={bench.unit}
				value={segment.radius}
				width={11}
				least={0.001}
				onset={(v) => bench.changeInHand('Set the radius', (o) => setArcRadius(o, segment.index, v))}
			/>
			<NumberField
				label="sweep"
				says="How much of its circle it is; its ends and its side stay."
				kind="number"
				suffix="°"
				digits={3}
				width={9}
				value={segment.sweep}
				onset={(v) => bench.changeInHand('Set the sweep', (o) => setArcSweep(o, segment.index, v))}
			/>
			<NumberField
				label="begins at"
				says="Where it begins on its circle, seen from its centre; its end stays."
				kind="number"
				suffix="°"
				digits={3}
				width={9}
				value={segment.start}
				onset={(v) => bench.changeInHand('Set the start angle', (o) => setArcStart(o, segment.index, v))}
			/>
			<span class="quiet" data-fact="arc-side"
				>turns {segment.side}, {formatLength(segment.length, bench.unit)} along it</span
			>
			<button
				class="word"
				onclick={() => bench.changeInHand('The rest of its circle', (o) => restOfCircle(o, segment.index))}
				>the rest of its circle</button
			>
		{:else}<span class="quiet">{formatLength(segment.length, bench.unit)} along it</span>{/if}
	</div>
{/if}

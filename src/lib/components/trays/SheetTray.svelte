<script lang="ts">
	/** Four corners of a known rectangle: found by itself or picked, pulled into place, and the perspective taken out. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Sizing } from '$lib/stores/files/placed-pictures.svelte';
	import type { Reference } from '$lib/core/document/drawing';
	import { meanScale, pickingError, rectifying, type Rectangle } from '$lib/core/trace/perspective';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, sizing, reference }: { bench: Bench; sizing: Sizing; reference: Reference } = $props();
	/** Sheets of ISO 216, a card of ISO/IEC 7810; the longer side first. */
	const SHEETS = [
		{ value: 'A4', word: 'A4', size: [297, 210] },
		{ value: 'A3', word: 'A3', size: [420, 297] },
		{ value: 'A5', word: 'A5', size: [210, 148] },
		{ value: 'card', word: 'Bank card', size: [85.6, 53.98] },
		{ value: 'own', word: 'Own size', size: undefined }
	] as const;
	let kind = $state('A4');
	let width = $state(297);
	let height = $state(210);

	/** The longer side along the longer side that is seen. */
	const rectangle = $derived.by((): Rectangle | undefined => {
		const c = sizing.points;
		if (c.length !== 4) return undefined;
		const side = (i: number, j: number) => Math.hypot(c[i].x - c[j].x, c[i].y - c[j].y);
		const sheet = SHEETS.find((s) => s.value === kind)?.size;
		if (!sheet) return { corners: c, width, height };
		const isWide = side(0, 1) + side(2, 3) >= side(1, 2) + side(3, 0);
		return { corners: c, width: isWide ? sheet[0] : sheet[1], height: isWide ? sheet[1] : sheet[0] };
	});
	const told = $derived.by(() => {
		if (!rectangle) return undefined;
		try {
			rectifying(rectangle);
			return { perPx: pickingError(rectangle), scale: meanScale(rectangle) };
		} catch {
			return undefined;
		}
	});
</script>

<div class="row ask" role="status">
	{#if !rectangle}
		<span
			>Click the {['first', 'second', 'third', 'last'][sizing.points.length]} corner of a rectangle whose size you
			know, going round it. Begin at its upper left.</span
		>
	{:else}
		<Choice
			label="What it is"
			says="The size that the four corners have in truth."
			value={kind}
			items={SHEETS}
			onpick={(v) => (kind = v)}
		/>
		{#if kind === 'own'}
			<NumberField
				label="Wide"
				says="Its true width."
				unit={bench.unit}
				value={width}
				least={0.1}
				onset={(v) => (width = v)}
			/>
			<NumberField
				label="High"
				says="Its true height."
				unit={bench.unit}
				value={height}
				least={0.1}
				onset={(v) => (height = v)}
			/>
		{/if}
		{#if told}
			<span class="quiet"
				>a pixel off at a corner is <b data-fact="per-pixel">{formatLength(told.perPx, bench.unit)}</b></span
			>
			{#if sizing.straightness !== undefined}
				<span class="quiet"
					>its edges straight to <b data-fact="straightness"
						>{formatLength(sizing.straightness / told.scale, bench.unit)}</b
					></span
				>
			{/if}
			<button
				class="word strong"
				data-act="straighten"
				onclick={() =>
					void bench.pictures.straighten(reference, rectangle.corners, rectangle.width, rectangle.height)}
				aria-description="Takes the slant out, so that the sheet is a true rectangle of its size."
				>Take the slant out</button
			>
		{:else}
			<span class="trouble">These corners do not go round a rectangle. Pull them into place.</span>
		{/if}
	{/if}
	<button class="word" onclick={() => (bench.pictures.sizing = undefined)} data-act="leave-sizing"
		>Leave</button
	>
</div>

<style>
	.trouble {
		color: var(--rust);
	}
</style>

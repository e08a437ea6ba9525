<script lang="ts">
	/** The station of the true size: by the resolution, by two points, by four corners; and the ruler check. */
	import { formatLength, formatNumber } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import PictureChoice from './PictureChoice.svelte';
	import SheetTray from './SheetTray.svelte';

	let { bench }: { bench: Bench } = $props();
	const reference = $derived(bench.pictures.shownReference);
	const sizing = $derived(bench.pictures.sizing);
	const picked = $derived.by(() => {
		if (!sizing || sizing.points.length < 2) return undefined;
		const [a, b] = sizing.points;
		return Math.hypot(b.x - a.x, b.y - a.y);
	});
</script>

{#if bench.references.length > 1}
	<div class="row">
		<PictureChoice {bench} says="Whose true size is set." />
	</div>
{/if}
{#if !reference}
	<p class="quiet">There is no picture to size. Drawings that were opened have their own.</p>
{:else}
	<div class="row" data-sizes={reference.name}>
		{#if bench.references.length === 1}<b>{reference.name}</b>{/if}
		{#if reference.pxPerMm}
			<span data-fact="size"
				>{formatLength(reference.widthPx / reference.pxPerMm, bench.unit)} × {formatLength(
					reference.heightPx / reference.pxPerMm,
					bench.unit
				)}</span
			>
			<span class="quiet">{formatNumber(reference.pxPerMm * 25.4, 1)} dpi</span>
		{:else}<span class="loose">no true size yet</span>{/if}
		<NumberField
			label="Resolution"
			says="Pixels of the picture in an inch, as the scanner was set."
			kind="number"
			suffix=" dpi"
			digits={1}
			width={9}
			value={reference.pxPerMm ? reference.pxPerMm * 25.4 : undefined}
			least={1}
			most={20000}
			onset={(v) => bench.pictures.setTrueSize(reference, v / 25.4, 'Set resolution')}
		/>
		<button
			class="word"
			onclick={() => bench.pictures.pick('size')}
			aria-description="Click two places whose distance you know, and type it."
			data-act="two-points">pick two points</button
		>
		<button
			class="word"
			disabled={!reference.pxPerMm}
			onclick={() => bench.pictures.pick('check')}
			aria-description="Click two places to see how far apart they are now."
			data-act="ruler">check with a ruler</button
		>
		{#if reference.sheet}
			<span class="quiet">slant taken out</span>
		{:else}
			<button
				class="word"
				onclick={() => bench.pictures.pick('corners')}
				aria-description="Click the four corners of a sheet of known size: the slant of the photograph is taken out."
				data-act="corners">pick four corners</button
			>
			<button
				class="word"
				onclick={() => void bench.pictures.offerCorners(reference)}
				aria-description="Looks for a light sheet in the photograph by itself."
				data-act="find-sheet">find the sheet</button
			>
		{/if}
	</div>
{/if}
{#if sizing?.purpose === 'corners' && reference}
	<SheetTray {bench} {sizing} {reference} />
{:else if sizing && reference}
	<div class="row ask" role="status">
		{#if sizing.points.length < 2}
			<span
				>Click the {sizing.points.length === 0 ? 'first' : 'second'} of two points {sizing.purpose === 'size'
					? 'whose distance you know'
					: 'to measure'}. Zoom in to be exact.</span
			>
		{:else if picked && sizing.purpose === 'size'}
			<NumberField
				label="These two are apart"
				says="How far apart the two places truly are."
				unit={bench.unit}
				value={reference.pxPerMm ? picked / reference.pxPerMm : undefined}
				least={0.01}
				onset={(mm) => bench.pictures.setTrueSize(reference, picked / mm)}
			/>
			<span class="quiet">{formatNumber(picked, 1)} px</span>
		{:else if picked && reference.pxPerMm}
			<span
				>They are <b data-fact="ruler">{formatLength(picked / reference.pxPerMm, bench.unit)}</b> apart.</span
			>
		{/if}
		<button class="word" onclick={() => (bench.pictures.sizing = undefined)} data-act="leave-sizing"
			>Leave</button
		>
	</div>
{/if}

<style>
	.loose {
		color: var(--weld);
	}
	p {
		margin: 0;
	}
</style>

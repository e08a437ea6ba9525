<script lang="ts">
	/** A slip tied to what is selected: its name and facts, each a field; at one anchor its place, kind and handles. */
	import type { Point } from '$lib/core/geometry/point';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { lineOf } from '$lib/core/document/outline';
	import {
		anchorCount,
		isEmptyBox,
		pathArea,
		pathLength,
		tightestRadius,
		unionBox
	} from '$lib/core/geometry/measure';
	import { boxOf } from '$lib/core/geometry/pick';
	import { formatArea, formatLength } from '$lib/core/units';
	import { placeTag } from '$lib/render/tag-place';
	import { toScreen } from '$lib/render/view';
	import NameField from '../parts/NameField.svelte';
	import TagAnchor from './TagAnchor.svelte';
	import TagEdge from './TagEdge.svelte';
	import TagSpot from './TagSpot.svelte';
	import TagLine from './TagLine.svelte';
	import TagSegment from './TagSegment.svelte';

	let { bench }: { bench: Bench } = $props();
	/** Where the person pinned it, px. */
	let pinned = $state.raw<Point | undefined>();
	/** px: what the thread and the hint take. */
	const FOOT = 116;
	let width = $state(230);
	let height = $state(160);

	const outlines = $derived(
		bench.selection.enteredOutline ? [bench.selection.enteredOutline] : bench.selection.selectedOutlines
	);
	const paths = $derived(outlines.map(lineOf));
	/** A single mark or guide, where nothing else is selected. */
	const spot = $derived(
		outlines.length === 0 && bench.selection.selectedSpots.length === 1
			? bench.selection.selectedSpots[0]
			: undefined
	);
	const box = $derived(
		spot ? { x0: spot.x, y0: spot.y, x1: spot.x, y1: spot.y } : unionBox(paths.map(boxOf))
	);
	const one = $derived(outlines.length === 1 ? outlines[0] : undefined);
	// Facts wait while something is dragged.
	const facts = $derived.by(() => {
		if (bench.draft || paths.length > 400) return undefined;
		return {
			length: paths.reduce((sum, p) => sum + pathLength(p), 0),
			area: paths.every((p) => p.closed)
				? paths.reduce((sum, p) => sum + Math.abs(pathArea(p)), 0)
				: undefined,
			anchors: paths.reduce((sum, p) => sum + anchorCount(p), 0),
			tightest: paths.length < 60 ? Math.min(...paths.map((p) => tightestRadius(p).radius)) : Infinity
		};
	});
	const open = $derived(paths.filter((p) => !p.closed).length);
	const place = $derived.by(() => {
		if (pinned) return pinned;
		const right = bench.sight.size.widthPx - (bench.rackOpen ? 268 : 0);
		const foot = bench.sight.size.heightPx - Math.max(FOOT, bench.sight.trayPx);
		return placeTag(paths, box, bench.sight.view, bench.sight.size, { width, height, right, foot });
	});
	const tie = $derived.by(() => {
		const a = toScreen(bench.sight.view, bench.sight.size, box.x0, box.y1);
		const b = toScreen(bench.sight.view, bench.sight.size, box.x1, box.y0);
		return { x: Math.min(Math.max(place.x, a.x), b.x), y: Math.min(Math.max(place.y + 16, a.y), b.y) };
	});

	function drag(event: PointerEvent): void {
		if ((event.target as HTMLElement).closest('input,button')) return;
		const start = { x: event.clientX - place.x, y: event.clientY - place.y };
		const move = (e: PointerEvent) => (pinned = { x: e.clientX - start.x, y: e.clientY - start.y });
		const up = () => {
			removeEventListener('pointermove', move);
			removeEventListener('pointerup', up);
		};
		addEventListener('pointermove', move);
		addEventListener('pointerup', up);
	}
</script>

{#if (outlines.length || spot) && !isEmptyBox(box) && !bench.operation && !bench.pen}
	<svg class="tie" aria-hidden="true"
		><path
			d="M{tie.x} {tie.y}Q{(tie.x + place.x) / 2} {Math.max(tie.y, place.y) + 14} {place.x + 9} {place.y +
				15}"
		/></svg
	>
	<aside
		class="tag slip"
		style:left="{place.x}px"
		style:top="{place.y}px"
		bind:clientWidth={width}
		bind:clientHeight={height}
		aria-label="What is selected"
		onpointerdown={drag}
	>
		<span class="eye" aria-hidden="true"></span>
		{#if spot}
			<TagSpot {bench} {spot} />
		{:else if one}
			<NameField
				class="name"
				value={one.name}
				label="Name"
				onname={(name) => name && bench.commit('Rename', { put: [{ ...one, name }] })}
			/>
		{:else}<b class="name">{outlines.length} outlines</b>{/if}
		{#if !spot}<dl>
				<dt>{open ? 'open' : 'closed'}</dt>
				<dd>
					{#if open && !one}{open} of {outlines.length}{:else if open && one}<button
							class="word"
							aria-pressed={one.openOnPurpose === true}
							title="Whether it is meant to stay open: then it is no fault"
							data-act="open-on-purpose"
							onclick={() =>
								bench.commit(one.openOnPurpose ? 'To be closed' : 'Open on purpose', {
									put: [{ ...one, openOnPurpose: !one.openOnPurpose }]
								})}>{one.openOnPurpose ? 'on purpose' : 'to be closed'}</button
						>{:else}✓{/if}
				</dd>
				<dt>size</dt>
				<dd data-fact="size">
					{formatLength(box.x1 - box.x0, bench.unit).replace(/ \w+$/, '')} × {formatLength(
						box.y1 - box.y0,
						bench.unit
					)}
				</dd>
				{#if facts}
					<dt>length</dt>
					<dd data-fact="length">{formatLength(facts.length, bench.unit)}</dd>
					{#if facts.area !== undefined}<dt>area</dt>
						<dd data-fact="area">{formatArea(facts.area, bench.unit)}</dd>{/if}
					<dt>anchors</dt>
					<dd data-fact="anchors">{facts.anchors}</dd>
					{#if Number.isFinite(facts.tightest)}<dt>tightest</dt>
						<dd>{formatLength(facts.tightest, bench.unit)}</dd>{/if}
				{/if}
			</dl>{/if}
		{#if bench.selection.enteredOutline}
			<TagAnchor {bench} outline={bench.selection.enteredOutline} />
			<TagSegment {bench} outline={bench.selection.enteredOutline} />
			<TagEdge {bench} outline={bench.selection.enteredOutline} />
		{:else if one}<TagLine {bench} outline={one} length={facts?.length} />{/if}
		{#if pinned}<button class="word unpin" onclick={() => (pinned = undefined)}>unpin</button>{/if}
	</aside>
{/if}

<style>
	.tie {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		pointer-events: none;
	}
	.tie path {
		fill: none;
		stroke: var(--soft);
		stroke-width: 1.3;
	}
	.tag {
		position: absolute;
		min-width: 190px;
		padding: 8px 12px 8px 22px;
		cursor: grab;
		clip-path: polygon(12px 0, 100% 0, 100% 100%, 12px 100%, 0 calc(100% - 12px), 0 12px);
		box-shadow: none;
		font-size: 14.5px;
	}
	.eye {
		position: absolute;
		left: 6px;
		top: 11px;
		width: 8px;
		height: 8px;
		border: 1.5px solid var(--soft);
		border-radius: 50%;
	}
	.tag :global(.name) {
		display: block;
		font-weight: 600;
		width: 100%;
	}
	dl {
		display: grid;
		grid-template-columns: auto auto;
		gap: 0 12px;
		margin: 4px 0 0;
	}
	dt {
		color: var(--soft);
	}
	dd {
		margin: 0;
		text-align: right;
		font-variant-numeric: tabular-nums;
	}
	dd .word {
		padding: 0;
		color: var(--rust);
	}
	.unpin {
		font-size: 12.5px;
		font-weight: 400;
	}
</style>

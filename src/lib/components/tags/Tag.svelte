<script lang="ts">
	/** A slip tied to what is selected: its name and facts, each a field; at one anchor its place, kind and handles. */
	import type { Point } from '$lib/core/geometry/point';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { ANCHOR_STRIDE, lineOf } from '$lib/core/document/outline';
	import { factsOf, type LineFacts } from '$lib/core/geometry/facts';
	import { isEmptyBox, unionBox } from '$lib/core/geometry/measure';
	import { boxOf, crossesBox } from '$lib/core/geometry/pick';
	import { formatArea, formatLength } from '$lib/core/units';
	import { sheetsOf } from '$lib/core/document/drawing';
	import { boxOfRepeat } from '$lib/core/document/repeats';
	import { STRAIGHT, STRIDE } from '$lib/core/geometry/path';
	import { pointAt } from '$lib/core/geometry/segment';
	import { placeTag } from '$lib/render/tag-place';
	import { isNarrow, toPaper, toScreen } from '$lib/render/view';
	import { askAtRest } from '../parts/later';
	import NameField from '../parts/NameField.svelte';
	import TagAnchor from './TagAnchor.svelte';
	import TagEdge from './TagEdge.svelte';
	import TagPlace from './TagPlace.svelte';
	import TagSpot from './TagSpot.svelte';
	import TagLine from './TagLine.svelte';
	import TagSegment from './TagSegment.svelte';

	let { bench }: { bench: Bench } = $props();
	/** Where the person pinned it, px. */
	let pinned = $state.raw<Point | undefined>();
	/** px: what the thread and the hint take. */
	const FOOT = 116;
	/** Segments of a line that are looked at; of longer ones every so many. */
	const MOST_LOOKED_AT = 2000;
	/** px: the tag when only its name is left of it. */
	const SLIM = { width: 190, height: 34 };
	/** px: farther away no string is drawn across the drawing. */
	const TIED_PX = 130;
	let width = $state(230);
	let height = $state(160);
	interface Size {
		readonly width: number;
		readonly height: number;
	}
	/** As large as it was last when so much of it was shown, px. */
	let sizes = $state.raw<{ readonly all: Size; readonly brief: Size }>({
		all: { width: 230, height: 160 },
		brief: { width: 220, height: 130 }
	});
	/** All of it is wanted though it hides something. */
	let opened = $state(false);

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
		spot
			? { x0: spot.x, y0: spot.y, x1: spot.x, y1: spot.y }
			: unionBox([
					...paths.map(boxOf),
					...bench.selection.selectedRepeats.map((repeat) => boxOfRepeat(bench.drawing, repeat))
				])
	);
	const one = $derived(outlines.length === 1 ? outlines[0] : undefined);
	/** Segments of which facts are told at once; those of more are reckoned behind the work, once it rests. */
	const LIGHT = 400;
	const isLight = $derived(paths.reduce((sum, p) => sum + p.types.length, 0) <= LIGHT);
	let late = $state.raw<LineFacts>();
	// Facts wait while something is dragged.
	const facts = $derived(bench.draft ? undefined : isLight ? factsOf(paths) : late);
	$effect(() => {
		if (isLight || bench.draft) return;
		return askAtRest('facts', [paths], (told) => (late = told));
	});
	// Those of something else are nobody's.
	const whose = $derived(outlines.map(({ id }) => id).join());
	$effect(() => {
		void whose;
		late = undefined;
	});
	const given = import('./TagGiven.svelte');
	const holds = import('./TagHolds.svelte');
	const narrow = import('./TagNarrow.svelte');
	const purpose = import('./TagPurpose.svelte');
	const wanted = import('./TagWanted.svelte');
	const together = import('./TagTogether.svelte');
	/** What is picked with the holes that lie in it. */
	const withHoles = $derived([...paths, ...bench.within.outlines.map(lineOf)]);
	const open = $derived(paths.filter((p) => !p.closed).length);
	/** Places that must not lie under the tag, px: the lines, and of what is entered its anchors and handles. */
	const own = $derived.by((): readonly Point[] => {
		const { view, size } = bench.sight;
		const list: Point[] = [];
		for (const path of paths.slice(0, 20)) {
			const step = Math.max(1, Math.ceil(path.types.length / MOST_LOOKED_AT));
			for (let i = 0; i < path.types.length; i += step) {
				const at = STRIDE * i;
				const long = Math.hypot(path.segs[at + 6] - path.segs[at], path.segs[at + 7] - path.segs[at + 1]);
				const parts = Math.max(
					path.types[i] === STRAIGHT ? 1 : 4,
					Math.min(60, Math.ceil((long * view.scale) / 16))
				);
				for (let k = 0; k < parts; k++) {
					const p = pointAt(path.types[i], path.segs, at, k / parts);
					list.push(toScreen(view, size, p.x, p.y));
				}
			}
		}
		for (const o of bench.selection.enteredOutlines)
			// Handles of the selected anchors show, and of their neighbours.
			for (const id of bench.selection.anchorsOf(o.id)) {
				const n = o.anchors.length;
				const at = o.anchors.indexOf(id);
				for (const i of at < 0 ? [] : [(at + n - 1) % n, at, (at + 1) % n])
					for (const k of [0, 2, 4]) {
						const from = ANCHOR_STRIDE * i + k;
						list.push(toScreen(view, size, o.points[from], o.points[from + 1]));
					}
			}
		return list;
	});
	/** Whether another outline that could be picked lies in a box, px. */
	function others(x0: number, y0: number, x1: number, y1: number): boolean {
		// While the paper moves only what is selected counts: the rest is looked at once it rests.
		if (bench.sight.moving) return false;
		const { view, size } = bench.sight;
		const p = toPaper(view, size, x0, y1);
		const q = toPaper(view, size, x1, y0);
		const { outlines: all, paths: index } = bench.pickable();
		const mine = new Set(outlines.map((o) => o.id));
		return index
			.within(p.x, p.y, q.x, q.y)
			.some(
				(i) => !mine.has(all[i].id) && crossesBox(index.paths[i], { x0: p.x, y0: p.y, x1: q.x, y1: q.y })
			);
	}
	/** All of it; only what is picked of it, or where it lies and what it is made from; only its name. */
	type Level = 'all' | 'brief' | 'name';
	const hasBrief = $derived(
		!bench.selection.enteredOutline ||
			bench.selection.place !== undefined ||
			bench.selection.picked.size > 0 ||
			bench.selection.segments.size > 0
	);
	/** Where it lies, and how much of it is shown: as much as hides nothing. */
	const place = $derived.by((): Point & { level: Level } => {
		if (pinned) return { ...pinned, level: 'all' };
		const right = bench.sight.size.widthPx - (bench.rackOpen && !isNarrow(bench.sight.size) ? 268 : 0);
		const foot = bench.sight.size.heightPx - Math.max(FOOT, bench.sight.trayPx);
		const put = (tag: Size) =>
			placeTag(
				box,
				bench.sight.view,
				bench.sight.size,
				{ ...tag, right, foot, aside: bench.pen !== undefined },
				{ own, others }
			);
		const all = put(sizes.all);
		if (all.isFree || opened) return { ...all, level: 'all' };
		const brief = hasBrief ? put(sizes.brief) : undefined;
		if (brief?.isFree) return { ...brief, level: 'brief' };
		return { ...put(SLIM), level: 'name' };
	});
	// It is measured as it is shown.
	$effect(() => {
		const { level } = place;
		if (level === 'name' || Math.hypot(width - sizes[level].width, height - sizes[level].height) < 2) return;
		sizes = { ...sizes, [level]: { width, height } };
	});
	// What was opened for one thing is not open for the next.
	$effect(() => {
		void outlines;
		void spot;
		opened = false;
	});
	const tie = $derived.by(() => {
		const a = toScreen(bench.sight.view, bench.sight.size, box.x0, box.y1);
		const b = toScreen(bench.sight.view, bench.sight.size, box.x1, box.y0);
		return { x: Math.min(Math.max(place.x, a.x), b.x), y: Math.min(Math.max(place.y + 16, a.y), b.y) };
	});

	function drag(event: PointerEvent): void {
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

{#if (outlines.length || spot) && !isEmptyBox(box) && !bench.operation && !(bench.rackOpen && isNarrow(bench.sight.size)) && (!bench.pen || bench.pen.anchors.length === 0)}
	{#if Math.hypot(place.x - tie.x, place.y - tie.y) < TIED_PX}
		<svg class="tie" aria-hidden="true"
			><path
				d="M{tie.x} {tie.y}Q{(tie.x + place.x) / 2} {Math.max(tie.y, place.y) + 14} {place.x + 9} {place.y +
					15}"
			/></svg
		>
	{/if}
	<aside
		class="tag slip"
		class:slim={place.level === 'name'}
		data-paper
		style:left="{place.x}px"
		style:top="{place.y}px"
		bind:clientWidth={width}
		bind:clientHeight={height}
		aria-label="What is selected"
	>
		<span class="eye" aria-hidden="true" onpointerdown={drag}></span>
		{#if place.level === 'name'}
			<button
				class="word more"
				onclick={() => (opened = true)}
				aria-description="There is no room beside it: all of the tag hides something."
				data-act="open-tag">{one?.name ?? (spot ? spot.type : `${outlines.length} outlines`)} …</button
			>
		{/if}
		<div class="all" hidden={place.level === 'name'}>
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
			{#if bench.selection.selectedGroups.length || bench.selection.selectedRepeats.length || one?.half}{#await together then { default: TagTogether }}<TagTogether
						{bench}
					/>{/await}{/if}
			{#if !spot && place.level === 'all'}<dl>
					<dt>{open ? 'open' : 'closed'}</dt>
					<dd>
						{#if open && !one}{open} of {outlines.length}{:else if open && one}<button
								class="word"
								aria-pressed={one.openOnPurpose === true}
								aria-description="Whether it is meant to stay open: then it is no fault."
								data-act="open-on-purpose"
								onclick={() =>
									bench.commit(one.openOnPurpose ? 'To be closed' : 'Open on purpose', {
										put: [{ ...one, openOnPurpose: !one.openOnPurpose }]
									})}>{one.openOnPurpose ? 'on purpose' : 'to be closed'}</button
							>{:else}✓{/if}
					</dd>
					<dt>wide × high</dt>
					<dd data-fact="size">
						{formatLength(box.x1 - box.x0, bench.unit).replace(/ \w+$/, '')} × {formatLength(
							box.y1 - box.y0,
							bench.unit
						)}
					</dd>
					{#if !bench.selection.enteredOutline}{#await purpose then { default: TagPurpose }}<TagPurpose
								{bench}
								{outlines}
							/>{/await}{/if}
					{#if facts}
						<dt>length</dt>
						<dd data-fact="length">{formatLength(facts.length, bench.unit)}</dd>
						{#if facts.area !== undefined}<dt>area</dt>
							<dd data-fact="area">{formatArea(facts.area, bench.unit)}</dd>{/if}
						<dt>anchors</dt>
						<dd data-fact="anchors">{facts.anchors}</dd>
						{#if Number.isFinite(facts.tightest)}<dt>tightest</dt>
							<dd>{formatLength(facts.tightest, bench.unit)}</dd>{/if}
						{#if !bench.selection.enteredOutline}{#await narrow then { default: TagNarrow }}<TagNarrow
									{bench}
									paths={withHoles}
								/>{/await}{/if}
					{/if}
				</dl>{/if}
			{#if bench.selection.enteredOutline}
				{#if bench.selection.given}{#await given then { default: TagGiven }}<TagGiven
							{bench}
							given={bench.selection.given}
						/>{/await}{:else}
					<TagAnchor {bench} outline={bench.selection.enteredOutline} />
					<TagSegment {bench} outline={bench.selection.enteredOutline} />
				{/if}
				{#if !bench.selection.given}{#await holds then { default: TagHolds }}<TagHolds {bench} />{/await}{/if}
				{#if place.level === 'all'}<TagEdge {bench} outline={bench.selection.enteredOutline} />{/if}
			{:else}
				{#if bench.selection.loose.length}<TagPlace {bench} {box} />{/if}
				{#if place.level === 'all' && outlines.length && paths.every((p) => p.closed) && sheetsOf(bench.drawing).length}{#await wanted then { default: TagWanted }}<TagWanted
							{bench}
							{outlines}
						/>{/await}{/if}
				{#if one && (place.level === 'all' || one.recipe)}<TagLine
						{bench}
						outline={one}
						length={facts?.length}
					/>{/if}
			{/if}
			{#if pinned}<button class="word unpin" onclick={() => (pinned = undefined)}>unpin</button>{/if}
			{#if place.level === 'brief'}<button
					class="word unpin"
					onclick={() => (opened = true)}
					aria-description="There is no room beside it: all of the tag hides something."
					data-act="open-tag">more …</button
				>{/if}
			{#if opened}<button class="word unpin" onclick={() => (opened = false)}>less</button>{/if}
		</div>
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
		padding: 6px 12px 6px 22px;
		/* What lies beneath takes the press, where it is no field. */
		pointer-events: none;
		clip-path: polygon(12px 0, 100% 0, 100% 100%, 12px 100%, 0 calc(100% - 12px), 0 12px);
		box-shadow: none;
		font-size: var(--type-small);
	}
	.tag :global(:is(input, button, select, label, [data-part])) {
		pointer-events: auto;
	}
	.slim {
		padding: 2px 8px 2px 22px;
		min-width: 0;
	}
	.more {
		max-width: 168px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.eye {
		position: absolute;
		left: 0;
		top: 0;
		width: 20px;
		height: 100%;
		pointer-events: auto;
		cursor: grab;
		touch-action: none;
	}
	.eye::after {
		content: '';
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
		font-size: var(--type-least);
		font-weight: 400;
	}
</style>

<script lang="ts">
	/** A slip tied to what is selected: its name and facts, each a field; at one anchor its place, kind and handles. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import {
		ANCHOR_KINDS,
		ANCHOR_STRIDE,
		anchorIndex,
		kindOf,
		madePlain,
		placeOfAnchor,
		resolve,
		segmentTotal,
		segmentTypeOf,
		sourceLine,
		withPath,
		type Outline
	} from '$lib/core/edit/outline';
	import { meetingAt } from '$lib/core/edit/meet';
	import { radiusAt, setRadius } from '$lib/core/edit/handles';
	import { exchangeRounds, roundsFit } from '$lib/core/edit/rounds';
	import {
		restOfCircle,
		segmentNumbers,
		setArcRadius,
		setArcSweep,
		setLineLength,
		setStraight
	} from '$lib/core/edit/segments';
	import { SHAPE_FIELDS, shapePath, type ShapeRecipe } from '$lib/core/edit/shapes';
	import { CoreError, toProblem } from '$lib/core/errors';
	import { placeAnchor, placeHandle, releaseHandles, setKind, type Side } from '$lib/core/edit/anchors';
	import {
		anchorCount,
		isEmptyBox,
		pathArea,
		pathLength,
		tightestRadius,
		unionBox
	} from '$lib/core/geometry/measure';
	import { boxOf } from '$lib/core/geometry/pick';
	import { CUBIC } from '$lib/core/geometry/path';
	import { formatArea, formatLength } from '$lib/core/units';
	import { placeTag } from '$lib/render/tag-place';
	import { toScreen } from '$lib/render/view';
	import NumberField from './NumberField.svelte';

	let { bench }: { bench: Bench } = $props();
	/** Where the person pinned it, px. */
	let pinned = $state.raw<{ x: number; y: number } | undefined>();
	/** px: what the thread and the hint take. */
	const FOOT = 116;
	let width = $state(230);
	let height = $state(160);

	const outlines = $derived(bench.enteredOutline ? [bench.enteredOutline] : bench.selectedOutlines);
	const paths = $derived(outlines.map(resolve));
	const box = $derived(unionBox(paths.map(boxOf)));
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
	const anchor = $derived.by(() => {
		if (!bench.enteredOutline || bench.anchors.size === 0) return undefined;
		const o = bench.enteredOutline;
		const indexes = [...bench.anchors].map((id) => anchorIndex(o, id)).filter((i) => i !== undefined);
		const same = <T,>(f: (i: number) => T): T | undefined => {
			const first = f(indexes[0]);
			return indexes.every((i) => f(i) === first) ? first : undefined;
		};
		return {
			count: indexes.length,
			index: indexes[0],
			x: same((i) => o.points[ANCHOR_STRIDE * i]),
			y: same((i) => o.points[ANCHOR_STRIDE * i + 1]),
			kind: same((i) => kindOf(o, i))
		};
	});
	const handles = $derived.by(() => {
		const o = bench.enteredOutline;
		if (!o || !anchor || anchor.count !== 1) return [];
		const i = anchor.index;
		const n = o.anchors.length;
		const at = ANCHOR_STRIDE * i;
		return (['in', 'out'] as Side[]).flatMap((side) => {
			const segment = side === 'out' ? i : (i + n - 1) % n;
			if (!o.closed && (side === 'out' ? i === n - 1 : i === 0)) return [];
			if (segmentTypeOf(o, segment) !== CUBIC) return [];
			const k = side === 'in' ? 2 : 4;
			const dx = o.points[at + k] - o.points[at];
			const dy = o.points[at + k + 1] - o.points[at + 1];
			const radius = radiusAt(o, o.anchors[i], side);
			return [
				{
					side,
					length: Math.hypot(dx, dy),
					angle: (Math.atan2(dy, dx) * 180) / Math.PI,
					radius: Math.abs(radius ?? Infinity)
				}
			];
		});
	});
	/** A single picked segment, and what it measures. */
	const segment = $derived.by(() => {
		const o = bench.enteredOutline;
		if (!o || bench.segments.size !== 1) return undefined;
		const [index] = bench.segmentIndexes();
		return index === undefined || index >= segmentTotal(o)
			? undefined
			: { index, ...segmentNumbers(o, index) };
	});
	const round = $derived(
		one && anchor && anchor.count === 1
			? one.rounds?.find((r) => r.anchor === one.anchors[anchor.index])
			: undefined
	);
	const held = $derived(
		one && anchor && anchor.kind === 'flowing' ? one.marks[3 * anchor.index + 2] !== 0 : false
	);

	const place = $derived.by(() => {
		if (pinned) return pinned;
		const right = bench.size.widthPx - (bench.rackOpen ? 268 : 0);
		const foot = bench.size.heightPx - Math.max(FOOT, bench.trayPx);
		return placeTag(paths, box, bench.view, bench.size, { width, height, right, foot });
	});
	const tie = $derived.by(() => {
		const a = toScreen(bench.view, bench.size, box.x0, box.y1);
		const b = toScreen(bench.view, bench.size, box.x1, box.y0);
		return { x: Math.min(Math.max(place.x, a.x), b.x), y: Math.min(Math.max(place.y + 16, a.y), b.y) };
	});

	function setAxis(axis: 'x' | 'y', v: number): void {
		bench.change(axis === 'x' ? 'Set x' : 'Set y', (o, ids) => {
			let next = o;
			for (const id of ids) {
				const i = anchorIndex(next, id);
				if (i === undefined) continue;
				const at = ANCHOR_STRIDE * i;
				next = placeAnchor(
					next,
					id,
					axis === 'x' ? v : next.points[at],
					axis === 'y' ? v : next.points[at + 1]
				);
			}
			return next;
		});
	}
	function setHandle(side: Side, length: number, angle: number): void {
		if (!anchor || !one) return;
		const at = ANCHOR_STRIDE * anchor.index;
		const rad = (angle * Math.PI) / 180;
		const x = one.points[at] + length * Math.cos(rad);
		const y = one.points[at + 1] + length * Math.sin(rad);
		bench.change('Set handle', (o) => placeHandle(o, o.anchors[anchor.index], side, x, y));
	}
	let givingEnd = $state<'end' | 'start'>('end');
	let growing = $state<'straight' | 'curve'>('straight');
	/** Changes the outline in hand; what cannot be is said. */
	function edit(name: string, change: (o: Outline) => Outline): void {
		bench.change(name, (o) => (o.id === bench.entered ? change(o) : o));
	}
	/** Changes the one selected outline as a whole. */
	function whole(name: string, change: (o: Outline) => Outline): void {
		if (!one) return;
		try {
			bench.commit(name, { put: [change(one)] });
		} catch (error) {
			bench.trouble(toProblem(error));
		}
	}
	const setLength = (v: number) => whole('Set the length', (o) => setLineLength(o, v, givingEnd, growing));
	function setShape(field: string, value: number): void {
		whole(`Change the ${one?.recipe?.shape ?? 'shape'}`, (o) => {
			const recipe = { ...o.recipe!, [field]: value } as ShapeRecipe;
			return { ...withPath(o, shapePath(recipe)), recipe };
		});
	}
	function setRound(v: number): void {
		edit('Round the corner', (o) => {
			const id = o.anchors[anchor!.index];
			const rounds = exchangeRounds(
				o.rounds,
				[id],
				v > 0
					? (a) =>
							round && 'radius' in round ? { anchor: a, radius: v } : { anchor: a, first: v, second: v }
					: undefined
			);
			const fits = roundsFit(sourceLine(o), rounds ?? [], (a) => placeOfAnchor(o, a));
			if (!fits.ok) throw new CoreError(fits.problem.code, fits.problem.sentence);
			const { rounds: _, ...rest } = o;
			return rounds ? { ...rest, rounds } : rest;
		});
	}
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

{#if outlines.length && !isEmptyBox(box) && !bench.operation && !bench.pen}
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
		{#if one}
			<input
				class="field name"
				value={one.name}
				aria-label="Name"
				onkeydown={(e) => {
					e.stopPropagation();
					if (e.key === 'Enter') e.currentTarget.blur();
				}}
				onchange={(e) => {
					const name = e.currentTarget.value.trim();
					if (name) bench.commit('Rename', { put: [{ ...one, name }] });
				}}
			/>
		{:else}<b class="name">{outlines.length} outlines</b>{/if}
		<dl>
			<dt>{open ? 'open' : 'closed'}</dt>
			<dd>
				{#if open && !one}{open} of {outlines.length}{:else if open}<button
						class="word"
						onclick={() => bench.tell('Type "close" or use the knot.')}>not closed</button
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
		</dl>
		{#if anchor}
			<div class="anchor">
				<b>{anchor.count === 1 ? 'anchor' : `${anchor.count} anchors`}</b>
				<NumberField
					label="x"
					unit={bench.unit}
					value={anchor.x}
					width={11}
					placeholder="mixed"
					onset={(v) => setAxis('x', v)}
				/>
				<NumberField
					label="y"
					unit={bench.unit}
					value={anchor.y}
					width={11}
					placeholder="mixed"
					onset={(v) => setAxis('y', v)}
				/>
				<span class="kinds" role="group" aria-label="Kind">
					{#each ANCHOR_KINDS as kind (kind)}
						<button
							class="word"
							class:here={anchor.kind === kind}
							aria-pressed={anchor.kind === kind}
							data-kind={kind}
							onclick={() => bench.change(`Make ${kind}`, (o, ids) => setKind(o, ids, kind))}>{kind}</button
						>
					{/each}
				</span>
				{#each handles as h (h.side)}
					<span class="handle">
						<NumberField
							label={h.side === 'in' ? 'handle before' : 'handle after'}
							unit={bench.unit}
							value={h.length}
							width={11}
							least={0}
							onset={(v) => setHandle(h.side, v, h.angle)}
						/>
						<NumberField
							label="angle"
							labelHidden
							kind="number"
							suffix="°"
							digits={2}
							width={7}
							value={h.angle}
							onset={(v) => setHandle(h.side, h.length, v)}
						/>
					</span>
				{/each}
				{#each handles.filter((h) => Number.isFinite(h.radius) && h.radius < 1e5) as h (h.side)}
					<NumberField
						label={h.side === 'in' ? 'radius before' : 'radius after'}
						unit={bench.unit}
						value={h.radius}
						width={11}
						least={0.001}
						onset={(v) =>
							bench.change('Set the radius', (o) =>
								o.id === one?.id ? setRadius(o, o.anchors[anchor.index], h.side, v) : o
							)}
					/>
				{/each}
				{#if anchor.count === 1 && one && meetingAt(one, one.anchors[anchor.index])}
					{@const meeting = meetingAt(one, one.anchors[anchor.index])!}
					<span class="quiet" data-fact="meets"
						>{meeting.how === 'place'
							? `turns ${Math.abs(meeting.turn).toFixed(1)}° here`
							: meeting.how === 'direction'
								? 'meets in direction only'
								: 'meets in curvature'}</span
					>
				{/if}
				{#if round}
					<NumberField
						label={'radius' in round ? 'corner radius' : 'cut off'}
						unit={bench.unit}
						value={'radius' in round ? round.radius : round.first}
						width={11}
						least={0}
						onset={(v) => setRound(v)}
					/>
				{/if}
				{#if held}<button
						class="word"
						onclick={() => bench.change('Give handles back', (o, ids) => releaseHandles(o, ids))}
						>give the held handle back</button
					>{/if}
			</div>
		{/if}
		{#if segment}
			<div class="anchor" data-testid="segment">
				<b>{segment.type}</b>
				{#if segment.type === 'straight'}
					<NumberField
						label="long"
						unit={bench.unit}
						value={segment.length}
						width={11}
						least={0.001}
						onset={(v) => edit('Set the length', (o) => setStraight(o, segment.index, v, segment.angle))}
					/>
					<NumberField
						label="at"
						kind="number"
						suffix="°"
						digits={3}
						width={9}
						value={segment.angle}
						onset={(v) => edit('Set the angle', (o) => setStraight(o, segment.index, segment.length, v))}
					/>
				{:else if segment.type === 'arc'}
					<NumberField
						label="radius"
						unit={bench.unit}
						value={segment.radius}
						width={11}
						least={0.001}
						onset={(v) => edit('Set the radius', (o) => setArcRadius(o, segment.index, v))}
					/>
					<NumberField
						label="sweep"
						kind="number"
						suffix="°"
						digits={3}
						width={9}
						value={segment.sweep}
						onset={(v) => edit('Set the sweep', (o) => setArcSweep(o, segment.index, v))}
					/>
					<span class="quiet">{formatLength(segment.length, bench.unit)} along it</span>
					<button
						class="word"
						onclick={() => edit('The rest of its circle', (o) => restOfCircle(o, segment.index))}
						>the rest of its circle</button
					>
				{:else}<span class="quiet">{formatLength(segment.length, bench.unit)} along it</span>{/if}
			</div>
		{/if}
		{#if one?.recipe && !bench.enteredOutline}
			<div class="anchor" data-testid="recipe">
				<b>{one.recipe.shape}</b>
				{#each SHAPE_FIELDS[one.recipe.shape] as field (field.name)}
					<NumberField
						label={field.word}
						kind={field.kind === 'length' ? 'length' : 'number'}
						unit={bench.unit}
						suffix={field.kind === 'angle' ? '°' : ''}
						digits={field.kind === 'count' ? 0 : 3}
						width={11}
						least={field.least}
						most={field.most}
						value={(one.recipe as unknown as Record<string, number>)[field.name]}
						onset={(v) => setShape(field.name, field.kind === 'count' ? Math.round(v) : v)}
					/>
				{/each}
				<button class="word" onclick={() => bench.commit('Make plain', { put: [madePlain(one)] })}
					>make plain</button
				>
			</div>
		{/if}
		{#if one && !one.closed && !bench.enteredOutline && facts}
			<div class="anchor" data-testid="line-length">
				<NumberField
					label="long in all"
					unit={bench.unit}
					value={facts.length}
					width={11}
					least={0.001}
					onset={(v) => setLength(v)}
				/>
				<span class="kinds" role="group" aria-label="Which end gives">
					{#each ['end', 'start'] as const as end (end)}
						<button class="word" class:here={givingEnd === end} onclick={() => (givingEnd = end)}
							>at its {end}</button
						>
					{/each}
					{#each ['straight', 'curve'] as const as how (how)}
						<button class="word" class:here={growing === how} onclick={() => (growing = how)}
							>{how === 'straight' ? 'straight on' : 'along its curve'}</button
						>
					{/each}
				</span>
			</div>
		{/if}
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
	.name {
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
	.anchor {
		margin-top: 6px;
		border-top: 1.5px dashed var(--slip-edge);
		padding-top: 6px;
		display: grid;
		gap: 3px;
	}
	.kinds {
		display: flex;
	}
	.kinds .word {
		font-weight: 400;
		padding: 2px 5px;
		text-decoration-color: transparent;
		font-size: 13.5px;
	}
	.kinds .here {
		font-weight: 700;
		text-decoration-color: var(--madder);
	}
	.handle {
		display: flex;
		gap: 8px;
		font-size: 13.5px;
	}
	.unpin {
		font-size: 12.5px;
		font-weight: 400;
	}
</style>

<script lang="ts">
	/** On the tag: the selected anchors, their place, kind, handles, and how both sides meet. */
	import { formatNumber } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import {
		ANCHOR_KINDS,
		ANCHOR_STRIDE,
		anchorIndex,
		kindOf,
		handleAt,
		segmentTypeOf,
		type Outline,
		type Side
	} from '$lib/core/document/outline';
	import { placeAnchor, placeHandle, releaseHandles, setKind } from '$lib/core/document/edits/anchors';
	import { withCorners } from '$lib/core/document/edits/corners';
	import { asTyped, radiusAt, setRadius } from '$lib/core/document/edits/handles';
	import { meetingAt } from '$lib/core/document/edits/meet';
	import { unwrap } from '$lib/core/errors';
	import { CUBIC } from '$lib/core/geometry/path';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, outline }: { bench: Bench; outline: Outline } = $props();

	const anchor = $derived.by(() => {
		const o = outline;
		if (bench.selection.anchors.size === 0) return undefined;
		const indexes = [...bench.selection.anchors]
			.map((id) => anchorIndex(o, id))
			.filter((i) => i !== undefined);
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
		const o = outline;
		if (!anchor || anchor.count !== 1) return [];
		const i = anchor.index;
		const n = o.anchors.length;
		const at = ANCHOR_STRIDE * i;
		return (['in', 'out'] as Side[]).flatMap((side) => {
			const segment = side === 'out' ? i : (i + n - 1) % n;
			if (!o.closed && (side === 'out' ? i === n - 1 : i === 0)) return [];
			if (segmentTypeOf(o, segment) !== CUBIC) return [];
			const k = handleAt(i, side);
			const dx = o.points[k] - o.points[at];
			const dy = o.points[k + 1] - o.points[at + 1];
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
	const round = $derived(
		anchor?.count === 1 ? outline.rounds?.find((r) => r.anchor === outline.anchors[anchor.index]) : undefined
	);
	const held = $derived(anchor?.kind === 'flowing' ? outline.marks[3 * anchor.index + 2] !== 0 : false);
	const meeting = $derived(
		anchor?.count === 1 ? meetingAt(outline, outline.anchors[anchor.index]) : undefined
	);

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
		if (!anchor) return;
		const at = ANCHOR_STRIDE * anchor.index;
		const rad = (angle * Math.PI) / 180;
		const x = outline.points[at] + length * Math.cos(rad);
		const y = outline.points[at + 1] + length * Math.sin(rad);
		bench.change('Set handle', (o) => {
			const id = o.anchors[anchor.index];
			return asTyped(placeHandle(o, id, side, x, y), id, side);
		});
	}
	function setRound(v: number): void {
		bench.changeInHand(
			'Round the corner',
			(o) =>
				unwrap(
					withCorners(
						o,
						[o.anchors[anchor!.index]],
						v > 0
							? (a) =>
									round && 'radius' in round ? { anchor: a, radius: v } : { anchor: a, first: v, second: v }
							: undefined
					)
				).outline
		);
	}
</script>

{#if anchor}
	<div class="part" data-testid="anchor">
		<b>{anchor.count === 1 ? 'anchor' : `${anchor.count} anchors`}</b>
		<NumberField
			label="x"
			says="Where the anchor lies, from the left; mixed where several differ."
			unit={bench.unit}
			value={anchor.x}
			width={11}
			placeholder="mixed"
			onset={(v) => setAxis('x', v)}
		/>
		<NumberField
			label="y"
			says="Where the anchor lies, upward; mixed where several differ."
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
					says="How long the handle is; its direction stays."
					unit={bench.unit}
					value={h.length}
					width={11}
					least={0}
					onset={(v) => setHandle(h.side, v, h.angle)}
				/>
				<NumberField
					label="angle"
					says="The direction of the handle; its length stays."
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
				says="How the line bends there; the place and the direction stay."
				unit={bench.unit}
				value={h.radius}
				width={11}
				least={0.001}
				onset={(v) =>
					bench.changeInHand('Set the radius', (o) => setRadius(o, o.anchors[anchor.index], h.side, v))}
			/>
		{/each}
		{#if meeting}
			<span class="quiet" data-fact="meets"
				>{meeting.how === 'place'
					? `turns ${formatNumber(Math.abs(meeting.turn), 1)}° here`
					: meeting.how === 'direction'
						? 'meets in direction only'
						: 'meets in curvature'}</span
			>
		{/if}
		{#if round}
			<NumberField
				label={'radius' in round ? 'corner radius' : 'cut off'}
				says="How much of the corner is rounded or cut off; 0 makes it sharp."
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

<style>
	.handle {
		display: flex;
		gap: 8px;
		font-size: 13.5px;
	}
</style>

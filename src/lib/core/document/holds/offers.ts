/** Holds made of what is picked, and those that a drawing nearly keeps. */
import { CoreError } from '../../errors';
import { placeOfAnchor, segmentTotal, segmentTypeOf, sourceLine, type Outline } from '../outline';
import { ARC, STRAIGHT, STRIDE } from '../../geometry/path';
import { curvatureAt } from '../../geometry/segment';
import { HOLD_SHAPES, type Hold, type HoldKind, type HoldPlace } from './hold';
import { edgeAt, edgeLength } from '../edges';
import { placeOf, seamEdge } from './places';

/** What is picked: anchors in the order in which they were, segments by the anchor that they leave. */
export interface Picked {
	readonly anchors: readonly { readonly outline: Outline; readonly anchor: number }[];
	readonly segments: readonly { readonly outline: Outline; readonly anchor: number }[];
	/** The handle that is in hand, of the only anchor. */
	readonly side?: 'in' | 'out';
}

const place = ({ outline, anchor }: Picked['anchors'][number], side?: 'in' | 'out'): HoldPlace => ({
	outline: outline.id,
	anchor,
	...(side ? { side } : {})
});

/** Both ends of a segment. */
function ends({ outline, anchor }: Picked['segments'][number]): [HoldPlace, HoldPlace] {
	const i = outline.anchors.indexOf(anchor);
	const next = outline.anchors[(i + 1) % outline.anchors.length];
	return [place({ outline, anchor }), place({ outline, anchor: next })];
}
const typeOf = ({ outline, anchor }: Picked['segments'][number]) =>
	segmentTypeOf(outline, outline.anchors.indexOf(anchor));

/** The corners between which a segment's edge runs. */
function edgeEnds({ outline, anchor }: Picked['segments'][number]): [HoldPlace, HoldPlace] {
	const { anchors } = edgeAt(outline, outline.anchors.indexOf(anchor))!;
	return [place({ outline, anchor: anchors[0] }), place({ outline, anchor: anchors[anchors.length - 1] })];
}
const sameAnchor = (a: HoldPlace, b: HoldPlace): boolean => a.outline === b.outline && a.anchor === b.anchor;

/** An end, the place that its direction goes by, and the one that its curvature goes by; undefined where it is none, or an arc. */
function endPlaces(
	{ outline, anchor }: Picked['anchors'][number],
	isCurved: boolean
): HoldPlace[] | undefined {
	const last = outline.anchors.length - 1;
	const i = outline.anchors.indexOf(anchor);
	if (outline.closed || last < 1 || (i !== 0 && i !== last)) return undefined;
	const type = segmentTypeOf(outline, i === 0 ? 0 : last - 1);
	if (type === ARC) return undefined;
	const near = outline.anchors[i === 0 ? 1 : last - 1];
	const [own, other] = i === 0 ? (['out', 'in'] as const) : (['in', 'out'] as const);
	const isStraight = type === STRAIGHT;
	const by = isStraight ? place({ outline, anchor: near }) : place({ outline, anchor }, own);
	const beyond = place({ outline, anchor: near }, isStraight ? undefined : other);
	return [place({ outline, anchor }), by, ...(isCurved ? [beyond] : [])];
}

/** The places that a kind of hold would be about. @returns them, or in a sentence what is to be picked. */
export function placesFor(
	kind: HoldKind,
	{ anchors, segments, side }: Picked
): readonly HoldPlace[] | string {
	const { places } = HOLD_SHAPES[kind];
	if (kind === 'pin' || kind === 'on guide')
		return anchors.length === 1 ? [place(anchors[0])] : 'Pick one anchor.';
	if (kind === 'radius')
		return segments.length === 1 && typeOf(segments[0]) === ARC ? ends(segments[0]) : 'Pick one arc.';
	if (kind === 'equal radius')
		return segments.length === 2 && segments.every((s) => typeOf(s) === ARC)
			? segments.flatMap(ends)
			: 'Pick two arcs.';
	if (kind === 'tangent') {
		const arc = segments.find((s) => typeOf(s) === ARC);
		const straight = segments.find((s) => typeOf(s) === STRAIGHT);
		return segments.length === 2 && arc && straight
			? [...ends(straight), ...ends(arc)]
			: 'Pick a straight stretch and an arc.';
	}
	if (kind === 'seams') {
		const edges = segments.map(edgeEnds);
		const isOne = edges.length === 2 && edges[0].every((one, k) => sameAnchor(one, edges[1][k]));
		return edges.length === 2 && !isOne ? edges.flat() : 'Pick a stretch of each of two seams.';
	}
	if (kind === 'meets in direction' || kind === 'meets in curvature') {
		const ends = anchors.map((one) => endPlaces(one, kind === 'meets in curvature'));
		if (ends.length !== 2 || !ends[0] || !ends[1])
			return 'Pick two ends of open lines that are straight or curved there.';
		return [...ends[0], ...ends[1]];
	}
	if (places === 2) {
		if (segments.length === 1) return ends(segments[0]);
		if (anchors.length === 1 && side) return [place(anchors[0]), place(anchors[0], side)];
		if (anchors.length === 2) return anchors.map((one) => place(one));
		return 'Pick a stretch, two anchors, or a handle.';
	}
	if (places === 4) {
		if (segments.length === 2) return segments.flatMap(ends);
		// A handle beside a stretch.
		const isDirected = kind === 'parallel' || kind === 'square';
		if (isDirected && anchors.length === 1 && side && segments.length === 1)
			return [place(anchors[0]), place(anchors[0], side), ...ends(segments[0])];
		return isDirected ? 'Pick two stretches, or a stretch and a handle.' : 'Pick two stretches.';
	}
	if (anchors.length === 1 && segments.length === 1) return [place(anchors[0]), ...ends(segments[0])];
	if (anchors.length !== 3) return 'Pick three anchors, or an anchor and a stretch.';
	return between(anchors).map((one) => place(one));
}

/** The one of three that lies between the others comes first. */
function between(anchors: Picked['anchors']): Picked['anchors'] {
	const at = anchors.map(({ outline, anchor }) => placeOfAnchor(outline, anchor)!);
	const far = (i: number, j: number) => Math.hypot(at[i].x - at[j].x, at[i].y - at[j].y);
	const through = [0, 1, 2].map((i) => far(i, (i + 1) % 3) + far(i, (i + 2) % 3));
	const first = through.indexOf(Math.min(...through));
	return [anchors[first], ...anchors.filter((_, i) => i !== first)];
}

const rounded = (v: number): string => `${Number(v.toFixed(3))}`;

/**
 * A hold of some places as they lie now, its value what it is now.
 * @throws CoreError `gone`
 */
export function holdAsIs(
	kind: HoldKind,
	on: readonly HoldPlace[],
	outlines: ReadonlyMap<string, Outline>,
	facts: Pick<Hold, 'id' | 'rank'> & { readonly guide?: string }
): Hold {
	const at = on.map((one) => {
		const outline = outlines.get(one.outline);
		const found = outline && placeOf(outline, one);
		if (!found) throw new CoreError('gone', 'This is no longer in the drawing.');
		return found;
	});
	const hold: Hold = { type: 'hold', ...facts, kind, on };
	const [p, q, r] = at;
	switch (kind) {
		case 'pin':
			return { ...hold, x: p.x, y: p.y };
		case 'length':
			return { ...hold, value: rounded(Math.hypot(q.x - p.x, q.y - p.y)) };
		case 'angle':
			return { ...hold, value: rounded((Math.atan2(q.y - p.y, q.x - p.x) * 180) / Math.PI) };
		case 'radius': {
			const outline = outlines.get(on[0].outline)!;
			const path = sourceLine(outline);
			const i = outline.anchors.indexOf(on[0].anchor);
			return { ...hold, value: rounded(Math.abs(1 / curvatureAt(path.types[i], path.segs, STRIDE * i, 0))) };
		}
		case 'seams': {
			const [first, second] = [on.slice(0, 2), on.slice(2)].map(([from, to]) => {
				const outline = outlines.get(from.outline)!;
				const own = seamEdge(outline, from.anchor, to.anchor);
				return own ? edgeLength(outline, own) : 0;
			});
			// What is nearly equal is meant to be; else the difference is ease.
			const longer = first - second;
			return { ...hold, value: Math.abs(longer) <= NEARLY_SEAM ? '0' : rounded(longer) };
		}
		case 'share': {
			const far = Math.hypot(r.x - q.x, r.y - q.y) ** 2 || 1;
			return { ...hold, value: rounded(((p.x - q.x) * (r.x - q.x) + (p.y - q.y) * (r.y - q.y)) / far) };
		}
		default:
			return hold;
	}
}

/** mm by which two seams may differ that are meant to be equally long. */
const NEARLY_SEAM = 2;

/** Degrees off level or plumb, and mm between lengths, that count as meant. */
export const NEARLY = { degrees: 0.3, mm: 0.2 };

/** Holds that straight stretches of an outline nearly keep: level, plumb, as long as another. */
export function nearlyHeld(outline: Outline, has: readonly Hold[]): { kind: HoldKind; on: HoldPlace[] }[] {
	const out: { kind: HoldKind; on: HoldPlace[] }[] = [];
	const taken = (kind: HoldKind, on: readonly HoldPlace[]) =>
		has.some(
			(hold) =>
				hold.kind === kind &&
				on.every((one) => hold.on.some((p) => p.outline === one.outline && p.anchor === one.anchor))
		);
	const lengths: { mm: number; on: HoldPlace[] }[] = [];
	for (let i = 0; i < segmentTotal(outline); i++) {
		if (segmentTypeOf(outline, i) !== STRAIGHT) continue;
		const on = ends({ outline, anchor: outline.anchors[i] });
		const [p, q] = on.map((one) => placeOf(outline, one)!);
		const [dx, dy] = [q.x - p.x, q.y - p.y];
		const long = Math.hypot(dx, dy);
		if (long < 1) continue;
		const off = (v: number) => (Math.asin(Math.min(1, Math.abs(v) / long)) * 180) / Math.PI;
		for (const [kind, v] of [
			['level', dy],
			['plumb', dx]
		] as const)
			if (off(v) <= NEARLY.degrees && !taken(kind, on)) out.push({ kind, on });
		const alike = lengths.find(({ mm }) => Math.abs(mm - long) <= NEARLY.mm);
		if (!alike) lengths.push({ mm: long, on });
		else if (!taken('equal', [...alike.on, ...on])) out.push({ kind: 'equal', on: [...alike.on, ...on] });
	}
	return out;
}

/** Outlines taken apart: into singles, at all crossings, a stretch by itself, its holes beside it; and the start moved. */
import { breakAt, meetingPlaces, singleSegments, stretchBetween, type Place } from '../../geometry/join';
import { isEmptyBox, unionBox } from '../../geometry/measure';
import type { Path } from '../../geometry/path';
import { boxOf, nearestOnPath } from '../../geometry/pick';
import type { Drawing } from '../drawing';
import type { Edit } from '../history';
import { ANCHOR_STRIDE, detached, lineOf, MARK_STRIDE, type Outline } from '../outline';
import type { NewId } from './operations';
import { replaceBy } from './structure';
import { placeOutlines } from './transform';
import { moveBy } from '../../geometry/maps';

/** Each segment an outline of its own; the first keeps the record. */
export function intoSingles(drawing: Drawing, outlines: readonly Outline[], newId: NewId): Edit {
	return parted(drawing, outlines, newId, singleSegments);
}

/**
 * Outlines broken wherever one of them crosses another, one of the `others`, or itself.
 * @returns the edit, and how many crossings there were.
 */
export function brokenAtCrossings(
	drawing: Drawing,
	outlines: readonly Outline[],
	others: readonly Outline[],
	newId: NewId
): { readonly edit: Edit; readonly crossings: number } {
	const cutters = [...new Set([...outlines, ...others])].map(lineOf);
	let crossings = 0;
	const edit = parted(drawing, outlines, newId, (path) => {
		const n = path.types.length;
		const places = meetingPlaces(path, cutters).filter((k) => path.closed || (k > 1e-9 && k < n - 1e-9));
		crossings += places.length;
		return places.length ? breakAt(path, places.map(placeOf)) : [path];
	});
	return { edit, crossings };
}

const placeOf = (k: number): Place => ({ segment: Math.floor(k), t: k - Math.floor(k) });

/** Each outline in the place of its parts; one that stays whole is not touched. */
function parted(
	drawing: Drawing,
	outlines: readonly Outline[],
	newId: NewId,
	parts: (path: Path) => Path[]
): Edit {
	let at = drawing;
	const put = new Map<string, Outline>();
	for (const outline of outlines) {
		const path = lineOf(outline);
		const made = parts(path);
		if (made.length === 1 && made[0].closed === path.closed) continue;
		const edit = replaceBy(at, detached(outline), made, newId);
		const records = new Map(at.records);
		for (const record of edit.put ?? []) {
			records.set(record.id, record);
			if (record.type === 'outline') put.set(record.id, record);
		}
		at = { ...at, records };
	}
	return { put: [...put.values()] };
}

/** The stretch from one place to another in the direction of travel (`between`), or all the rest of the outline. */
export function stretchesOf(
	path: Path,
	from: number,
	to: number
): { readonly between: Path; readonly rest: readonly Path[] } {
	const n = path.types.length;
	if (path.closed) {
		const end = to > from ? to : to + n;
		return {
			between: stretchBetween(path, from, end),
			rest: [stretchBetween(path, end % n, from >= end % n ? from : from + n)]
		};
	}
	const [a, b] = from < to ? [from, to] : [to, from];
	const rest: Path[] = [];
	if (a > 1e-9) rest.push(stretchBetween(path, 0, a));
	if (b < n - 1e-9) rest.push(stretchBetween(path, b, n));
	return { between: stretchBetween(path, a, b), rest };
}

/** mm within which the end of a part lies on its line. */
const ON_LINE = 1e-4;

/** What of a path is gone where only parts of it are left. */
export function takenOf(path: Path, rest: readonly Path[]): readonly Path[] {
	const n = path.types.length;
	const placed = (x: number, y: number): number => {
		const near = nearestOnPath(path, x, y, ON_LINE);
		return near ? near.segment + near.t : 0;
	};
	const ends = rest.map(({ segs }) => ({
		from: placed(segs[0], segs[1]),
		to: placed(segs[segs.length - 2], segs[segs.length - 1])
	}));
	if (path.closed) {
		const [part] = ends;
		if (!part) return [stretchBetween(path, 0, n)];
		return [stretchBetween(path, part.to, part.from > part.to ? part.from : part.from + n)];
	}
	const out: Path[] = [];
	let at = 0;
	for (const { from, to } of [...ends, { from: n, to: n }]) {
		if (from > at + 1e-9) out.push(stretchBetween(path, at, from));
		at = to;
	}
	return out;
}

/** The holes of a piece laid beside it, to the right, as pieces by themselves. mm between. */
export function holesBeside(drawing: Drawing, piece: Outline, holes: readonly Outline[], gap: number): Edit {
	const box = boxOf(lineOf(piece));
	const inside = unionBox(holes.map((o) => boxOf(lineOf(o))));
	if (isEmptyBox(inside)) return {};
	return placeOutlines(drawing, holes, moveBy(box.x1 + gap - inside.x0, 0));
}

/** A closed outline that begins at another of its anchors; its line and all that hangs on its anchors are the same. */
export function startedAt(outline: Outline, anchor: number): Outline {
	const i = outline.anchors.indexOf(anchor);
	if (i <= 0 || !outline.closed) return outline;
	const from = <A extends Uint8Array | Uint32Array | Float64Array>(list: A, stride: number): A => {
		const turned = list.slice() as A;
		turned.set(list.subarray(stride * i));
		turned.set(list.subarray(0, stride * i), list.length - stride * i);
		return turned;
	};
	return {
		...detached(outline),
		anchors: from(outline.anchors, 1),
		points: from(outline.points, ANCHOR_STRIDE),
		marks: from(outline.marks, MARK_STRIDE)
	};
}

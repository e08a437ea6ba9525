/** Paths as path objects of the canvas: at most 500 segments each, built once per path. */
import { arcShape, arcToCubics } from '../core/geometry/arc';
import { ARC, CUBIC, STRIDE, type Path } from '../core/geometry/path';
import { boxOf } from '../core/geometry/pick';
import { emptyBox, growBox, partOf, type Box } from '../core/geometry/segment';
import { seenBox, type View, type WindowSize } from './view';
import type { Purpose } from '../core/document/purpose';

/** How lines of each purpose are broken: strokes and gaps by turns, px. */
export const DASHES: Readonly<Record<Purpose, readonly number[]>> = {
	cut: [],
	score: [7, 4],
	engrave: [2, 3],
	guide: [12, 4, 2, 4]
};

const MOST = 500;
const strokes = new WeakMap<Path, Path2D[]>();
const wholes = new WeakMap<Path, Path2D>();

function trace(target: Path2D, path: Path, from: number, to: number): void {
	const s = path.segs;
	target.moveTo(s[STRIDE * from], s[STRIDE * from + 1]);
	for (let i = from; i < to; i++) {
		const at = STRIDE * i;
		if (path.types[i] === CUBIC)
			target.bezierCurveTo(s[at + 2], s[at + 3], s[at + 4], s[at + 5], s[at + 6], s[at + 7]);
		else if (path.types[i] === ARC) {
			const a = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
			target.arc(a.cx, a.cy, a.radius, a.startRad, a.startRad + a.sweepRad, a.sweepRad < 0);
		} else target.lineTo(s[at + 6], s[at + 7]);
	}
}

/** For stroking, in mm with y up. */
export function strokePaths(path: Path): Path2D[] {
	let list = strokes.get(path);
	if (!list) {
		list = [];
		const n = path.types.length;
		for (let from = 0; from < n; from += MOST) {
			const piece = new Path2D();
			const to = Math.min(n, from + MOST);
			trace(piece, path, from, to);
			if (path.closed && from === 0 && to === n) piece.closePath();
			list.push(piece);
		}
		strokes.set(path, list);
	}
	return list;
}

/** What is drawn from now on is in mm of the paper, y up. */
export function inMillimetres(
	c: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
	{ x, y, scale }: View,
	{ widthPx, heightPx }: WindowSize,
	ratio: number
): void {
	const k = scale * ratio;
	c.setTransform(k, 0, 0, -k, (widthPx * ratio) / 2 - x * k, (heightPx * ratio) / 2 + y * k);
}

/** Strokes a path under a transform from mm; near the limit of single precision rebuilt relative to the view. */
export function strokeLine(
	c: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
	path: Path,
	view: View,
	size: WindowSize,
	ratio: number
): void {
	if (!needsRebuilding(path, view.scale)) {
		for (const piece of strokePaths(path)) c.stroke(piece);
		return;
	}
	const { lineWidth } = c;
	const dash = c.getLineDash();
	c.save();
	c.setTransform(ratio, 0, 0, ratio, 0, 0);
	c.lineWidth = lineWidth * view.scale;
	c.setLineDash(dash.map((d) => d * view.scale));
	c.stroke(nearPath(path, view, size));
	c.restore();
}

/** For filling: one object for the whole outline. */
export function fillPath(path: Path): Path2D {
	let whole = wholes.get(path);
	if (!whole) {
		whole = new Path2D();
		if (path.types.length) trace(whole, path, 0, path.types.length);
		if (path.closed) whole.closePath();
		wholes.set(path, whole);
	}
	return whole;
}

/** Coordinates in px beyond which single precision shows: lines are then rebuilt relative to the view. */
const PRECISE_PX = 100_000;

/** Whether a path is so large at this scale, or so far away, that the canvas' single precision would make it jitter. */
export function needsRebuilding(path: Path, scale: number): boolean {
	const b = boxOf(path);
	return scale * Math.max(Math.abs(b.x0), Math.abs(b.x1), Math.abs(b.y0), Math.abs(b.y1)) > PRECISE_PX;
}

/**
 * The part of a path that is in sight, relative to the middle of the view, in px with y down: each segment cut to what is
 * near the window, in double precision.
 */
export function nearPath(path: Path, view: View, size: WindowSize): Path2D {
	const seen = seenBox(view, size, 200);
	const out = new Path2D();
	const { types, segs } = path;
	const k = view.scale;
	const px = (x: number) => (x - view.x) * k + size.widthPx / 2;
	const py = (y: number) => size.heightPx / 2 - (y - view.y) * k;
	for (let i = 0; i < types.length; i++) {
		const box = emptyBox();
		growBox(box, types[i], segs, STRIDE * i);
		if (box.x1 < seen.x0 || box.x0 > seen.x1 || box.y1 < seen.y0 || box.y0 > seen.y1) continue;
		for (const [t0, t1] of partsInSight(types[i], segs, STRIDE * i, seen)) {
			const part =
				t0 === 0 && t1 === 1
					? segs.slice(STRIDE * i, STRIDE * (i + 1))
					: partOf(types[i], segs, STRIDE * i, t0, t1);
			out.moveTo(px(part[0]), py(part[1]));
			if (types[i] === CUBIC)
				out.bezierCurveTo(px(part[2]), py(part[3]), px(part[4]), py(part[5]), px(part[6]), py(part[7]));
			else if (types[i] === ARC) {
				// Short parts of an arc as chords of a hundredth of a pixel.
				const cubics = arcToCubics(part[0], part[1], part[6], part[7], part[2], 0.01 / k);
				for (let c = 0; c < cubics.length; c += 8)
					out.bezierCurveTo(
						px(cubics[c + 2]),
						py(cubics[c + 3]),
						px(cubics[c + 4]),
						py(cubics[c + 5]),
						px(cubics[c + 6]),
						py(cubics[c + 7])
					);
			} else out.lineTo(px(part[6]), py(part[7]));
		}
	}
	return out;
}

/** Halves a segment again and again and keeps the halves whose boxes meet the window. */
function partsInSight(
	type: number,
	segs: Float64Array,
	at: number,
	seen: Box,
	t0 = 0,
	t1 = 1,
	depth = 0
): [number, number][] {
	const part = depth === 0 ? segs.slice(at, at + STRIDE) : partOf(type, segs, at, t0, t1);
	const box = emptyBox();
	growBox(box, type, part, 0);
	if (box.x1 < seen.x0 || box.x0 > seen.x1 || box.y1 < seen.y0 || box.y0 > seen.y1) return [];
	const size = Math.max(box.x1 - box.x0, box.y1 - box.y0);
	if (depth >= 24 || size < 2 * Math.max(seen.x1 - seen.x0, seen.y1 - seen.y0)) return [[t0, t1]];
	const mid = (t0 + t1) / 2;
	return [
		...partsInSight(type, segs, at, seen, t0, mid, depth + 1),
		...partsInSight(type, segs, at, seen, mid, t1, depth + 1)
	];
}

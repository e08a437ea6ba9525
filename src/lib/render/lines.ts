/** Paths as path objects of the canvas: at most 500 segments each, built once per path. */
import { arcShape } from '../core/geometry/arc';
import { ARC, CUBIC, STRIDE, type Path } from '../core/geometry/path';

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

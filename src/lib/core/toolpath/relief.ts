/** Tight inside corners opened, so that a square corner of another part goes in: the tool goes on until its edge reaches the point. */
import { turnAt } from '../geometry/measure';
import { PathBuilder, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { directionAt } from '../geometry/segment';
import type { Way } from './compensate';
import { Running } from './running';
import type { Relief } from '../document/job';

/** Degrees: from this turn on a joint of the way is a corner of the line, and an anchor of the line is its point. */
const CORNER = 15;

/**
 * The way with a spur at each corner that the tool does not reach: there and back, no farther than until its edge touches the
 * corner's point; `side` goes along the longer of the two sides instead of along the middle.
 */
export function relieved(way: Way, line: Path, radius: number, kind: Relief): Way {
	if (kind === 'none' || way.kept === 'none' || radius === 0) return way;
	const { path } = way;
	const n = path.types.length;
	const spurs = new Map<number, Point>();
	let running: Running | undefined;
	for (let i = 0; i < n; i++) {
		const turn = turnAt(path, i);
		if (way.kept === 'right' ? !(turn > CORNER) : !(turn < -CORNER)) continue;
		const q = { x: path.segs[STRIDE * i], y: path.segs[STRIDE * i + 1] };
		running ??= new Running(line);
		const v = cornerNear(line, q, radius * 6);
		if (!v) continue;
		const far = Math.hypot(q.x - v.x, q.y - v.y);
		if (!(far > radius * 1.001)) continue;
		spurs.set(i, kind === 'corner' ? along(v, q, radius) : beside(path, i, v, radius, way.kept));
	}
	if (spurs.size === 0) return way;
	const builder = new PathBuilder(path.segs[0], path.segs[1]);
	for (let i = 0; i < n; i++) {
		const spur = spurs.get(i);
		const [x, y] = [builder.endX, builder.endY];
		if (spur) builder.line(spur.x, spur.y).line(x, y);
		builder.segment(path.types[i], path.segs, STRIDE * i);
	}
	return { ...way, path: path.closed ? builder.close() : builder.open() };
}

/** The corner of a line nearest to a place. */
function cornerNear(line: Path, q: Point, reach: number): Point | undefined {
	let best: Point | undefined;
	let least = reach;
	for (let i = 0; i < line.types.length; i++) {
		const [x, y] = [line.segs[STRIDE * i], line.segs[STRIDE * i + 1]];
		const d = Math.hypot(x - q.x, y - q.y);
		if (d < least && Math.abs(turnAt(line, i)) > CORNER) {
			least = d;
			best = { x, y };
		}
	}
	return best;
}

/** From the corner's point towards the way, a radius off. */
const along = (v: Point, q: Point, radius: number): Point => {
	const far = Math.hypot(q.x - v.x, q.y - v.y);
	return { x: v.x + ((q.x - v.x) * radius) / far, y: v.y + ((q.y - v.y) * radius) / far };
};

/** Straight on along the longer neighbour, until the edge touches the point: a radius off the corner along the side's normal. */
function beside(path: Path, i: number, v: Point, radius: number, kept: 'left' | 'right'): Point {
	const p = (i + path.types.length - 1) % path.types.length;
	const length = (k: number) =>
		Math.hypot(
			path.segs[STRIDE * k + 6] - path.segs[STRIDE * k],
			path.segs[STRIDE * k + 7] - path.segs[STRIDE * k + 1]
		);
	const d =
		length(p) >= length(i)
			? directionAt(path.types[p], path.segs, STRIDE * p, 1)
			: directionAt(path.types[i], path.segs, STRIDE * i, 0);
	// Away from the kept side.
	const sign = kept === 'right' ? 1 : -1;
	return { x: v.x - sign * radius * d.y, y: v.y + sign * radius * d.x };
}

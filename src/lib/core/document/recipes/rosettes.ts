/** The reckoning of rosettes. */
import { done, failed } from '../../errors';
import { mirrorAt, placed, turnBy } from '../../geometry/maps';
import { CUBIC, PathBuilder, reversePath, STRIDE, transformPath, type Path } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { rosetteLate, type RosetteSettings } from './rosette';

/** The centre about which the ends of a line are that share of the whole apart: to the left of the way from its start to its end, or right. */
export function centreFor(path: Path, count: number, mirrored: boolean, isLeft = true): Point {
	const end = path.segs.length - 2;
	const [ax, ay, bx, by] = [path.segs[0], path.segs[1], path.segs[end], path.segs[end + 1]];
	const half = Math.PI / count / (mirrored ? 2 : 1);
	const far = (isLeft ? 1 : -1) / (2 * Math.tan(half));
	return { x: (ax + bx) / 2 - (by - ay) * far, y: (ay + by) / 2 + (bx - ax) * far };
}

/** The line with its end (and its handle) moved elsewhere. */
function endingAt(path: Path, to: Point): Path {
	const segs = Float64Array.from(path.segs);
	const e = segs.length - 2;
	if (path.types[path.types.length - 1] === CUBIC) {
		segs[e - 2] += to.x - segs[e];
		segs[e - 1] += to.y - segs[e + 1];
	}
	[segs[e], segs[e + 1]] = [to.x, to.y];
	return { ...path, segs };
}

/** A handle turned into a direction, its length kept; of a curve alone. @param isStart the first of the line, else its last. */
function turned(path: Path, isStart: boolean, dx: number, dy: number): Path {
	if (path.types[isStart ? 0 : path.types.length - 1] !== CUBIC) return path;
	const segs = Float64Array.from(path.segs);
	const at = isStart ? 0 : segs.length - 2;
	const h = isStart ? 2 : segs.length - 4;
	const long = Math.hypot(segs[h] - segs[at], segs[h + 1] - segs[at + 1]);
	const size = Math.hypot(dx, dy) || 1;
	segs[h] = segs[at] + (long * dx) / size;
	segs[h + 1] = segs[at + 1] + (long * dy) / size;
	return { ...path, segs };
}

/** The direction in which a line leaves its start, or comes to its end. */
function directionOf({ segs }: Path, isStart: boolean): Point {
	const at = isStart ? 0 : segs.length - STRIDE;
	for (const k of isStart ? [2, 4, 6] : [4, 2, 0]) {
		const [x, y] = isStart
			? [segs[k] - segs[0], segs[k + 1] - segs[1]]
			: [segs[at + 6] - segs[at + k], segs[at + 7] - segs[at + k + 1]];
		const long = Math.hypot(x, y);
		if (long > 1e-9) return { x: x / long, y: y / long };
	}
	return { x: 1, y: 0 };
}

/** The line that is turned: its ends exactly so far apart that the next begins where it ends, smoothly where that is wanted. */
function leafOf(path: Path, { x, y, count, mirrored, joint }: RosetteSettings): Path {
	const e = path.segs.length - 2;
	const [ax, ay, bx, by] = [path.segs[0] - x, path.segs[1] - y, path.segs[e] - x, path.segs[e + 1] - y];
	const goesLeft = ax * by - ay * bx >= 0;
	const step = ((goesLeft ? 1 : -1) * 360) / count;
	if (!mirrored) {
		let leaf = endingAt(path, placed(turnBy(step, x, y), path.segs[0], path.segs[1]));
		if (joint === 'corner') return leaf;
		const turn = (d: Point, degrees: number) => placed(turnBy(degrees, 0, 0), d.x, d.y);
		const [out, back] = [directionOf(leaf, true), turn(directionOf(leaf, false), -step)];
		const sum = { x: out.x + back.x, y: out.y + back.y };
		if (Math.hypot(sum.x, sum.y) < 1e-9) return leaf;
		leaf = turned(leaf, true, sum.x, sum.y);
		const end = turn(sum, step);
		return turned(leaf, false, -end.x, -end.y);
	}
	// Half a leaf: its end on the ray half a step on, the start where it is.
	const radius = Math.hypot(bx, by);
	const ray = Math.atan2(ay, ax) + (step / 2) * (Math.PI / 180);
	let half = endingAt(path, { x: x + radius * Math.cos(ray), y: y + radius * Math.sin(ray) });
	if (joint === 'smooth') {
		for (const isStart of [true, false]) {
			const k = isStart ? 0 : e;
			const [px, py] = [half.segs[k] - x, half.segs[k + 1] - y];
			const d = directionOf(half, isStart);
			// Square to the ray, the way that it goes already.
			const side = Math.sign(d.y * px - d.x * py) || 1;
			const sign = isStart ? side : -side;
			half = turned(half, isStart, -py * sign, px * sign);
		}
	}
	const other = reversePath(transformPath(half, mirrorAt((ray * 180) / Math.PI, x, y)));
	return new PathBuilder(half.segs[0], half.segs[1]).along(half).along(other).open();
}

rosetteLate.provide({
	*resolve([input], settings) {
		yield 0;
		const { path } = input;
		if (path.closed || path.types.length === 0)
			return failed('closed-outline', 'A rosette is turned out of an open line: from one ray to the next.');
		const { x, y, count } = settings;
		const e = path.segs.length - 2;
		const near = Math.min(
			Math.hypot(path.segs[0] - x, path.segs[1] - y),
			Math.hypot(path.segs[e] - x, path.segs[e + 1] - y)
		);
		if (near < 1e-6)
			return failed(
				'at-centre',
				'An end of the line lies on the centre, so that nothing can be turned there.'
			);
		const leaf = leafOf(path, settings);
		const goesLeft =
			(path.segs[0] - x) * (path.segs[e + 1] - y) - (path.segs[1] - y) * (path.segs[e] - x) >= 0;
		const builder = new PathBuilder(leaf.segs[0], leaf.segs[1]);
		for (let k = 0; k < count; k++)
			builder.along(k ? transformPath(leaf, turnBy(((goesLeft ? 1 : -1) * 360 * k) / count, x, y)) : leaf);
		return done([{ path: builder.close(1e-6), part: '' }]);
	}
});

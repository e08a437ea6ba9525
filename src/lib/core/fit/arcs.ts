/**
 * A line as straights and arcs, for machines that know no other curves. Straights and arcs that are there stay what they are;
 * curves between become as few arcs as a tolerance lets them: from each place the longest arc that lies within it.
 * Method: the arcs through two places of a line differ by their bulge alone; each place between narrows the bulges that pass it
 * within the tolerance (the sagitta), and the middle of what is left is tried exactly.
 */
import { arcShape, bulgeThrough } from '../geometry/arc';
import { PathBuilder, CUBIC, STRIDE, type Path } from '../geometry/path';
import { directionAt, flattenSteps, pointAt, segmentLength } from '../geometry/segment';

/** Radians: a joint that turns more ends an arc. */
const KINK = 0.02;
/** In tolerances: shorter straights and arcs may become part of a longer arc. */
const SHORT = 40;
/** An arc turns no more than a little over a half circle. */
const MOST_BULGE = Math.tan(Math.PI / 4);

/**
 * The same line, every curve as arcs. Its ends and kinks stay where they are.
 * @param tolerance mm, > 0: the largest distance between line and arcs.
 */
export function arcsAlong(path: Path, tolerance: number): Path {
	const n = path.types.length;
	if (n === 0) return path;
	const { types, segs } = path;
	const isKept = (i: number) =>
		types[i] !== CUBIC && segmentLength(types[i], segs, STRIDE * i) >= SHORT * tolerance;
	const kinksBefore = (i: number) => {
		const p = (i + n - 1) % n;
		const a = directionAt(types[p], segs, STRIDE * p, 1);
		const b = directionAt(types[i], segs, STRIDE * i, 0);
		return Math.abs(Math.atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y)) > KINK;
	};
	let begin = 0;
	if (path.closed) while (begin < n && !isKept(begin) && !kinksBefore(begin)) begin++;
	if (begin === n) begin = 0;
	const builder = new PathBuilder(segs[STRIDE * begin], segs[STRIDE * begin + 1]);
	for (let k = 0; k < n;) {
		const i = (begin + k) % n;
		if (isKept(i)) {
			builder.segment(types[i], segs, STRIDE * i);
			k++;
			continue;
		}
		const points = [segs[STRIDE * i], segs[STRIDE * i + 1]];
		let first = true;
		for (; k < n; k++) {
			const j = (begin + k) % n;
			if (!first && (isKept(j) || kinksBefore(j))) break;
			first = false;
			addPoints(types[j], segs, STRIDE * j, tolerance, points);
		}
		addArcs(builder, points, tolerance);
	}
	return path.closed ? builder.close() : builder.open();
}

/** Places along a segment, so close that what lies between them is a small share of the tolerance off. */
function addPoints(type: number, s: Float64Array, at: number, tolerance: number, out: number[]): void {
	const steps = Math.max(2, flattenSteps(type, s, at, tolerance / 12));
	for (let k = 1; k <= steps; k++) {
		const p = pointAt(type, s, at, k / steps);
		out.push(p.x, p.y);
	}
}

function addArcs(builder: PathBuilder, p: number[], tolerance: number): void {
	const last = p.length / 2 - 1;
	for (let i = 0; i < last;) {
		// The reach doubles as long as an arc serves, then is halved in.
		let good = i + 1;
		let bulge = 0;
		let bad = last + 1;
		let step = 1;
		while (bad - good > 1) {
			const j = bad > last ? Math.min(last, good + step) : (good + bad) >> 1;
			const b = arcOver(p, i, j, tolerance);
			if (b === undefined) bad = j;
			else {
				good = j;
				bulge = b;
				step *= 2;
				if (good === last) break;
			}
		}
		builder.arc(bulge, p[2 * good], p[2 * good + 1]);
		i = good;
	}
}

/** The bulge of an arc from place i to place j that passes all between within the tolerance; 0 where a straight does. */
function arcOver(p: readonly number[], i: number, j: number, tolerance: number): number | undefined {
	const [x0, y0, x1, y1] = [p[2 * i], p[2 * i + 1], p[2 * j], p[2 * j + 1]];
	const chord = Math.hypot(x1 - x0, y1 - y0);
	if (chord < 1e-9) return undefined;
	let least = -MOST_BULGE;
	let most = MOST_BULGE;
	const [from, to] = [
		{ x: x0, y: y0 },
		{ x: x1, y: y1 }
	];
	for (let k = i + 1; k < j; k++) {
		const by = { x: p[2 * k], y: p[2 * k + 1] };
		const own = bulgeThrough(from, by, to);
		const a = Math.hypot(by.x - x0, by.y - y0);
		const c = Math.hypot(by.x - x1, by.y - y1);
		// How far the arc moves there as its bulge grows: 2 a c / chord for flat ones, a little else for full ones.
		const free = (tolerance * chord) / Math.max(1e-12, 2 * a * c);
		least = Math.max(least, own - 1.2 * free);
		most = Math.min(most, own + 1.2 * free);
		if (least > most) return undefined;
	}
	for (const bulge of least <= 0 && most >= 0 ? [0, (least + most) / 2] : [(least + most) / 2])
		if (passes(p, i, j, bulge, tolerance)) return bulge;
	return undefined;
}

function passes(p: readonly number[], i: number, j: number, bulge: number, tolerance: number): boolean {
	const [x0, y0, x1, y1] = [p[2 * i], p[2 * i + 1], p[2 * j], p[2 * j + 1]];
	if (Math.abs(bulge) < 1e-9) {
		const chord = Math.hypot(x1 - x0, y1 - y0);
		for (let k = i + 1; k < j; k++) {
			const off = ((p[2 * k] - x0) * (y1 - y0) - (p[2 * k + 1] - y0) * (x1 - x0)) / chord;
			if (!(Math.abs(off) <= tolerance)) return false;
		}
		return true;
	}
	const { cx, cy, radius } = arcShape(x0, y0, x1, y1, bulge);
	for (let k = i + 1; k < j; k++)
		if (!(Math.abs(Math.hypot(p[2 * k] - cx, p[2 * k + 1] - cy) - radius) <= tolerance)) return false;
	return true;
}

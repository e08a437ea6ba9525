/** Tiny loops cut off where a line meets itself: what rounding and tolerances leave beside a corner. */
import { pathCrossings } from './crossings';
import { ARC, CUBIC, PathBuilder, STRIDE, type Path } from './path';
import { partOf, segmentLength } from './segment';
import { TOLERANCE } from '../tolerance';

/**
 * The closed path without the loops shorter than `longest` mm that it makes by meeting itself; it then runs straight on
 * through the meeting place. Longer loops are left. A path that is nothing but small loops comes back empty.
 */
export function withoutSmallLoops(path: Path, longest: number): Path {
	let current = path;
	for (let round = 0; round < 40; round++) {
		const cut = firstSmallLoop(current, longest);
		if (!cut) return current;
		current = cut;
		if (current.types.length === 0) return current;
	}
	return current;
}

function firstSmallLoop(path: Path, longest: number): Path | undefined {
	const n = path.types.length;
	if (!path.closed || n < 2) return undefined;
	const lengths = Array.from(path.types, (type, i) => segmentLength(type, path.segs, STRIDE * i));
	const upTo = [0];
	for (const l of lengths) upTo.push(upTo[upTo.length - 1] + l);
	const whole = upTo[n];
	let best:
		| { a: number; t: number; b: number; u: number; inner: boolean; size: number; x: number; y: number }
		| undefined;
	for (const c of pathCrossings([path], 'self')) {
		let [a, t, b, u] = [c.segmentA, c.t, c.segmentB, c.u];
		const at = (i: number, s: number) => upTo[i] + segmentLength(path.types[i], path.segs, STRIDE * i, 0, s);
		if (at(a, t) > at(b, u)) [a, t, b, u] = [b, u, a, t];
		const between = at(b, u) - at(a, t);
		const inner = between <= whole - between;
		const size = inner ? between : whole - between;
		if (size > longest || size <= TOLERANCE.coincidence / 100) continue;
		if (!best || size > best.size) best = { a, t, b, u, inner, size, x: c.x, y: c.y };
	}
	if (!best) return undefined;
	const { a, t, b, u, x, y } = best;
	const builder = new PathBuilder(x, y);
	const add = (i: number, from: number, to: number, last: boolean) => {
		if (to - from < 1e-12) return;
		const part = partOf(path.types[i], path.segs, STRIDE * i, from, to);
		if (last) {
			if (path.types[i] === CUBIC) {
				part[4] += x - part[6];
				part[5] += y - part[7];
			}
			part[6] = x;
			part[7] = y;
		}
		// A part too short to be told from a place would only leave a kink.
		if (path.types[i] === ARC && Math.hypot(part[6] - part[0], part[7] - part[1]) < 1e-9) return;
		builder.segment(path.types[i], part);
	};
	if (best.inner) {
		// From the meeting place on over the seam and back to it.
		add(b, u, 1, false);
		for (let k = 1; k < n; k++) {
			const i = (b + k) % n;
			if (i === a) break;
			add(i, 0, 1, false);
		}
		add(a, 0, t, true);
	} else {
		if (a === b) add(a, t, u, true);
		else {
			add(a, t, 1, false);
			for (let i = a + 1; i < b; i++) add(i, 0, 1, false);
			add(b, 0, u, true);
		}
	}
	return builder.close(2 * TOLERANCE.coincidence);
}

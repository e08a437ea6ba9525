/** Straights in line made one. */
import { TOLERANCE } from '../tolerance';
import { PathBuilder, STRAIGHT, STRIDE, type Path } from './path';

/** Anchors in the middle of a straight taken out, where three lie on one line. */
export function mergeStraights(path: Path): Path {
	const n = path.types.length;
	const keep: number[] = [];
	for (let i = 0; i < n; i++) {
		const before = (i + n - 1) % n;
		const inLine =
			(path.closed || i > 0) &&
			n > 2 &&
			path.types[i] === STRAIGHT &&
			path.types[before] === STRAIGHT &&
			isInLine(path.segs, STRIDE * before, STRIDE * i);
		if (!inLine) keep.push(i);
	}
	if (keep.length === n || keep.length < 2) return path;
	const s = path.segs;
	const builder = new PathBuilder(s[STRIDE * keep[0]], s[STRIDE * keep[0] + 1]);
	keep.forEach((i, k) => {
		const next = k + 1 < keep.length ? keep[k + 1] : path.closed ? keep[0] + n : n;
		const last = STRIDE * ((next - 1) % n);
		if (path.types[i] === STRAIGHT) builder.line(s[last + 6], s[last + 7]);
		else builder.segment(path.types[i], s, STRIDE * i);
	});
	return path.closed ? builder.close(TOLERANCE.coincidence) : builder.open();
}

function isInLine(s: Float64Array, a: number, b: number): boolean {
	const dx = s[a + 6] - s[a];
	const dy = s[a + 7] - s[a + 1];
	const ex = s[b + 6] - s[b];
	const ey = s[b + 7] - s[b + 1];
	const long = Math.hypot(dx + ex, dy + ey);
	if (dx * ex + dy * ey <= 0) return false;
	return Math.abs(dx * ey - dy * ex) <= TOLERANCE.coincidence * 0.1 * long;
}

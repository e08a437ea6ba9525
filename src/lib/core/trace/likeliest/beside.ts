/** Which pixels lie beside an outline, where on it they are nearest, and on which side their middles lie. */
import type { Line } from './line';
import { STRIDE } from '../../geometry/path';
import { segmentLength } from '../../geometry/segment';

/** The pixels beside an outline. */
export interface Beside {
	readonly count: number;
	/** Their middles, px. */
	readonly x: Float64Array;
	readonly y: Float64Array;
	/** What the picture says of them. */
	readonly tone: Float64Array;
	/** The segment and the place on it that was last found nearest. */
	readonly segment: Int32Array;
	readonly t: Float64Array;
}

/** px between the places of an outline from which pixels are looked for. */
const STEP = 0.8;

/**
 * All pixels whose middles lie within `reach` px of a closed outline.
 * @param isMeant of which segments; of all where nothing is said.
 */
export function pixelsBeside(
	line: Line,
	toneOf: (i: number, j: number) => number,
	reach: number,
	isMeant?: ArrayLike<number>
): Beside {
	const { path } = line;
	const known = new Map<number, number>();
	const [x, y, sq, segment, t]: number[][] = [[], [], [], [], []];
	const around = Math.ceil(reach + STEP / 2);
	const most = (reach + STEP / 2) ** 2;
	for (let k = 0; k < path.types.length; k++) {
		if (isMeant && !isMeant[k]) continue;
		const steps = Math.max(1, Math.ceil(segmentLength(path.types[k], path.segs, STRIDE * k) / STEP));
		for (let i = 0; i <= steps; i++) {
			line.go(k, i / steps);
			const column = Math.floor(line.x);
			const row = Math.floor(line.y);
			for (let cy = row - around; cy <= row + around; cy++)
				for (let cx = column - around; cx <= column + around; cx++) {
					const d = (cx + 0.5 - line.x) ** 2 + (cy + 0.5 - line.y) ** 2;
					if (d > most) continue;
					const key = cy * ROW + cx;
					let at = known.get(key);
					if (at === undefined) {
						at = x.push(cx + 0.5) - 1;
						y.push(cy + 0.5);
						sq.push(Infinity);
						known.set(key, at);
					}
					if (d >= sq[at]) continue;
					sq[at] = d;
					segment[at] = k;
					t[at] = i / steps;
				}
		}
	}
	return {
		count: x.length,
		x: Float64Array.from(x),
		y: Float64Array.from(y),
		tone: Float64Array.from(x, (cx, i) => toneOf(cx - 0.5, y[i] - 0.5)),
		segment: Int32Array.from(segment),
		t: Float64Array.from(t)
	};
}
/** Pixels in a row of their numbers: more than a picture has. */
const ROW = 1 << 20;

/** px from pixel i to the outline, looked for from where it was nearest last; the line is there then. */
export function nearestAgain(line: Line, beside: Beside, i: number): number {
	const n = line.path.types.length;
	const x = beside.x[i];
	const y = beside.y[i];
	let k = beside.segment[i];
	let off = line.nearest(k, beside.t[i], x, y);
	let t = line.t;
	// At an end the next segment may be nearer.
	for (let tries = 0; tries < 2 && (t === 0 || t === 1); tries++) {
		const next = t === 0 ? (k + n - 1) % n : (k + 1) % n;
		const there = line.nearest(next, t === 0 ? 1 : 0, x, y);
		if (!(there < off - 1e-12)) {
			line.go(k, t);
			break;
		}
		k = next;
		off = there;
		t = line.t;
	}
	beside.segment[i] = k;
	beside.t[i] = t;
	return off;
}

/** 1 where a place lies on the ink's side of the outline where that is nearest, -1 on the paper's. The line stays where it is. */
export function sideOf(line: Line, x: number, y: number): 1 | -1 {
	const { k, t } = line;
	const n = line.path.types.length;
	// In a picture, y down, ink lies to the left of where the outline goes.
	const isLeft = (dx: number, dy: number) => (x - line.x) * dy - (y - line.y) * dx >= 0;
	if (t > 0 && t < 1) return isLeft(line.dx, line.dy) ? 1 : -1;
	line.go(t === 0 ? (k + n - 1) % n : (k + 1) % n, 1 - t);
	const [ox, oy] = [line.dx, line.dy];
	line.go(k, t);
	const turn = t === 0 ? ox * line.dy - oy * line.dx : line.dx * oy - line.dy * ox;
	const [here, other] = [isLeft(line.dx, line.dy), isLeft(ox, oy)];
	return (turn < 0 ? here && other : here || other) ? 1 : -1;
}

/** Radians to the left where segment k begins. */
export function turnAt(line: Line, k: number): number {
	const n = line.path.types.length;
	line.go((k + n - 1) % n, 1);
	const { dx, dy } = line;
	line.go(k, 0);
	return Math.atan2(dx * line.dy - dy * line.dx, dx * line.dx + dy * line.dy);
}

/** The resolved outline: packed straight, cubic and arc segments. */

import { TOLERANCE } from '../tolerance';

export const STRAIGHT = 0;
export const CUBIC = 1;
export const ARC = 2;
export type SegmentType = typeof STRAIGHT | typeof CUBIC | typeof ARC;

/** Numbers per segment in `Path.segs`. */
export const STRIDE = 8;

/**
 * One outline as plain segments. `segs` holds 8 numbers a segment: x0 y0, two handles, x1 y1, mm; an arc keeps its
 * bulge in the third number. Each segment starts, bit for bit, where the one before ends; in a closed path the
 * last ends where the first starts. A path without segments is allowed and has no length.
 */
export interface Path {
	readonly closed: boolean;
	readonly types: Uint8Array;
	readonly segs: Float64Array;
}

export function segmentCount(path: Path): number {
	return path.types.length;
}

/** Collects segments one after another. Segments of no length at all are dropped. */
export class PathBuilder {
	private types: number[] = [];
	private segs: number[] = [];
	private startX = 0;
	private startY = 0;
	private x = 0;
	private y = 0;

	constructor(x: number, y: number) {
		this.x = this.startX = x;
		this.y = this.startY = y;
	}
	get endX(): number {
		return this.x;
	}
	get endY(): number {
		return this.y;
	}
	get count(): number {
		return this.types.length;
	}
	line(x: number, y: number): this {
		if (x === this.x && y === this.y) return this;
		const dx = (x - this.x) / 3;
		const dy = (y - this.y) / 3;
		this.types.push(STRAIGHT);
		this.segs.push(this.x, this.y, this.x + dx, this.y + dy, x - dx, y - dy, x, y);
		this.x = x;
		this.y = y;
		return this;
	}
	cubic(ax: number, ay: number, bx: number, by: number, x: number, y: number): this {
		const still =
			x === this.x && y === this.y && ax === this.x && ay === this.y && bx === this.x && by === this.y;
		if (still) return this;
		this.types.push(CUBIC);
		this.segs.push(this.x, this.y, ax, ay, bx, by, x, y);
		this.x = x;
		this.y = y;
		return this;
	}
	arc(bulge: number, x: number, y: number): this {
		if (x === this.x && y === this.y) return this;
		if (bulge === 0) return this.line(x, y);
		this.types.push(ARC);
		this.segs.push(this.x, this.y, bulge, 0, 0, 0, x, y);
		this.x = x;
		this.y = y;
		return this;
	}
	/** Takes the last segment back. */
	takeBack(): void {
		if (this.types.pop() === undefined) return;
		const [x, y] = this.segs.splice(this.segs.length - STRIDE, STRIDE);
		this.x = x;
		this.y = y;
	}
	/** Adds one segment of another path, starting it where this one ends. */
	segment(type: number, s: ArrayLike<number>, at = 0): this {
		if (type === STRAIGHT) return this.line(s[at + 6], s[at + 7]);
		if (type === ARC) return this.arc(s[at + 2], s[at + 6], s[at + 7]);
		return this.cubic(s[at + 2], s[at + 3], s[at + 4], s[at + 5], s[at + 6], s[at + 7]);
	}
	/** All segments of a path, which begins where this one ends. */
	along(path: Path): this {
		for (let i = 0; i < path.types.length; i++) this.segment(path.types[i], path.segs, STRIDE * i);
		return this;
	}
	/** The open path so far. */
	open(): Path {
		return { closed: false, types: Uint8Array.from(this.types), segs: Float64Array.from(this.segs) };
	}
	/**
	 * The closed path; a gap to the start is bridged by a straight, one within `within` mm by moving the end: never by a
	 * straight that would be no length at all.
	 */
	close(within: number = TOLERANCE.coincidence): Path {
		const gap = Math.hypot(this.x - this.startX, this.y - this.startY);
		if (gap > within) this.line(this.startX, this.startY);
		else if (this.segs.length) {
			this.segs[this.segs.length - 2] = this.startX;
			this.segs[this.segs.length - 1] = this.startY;
		}
		return { closed: true, types: Uint8Array.from(this.types), segs: Float64Array.from(this.segs) };
	}
}

/** A path of straights through the points. @param points x,y pairs, mm. */
export function polygonPath(points: ArrayLike<number>, closed = true): Path {
	const builder = new PathBuilder(points[0], points[1]);
	for (let i = 2; i + 1 < points.length; i += 2) builder.line(points[i], points[i + 1]);
	return closed ? builder.close() : builder.open();
}

/** A circle as four arcs, anticlockwise. */
export function circlePath(cx: number, cy: number, radius: number): Path {
	const b = Math.tan(Math.PI / 8);
	return new PathBuilder(cx + radius, cy)
		.arc(b, cx, cy + radius)
		.arc(b, cx - radius, cy)
		.arc(b, cx, cy - radius)
		.arc(b, cx + radius, cy)
		.close();
}

/** The same line travelled the other way. */
export function reversePath(path: Path): Path {
	const n = path.types.length;
	const types = new Uint8Array(n);
	const segs = new Float64Array(n * STRIDE);
	for (let i = 0; i < n; i++) {
		const from = STRIDE * (n - 1 - i);
		const s = path.segs;
		types[i] = path.types[n - 1 - i];
		segs.set(
			types[i] === ARC
				? [s[from + 6], s[from + 7], -s[from + 2], 0, 0, 0, s[from], s[from + 1]]
				: [
						s[from + 6],
						s[from + 7],
						s[from + 4],
						s[from + 5],
						s[from + 2],
						s[from + 3],
						s[from],
						s[from + 1]
					],
			STRIDE * i
		);
	}
	return { closed: path.closed, types, segs };
}

/** Turns `(x, y)` into `(a x + c y + e, b x + d y + f)`. */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const IDENTITY: Affine = [1, 0, 0, 1, 0, 0];

/** First `inner`, then `outer`. */
export function compose(outer: Affine, inner: Affine): Affine {
	const [a, b, c, d, e, f] = outer;
	const [g, h, i, j, k, l] = inner;
	return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
}

/** The way back. */
export function inverse([a, b, c, d, e, f]: Affine): Affine {
	const det = a * d - b * c;
	return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det];
}

/** Whether the map keeps circles round: a move, a turn, an even scaling, a mirroring. */
export function isSimilarity([a, b, c, d]: Affine): boolean {
	const size = Math.hypot(a, b) + Math.hypot(c, d);
	const same = Math.hypot(a - d, b + c) < 1e-9 * size || Math.hypot(a + d, b - c) < 1e-9 * size;
	return same;
}

/**
 * The path moved, turned, scaled, mirrored or sheared. Arcs stay arcs under a similarity, otherwise they must have
 * been turned into cubics before (`arcsToCubics`).
 */
export function transformPath(path: Path, m: Affine): Path {
	const [a, b, c, d, e, f] = m;
	const n = path.types.length;
	const segs = new Float64Array(path.segs.length);
	const flips = a * d - b * c < 0;
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		const isArc = path.types[i] === ARC;
		for (let k = 0; k < STRIDE; k += 2) {
			const x = path.segs[at + k];
			const y = path.segs[at + k + 1];
			if (isArc && (k === 2 || k === 4)) {
				segs[at + k] = k === 2 ? (flips ? -x : x) : 0;
				continue;
			}
			segs[at + k] = a * x + c * y + e;
			segs[at + k + 1] = b * x + d * y + f;
		}
	}
	return { closed: path.closed, types: path.types, segs };
}

/** Whether two paths are the same, to the bit. */
export function isSamePath(a: Path, b: Path): boolean {
	return (
		a === b ||
		(a.closed === b.closed &&
			a.types.length === b.types.length &&
			a.types.every((type, i) => type === b.types[i]) &&
			a.segs.every((v, i) => v === b.segs[i]))
	);
}

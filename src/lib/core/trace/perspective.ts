/** The plane of a sheet seen at an angle: from its four corners in the picture to its true size. */
import { CoreError } from '../errors';

/** Row by row; takes (x, y, 1) to (x', y', w'). */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

export interface Corner {
	readonly x: number;
	readonly y: number;
}

/** A known rectangle in a picture. */
export interface Rectangle {
	/** Its corners in px, in order round it: the first is its origin, the second the end of its width. */
	readonly corners: readonly Corner[];
	/** mm */
	readonly width: number;
	readonly height: number;
}

/**
 * The projective map that takes four places to four others.
 *
 * @throws CoreError `bad-corners` where three of either lie in a line.
 * Source: direct linear transform, Hartley and Zisserman, Multiple View Geometry, chapter 4, for four points exactly.
 */
export function homographyOf(from: readonly Corner[], to: readonly Corner[]): Homography {
	const n = 8;
	const w = n + 1;
	const a = new Float64Array(n * w);
	// Shifted and scaled so that the numbers are of one size (chapter 4.4).
	const f = normalizer(from);
	const g = normalizer(to);
	for (let k = 0; k < 4; k++) {
		const x = (from[k].x - f.x) * f.s;
		const y = (from[k].y - f.y) * f.s;
		const u = (to[k].x - g.x) * g.s;
		const v = (to[k].y - g.y) * g.s;
		a.set([x, y, 1, 0, 0, 0, -u * x, -u * y, u], 2 * k * w);
		a.set([0, 0, 0, x, y, 1, -v * x, -v * y, v], (2 * k + 1) * w);
	}
	for (let r = 0; r < n; r++) {
		let at = r;
		for (let q = r + 1; q < n; q++) if (Math.abs(a[w * q + r]) > Math.abs(a[w * at + r])) at = q;
		if (!(Math.abs(a[w * at + r]) > 1e-9)) {
			throw new CoreError(
				'bad-corners',
				'Three of these four corners lie in a line. Pick the four corners of a rectangle.'
			);
		}
		for (let k = 0; k < w; k++) [a[w * r + k], a[w * at + k]] = [a[w * at + k], a[w * r + k]];
		for (let q = 0; q < n; q++) {
			if (q === r) continue;
			const share = a[w * q + r] / a[w * r + r];
			for (let k = r; k < w; k++) a[w * q + k] -= share * a[w * r + k];
		}
	}
	const h = Array.from({ length: n }, (_, r) => a[w * r + n] / a[w * r + r]);
	const inner: Homography = [h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1];
	const before: Homography = [f.s, 0, -f.x * f.s, 0, f.s, -f.y * f.s, 0, 0, 1];
	const after: Homography = [1 / g.s, 0, g.x, 0, 1 / g.s, g.y, 0, 0, 1];
	return times(after, times(inner, before));
}

function normalizer(p: readonly Corner[]): { x: number; y: number; s: number } {
	const x = p.reduce((sum, c) => sum + c.x, 0) / p.length;
	const y = p.reduce((sum, c) => sum + c.y, 0) / p.length;
	const mean = p.reduce((sum, c) => sum + Math.hypot(c.x - x, c.y - y), 0) / p.length;
	return { x, y, s: mean > 0 ? Math.SQRT2 / mean : 1 };
}

function times(a: Homography, b: Homography): Homography {
	const out = new Array<number>(9).fill(0);
	for (let r = 0; r < 3; r++)
		for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) out[3 * r + c] += a[3 * r + k] * b[3 * k + c];
	return out as unknown as Homography;
}

export function project(h: Homography, x: number, y: number): Corner {
	const w = h[6] * x + h[7] * y + h[8];
	return { x: (h[0] * x + h[1] * y + h[2]) / w, y: (h[3] * x + h[4] * y + h[5]) / w };
}

/**
 * The map from the picture to the rectangle, mm from its origin, y down.
 * @throws CoreError `bad-corners` for corners in a line, in the wrong order, or outside reason; `bad-size`
 */
export function rectifying({ corners, width, height }: Rectangle): Homography {
	if (!(width > 0 && height > 0))
		throw new CoreError('bad-size', 'The rectangle needs a width and a height above 0 mm.');
	if (corners.length !== 4 || corners.some((c) => !Number.isFinite(c.x + c.y)))
		throw new CoreError('bad-corners', 'A rectangle has four corners.');
	if (!isConvex(corners)) {
		throw new CoreError(
			'bad-corners',
			'These four corners do not go round a rectangle. Pick them in order, one after the other round its edge.'
		);
	}
	return homographyOf(corners, rectangleCorners(width, height));
}

/** The map from a rectangle, width by height from its origin, y down, back to four places in a picture. */
export function backFrom(corners: readonly Corner[], width: number, height: number): Homography {
	return homographyOf(rectangleCorners(width, height), corners);
}

const rectangleCorners = (width: number, height: number): Corner[] => [
	{ x: 0, y: 0 },
	{ x: width, y: 0 },
	{ x: width, y: height },
	{ x: 0, y: height }
];

/** Do the corners go round once, always turning the same way? */
function isConvex(c: readonly Corner[]): boolean {
	const turns = c.map((p, k) => {
		const q = c[(k + 1) % 4];
		const r = c[(k + 2) % 4];
		const turn = (q.x - p.x) * (r.y - q.y) - (q.y - p.y) * (r.x - q.x);
		const size = Math.hypot(q.x - p.x, q.y - p.y) * Math.hypot(r.x - q.x, r.y - q.y);
		return size > 0 ? turn / size : 0;
	});
	return turns.every((t) => t > 1e-3) || turns.every((t) => t < -1e-3);
}

/** px of the picture per mm of the rectangle, on average over it. */
export function meanScale(rectangle: Rectangle): number {
	const { corners: c, width, height } = rectangle;
	let twice = 0;
	for (let k = 0; k < 4; k++) {
		const q = c[(k + 1) % 4];
		twice += c[k].x * q.y - c[k].y * q.x;
	}
	return Math.sqrt(Math.abs(twice) / 2 / (width * height));
}

/** What one px of picking error at the worst corner moves on the rectangle, mm. */
export function pickingError(rectangle: Rectangle): number {
	let worst = 0;
	const { width, height } = rectangle;
	const right = rectifying(rectangle);
	const middle = { x: width / 2, y: height / 2 };
	const back = backFrom(rectangle.corners, width, height);
	// Places over the rectangle, seen with each corner picked 1 px off in each direction.
	for (let k = 0; k < 4; k++) {
		for (const [dx, dy] of [
			[1, 0],
			[0, 1]
		]) {
			const corners = rectangle.corners.map((c, j) => (j === k ? { x: c.x + dx, y: c.y + dy } : c));
			const off = rectifying({ ...rectangle, corners });
			for (const p of [rectangle.corners[k], project(back, middle.x, middle.y)]) {
				const a = project(right, p.x, p.y);
				const b = project(off, p.x, p.y);
				worst = Math.max(worst, Math.hypot(a.x - b.x, a.y - b.y));
			}
		}
	}
	return worst;
}

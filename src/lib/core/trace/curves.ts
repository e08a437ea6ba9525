/**
 * Straights, circles and cubics through many points by least squares of the distances square to them, free or tied to
 * given ends. Places are in px here; the formulas know no unit.
 */
import type { Point } from '../geometry/point';
import { eliminate, solve2 } from '../linear/small';

/** Points x[from..to] with y, both ends counted. */
export interface Points {
	readonly x: Float64Array;
	readonly y: Float64Array;
	readonly from: number;
	readonly to: number;
}

export interface LineCurve {
	readonly kind: 'line';
	readonly x: number;
	readonly y: number;
	/** Unit direction of travel. */
	readonly tx: number;
	readonly ty: number;
}
export interface ArcCurve {
	readonly kind: 'arc';
	readonly cx: number;
	readonly cy: number;
	readonly r: number;
	/** 1 where the centre lies to the left of travel (x right, y up), -1 to the right. */
	readonly turn: 1 | -1;
}
export interface CubicCurve {
	readonly kind: 'cubic';
	/** x0,y0 .. x3,y3 */
	readonly c: Float64Array;
}
export type Curve = LineCurve | ArcCurve | CubicCurve;

export interface Ray {
	x: number;
	y: number;
	tx: number;
	ty: number;
}

/** At most so many points are looked at. */
const MOST = 140;
const strideOf = (p: Points, most = MOST) => Math.max(1, Math.floor((p.to - p.from) / most));

/** The straight with the least squares of distances (principal axis), in the direction of travel. */
export function fitLine(p: Points): LineCurve {
	const step = strideOf(p);
	let n = 0;
	let sx = 0;
	let sy = 0;
	for (let i = p.from; i <= p.to; i += step) {
		sx += p.x[i];
		sy += p.y[i];
		n++;
	}
	const mx = sx / n;
	const my = sy / n;
	let xx = 0;
	let xy = 0;
	let yy = 0;
	for (let i = p.from; i <= p.to; i += step) {
		const dx = p.x[i] - mx;
		const dy = p.y[i] - my;
		xx += dx * dx;
		xy += dx * dy;
		yy += dy * dy;
	}
	const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
	let tx = Math.cos(angle);
	let ty = Math.sin(angle);
	if ((p.x[p.to] - p.x[p.from]) * tx + (p.y[p.to] - p.y[p.from]) * ty < 0) {
		tx = -tx;
		ty = -ty;
	}
	return { kind: 'line', x: mx, y: my, tx, ty };
}

/**
 * The circle with the least squares of distances: Kasa's algebraic circle first, then Gauss and Newton.
 * Undefined where the points lie on a straight.
 */
export function fitArc(p: Points): ArcCurve | undefined {
	const step = strideOf(p);
	const x0 = p.x[(p.from + p.to) >> 1];
	const y0 = p.y[(p.from + p.to) >> 1];
	let n = 0;
	const s = { x: 0, y: 0, xx: 0, xy: 0, yy: 0, xz: 0, yz: 0, z: 0 };
	for (let i = p.from; i <= p.to; i += step) {
		const x = p.x[i] - x0;
		const y = p.y[i] - y0;
		const z = x * x + y * y;
		s.x += x;
		s.y += y;
		s.xx += x * x;
		s.xy += x * y;
		s.yy += y * y;
		s.xz += x * z;
		s.yz += y * z;
		s.z += z;
		n++;
	}
	const center = solve2(
		s.xx - (s.x * s.x) / n,
		s.xy - (s.x * s.y) / n,
		s.yy - (s.y * s.y) / n,
		(s.xz - (s.x * s.z) / n) / 2,
		(s.yz - (s.y * s.z) / n) / 2
	);
	if (!center) return undefined;
	let [cx, cy] = center;
	let r = Math.sqrt(Math.max(0, (s.z - 2 * cx * s.x - 2 * cy * s.y) / n + cx * cx + cy * cy));
	for (let round = 0; round < 4; round++) {
		// Unknowns: the centre and the radius; of the radius only its mean is needed.
		let uu = 0;
		let uv = 0;
		let vv = 0;
		let ue = 0;
		let ve = 0;
		let u1 = 0;
		let v1 = 0;
		let e1 = 0;
		for (let i = p.from; i <= p.to; i += step) {
			const dx = p.x[i] - x0 - cx;
			const dy = p.y[i] - y0 - cy;
			const d = Math.hypot(dx, dy) || 1e-9;
			const u = dx / d;
			const v = dy / d;
			const e = d - r;
			uu += u * u;
			uv += u * v;
			vv += v * v;
			ue += u * e;
			ve += v * e;
			u1 += u;
			v1 += v;
			e1 += e;
		}
		const move = solve2(
			uu - (u1 * u1) / n,
			uv - (u1 * v1) / n,
			vv - (v1 * v1) / n,
			ue - (u1 * e1) / n,
			ve - (v1 * e1) / n
		);
		if (!move) break;
		cx += move[0];
		cy += move[1];
		r += (e1 - move[0] * u1 - move[1] * v1) / n;
		if (Math.abs(move[0]) + Math.abs(move[1]) < 1e-6) break;
	}
	if (!(r > 0 && r < 1e6)) return undefined;
	// The side on which the centre lies, seen along the chord over the first quarter: short of half a turn in any case.
	const ax = p.x[p.from];
	const ay = p.y[p.from];
	const quarter = p.from + Math.max(1, (p.to - p.from) >> 2);
	const side = (p.x[quarter] - ax) * (cy + y0 - ay) - (p.y[quarter] - ay) * (cx + x0 - ax);
	return { kind: 'arc', cx: cx + x0, cy: cy + y0, r, turn: side >= 0 ? 1 : -1 };
}

const uAt = new Float64Array(2 * MOST + 4);

/**
 * The cubic with the least squares of distances through the points, its ends free.
 *
 * @param effort at most so many rounds over so many points, fewer where it lies farther off than is hopeful, px.
 * Method: linear least squares at given parameters, the parameters then moved to the nearest places, and again.
 */
export function fitFreeCubic(
	p: Points,
	s: Float64Array,
	effort: { readonly rounds?: number; readonly most?: number; readonly hopeless?: number } = {}
): CubicCurve {
	const { rounds = 14, most = MOST, hopeless = Infinity } = effort;
	const step = strideOf(p, most);
	const length = s[p.to] - s[p.from] || 1;
	let n = 0;
	for (let i = p.from; i <= p.to; i += step) uAt[n++] = (s[i] - s[p.from]) / length;
	const c = new Float64Array(8);
	const kept = new Float64Array(8);
	let least = Infinity;
	for (let round = 0; round < rounds; round++) {
		bernsteinSolve(p, step, c);
		let moved = 0;
		let sum = 0;
		let k = 0;
		for (let i = p.from; i <= p.to; i += step, k++) {
			const [u, off] = nearer(c, p.x[i], p.y[i], uAt[k]);
			sum += off;
			// A little beyond where the nearest place is: the parameters settle in half the rounds.
			const on = u + 0.5 * (u - uAt[k]);
			moved = Math.max(moved, Math.abs(on - uAt[k]));
			uAt[k] = on;
		}
		// What made it worse is taken back, and it is over.
		if (!(sum <= least)) {
			c.set(kept);
			break;
		}
		kept.set(c);
		least = sum;
		if (moved < 3e-4 || (round > 1 && sum > hopeless * hopeless * k)) break;
	}
	return { kind: 'cubic', c };
}

const normal = new Float64Array(24);
const shares = new Float64Array(4);

function bernsteinSolve(p: Points, step: number, c: Float64Array): void {
	normal.fill(0);
	let k = 0;
	for (let i = p.from; i <= p.to; i += step, k++) {
		const u = uAt[k];
		const v = 1 - u;
		shares[0] = v * v * v;
		shares[1] = 3 * v * v * u;
		shares[2] = 3 * v * u * u;
		shares[3] = u * u * u;
		for (let r = 0; r < 4; r++) {
			const share = shares[r];
			for (let q = r; q < 4; q++) normal[6 * r + q] += share * shares[q];
			normal[6 * r + 4] += share * p.x[i];
			normal[6 * r + 5] += share * p.y[i];
		}
	}
	for (let r = 0; r < 4; r++) {
		normal[6 * r + r] *= 1 + 1e-10;
		for (let q = 0; q < r; q++) normal[6 * r + q] = normal[6 * q + r];
	}
	for (let r = 0; r < 4; r++) {
		const pivot = normal[6 * r + r];
		if (Math.abs(pivot) < 1e-14) continue;
		for (let q = r + 1; q < 4; q++) {
			const f = normal[6 * q + r] / pivot;
			for (let w = r; w < 6; w++) normal[6 * q + w] -= f * normal[6 * r + w];
		}
	}
	for (let r = 3; r >= 0; r--) {
		let x = normal[6 * r + 4];
		let y = normal[6 * r + 5];
		for (let q = r + 1; q < 4; q++) {
			x -= normal[6 * r + q] * c[2 * q];
			y -= normal[6 * r + q] * c[2 * q + 1];
		}
		const pivot = normal[6 * r + r] || 1;
		c[2 * r] = x / pivot;
		c[2 * r + 1] = y / pivot;
	}
}

/** The parameter of the nearest place after one step, and how far off, squared, the curve lies at the one given. */
function nearer(c: ArrayLike<number>, x: number, y: number, u: number): [number, number] {
	const v = 1 - u;
	const qx = v * v * v * c[0] + 3 * v * v * u * c[2] + 3 * v * u * u * c[4] + u * u * u * c[6];
	const qy = v * v * v * c[1] + 3 * v * v * u * c[3] + 3 * v * u * u * c[5] + u * u * u * c[7];
	return [nearerParameter(c, x, y, u), (qx - x) * (qx - x) + (qy - y) * (qy - y)];
}

/** One Newton step toward the parameter of the nearest place; not far outside 0..1. */
function nearerParameter(c: ArrayLike<number>, x: number, y: number, u: number): number {
	const v = 1 - u;
	const qx = v * v * v * c[0] + 3 * v * v * u * c[2] + 3 * v * u * u * c[4] + u * u * u * c[6] - x;
	const qy = v * v * v * c[1] + 3 * v * v * u * c[3] + 3 * v * u * u * c[5] + u * u * u * c[7] - y;
	const dx = 3 * (v * v * (c[2] - c[0]) + 2 * v * u * (c[4] - c[2]) + u * u * (c[6] - c[4]));
	const dy = 3 * (v * v * (c[3] - c[1]) + 2 * v * u * (c[5] - c[3]) + u * u * (c[7] - c[5]));
	const ex = 6 * (v * (c[4] - 2 * c[2] + c[0]) + u * (c[6] - 2 * c[4] + c[2]));
	const ey = 6 * (v * (c[5] - 2 * c[3] + c[1]) + u * (c[7] - 2 * c[5] + c[3]));
	const plain = dx * dx + dy * dy;
	if (!(plain > 0)) return u;
	const slope = plain + qx * ex + qy * ey;
	const next = u - (qx * dx + qy * dy) / (slope > 0.2 * plain ? slope : plain);
	return next < -0.05 ? -0.05 : next > 1.05 ? 1.05 : next;
}

/** What an end of a tied cubic must keep: its place, and its direction where one is given. */
export interface End {
	readonly x: number;
	readonly y: number;
	/** Unit direction of travel; left out, the points decide. */
	readonly tx?: number;
	readonly ty?: number;
}

/** The cubic between two ends with the least squares of distances to the points, of which at most so many count. */
export function fitTiedCubic(p: Points, s: Float64Array, a: End, b: End, most = MOST): CubicCurve {
	const step = strideOf(p, most);
	const chord = Math.hypot(b.x - a.x, b.y - a.y);
	const head = p.from <= p.to ? Math.hypot(p.x[p.from] - a.x, p.y[p.from] - a.y) : 0;
	const tail = p.from <= p.to ? Math.hypot(p.x[p.to] - b.x, p.y[p.to] - b.y) : 0;
	const length = head + tail + (p.from <= p.to ? s[p.to] - s[p.from] : chord) || 1;
	let n = 0;
	for (let i = p.from; i <= p.to; i += step) uAt[n++] = (head + s[i] - s[p.from]) / length;
	const third = length / 3;
	const chordX = (b.x - a.x) / (chord || 1);
	const chordY = (b.y - a.y) / (chord || 1);
	const c = Float64Array.from([
		a.x,
		a.y,
		a.x + third * (a.tx ?? chordX),
		a.y + third * (a.ty ?? chordY),
		b.x - third * (b.tx ?? chordX),
		b.y - third * (b.ty ?? chordY),
		b.x,
		b.y
	]);
	if (n < 3) return { kind: 'cubic', c };
	// Columns of unknowns: the length of a handle with a direction, both coordinates of one without.
	const dirs: (readonly [at: 2 | 4, x: number, y: number])[] = [];
	if (a.tx !== undefined) dirs.push([2, a.tx, a.ty!]);
	else dirs.push([2, 1, 0], [2, 0, 1]);
	if (b.tx !== undefined) dirs.push([4, -b.tx, -b.ty!]);
	else dirs.push([4, 1, 0], [4, 0, 1]);
	const m = dirs.length;
	const [atOf, xOf, yOf] = [0, 1, 2].map((i) => Float64Array.from(dirs, (dir) => dir[i]));
	const w = m + 1;
	const system = new Float64Array(m * w);
	const g = new Float64Array(m);
	const kept = Float64Array.from(c);
	let least = Infinity;
	for (let round = 0; round < 8; round++) {
		system.fill(0);
		let k = 0;
		let trace = 0;
		let sum = 0;
		for (let i = p.from; i <= p.to; i += step, k++) {
			const u = uAt[k];
			const v = 1 - u;
			const b1 = 3 * v * v * u;
			const b2 = 3 * v * u * u;
			const qx = v * v * v * c[0] + b1 * c[2] + b2 * c[4] + u * u * u * c[6];
			const qy = v * v * v * c[1] + b1 * c[3] + b2 * c[5] + u * u * u * c[7];
			const dx = v * v * (c[2] - c[0]) + 2 * v * u * (c[4] - c[2]) + u * u * (c[6] - c[4]);
			const dy = v * v * (c[3] - c[1]) + 2 * v * u * (c[5] - c[3]) + u * u * (c[7] - c[5]);
			const size = Math.sqrt(dx * dx + dy * dy) || 1;
			sum += ((p.x[i] - qx) * dy - (p.y[i] - qy) * dx) ** 2 / (size * size);
			// First rounds: places at equal shares of the length; then only what lies square to the curve counts.
			const isAlong = round < 2;
			for (let axis = 0; axis < (isAlong ? 2 : 1); axis++) {
				const nx = isAlong ? 1 - axis : -dy / size;
				const ny = isAlong ? axis : dx / size;
				const e = (p.x[i] - qx) * nx + (p.y[i] - qy) * ny;
				for (let j = 0; j < m; j++) g[j] = (atOf[j] === 2 ? b1 : b2) * (xOf[j] * nx + yOf[j] * ny);
				for (let j = 0; j < m; j++) {
					for (let q = 0; q < m; q++) system[w * j + q] += g[j] * g[q];
					system[w * j + m] += g[j] * e;
				}
			}
		}
		// A step that made it worse is taken back, and it is over.
		if (round >= 2) {
			if (sum > least) {
				c.set(kept);
				break;
			}
			kept.set(c);
			least = sum;
		}
		if (round === 7) break;
		for (let j = 0; j < m; j++) trace += system[w * j + j];
		// What the points hardly tell (how far a handle reaches along a nearly straight line) moves little.
		for (let j = 0; j < m; j++) system[w * j + j] += (round < 2 ? 1e-7 : 3e-3) * trace + 1e-12;
		if (!eliminate(system, m)) break;
		let moved = 0;
		for (let j = 0; j < m; j++) {
			const by = system[w * j + m];
			c[atOf[j]] += by * xOf[j];
			c[atOf[j] + 1] += by * yOf[j];
			moved = Math.max(moved, Math.abs(by));
		}
		k = 0;
		for (let i = p.from; i <= p.to; i += step, k++)
			uAt[k] = Math.min(1, Math.max(0, nearerParameter(c, p.x[i], p.y[i], uAt[k])));
		if (round >= 2 && moved < 1e-4) break;
	}
	// A handle that turned about, or outran the line, follows noise.
	const handle = (at: 2 | 4, end: 0 | 6, end2: End, sign: number) => {
		const dx = c[at] - c[end];
		const dy = c[at + 1] - c[end + 1];
		const size = Math.hypot(dx, dy);
		const tx = end2.tx ?? chordX;
		const ty = end2.ty ?? chordY;
		const along = sign * (dx * tx + dy * ty);
		if (size < 1.2 * length && (end2.tx === undefined ? along > -0.3 * size : along > 0.02 * length)) return;
		const keep = end2.tx === undefined ? third : Math.min(third, chord / 3);
		c[at] = c[end] + sign * keep * tx;
		c[at + 1] = c[end + 1] + sign * keep * ty;
	};
	handle(2, 0, a, 1);
	handle(4, 6, b, -1);
	return { kind: 'cubic', c };
}

/** Signed distances of the points from a curve, positive to the left of travel, written to `out`; returns how many. */
export function offsFrom(curve: Curve, p: Points, out: Float64Array): number {
	const step = Math.max(1, Math.ceil((p.to - p.from + 1) / out.length));
	let n = 0;
	if (curve.kind === 'line') {
		for (let i = p.from; i <= p.to; i += step)
			out[n++] = (p.y[i] - curve.y) * curve.tx - (p.x[i] - curve.x) * curve.ty;
		return n;
	}
	if (curve.kind === 'arc') {
		for (let i = p.from; i <= p.to; i += step)
			out[n++] = curve.turn * (curve.r - Math.hypot(p.x[i] - curve.cx, p.y[i] - curve.cy));
		return n;
	}
	const { c } = curve;
	let u = 0;
	const count = Math.max(1, p.to - p.from);
	for (let i = p.from; i <= p.to; i += step) {
		u = i === p.from ? 0 : Math.max(u, u + ((1 - u) * step) / Math.max(step, count - (i - step - p.from)));
		for (let round = 0; round < 3; round++) u = nearerParameter(c, p.x[i], p.y[i], u);
		const v = 1 - u;
		const qx = v * v * v * c[0] + 3 * v * v * u * c[2] + 3 * v * u * u * c[4] + u * u * u * c[6];
		const qy = v * v * v * c[1] + 3 * v * v * u * c[3] + 3 * v * u * u * c[5] + u * u * u * c[7];
		const dx = v * v * (c[2] - c[0]) + 2 * v * u * (c[4] - c[2]) + u * u * (c[6] - c[4]);
		const dy = v * v * (c[3] - c[1]) + 2 * v * u * (c[5] - c[3]) + u * u * (c[7] - c[5]);
		const isLeft = (p.y[i] - qy) * dx - (p.x[i] - qx) * dy >= 0;
		const off = Math.sqrt((p.x[i] - qx) * (p.x[i] - qx) + (p.y[i] - qy) * (p.y[i] - qy));
		out[n++] = isLeft ? off : -off;
	}
	return n;
}

/** Place and direction of a curve nearest to a place; cubics go on beyond their ends along their circle of curvature. */
export function rayNear(curve: Curve, x: number, y: number): Ray {
	if (curve.kind === 'line') {
		const u = (x - curve.x) * curve.tx + (y - curve.y) * curve.ty;
		return { x: curve.x + u * curve.tx, y: curve.y + u * curve.ty, tx: curve.tx, ty: curve.ty };
	}
	if (curve.kind === 'arc') {
		const dx = x - curve.cx;
		const dy = y - curve.cy;
		const d = Math.hypot(dx, dy) || 1;
		return {
			x: curve.cx + (dx / d) * curve.r,
			y: curve.cy + (dy / d) * curve.r,
			tx: (-dy / d) * curve.turn,
			ty: (dx / d) * curve.turn
		};
	}
	const { c } = curve;
	const first = Math.hypot(x - c[0], y - c[1]) < Math.hypot(x - c[6], y - c[7]);
	let u = first ? 0 : 1;
	for (let round = 0; round < 6; round++) {
		const next = nearerParameter(c, x, y, u);
		u = next < 0 ? 0 : next > 1 ? 1 : next;
	}
	const v = 1 - u;
	const qx = v * v * v * c[0] + 3 * v * v * u * c[2] + 3 * v * u * u * c[4] + u * u * u * c[6];
	const qy = v * v * v * c[1] + 3 * v * v * u * c[3] + 3 * v * u * u * c[5] + u * u * u * c[7];
	const dx = v * v * (c[2] - c[0]) + 2 * v * u * (c[4] - c[2]) + u * u * (c[6] - c[4]);
	const dy = v * v * (c[3] - c[1]) + 2 * v * u * (c[5] - c[3]) + u * u * (c[7] - c[5]);
	const size = Math.hypot(dx, dy) || 1;
	const tx = dx / size;
	const ty = dy / size;
	if (u > 0 && u < 1) return { x: qx, y: qy, tx, ty };
	const ex = v * (c[4] - 2 * c[2] + c[0]) + u * (c[6] - 2 * c[4] + c[2]);
	const ey = v * (c[5] - 2 * c[3] + c[1]) + u * (c[7] - 2 * c[5] + c[3]);
	// B' is 3 (dx, dy), B'' is 6 (ex, ey).
	const k = ((2 / 3) * (dx * ey - dy * ex)) / (size * size * size);
	const along = (x - qx) * tx + (y - qy) * ty;
	if (Math.abs(k) < 1e-6) return { x: qx + along * tx, y: qy + along * ty, tx, ty };
	return rayNear(
		{ kind: 'arc', cx: qx - ty / k, cy: qy + tx / k, r: 1 / Math.abs(k), turn: k > 0 ? 1 : -1 },
		x,
		y
	);
}

/** Where two curves, prolonged, meet nearest to a place. Undefined where they do not cross clearly there. */
export function meetNear(a: Curve, b: Curve, x: number, y: number): Point | undefined {
	let px = x;
	let py = y;
	for (let round = 0; round < 12; round++) {
		const p = rayNear(a, px, py);
		const q = rayNear(b, px, py);
		const det = p.tx * q.ty - p.ty * q.tx;
		if (Math.abs(det) < 0.12) return undefined;
		const u = ((q.x - p.x) * q.ty - (q.y - p.y) * q.tx) / det;
		const nx = p.x + u * p.tx;
		const ny = p.y + u * p.ty;
		const moved = Math.hypot(nx - px, ny - py);
		px = nx;
		py = ny;
		if (!Number.isFinite(px + py)) return undefined;
		if (moved < 1e-7) break;
	}
	return { x: px, y: py };
}

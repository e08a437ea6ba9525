/**
 * Few cubics for a line that is already made of many: runs of short segments are replaced by single cubics as far as
 * a tolerance reaches, tangent-continuous where the line is. Corners, long straights and long arcs stay as they are.
 *
 * One cubic over a run is fitted by least squares of the distances along the line's own normals; as directions at both
 * ends are known, only the two handle lengths are sought (after Schneider 1990, Graphics Gems, with the residual taken
 * along normals). How far a cubic reaches is found by doubling and halving.
 */
import { TOLERANCE } from '../tolerance';
import { cubicLoop } from '../geometry/meetings';
import { CUBIC, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { directionAt, pointAt, segmentLength } from '../geometry/segment';

export interface RefitOptions {
	/** mm, > 0: largest distance between the old line and the new. */
	readonly tolerance: number;
	/** mm: straights and arcs from this length on stay as they are. */
	readonly keepLength: number;
	/** Degrees: joints that turn less are smooth. */
	readonly smoothTurn?: number;
	/** Samples a segment; left out: as many as its bend asks for. One is enough where the segments themselves are samples. */
	readonly perSegment?: number;
}

/** Samples of a run of segments: place, unit direction before and after, length so far. */
interface Samples {
	count: number;
	x: Float64Array;
	y: Float64Array;
	inX: Float64Array;
	inY: Float64Array;
	outX: Float64Array;
	outY: Float64Array;
	s: Float64Array;
	/** 1 where the line turns a corner. */
	kink: Uint8Array;
	/** Number of corners up to and including each sample. */
	kinks: Int32Array;
}

/**
 * The same line with fewer anchors. Promises the tolerance at samples several to each old segment; what must be certain
 * is checked by the caller.
 */
export function refit(path: Path, options: RefitOptions): Path {
	const n = path.types.length;
	if (n < 2) return path;
	const { segs } = path;
	const smooth = ((options.smoothTurn ?? 0.2) * Math.PI) / 180;
	const kept = new Uint8Array(n);
	for (let i = 0; i < n; i++) {
		if (path.types[i] === CUBIC) continue;
		kept[i] = segmentLength(path.types[i], segs, STRIDE * i) >= options.keepLength ? 1 : 0;
	}
	const turn = new Float64Array(n + 1);
	const dirs = new Float64Array(4 * n);
	for (let i = 0; i < n; i++) {
		const a = directionAt(path.types[i], segs, STRIDE * i, 0);
		const b = directionAt(path.types[i], segs, STRIDE * i, 1);
		dirs[4 * i] = a.x;
		dirs[4 * i + 1] = a.y;
		dirs[4 * i + 2] = b.x;
		dirs[4 * i + 3] = b.y;
	}
	for (let i = 0; i < n; i++) {
		const p = (i + n - 1) % n;
		turn[i] = Math.atan2(
			dirs[4 * p + 2] * dirs[4 * i + 1] - dirs[4 * p + 3] * dirs[4 * i],
			dirs[4 * p + 2] * dirs[4 * i] + dirs[4 * p + 3] * dirs[4 * i + 1]
		);
	}
	// A closed line is begun at a kept segment, else at its sharpest corner, so that no run goes over the seam.
	let begin = 0;
	let ring = false;
	if (path.closed) {
		begin = kept.indexOf(1);
		if (begin < 0) {
			let sharpest = 0;
			for (let i = 0; i < n; i++) if (Math.abs(turn[i]) > Math.abs(turn[sharpest])) sharpest = i;
			begin = sharpest;
			ring = Math.abs(turn[sharpest]) <= smooth;
		}
	}
	const types: number[] = [];
	const out: number[] = [];
	const copy = (i: number) => {
		types.push(path.types[i]);
		for (let k = 0; k < STRIDE; k++) out.push(segs[STRIDE * i + k]);
	};
	let k = 0;
	while (k < n) {
		const i = (begin + k) % n;
		if (kept[i]) {
			copy(i);
			k++;
			continue;
		}
		let e = k + 1;
		while (e < n && !kept[(begin + e) % n]) e++;
		if (e - k === 1) copy(i);
		else
			fitRun(
				sampleRun(path, begin + k, begin + e, dirs, turn, smooth, options.perSegment),
				ring,
				options.tolerance,
				types,
				out
			);
		k = e;
	}
	return { closed: path.closed, types: Uint8Array.from(types), segs: Float64Array.from(out) };
}

function sampleRun(
	path: Path,
	from: number,
	to: number,
	dirs: Float64Array,
	turn: Float64Array,
	smooth: number,
	perSegment: number | undefined
): Samples {
	const n = path.types.length;
	const s = path.segs;
	const x: number[] = [];
	const y: number[] = [];
	const inX: number[] = [];
	const inY: number[] = [];
	const outX: number[] = [];
	const outY: number[] = [];
	const kink: number[] = [];
	const put = (px: number, py: number, ax: number, ay: number, bx: number, by: number, isKink: number) => {
		x.push(px);
		y.push(py);
		inX.push(ax);
		inY.push(ay);
		outX.push(bx);
		outY.push(by);
		kink.push(isKink);
	};
	for (let k = from; k < to; k++) {
		const i = k % n;
		const at = STRIDE * i;
		const p = (i + n - 1) % n;
		const corner = k > from && Math.abs(turn[i]) > smooth ? 1 : 0;
		const ix = k > from ? dirs[4 * p + 2] : dirs[4 * i];
		const iy = k > from ? dirs[4 * p + 3] : dirs[4 * i + 1];
		put(
			s[at],
			s[at + 1],
			corner ? ix : dirs[4 * i],
			corner ? iy : dirs[4 * i + 1],
			dirs[4 * i],
			dirs[4 * i + 1],
			corner
		);
		const dot = dirs[4 * i] * dirs[4 * i + 2] + dirs[4 * i + 1] * dirs[4 * i + 3];
		const bent = path.types[i] === STRAIGHT ? 0 : Math.acos(Math.max(-1, Math.min(1, dot)));
		const steps = perSegment ?? Math.min(24, path.types[i] === STRAIGHT ? 2 : 3 + Math.ceil(bent / 0.12));
		for (let m = 1; m < steps; m++) {
			const q = pointAt(path.types[i], s, at, m / steps);
			const d = directionAt(path.types[i], s, at, m / steps);
			put(q.x, q.y, d.x, d.y, d.x, d.y, 0);
		}
	}
	const last = (to - 1) % n;
	put(
		s[STRIDE * last + 6],
		s[STRIDE * last + 7],
		dirs[4 * last + 2],
		dirs[4 * last + 3],
		dirs[4 * last + 2],
		dirs[4 * last + 3],
		0
	);
	const count = x.length;
	const length = new Float64Array(count);
	const kinks = new Int32Array(count);
	for (let i = 1; i < count; i++) {
		length[i] = length[i - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]);
		kinks[i] = kinks[i - 1] + kink[i];
	}
	return {
		count,
		x: Float64Array.from(x),
		y: Float64Array.from(y),
		inX: Float64Array.from(inX),
		inY: Float64Array.from(inY),
		outX: Float64Array.from(outX),
		outY: Float64Array.from(outY),
		s: length,
		kink: Uint8Array.from(kink),
		kinks
	};
}

/** Cubics along a run, each as far as it reaches. */
function fitRun(run: Samples, ring: boolean, tolerance: number, types: number[], out: number[]): void {
	const last = run.count - 1;
	let a = 0;
	let stride = 8;
	while (a < last) {
		// Doubling from the reach of the cubic before, then halving.
		let good = a + 1;
		let bad = last + 1;
		let step = Math.max(2, stride);
		while (good < last) {
			const b = Math.min(last, a + step);
			if (b <= good) break;
			if (reaches(run, a, b, tolerance, false)) {
				good = b;
				step *= 2;
			} else {
				bad = b;
				break;
			}
			if (ring && good === last) break;
		}
		while (bad - good > 1) {
			const mid = (good + bad) >> 1;
			if (reaches(run, a, mid, tolerance, false)) good = mid;
			else bad = mid;
		}
		// What passed by a few samples must hold by all of them; it falls short by little, if at all.
		for (let back = 1; good > a + 1 && !reaches(run, a, good, tolerance); back *= 2) {
			good = Math.max(a + 1, good - Math.max(back, Math.floor((good - a) / 60)));
		}
		// Better at a corner of the line than a hair beside it.
		for (let b = good; b > Math.max(a + 1, good - 3); b--) {
			if (run.kink[b] && reaches(run, a, b, tolerance)) {
				good = b;
				break;
			}
		}
		// What is left should not be a crumb: share the rest evenly.
		if (last - good > 0 && last - good < 0.3 * (good - a)) {
			const half = (a + last) >> 1;
			if (
				half > a + 1 &&
				half < good &&
				!run.kink[good] &&
				reaches(run, a, half, tolerance) &&
				reaches(run, half, last, tolerance)
			)
				good = half;
		}
		reaches(run, a, good, tolerance);
		emit(types, out);
		stride = Math.max(2, (good - a) >> 1);
		a = good;
	}
}

function emit(types: number[], out: number[]): void {
	const bow = Math.max(
		Math.hypot(fitted[2] - (2 * fitted[0] + fitted[6]) / 3, fitted[3] - (2 * fitted[1] + fitted[7]) / 3),
		Math.hypot(fitted[4] - (fitted[0] + 2 * fitted[6]) / 3, fitted[5] - (fitted[1] + 2 * fitted[7]) / 3)
	);
	types.push(bow <= TOLERANCE.coincidence ? STRAIGHT : CUBIC);
	for (let k = 0; k < STRIDE; k++) out.push(fitted[k]);
}

/** The cubic fitted last. */
const fitted = new Float64Array(STRIDE);
const MOST = 20;
const su = new Float64Array(MOST);
const sk = new Int32Array(MOST);

/** Fits one cubic from sample a to sample b; true if it keeps the tolerance. */
function reaches(run: Samples, a: number, b: number, tolerance: number, certain = true): boolean {
	const { x, y, s } = run;
	const x0 = x[a];
	const y0 = y[a];
	const x3 = x[b];
	const y3 = y[b];
	const length = s[b] - s[a];
	const t0x = run.outX[a];
	const t0y = run.outY[a];
	const t3x = run.inX[b];
	const t3y = run.inY[b];
	if (b === a + 1) {
		const third = length / 3;
		fitted.set([x0, y0, x0 + t0x * third, y0 + t0y * third, x3 - t3x * third, y3 - t3y * third, x3, y3]);
		return true;
	}
	const between = b - a - 1;
	const m = Math.min(MOST, between);
	for (let k = 0; k < m; k++) {
		const i = a + 1 + (m === between ? k : Math.floor(((k + 0.5) * between) / m));
		sk[k] = i;
		su[k] = (s[i] - s[a]) / length;
	}
	const cornered = run.kinks[b] - run.kinks[a] - run.kink[b] > 0;
	if (cornered) return reachesFree(run, a, b, m, tolerance, certain);
	let alpha = length / 3;
	let beta = length / 3;
	for (let round = 0; round < 4; round++) {
		let aa = 0;
		let ab = 0;
		let bb = 0;
		let ar = 0;
		let br = 0;
		for (let k = 0; k < m; k++) {
			const i = sk[k];
			const u = su[k];
			const v = 1 - u;
			const b1 = 3 * v * v * u;
			const b2 = 3 * v * u * u;
			const b0 = v * v * v + b1;
			const b3 = u * u * u + b2;
			const nx = -run.outY[i];
			const ny = run.outX[i];
			const r = (b0 * x0 + b3 * x3 - x[i]) * nx + (b0 * y0 + b3 * y3 - y[i]) * ny;
			const ga = b1 * (t0x * nx + t0y * ny);
			const gb = -b2 * (t3x * nx + t3y * ny);
			aa += ga * ga;
			ab += ga * gb;
			bb += gb * gb;
			ar -= ga * r;
			br -= gb * r;
		}
		// A straight says nothing about lengths along itself: what is not told stays.
		const keep = 1e-7 * (aa + bb) + 1e-14;
		const det = (aa + keep) * (bb + keep) - ab * ab;
		const ra = ar + keep * alpha;
		const rb = br + keep * beta;
		alpha = (ra * (bb + keep) - rb * ab) / det;
		beta = (rb * (aa + keep) - ra * ab) / det;
		if (!(alpha > 0.02 * length && beta > 0.02 * length && alpha < 1.2 * length && beta < 1.2 * length))
			return false;
		const ax = x0 + alpha * t0x;
		const ay = y0 + alpha * t0y;
		const bx = x3 - beta * t3x;
		const by = y3 - beta * t3y;
		fitted.set([x0, y0, ax, ay, bx, by, x3, y3]);
		const worst = slide(run, m);
		if (worst <= tolerance && round > 0) return !certain || checkAll(run, a, b, m, tolerance);
		// Hopeless cases are left early.
		if (round === 1 && worst > 40 * tolerance) return false;
	}
	return false;
}

/** Moves each sample's parameter to where the cubic passes it; gives the largest distance along the normals. */
function slide(run: Samples, m: number): number {
	let worst = 0;
	let before = 0;
	for (let k = 0; k < m; k++) {
		const i = sk[k];
		let u = su[k];
		const v = 1 - u;
		const px =
			v * v * v * fitted[0] + 3 * v * v * u * fitted[2] + 3 * v * u * u * fitted[4] + u * u * u * fitted[6];
		const py =
			v * v * v * fitted[1] + 3 * v * v * u * fitted[3] + 3 * v * u * u * fitted[5] + u * u * u * fitted[7];
		const dx =
			3 *
			(v * v * (fitted[2] - fitted[0]) +
				2 * v * u * (fitted[4] - fitted[2]) +
				u * u * (fitted[6] - fitted[4]));
		const dy =
			3 *
			(v * v * (fitted[3] - fitted[1]) +
				2 * v * u * (fitted[5] - fitted[3]) +
				u * u * (fitted[7] - fitted[5]));
		const tx = run.outX[i];
		const ty = run.outY[i];
		const ex = px - run.x[i];
		const ey = py - run.y[i];
		const speed = dx * tx + dy * ty;
		const off = Math.abs(ey * tx - ex * ty);
		// A cubic that runs against the line does not follow it.
		if (!(speed > 0)) return Infinity;
		u -= (ex * tx + ey * ty) / speed;
		if (!(u > before && u < 1)) return Infinity;
		before = u;
		su[k] = u;
		if (off > worst) worst = off;
	}
	return worst;
}

/**
 * Certain at last: every sample between lies on the cubic within the tolerance, in order, and half way between samples
 * the cubic does not swing out either.
 */
function checkAll(run: Samples, a: number, b: number, m: number, tolerance: number): boolean {
	if (cubicLoop(fitted, 0)) return false;
	let k = 0;
	let before = 0;
	const chordLength = run.s[b] - run.s[a];
	for (let i = a + 1; i <= b; i++) {
		let u = 1;
		if (i < b) {
			while (k < m && sk[k] < i) k++;
			const i0 = k > 0 ? sk[k - 1] : a;
			const u0 = k > 0 ? su[k - 1] : 0;
			const i1 = k < m ? sk[k] : b;
			const u1 = k < m ? su[k] : 1;
			u = u0 + ((u1 - u0) * (run.s[i] - run.s[i0])) / (run.s[i1] - run.s[i0]);
			let off = Infinity;
			for (let step = 0; step < 3; step++) {
				const e = place(u);
				const ex = e.x - run.x[i];
				const ey = e.y - run.y[i];
				off = Math.sqrt(ex * ex + ey * ey);
				if (off <= tolerance) break;
				u -= (ex * e.dx + ey * e.dy) / (e.dx * e.dx + e.dy * e.dy);
			}
			if (!(off <= tolerance && u > before - 1e-9 && u <= 1)) return false;
		}
		// The line bows out of the chord between two samples by about an eighth of chord and turn.
		const mid = place((before + u) / 2);
		const dx = run.x[i] - run.x[i - 1];
		const dy = run.y[i] - run.y[i - 1];
		const chord = Math.hypot(dx, dy) || chordLength * 1e-9;
		const off = Math.abs((mid.x - run.x[i - 1]) * dy - (mid.y - run.y[i - 1]) * dx) / chord;
		const turn = Math.abs(run.outX[i - 1] * run.inY[i] - run.outY[i - 1] * run.inX[i]);
		if (off > tolerance + (chord * turn) / 8) return false;
		before = u;
	}
	return true;
}

const spot = { x: 0, y: 0, dx: 0, dy: 0 };

/** Place and derivative of the fitted cubic. */
function place(u: number): typeof spot {
	const v = 1 - u;
	const f = fitted;
	spot.x = v * v * v * f[0] + 3 * v * v * u * f[2] + 3 * v * u * u * f[4] + u * u * u * f[6];
	spot.y = v * v * v * f[1] + 3 * v * v * u * f[3] + 3 * v * u * u * f[5] + u * u * u * f[7];
	spot.dx = 3 * (v * v * (f[2] - f[0]) + 2 * v * u * (f[4] - f[2]) + u * u * (f[6] - f[4]));
	spot.dy = 3 * (v * v * (f[3] - f[1]) + 2 * v * u * (f[5] - f[3]) + u * u * (f[7] - f[5]));
	return spot;
}

const system = new Float64Array(20);

/** As `reaches`, over small corners: both handles are free, as the line itself has no direction there. */
function reachesFree(
	run: Samples,
	a: number,
	b: number,
	m: number,
	tolerance: number,
	certain: boolean
): boolean {
	const { x, y, s } = run;
	const length = s[b] - s[a];
	if (m < 4) return false;
	const x0 = x[a];
	const y0 = y[a];
	const x3 = x[b];
	const y3 = y[b];
	fitted.set([x0, y0, (2 * x0 + x3) / 3, (2 * y0 + y3) / 3, (x0 + 2 * x3) / 3, (y0 + 2 * y3) / 3, x3, y3]);
	for (let round = 0; round < 3; round++) {
		system.fill(0);
		for (let k = 0; k < m; k++) {
			const i = sk[k];
			const u = su[k];
			const v = 1 - u;
			const b0 = v * v * v;
			const b1 = 3 * v * v * u;
			const b2 = 3 * v * u * u;
			const b3 = u * u * u;
			const nx = -run.outY[i];
			const ny = run.outX[i];
			const r = (b0 * x0 + b3 * x3 - x[i]) * nx + (b0 * y0 + b3 * y3 - y[i]) * ny;
			const g0 = b1 * nx;
			const g1 = b1 * ny;
			const g2 = b2 * nx;
			const g3 = b2 * ny;
			system[0] += g0 * g0;
			system[1] += g0 * g1;
			system[2] += g0 * g2;
			system[3] += g0 * g3;
			system[4] -= g0 * r;
			system[6] += g1 * g1;
			system[7] += g1 * g2;
			system[8] += g1 * g3;
			system[9] -= g1 * r;
			system[12] += g2 * g2;
			system[13] += g2 * g3;
			system[14] -= g2 * r;
			system[18] += g3 * g3;
			system[19] -= g3 * r;
		}
		system[5] = system[1];
		system[10] = system[2];
		system[11] = system[7];
		system[15] = system[3];
		system[16] = system[8];
		system[17] = system[13];
		const trace = system[0] + system[6] + system[12] + system[18];
		const keep = 1e-4 * trace + 1e-14;
		for (let k = 0; k < 4; k++) {
			system[6 * k] += keep;
			system[5 * k + 4] += keep * fitted[2 + k];
		}
		if (!solve4()) return false;
		for (let k = 0; k < 4; k++) fitted[2 + k] = system[5 * k + 4];
		const ha = Math.hypot(fitted[2] - x0, fitted[3] - y0);
		const hb = Math.hypot(fitted[4] - x3, fitted[5] - y3);
		if (!(ha > 0.03 * length && hb > 0.03 * length && ha < 1.1 * length && hb < 1.1 * length)) return false;
		const worst = slide(run, m);
		if (worst <= tolerance && round > 0) return !certain || checkAll(run, a, b, m, tolerance);
		if (worst > 40 * tolerance && round > 0) return false;
	}
	return false;
}

/** Gauss with the unknowns left in the last column; false where it is singular. */
function solve4(): boolean {
	for (let i = 0; i < 4; i++) {
		const pivot = system[6 * i];
		if (!(Math.abs(pivot) > 1e-300)) return false;
		for (let r = i + 1; r < 4; r++) {
			const f = system[5 * r + i] / pivot;
			for (let j = i; j <= 4; j++) system[5 * r + j] -= f * system[5 * i + j];
		}
	}
	for (let i = 3; i >= 0; i--) {
		let sum = system[5 * i + 4];
		for (let j = i + 1; j < 4; j++) sum -= system[5 * i + j] * system[5 * j + 4];
		system[5 * i + 4] = sum / system[6 * i];
	}
	return true;
}

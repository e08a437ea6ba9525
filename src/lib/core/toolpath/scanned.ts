/**
 * A cut piece that was scanned and traced, laid on its drawing: turned and moved to where it fits best, and by how much its lines lie
 * beside the drawn ones all round, which tells the true kerf.
 *
 * Method: iterated nearest places (Besl, McKay 1992) with distances along the normal of the drawn line (Chen, Medioni 1992) and one
 * offset for all lines as a fourth unknown; places that lie off more than the rest, such as burrs, count less and less (Tukey's
 * biweight, its width from the median of the residuals).
 */
import { done, failed, type Result } from '../errors';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathLength, polygonArea } from '../geometry/measure';
import { transformPath, type Affine, type Path } from '../geometry/path';
import { orientedPieces } from '../plane/pieces';

export interface LaidOn {
	/** Brings the scanned lines onto the drawn ones. */
	readonly map: Affine;
	/** Degrees that it was turned. */
	readonly turned: number;
	/** mm that the piece is larger than drawn all round; below 0 smaller. */
	readonly larger: number;
	/** mm: what is left beside that, typically (median of the distances), and the share of places that count as burrs. */
	readonly rest: number;
	readonly burrs: number;
}

/** Places on the scanned lines, and turns that are tried to begin with. */
const PLACES = 900;
const TURNS = 48;
const ROUNDS = 60;
/** mm: a scan that cannot be laid closer than this is another piece. */
const ANOTHER = 5;

interface Sample {
	x: number;
	y: number;
}

/**
 * Lays scanned lines onto drawn ones. Both are closed, even-odd; scale and side are as they are.
 * @returns how, or `nothing-given`, `another-piece`.
 */
export function* layOnSteps(
	scanned: readonly Path[],
	drawn: readonly Path[]
): Generator<number, Result<LaidOn>> {
	yield 0;
	const own = orientedPieces(drawn).map(({ path }) => path);
	const theirs = orientedPieces(scanned).map(({ path }) => path);
	if (own.length === 0 || theirs.length === 0)
		return failed('nothing-given', 'Both the drawn piece and the scanned one must be closed outlines.');
	const flat = own.map((path) => flattenPath(path, 0.002));
	const lines = new Normals(flat);
	const samples = samplesOf(theirs);
	const [from, to] = [middleOf(theirs), middleOf(own)];
	// The best of many turns about the middles.
	const starts: { turn: number; off: number }[] = [];
	for (let k = 0; k < TURNS; k++) {
		yield (0.4 * k) / TURNS;
		const turn = (2 * Math.PI * k) / TURNS;
		const map = turnAbout(turn, from, to);
		let sum = 0;
		for (let i = 0; i < samples.length; i += 6) {
			const p = placed(map, samples[i]);
			sum += Math.min(ANOTHER, lines.tree.distance(p.x, p.y));
		}
		starts.push({ turn, off: sum });
	}
	starts.sort((a, b) => a.off - b.off);
	let best: { pose: Pose; rest: number; larger: number; burrs: number } | undefined;
	for (const [k, { turn }] of starts.slice(0, 5).entries()) {
		yield 0.4 + 0.12 * k;
		const found = settle(samples, lines, turnAbout(turn, from, to));
		if (!best || found.rest < best.rest) best = found;
	}
	if (!best || !(best.rest < ANOTHER / 5))
		return failed(
			'another-piece',
			'These two do not fit onto each other: the scan is of another piece, of another size or of the other side.'
		);
	const { pose, larger, rest, burrs } = best;
	const turned = (Math.atan2(pose[1], pose[0]) * 180) / Math.PI;
	return done({ map: pose, turned, larger, rest, burrs });
}

/** The kerf that would have made the piece true: what was reckoned with, less what it is larger at both sides of the cut. */
export const trueKerf = (reckoned: number, larger: number): number => Math.max(0, reckoned - 2 * larger);

/** The lines moved by a map. */
export const laid = (paths: readonly Path[], map: Affine): Path[] =>
	paths.map((path) => transformPath(path, map));

type Pose = Affine;
const placed = ([a, b, c, d, e, f]: Pose, { x, y }: Sample): Sample => ({
	x: a * x + c * y + e,
	y: b * x + d * y + f
});

function turnAbout(turn: number, from: Sample, to: Sample): Pose {
	const [c, s] = [Math.cos(turn), Math.sin(turn)];
	return [c, s, -s, c, to.x - c * from.x + s * from.y, to.y - s * from.x - c * from.y];
}

/** The middle of the area. */
function middleOf(paths: readonly Path[]): Sample {
	let [x, y, all] = [0, 0, 0];
	for (const path of paths) {
		const p = flattenPath(path, 0.02);
		all += polygonArea(p);
		for (let i = 0; i < p.length; i += 2) {
			const j = (i + 2) % p.length;
			const cross = p[i] * p[j + 1] - p[j] * p[i + 1];
			x += ((p[i] + p[j]) * cross) / 6;
			y += ((p[i + 1] + p[j + 1]) * cross) / 6;
		}
	}
	return { x: x / all, y: y / all };
}

/** Places evenly along all lines. */
function samplesOf(paths: readonly Path[]): Sample[] {
	const whole = paths.reduce((sum, path) => sum + pathLength(path), 0);
	const step = whole / PLACES;
	const out: Sample[] = [];
	for (const path of paths) {
		const p = flattenPath(path, 0.002);
		let left = step / 2;
		for (let i = 0; i < p.length; i += 2) {
			const j = (i + 2) % p.length;
			const length = Math.hypot(p[j] - p[i], p[j + 1] - p[i + 1]);
			for (; left <= length; left += step) {
				const t = length > 0 ? left / length : 0;
				out.push({ x: p[i] + (p[j] - p[i]) * t, y: p[i + 1] + (p[j + 1] - p[i + 1]) * t });
			}
			left -= length;
		}
	}
	return out;
}

/** The nearest place on lines with the direction out of the material there: right of the way of oriented outlines. */
class Normals {
	readonly tree: EdgeTree;
	nx = 0;
	ny = 0;
	constructor(flat: readonly Float64Array[]) {
		this.tree = new EdgeTree(flat.map((points) => ({ points, closed: true })));
	}
	/** mm that a place lies outside of the nearest line; `nx`, `ny` then tell which way out is. */
	outside(x: number, y: number): number {
		const d = this.tree.distance(x, y);
		const [dx, dy] = [x - this.tree.x, y - this.tree.y];
		const along = this.tree.direction();
		const [ox, oy] = [along.y, -along.x];
		const isOut = dx * ox + dy * oy >= 0;
		// Off a corner the way to it is the way out; on the line its normal.
		if (d > 1e-9) [this.nx, this.ny] = isOut ? [dx / d, dy / d] : [-dx / d, -dy / d];
		else [this.nx, this.ny] = [ox, oy];
		return isOut ? d : -d;
	}
}

const median = (values: number[]): number => {
	const sorted = [...values].sort((a, b) => a - b);
	return sorted[sorted.length >> 1];
};

/** Improves a pose until it rests. */
function settle(
	samples: readonly Sample[],
	lines: Normals,
	begin: Pose
): { pose: Pose; larger: number; rest: number; burrs: number } {
	let pose = begin;
	let larger = 0;
	let rest = Infinity;
	let burrs = 0;
	for (let round = 0; round < ROUNDS; round++) {
		const off: number[] = [];
		const rows: number[] = [];
		for (const sample of samples) {
			const p = placed(pose, sample);
			off.push(lines.outside(p.x, p.y));
			rows.push(p.x, p.y, lines.nx, lines.ny);
		}
		const middle = median(off);
		const spread = median(off.map((v) => Math.abs(v - middle)));
		rest = spread;
		larger = round === 0 ? middle : larger;
		// No narrower than what a scan blurs.
		const width = Math.max(0.02, 6 * spread);
		const a = new Float64Array(16);
		const b = new Float64Array(4);
		let weights = 0;
		burrs = 0;
		for (let i = 0; i < off.length; i++) {
			const r = off[i] - larger;
			const u = r / width;
			const w = Math.abs(u) < 1 ? (1 - u * u) ** 2 : 0;
			if (w === 0) burrs++;
			weights += w;
			const [x, y, nx, ny] = [rows[4 * i], rows[4 * i + 1], rows[4 * i + 2], rows[4 * i + 3]];
			// A small turn, a small move, a little more all round.
			const row = [x * ny - y * nx, nx, ny, -1];
			for (let m = 0; m < 4; m++) {
				b[m] -= w * row[m] * r;
				for (let n = 0; n < 4; n++) a[4 * m + n] += w * row[m] * row[n];
			}
		}
		const step = solve4(a, b);
		burrs /= Math.max(1, off.length);
		if (!step || weights < 10) break;
		const [turn, mx, my, more] = step;
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		const [pa, pb, pc, pd, pe, pf] = pose;
		pose = [
			c * pa - s * pb,
			s * pa + c * pb,
			c * pc - s * pd,
			s * pc + c * pd,
			c * pe - s * pf + mx,
			s * pe + c * pf + my
		];
		larger += more;
		if (Math.abs(turn) < 1e-8 && Math.hypot(mx, my) < 1e-6 && Math.abs(more) < 1e-6) break;
	}
	return { pose, larger, rest, burrs };
}

/** Four equations by elimination with pivots; undefined where they do not tell. A round shape does not tell its turn: that one is left. */
function solve4(a: Float64Array, b: Float64Array): number[] | undefined {
	const size = Math.max(...a.map(Math.abs));
	if (!(size > 0)) return undefined;
	for (let k = 0; k < 4; k++) a[5 * k] += 1e-9 * size;
	for (let k = 0; k < 4; k++) {
		let p = k;
		for (let r = k + 1; r < 4; r++) if (Math.abs(a[4 * r + k]) > Math.abs(a[4 * p + k])) p = r;
		if (Math.abs(a[4 * p + k]) < 1e-15 * size) return undefined;
		if (p !== k) {
			for (let n = 0; n < 4; n++) [a[4 * k + n], a[4 * p + n]] = [a[4 * p + n], a[4 * k + n]];
			[b[k], b[p]] = [b[p], b[k]];
		}
		for (let r = k + 1; r < 4; r++) {
			const f = a[4 * r + k] / a[4 * k + k];
			for (let n = k; n < 4; n++) a[4 * r + n] -= f * a[4 * k + n];
			b[r] -= f * b[k];
		}
	}
	const x = [0, 0, 0, 0];
	for (let k = 3; k >= 0; k--) {
		let sum = b[k];
		for (let n = k + 1; n < 4; n++) sum -= a[4 * k + n] * x[n];
		x[k] = sum / a[4 * k + k];
	}
	return x;
}

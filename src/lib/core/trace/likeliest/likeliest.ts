/** The likeliest outline in a picture: settled on its pixels, and of the kinds of segments that these ask for. */
import { arcToCubics } from '../../geometry/arc';
import { ARC, CUBIC, PathBuilder, STRAIGHT, STRIDE, type Path } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { directionAt, partOf, segmentLength } from '../../geometry/segment';
import { Line } from './line';
import { pixelsBeside } from './beside';
import { settled as settledOn, type Agreement, type Witness } from './settle';

/** px: how surely pixels say their side at first, and at most. */
const FIRST = 0.2;
const FINEST = 0.02;
/** From round to round pixels are taken to be so much surer. */
const SURER = 0.5;
const SURER_BY = 0.8;

/** What a segment more has to make likelier, and what one less may make unlikelier; natural logarithms. */
const WORTH = 6;
const CHEAP = 3;
const ROUNDS = 8;
/** px: a side between corners that may be none. */
const SHORT = 3.2;
/** px: so far beyond it they may meet. */
const MOST_TIP = 16;
/** px: rougher edges do not tell which segments they are of. */
const ROUGH = 0.13;

/** Segments of an outline for which others stand. */
interface Change {
	readonly first: number;
	readonly count: number;
	/** The segments that stand there, as `Path` has them. */
	readonly types: readonly number[];
	readonly segs: readonly number[];
	/** How much likelier it has to be. */
	readonly worth: number;
}

/**
 * @param path closed, px, y down, ink on its left.
 * @param mayChange whether segments may be put in and taken out.
 * @returns the likeliest outline; the given one where the pixels' edges are too rough to say more. Yields between steps.
 */
export function* likeliest(path: Path, witness: Witness, mayChange: boolean): Generator<void, Path> {
	if (witness.isTold && isAgreed(path, witness)) return path;
	let best = yield* at(path, FIRST, FIRST);
	if (!isSeen(best, [...path.types.keys()], GLANCED) || (witness.isTold && roughness(best) > ROUGH))
		return path;
	for (let round = 0; round < ROUNDS && roughness(best) <= ROUGH; round++) {
		const rough = Math.min(FIRST, roughness(best));
		const spread = rough < witness.even ? FINEST : Math.max(FINEST, rough);
		const isSurer = spread < SURER_BY * best.spread;
		if (isSurer) best = yield* at(best.path, best.spread, spread);
		const asked = mayChange ? changesOf(best, WORTH * witness.together) : [];
		const tried = asked.length > 0 ? yield* finer(best, asked) : best;
		const gone = gains(best.costs, asked, tried.costs);
		const kept = asked.filter((change, k) => gone[k] >= change.worth);
		if (kept.length > 0) best = kept.length === asked.length ? tried : yield* finer(best, kept);
		else if (!isSurer) break;
	}
	return best.path;

	/** The outline settled with pixels ever surer; what is told of segments that are not free counts for nothing. */
	function* at(start: Path, from: number, to: number, isFree?: Uint8Array): Generator<void, Settled> {
		let here = start;
		for (let spread = from; ; spread = Math.max(to, SURER * spread)) {
			const beside = pixelsBeside(new Line(here), witness.toneOf, witness.reach(spread), isFree);
			here = yield* settledOn(here, beside, witness, spread, isFree, spread > to ? PASSING : undefined);
			if (spread <= to) return { path: here, spread: to, ...witness.agreement(new Line(here), beside, to) };
		}
	}

	/** The same with changes made, settled about them. */
	function* finer(before: Settled, changes: readonly Change[]): Generator<void, Settled> {
		const { path, from } = changed(before.path, changes);
		const n = path.types.length;
		const isFree = new Uint8Array(n);
		from.forEach((old, k) => {
			if (old < 0) for (let d = n - AROUND; d <= n + AROUND; d++) isFree[(k + d) % n] = 1;
		});
		const after = yield* at(path, before.spread / SURER, before.spread, isFree);
		from.forEach((old, k) => {
			if (isFree[k]) return;
			for (const told of ['costs', 'due', 'seen', 'rough'] as const) after[told][k] = before[told][old];
		});
		return after;
	}
}

/** Whether an outline is already as likely as one can be. */
function isAgreed(path: Path, witness: Witness): boolean {
	const line = new Line(path);
	const beside = pixelsBeside(line, witness.toneOf, witness.reach(FINEST));
	const { costs, due } = witness.agreement(line, beside, FINEST);
	return costs.every((cost, k) => cost <= AGREED * due[k] + 1);
}
/** Of what pixels cost that scatter by the finest spread. */
const AGREED = 0.5;

/** Steps with pixels that are to become surer yet. */
const PASSING = 3;
/** Segments beside a change that go with it. */
const AROUND = 2;

interface Settled extends Agreement {
	readonly path: Path;
	/** px */
	readonly spread: number;
}

/** How rough the pixels are about an outline, of those in the middle of all: where an outline errs, it errs in places. */
function roughness({ rough, seen }: Agreement): number {
	const order = Array.from(rough.keys()).sort((a, b) => rough[a] - rough[b]);
	const half = seen.reduce((sum, n) => sum + n, 0) / 2;
	let before = 0;
	return rough[order.find((k) => (before += seen[k]) >= half)!];
}

/** Whether pixels say something all along a run of segments. */
function isSeen({ path, seen }: Settled, segments: readonly number[], least = WATCHED): boolean {
	const of = (list: (k: number) => number) => segments.reduce((sum, k) => sum + list(k), 0);
	return of((k) => seen[k]) >= least * of((k) => segmentLength(path.types[k], path.segs, STRIDE * k));
}
/** Pixels that say something for each one that a run is long. */
const WATCHED = 0.7;
/** The same, for the rest of an outline to be told by them. */
const GLANCED = 0.3;

/** Where other segments may stand. */
function changesOf(settled: Settled, worth: number): Change[] {
	const { path, costs, due } = settled;
	const n = path.types.length;
	const out: Change[] = [];
	const taken = new Uint8Array(n);
	for (let k = 0; k < n; k++) {
		const beside = [n - 1, 0, 1].map((d) => (k + d) % n);
		const short = beside.some((i) => taken[i]) ? undefined : shortSide(path, k);
		if (!short || !isSeen(settled, beside)) continue;
		beside.forEach((i) => (taken[i] = 1));
		out.push(short);
	}
	for (let k = 0; k < n; k++) {
		if (!taken[k] && costs[k] - due[k] > worth) out.push({ first: k, count: 1, ...freer(path, k), worth });
	}
	return out;
}
/** A side too short to be told from its neighbours' corner is taken out, and they are prolonged. */
function shortSide(path: Path, k: number): Change | undefined {
	const { types, segs } = path;
	const n = types.length;
	if (n < 4 || types[k] !== STRAIGHT) return undefined;
	if (segmentLength(STRAIGHT, segs, STRIDE * k) > SHORT) return undefined;
	const [a, b] = [(k + n - 1) % n, (k + 1) % n];
	const [p, q] = [STRIDE * k, STRIDE * k + 6].map((at) => ({ x: segs[at], y: segs[at + 1] }));
	const d = directionAt(types[a], segs, STRIDE * a, 1);
	const e = directionAt(types[b], segs, STRIDE * b, 0);
	const cross = d.x * e.y - d.y * e.x;
	if (Math.abs(cross) < 0.05) return undefined;
	const along = ((q.x - p.x) * e.y - (q.y - p.y) * e.x) / cross;
	if (Math.abs(along) > MOST_TIP) return undefined;
	const meet: Point = { x: p.x + along * d.x, y: p.y + along * d.y };
	const before = Array.from(segs.subarray(STRIDE * a, STRIDE * a + STRIDE));
	const after = Array.from(segs.subarray(STRIDE * b, STRIDE * b + STRIDE));
	before.splice(6, 2, meet.x, meet.y);
	after.splice(0, 2, meet.x, meet.y);
	return { first: a, count: 3, types: [types[a], types[b]], segs: [...before, ...after], worth: -CHEAP };
}

/** The same segment with more freedom: a straight may bend, an arc be no circle's, a cubic turn again. */
function freer({ types, segs }: Path, k: number): Pick<Change, 'types' | 'segs'> {
	const s = Array.from(segs.subarray(STRIDE * k, STRIDE * k + STRIDE));
	const cubics = (list: readonly number[]) => ({
		types: new Array<number>(list.length / STRIDE).fill(CUBIC),
		segs: list
	});
	if (types[k] === STRAIGHT) {
		const bulge = (2 * BEND) / segmentLength(STRAIGHT, s, 0);
		return { types: [ARC], segs: [s[0], s[1], bulge, 0, 0, 0, s[6], s[7]] };
	}
	if (types[k] === ARC) return cubics(Array.from(arcToCubics(s[0], s[1], s[6], s[7], s[2])));
	return cubics([...partOf(CUBIC, s, 0, 0, 0.5), ...partOf(CUBIC, s, 0, 0.5, 1)]);
}
/** px: the first bend of a straight that may bend. */
const BEND = 0.01;

/**
 * The outline with the changes made, and which segment each of its own was; -1 of new ones. It begins at a change that runs over
 * the first segment, where there is one.
 */
function changed(path: Path, changes: readonly Change[]): { path: Path; from: number[] } {
	const n = path.types.length;
	const byFirst = new Map(changes.map((c) => [c.first, c]));
	const start = startOf(changes, n);
	const types: number[] = [];
	const segs: number[] = [];
	const from: number[] = [];
	for (let i = 0; i < n;) {
		const k = (start + i) % n;
		const change = byFirst.get(k);
		types.push(...(change ? change.types : [path.types[k]]));
		segs.push(...(change ? change.segs : path.segs.subarray(STRIDE * k, STRIDE * k + STRIDE)));
		from.push(...(change ? change.types.map(() => -1) : [k]));
		i += change ? change.count : 1;
	}
	const builder = new PathBuilder(segs[0], segs[1]);
	types.forEach((type, k) => builder.segment(type, segs, STRIDE * k));
	return { path: builder.close(1e-9), from };
}
const startOf = (changes: readonly Change[], n: number) =>
	changes.find((c) => c.first + c.count > n)?.first ?? 0;

/** How much likelier each change made its segments. */
function gains(costs: Float64Array, changes: readonly Change[], after: Float64Array): number[] {
	const n = costs.length;
	const start = startOf(changes, n);
	const byFirst = new Map(changes.map((c, k) => [c.first, k]));
	const out = changes.map(() => 0);
	for (let i = 0, j = 0; i < n;) {
		const k = byFirst.get((start + i) % n);
		if (k === undefined) {
			i++;
			j++;
			continue;
		}
		for (let c = 0; c < changes[k].count; c++, i++) out[k] += costs[(start + i) % n];
		for (let c = 0; c < changes[k].types.length; c++, j++) out[k] -= after[j];
	}
	return out;
}

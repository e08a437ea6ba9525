/**
 * Combining outlines: what any covers, what all cover, one less the others, what only one covers, all regions apart.
 * Works on the arrangement of the lines themselves, so that curves stay curves: segments that no other line meets come
 * through as they are.
 */
import { CoreError, done, failed, type Result } from '../errors';
import { TOLERANCE } from '../tolerance';
import { isWound, type CombinedPiece, type CombineInput, type CombineOp, type FillRule } from './area';
import { finish, part } from '../progress';
import { arrange, arrangeSteps, windingsOfOthers, type Arrangement } from './arrangement';
import type { Part, Strand } from './strands';
import { checkCombinedSteps } from './combine-check';
import { pathArea } from '../geometry/measure';
import { ARC, CUBIC, polygonPath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { groupPieces } from './pieces';
import { combinePolygons } from './polygon-clipper';
import { partOf } from '../geometry/segment';
import { curvesThroughPolygon } from '../fit/by-reach';

export interface Combined {
	readonly pieces: CombinedPiece[];
	/** The largest distance of the result's line from the inputs' lines found by the check, mm; 0 without a check. */
	readonly error: number;
	/** Whether the polygon net had to serve. */
	readonly fallback: boolean;
}

export interface CombineOptions {
	/** Hold the result against an independent reckoning. */
	readonly verify?: boolean;
	/** Called when the result stands and only its check is left. */
	readonly made?: () => void;
	/** mm, > 0. How closely curves are fitted back where the polygon net had to serve. */
	readonly tolerance?: number;
}

/**
 * Combines the areas of two or more inputs. Open paths are left out; `cutLines` serves them.
 * An empty result is a result.
 *
 * @returns the pieces, or `combine-failed` where neither the exact way nor the net gives a result that holds.
 */
export function combine(
	inputs: readonly CombineInput[],
	op: CombineOp,
	options: CombineOptions = {}
): Result<Combined> {
	return finish(combineSteps(inputs, op, options));
}

/** The same, telling how far it has come (0 to 1). */
export function* combineSteps(
	inputs: readonly CombineInput[],
	op: CombineOp,
	options: CombineOptions = {}
): Generator<number, Result<Combined>> {
	const closed = inputs.map((input) =>
		input.map((area) => ({
			rule: area.rule,
			paths: area.paths.filter((path) => path.closed && path.types.length > 0)
		}))
	);
	let exact: CombinedPiece[] | undefined;
	try {
		exact = yield* part(exactlySteps(closed, op), 0, 0.7);
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
	}
	if (exact) {
		yield 0.7;
		options.made?.();
		if (!options.verify) return done({ pieces: exact, error: 0, fallback: false });
		const check = yield* part(checkCombinedSteps(closed, op, exact), 0.7, 0.8);
		if (check.ok) return done({ pieces: exact, error: check.error, fallback: false });
	}
	const tolerance = options.tolerance ?? TOLERANCE.fit;
	yield 0.8;
	const net = netPieces(closed, op, tolerance);
	yield 0.9;
	const check = yield* part(checkCombinedSteps(closed, op, net, tolerance), 0.9, 1);
	if (check.ok) return done({ pieces: net, error: check.error, fallback: true });
	return failed(
		'combine-failed',
		'These outlines could not be combined reliably. Check them for doubled lines and crumbs, and try again.'
	);
}

/** How the rule judges a face from which inputs cover it. */
function covers(op: CombineOp, inside: number, first: boolean, total: number): boolean {
	switch (op) {
		case 'union':
		case 'regions':
			return inside > 0;
		case 'intersection':
			return inside === total;
		case 'difference':
			return first && inside === 1;
		case 'xor':
			return inside % 2 === 1;
	}
}

/**
 * The outlines of what the closed paths cover by a rule: solids anticlockwise, holes clockwise, no crossings. Paths that
 * are so already come back as they are.
 * @throws CoreError `tangle`, `unsure`
 */
export function coveredOutlines(paths: readonly Path[], rule: FillRule): Path[] {
	return finish(coveredSteps(paths, rule));
}

/** The same, telling how far it has come (0 to 1). */
export function* coveredSteps(paths: readonly Path[], rule: FillRule): Generator<number, Path[]> {
	const closed = paths.filter((path) => path.closed);
	const pieces = yield* exactlySteps([[{ paths: closed, rule }]], 'union');
	return pieces.flatMap((p) => p.paths);
}

interface FaceStates {
	/** Whether the result covers the face. */
	readonly covered: Uint8Array;
	/** Equal where the same inputs cover two faces. */
	readonly key: Float64Array;
	/** The inputs that belong to a key. */
	readonly inputsOf: Map<number, number[]>;
}

function* exactlySteps(inputs: readonly CombineInput[], op: CombineOp): Generator<number, CombinedPiece[]> {
	const paths: Path[] = [];
	const areaOf: number[] = [];
	const rules: FillRule[] = [];
	const inputOf: number[] = [];
	inputs.forEach((input, which) =>
		input.forEach((area) => {
			for (const path of area.paths) {
				paths.push(path);
				areaOf.push(rules.length);
			}
			rules.push(area.rule);
			inputOf.push(which);
		})
	);
	if (paths.length === 0) return [];
	const plane = yield* part(arrangeSteps(paths), 0, 0.8);
	const states = judgeFaces(plane, areaOf, rules, inputOf, inputs.length, op);
	yield 0.9;
	if (op !== 'regions')
		return piecesOf(plane, states.covered, undefined).map((p) => ({ paths: p, inputs: [] }));
	const out: CombinedPiece[] = [];
	for (const [key, list] of states.inputsOf) {
		yield 0.9;
		if (list.length === 0) continue;
		for (const p of piecesOf(plane, states.covered, { key, keys: states.key })) {
			out.push({ paths: p, inputs: list });
		}
	}
	return out;
}

/** A number for each input so that sums of them tell sets apart: powers of two, or scattered numbers where there are many. */
function inputKeys(count: number): number[] {
	if (count <= 48) return Array.from({ length: count }, (_, i) => 2 ** i);
	let state = 12345;
	return Array.from({ length: count }, () => {
		let key = 0;
		for (let k = 0; k < 3; k++) {
			state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
			key = key * 8192 + (state >>> 19);
		}
		return key + 1;
	});
}

/** Walks from face to face over the strands and keeps count of the windings. */
function judgeFaces(
	plane: Arrangement,
	areaOf: readonly number[],
	rules: readonly FillRule[],
	inputOf: readonly number[],
	total: number,
	op: CombineOp
): FaceStates {
	const halves = plane.faceOf.length;
	// Half-edges by face.
	const start = new Int32Array(plane.faces + 1);
	for (let h = 0; h < halves; h++) start[plane.faceOf[h] + 1]++;
	for (let f = 0; f < plane.faces; f++) start[f + 1] += start[f];
	const fill = Int32Array.from(start);
	const edges = new Int32Array(halves);
	for (let h = 0; h < halves; h++) edges[fill[plane.faceOf[h]]++] = h;

	const windings = new Int32Array(rules.length);
	const insideOf = new Int32Array(total);
	const keys = inputKeys(total);
	const scatter = inputKeys(Math.max(49, rules.length));
	let inside = 0;
	let key = 0;
	let print = 0;
	const isIn = (area: number) => isWound(windings[area], rules[area]);
	const wind = (area: number, by: number) => {
		const before = isIn(area);
		windings[area] += by;
		print += by * scatter[area];
		const after = isIn(area);
		if (before === after) return;
		const which = inputOf[area];
		if (after) {
			if (insideOf[which]++ === 0) {
				inside++;
				key += keys[which];
			}
		} else if (--insideOf[which] === 0) {
			inside--;
			key -= keys[which];
		}
	};
	/** Over half-edge h from its left to its right (`there`), or back. */
	const step = (h: number, there: boolean) => {
		const strand = plane.strands[h >> 1];
		const by = ((h & 1) === 0) === there ? -1 : 1;
		for (let k = 0; k < strand.paths.length; k++) {
			const area = areaOf[strand.paths[k]];
			if (area >= 0) wind(area, by * strand.signs[k]);
		}
	};
	const covered = new Uint8Array(plane.faces);
	const faceKey = new Float64Array(plane.faces);
	const prints = new Float64Array(plane.faces);
	const seen = new Uint8Array(plane.faces);
	const inputsOf = new Map<number, number[]>();
	const note = (face: number) => {
		seen[face] = 1;
		covered[face] = covers(op, inside, insideOf[0] > 0, total) ? 1 : 0;
		faceKey[face] = key;
		prints[face] = print;
		if (op === 'regions' && !inputsOf.has(key)) {
			inputsOf.set(
				key,
				Array.from(insideOf.keys()).filter((i) => insideOf[i] > 0)
			);
		}
	};
	const at = Int32Array.from(start);
	const entered: number[] = [];
	for (const component of plane.components) {
		const base =
			plane.components.length > 1 ? windingsOfOthers(plane, component.segment) : new Map<number, number>();
		for (const [path, w] of base) if (areaOf[path] >= 0) wind(areaOf[path], w);
		let face = component.outer;
		note(face);
		for (;;) {
			if (at[face] < start[face + 1]) {
				const h = edges[at[face]++];
				const other = plane.faceOf[h ^ 1];
				step(h, true);
				if (!seen[other]) {
					entered.push(h);
					face = other;
					note(face);
					continue;
				}
				// Reached again another way: the windings must be the same.
				if (prints[other] !== print) {
					throw new CoreError('unsure', 'The inside of these outlines could not be told from their outside.');
				}
				step(h, false);
				continue;
			}
			const h = entered.pop();
			if (h === undefined) break;
			step(h, false);
			face = plane.faceOf[h];
		}
		for (const [path, w] of base) if (areaOf[path] >= 0) wind(areaOf[path], -w);
	}
	return { covered, key: faceKey, inputsOf };
}

/** The boundary of the covered faces as pieces. With `only`, the faces of one key count alone. */
function piecesOf(
	plane: Arrangement,
	covered: Uint8Array,
	only: { key: number; keys: Float64Array } | undefined
): Path[][] {
	const isIn = (face: number) => covered[face] === 1 && (!only || only.keys[face] === only.key);
	const halves = plane.faceOf.length;
	const bounds = (h: number) => isIn(plane.faceOf[h]) && !isIn(plane.faceOf[h ^ 1]);
	const used = new Uint8Array(halves);
	const paths: Path[] = [];
	for (let first = 0; first < halves; first++) {
		if (used[first] || !bounds(first)) continue;
		let chain: number[] = [];
		const stood = new Map<number, number>();
		let h = first;
		do {
			used[h] = 1;
			const strand = plane.strands[h >> 1];
			const from = h & 1 ? strand.to : strand.from;
			const to = h & 1 ? strand.from : strand.to;
			stood.set(from, chain.length);
			chain.push(h);
			// Back at a place where this loop has been: what lies between is a loop of its own.
			const before = stood.get(to);
			if (before !== undefined && before > 0) {
				paths.push(tieLoop(plane, chain.slice(before)));
				for (const e of chain.slice(before)) {
					const s = plane.strands[e >> 1];
					const node = e & 1 ? s.to : s.from;
					if (node !== to) stood.delete(node);
				}
				chain = chain.slice(0, before);
				stood.delete(to);
			}
			let e = plane.next[h];
			for (let k = 0; !bounds(e); k++) {
				if (k > halves) throw new CoreError('unsure', 'A boundary does not close.');
				e = plane.next[e ^ 1];
			}
			h = e;
			if (used[h] && h !== first) throw new CoreError('unsure', 'A boundary does not close.');
		} while (h !== first);
		if (chain.length) paths.push(tieLoop(plane, chain));
	}
	// What is nowhere wider than the tolerance is no area.
	const whole = paths.filter(
		(path) => path.types.length > 0 && Math.abs(pathArea(path)) > TOLERANCE.coincidence * roughLength(path)
	);
	const outer = whole.filter((path) => pathArea(path) > 0);
	if (outer.length === 1) return [[outer[0], ...whole.filter((path) => path !== outer[0])]];
	return groupPieces(whole).map((group) => group.map((i) => whole[i]));
}

/** Length along the anchors, mm. */
function roughLength({ types, segs }: Path): number {
	let sum = 0;
	for (let i = 0; i < types.length; i++) {
		const at = STRIDE * i;
		sum += Math.hypot(segs[at + 6] - segs[at], segs[at + 7] - segs[at + 1]);
	}
	return sum;
}

interface Run {
	segment: number;
	/** Travelled from `from` to `to` (from > to: backward). */
	from: number;
	to: number;
	/** Where it ends: a node, or -1 for the end of its segment. */
	node: number;
	/** Whether it starts at a node. */
	fresh: boolean;
}

function runsOf(strand: Strand, backward: boolean): Run[] {
	const runs: Run[] = [];
	const add = (part: Part, first: boolean, last: boolean) =>
		runs.push({
			segment: part.segment,
			from: backward ? part.t1 : part.t0,
			to: backward ? part.t0 : part.t1,
			node: last ? (backward ? strand.from : strand.to) : -1,
			fresh: first
		});
	const n = strand.parts.length;
	for (let k = 0; k < n; k++) add(strand.parts[backward ? n - 1 - k : k], k === 0, k === n - 1);
	return runs;
}

/** One closed path along half-edges; cuts that turned out not to matter are taken back. */
function tieLoop(plane: Arrangement, chain: readonly number[]): Path {
	const runs: Run[] = [];
	for (const h of chain) {
		for (const run of runsOf(plane.strands[h >> 1], (h & 1) === 1)) {
			const last = runs[runs.length - 1];
			if (last && continues(last, run)) {
				last.to = run.to;
				last.node = run.node;
			} else runs.push(run);
		}
	}
	// Over the seam, too; then the loop starts elsewhere.
	while (runs.length > 1 && continues(runs[runs.length - 1], runs[0])) {
		const first = runs.shift()!;
		const last = runs[runs.length - 1];
		last.to = first.to;
		last.node = first.node;
	}
	return tieRuns(plane, runs, true);
}

function continues(a: Run, b: Run): boolean {
	return (
		a.segment === b.segment && a.to === b.from && a.from < a.to === b.from < b.to && a.to !== 0 && a.to !== 1
	);
}

function tieRuns(plane: Arrangement, runs: readonly Run[], closed: boolean): Path {
	const types: number[] = [];
	const segs: number[] = [];
	const { nodes } = plane;
	for (const run of runs) {
		const at = STRIDE * run.segment;
		const isWhole = Math.abs(run.to - run.from) === 1;
		const type = isWhole ? plane.givenTypes[run.segment] : plane.types[run.segment];
		const s = isWhole
			? Float64Array.from(plane.segs.subarray(at, at + STRIDE))
			: partOf(type, plane.segs, at, Math.min(run.from, run.to), Math.max(run.from, run.to));
		if (run.from > run.to) turnBack(s, type);
		const n = segs.length;
		// A closed line begins where its last run ends.
		const before = n === 0 && closed ? runs[runs.length - 1].node : -1;
		if (n > 0) moveEnd(s, type, 0, segs[n - 2], segs[n - 1]);
		else if (before >= 0) moveEnd(s, type, 0, nodes[2 * before], nodes[2 * before + 1]);
		if (run.node >= 0) moveEnd(s, type, 6, nodes[2 * run.node], nodes[2 * run.node + 1]);
		if (type === ARC && Math.hypot(s[6] - s[0], s[7] - s[1]) < 1e-9) continue;
		// Two straights in line across a place where lines met are one.
		if (
			n > 0 &&
			run.fresh &&
			type === STRAIGHT &&
			types[types.length - 1] === STRAIGHT &&
			inLine(segs, n - STRIDE, s)
		) {
			setStraight(segs, n - STRIDE, s[6], s[7]);
			continue;
		}
		types.push(type);
		for (let k = 0; k < STRIDE; k++) segs.push(s[k]);
	}
	if (closed && types.length > 0) {
		const n = segs.length;
		const tail = segs.slice(n - STRIDE);
		const last = types.length - 1;
		moveEnd(tail, types[last], 6, segs[0], segs[1]);
		for (let k = 0; k < STRIDE; k++) segs[n - STRIDE + k] = tail[k];
		if (runs[0].fresh && types.length > 3 && types[0] === STRAIGHT && types[last] === STRAIGHT) {
			const head = Float64Array.from(segs.slice(0, STRIDE));
			if (inLine(segs, n - STRIDE, head)) {
				setStraight(segs, n - STRIDE, head[6], head[7]);
				types.shift();
				segs.splice(0, STRIDE);
			}
		}
	}
	return { closed, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}

function turnBack(s: Float64Array, type: number): void {
	const [x0, y0, a, b, c, d, x1, y1] = s;
	if (type === ARC) s.set([x1, y1, -a, 0, 0, 0, x0, y0]);
	else s.set([x1, y1, c, d, a, b, x0, y0]);
}

/** Puts an end (numbers e, e + 1) to a place a hair away; a cubic's handle goes along. */
function moveEnd(s: { [k: number]: number }, type: number, e: 0 | 6, x: number, y: number): void {
	const dx = x - s[e];
	const dy = y - s[e + 1];
	if (dx === 0 && dy === 0) return;
	s[e] = x;
	s[e + 1] = y;
	if (type === CUBIC) {
		const handle = e === 0 ? 2 : 4;
		s[handle] += dx;
		s[handle + 1] += dy;
	} else if (type === STRAIGHT) setStraight(s, 0, s[6], s[7]);
}

function setStraight(s: { [k: number]: number }, at: number, x: number, y: number): void {
	const dx = (x - s[at]) / 3;
	const dy = (y - s[at + 1]) / 3;
	s[at + 2] = s[at] + dx;
	s[at + 3] = s[at + 1] + dy;
	s[at + 4] = x - dx;
	s[at + 5] = y - dy;
	s[at + 6] = x;
	s[at + 7] = y;
}

function inLine(a: readonly number[], at: number, b: ArrayLike<number>): boolean {
	const dx = a[at + 6] - a[at];
	const dy = a[at + 7] - a[at + 1];
	const ex = b[6] - b[0];
	const ey = b[7] - b[1];
	if (dx * ex + dy * ey <= 0) return false;
	return (
		Math.abs(dx * ey - dy * ex) <= TOLERANCE.coincidence * Math.min(Math.hypot(dx, dy), Math.hypot(ex, ey))
	);
}

/** The parts of open lines inside and outside an area. Stretches on its boundary count as inside. */
export interface CutLines {
	readonly inside: Path[];
	readonly outside: Path[];
}

/**
 * Cuts open lines by the boundary of an area; lines that cross each other are not cut by each other.
 * @throws CoreError `tangle`, `unsure`
 */
export function cutLines(lines: readonly Path[], area: CombineInput): CutLines {
	const paths: Path[] = [];
	const areaOf: number[] = [];
	const rules: FillRule[] = [];
	for (const one of area) {
		for (const path of one.paths) {
			if (!path.closed || path.types.length === 0) continue;
			paths.push(path);
			areaOf.push(rules.length);
		}
		rules.push(one.rule);
	}
	const out: CutLines = { inside: [], outside: [] };
	for (const line of lines) {
		if (line.types.length === 0) continue;
		const plane = arrange([...paths, line]);
		const inputOf = rules.map(() => 0);
		const { covered } = judgeFaces(plane, [...areaOf, -1], rules, inputOf, 1, 'union');
		let runs: Run[] = [];
		let where: 'inside' | 'outside' | undefined;
		const flush = () => {
			if (where && runs.length) out[where].push(tieRuns(plane, runs, false));
			runs = [];
		};
		plane.strands.forEach((strand, k) => {
			const at = strand.paths.indexOf(paths.length);
			if (at < 0) return;
			const isIn =
				strand.paths.length > 1 || (covered[plane.faceOf[2 * k]] && covered[plane.faceOf[2 * k + 1]])
					? 'inside'
					: 'outside';
			if (isIn !== where) flush();
			where = isIn;
			for (const run of runsOf(strand, strand.signs[at] < 0)) {
				const last = runs[runs.length - 1];
				if (last && continues(last, run)) {
					last.to = run.to;
					last.node = run.node;
				} else runs.push(run);
			}
		});
		flush();
	}
	return out;
}

/** The net: polygons from the clipping package, curves fitted back. */
function netPieces(inputs: readonly CombineInput[], op: CombineOp, tolerance: number): CombinedPiece[] {
	const sets: { inputs: number[]; polygons: Float64Array[] }[] = [];
	const areas = inputs.map((input) => input.map((area) => ({ paths: area.paths, rule: area.rule })));
	if (op !== 'regions') {
		sets.push({ inputs: [], polygons: combinePolygons(areas, op, tolerance / 8) });
	} else {
		const total = inputs.length;
		if (total > 12) {
			throw new CoreError(
				'too-many',
				'Regions of more than 12 inputs this close together cannot be told apart.'
			);
		}
		for (let mask = 1; mask < 1 << total; mask++) {
			const those = areas.filter((_, i) => mask & (1 << i));
			const others = areas.filter((_, i) => !(mask & (1 << i)));
			sets.push({
				inputs: areas.map((_, i) => i).filter((i) => mask & (1 << i)),
				polygons: combinePolygons(those, 'intersection', tolerance / 8, others)
			});
		}
	}
	return sets.flatMap(({ inputs: list, polygons }) => {
		const paths = polygons.map((p) => curvesThroughPolygon(polygonPath(p), tolerance / 2));
		return groupPieces(paths).map((group) => ({ paths: group.map((i) => paths[i]), inputs: list }));
	});
}

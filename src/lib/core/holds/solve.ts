/** Equations kept by moving as little as may be: the nearest answer to where things are, in Newton's steps, damped where they would go too far. */
import type { Equation } from './equations';
import { closeOrder, Skyline, type SparseRows } from '../linear/skyline';

export interface SolveOptions {
	/** How much each unknown resists being moved; 1 where nothing is said. */
	readonly weights?: ArrayLike<number>;
	/** mm, > 0: off by no more than this counts as kept. */
	readonly tolerance?: number;
	readonly most?: number;
}

export interface Solved {
	readonly values: Float64Array;
	readonly isKept: boolean;
	/** mm: the most that any equation is off. */
	readonly off: number;
	/** Equations that follow from others. */
	readonly dependent: readonly number[];
	readonly rounds: number;
}

export const KEPT = 1e-10;
const MOST = 60;
/** Of the size of what is held: the step by which slopes are found. */
const HAIR = 1e-6;

interface Slopes {
	/** Slopes of each equation by its unknowns, in their order. */
	readonly rows: readonly Float64Array[];
	readonly off: Float64Array;
}

const offs = (equations: readonly Equation[], values: ArrayLike<number>, into: Float64Array): number => {
	let sum = 0;
	const local: number[] = [];
	equations.forEach(({ unknowns, off }, i) => {
		for (let k = 0; k < unknowns.length; k++) local[k] = values[unknowns[k]];
		local.length = unknowns.length;
		const r = off(local);
		into[i] = Number.isFinite(r) ? r : 1e6;
		sum += into[i] * into[i];
	});
	return sum;
};

function slopesOf(equations: readonly Equation[], values: Float64Array, off: Float64Array): Slopes {
	const rows = equations.map(({ unknowns, off: reckon }) => {
		const local = unknowns.map((u) => values[u]);
		const row = new Float64Array(unknowns.length);
		for (let k = 0; k < unknowns.length; k++) {
			const was = local[k];
			const h = HAIR * Math.max(1, Math.abs(was));
			local[k] = was + h;
			const more = reckon(local);
			local[k] = was - h;
			const less = reckon(local);
			local[k] = was;
			const slope = (more - less) / (2 * h);
			row[k] = Number.isFinite(slope) ? slope : 0;
		}
		return row;
	});
	return { rows, off };
}

/** How equations share unknowns, each weighted: J W^-1 J^T. */
function sharedRows(
	equations: readonly Equation[],
	{ rows }: Slopes,
	ease: (u: number) => number
): SparseRows {
	const of = new Map<number, [number, number][]>();
	equations.forEach(({ unknowns }, i) => {
		unknowns.forEach((u, k) => {
			const list = of.get(u);
			if (list) list.push([i, rows[i][k]]);
			else of.set(u, [[i, rows[i][k]]]);
		});
	});
	const out = equations.map(() => new Map<number, number>());
	for (const [u, list] of of) {
		const e = ease(u);
		for (const [i, a] of list)
			for (const [j, b] of list) {
				const row = out[i];
				row.set(j, (row.get(j) ?? 0) + a * b * e);
			}
	}
	return out;
}

/** The values nearest to the given ones at which all equations are kept, or as near to that as it gets. */
export function solve(
	equations: readonly Equation[],
	start: ArrayLike<number>,
	options: SolveOptions = {}
): Solved {
	const { weights, tolerance = KEPT, most = MOST } = options;
	const ease = (u: number) => 1 / (weights?.[u] ?? 1);
	const values = Float64Array.from(start);
	const off = new Float64Array(equations.length);
	let sum = offs(equations, values, off);
	let dependent: readonly number[] = [];
	let damping = 0;
	let order: Int32Array | undefined;
	let rounds = 0;
	const largest = () => off.reduce((a, b) => Math.max(a, Math.abs(b)), 0);
	const trial = new Float64Array(values.length);
	const trialOff = new Float64Array(equations.length);
	for (; rounds < most && largest() > tolerance; rounds++) {
		const slopes = slopesOf(equations, values, off);
		const shared = sharedRows(equations, slopes, ease);
		order ??= closeOrder(shared);
		let isBetter = false;
		for (let tries = 0; tries < 12 && !isBetter; tries++) {
			const factor = new Skyline(shared, order, damping);
			if (damping === 0) dependent = factor.dependent;
			const pull = factor.solve(off);
			trial.set(values);
			equations.forEach(({ unknowns }, i) => {
				for (let k = 0; k < unknowns.length; k++)
					trial[unknowns[k]] -= ease(unknowns[k]) * slopes.rows[i][k] * pull[i];
			});
			const next = offs(equations, trial, trialOff);
			if (next < sum * (1 - 1e-12)) {
				isBetter = true;
				values.set(trial);
				off.set(trialOff);
				sum = next;
				damping = damping < 1e-9 ? 0 : damping / 10;
			} else damping = damping === 0 ? 1e-6 : damping * 8;
		}
		if (!isBetter) break;
	}
	if (rounds === 0) {
		const slopes = slopesOf(equations, values, off);
		const shared = sharedRows(equations, slopes, ease);
		dependent = new Skyline(shared, closeOrder(shared)).dependent;
	}
	const worst = largest();
	const isKept = worst <= tolerance * 10 && !hasFallen(equations, start, values);
	return { values, isKept, off: worst, dependent, rounds };
}

/** Of what two places were apart: nearer than that they have fallen together. */
const FALLEN = 1e-3;

/** Whether places that an equation needs apart have fallen together. */
function hasFallen(
	equations: readonly Equation[],
	start: ArrayLike<number>,
	values: ArrayLike<number>
): boolean {
	const apart = (v: ArrayLike<number>, p: number, q: number) => Math.hypot(v[q] - v[p], v[q + 1] - v[p + 1]);
	return equations.some(({ unknowns, pairs }) =>
		pairs?.some(
			([i, j]) => apart(values, unknowns[i], unknowns[j]) < FALLEN * apart(start, unknowns[i], unknowns[j])
		)
	);
}

/** How often a drag goes on towards the hand, how small a part of a step is still tried, and mm that count as nothing. */
const PULLS = 60;
const LEAST_PART = 1 / 256;
const NOTHING = 1e-7;
/** Nothing moves by more than so many times what it was to be moved by: that would be a jump to another answer. */
const JUMP = 3;

/**
 * Unknowns dragged to where they are wanted, as far as the equations let them: from values at which all is kept, along what is
 * free to move, each step kept before the next. It never jumps to an answer that mirrors the one at hand.
 * @param dragged which unknowns are dragged.
 */
export function dragTo(
	equations: readonly Equation[],
	from: ArrayLike<number>,
	wanted: ArrayLike<number>,
	dragged: ReadonlySet<number>
): Solved {
	let at = solve(equations, from);
	if (!at.isKept) return at;
	const weights = Float64Array.from(from, (_, u) => (dragged.has(u) ? HEAVY : 1));
	const ease = (u: number) => 1 / weights[u];
	const left = (values: ArrayLike<number>) => {
		let sum = 0;
		for (const u of dragged) sum += (wanted[u] - values[u]) ** 2;
		return Math.sqrt(sum);
	};
	let order: Int32Array | undefined;
	const none = new Float64Array(equations.length);
	for (let pull = 0; pull < PULLS && left(at.values) > NOTHING; pull++) {
		const { values } = at;
		const slopes = slopesOf(equations, values, none);
		const shared = sharedRows(equations, slopes, ease);
		order ??= closeOrder(shared);
		// What is wanted, less what the equations do not let happen.
		const step = new Float64Array(values.length);
		for (const u of dragged) step[u] = wanted[u] - values[u];
		const against = equations.map(({ unknowns }, i) =>
			unknowns.reduce((sum, u, k) => sum + slopes.rows[i][k] * step[u], 0)
		);
		const held = new Skyline(shared, order).solve(against);
		equations.forEach(({ unknowns }, i) => {
			for (let k = 0; k < unknowns.length; k++)
				step[unknowns[k]] -= ease(unknowns[k]) * slopes.rows[i][k] * held[i];
		});
		const long = step.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
		if (!(long > NOTHING)) break;
		let next: Solved | undefined;
		for (let part = 1; part >= LEAST_PART && !next; part /= 2) {
			const tried = solve(
				equations,
				values.map((v, u) => v + part * step[u]),
				{ most: 20 }
			);
			const far = tried.values.reduce((most, v, u) => Math.max(most, Math.abs(v - values[u])), 0);
			if (
				tried.isKept &&
				far <= JUMP * part * long + NOTHING &&
				left(tried.values) < left(values) * (1 - 1e-6)
			)
				next = tried;
		}
		if (!next) break;
		at = next;
	}
	return at;
}

/** How much more what is dragged resists being moved off. */
const HEAVY = 1e4;

/** Which of the unknowns can still be moved without anything else being let go: how freely, 0 to 1. */
export function freedom(
	equations: readonly Equation[],
	values: Float64Array,
	asked: readonly number[]
): number[] {
	const off = new Float64Array(equations.length);
	const slopes = slopesOf(equations, values, off);
	const shared = sharedRows(equations, slopes, () => 1);
	const factor = new Skyline(shared, closeOrder(shared));
	return asked.map((u) => {
		const right = new Float64Array(equations.length);
		equations.forEach(({ unknowns }, i) => {
			const k = unknowns.indexOf(u);
			if (k >= 0) right[i] = slopes.rows[i][k];
		});
		const pull = factor.solve(right);
		let kept = 0;
		for (let i = 0; i < right.length; i++) kept += right[i] * pull[i];
		return Math.min(1, Math.max(0, 1 - kept));
	});
}

/** Holds of a set, each needed for the others not to be kept together; none where all can be kept. */
export function conflict(equations: readonly Equation[], start: ArrayLike<number>): number[] {
	const canBe = (holds: ReadonlySet<number>) =>
		solve(
			equations.filter(({ hold }) => holds.has(hold)),
			start
		).isKept;
	let left = new Set(equations.map(({ hold }) => hold));
	if (canBe(left)) return [];
	// Large halves first, then one by one (deletion filter; Chinneck and Dravnieks 1991).
	for (let size = Math.ceil(left.size / 2); size >= 1; size = size === 1 ? 0 : Math.ceil(size / 2)) {
		const list = [...left];
		for (let i = 0; i < list.length; i += size) {
			const part = new Set(list.slice(i, i + size));
			const rest = new Set([...left].filter((h) => !part.has(h)));
			if (rest.size && !canBe(rest)) left = rest;
		}
	}
	return [...left];
}

/**
 * What a toolpath does to the lines that it was made for: the tool is followed, wherever the moves came from, and held against the lines
 * as they are drawn.
 */
import { beside, SAMPLE, type Deviation } from '../geometry/deviation';
import { EdgeTree, flattenPath, largestDistance } from '../geometry/edge-tree';
import { windingNumber } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { drawnMoves } from './drawn';
import { FEED, lengthsOf, moveAt, moveLength, moveStart, RAPID, type Toolpath } from './moves';
import type { CutSide } from '../document/job';

export interface Judged {
	/** mm that the tool cuts into what is kept at most, and where. */
	readonly gouge: number;
	readonly at: { readonly x: number; readonly y: number };
	/** Rapid moves through material, or with the beam on. */
	readonly low: number;
	/** Cuts with nothing turning or burning. */
	readonly still: number;
}

/** mm between the places that are looked at along a move. */
const STEP = 0.25;

/** Whether the tool works in the material on a move: down below its top, or on where there are no heights. */
function isCutting(path: Toolpath, i: number, hasHeights: boolean): boolean {
	if (path.kinds[i] !== FEED) return false;
	if (!hasHeights) return path.on[i] === 1;
	return Math.min(moveStart(path, i, from)[2], path.to[3 * i + 2]) < -1e-6;
}
const from = [0, 0, 0];

/**
 * @param lines closed outlines (even-odd), or any lines where the tool goes on them.
 * @param reach mm, half the width of what is taken away.
 */
export function judge(
	path: Toolpath,
	lines: readonly Path[],
	{ side, reach, hasHeights }: { side: CutSide; reach: number; hasHeights: boolean }
): Judged {
	const flat = lines.map((line) => flattenPath(line, 2e-4));
	const tree = new EdgeTree(flat.map((points, i) => ({ points, closed: lines[i].closed })));
	const isSolid = (x: number, y: number) =>
		flat.reduce(
			(sum, points, i) => sum + (lines[i].closed ? Math.abs(windingNumber(points, x, y)) % 2 : 0),
			0
		) %
			2 ===
		1;
	let gouge = 0;
	let at = { x: 0, y: 0 };
	let low = 0;
	let still = 0;
	// Which side of the lines the place looked at last lay on; no nearer to a line than a step it stays there.
	let last = { x: Infinity, y: Infinity, d: 0, solid: false };
	const sideAt = (x: number, y: number, d: number) => {
		const solid = Math.hypot(x - last.x, y - last.y) < last.d ? last.solid : isSolid(x, y);
		last = { x, y, d, solid };
		return solid;
	};
	for (let i = 0; i < path.kinds.length; i++) {
		if (path.kinds[i] === RAPID) {
			const [x, y, z] = moveStart(path, i, from);
			const far = Math.hypot(path.to[3 * i] - x, path.to[3 * i + 1] - y) > 1e-6;
			if (hasHeights) {
				const to = path.to[3 * i + 2];
				if (far ? Math.min(z, to) < 1 - 1e-6 : to < -1e-6 && to < z) low++;
			} else if (far && path.on[i]) low++;
			continue;
		}
		if (!isCutting(path, i, hasHeights)) continue;
		if (!path.on[i]) still++;
		const parts = Math.max(1, Math.ceil(moveLength(path, i) / STEP));
		for (let k = i === 0 ? 0 : 1; k <= parts; k++) {
			const { x, y } = moveAt(path, i, k / parts);
			const d = tree.distance(x, y);
			let into = d;
			if (side !== 'on') {
				const free = sideAt(x, y, d) === (side === 'outside') ? -d : d;
				into = reach - free;
			}
			if (into > gouge) {
				gouge = into;
				at = { x, y };
			}
		}
	}
	return { gouge, at, low, still };
}

/** How far two toolpaths' cuts lie apart at most, both ways, mm; 0 of nothing from nothing, Infinity of something from nothing. */
export function cutsApart(a: Toolpath, b: Toolpath): number {
	const flat = (path: Toolpath) =>
		drawnMoves(path).cuts.map((line) => ({ points: flattenPath(line, 1e-4), closed: line.closed }));
	const [fa, fb] = [flat(a), flat(b)];
	if (fa.length === 0 && fb.length === 0) return 0;
	if (fa.length === 0 || fb.length === 0) return Infinity;
	return Math.max(
		largestDistance(fa, new EdgeTree(fb), STEP).distance,
		largestDistance(fb, new EdgeTree(fa), STEP).distance
	);
}

/** What a machine cut, held against what it was told and what was drawn. */
export interface CutCompared {
	/** mm between what was told and what was cut. */
	readonly apart: number;
	/** mm at a feed that were told, and that were cut. */
	readonly told: number;
	readonly cut: number;
	/** Against the drawing, where one job alone was cut. */
	readonly judged: Judged | undefined;
	/** All along the drawn lines: how far the edge of the cut lies beside them, positive where material was left. */
	readonly deviations: readonly Deviation[];
	/** mm2 of material that was left beside the lines, and that was taken from what is kept. */
	readonly rest: number;
	readonly gouged: number;
}

/** mm between places on the drawn lines. */
const BESIDE = 0.5;

/**
 * How far the edge of a cut lies beside drawn lines, all along them: the distance to the tool's middle less its reach. Positive where
 * the tool did not come to the line, negative where it went over it.
 */
export function cutBeside(path: Toolpath, lines: readonly Path[], reach: number): Deviation[] {
	const cuts = drawnMoves(path).cuts.map((line) => ({
		points: flattenPath(line, 2e-4),
		closed: line.closed
	}));
	const tree = new EdgeTree(cuts);
	return lines.map((line) => beside(line, BESIDE, (x, y) => tree.distance(x, y) - reach));
}

/** The areas between drawn lines and the edge of the cut, mm2. */
export function areasBeside(deviations: readonly Deviation[]): {
	readonly rest: number;
	readonly gouged: number;
} {
	let [rest, gouged] = [0, 0];
	for (const { samples } of deviations)
		for (let i = 0; i + SAMPLE < samples.length; i += SAMPLE) {
			const long = Math.hypot(samples[i + SAMPLE] - samples[i], samples[i + SAMPLE + 1] - samples[i + 1]);
			const off = (samples[i + 4] + samples[i + SAMPLE + 4]) / 2;
			if (off > 0) rest += off * long;
			else gouged -= off * long;
		}
	return { rest, gouged };
}

export function* cutComparedSteps(
	trail: Toolpath,
	planned: Toolpath,
	drawn: { readonly lines: readonly Path[]; readonly side: CutSide; readonly reach: number } | undefined,
	hasHeights: boolean
): Generator<number, CutCompared> {
	yield 0;
	const apart = cutsApart(trail, planned);
	yield 0.5;
	const side = drawn?.side === 'clear' ? 'inside' : drawn?.side;
	const judged =
		drawn && side && side !== 'drill' && side !== 'groove'
			? judge(trail, drawn.lines, { side, reach: drawn.reach, hasHeights })
			: undefined;
	yield 0.9;
	const deviations = drawn && side !== 'groove' ? cutBeside(trail, drawn.lines, drawn.reach) : [];
	return {
		apart,
		told: lengthsOf(planned).cut,
		cut: lengthsOf(trail).cut,
		judged,
		deviations,
		...areasBeside(deviations)
	};
}

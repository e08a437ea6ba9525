/**
 * A line engraved by a V bit whose depth follows the width of what is drawn: its tip runs along the middle line of the area, as deep as
 * its flanks then reach both edges. Where the area is wider than the V may go deep, a floor is cleared between its flanks.
 *
 * Depth = half width / tan(half the angle) (common practice).
 */
import { done, failed, type Result } from '../errors';
import type { Point } from '../geometry/point';
import { middleSteps } from '../plane/medial';
import { part } from '../progress';
import { clearArea, clearSteps, type Cleared } from './clearing';
import type { CutLine } from './compensate';
import { comeOver, liftUp, passHeights } from './going';
import type { MovesBuilder } from './moves';
import type { WholeSettings } from './settings';

/** A stretch of the tip's way: x, y, z. */
interface Stretch {
	readonly points: Float64Array;
	/** What it runs from and to; stretches that share one go on from it. */
	readonly from: number;
	readonly to: number;
}

export interface Groove {
	readonly stretches: readonly Stretch[];
	/** Where the area is wider than the V is deep. */
	readonly floor: Cleared | undefined;
	/** mm: how far from the edge the V stands at its full depth. */
	readonly reach: number;
}

/** Share of the V's full width between neighbouring turns on a floor: ridges stay a tenth of its depth at most. */
const FLOOR_STEP = 0.07;
/** mm between places on the edges. */
const SPACING = 0.2;

/** The groove of a piece with its holes. */
export function* grooveSteps(
	lines: readonly CutLine[],
	settings: WholeSettings
): Generator<number, Result<Groove>> {
	const { tool, tolerance, depth } = settings;
	if (tool.kind !== 'cutter' || tool.shape !== 'vee')
		return failed('bad-tool', 'A groove whose depth follows its width is cut by a V bit. Choose one.');
	const slope = Math.tan((((tool.angle ?? 60) / 2) * Math.PI) / 180);
	const reach = Math.min(depth * slope, tool.diameter / 2);
	const paths = lines.map((line) => line.path);
	const branches = yield* part(middleSteps(paths, SPACING, 0.6 * tolerance), 0, 0.7);
	let own = branches.reduce((most, { from, to }) => Math.max(most, from, to), 0);
	const stretches: Stretch[] = [];
	let isWider = false;
	for (const { points, from, to } of branches) {
		// Only where it is no wider than the V: the rest is floor.
		let run: number[] = [];
		let begin = from;
		const end = (node: number) => {
			if (run.length) stretches.push({ points: Float64Array.from(run), from: begin, to: node });
			run = [];
		};
		for (let i = 0; i < points.length; i += 3) {
			const r = points[i + 2];
			const before = i ? points[i - 1] : r;
			if (i && r > reach !== before > reach) {
				const t = (reach - before) / (r - before);
				const at = [0, 1].map((k) => points[i - 3 + k] + t * (points[i + k] - points[i - 3 + k]));
				if (r <= reach) begin = ++own;
				run.push(at[0], at[1], -reach / slope);
				if (r > reach) end(++own);
			}
			if (r <= reach) run.push(points[i], points[i + 1], -r / slope);
			else isWider = true;
		}
		end(to);
	}
	let floor: Cleared | undefined;
	if (isWider) {
		const flat: WholeSettings = {
			...settings,
			tool: { kind: 'cutter', diameter: 2 * reach },
			step: FLOOR_STEP,
			pattern: 'turns',
			rest: 0
		};
		const cleared = yield* part(clearSteps(lines, flat), 0.7, 1);
		if (cleared.ok) floor = cleared.value;
		else if (cleared.problem.code !== 'too-wide') return cleared;
	}
	return done({ stretches, floor, reach });
}

/** Where it is begun: at a corner where that is, so that the tip goes down along its way. */
export function grooveStart({ stretches, floor }: Groove): Point {
	if (floor) {
		const { x, y } = floor.turns[0].running.at(0);
		return { x, y };
	}
	const ends = stretches.flatMap(({ points }) => [points.subarray(0, 3), points.subarray(points.length - 3)]);
	const [x, y] = ends.reduce((a, b) => (b[2] > a[2] ? b : a));
	return { x, y };
}

/** Sends the tip along a groove, pass by pass: each no deeper than its height, and only where the one before left something. */
export function cutGroove(moves: MovesBuilder, groove: Groove, settings: WholeSettings): void {
	moves.works = 1;
	if (groove.floor) clearArea(moves, groove.floor, settings);
	let above = 0;
	for (const z of passHeights(settings)) {
		const left = new Set(groove.stretches.filter(({ points }) => deepest(points) < above - 1e-9));
		if (left.size === 0) break;
		let node: number | undefined;
		while (left.size) {
			const { stretch, isBack, isLinked } = next(left, node, moves);
			left.delete(stretch);
			along(moves, stretch.points, { isBack, isLinked, z, settings });
			node = isBack ? stretch.from : stretch.to;
		}
		above = z;
	}
	liftUp(moves, settings.safe);
}

function deepest(points: Float64Array): number {
	let least = 0;
	for (let i = 2; i < points.length; i += 3) least = Math.min(least, points[i]);
	return least;
}

/** The stretch to go on with: one from where the tip stands, else the nearest end, those at the surface first. */
function next(
	left: ReadonlySet<Stretch>,
	node: number | undefined,
	here: { readonly x: number; readonly y: number }
): { stretch: Stretch; isBack: boolean; isLinked: boolean } {
	let best: { stretch: Stretch; isBack: boolean; rank: number } | undefined;
	for (const stretch of left) {
		if (node === stretch.from) return { stretch, isBack: false, isLinked: true };
		if (node === stretch.to) return { stretch, isBack: true, isLinked: true };
		const { points } = stretch;
		for (const [at, isBack] of [
			[0, false],
			[points.length - 3, true]
		] as const) {
			const away = Math.hypot(points[at] - here.x, points[at + 1] - here.y);
			// A straight plunge costs as much as a way of some millimetres.
			const rank = away - 10 * points[at + 2];
			if (!best || rank < best.rank) best = { stretch, isBack, rank };
		}
	}
	return { ...best!, isLinked: false };
}

function along(
	moves: MovesBuilder,
	points: Float64Array,
	how: {
		readonly isBack: boolean;
		readonly isLinked: boolean;
		readonly z: number;
		readonly settings: WholeSettings;
	}
): void {
	const { feed, plunge, safe } = how.settings;
	const n = points.length / 3;
	const at = (k: number) => 3 * (how.isBack ? n - 1 - k : k);
	const held = (k: number) => Math.max(how.z, points[at(k) + 2]);
	if (!how.isLinked) {
		comeOver(moves, { x: points[at(0)], y: points[at(0) + 1] }, safe);
		moves.height(held(0), plunge);
	}
	for (let k = 1; k < n; k++) {
		// Where it goes under the pass's height on the way, it stays at that height from there.
		const [z0, z1] = [points[at(k - 1) + 2], points[at(k) + 2]];
		if (z0 > how.z !== z1 > how.z && z0 !== z1) {
			const t = (how.z - z0) / (z1 - z0);
			const between = [0, 1].map(
				(c) => points[at(k - 1) + c] + t * (points[at(k) + c] - points[at(k - 1) + c])
			);
			moves.straight(between[0], between[1], how.z, feed);
		}
		moves.straight(points[at(k)], points[at(k) + 1], held(k), feed);
	}
}

/**
 * Everything inside an area taken away: turns beside its edge, each a step further in, until nothing is left between them; the last
 * one along the edge itself finishes it. Within the area the tool goes from turn to turn without lifting where it may.
 *
 * A step of at most half the diameter leaves no ridge and no island: any place lies within a step of the turn around it (the
 * distance to the edge of what a turn bounds is at most what the place lies deeper than that turn).
 */
import { arcsAlong } from '../fit/arcs';
import { done, failed, type Result } from '../errors';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathArea } from '../geometry/measure';
import { nearestOnPath } from '../geometry/pick';
import { reversePath, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { offsetPiecesSteps, widestInside } from '../plane/offset';
import { nestPaths } from '../plane/pieces';
import type { CutLine } from './compensate';
import { follow, passHeights } from './going';
import type { MovesBuilder } from './moves';
import { isFreeBetween, type Room } from './room';
import { Running } from './running';
import type { WholeSettings } from './settings';

/** One turn of clearing. */
interface Turn {
	readonly level: number;
	readonly running: Running;
	readonly path: Path;
}

/** An area to clear: its turns, those along the edge at level 0. */
export interface Cleared {
	readonly turns: readonly Turn[];
	/** How far apart turns lie. */
	readonly step: number;
	/** Where the tool's middle may go. */
	readonly room: Room;
}

/** So large a share of the diameter leaves nothing between turns; more would. */
export const MOST_STEP = 0.5;

/** The turns that clear a piece with its holes. */
export function* clearSteps(
	lines: readonly CutLine[],
	settings: WholeSettings
): Generator<number, Result<Cleared>> {
	const { tool, tolerance, way } = settings;
	const radius = tool.kind === 'cutter' ? tool.diameter / 2 : 0;
	if (radius === 0) return failed('bad-tool', 'An area is cleared by a turning cutter.');
	const paths = lines.map((line) => line.path);
	const step = 2 * radius * Math.min(MOST_STEP * 0.999, settings.step);
	const turns: Turn[] = [];
	for (let level = 0; ; level++) {
		yield 1 - 1 / (1 + 0.2 * level);
		const share = level === 0 ? 0.4 : 1;
		const offset = yield* quietly(
			offsetPiecesSteps(paths, {
				distance: -(radius + level * step),
				join: 'round',
				tolerance: share * tolerance,
				verify: level === 0
			})
		);
		if (!offset.ok) {
			if (level === 0)
				return failed(
					'too-wide',
					`The tool is ${2 * radius} mm wide, too wide for "${lines[0].name}". The largest that fits is ${Math.max(0, Math.floor(200 * widestInside(paths, 1e-3)) / 100)} mm.`
				);
			if (offset.problem.code !== 'nothing-left') return offset;
			break;
		}
		const loops = offset.value.paths;
		const nesting = nestPaths(loops);
		for (const [i, loop] of loops.entries()) {
			// What is kept lies right of a climbing cutter: round an area anticlockwise, round an island clockwise.
			const wantsCcw = (way === 'climb') === (nesting[i].depth % 2 === 0);
			const turned = pathArea(loop) > 0 === wantsCcw ? loop : reversePath(loop);
			const path = arcsAlong(turned, (level === 0 ? 0.45 : 1) * tolerance);
			turns.push({ level, path, running: new Running(path) });
		}
	}
	return done({
		turns,
		step,
		room: { tree: edgeOf(paths, tolerance), reach: radius - tolerance, isOn: () => true }
	});
}

const edgeOf = (paths: readonly Path[], tolerance: number) =>
	new EdgeTree(paths.map((path) => ({ points: flattenPath(path, tolerance / 4), closed: true })));

/** Work whose own progress is not told. */
function* quietly<T>(work: Generator<number, T>): Generator<number, T> {
	for (let k = work.next(); ; k = work.next()) {
		if (k.done) return k.value;
		yield 0.5;
	}
}

/** Where the deepest turn begins: the tool comes down there first. */
export function clearingStart(cleared: Cleared): Point {
	const deepest = cleared.turns.reduce((a, b) => (b.level > a.level ? b : a));
	const { x, y } = deepest.running.at(0);
	return { x, y };
}

/** Sends the tool over an area, pass by pass, from its middle out. */
export function clearArea(moves: MovesBuilder, cleared: Cleared, settings: WholeSettings): void {
	const { feed, plunge, safe, ramp } = settings;
	moves.works = 1;
	let above = 0;
	for (const z of passHeights(settings)) {
		const left = new Set(cleared.turns);
		let here: Point | undefined;
		while (left.size) {
			const next = nextTurn(left, here, cleared);
			left.delete(next.turn);
			const { running } = next.turn;
			let at = next.at;
			const begin = running.at(at);
			if (next.isLinked) moves.straight(begin.x, begin.y, z, feed);
			else {
				if (moves.z < safe) moves.rapid(moves.x, moves.y, safe);
				moves.rapid(begin.x, begin.y, safe);
				moves.rapid(begin.x, begin.y, Math.min(safe, 1));
				if (ramp === undefined || ramp >= 90) moves.height(z, plunge);
				else {
					moves.height(above, plunge);
					const slope = Math.tan((ramp * Math.PI) / 180);
					const long = (above - z) / slope;
					const slow = Math.min(feed, plunge / Math.sin((ramp * Math.PI) / 180));
					follow(moves, running.part(at, at + long), above, z, slow);
					at += long;
				}
			}
			follow(moves, running.part(at, at + running.length), z, z, feed);
			here = running.at(at);
		}
		above = z;
	}
	if (moves.z < safe) moves.rapid(moves.x, moves.y, safe);
}

/** In steps: so far it goes straight through what is not cleared yet, rather than lift. */
const FAR_LINK = 8;

/** The deepest turn to which it may go straight within a reach, and where on it. */
function linkWithin(
	left: ReadonlySet<Turn>,
	here: Point,
	reach: number,
	cleared: Cleared
): { turn: Turn; at: number; d: number } | undefined {
	let best: { turn: Turn; at: number; d: number } | undefined;
	for (const turn of left) {
		if (best && turn.level < best.turn.level) continue;
		const near = nearestOnPath(turn.path, here.x, here.y, reach);
		if (!near) continue;
		if (best && best.turn.level === turn.level && best.d <= near.distance) continue;
		const at = turn.running.lengthTo(near.segment + near.t);
		if (isFreeBetween(here, turn.running.at(at), cleared.room)) best = { turn, at, d: near.distance };
	}
	return best;
}

/** The turn to go on with: the deepest beside the one just gone, else the deepest of all. */
function nextTurn(
	left: ReadonlySet<Turn>,
	here: Point | undefined,
	cleared: Cleared
): { turn: Turn; at: number; isLinked: boolean } {
	let best: { turn: Turn; at: number; d: number } | undefined;
	if (here) {
		for (const reach of [cleared.step * 1.02, cleared.step * FAR_LINK]) {
			if (best) break;
			best = linkWithin(left, here, reach, cleared);
		}
		if (best) return { ...best, isLinked: true };
	}
	let deepest: { turn: Turn; d: number } | undefined;
	for (const turn of left) {
		const p = turn.running.at(0);
		const d = here ? Math.hypot(p.x - here.x, p.y - here.y) : 0;
		if (!deepest || turn.level > deepest.turn.level || (turn.level === deepest.turn.level && d < deepest.d))
			deepest = { turn, d };
	}
	const { turn } = deepest!;
	return { turn, at: here ? turn.running.nearest(here.x, here.y) : 0, isLinked: false };
}

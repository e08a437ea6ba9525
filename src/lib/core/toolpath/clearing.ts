/**
 * Everything inside an area taken away: turns beside its edge, each a step further in, until nothing is left between them, the last
 * one along the edge itself finishing it; or by parallel lines at an angle, and then the turn along the edge. Within the area the tool goes from turn to turn without lifting where it may.
 *
 * A step of at most half the diameter leaves no ridge and no island: any place lies within a step of the turn around it (the
 * distance to the edge of what a turn bounds is at most what the place lies deeper than that turn).
 */
import { arcsAlong } from '../fit/arcs';
import { done, failed, type Result } from '../errors';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathArea, windingNumber } from '../geometry/measure';
import { nearestOnPath } from '../geometry/pick';
import { reversePath, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { offsetPiecesSteps, widestInside } from '../plane/offset';
import { nestPaths } from '../plane/pieces';
import type { CutLine } from './compensate';
import { comeOver, follow, liftUp, passHeights, rampFeed } from './going';
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
	/** Parallel lines over it, where it is cleared by them: x0 y0 x1 y1 each, from one side to the other. */
	readonly lines?: readonly Float64Array[];
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
	let turns: Turn[] = [];
	const edge = edgeOf(paths, tolerance);
	const isByLines = settings.pattern === 'lines' && !(settings.rest > 2 * radius);
	for (let level = 0; !isByLines || level === 0; level++) {
		yield 1 - 1 / (1 + 0.2 * level);
		const share = level === 0 ? 0.4 : 1;
		const inward = (verify: boolean) =>
			offsetPiecesSteps(paths, {
				distance: -(radius + level * step),
				join: 'round',
				tolerance: share * tolerance,
				verify
			});
		let offset = yield* quietly(inward(level === 0));
		// Deep inside a rough outline a loop may come out that does not belong there. One that is wrong only in part has it made
		// with its check.
		const least = radius + level * step - 4 * tolerance;
		const off = (loop: Path) => (level > 0 ? nearAnchors(loop, edge, least) : 0);
		if (offset.ok && offset.value.paths.some((loop) => off(loop) > 0 && off(loop) < loop.types.length))
			offset = yield* quietly(inward(true));
		if (!offset.ok) {
			if (level === 0)
				return failed(
					'too-wide',
					`The tool is ${2 * radius} mm wide, too wide for "${lines[0].name}". The largest that fits is ${Math.max(0, Math.floor(200 * widestInside(paths, 1e-3)) / 100)} mm.`
				);
			if (offset.problem.code !== 'nothing-left') return offset;
			break;
		}
		const loops = offset.value.paths.filter((loop) => off(loop) === 0);
		if (loops.length === 0) break;
		const nesting = nestPaths(loops);
		for (const [i, loop] of loops.entries()) {
			// What is kept lies right of a climbing cutter: round an area anticlockwise, round an island clockwise.
			const wantsCcw = (way === 'climb') === (nesting[i].depth % 2 === 0);
			const turned = pathArea(loop) > 0 === wantsCcw ? loop : reversePath(loop);
			const path = arcsAlong(turned, (level === 0 ? 0.45 : 1) * tolerance);
			turns.push({ level, path, running: new Running(path) });
		}
	}
	if (settings.rest > 2 * radius) {
		const left = yield* restOf(turns, paths, settings.rest / 2, radius, tolerance);
		if (left.length === 0)
			return failed(
				'nothing-left',
				`A tool of ${settings.rest} mm leaves nothing in "${lines[0].name}" that this one could clear.`
			);
		turns = left;
	}
	const edges = turns.map(({ path }) => flattenPath(path, tolerance / 4));
	return done({
		turns,
		step,
		...(isByLines ? { lines: parallels(edges, step, settings.angle) } : {}),
		room: { tree: edge, reach: radius - tolerance, isOn: () => true }
	});
}

/** How many anchors of a line lie nearer to the edges than they should. */
function nearAnchors({ types, segs }: Path, edge: EdgeTree, least: number): number {
	let count = 0;
	for (let i = 0; i < types.length; i++)
		if (edge.distance(segs[STRIDE * i], segs[STRIDE * i + 1]) < least) count++;
	return count;
}

const edgeOf = (paths: readonly Path[], tolerance: number) =>
	new EdgeTree(paths.map((path) => ({ points: flattenPath(path, tolerance / 4), closed: true })));

/**
 * What a larger tool left: the stretches of turns on which the smaller one reaches beyond what the larger one could take. The larger
 * one takes all that lies within its radius of where its middle may go.
 */
function* restOf(
	turns: readonly Turn[],
	paths: readonly Path[],
	larger: number,
	radius: number,
	tolerance: number
): Generator<number, Turn[]> {
	const middle = yield* quietly(
		offsetPiecesSteps(paths, { distance: -larger, join: 'round', tolerance, verify: false })
	);
	// Where it did not fit at all, everything is left.
	if (!middle.ok) return [...turns];
	const taken = yield* quietly(
		offsetPiecesSteps(middle.value.paths, { distance: larger, join: 'round', tolerance, verify: false })
	);
	if (!taken.ok) return [...turns];
	const flat = taken.value.paths.map((path) => flattenPath(path, tolerance / 4));
	const tree = new EdgeTree(flat.map((points) => ({ points, closed: true })));
	const isTaken = (x: number, y: number) => {
		const inside = flat.reduce((sum, points) => sum + Math.abs(windingNumber(points, x, y)), 0) % 2 === 1;
		// The edge of both tools lies on the wall alike, to within their tolerances.
		return inside && tree.distance(x, y) >= radius - 4 * tolerance;
	};
	const out: Turn[] = [];
	for (const turn of turns) {
		const { running } = turn;
		const count = Math.max(12, Math.ceil(running.length / (radius / 4)));
		const step = running.length / count;
		const left = Array.from({ length: count }, (_, k) => {
			const { x, y } = running.at(k * step);
			return !isTaken(x, y);
		});
		if (left.every(Boolean)) {
			out.push(turn);
			continue;
		}
		const first = left.indexOf(false);
		let from: number | undefined;
		for (let i = 1; i <= count; i++) {
			const k = first + i;
			if (left[k % count]) from ??= k - 1;
			else if (from !== undefined) {
				// A step more at either end, where what is left runs out.
				const path = running.part(from * step, k * step);
				out.push({ level: turn.level, path, running: new Running(path) });
				from = undefined;
			}
		}
	}
	return out;
}

/** Work whose own progress is not told. */
function* quietly<T>(work: Generator<number, T>): Generator<number, T> {
	for (let k = work.next(); ; k = work.next()) {
		if (k.done) return k.value;
		yield 0.5;
	}
}

/** Where the deepest turn begins: the tool comes down there first. */
export function clearingStart(cleared: Cleared): Point {
	const [line] = cleared.lines ?? [];
	if (line) return { x: line[0], y: line[1] };
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
		const { lines } = cleared;
		const edges = cleared.turns.flatMap((turn) => (turn.level === 0 ? [turn.running] : []));
		// Lines go over the area first; the turns along its edge finish it.
		let here: Point | undefined =
			lines && alongLines(moves, lines, edges, cleared.room, { above, z, settings });
		const left = new Set(lines ? cleared.turns.filter((turn) => turn.level === 0) : cleared.turns);
		while (left.size) {
			const next = nextTurn(left, here, cleared);
			left.delete(next.turn);
			const { running } = next.turn;
			let at = next.at;
			const begin = running.at(at);
			if (next.isLinked) moves.straight(begin.x, begin.y, z, feed);
			else {
				comeOver(moves, begin, safe);
				if (ramp === undefined || ramp >= 90 || !running.path.closed) moves.height(z, plunge);
				else {
					moves.height(above, plunge);
					const slope = Math.tan((ramp * Math.PI) / 180);
					const long = (above - z) / slope;
					follow(moves, running.part(at, at + long), above, z, rampFeed(settings));
					at += long;
				}
			}
			follow(moves, running.part(at, at + running.length), z, z, feed);
			here = running.at(running.path.closed ? at : running.length);
		}
		above = z;
	}
	liftUp(moves, safe);
}

/** Lines at an angle, a step apart, within outlines (even-odd): x0 y0 x1 y1 each, line after line. */
function parallels(edges: readonly Float64Array[], step: number, angle: number): Float64Array[] {
	const rad = (angle * Math.PI) / 180;
	const [c, s] = [Math.cos(rad), Math.sin(rad)];
	// In a frame whose x runs along the lines.
	const turned = edges.map((points) =>
		points.map((v, i) => (i % 2 ? c * v - s * points[i - 1] : c * v + s * points[i + 1]))
	);
	let [least, most] = [Infinity, -Infinity];
	for (const points of turned)
		for (let i = 1; i < points.length; i += 2)
			[least, most] = [Math.min(least, points[i]), Math.max(most, points[i])];
	const count = Math.max(1, Math.ceil((most - least) / step));
	const out: Float64Array[] = [];
	for (let k = 0; k < count; k++) {
		const y = least + ((most - least) * (k + 0.5)) / count;
		const crossings: number[] = [];
		for (const points of turned)
			for (let i = 0; i < points.length; i += 2) {
				const j = (i + 2) % points.length;
				const [y0, y1] = [points[i + 1], points[j + 1]];
				if (y0 > y !== y1 > y) crossings.push(points[i] + ((points[j] - points[i]) * (y - y0)) / (y1 - y0));
			}
		crossings.sort((a, b) => a - b);
		for (let i = 0; i + 1 < crossings.length; i += 2) {
			const [x0, x1] = [crossings[i], crossings[i + 1]];
			out.push(Float64Array.of(c * x0 - s * y, s * x0 + c * y, c * x1 - s * y, s * x1 + c * y));
		}
	}
	return out;
}

/** Goes along parallel lines, to and fro, from each on to the nearest end of another that it may reach without lifting. */
function alongLines(
	moves: MovesBuilder,
	lines: readonly Float64Array[],
	/** The turns along the edge of the area. */
	edges: readonly Running[],
	room: Room,
	{ above, z, settings }: { readonly above: number; readonly z: number; readonly settings: WholeSettings }
): Point | undefined {
	const { feed, plunge, safe, ramp } = settings;
	const left = new Set(lines);
	let here: Point | undefined;
	while (left.size) {
		const { line, from, isLinked } = nextLine(left, here, room);
		left.delete(line);
		const begin = { x: line[from], y: line[from + 1] };
		const end = { x: line[2 - from], y: line[3 - from] };
		const byEdge = here && !isLinked ? alongEdge(edges, here, begin, 12 * room.reach) : undefined;
		if (isLinked) moves.straight(begin.x, begin.y, z, feed);
		else if (byEdge) {
			follow(moves, byEdge, z, z, feed);
			moves.straight(begin.x, begin.y, z, feed);
		} else {
			comeOver(moves, begin, safe);
			if (ramp === undefined || ramp >= 90) moves.height(z, plunge);
			else downAlong(moves, begin, end, { above, z, ramp, settings });
		}
		moves.straight(end.x, end.y, z, feed);
		here = end;
	}
	return here;
}

/** mm: both ends lie so near to the turn along the edge. */
const ON_EDGE = 0.05;

/** The way along the edge from one place on it to another, where it is no longer than `most` mm. */
function alongEdge(edges: readonly Running[], from: Point, to: Point, most: number): Path | undefined {
	for (const edge of edges) {
		const [a, b] = [
			nearestOnPath(edge.path, from.x, from.y, ON_EDGE),
			nearestOnPath(edge.path, to.x, to.y, ON_EDGE)
		];
		if (!a || !b) continue;
		const [s, t] = [edge.lengthTo(a.segment + a.t), edge.lengthTo(b.segment + b.t)];
		const forward = (((t - s) % edge.length) + edge.length) % edge.length;
		const back = edge.length - forward;
		if (Math.min(forward, back) > most) return undefined;
		return forward <= back ? edge.part(s, s + forward) : reversePath(edge.part(t, t + back));
	}
	return undefined;
}

/** The end to go on with: the nearest that it may reach without lifting, else the nearest. */
function nextLine(
	left: ReadonlySet<Float64Array>,
	here: Point | undefined,
	room: Room
): { line: Float64Array; from: number; isLinked: boolean } {
	const ends = [...left].flatMap((line) =>
		[0, 2].map((from) => ({
			line,
			from,
			d: here ? Math.hypot(line[from] - here.x, line[from + 1] - here.y) : 0
		}))
	);
	const nearest = ends.reduce((a, b) => (b.d < a.d ? b : a));
	if (!here) return { ...nearest, isLinked: false };
	const reach = 8 * room.reach;
	let best: (typeof ends)[number] | undefined;
	for (const end of ends)
		if (
			end.d < (best?.d ?? reach) &&
			isFreeBetween(here, { x: end.line[end.from], y: end.line[end.from + 1] }, room)
		)
			best = end;
	return { ...(best ?? nearest), isLinked: best !== undefined };
}

/** Down along a straight at a slope, there and back as often as it takes; it ends where it began. */
function downAlong(
	moves: MovesBuilder,
	begin: Point,
	end: Point,
	how: {
		readonly above: number;
		readonly z: number;
		readonly ramp: number;
		readonly settings: WholeSettings;
	}
): void {
	const { above, z, ramp, settings } = how;
	moves.height(above, settings.plunge);
	const rad = (ramp * Math.PI) / 180;
	const slow = rampFeed(settings);
	const length = Math.hypot(end.x - begin.x, end.y - begin.y);
	const whole = (above - z) / Math.tan(rad);
	const turns = Math.max(1, Math.ceil(whole / 2 / Math.max(length, 1e-6)));
	const share = Math.min(1, whole / 2 / turns / Math.max(length, 1e-6));
	const far = { x: begin.x + (end.x - begin.x) * share, y: begin.y + (end.y - begin.y) * share };
	for (let k = 0; k < turns; k++) {
		const [z0, z1] = [above + ((z - above) * k) / turns, above + ((z - above) * (k + 1)) / turns];
		moves.straight(far.x, far.y, (z0 + z1) / 2, slow);
		moves.straight(begin.x, begin.y, z1, slow);
	}
}

/** In steps: so far it goes straight through what is not cleared yet, rather than lift. */
const FAR_LINK = 8;

/** Where a turn may be begun nearest to a place: a closed one anywhere, a part of one at its start. */
function nearestBegin(
	{ path, running }: Turn,
	here: Point,
	reach: number
): { readonly at: number; readonly d: number } | undefined {
	if (path.closed) {
		const near = nearestOnPath(path, here.x, here.y, reach);
		return near && { at: running.lengthTo(near.segment + near.t), d: near.distance };
	}
	const start = running.at(0);
	const d = Math.hypot(start.x - here.x, start.y - here.y);
	return d <= reach ? { at: 0, d } : undefined;
}

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
		const near = nearestBegin(turn, here, reach);
		if (!near || (best && best.turn.level === turn.level && best.d <= near.d)) continue;
		if (isFreeBetween(here, turn.running.at(near.at), cleared.room)) best = { turn, ...near };
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
	return { turn, at: here && turn.path.closed ? turn.running.nearest(here.x, here.y) : 0, isLinked: false };
}

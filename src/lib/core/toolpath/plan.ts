/** A job planned: from lines and what is said about the cut to the moves of a machine. */
import { done, failed, type Result } from '../errors';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathArea, pathBox, windingNumber } from '../geometry/measure';
import { polygonPath, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { groupPieces } from '../plane/pieces';
import { part } from '../progress';
import { clearArea, clearingStart, clearSteps, MOST_STEP, type Cleared } from './clearing';
import { cutOnce } from './common';
import { compensateSteps, nestLines, type CutLine, type Nested, type Way } from './compensate';
import { cutGroove, grooveStart, grooveSteps } from './groove';
import { comeOver, goRound, passHeights, type Prepared } from './going';
import { Knife } from './knife';
import { leadIn, leadOut, type Lead } from './leads';
import { lengthsOf, MovesBuilder, type Toolpath } from './moves';
import { orderSteps, type Stop } from './order';
import { relieved } from './relief';
import { isFreeBetween, type Room } from './room';
import { Running } from './running';
import { circleAs, drilledMiddle } from './round-hole';
import { reachOf, wholeSettings, type CutSettings, type WholeSettings } from './settings';
import { placeTabs, tabPlaces } from './tabs';
import { moveTimes } from './time';
import { uncutAlong, type Uncut } from './uncut';

/** What is to be cut, in machine coordinates. */
export interface CutInput {
	readonly lines: readonly CutLine[];
	/** Single points, drilled or marked. */
	readonly points?: readonly Point[];
	/** The sheet, its lower left corner at 0, 0. */
	readonly sheet?: { readonly width: number; readonly height: number };
	/** Where the tool comes from. */
	readonly home?: Point;
}

/** One cut of a plan: which line, which moves. */
export interface CutMade {
	/** Index of the line; -1 for a point. */
	readonly line: number;
	readonly name: string;
	/** Its moves, from the first to before the last. */
	readonly first: number;
	readonly end: number;
	/** The way of the tool's middle; undefined for a cleared area or a point. */
	readonly way: Path | undefined;
	readonly start: Point;
	/** Unit vector in which it begins. */
	readonly direction: Point;
	/** Middles of its tabs, on the way. */
	readonly tabs: readonly Point[];
}

export interface Plan {
	readonly moves: Toolpath;
	/** In the order in which they are made. */
	readonly cuts: readonly CutMade[];
	readonly uncut: readonly Uncut[];
	readonly warnings: readonly string[];
	/** mm at a feed, mm on the way in the plane, seconds, how often each way is gone. */
	readonly cut: number;
	readonly travel: number;
	readonly seconds: number;
	readonly passes: number;
}

/** Something to be cut, with the places where it may begin, and how to do it from one of them. */
interface Task {
	readonly line: number;
	readonly name: string;
	readonly stop: Stop;
	readonly way: Path | undefined;
	/** mm2 that it goes round. */
	readonly size: number;
	/** Where it begins on its way, and in which direction. */
	begin(place: number): { readonly at: Point; readonly direction: Point };
	go(moves: MovesBuilder, place: number): readonly Point[];
}

/** Of what has no direction. */
const EAST: Point = { x: 1, y: 0 };
/** Places on a way where it may begin. */
const MOST_PLACES = 40;
const LEAST_PLACES = 8;
/** mm between them where the way is long enough. */
const PLACES_APART = 3;

/**
 * Plans a job. @returns the plan, or in one sentence why it cannot be: what `wholeSettings` refuses, `nothing-given`,
 * `beyond-sheet`, `too-wide`, `open-outline`, what an offset refuses.
 */
export function* planSteps(input: CutInput, given: CutSettings): Generator<number, Result<Plan>> {
	const whole = wholeSettings(given);
	if (!whole.ok) return whole;
	const settings = whole.value;
	const lines = input.lines.filter((line) => line.path.types.length > 0);
	const points = input.points ?? [];
	if (lines.length === 0 && points.length === 0)
		return failed(
			'nothing-given',
			'There is nothing to cut. Pick lines, or lay them on a layer that is cut.'
		);
	const beyond = beyondSheet(lines, points, input.sheet);
	if (beyond) return failed('beyond-sheet', beyond);
	const warnings: string[] = [];
	const planner = new Planner(lines, input, settings, warnings);
	const tasks = yield* part(planner.tasks(points), 0, 0.6);
	if (!tasks.ok) return tasks;
	const stops = tasks.value.map((task) => task.stop);
	const { order, start } = yield* part(
		ordered(tasks.value, stops, { input, settings, pieceOf: (task) => planner.pieceOf(task) }),
		0.6,
		0.98
	);
	const moves = new MovesBuilder([
		input.home?.x ?? 0,
		input.home?.y ?? 0,
		settings.tool.kind === 'cutter' ? settings.safe : 0
	]);
	const cuts: CutMade[] = [];
	for (const i of order) {
		const task = tasks.value[i];
		moves.cut = cuts.length;
		const first = moves.count;
		const tabs = task.go(moves, start[i]);
		cuts.push({
			line: task.line,
			name: task.name,
			first,
			end: moves.count,
			way: task.way,
			start: task.begin(start[i]).at,
			direction: task.begin(start[i]).direction,
			tabs
		});
	}
	planner.tellLeads();
	planner.tellOrder(cuts);
	const path = moves.moves();
	const { cut, travel } = lengthsOf(path);
	const times = moveTimes(path, settings);
	return done({
		moves: path,
		cuts,
		uncut: planner.uncut,
		warnings,
		cut,
		travel,
		seconds: times.reduce((sum, t) => sum + t, 0),
		passes: passHeights(settings).length
	});
}

function beyondSheet(
	lines: readonly CutLine[],
	points: readonly Point[],
	sheet: CutInput['sheet']
): string | undefined {
	if (!sheet) return undefined;
	const slack = 1e-6;
	const isOff = (x: number, y: number) =>
		x < -slack || y < -slack || x > sheet.width + slack || y > sheet.height + slack;
	for (const { path, name } of lines) {
		const b = pathBox(path);
		if (isOff(b.x0, b.y0) || isOff(b.x1, b.y1)) {
			const over = Math.max(-b.x0, -b.y0, b.x1 - sheet.width, b.y1 - sheet.height);
			return `"${name}" lies ${over.toFixed(1)} mm beyond the sheet of ${sheet.width} x ${sheet.height} mm. Move it onto the sheet, or take a larger one.`;
		}
	}
	const off = points.find(({ x, y }) => isOff(x, y));
	return off && `A mark at ${off.x.toFixed(1)}, ${off.y.toFixed(1)} lies beyond the sheet.`;
}

/** The order of the tasks: found, or by hand first. */
function* ordered(
	tasks: readonly Task[],
	stops: readonly Stop[],
	how: {
		readonly input: CutInput;
		readonly settings: WholeSettings;
		readonly pieceOf: (task: Task) => number;
	}
): Generator<number, { order: readonly number[]; start: readonly number[] }> {
	const { input, settings } = how;
	const home = input.home ?? { x: 0, y: 0 };
	const { fixed } = settings;
	const chain = (list: readonly number[], of = stops) => {
		// Each waits for the one before it.
		const after = new Map(list.map((i, k) => [i, k === 0 ? [] : [list[k - 1]]]));
		return of.map((stop, i) => ({ ...stop, after: after.get(i) ?? stop.after }));
	};
	if (settings.order === 'small' && !fixed)
		return yield* orderSteps(
			chain(tasks.map((_, i) => i).sort((a, b) => tasks[a].size - tasks[b].size)),
			home
		);
	if (settings.order === 'pieces' && !fixed)
		return yield* orderSteps(chain(yield* byPieces(tasks, stops, how.pieceOf, home)), home);
	if (!fixed) return yield* orderSteps(stops, home);
	const byHand = fixed.flatMap((line) =>
		tasks.flatMap((task, i) => (task.line === line ? [i] : [])).sort((a, b) => tasks[a].size - tasks[b].size)
	);
	const named = new Set(byHand);
	const last = byHand.at(-1);
	const rest = stops.map((stop, i) => ({
		...stop,
		after: named.has(i) || last === undefined ? [] : [...stop.after.filter((j) => !named.has(j)), last]
	}));
	return yield* orderSteps(chain(byHand, rest), home);
}

/** Piece by piece: the shortest way between what goes round them, and in each the shortest way from cut to cut. */
function* byPieces(
	tasks: readonly Task[],
	stops: readonly Stop[],
	pieceOf: (task: Task) => number,
	home: Point
): Generator<number, number[]> {
	const pieces = new Map<number, number[]>();
	tasks.forEach((task, i) => {
		const piece = pieceOf(task);
		const own = pieces.get(piece);
		if (own) own.push(i);
		else pieces.set(piece, [i]);
	});
	const groups = [...pieces.values()];
	const around = groups.map((own) => own.reduce((a, b) => (tasks[b].size > tasks[a].size ? b : a)));
	const between = yield* orderSteps(
		around.map((i) => ({ places: stops[i].places, after: [] })),
		home
	);
	const out: number[] = [];
	for (const k of between.order) {
		const own = groups[k];
		const last = out.at(-1);
		const from = last === undefined ? home : stops[last].places[0].to;
		const within = yield* orderSteps(
			own.map((i) => ({
				places: stops[i].places,
				after: stops[i].after.flatMap((j) => (own.includes(j) ? [own.indexOf(j)] : []))
			})),
			from
		);
		out.push(...within.order.map((j) => own[j]));
	}
	return out;
}

class Planner {
	readonly uncut: Uncut[] = [];
	private readonly nested: Nested;
	private readonly parents: readonly (number | undefined)[];
	private readonly tree: EdgeTree;
	private readonly radius: number;
	private leastLead = Infinity;
	private withoutLead = 0;

	constructor(
		private readonly lines: readonly CutLine[],
		private readonly input: CutInput,
		private readonly settings: WholeSettings,
		private readonly warnings: string[]
	) {
		this.nested = nestLines(lines);
		this.parents = lines.map((line, i) =>
			line.path.closed ? this.nested.parent[i] : around(lines, line.path)
		);
		this.radius = reachOf(settings.tool);
		this.tree = new EdgeTree(
			lines.map(({ path }) => ({
				points: flattenPath(path, settings.tolerance / 5),
				closed: path.closed
			}))
		);
	}

	*tasks(points: readonly Point[]): Generator<number, Result<Task[]>> {
		const { settings } = this;
		const drilled = points.map((point) => this.drillTask(point));
		if (settings.side === 'drill') {
			for (const [i, { path, name }] of this.lines.entries()) {
				const circle = circleAs(path);
				if (!circle)
					return failed(
						'no-circle',
						`"${name}" is no circle: only circles and marks are drilled. Cut it, or pick circles.`
					);
				drilled.push(this.drillTask(circle, i));
			}
			return done(drilled);
		}
		if (settings.side === 'clear' || settings.side === 'groove') {
			const areas = yield* this.areaTasks(settings.side);
			return areas.ok ? done([...drilled, ...areas.value]) : areas;
		}
		// A hole just as wide as the tool is drilled: there is no way round in it.
		const holes = this.drilledHoles();
		for (const [i, middle] of holes) drilled.push(this.drillTask(middle, i));
		const ways = yield* part(
			compensateSteps(this.lines, this.nested, settings, new Set(holes.keys())),
			0,
			0.8
		);
		if (!ways.ok) return ways;
		const found = (settings.common ? cutOnce(ways.value) : ways.value).map((way) => {
			if (settings.relief === 'none')
				this.uncut.push(...uncutAlong(way, this.lines[way.line].path, this.radius, settings.tolerance));
			return relieved(way, this.lines[way.line].path, this.radius, settings.relief);
		});
		const tasks: Task[] = [...drilled];
		const firstWay = tasks.length;
		const ofLine = new Map<number, number[]>();
		tasks.forEach((task, k) => task.line >= 0 && ofLine.set(task.line, [k]));
		found.forEach((way, k) => ofLine.set(way.line, [...(ofLine.get(way.line) ?? []), firstWay + k]));
		const within = this.waysWithin(ofLine);
		for (const [k, way] of found.entries()) {
			yield 0.8 + (0.2 * k) / found.length;
			tasks.push(this.wayTask(way, within(way.line)));
		}
		return done(tasks);
	}

	/** Holes that the tool makes by going down, with their middles. */
	private drilledHoles(): Map<number, Point> {
		const { tool, side } = this.settings;
		const out = new Map<number, Point>();
		if (tool.kind !== 'cutter' || (side !== 'outside' && side !== 'inside')) return out;
		this.lines.forEach(({ path }, i) => {
			const isOpening = (this.nested.depth[i] % 2 === 1) === (side === 'outside');
			const middle = isOpening ? drilledMiddle(path, tool.diameter) : undefined;
			if (middle) out.set(i, middle);
		});
		return out;
	}

	/** The tasks of the lines right inside a line. */
	private waysWithin(ofLine: ReadonlyMap<number, readonly number[]>): (line: number) => number[] {
		const children = new Map<number, number[]>();
		this.parents.forEach((parent, i) => {
			if (parent !== undefined) children.set(parent, [...(children.get(parent) ?? []), i]);
		});
		return (line) => (children.get(line) ?? []).flatMap((i) => ofLine.get(i) ?? []);
	}

	/** What a cut belongs to: the outermost line around it; a mark that lies in none is a piece of its own. */
	pieceOf({ line, stop }: Task): number {
		let at: number | undefined = line;
		if (line < 0) {
			const { x, y } = stop.places[0].from;
			at = around(this.lines, polygonPath([x, y, x, y], false));
			if (at === undefined) return -1 - this.ownPieces++;
		}
		for (let up = this.parents[at]; up !== undefined; up = this.parents[at]) at = up;
		return at;
	}
	private ownPieces = 0;

	private drillTask(point: Point, line = -1): Task {
		const { settings } = this;
		return {
			line,
			name: line < 0 ? 'mark' : this.lines[line].name,
			way: undefined,
			size: 0,
			stop: { places: [{ from: point, to: point }], after: [] },
			begin: () => ({ at: point, direction: EAST }),
			go: (moves) => {
				const { tool, safe, plunge, feed } = settings;
				if (tool.kind !== 'cutter') {
					moves.works = 0;
					moves.rapid(point.x, point.y);
					moves.works = 1;
					// A point has no length: a hair's stroke marks it.
					moves.straight(point.x + 0.05, point.y, 0, feed);
					moves.works = 0;
					return [];
				}
				moves.works = 1;
				comeOver(moves, point, safe);
				// Out of the hole after each pass, so that the chips come out.
				for (const z of passHeights(settings)) {
					moves.height(z, plunge);
					moves.rapid(point.x, point.y, Math.min(safe, 1));
				}
				moves.rapid(point.x, point.y, safe);
				return [];
			}
		};
	}

	/** The pieces with their holes, each cleared or engraved as a whole. */
	private *areaTasks(side: 'clear' | 'groove'): Generator<number, Result<Task[]>> {
		const { lines, settings } = this;
		if (side === 'clear' && settings.step > MOST_STEP)
			this.warnings.push(
				`Turns lie half the tool's width apart: a step of ${settings.step} would leave ridges in the corners.`
			);
		const open = lines.find(({ path }) => !path.closed);
		if (open)
			return failed(
				'open-outline',
				`"${open.name}" is open: only closed outlines can be ${side === 'clear' ? 'cleared' : 'engraved as wide as they are'}. Close it.`
			);
		const groups = groupPieces(lines.map((line) => line.path));
		const tasks: Task[] = [];
		for (const [k, group] of groups.entries()) {
			const own = group.map((i) => lines[i]);
			const [from, to] = [k / groups.length, (k + 1) / groups.length];
			if (side === 'groove') {
				const groove = yield* part(grooveSteps(own, settings), from, to);
				if (!groove.ok) return groove;
				if (groove.value.floor) this.withFloor.push(own[0].name);
				tasks.push(
					this.areaTask(group, grooveStart(groove.value), (moves) => cutGroove(moves, groove.value, settings))
				);
				continue;
			}
			const cleared = yield* part(clearSteps(own, settings), from, to);
			if (!cleared.ok) return cleared;
			this.findUncut(group, cleared.value);
			tasks.push(
				this.areaTask(group, clearingStart(cleared.value), (moves) =>
					clearArea(moves, cleared.value, settings)
				)
			);
		}
		if (this.withFloor.length)
			this.warnings.push(
				`"${this.withFloor[0]}"${this.withFloor.length > 1 ? ` and ${this.withFloor.length - 1} more are` : ' is'} wider than the V goes deep: the middle gets a floor with fine ridges, which a flat tool clears faster.`
			);
		return done(tasks);
	}
	private readonly withFloor: string[] = [];

	private findUncut(group: readonly number[], cleared: Cleared): void {
		const { lines, settings } = this;
		for (const turn of cleared.turns) {
			if (turn.level > 0) continue;
			const own = group.reduce((a, b) =>
				nearestTo(lines[a].path, turn.path) <= nearestTo(lines[b].path, turn.path) ? a : b
			);
			const way: Way = {
				line: own,
				path: turn.path,
				kept: settings.way === 'climb' ? 'right' : 'left',
				isOuter: false
			};
			this.uncut.push(...uncutAlong(way, lines[own].path, this.radius, settings.tolerance));
		}
	}

	private areaTask(group: readonly number[], start: Point, go: (moves: MovesBuilder) => void): Task {
		const { lines } = this;
		return {
			line: group[0],
			name: lines[group[0]].name,
			way: undefined,
			size: Math.abs(pathArea(lines[group[0]].path)),
			stop: { places: [{ from: start, to: start }], after: [] },
			begin: () => ({ at: start, direction: EAST }),
			go: (moves) => {
				go(moves);
				return [];
			}
		};
	}

	private wayTask(way: Way, after: readonly number[]): Task {
		const { settings } = this;
		const running = new Running(way.path);
		const name = this.lines[way.line].name;
		const kept = way.kept;
		const ends = this.beginnings(way, running);
		const common = {
			line: way.line,
			name,
			way: way.path,
			size: Math.abs(pathArea(way.path)),
			begin: (place: number) => {
				const { x, y, dx, dy } = running.at(ends[place].start);
				return { at: { x, y }, direction: { x: dx, y: dy } };
			}
		};
		const stop: Stop = { places: ends.map(({ from, to }) => ({ from, to })), after };
		const { tool } = settings;
		if (tool.kind === 'knife' && tool.offset > 0)
			return {
				...common,
				stop,
				go: (moves, place) => {
					this.knife ??= new Knife(moves, tool.offset, settings.feed, settings.tolerance);
					for (let pass = 0; pass < settings.passes; pass++)
						this.knife.cut(running, ends[place].start, settings.overcut, this.wasteOf(way), this.tree);
					return [];
				}
			};
		return {
			...common,
			stop,
			go: (moves, place) => {
				const { start, lead } = ends[place];
				const tabs = this.tabsOf(way, running, start, lead?.size ?? 0);
				const leave = (s: number) => (lead ? leadOut(running, s, kept, this.leadKind, this.room) : undefined);
				const prepared: Prepared = {
					way,
					running,
					start,
					leadIn: lead,
					leave,
					tabs,
					mayLink: lead !== undefined && this.mayLink(leave(start), lead)
				};
				if (lead) this.leastLead = Math.min(this.leastLead, lead.size);
				else if (settings.lead > 0 && way.path.closed) this.withoutLead++;
				goRound(moves, prepared, settings);
				return tabPlaces(running, tabs);
			}
		};
	}
	/** One knife for the whole job: it keeps its direction from cut to cut. */
	private knife: Knife | undefined;

	/** Which side of a line that is cut with a knife falls away; of an outer one its outside. */
	private wasteOf({ line, path }: Way): 'left' | 'right' | 'none' {
		if (!path.closed) return 'none';
		const isHole = this.nested.depth[line] % 2 === 1;
		return pathArea(path) > 0 === isHole ? 'left' : 'right';
	}

	private get leadKind() {
		return { kind: this.settings.leadKind, size: this.settings.lead };
	}
	private roomNow: Room | undefined;
	private get room(): Room {
		const { sheet } = this.input;
		return (this.roomNow ??= {
			tree: this.tree,
			reach: this.radius - 0.9 * this.settings.tolerance,
			isOn: (x, y) => !sheet || (x >= 0 && y >= 0 && x <= sheet.width && y <= sheet.height)
		});
	}

	private mayLink(out: Lead | undefined, into: Lead): boolean {
		return out !== undefined && isFreeBetween(out.to, into.from, this.room);
	}

	/** Where a way may begin: off its corners, where there is room for the lead; by hand, only there. */
	private beginnings(
		way: Way,
		running: Running
	): { start: number; lead: Lead | undefined; from: Point; to: Point }[] {
		const { settings } = this;
		const { length, path } = running;
		const over = Math.min(settings.overcut, length);
		const wants = settings.lead > 0 && path.closed;
		const begin = (start: number) => {
			const lead = wants ? leadIn(running, start, way.kept, this.leadKind, this.room) : undefined;
			const out = lead && leadOut(running, start, way.kept, this.leadKind, this.room);
			const end = path.closed ? start + length + over : length;
			const here = running.at(path.closed ? start : 0);
			const { x, y } = lead?.from ?? here;
			const to = out?.to ?? running.at(end);
			return {
				start,
				lead: out ? lead : undefined,
				from: { x, y },
				to: { x: to.x, y: to.y },
				room: lead && out ? Math.min(lead.room, out.room) : 0
			};
		};
		if (!path.closed) return [begin(0)];
		const byHand = settings.starts?.[way.line];
		if (byHand) return [begin(running.nearest(...byHand))];
		const count = Math.max(LEAST_PLACES, Math.min(MOST_PLACES, Math.round(length / PLACES_APART)));
		const places = Array.from({ length: count }, (_, k) => (length * (k + 0.5)) / count);
		const bend = Math.min(length / count / 2, 0.5);
		const straight = places.filter((s) => running.turning(s - bend, s + bend, bend) < 0.5);
		const found = (straight.length ? straight : places).map(begin);
		const most = Math.max(...found.map((f) => f.room));
		return found.filter((f) => f.room >= 0.999 * most);
	}

	private tabsOf(way: Way, running: Running, start: number, lead: number) {
		const { settings } = this;
		const byHand = settings.tabs?.places?.[way.line];
		if (!settings.tabs || !way.isOuter || !way.path.closed) return [];
		const free = 0.5 * this.radius + (lead > 0 ? 0.5 * lead : 0) + settings.overcut;
		const { stretches, missing } = placeTabs(
			running,
			settings.tabs,
			this.radius,
			{ at: start, free },
			byHand
		);
		if (missing)
			this.warnings.push(
				`${missing} ${missing === 1 ? 'tab has' : 'tabs have'} no room on "${this.lines[way.line].name}".`
			);
		return stretches;
	}

	/** Says what would drop before what lies in it is cut: only an order by hand does that. */
	tellOrder(cuts: readonly CutMade[]): void {
		const last = new Map<number, number>();
		const first = new Map<number, number>();
		cuts.forEach(({ line }, i) => {
			if (!first.has(line)) first.set(line, i);
			last.set(line, i);
		});
		for (const [line, at] of last) {
			const parent = this.parents[line];
			if (parent === undefined || !(at > (first.get(parent) ?? Infinity))) continue;
			this.warnings.unshift(
				`"${this.lines[parent].name}" is cut before "${this.lines[line].name}" that lies in it: it may drop or turn.`
			);
			return;
		}
	}

	/** Says where leads had to be shorter than wished. */
	tellLeads(): void {
		const { lead } = this.settings;
		if (this.withoutLead)
			this.warnings.push(
				`${this.withoutLead} ${this.withoutLead === 1 ? 'cut has' : 'cuts have'} no room for a lead and begin on the line.`
			);
		if (this.leastLead < lead * 0.999)
			this.warnings.push(
				`Where there is less room leads are shorter; the least is ${this.leastLead.toFixed(2)} mm.`
			);
	}
}

/** The smallest closed line around an open one. */
function around(lines: readonly CutLine[], path: Path): number | undefined {
	const [x, y] = [path.segs[0], path.segs[1]];
	let best: number | undefined;
	let least = Infinity;
	lines.forEach((line, i) => {
		if (!line.path.closed) return;
		const b = pathBox(line.path);
		if (x < b.x0 || x > b.x1 || y < b.y0 || y > b.y1) return;
		const size = Math.abs(pathArea(line.path));
		if (size < least && windingNumber(flattenPath(line.path, 0.05), x, y) % 2 !== 0) {
			least = size;
			best = i;
		}
	});
	return best;
}

const nearestTo = (line: Path, way: Path): number =>
	new EdgeTree([{ points: flattenPath(line, 0.01), closed: true }]).distance(way.segs[0], way.segs[1]);

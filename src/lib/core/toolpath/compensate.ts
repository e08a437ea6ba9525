/**
 * From lines to the ways of the tool's middle: moved aside by its radius or half the kerf with our own offset, as straights and
 * arcs, each turned the way it is to be cut. What the tool cannot do is refused with the lines' names and the largest tool that fits.
 */
import Flatbush from 'flatbush';
import { done, failed, type Result } from '../errors';
import { arcsAlong } from '../fit/arcs';
import { EdgeTree, flattenPath, type Polyline } from '../geometry/edge-tree';
import { pathArea, pathBox } from '../geometry/measure';
import { reversePath, type Path } from '../geometry/path';
import type { Box } from '../geometry/segment';
import { offsetPiecesSteps, widestInside } from '../plane/offset';
import { crossingSteps } from '../plane/crossings';
import { groupPieces, nestPaths, type Standing } from '../plane/pieces';
import { part } from '../progress';
import type { WholeSettings } from './settings';
import { reachOf } from './settings';

/** A line that is to be cut. */
export interface CutLine {
	readonly path: Path;
	readonly name: string;
	/** What it is said to be, where that is not what its place says. */
	readonly standing?: Standing;
}

/** Where the material that is kept lies, seen along the way. */
export type KeptSide = 'left' | 'right' | 'none';

/** One way of the tool's middle at full depth. */
export interface Way {
	/** Index of its line. */
	readonly line: number;
	readonly path: Path;
	readonly kept: KeptSide;
	/** Whether a piece comes loose inside it: tabs hold it. */
	readonly isOuter: boolean;
}

/** How lines lie in each other. */
export interface Nested {
	/** How many lines lie around each; odd ones are holes. */
	readonly depth: readonly number[];
	/** The smallest line around each. */
	readonly parent: readonly (number | undefined)[];
}

/** Of the tolerance: what the offset may take, and what the arcs. */
const OFFSET_SHARE = 0.4;
/** mm: ways this near to each other may be one. */
export const SHARED = 0.02;
const ARC_SHARE = 0.45;

export function nestLines(lines: readonly CutLine[]): Nested {
	const nesting = nestPaths(
		lines.map((line) => line.path),
		lines.map((line) => line.standing)
	);
	return { depth: nesting.map((n) => n.depth), parent: nesting.map((n) => n.parent) };
}

/** Lines that may touch each other once grown belong together: indexes, those of each group in order. */
export function groupNear(boxes: readonly Box[], reach: number): number[][] {
	if (boxes.length === 0) return [];
	const index = new Flatbush(boxes.length);
	for (const b of boxes) index.add(b.x0, b.y0, b.x1, b.y1);
	index.finish();
	const group = boxes.map((_, i) => i);
	const rootOf = (i: number): number => {
		while (group[i] !== i) i = group[i] = group[group[i]];
		return i;
	};
	boxes.forEach((b, i) => {
		for (const j of index.search(b.x0 - reach, b.y0 - reach, b.x1 + reach, b.y1 + reach))
			if (j > i) group[rootOf(j)] = rootOf(i);
	});
	const groups = new Map<number, number[]>();
	boxes.forEach((_, i) => {
		const root = rootOf(i);
		const list = groups.get(root);
		if (list) list.push(i);
		else groups.set(root, [i]);
	});
	return [...groups.values()];
}

/** The ways of all lines; each closed one that stays a closed one is a way of its own, `clear` is made elsewhere. */
export function* compensateSteps(
	lines: readonly CutLine[],
	nested: Nested,
	settings: WholeSettings,
	/** Lines that are made otherwise. */
	leave: ReadonlySet<number> = new Set()
): Generator<number, Result<Way[]>> {
	const { tool, side, tolerance, way: wanted } = settings;
	const radius = reachOf(tool);
	const open = lines.findIndex(({ path }) => !path.closed);
	if (side !== 'on' && open >= 0)
		return failed(
			'open-outline',
			`"${lines[open].name}" is open: it has no ${side} to cut on. Close it, or cut on the line.`
		);
	const ways: Way[] = [];
	if (side === 'on' || radius === 0) {
		for (const [i, { path }] of lines.entries()) {
			yield i / lines.length;
			ways.push({
				line: i,
				path: arcsAlong(path, ARC_SHARE * tolerance),
				kept: 'none',
				isOuter: path.closed && nested.depth[i] % 2 === 0
			});
		}
		return done(ways);
	}
	const boxes = lines.map(({ path }) => pathBox(path));
	// Where lines are shared each piece is taken by itself: beside another its way may lie on that one's.
	const groups = settings.common
		? groupPieces(lines.map(({ path }) => path))
		: groupNear(boxes, 2 * radius + 4 * tolerance);
	if (settings.common) {
		const near = tooNear(lines, groups, radius);
		if (near) return failed('too-wide', near);
	}
	let count = 0;
	for (const all of groups) {
		const from = count / lines.length;
		count += all.length;
		const group = all.filter((i) => !leave.has(i));
		if (group.length === 0) continue;
		for (const i of group) {
			const tangled = yield* part(whyTangled(lines[i], side), from, from);
			if (tangled) return failed('crosses-itself', tangled);
		}
		const result = yield* part(
			aside(
				group.map((i) => lines[i]),
				group.map((i) => nested.depth[i]),
				settings,
				radius
			),
			from,
			count / lines.length
		);
		if (!result.ok) return result;
		for (const { own, path } of result.value) {
			const isHole = nested.depth[group[own]] % 2 === 1;
			const keepsOutside = (side === 'outside') !== isHole;
			// Kept material right of a climbing cutter: clockwise around a piece, anticlockwise in a hole.
			const wantsCcw = (wanted === 'climb') !== keepsOutside;
			const turned = pathArea(path) > 0 === wantsCcw ? path : reversePath(path);
			ways.push({
				line: group[own],
				path: turned,
				kept: wanted === 'climb' ? 'right' : 'left',
				isOuter: !isHole
			});
		}
	}
	return done(ways);
}

/** The ways beside the lines of one group, each with the index of the line it lies beside. */
function* aside(
	lines: readonly CutLine[],
	depths: readonly number[],
	{ side, tolerance }: WholeSettings,
	radius: number
): Generator<number, Result<{ own: number; path: Path }[]>> {
	const paths = lines.map((line) => line.path);
	const distance = side === 'outside' ? radius : -radius;
	const offset = yield* part(
		offsetPiecesSteps(paths, { distance, join: 'round', tolerance: OFFSET_SHARE * tolerance }),
		0,
		0.8
	);
	if (!offset.ok) {
		if (offset.problem.code !== 'nothing-left') return offset;
		const i = 0;
		return failed('too-wide', tooWide(lines[i].name, 2 * radius, 2 * widestInside(paths, 1e-3)));
	}
	const flat: Polyline[] = paths.map((path) => ({ points: flattenPath(path, tolerance / 4), closed: true }));
	const tree = new EdgeTree(flat);
	const found: { own: number; path: Path }[] = [];
	const served = new Set<number>();
	for (const [k, loop] of offset.value.paths.entries()) {
		yield 0.8 + (0.2 * k) / offset.value.paths.length;
		const beside = new Map<number, number>();
		const points = flattenPath(loop, 0.02 * radius + tolerance);
		for (let i = 0; i < points.length; i += 2) {
			tree.distance(points[i], points[i + 1]);
			beside.set(tree.line, (beside.get(tree.line) ?? 0) + 1);
		}
		const [own] = [...beside].reduce((a, b) => (b[1] > a[1] ? b : a));
		served.add(own);
		found.push({ own, path: arcsAlong(loop, ARC_SHARE * tolerance) });
	}
	for (let i = 0; i < lines.length; i++)
		if (!served.has(i)) return failed('too-wide', whyNotServed(lines, depths, i, radius, side === 'outside'));
	return done(found);
}

/** What is beside a line that goes through itself cannot be told: inside and outside change places. */
function* whyTangled(
	{ path, name }: CutLine,
	side: WholeSettings['side']
): Generator<number, string | undefined> {
	const crossings = yield* crossingSteps([path], 'self');
	if (!crossings.some(({ through }) => through)) return undefined;
	return `"${name}" crosses itself: what lies ${side} of it cannot be told. Mend it first, or cut on the line.`;
}

/** Rounded down to hundredths, so that what is named does fit. */
const fitting = (mm: number) => Math.max(0, Math.floor(mm * 100) / 100);
const tooWide = (name: string, width: number, most: number) =>
	`The tool is ${width} mm wide, too wide for "${name}". The largest that fits is ${fitting(most)} mm.`;

/** Why no way lies beside a line: it is narrower than the tool, or another line is nearer than the tool is wide. */
function whyNotServed(
	lines: readonly CutLine[],
	depths: readonly number[],
	i: number,
	radius: number,
	isOutside: boolean
): string {
	const mayVanish = (depths[i] % 2 === 1) === isOutside;
	if (mayVanish) {
		// What lies in it narrows it, too.
		const within = lines.flatMap((line, j) => (j === i || depths[j] === depths[i] + 1 ? [line.path] : []));
		const alone = widestInside([lines[i].path], 1e-3);
		if (alone <= radius) return tooWide(lines[i].name, 2 * radius, 2 * alone);
		const most = widestInside(within, 1e-3);
		if (most <= radius) return tooWide(lines[i].name, 2 * radius, 2 * most);
	}
	const { least, other } = nearestOther(
		lines[i],
		lines.filter((_, j) => j !== i)
	);
	return apartToo(lines[i], other, least, radius);
}

const apartToo = (line: CutLine, other: CutLine | undefined, least: number, radius: number) =>
	`"${line.name}" and "${other?.name}" lie ${least.toFixed(2)} mm apart, and the tool is ${2 * radius} mm wide. The largest that fits between them is ${fitting(least)} mm.`;

/** How near other lines come to one, and which comes nearest. */
function nearestOther(
	line: CutLine,
	others: readonly CutLine[]
): { readonly least: number; readonly other: CutLine | undefined } {
	const flat = (path: Path) => ({ points: flattenPath(path, 0.001), closed: true });
	const own = flat(line.path);
	const tree = new EdgeTree(others.map(({ path }) => flat(path)));
	const back = new EdgeTree([own]);
	let least = Infinity;
	let other: CutLine | undefined;
	for (let k = 0; k < own.points.length; k += 2) {
		const d = tree.distance(own.points[k], own.points[k + 1]);
		if (d < least) [least, other] = [d, others[tree.line]];
	}
	// The nearest place may lie between the ends of this one's edges.
	for (const one of others) {
		const { points } = flat(one.path);
		for (let k = 0; k < points.length; k += 2) {
			const d = back.distance(points[k], points[k + 1]);
			if (d < least) [least, other] = [d, one];
		}
	}
	return { least, other };
}

/** Which pieces lie nearer to each other than the tool is wide, where they may share a line; undefined where none do. */
function tooNear(
	lines: readonly CutLine[],
	groups: readonly (readonly number[])[],
	radius: number
): string | undefined {
	const outer = groups.map(([i]) => lines[i]);
	const near = groupNear(
		outer.map(({ path }) => pathBox(path)),
		2 * radius
	);
	for (const group of near)
		for (const [k, i] of group.entries()) {
			const { least, other } = nearestOther(
				outer[i],
				group.slice(k + 1).map((j) => outer[j])
			);
			if (least < 2 * radius - SHARED) return apartToo(outer[i], other, least, radius);
		}
	return undefined;
}

/** What a tool, a kerf or the sheet makes of lines: found before anything is planned, each with its place and its reason. */
import { narrowOf, type Narrow } from '../check/narrow';
import type { Fault } from '../check/fault';
import { flattenPath } from '../geometry/edge-tree';
import { pathBox } from '../geometry/measure';
import type { Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import type { Box } from '../geometry/segment';
import { widestPlace } from '../plane/offset';
import { part } from '../progress';
import { compensateSteps, groupNear, nestLines } from './compensate';
import { drilledMiddle } from './round-hole';
import { wholeSettings } from './settings';
import { uncutAlong } from './uncut';

export interface ToolQuestion {
	/** mm: the radius of the tool that goes outside of pieces and inside of holes. */
	readonly toolRadius?: number;
	/** mm: what narrower necks and gaps are burnt away or closed by; the tool's width where nothing is said. */
	readonly kerf?: number;
	/** mm: thinner walls are told. */
	readonly wall?: number;
	/** The sheets, mm. */
	readonly sheets?: readonly SheetBox[];
}

interface SheetBox {
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
}

const mm = (v: number) => (v < 1 ? v.toFixed(2) : v.toFixed(1));
const middle = ({ from, to }: Narrow): Point => ({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 });
/** mm2: smaller corners are left alone. */
const LEAST_CORNER = 0.02;

/** The faults, by the index of the line that each is about. */
export function* toolFaultSteps(paths: readonly Path[], question: ToolQuestion): Generator<number, Fault[]> {
	const { toolRadius: radius = 0, sheets = [] } = question;
	const faults: Fault[] = [];
	if (sheets.length) faults.push(...offSheets(paths, sheets));
	const width = Math.max(2 * radius, question.kerf ?? 0);
	const closed = paths.flatMap((path, i) => (path.closed && path.types.length ? [i] : []));
	const lines = closed.map((i) => paths[i]);
	const nested = nestLines(lines.map((path) => ({ path, name: '' })));
	const tooWide = new Set<number>();
	if (width > 0)
		for (const [k, path] of lines.entries()) {
			yield (0.2 * k) / lines.length;
			if (nested.depth[k] % 2 === 0) continue;
			const inside = lines.filter((_, j) => nested.parent[j] === k);
			const widest = widestPlace([path, ...inside], 1e-3);
			if (widest.radius >= width / 2) continue;
			if (radius > 0 && drilledMiddle(path, 2 * radius)) {
				tooWide.add(k);
				continue;
			}
			tooWide.add(k);
			faults.push({
				kind: 'too-wide',
				outline: closed[k],
				x: widest.x,
				y: widest.y,
				why: `The tool is ${mm(width)} mm wide and does not fit into this hole: the largest that does is ${mm(Math.floor(200 * widest.radius) / 100)} mm.`,
				mend: radius > 0 ? 'other-tool' : 'none',
				fits: Math.floor(200 * widest.radius) / 100,
				stops: true
			});
		}
	const wall = Math.max(question.wall ?? 0, question.kerf ?? 0);
	if (width > 0 || wall > 0)
		faults.push(...(yield* part(narrowFaults(lines, closed, width, wall, tooWide), 0.2, 0.6)));
	if (radius > 0) faults.push(...(yield* part(cornerFaults(lines, closed, radius, tooWide), 0.6, 1)));
	return faults;
}

/** How far a box goes beyond a sheet, mm; 0 or less: it lies on it. */
const beyond = (b: Box, sheet: SheetBox): number =>
	Math.max(sheet.x - b.x0, sheet.y - b.y0, b.x1 - sheet.x - sheet.width, b.y1 - sheet.y - sheet.height);

function offSheets(paths: readonly Path[], sheets: readonly SheetBox[]): Fault[] {
	return paths.flatMap((path, outline): Fault[] => {
		if (path.types.length === 0) return [];
		const b = pathBox(path);
		const sheet = sheets.reduce((a, s) => (beyond(b, s) < beyond(b, a) ? s : a));
		const over = beyond(b, sheet);
		if (!(over > 1e-6)) return [];
		// The place of it that lies farthest off.
		const points = flattenPath(path, 0.05);
		let at = { x: points[0], y: points[1] };
		let most = -Infinity;
		for (let i = 0; i < points.length; i += 2) {
			const [x, y] = [points[i], points[i + 1]];
			const off = Math.max(sheet.x - x, sheet.y - y, x - sheet.x - sheet.width, y - sheet.y - sheet.height);
			if (off > most) [most, at] = [off, { x, y }];
		}
		return [
			{
				kind: 'off-sheet',
				outline,
				...at,
				why: `This lies ${mm(over)} mm beyond the sheet: it could not be cut there.`,
				mend: b.x1 - b.x0 <= sheet.width && b.y1 - b.y0 <= sheet.height ? 'onto-sheet' : 'none',
				stops: true
			}
		];
	});
}

function* narrowFaults(
	lines: readonly Path[],
	closed: readonly number[],
	width: number,
	wall: number,
	leave: ReadonlySet<number>
): Generator<number, Fault[]> {
	const faults: Fault[] = [];
	let done = 0;
	for (const { neck, gap } of narrowOf(lines)) {
		yield done++ / Math.max(1, lines.length);
		if (neck && wall > 0 && neck.width < wall)
			faults.push({
				kind: 'thin-wall',
				outline: closed[neck.outline],
				...middle(neck),
				why: `The material is only ${mm(neck.width)} mm wide here: thinner than the ${mm(wall)} mm that should stay.`,
				mend: 'none',
				stops: false
			});
		if (gap && width > 0 && gap.width < width && !leave.has(gap.outline))
			faults.push({
				kind: 'tight-gap',
				outline: closed[gap.outline],
				...middle(gap),
				why: `Lines lie ${mm(gap.width)} mm apart here, and the tool is ${mm(width)} mm wide: it does not get through.`,
				mend: 'none',
				stops: false
			});
	}
	return faults;
}

function* cornerFaults(
	lines: readonly Path[],
	closed: readonly number[],
	radius: number,
	leave: ReadonlySet<number>
): Generator<number, Fault[]> {
	const settings = wholeSettings({
		tool: { kind: 'cutter', diameter: 2 * radius },
		side: 'outside',
		feed: 1,
		depth: 1
	});
	if (!settings.ok) return [];
	const faults: Fault[] = [];
	const groups = groupNear(lines.map(pathBox), 2 * radius);
	for (const [k, group] of groups.entries()) {
		const own = group.filter((i) => !leave.has(i));
		const named = own.map((i) => ({ path: lines[i], name: '' }));
		const ways = yield* part(
			compensateSteps(named, nestLines(named), settings.value),
			k / groups.length,
			(k + 1) / groups.length
		);
		// What is too near each other is told as a gap.
		if (!ways.ok) continue;
		const ofLine = new Map<number, { x: number; y: number; area: number; count: number }>();
		for (const way of ways.value)
			for (const { x, y, area } of uncutAlong(way, named[way.line].path, radius, 0.005)) {
				if (area < LEAST_CORNER) continue;
				const known = ofLine.get(way.line);
				const count = (known?.count ?? 0) + 1;
				ofLine.set(way.line, known && known.area >= area ? { ...known, count } : { x, y, area, count });
			}
		for (const [line, { x, y, area, count }] of ofLine)
			faults.push({
				kind: 'tight-corner',
				outline: closed[own[line]],
				x,
				y,
				why: `${count === 1 ? 'A corner is' : `${count} corners are`} tighter than the tool's radius of ${mm(radius)} mm: ${count === 1 ? 'it stays' : 'they stay'} round, here ${area < 0.1 ? area.toFixed(2) : area.toFixed(1)} mm² of it.`,
				mend: 'none',
				stops: false
			});
	}
	return faults;
}

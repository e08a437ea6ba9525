/** Jobs for a machine by chance: planned, written as a file, read by our own reader, and the tool followed against the lines. */
import { readGcode } from '../../src/lib/core/formats/gcode-read';
import { writeGcode } from '../../src/lib/core/formats/gcode-write';
import { readHpgl } from '../../src/lib/core/formats/hpgl-read';
import { writeHpgl } from '../../src/lib/core/formats/hpgl-write';
import {
	circlePath,
	polygonPath,
	reversePath,
	transformPath,
	type Path
} from '../../src/lib/core/geometry/path';
import { finish } from '../../src/lib/core/progress';
import { nestLines, type CutLine } from '../../src/lib/core/toolpath/compensate';
import { judge } from '../../src/lib/core/toolpath/judge';
import { planSteps, type Plan } from '../../src/lib/core/toolpath/plan';
import type { CutSettings } from '../../src/lib/core/toolpath/settings';
import { blob, type Chance, oneOf, placesRound } from '../shapes';

/** mm: more than this into what is kept is a failure. */
export const GOUGE = 0.01;
/** mm of the sheet for each piece. */
const CELL = 60;

/** An outline of a radius about a place, either way round. */
function outline(r: Chance, x: number, y: number, radius: number): Path {
	const turned = (path: Path): Path => {
		const a = r() * 6.28;
		const [c, s] = [Math.cos(a), Math.sin(a)];
		return transformPath(path, [c, s, -s, c, x, y]);
	};
	const kinds: (() => Path)[] = [
		() => turned(blob(oneOf(r, [6, 12, 30, 60]), 1 + Math.floor(r() * 1e6), radius * 0.7)),
		() => circlePath(x, y, radius * (0.3 + 0.7 * r())),
		() => {
			const [w, h] = [radius * (0.4 + 0.5 * r()), radius * (0.2 + 0.5 * r())];
			return turned(polygonPath([-w, -h, w, -h, w, h, -w, h]));
		},
		() => {
			const n = oneOf(r, [3, 5, 7, 12]);
			return turned(placesRound(2 * n, (i) => radius * (i % 2 ? 0.35 + 0.4 * r() : 0.95)));
		},
		() => {
			// A slot with a long narrow neck.
			const w = 0.3 + 3 * r();
			const [wide, low] = [radius, -radius * 0.5];
			const neck = [-wide, -4, -w, -4, -w, low, w, low, w, -4, wide, -4];
			return turned(polygonPath([...neck, wide * 0.8, wide * 0.4, -wide * 0.8, wide * 0.4]));
		}
	];
	const made = oneOf(r, kinds)();
	return r() < 0.5 ? made : reversePath(made);
}

export interface RandomJob {
	readonly lines: readonly CutLine[];
	readonly sheet: { readonly width: number; readonly height: number };
	readonly settings: CutSettings;
	/** Written without arcs. */
	readonly isStraight: boolean;
}

/** A few pieces on a sheet, some with holes and pieces in those, and a way to cut them that may be impossible. */
export function randomJob(r: Chance): RandomJob {
	const [across, up] = [1 + Math.floor(r() * 3), 1 + Math.floor(r() * 2)];
	const lines: CutLine[] = [];
	for (let i = 0; i < across; i++)
		for (let j = 0; j < up; j++) {
			const [x, y] = [CELL * (i + 0.5), CELL * (j + 0.5)];
			const radius = 12 + 14 * r();
			const name = `p${i}${j}`;
			lines.push({ path: outline(r, x, y, radius), name });
			// Holes where they surely lie inside, and in them sometimes a piece.
			if (r() >= 0.4) continue;
			const inner = 1 + 3 * r();
			lines[lines.length - 1] = { path: circlePath(x, y, radius), name };
			lines.push({ path: outline(r, x, y, radius * 0.6), name: `${name} hole` });
			if (r() >= 0.3) continue;
			lines[lines.length - 1] = { path: circlePath(x, y, radius * 0.7), name: `${name} hole` };
			lines.push({ path: circlePath(x, y, inner), name: `${name} inner` });
		}
	const kind = oneOf(r, ['cutter', 'cutter', 'cutter', 'beam', 'beam', 'knife'] as const);
	const depth = oneOf(r, [1, 3, 6, 18]);
	const tool =
		kind === 'cutter'
			? { kind, diameter: oneOf(r, [0.5, 1, 2, 3, 3.175, 6]) }
			: kind === 'beam'
				? { kind, kerf: oneOf(r, [0.05, 0.1, 0.2, 0.5]) }
				: { kind, offset: oneOf(r, [0.25, 0.45, 0.9]) };
	const usual = ['outside', 'outside', 'inside', 'on'] as const;
	const side =
		kind === 'knife' ? 'on' : kind === 'cutter' ? oneOf(r, [...usual, 'clear'] as const) : oneOf(r, usual);
	const maybe = <T>(share: number, value: () => T) => (r() < share ? value() : undefined);
	const settings = {
		tool,
		side,
		feed: oneOf(r, [300, 900, 3000]),
		plunge: oneOf(r, [100, 250]),
		depth: kind === 'cutter' ? depth : undefined,
		pass: kind === 'cutter' ? oneOf(r, [depth, depth / 2, 2]) : undefined,
		passes: kind === 'cutter' ? undefined : oneOf(r, [1, 1, 2]),
		safe: oneOf(r, [2, 5, 15]),
		speed: 12000,
		power: 500,
		way: oneOf(r, ['climb', 'conventional']),
		ramp: maybe(0.3, () => oneOf(r, [1, 3, 10, 30])),
		lead: maybe(0.4, () => oneOf(r, [0.5, 1, 3, 6])),
		leadKind: oneOf(r, ['arc', 'line']),
		overcut: maybe(0.3, () => oneOf(r, [0.5, 2])),
		tabs: maybe(0.3, () => ({
			...oneOf(r, [{ count: 3 }, { spacing: 25 }]),
			width: oneOf(r, [2, 5]),
			height: depth * 0.4
		})),
		relief: side === 'clear' ? 'none' : oneOf(r, ['none', 'none', 'none', 'corner', 'side']),
		step: oneOf(r, [0.3, 0.4, 0.45]),
		pattern: oneOf(r, ['turns', 'turns', 'lines']),
		angle: Math.round(180 * r()),
		rest: maybe(0.2, () => oneOf(r, [4, 8])),
		order: oneOf(r, ['short', 'short', 'small'])
	} as CutSettings;
	return {
		lines,
		sheet: { width: across * CELL, height: up * CELL },
		settings,
		isStraight: r() < 0.2
	};
}

/** What may be amiss with a job that was planned. */
export type Amiss =
	'fault in the file' | 'gouge' | 'rapid through material' | 'still' | 'out of order' | 'refused unnamed';

export interface JobTried {
	/** The code of the sentence with which it was refused. */
	readonly refused?: string;
	/** mm that the tool goes into what is kept, at most. */
	readonly gouge: number;
	readonly amiss: readonly { readonly what: Amiss; readonly more: string }[];
	readonly plan?: Plan;
}

/** Plans a job, writes it, reads it again and follows the tool. */
export function tryJob({ lines, sheet, settings, isStraight }: RandomJob): JobTried {
	const amiss: { what: Amiss; more: string }[] = [];
	const planned = finish(planSteps({ lines, sheet }, settings));
	if (!planned.ok) {
		const { code, sentence } = planned.problem;
		if (['offset-failed', 'unexpected'].includes(code))
			amiss.push({ what: 'refused unnamed', more: sentence });
		return { refused: code, gouge: 0, amiss };
	}
	const plan = planned.value;
	const { tool, side } = settings;
	const read =
		tool.kind === 'knife'
			? readHpgl(writeHpgl(plan.moves, 0.0025))
			: readGcode(writeGcode([{ moves: plan.moves, tool, speed: 12000 }], { arcs: !isStraight }));
	const [fault] = read.faults;
	if (fault) amiss.push({ what: 'fault in the file', more: `line ${fault.line}: ${fault.why}` });
	let gouge = 0;
	if (tool.kind === 'cutter' || tool.kind === 'beam') {
		const isCutter = tool.kind === 'cutter';
		const reach = isCutter ? tool.diameter / 2 : tool.kerf / 2;
		const judged = judge(
			read.moves,
			lines.map((l) => l.path),
			{ side: side === 'clear' ? 'inside' : side, reach, hasHeights: isCutter }
		);
		// Leads go off the line where it is cut on, and relief into the corners: they are followed for the rest alone.
		const isOff = settings.relief !== 'none' || (side === 'on' && settings.lead);
		if (!isOff) gouge = judged.gouge;
		const at = `at ${judged.at.x.toFixed(2)}, ${judged.at.y.toFixed(2)}`;
		if (gouge > GOUGE) amiss.push({ what: 'gouge', more: `${gouge.toFixed(4)} mm into what is kept ${at}` });
		if (judged.low) amiss.push({ what: 'rapid through material', more: `${judged.low} of them` });
		if (judged.still) amiss.push({ what: 'still', more: 'cuts with nothing turning' });
	}
	if (side !== 'clear') {
		const { parent } = nestLines(lines);
		const cutsOf = new Map<number, number[]>();
		plan.cuts.forEach((cut, i) => cutsOf.set(cut.line, [...(cutsOf.get(cut.line) ?? []), i]));
		for (const [line, cuts] of cutsOf) {
			const around = parent[line];
			if (around !== undefined && Math.max(...cuts) > Math.min(...(cutsOf.get(around) ?? [Infinity])))
				amiss.push({ what: 'out of order', more: `${lines[line].name} comes after what is around it` });
		}
	}
	return { gouge, amiss, plan };
}

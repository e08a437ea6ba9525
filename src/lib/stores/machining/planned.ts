/** A job and what it comes to, as it is shown. */
import type { Job } from '../../core/document/job';
import type { Problem } from '../../core/errors';
import { transformPath, type Path } from '../../core/geometry/path';
import type { Point } from '../../core/geometry/point';
import { drawnMoves } from '../../core/toolpath/drawn';
import type { Plan } from '../../core/toolpath/plan';
import type { JobInput, WorkSheet } from '../../core/toolpath/recipe';
import type { ShownCut } from '../../render/cutting';
import { widthAt } from '../../render/material';
import type { BroughtFile } from './brought-file.svelte';

/** A job and what it comes to. */
export interface Planned {
	readonly job: Job;
	readonly ids: readonly string[];
	readonly plan: Plan | undefined;
	readonly problem: Problem | undefined;
	/** As it is shown. */
	readonly shown: readonly ShownCut[];
	readonly travel: readonly Path[];
	readonly uncut: readonly ArrayLike<number>[];
}

/** What a plan depends on, to tell whether it still holds. */
export function keyOf({ input, settings }: JobInput, sheet: WorkSheet): string {
	const lines = input.lines.map(({ path, name }) => [
		name,
		path.closed,
		Array.from(path.segs),
		Array.from(path.types)
	]);
	return JSON.stringify([lines, input.points, input.sheet, settings, sheet]);
}

/** A plan as it is shown, moved to where the sheet lies. */
export function shownPlan(job: Job, { ids, input }: JobInput, plan: Plan, sheet: WorkSheet): Planned {
	const move = (p: Point) => ({ x: p.x + sheet.x, y: p.y + sheet.y });
	const drawn = drawnMoves(plan.moves, sheet.x, sheet.y);
	// A groove is as wide as what is drawn.
	const width = job.side === 'groove' ? 0 : widthAt(job.tool.tool, job.thickness);
	return {
		job,
		ids,
		plan,
		problem: undefined,
		shown: plan.cuts.map((cut, i) => {
			const lines = cut.way
				? [transformPath(cut.way, [1, 0, 0, 1, sheet.x, sheet.y])]
				: drawnMoves(
						{
							...plan.moves,
							start: [cut.start.x, cut.start.y, 0],
							kinds: plan.moves.kinds.subarray(cut.first, cut.end),
							to: plan.moves.to.subarray(3 * cut.first, 3 * cut.end),
							bulges: plan.moves.bulges.subarray(cut.first, cut.end),
							feeds: plan.moves.feeds.subarray(cut.first, cut.end),
							on: plan.moves.on.subarray(cut.first, cut.end),
							cuts: plan.moves.cuts.subarray(cut.first, cut.end)
						},
						sheet.x,
						sheet.y
					).cuts;
			return {
				lines,
				...(cut.way || cut.line < 0
					? {}
					: { around: transformPath(input.lines[cut.line].path, [1, 0, 0, 1, sheet.x, sheet.y]) }),
				start: move(cut.start),
				direction: cut.direction,
				tabs: cut.tabs.map(move),
				place: i + 1,
				width
			};
		}),
		travel: drawn.travel,
		uncut: plan.uncut.map(({ outline }) => outline.map((v, i) => v + (i % 2 ? sheet.y : sheet.x)))
	};
}

/** A file's lines as one cut. */
export const shownFile = ({ cuts }: BroughtFile): ShownCut => ({
	lines: cuts,
	start: { x: cuts[0]?.segs[0] ?? 0, y: cuts[0]?.segs[1] ?? 0 },
	direction: { x: 1, y: 0 },
	tabs: [],
	place: 1,
	width: 0
});

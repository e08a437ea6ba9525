/**
 * The table of work that takes long: each a generator that yields how far it has come (0 to 1) and can be left at any of its
 * steps. A worker runs them by name; new work is a line here.
 */
import {
	layOnSheetsSteps,
	type Arranged,
	type ArrangeNews,
	type ArrangePiece,
	type ArrangeSettings,
	type ArrangeSheet
} from '../arrange/arrange';
import '../document/recipes/reckonings';
import { mendAllSteps } from '../check/mend-all';
import { narrowSteps, type NarrowPlaces } from '../check/narrow';
import { faultSteps, type CheckOptions } from '../check/readiness';
import type { Drawing } from '../document/drawing';
import type { InputLine } from '../document/recipes/recipe-type';
import { RECIPES, type RecipeKind, type RecipeSettings } from '../document/recipes/recipes';
import { helpfulDriftSteps, lineSteps, type LineOptions } from '../fairing/lines';
import { simplifyCurve, simplifySteps } from '../fairing/simplify';
import { deviationFrom, type Deviation, type Worst } from '../geometry/deviation';
import { twoWayDistance } from '../geometry/edge-tree';
import { factSteps } from '../geometry/facts';
import type { Path } from '../geometry/path';
import type { CombineInput, CombineOp } from '../plane/area';
import { combineSteps } from '../plane/combine';
import { offsetStepsWork, type StepOptions } from '../plane/offset-steps';
import type { Result } from '../errors';
import { readLinesSteps } from '../formats/formats';
import type { Imported } from '../formats/imported';
import { resolvedSteps } from '../formats/solids';
import { part } from '../progress';
import { cutComparedSteps } from '../toolpath/judge';
import { planSteps, type CutInput } from '../toolpath/plan';
import { layOnSteps } from '../toolpath/scanned';
import type { CutSettings } from '../toolpath/settings';
import { toolFaultSteps, type ToolQuestion } from '../toolpath/tool-faults';

/** One point of the chart of anchors against drift. */
export interface ChartPoint {
	readonly tolerance: number;
	readonly anchors: number;
	readonly drift: number;
}

/** How far a line lies from another all along it, and where the two lie farthest apart, either way. */
export interface Compared {
	readonly deviation: Deviation;
	readonly worst: Worst;
}

/** The same work on each of several things. */
function* each<A, T>(list: readonly A[], work: (one: A) => Generator<number, T>): Generator<number, T[]> {
	const out: T[] = [];
	for (const [i, one] of list.entries())
		out.push(yield* part(work(one), i / list.length, (i + 1) / list.length));
	return out;
}

function* compared(
	{ path, other }: { readonly path: Path; readonly other: Path },
	step: number
): Generator<number, Compared> {
	yield 0;
	const { distance: off, x, y } = twoWayDistance([path], [other], step / 20, step);
	yield 0.5;
	return { deviation: deviationFrom(path, other, step, step / 20), worst: { x, y, off } };
}

/** A file of lines read, its crossing lines resolved. */
function* opened(bytes: Uint8Array, name: string): Generator<number, Result<Imported>> {
	const read = yield* part(readLinesSteps(bytes, name), 0, 0.6);
	if (!read.ok) return read;
	return { ok: true, value: yield* part(resolvedSteps(read.value), 0.6, 1) };
}

export const WORK = {
	/** Lines made anew, each whole or on a stretch of it. */
	line: (paths: Path[], options: LineOptions, stretch: { from: number; to: number } | undefined) =>
		each(paths, (path) => lineSteps(path, options, stretch)),
	/** The drift that would help where one does not. */
	helpful: (paths: Path[], options: LineOptions, stretch: { from: number; to: number } | undefined) =>
		helpfulDriftSteps(paths, options, stretch),
	simplify: (paths: Path[], tolerance: number) => each(paths, (path) => simplifySteps(path, tolerance)),
	/** Anchors against drift; the points so far are told as they come. */
	*chart(paths: Path[], tolerances: number[]): Generator<readonly ChartPoint[], readonly ChartPoint[]> {
		let points: readonly ChartPoint[] = [];
		for (const point of simplifyCurve(paths, tolerances)) {
			if (point) points = [...points, point];
			yield points;
		}
		return points;
	},
	offset: (paths: Path[], options: StepOptions) => offsetStepsWork(paths, options),
	combine: (inputs: CombineInput[], op: CombineOp) => combineSteps(inputs, op, { verify: true }),
	check: (paths: Path[], options: CheckOptions = {}) => faultSteps(paths, options),
	/** What is told of lines that are picked. */
	facts: (paths: Path[]) => factSteps(paths),
	/** Mends all that can be; new records get ids of their own. */
	mend: (drawing: Drawing) => mendAllSteps(drawing, () => crypto.randomUUID()),
	open: opened,
	/** How far lines lie from others all along them, at places at most `step` mm apart. */
	compare: (pairs: { readonly path: Path; readonly other: Path }[], step: number) =>
		each(pairs, (pair) => compared(pair, step)),
	/** What a tool and the sheet make of lines. */
	toolFaults: (paths: Path[], question: ToolQuestion) => toolFaultSteps(paths, question),
	/** The narrowest neck and gap of closed outlines. */
	narrow: (paths: Path[]): Generator<number, NarrowPlaces> => narrowSteps(paths),
	/** The moves of a job. */
	plan: (input: CutInput, settings: CutSettings) => planSteps(input, settings),
	/** Pieces laid on sheets; it looks at so many places. */
	arrange: (
		pieces: readonly ArrangePiece[],
		sheets: readonly ArrangeSheet[],
		{ most, ...settings }: Omit<ArrangeSettings, 'share'> & { readonly most: number }
	): Generator<ArrangeNews, Arranged> =>
		layOnSheetsSteps(pieces, sheets, { ...settings, share: (looks) => looks / most }),
	/** A scanned piece laid on its drawing. */
	layOn: (scanned: Path[], drawn: Path[]) => layOnSteps(scanned, drawn),
	/** What a machine cut, against what it was told and what is drawn. */
	cutCompared: cutComparedSteps,
	/** What a recipe gives of its inputs. */
	make: <K extends RecipeKind>(kind: K, inputs: InputLine[], settings: RecipeSettings[K]) =>
		RECIPES[kind].resolve(inputs, settings)
} as const;

export type WorkName = keyof typeof WORK;
export type WorkArguments<N extends WorkName> = Parameters<(typeof WORK)[N]>;
/** What the work gives in the end. */
export type WorkValue<N extends WorkName> =
	ReturnType<(typeof WORK)[N]> extends Generator<unknown, infer T> ? T : never;
/** What it yields on the way. */
export type WorkProgress<N extends WorkName> =
	ReturnType<(typeof WORK)[N]> extends Generator<infer P, unknown> ? P : never;

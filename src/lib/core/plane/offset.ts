/**
 * Outlines moved sideways. The raw parallel (`offset-raw.ts`) winds around everything within the distance; the outline
 * of what it winds around (`combine.ts`) is the offset, and is then made of few curves (`refit.ts`).
 */
import { CoreError, done, failed, type Result } from '../errors';
import { TOLERANCE } from '../tolerance';
import { withPlainStraights } from './segment-set';
import { finish, part, within } from '../progress';
import { coveredSteps } from './combine';
import { pathCrossings } from './crossings';
import { checkOffset } from './offset-check';
import { EdgeTree, flattenPath, pathTree } from '../geometry/edge-tree';
import { isEmptyBox, pathArea, pathBox, unionBox, windingNumber } from '../geometry/measure';
import { rawParallelSteps, type RawOptions } from './offset-raw';
import { polygonPath, reversePath, type Path } from '../geometry/path';
import type { JoinKind } from './offset-strips';
import { cleanPolygons, offsetPolygons } from './polygon-clipper';
import { refit } from '../fit/refit';
import { curvesThroughPolygon } from '../fit/by-reach';
import { mergeStraights } from '../geometry/straights';

export interface OffsetOptions {
	/** mm. Positive grows closed pieces, negative shrinks them. */
	readonly distance: number;
	readonly join: JoinKind;
	/** How far a mitred corner may reach, in distances. Longer ones are bevelled. */
	readonly miterLimit?: number;
	/** mm, > 0. Largest distance from the true offset. */
	readonly tolerance?: number;
	/** Called when a result stands and only its check is left. */
	readonly made?: () => void;
	/** Hold the result against an independent reckoning (default). Without it `error` is 0. */
	readonly verify?: boolean;
}

export interface OffsetResult {
	/** Closed outlines, solids anticlockwise, holes clockwise. */
	readonly paths: Path[];
	/** The largest error found by the check, mm. */
	readonly error: number;
	/** Whether the polygon net had to serve. */
	readonly fallback: boolean;
}

/**
 * The region of the closed paths (even-odd: an outline inside another is its hole) grown or shrunk by a distance.
 * Open paths are refused.
 *
 * @returns the outlines, or `nothing-left` with the largest distance that leaves something, `open-outline`,
 * `bad-distance`.
 */
export function offsetPieces(sources: readonly Path[], options: OffsetOptions): Result<OffsetResult> {
	return finish(offsetPiecesSteps(sources, options));
}

/** The same, telling how far it has come (0 to 1). */
export function* offsetPiecesSteps(
	sources: readonly Path[],
	options: OffsetOptions
): Generator<number, Result<OffsetResult>> {
	const { distance, join } = options;
	const miterLimit = options.miterLimit ?? 4;
	const tolerance = options.tolerance ?? TOLERANCE.fit;
	if (!(Math.abs(distance) > 0) || !Number.isFinite(distance)) {
		return failed('bad-distance', 'The distance must be a number other than 0 mm.');
	}
	if (!(tolerance > 0)) return failed('bad-tolerance', 'The tolerance must be above 0 mm.');
	if (!(miterLimit >= 1)) return failed('bad-limit', 'The limit for mitred corners must be 1 or more.');
	if (sources.some((path) => !path.closed)) {
		return failed('open-outline', 'An open outline has no inside to grow or shrink. Close it first.');
	}
	let paths: Path[];
	try {
		paths = (yield* part(coveredSteps(sources, 'evenodd'), 0, 0.2)).map(withPlainStraights);
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
		paths = cleanPolygons(sources, tolerance / 8).map((points) => polygonPath(points));
	}
	if (paths.length === 0) return failed('nothing-given', 'There is no closed outline to offset.');
	const check = (result: readonly Path[]) =>
		checkOffset(result, paths, distance, join, miterLimit, tolerance);
	for (const { trim, nudge, share } of ATTEMPTS) {
		const near = Math.abs(distance) + nudge * tolerance;
		const exact = yield* part(
			offsetExactly(
				paths,
				{ distance: near, join, miterLimit, tolerance: share * tolerance, trim },
				distance < 0
			),
			0.2,
			0.8
		);
		if (!exact?.length) continue;
		options.made?.();
		if (options.verify === false) return done({ paths: exact, error: 0, fallback: false });
		const { ok, error } = yield* part(check(exact), 0.8, 0.85);
		if (ok) return done({ paths: exact, error, fallback: false });
	}
	yield 0.85;
	if (distance < 0) {
		const widest = widestInside(paths, tolerance);
		if (widest <= -distance + tolerance / 2) {
			const most = Math.floor((widest - tolerance) * 100) / 100;
			return failed(
				'nothing-left',
				`Nothing is left of it ${-distance} mm inside. The largest distance that leaves something is ${Math.max(0, most)} mm.`
			);
		}
	}
	yield 0.9;
	const made = offsetPolygons(paths, distance, join, miterLimit, tolerance / 4).map((points) =>
		polygonPath(points)
	);
	const polygons = made.length > 1 ? withoutLeavings(made, paths, distance, tolerance) : made;
	if (polygons.length === 0)
		return failed('nothing-left', 'Nothing is left at this distance. Use a smaller one.');
	// With curves fitted back where they pass the check, otherwise as the polygons they are.
	for (const net of [polygons.map((polygon) => curvesThroughPolygon(polygon, tolerance / 3)), polygons]) {
		const { ok, error } = yield* part(check(net), 0.9, 1);
		if (ok) return done({ paths: net, error, fallback: true });
	}
	return failed(
		'offset-failed',
		'This offset could not be made reliably. Simplify the outline and try again.'
	);
}

/**
 * Where curves fitted as loosely as the tolerance lets them add up to more than it, they are
 * fitted closer. Where lines lie so close together that their order cannot be told, a distance a hair beside the asked one
 * (in tolerances) tells them apart; where trimming went astray, all overlaps are left to be sorted out by winding.
 */
const ATTEMPTS = [
	{ trim: true, nudge: 0, share: 1 },
	{ trim: true, nudge: 0, share: 0.4 },
	{ trim: true, nudge: 0.02, share: 1 },
	{ trim: false, nudge: 0, share: 0.4 },
	{ trim: true, nudge: -0.03, share: 0.4 },
	{ trim: false, nudge: 0.04, share: 0.4 }
] as const;

/** The exact way; undefined where the order of lines could not be told. */
function* offsetExactly(
	paths: readonly Path[],
	options: RawOptions,
	inward: boolean
): Generator<number, Path[] | undefined> {
	const { tolerance } = options;
	const raw: Path[] = [];
	for (const path of paths)
		raw.push(
			yield* within(
				rawParallelSteps(inward ? reversePath(path) : path, { ...options, tolerance: tolerance / 8 }),
				() => 0
			)
		);
	try {
		// Outside, what is wound at all is within reach; inside, what stays wound backward has not been reached.
		const outlines = yield* part(coveredSteps(raw, inward ? 'negative' : 'positive'), 0, 0.6);
		const reach = inward ? -options.distance : options.distance;
		const whole = withoutLeavings(outlines, paths, reach, tolerance, LEAVING * tolerance);
		const light: Path[] = [];
		for (const [i, path] of whole.entries()) {
			yield 0.6 + (0.4 * i) / whole.length;
			light.push(lighten(mergeStraights(path), tolerance));
		}
		return light;
	} catch (error) {
		if (error instanceof CoreError) return undefined;
		throw error;
	}
}

/** Few curves for a raw outline; finer ones where coarse ones would cross beside a sharp place. */
function lighten(path: Path, tolerance: number): Path {
	for (const share of [0.6, 0.3, 0.1]) {
		const light = refit(path, { tolerance: share * tolerance, keepLength: KEEP * tolerance });
		if (!pathCrossings([light], 'self').some((c) => c.through)) return light;
	}
	return path;
}

/** In tolerances: loops up to this size may be leavings. */
const LEAVING = 400;
/** In tolerances: straights and arcs from this length on stay what they are. */
const KEEP = 80;

/** The pieces of an offset that are no leavings; those larger than `most` mm are none. */
function withoutLeavings(
	pieces: readonly Path[],
	paths: readonly Path[],
	distance: number,
	tolerance: number,
	most = Infinity
): Path[] {
	let tree: EdgeTree | undefined;
	return pieces.filter((path) => {
		const box = pathBox(path);
		if (Math.max(box.x1 - box.x0, box.y1 - box.y0) > most) return true;
		tree ??= pathTree(paths, Math.min(tolerance / 8, TOLERANCE.measure));
		return !isLeaving(path, Math.abs(distance), distance < 0, tolerance, tree);
	});
}

/**
 * Whether a small loop is only what the tolerance left: its middle, too, lies just at the distance, while that of a real
 * outline or hole lies clearly nearer or farther. What has not been reached, a hole outside or a piece inside, lies
 * farther than the distance, or it is none.
 */
function isLeaving(
	path: Path,
	distance: number,
	inward: boolean,
	tolerance: number,
	tree: EdgeTree
): boolean {
	const area = pathArea(path);
	if (Math.abs(area) <= tolerance * tolerance) return true;
	const flat = flattenPath(path, tolerance);
	let x = 0;
	let y = 0;
	for (let i = 0; i < flat.length; i += 2) {
		x += flat[i];
		y += flat[i + 1];
	}
	const n = flat.length / 2;
	const beyond = tree.distance(x / n, y / n) - distance;
	return Math.abs(beyond) < 2 * tolerance || (beyond < 0 && (inward ? area > 0 : area < 0));
}

/**
 * The radius of the largest circle that fits inside the pieces (even-odd), mm, to within `precision`: the distance
 * at which the last of an inward offset vanishes.
 * Method: best-first search over squares, the distance at the middle plus half a diagonal as the bound.
 */
export const widestInside = (paths: readonly Path[], precision: number): number =>
	widestPlace(paths, precision).radius;

/** The same with the circle's middle. */
export function widestPlace(
	paths: readonly Path[],
	precision: number
): { readonly radius: number; readonly x: number; readonly y: number } {
	const box = unionBox(paths.map(pathBox));
	if (isEmptyBox(box)) return { radius: 0, x: 0, y: 0 };
	const flat = paths.map((path) => flattenPath(path, precision / 2));
	const tree = new EdgeTree(flat.map((points) => ({ points, closed: true })));
	const signed = (x: number, y: number) => {
		let winding = 0;
		for (const points of flat) winding += windingNumber(points, x, y) % 2;
		return winding % 2 !== 0 ? tree.distance(x, y) : -tree.distance(x, y);
	};
	const size = Math.max(1e-9, Math.min(box.x1 - box.x0, box.y1 - box.y0));
	interface Cell {
		x: number;
		y: number;
		half: number;
		most: number;
	}
	const cells: Cell[] = [];
	let best = 0;
	let at = { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 };
	const add = (x: number, y: number, half: number) => {
		const here = signed(x, y);
		if (here > best) [best, at] = [here, { x, y }];
		const most = here + half * Math.SQRT2;
		if (most <= best + precision) return;
		// Kept in order by insertion: the most promising last.
		let k = cells.length;
		while (k > 0 && cells[k - 1].most > most) k--;
		cells.splice(k, 0, { x, y, half, most });
	};
	const half = size / 2;
	for (let x = box.x0 + half; x < box.x1 + half; x += size) {
		for (let y = box.y0 + half; y < box.y1 + half; y += size) add(x, y, half);
	}
	for (let step = 0; step < 20_000; step++) {
		const cell = cells.pop();
		if (!cell || cell.most <= best + precision) break;
		const h = cell.half / 2;
		for (const [i, j] of [
			[-1, -1],
			[1, -1],
			[-1, 1],
			[1, 1]
		])
			add(cell.x + i * h, cell.y + j * h, h);
	}
	return { radius: best, ...at };
}

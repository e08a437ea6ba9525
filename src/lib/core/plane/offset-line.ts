/** Offsets of open lines: outlines around them, parallels to one side, bands; and the width of any line as its outline. */
import { CoreError, done, failed, unwrap, type Result } from '../errors';
import { TOLERANCE } from '../tolerance';
import { finish, part } from '../progress';
import { combine, coveredSteps } from './combine';
import { pathTree, type EdgeTree } from '../geometry/edge-tree';
import { offsetPieces } from './offset';
import { rawParallel, rawSide, type EndKind } from './offset-raw';
import type { JoinKind } from './offset-strips';
import { PathBuilder, reversePath, STRIDE, type Path } from '../geometry/path';
import { refit } from '../fit/refit';
import { mergeStraights } from '../geometry/straights';
import { pointAt } from '../geometry/segment';

export interface LineOffsetOptions {
	/** mm, > 0. */
	readonly distance: number;
	readonly join: JoinKind;
	readonly miterLimit?: number;
	/** What the ends of an outline on both sides become. */
	readonly ends?: EndKind;
	/** Left and right of the direction of travel. */
	readonly side?: 'left' | 'right' | 'both';
	/** On one side: the closed band between the line and its parallel instead of the parallel alone. */
	readonly band?: boolean;
	/** mm, > 0. */
	readonly tolerance?: number;
}

export interface LineOffset {
	/** Closed outlines, or open parallels. */
	readonly paths: Path[];
	/** The largest error found by the check, mm. */
	readonly error: number;
}

/**
 * Offsets one open line. On both sides the result is the closed outline around it; on one side an open parallel (several
 * where it is cut up), or with `band` the closed outline between the line and its parallel.
 *
 * @returns the outlines, or `bad-distance`, `closed-outline`, `offset-failed`.
 */
export function offsetLine(line: Path, options: LineOffsetOptions): Result<LineOffset> {
	return finish(offsetLineSteps(line, options));
}

/** The same, telling how far it has come (0 to 1). */
export function* offsetLineSteps(
	line: Path,
	options: LineOffsetOptions
): Generator<number, Result<LineOffset>> {
	const { distance, join, side = 'both' } = options;
	const tolerance = options.tolerance ?? TOLERANCE.fit;
	const miterLimit = options.miterLimit ?? 4;
	if (!(distance > 0) || !Number.isFinite(distance)) {
		return failed(
			'bad-distance',
			'The distance for an open line must be above 0 mm; choose the side instead of a sign.'
		);
	}
	if (line.closed)
		return failed('closed-outline', 'This outline is closed: it has an inside and an outside, no ends.');
	if (line.types.length === 0) return failed('nothing-given', 'There is no line to offset.');
	const raws = { distance, join, miterLimit, tolerance: tolerance / 8, trim: false };
	const tree = pathTree([line], Math.min(tolerance / 8, TOLERANCE.measure));
	try {
		let raw: Path[];
		if (side === 'both') raw = [rawParallel(doubled(line), { ...raws, ends: options.ends ?? 'round' })];
		else raw = [rawSide(side === 'right' ? line : reversePath(line), raws)];
		const light = (yield* part(coveredSteps(raw, 'positive'), 0, 0.7)).map((path) =>
			refit(mergeStraights(path), { tolerance: 0.6 * tolerance, keepLength: 80 * tolerance })
		);
		const paths =
			side === 'both' || options.band ? light : light.flatMap((p) => farRuns(p, tree, distance, tolerance));
		yield 0.9;
		const error = lineError(paths, line, tree, options, tolerance);
		if (!(error <= 1.2 * tolerance)) {
			return failed('offset-failed', 'This line could not be offset reliably. Simplify it and try again.');
		}
		if (paths.length === 0) {
			return failed('nothing-left', 'Nothing is left of the parallel at this distance. Use a smaller one.');
		}
		return done({ paths, error });
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
		return failed('offset-failed', 'This line could not be offset reliably. Simplify it and try again.');
	}
}

/** There and back again as a closed path, so that its outside lies on both sides of the line. */
function doubled(line: Path): Path {
	const back = reversePath(line);
	const n = line.types.length;
	const types = new Uint8Array(2 * n);
	const segs = new Float64Array(2 * STRIDE * n);
	types.set(line.types);
	types.set(back.types, n);
	segs.set(line.segs);
	segs.set(back.segs, STRIDE * n);
	return { closed: true, types, segs };
}

/** The open runs of a closed outline that lie at the distance from the line. */
function farRuns(path: Path, tree: EdgeTree, distance: number, tolerance: number): Path[] {
	const n = path.types.length;
	const isFar = Array.from(path.types, (type, i) =>
		[0.02, 0.5, 0.98].every((t) => {
			const p = pointAt(type, path.segs, STRIDE * i, t);
			return tree.distance(p.x, p.y) >= distance - 2 * tolerance;
		})
	);
	const start = isFar.findIndex((far, i) => far && !isFar[(i + n - 1) % n]);
	if (start < 0) return isFar[0] ? [path] : [];
	const out: Path[] = [];
	let builder: PathBuilder | undefined;
	for (let k = 0; k < n; k++) {
		const i = (start + k) % n;
		if (!isFar[i]) {
			if (builder) out.push(builder.open());
			builder = undefined;
			continue;
		}
		builder ??= new PathBuilder(path.segs[STRIDE * i], path.segs[STRIDE * i + 1]);
		builder.segment(path.types[i], path.segs, STRIDE * i);
	}
	if (builder) out.push(builder.open());
	return out;
}

/** How far the result strays from the distance, corners and ends left out where they are not round. */
function lineError(
	paths: readonly Path[],
	line: Path,
	tree: EdgeTree,
	options: LineOffsetOptions,
	tolerance: number
): number {
	const { distance: d, join } = options;
	const s = line.segs;
	const e = s.length - 2;
	const nearEnd = (x: number, y: number) =>
		Math.min(Math.hypot(x - s[0], y - s[1]), Math.hypot(x - s[e], y - s[e + 1])) < 1.5 * d;
	let error = 0;
	for (const path of paths) {
		for (let i = 0; i < path.types.length; i++) {
			for (let k = 0; k <= 8; k++) {
				const { x, y } = pointAt(path.types[i], path.segs, STRIDE * i, k / 8);
				const off = tree.distance(x, y) - d;
				if (off < -1.2 * tolerance && (options.band || nearEnd(x, y) || join === 'bevel')) continue;
				if (off > 0 && ((join === 'miter' && off < 20 * d) || (options.ends === 'square' && nearEnd(x, y))))
					continue;
				error = Math.max(error, Math.abs(off));
			}
		}
	}
	return error;
}

/**
 * A line of a given width as its own outline: open lines get ends, closed ones become a ring.
 *
 * @param width mm, > 0, the whole width.
 * @returns closed outlines, or `bad-width`, `offset-failed`.
 */
export function lineToOutline(
	line: Path,
	width: number,
	join: JoinKind = 'round',
	ends: EndKind = 'butt',
	tolerance: number = TOLERANCE.fit
): Result<LineOffset> {
	if (!(width > 0) || !Number.isFinite(width)) return failed('bad-width', 'The width must be above 0 mm.');
	if (!line.closed) return offsetLine(line, { distance: width / 2, join, ends, tolerance });
	const outer = offsetPieces([line], { distance: width / 2, join, tolerance });
	if (!outer.ok) return outer;
	const inner = offsetPieces([line], { distance: -width / 2, join, tolerance });
	if (!inner.ok && inner.problem.code !== 'nothing-left') return inner;
	if (!inner.ok) return done({ paths: outer.value.paths, error: outer.value.error });
	const ring = unwrap(
		combine(
			[[{ paths: outer.value.paths, rule: 'nonzero' }], [{ paths: inner.value.paths, rule: 'nonzero' }]],
			'difference'
		)
	);
	return done({
		paths: ring.pieces.flatMap((piece) => piece.paths),
		error: Math.max(outer.value.error, inner.value.error)
	});
}

/** Holds a combination against reckonings that use none of the code that made it. */
import type { CombinedPiece, CombineInput, CombineOp } from './area';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { polygonArea, windingNumber } from '../geometry/measure';
import { finish } from '../progress';
import type { Path } from '../geometry/path';
import { combinePolygons } from './polygon-clipper';
import { WindingRows } from './winding-rows';

/** Flattening for the check, mm. */
const FINE = 2e-4;
/** Places at which inside and outside are compared. */
const PLACES = 600;

/**
 * Compares, at places spread over the drawing and close beside the lines, whether the result covers what the rule says
 * by the windings of the inputs; the areas with those of a polygon clipper; and how far the result's line strays from
 * the inputs' lines.
 *
 * @param allowed mm: how far the result's line may lie from the inputs' (0.00001 unless curves were fitted back).
 */
export function checkCombined(
	inputs: readonly CombineInput[],
	op: CombineOp,
	pieces: readonly CombinedPiece[],
	allowed = 1e-5
): { ok: boolean; error: number } {
	return finish(checkCombinedSteps(inputs, op, pieces, allowed));
}

/** Points or places between two looks at whether to go on. */
const STEP = 500;

/** The same, telling how far it has come (0 to 1). */
export function* checkCombinedSteps(
	inputs: readonly CombineInput[],
	op: CombineOp,
	pieces: readonly CombinedPiece[],
	allowed = 1e-5
): Generator<number, { ok: boolean; error: number }> {
	const flatten = (path: Path) => flattenPath(path, FINE);
	const flat = inputs.map((input) =>
		input.map((area) => {
			const points = area.paths.map(flatten);
			return { rule: area.rule, points, box: boxOf(points), rows: undefined as WindingRows | undefined };
		})
	);
	const lines = flat.flatMap((input) => input.flatMap((area) => area.points));
	const results = pieces.map((piece) => {
		const points = piece.paths.map(flatten);
		return { points, box: boxOf(points), inputs: piece.inputs, rows: undefined as WindingRows | undefined };
	});
	const tree = new EdgeTree(lines.map((points) => ({ points, closed: true })));
	let error = 0;
	let length = 0;
	yield 0.2;
	for (const [k, piece] of results.entries()) {
		for (const points of piece.points) {
			const n = points.length;
			const step = 2 * Math.max(1, Math.floor(n / 2 / 2000));
			for (let i = 0; i < n; i += 2) {
				if (i % (2 * STEP) === 0) yield 0.2 + (0.2 * k) / results.length;
				const j = (i + 2) % n;
				length += Math.hypot(points[j] - points[i], points[j + 1] - points[i + 1]);
				if (i % step === 0) error = Math.max(error, tree.distance(points[i], points[i + 1]));
			}
		}
	}
	// Flattening both lines by FINE is no error of the result.
	error = Math.max(0, error - 2 * FINE);
	if (error > allowed) return { ok: false, error };
	const isIn = (x: number, y: number) => {
		let count = 0;
		let first = false;
		const list: number[] = [];
		flat.forEach((input, i) => {
			const covered = input.some((area) => {
				const w = windingAt(area, x, y);
				return area.rule === 'evenodd'
					? w % 2 !== 0
					: area.rule === 'nonzero'
						? w !== 0
						: area.rule === 'positive'
							? w > 0
							: w < 0;
			});
			if (!covered) return;
			count++;
			list.push(i);
			if (i === 0) first = true;
		});
		const total = inputs.length;
		const yes =
			op === 'union' || op === 'regions'
				? count > 0
				: op === 'intersection'
					? count === total
					: op === 'difference'
						? first && count === 1
						: count % 2 === 1;
		return { yes, list };
	};
	const box = boxOf(lines);
	const band = 2 * FINE + allowed;
	const agrees = (x: number, y: number) => {
		if (tree.distance(x, y) < band) return true;
		const { yes, list } = isIn(x, y);
		const there = results.filter((piece) => windingAt(piece, x, y) % 2 !== 0);
		if (there.length > 1) return false;
		if (yes !== there.length > 0) return false;
		return op !== 'regions' || !yes || there[0].inputs.join() === list.join();
	};
	// Evenly scattered places (additive recurrence of the plastic number), then places beside the lines.
	for (let k = 1; k <= PLACES; k++) {
		if (k % (STEP / 10) === 0) yield 0.4 + (0.2 * k) / PLACES;
		const x = box[0] + (box[2] - box[0]) * ((0.5 + k * 0.7548776662466927) % 1);
		const y = box[1] + (box[3] - box[1]) * ((0.5 + k * 0.5698402909980532) % 1);
		if (!agrees(x, y)) return { ok: false, error };
	}
	let every = 0;
	for (const points of lines) every += points.length / 2;
	const stride = Math.max(1, Math.floor(every / PLACES));
	let at = 0;
	for (const points of lines) {
		const n = points.length;
		for (let i = 0; i < n; i += 2) {
			if (at++ % stride) continue;
			if ((at / stride) % (STEP / 10) < 1) yield 0.6 + (0.2 * at) / every;
			const j = (i + 2) % n;
			const dx = points[j] - points[i];
			const dy = points[j + 1] - points[i + 1];
			const size = Math.hypot(dx, dy) || 1;
			const side = (at & 1 ? 3 : -3) * band;
			const x = (points[i] + points[j]) / 2 - (dy / size) * side;
			const y = (points[i + 1] + points[j + 1]) / 2 + (dx / size) * side;
			if (!agrees(x, y)) return { ok: false, error };
		}
	}
	if (op === 'regions') return { ok: true, error };
	yield 0.8;
	let wanted = 0;
	for (const p of combinePolygons(inputs, op, FINE)) wanted += polygonArea(p);
	let got = 0;
	for (const { points } of results) for (const p of points) got += polygonArea(p);
	let inputLength = 0;
	for (const points of lines)
		for (let i = 0, n = points.length; i < n; i += 2)
			inputLength += Math.hypot(points[(i + 2) % n] - points[i], points[(i + 3) % n] - points[i + 1]);
	return { ok: Math.abs(wanted - got) <= band * (length + inputLength) + 1e-6, error };
}

type FlatBox = readonly [x0: number, y0: number, x1: number, y1: number];

function boxOf(lines: readonly Float64Array[]): FlatBox {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const points of lines) {
		for (let i = 0; i < points.length; i += 2) {
			x0 = Math.min(x0, points[i]);
			y0 = Math.min(y0, points[i + 1]);
			x1 = Math.max(x1, points[i]);
			y1 = Math.max(y1, points[i + 1]);
		}
	}
	return [x0, y0, x1, y1];
}

/** The winding of one area's lines; its rows are made when first asked for, and only for many points. */
function windingAt(
	area: { readonly points: readonly Float64Array[]; readonly box: FlatBox; rows: WindingRows | undefined },
	x: number,
	y: number
): number {
	const { box, points } = area;
	if (x < box[0] || x > box[2] || y < box[1] || y > box[3]) return 0;
	if (points.length === 1 && points[0].length < 400) return windingNumber(points[0], x, y);
	area.rows ??= new WindingRows(points);
	return area.rows.at(x, y);
}

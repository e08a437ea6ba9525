/** From what a file says to plain outlines: fill rules settled, pieces grouped. */
import Flatbush from 'flatbush';
import type { Purpose } from '../document/purpose';
import { flattenPath } from '../geometry/edge-tree';
import { pathBox, windingNumber } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { groupPieces } from '../plane/pieces';
import { pathCrossings } from '../plane/crossings';
import { coveredOutlines } from '../plane/combine';
import { CoreError } from '../errors';
import type { Imported, Shape } from './imported';

/**
 * The closed paths of a shape that bound its area by the even-odd rule. Lines that cross themselves or each other are resolved
 * by the shape's own rule, so that its area stays what the file says; under the non-zero rule an outline inside another that
 * does not change whether its place is covered bounds nothing.
 */
export function boundingPaths(shape: Shape): Path[] {
	const closed = shape.paths.filter((path) => path.closed && path.types.length > 0);
	const covered = () => told(() => coveredOutlines(closed, shape.fillRule));
	const isCrossed = told(() => pathCrossings(closed).some((c) => c.through));
	return (isCrossed ? covered() : undefined) ?? uncrossed(closed, shape) ?? covered() ?? closed;
}

/** What work gives; undefined where it cannot be told. */
function told<T>(work: () => T): T | undefined {
	try {
		return work();
	} catch (error) {
		if (error instanceof CoreError) return undefined;
		throw error;
	}
}

/** So many places of a line are looked at, spread along it. */
const LOOKED_AT = 9;
/** mm: how far to either side of a line it is looked, and how closely curves are followed by what is looked at. */
const ASIDE = 1e-4;
const FLAT = 0.005;

/**
 * The outlines that bound something where none crosses another: those with a covered side and one that is not. Outlines that only
 * touch along an edge stay as they are; undefined where one runs along another inside of it, so that what they cover must be found.
 */
function uncrossed(closed: Path[], shape: Shape): Path[] | undefined {
	if (closed.length < 2) return closed;
	const isCovered = (winding: number) => (shape.fillRule === 'evenodd' ? winding % 2 !== 0 : winding !== 0);
	const flat = closed.map((path) => flattenPath(path, FLAT));
	const boxes = new Flatbush(closed.length);
	for (const path of closed) {
		const { x0, y0, x1, y1 } = pathBox(path);
		boxes.add(x0 - FLAT, y0 - FLAT, x1 + FLAT, y1 + FLAT);
	}
	boxes.finish();
	const around = (x: number, y: number) => boxes.search(x, y, x, y);
	const bounding: Path[] = [];
	for (const [i, path] of closed.entries()) {
		const edges = flat[i].length / 2;
		let isBounding: boolean | undefined;
		for (let k = 0; k < Math.min(LOOKED_AT, edges); k++) {
			const at = Math.floor((k * edges) / Math.min(LOOKED_AT, edges));
			const { left, right, touches } = sidesAt(flat, around, i, at);
			if (!touches) isBounding ??= isCovered(left) !== isCovered(right);
			else if (!isCovered(left) || !isCovered(right)) return undefined;
		}
		// Along the whole of it there are others, on their own sides: it is one among them.
		if (isBounding ?? true) bounding.push(path);
	}
	return bounding;
}

/** How often all lines wind around the places left and right of an edge of one, and whether another runs along there. */
function sidesAt(
	flat: readonly Float64Array[],
	around: (x: number, y: number) => number[],
	own: number,
	edge: number
): { left: number; right: number; touches: boolean } {
	const points = flat[own];
	const next = (2 * edge + 2) % points.length;
	const [x0, y0, x1, y1] = [points[2 * edge], points[2 * edge + 1], points[next], points[next + 1]];
	const length = Math.hypot(x1 - x0, y1 - y0) || 1;
	const [nx, ny] = [(-ASIDE * (y1 - y0)) / length, (ASIDE * (x1 - x0)) / length];
	const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
	let [left, right] = [0, 0];
	let touches = false;
	for (const j of around(x, y)) {
		const l = windingNumber(flat[j], x + nx, y + ny);
		const r = windingNumber(flat[j], x - nx, y - ny);
		left += l;
		right += r;
		if (j !== own && l !== r) touches = true;
	}
	return { left, right, touches };
}

export interface Piece {
	readonly paths: readonly Path[];
	readonly name?: string;
	/** The names of the paths, where they have more than the one. */
	readonly names?: readonly string[];
	readonly layer?: string;
	readonly fill?: string;
	readonly stroke?: string;
	/** mm: strokes and gaps by turns. */
	readonly dashes?: readonly number[];
	/** What is done with it, where the file says so. */
	readonly purpose?: Purpose;
}

/** The closed pieces of everything read, holes with their outer outline, names and colours kept. */
export function closedPieces(imported: Imported): Piece[] {
	return imported.shapes.flatMap((shape) => {
		const paths = boundingPaths(shape);
		// Names go with their paths; resolved ones are new.
		const names = shape.names && paths.map((path) => shape.names![shape.paths.indexOf(path)] ?? '');
		return groupPieces(paths).map((group) => ({
			paths: group.map((i) => paths[i]),
			name: names?.[group[0]] || shape.name,
			...(names && group.length > 1 ? { names: group.map((i) => names[i]) } : {}),
			layer: shape.layer,
			fill: shape.fill,
			stroke: shape.stroke,
			...(shape.dashes ? { dashes: shape.dashes } : {}),
			...(shape.purpose ? { purpose: shape.purpose } : {})
		}));
	});
}

/** The open outlines of everything read. */
export function openLines(imported: Imported): Piece[] {
	return imported.shapes.flatMap((shape) =>
		shape.paths
			.filter((path) => !path.closed)
			.map((path) => ({
				paths: [path],
				name: shape.name,
				layer: shape.layer,
				stroke: shape.stroke ?? shape.fill,
				...(shape.dashes ? { dashes: shape.dashes } : {}),
				...(shape.purpose ? { purpose: shape.purpose } : {})
			}))
	);
}

/**
 * What was read, as it can be cut: shapes whose lines cross themselves or each other, and outlines that bound nothing by their
 * fill rule, are resolved to the lines that bound their areas; that is said. Yields how far it has come, 0 to 1.
 */
export function* resolvedSteps(imported: Imported): Generator<number, Imported> {
	const shapes: Shape[] = [];
	let resolved = 0;
	for (const [i, shape] of imported.shapes.entries()) {
		if (i % 50 === 0) yield i / imported.shapes.length;
		const closed = shape.paths.filter((path) => path.closed && path.types.length > 0);
		const bounding = boundingPaths(shape);
		const isAsItWas = bounding.length === closed.length && bounding.every((path, k) => path === closed[k]);
		if (isAsItWas) {
			shapes.push(shape);
			continue;
		}
		resolved++;
		const { names: _, ...rest } = shape;
		const open = shape.paths.filter((path) => !path.closed);
		shapes.push({ ...rest, fillRule: 'evenodd', paths: [...bounding, ...open] });
	}
	if (resolved === 0) return imported;
	const told =
		resolved === 1
			? 'One shape crossed itself; the lines that bound what it fills were taken.'
			: `${resolved} shapes crossed themselves; the lines that bound what they fill were taken.`;
	return { ...imported, shapes, warnings: [...imported.warnings, told] };
}

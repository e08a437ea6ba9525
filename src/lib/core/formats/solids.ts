/** From what a file says to plain outlines: fill rules settled, pieces grouped. */
import { flattenPath } from '../geometry/edge-tree';
import { pathArea, windingNumber } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { groupPieces } from '../plane/pieces';
import { pathCrossings } from '../plane/crossings';
import { coveredOutlines } from '../plane/combine';
import { CoreError } from '../errors';
import type { FileFillRule, Imported, Shape } from './imported';

/**
 * The closed paths of a shape that bound its area by the even-odd rule. Lines that cross themselves or each other are resolved
 * by the shape's own rule, so that its area stays what the file says; under the non-zero rule an outline inside another that
 * does not change whether its place is covered bounds nothing.
 */
export function boundingPaths(shape: Shape): Path[] {
	const closed = shape.paths.filter((path) => path.closed && path.types.length > 0);
	return resolvedCrossings(closed, shape.fillRule) ?? uncrossed(closed, shape);
}

/** The outlines of what crossing lines cover; undefined where none crosses, or where it cannot be told. */
function resolvedCrossings(paths: readonly Path[], rule: FileFillRule): Path[] | undefined {
	try {
		if (!pathCrossings(paths).some((c) => c.through)) return undefined;
		return coveredOutlines(paths, rule);
	} catch (error) {
		if (error instanceof CoreError) return undefined;
		throw error;
	}
}

function uncrossed(closed: Path[], shape: Shape): Path[] {
	if (shape.fillRule === 'evenodd' || closed.length < 2) return closed;
	const flat = closed.map((path) => flattenPath(path, 0.005));
	return closed.filter((path, i) => {
		// Just beside the outline's own line: winding on both sides of it.
		const p = flat[i];
		let outside = 0;
		const x = (p[0] + p[2]) / 2;
		const y = (p[1] + p[3]) / 2;
		flat.forEach((other, j) => {
			if (j !== i) outside += windingNumber(other, x, y);
		});
		const inside = outside + Math.sign(pathArea(path));
		return (outside !== 0) !== (inside !== 0);
	});
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
			...(shape.dashes ? { dashes: shape.dashes } : {})
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
				...(shape.dashes ? { dashes: shape.dashes } : {})
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

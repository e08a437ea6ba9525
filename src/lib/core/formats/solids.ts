/** From what a file says to plain outlines: fill rules settled, pieces grouped. */
import { flattenPath } from '../geometry/edge-tree';
import { pathArea, windingNumber } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { groupPieces } from '../plane/pieces';
import type { Imported, Shape } from './imported';

/**
 * The closed paths of a shape that bound its area by the even-odd rule: under the non-zero rule an outline inside
 * another that does not change whether its place is covered bounds nothing.
 */
export function boundingPaths(shape: Shape): Path[] {
	const closed = shape.paths.filter((path) => path.closed);
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
	readonly layer?: string;
	readonly fill?: string;
	readonly stroke?: string;
}

/** The closed pieces of everything read, holes with their outer outline, names and colours kept. */
export function closedPieces(imported: Imported): Piece[] {
	return imported.shapes.flatMap((shape) => {
		const paths = boundingPaths(shape);
		return groupPieces(paths).map((group) => ({
			paths: group.map((i) => paths[i]),
			name: shape.name,
			layer: shape.layer,
			fill: shape.fill,
			stroke: shape.stroke
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
				stroke: shape.stroke ?? shape.fill
			}))
	);
}

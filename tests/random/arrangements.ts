/** Pieces and sheets by chance, and an arrangement judged by exact distances, apart from the search that found it. */
import type { ArrangePiece, ArrangeSheet, Arranged, Turns } from '../../src/lib/core/arrange/arrange';
import { EdgeTree, flattenPath } from '../../src/lib/core/geometry/edge-tree';
import { windingNumber } from '../../src/lib/core/geometry/measure';
import { circlePath, polygonPath, transformPath, type Path } from '../../src/lib/core/geometry/path';
import { blob, type Chance, oneOf, placesRound } from '../shapes';

/** A piece of a size, somewhere far from the sheet. */
export function randomPiece(r: Chance, turns: Turns, size: number): ArrangePiece {
	const kinds: (() => Path)[] = [
		() => blob(oneOf(r, [6, 12, 24]), 1 + Math.floor(r() * 1e6), size * 0.7),
		() => circlePath(0, 0, size * (0.3 + 0.6 * r())),
		() => polygonPath([0, 0, size * (0.5 + 1.5 * r()), 0, size, size * (0.4 + r()), 0, size]),
		() => {
			const n = oneOf(r, [3, 5, 7]);
			return placesRound(2 * n, (i) => size * (i % 2 ? 0.4 + 0.3 * r() : 1));
		}
	];
	const made = oneOf(r, kinds)();
	return { paths: [transformPath(made, [1, 0, 0, 1, 500 * r(), 500 * r()])], turns };
}

export interface RandomArrangement {
	readonly pieces: readonly ArrangePiece[];
	readonly sheet: ArrangeSheet;
	/** mm */
	readonly gap: number;
}

/** A few pieces that may be turned so or so, a sheet that may be too small for all, a gap or none. */
export function randomArrangement(r: Chance): RandomArrangement {
	const turns = oneOf<Turns>(r, [[0], [0, 180], [0, 90, 180, 270], 'free']);
	const pieces = Array.from({ length: 3 + Math.floor(14 * r()) }, () => randomPiece(r, turns, 5 + 20 * r()));
	const sheet = { width: 80 + 120 * r(), length: 120 + 300 * r(), margin: 6 * r() };
	return { pieces, sheet, gap: r() < 0.2 ? 0 : 4 * r() };
}

/** mm: nearer than the gap, or farther over the margin, is a failure. */
export const NEAR = 0.01;

/** How much nearer than the gap two pieces come, and how far any lies off what can be used; mm. */
export function faultsOf(
	pieces: readonly ArrangePiece[],
	sheets: readonly ArrangeSheet[],
	{ places }: Pick<Arranged, 'places'>,
	gap: number
): { readonly near: number; readonly off: number } {
	const laid = places.map(({ piece, sheet, map }) => ({
		sheet,
		flat: pieces[piece].paths.map((path) => flattenPath(transformPath(path, map), 1e-3))
	}));
	let near = 0;
	let off = 0;
	for (const [i, a] of laid.entries()) {
		const { width, length, margin, usable } = sheets[a.sheet];
		const edge =
			usable && new EdgeTree(usable.map((path) => ({ points: flattenPath(path, 1e-3), closed: true })));
		for (let k = 0; k < a.flat[0].length; k += 2) {
			const [x, y] = [a.flat[0][k], a.flat[0][k + 1]];
			off = Math.max(off, margin - x, margin - y, x - width + margin, y - length + margin);
			if (edge) off = Math.max(off, margin - edge.distance(x, y));
		}
		const tree = new EdgeTree(a.flat.map((points) => ({ points, closed: true })));
		const isIn = (x: number, y: number) =>
			a.flat.reduce((sum, ring) => sum + Math.abs(windingNumber(ring, x, y)), 0) % 2 === 1;
		for (const [j, b] of laid.entries()) {
			if (i === j || a.sheet !== b.sheet) continue;
			for (const ring of b.flat)
				for (let k = 0; k < ring.length; k += 2) {
					const d = tree.distance(ring[k], ring[k + 1]);
					near = Math.max(near, gap - (isIn(ring[k], ring[k + 1]) ? -d : d));
				}
		}
	}
	return { near, off };
}

/** Whether each piece lies somewhere or is left, once. */
export function isWhole(
	pieces: readonly unknown[],
	{ places, left }: Pick<Arranged, 'places' | 'left'>
): boolean {
	const told = [...places.map(({ piece }) => piece), ...left].sort((a, b) => a - b);
	return told.length === pieces.length && told.every((piece, i) => piece === i);
}

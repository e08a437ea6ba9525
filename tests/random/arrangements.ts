/** Pieces and sheets by chance, and an arrangement judged by exact distances, apart from the search that found it. */
import type { ArrangePiece, ArrangeSheet, Arranged, Turns } from '../../src/lib/core/arrange/arrange';
import { EdgeTree, flattenPath } from '../../src/lib/core/geometry/edge-tree';
import { windingNumber } from '../../src/lib/core/geometry/measure';
import { circlePath, polygonPath, transformPath, type Path } from '../../src/lib/core/geometry/path';
import { blob, type Chance, oneOf } from '../shapes';

/** A piece of a size, somewhere far from the sheet. */
export function randomPiece(r: Chance, turns: Turns, size: number): ArrangePiece {
	const kinds: (() => Path)[] = [
		() => blob(oneOf(r, [6, 12, 24]), 1 + Math.floor(r() * 1e6), size * 0.7),
		() => circlePath(0, 0, size * (0.3 + 0.6 * r())),
		() => polygonPath([0, 0, size * (0.5 + 1.5 * r()), 0, size, size * (0.4 + r()), 0, size]),
		() => {
			const n = oneOf(r, [3, 5, 7]);
			const places: number[] = [];
			for (let i = 0; i < 2 * n; i++) {
				const far = size * (i % 2 ? 0.4 + 0.3 * r() : 1);
				places.push(far * Math.cos((Math.PI * i) / n), far * Math.sin((Math.PI * i) / n));
			}
			return polygonPath(places);
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

/** mm by which two pieces are nearer than the gap, and by which one lies over the margin; and whether each piece is there once. */
export function judgeArrangement(
	{ pieces, sheet, gap }: RandomArrangement,
	{ places, left }: Pick<Arranged, 'places' | 'left'>
): { readonly near: number; readonly off: number; readonly isWhole: boolean } {
	const laid = places.map(({ piece, map }) => flattenPath(transformPath(pieces[piece].paths[0], map), 1e-3));
	const trees = laid.map((points) => new EdgeTree([{ points, closed: true }]));
	let [near, off] = [0, 0];
	const { width, length, margin } = sheet;
	laid.forEach((a, i) => {
		for (let k = 0; k < a.length; k += 2) {
			const [x, y] = [a[k], a[k + 1]];
			off = Math.max(off, margin - x, margin - y, x - width + margin, y - length + margin);
		}
		laid.forEach((b, j) => {
			if (i === j) return;
			for (let k = 0; k < b.length; k += 2) {
				const distance = trees[i].distance(b[k], b[k + 1]);
				const isInside = windingNumber(a, b[k], b[k + 1]) !== 0;
				near = Math.max(near, gap - (isInside ? -distance : distance));
			}
		});
	});
	const told = [...places.map(({ piece }) => piece), ...left].sort((a, b) => a - b);
	return { near, off, isWhole: told.length === pieces.length && told.every((piece, i) => piece === i) };
}

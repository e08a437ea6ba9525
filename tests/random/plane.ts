/** Outlines by chance for combining and offsetting: of every kind of segment, lying on each other now and then, crossing themselves, torn. */
import {
	circlePath,
	PathBuilder,
	polygonPath,
	transformPath,
	type Path
} from '../../src/lib/core/geometry/path';
import type { CombineInput } from '../../src/lib/core/plane/area';
import { blob, type Chance, oneOf, wavy, placesRound } from '../shapes';

const QUARTER = Math.tan(Math.PI / 8);

/** What kinds of outlines there are: ordinary ones, also such as cross themselves, or torn ones of hundreds of anchors. */
export type Wildness = 'ordinary' | 'wild' | 'torn';

/** Places lie on a coarse grid, so that lines lie on each other now and then. */
export function randomOutline(r: Chance, wildness: Wildness): Path {
	const [x, y] = [Math.round(r() * 40) / 2, Math.round(r() * 40) / 2];
	const put = (path: Path) => transformPath(path, [1, 0, 0, 1, x, y]);
	if (wildness === 'torn')
		return put(wavy(oneOf(r, [150, 400, 1000]), 1 + Math.floor(r() * 1e6), oneOf(r, [6, 10, 25])));
	const kinds: (() => Path)[] = [
		() => put(blob(oneOf(r, [6, 12, 24, 60]), 1 + Math.floor(r() * 1e6), 8 + 12 * r())),
		() => circlePath(x, y, oneOf(r, [3, 5, 5, 7.5, 10])),
		() => {
			const [w, h] = [oneOf(r, [5, 10, 20]), oneOf(r, [5, 10])];
			return polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
		},
		() => {
			const n = oneOf(r, [3, 5, 7, 12]);
			return placesRound(2 * n, (i) => (i % 2 ? oneOf(r, [3, 5]) : 10), x, y);
		},
		() => {
			const [w, round] = [oneOf(r, [10, 20]), oneOf(r, [1, 2, 4])];
			return new PathBuilder(x + round, y)
				.line(x + w - round, y)
				.arc(QUARTER, x + w, y + round)
				.line(x + w, y + w - round)
				.arc(QUARTER, x + w - round, y + w)
				.line(x + round, y + w)
				.arc(QUARTER, x, y + w - round)
				.line(x, y + round)
				.arc(QUARTER, x + round, y)
				.close();
		}
	];
	const crossing: (() => Path)[] = [
		() => polygonPath(Array.from({ length: 2 * oneOf(r, [5, 8, 20]) }, (_, i) => (i % 2 ? y : x) + 20 * r())),
		() => {
			const builder = new PathBuilder(x, y);
			const place = (far: number) => [x + far * r(), y + far * r()] as const;
			for (let i = oneOf(r, [3, 5, 8]); i > 0; i--) builder.cubic(...place(25), ...place(25), ...place(20));
			return builder.close();
		}
	];
	return oneOf(r, wildness === 'wild' ? [...kinds, ...crossing] : kinds)();
}

/** Where a copy comes to lie on what it is a copy of. */
const MOVES = [
	[1, 0, 0, 1, 0, 0],
	[1, 0, 0, 1, 1e-4, 0],
	[1, 0, 0, 1, 1e-7, 0],
	[1, 0, 0, 1, 5, 0],
	[-1, 0, 0, 1, 20, 0],
	[0, 1, -1, 0, 0, 0]
] as const;

/** Two inputs to combine, and the lines of the first. */
export function randomInputs(
	r: Chance,
	wildness: Wildness
): { readonly inputs: readonly [CombineInput, CombineInput]; readonly first: readonly Path[] } {
	const first = [randomOutline(r, wildness)];
	const second = r() < 0.2 ? transformPath(first[0], oneOf(r, MOVES)) : randomOutline(r, wildness);
	if (r() < 0.3) first.push(randomOutline(r, wildness));
	const rule = oneOf(r, ['evenodd', 'nonzero'] as const);
	return { inputs: [[{ paths: first, rule }], [{ paths: [second], rule: 'nonzero' }]], first };
}

/** mm by which lines are offset. */
export const DISTANCES = [-3, -1, -0.3, 0.3, 1, 3, 8] as const;

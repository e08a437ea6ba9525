/** An allowance that follows its pieces: a width outside of each edge, by default one for all. */
import { failed, done } from '../../errors';
import type { Path } from '../../geometry/path';
import { allowance, ALLOWANCE_CORNERS, type AllowanceCorner, type AllowanceEdge } from '../../plane/allowance';
import { groupPieces } from '../../plane/pieces';
import { scaledLengths } from './offset';
import {
	DEAR_SEGMENTS,
	segmentsOf,
	type InputLine,
	type MadeLine,
	type RecipeField,
	type RecipeType
} from './recipe-type';

export interface AllowanceSettings {
	/** mm, of every edge that carries none of its own. */
	readonly width: number;
	readonly corner: AllowanceCorner;
}

/** The edges of an input as runs of segments, each with its width. */
function widthsOf(input: InputLine, width: number): AllowanceEdge[] {
	const n = input.path.types.length;
	const { edgeOf } = input;
	// Begun where one edge ends and the next begins, so that none is cut in two by the seam.
	let begin = 0;
	while (begin < n && edgeOf[begin] === edgeOf[(begin + n - 1) % n]) begin++;
	if (begin >= n) return [{ first: 0, count: n, width: input.edges[edgeOf[0]]?.width ?? width }];
	const runs: { first: number; count: number; width: number }[] = [];
	for (let k = 0; k < n; k++) {
		const i = (begin + k) % n;
		const last = runs.at(-1);
		if (last && edgeOf[i] === edgeOf[(i + n - 1) % n]) last.count++;
		else runs.push({ first: i, count: 1, width: input.edges[edgeOf[i]]?.width ?? width });
	}
	return runs;
}

export const allowanceRecipe: RecipeType<AllowanceSettings> = {
	word: () => 'allowance',
	inputs: { least: 1, most: Infinity },
	engine: 1,
	isDear: (inputs) => segmentsOf(inputs) > DEAR_SEGMENTS,
	*resolve(inputs, { width, corner }, draft = false) {
		const made: MadeLine[] = [];
		const paths = inputs.map((input) => input.path);
		const holes = new Set(groupPieces(paths).flatMap((group) => group.slice(1)));
		for (const [i, input] of inputs.entries()) {
			yield i / inputs.length;
			const result = allowance(input.path, widthsOf(input, width), { corner, verify: !draft }, holes.has(i));
			if (!result.ok) return failed(result.problem.code, result.problem.sentence);
			result.value.forEach((path: Path, k) => made.push({ path, part: k ? `${i}.${k}` : `${i}` }));
		}
		return done(made);
	},
	carried: (settings, map) => scaledLengths(settings, ['width'], map),
	fields: (): RecipeField[] => [
		{ name: 'width', word: 'width', kind: 'length', least: 0, most: 1000 },
		{
			name: 'corner',
			word: 'corners',
			kind: 'choice',
			items: [
				{ value: 'miter', word: 'mitred' },
				{ value: 'bevel', word: 'bevelled' },
				{ value: 'round', word: 'round' },
				{ value: 'fold', word: 'folded back' },
				{ value: 'square', word: 'square' }
			]
		}
	],
	holds: ({ width, corner }) =>
		typeof width === 'number' &&
		width >= 0 &&
		width <= 10_000 &&
		ALLOWANCE_CORNERS.includes(corner as AllowanceCorner)
};

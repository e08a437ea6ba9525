/** The reckoning of what is made of areas: outlines combined, bands, facings. */
import { done, failed, type Result } from '../../errors';
import { stretchBetween } from '../../geometry/join';
import type { Path } from '../../geometry/path';
import { band } from '../../plane/band';
import { combineSteps, type Combined } from '../../plane/combine';
import { groupPieces } from '../../plane/pieces';
import { bandLate, saidWidths } from './band';
import { combinedLate } from './combined';
import { facingLate } from './facing';
import { partsByInput } from './parallels';
import type { InputLine } from './recipe-type';

/** The outlines of what was combined, told apart by the inputs nearest to them. */
const madeOfPieces = (made: Result<Combined>, inputs: readonly InputLine[]) =>
	made.ok
		? done(
				partsByInput(
					made.value.pieces.flatMap((p) => p.paths),
					inputs
				)
			)
		: made;

combinedLate.provide({
	*resolve(inputs, { op }, draft = false) {
		const paths = inputs.map((input) => input.path);
		// A piece with its holes is one; the first is the one that the first input belongs to.
		const groups = groupPieces(paths)
			.map((group) => [...group])
			.sort((a, b) => Math.min(...a) - Math.min(...b));
		const made = yield* combineSteps(
			groups.map((group) => [{ paths: group.map((i) => paths[i]), rule: 'evenodd' }]),
			op,
			{ verify: !draft }
		);
		return madeOfPieces(made, inputs);
	}
});

bandLate.provide({
	*resolve(inputs, { widths, ...settings }, draft = false) {
		yield 0;
		const [input] = inputs;
		const made = band(input.path, { ...settings, widths: saidWidths(input, widths), verify: !draft });
		return made.ok ? done(partsByInput(made.value, inputs)) : made;
	}
});

/** The runs of segments that belong to some edges, as open lines; the whole line where all do. */
function runsOf({ path, edges, edgeOf }: InputLine, wanted: ReadonlySet<number>): Path[] {
	const n = path.types.length;
	const isIn = (i: number) => wanted.has(edges[edgeOf[i % n]]?.id);
	const all = Array.from({ length: n }, (_, i) => isIn(i));
	if (all.every(Boolean)) return [path];
	const runs: Path[] = [];
	for (let i = 0; i < n; i++) {
		if (!isIn(i) || isIn(i + n - 1)) continue;
		let end = i + 1;
		while (isIn(end)) end++;
		runs.push(stretchBetween(path, i, end));
	}
	return runs;
}

facingLate.provide({
	*resolve(inputs, { edges, depth }, draft = false) {
		const [input] = inputs;
		if (!input.path.closed)
			return failed('open-outline', 'An open line has no inside. Close it, then face it.');
		const runs = runsOf(input, new Set(edges));
		if (runs.length === 0) return failed('no-edge', 'None of the edges that were faced is there any more.');
		const strips: Path[] = [];
		for (const run of runs) {
			// As far beyond its ends as it is deep, so that it goes to the edges beside it.
			const made = band(run, {
				width: 2 * depth,
				taper: 'even',
				join: 'miter',
				ends: 'square',
				verify: !draft
			});
			if (!made.ok) return made;
			strips.push(...made.value);
		}
		const made = yield* combineSteps(
			[[{ paths: [input.path], rule: 'nonzero' }], strips.length ? [{ paths: strips, rule: 'nonzero' }] : []],
			'intersection',
			{ verify: !draft }
		);
		return madeOfPieces(made, inputs);
	}
});

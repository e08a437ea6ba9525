/** The reckoning of offsets and allowances. */
import { done, failed } from '../../errors';
import type { Path } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import { allowance, type AllowanceEdge } from '../../plane/allowance';
import { offsetStepsWork } from '../../plane/offset-steps';
import { groupPieces } from '../../plane/pieces';
import { part } from '../../progress';
import { allowanceLate } from './allowance';
import { offsetLate } from './offset';
import type { InputLine, MadeLine } from './recipe-type';

/** The edges of an input as runs of segments, each with its width. */
function widthsOf(input: InputLine, width: number): AllowanceEdge[] {
	const n = input.path.types.length;
	const { edgeOf } = input;
	// Begun where one edge ends and the next begins, so that none is cut in two by the seam.
	let begin = 0;
	while (begin < n && edgeOf[begin] === edgeOf[(begin + n - 1) % n]) begin++;
	const said = (i: number) => {
		const { width: own, widthEnd } = input.edges[edgeOf[i]] ?? {};
		return { width: own ?? width, ...(own !== undefined && widthEnd !== undefined ? { widthEnd } : {}) };
	};
	if (begin >= n) return [{ first: 0, count: n, ...said(0) }];
	const runs: { first: number; count: number; width: number; widthEnd?: number }[] = [];
	for (let k = 0; k < n; k++) {
		const i = (begin + k) % n;
		const last = runs.at(-1);
		if (last && edgeOf[i] === edgeOf[(i + n - 1) % n]) last.count++;
		else runs.push({ first: i, count: 1, ...said(i) });
	}
	return runs;
}

/** Names each line of a result after the input it lies nearest to, counted where several do. */
export function partsByInput(paths: readonly Path[], inputs: readonly InputLine[], prefix = ''): MadeLine[] {
	const taken = new Map<string, number>();
	return paths.map((path) => {
		let nearest = 0;
		let least = Infinity;
		inputs.forEach((input, i) => {
			const near = nearestOnPath(input.path, path.segs[0], path.segs[1], least);
			if (near && near.distance < least) {
				least = near.distance;
				nearest = i;
			}
		});
		const name = `${prefix}${nearest}`;
		const count = taken.get(name) ?? 0;
		taken.set(name, count + 1);
		return { path, part: count ? `${name}.${count}` : name };
	});
}

allowanceLate.provide({
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
	}
});

offsetLate.provide({
	*resolve(inputs, settings, draft = false) {
		const made: MadeLine[] = [];
		let problem;
		for (let step = 1; step <= settings.steps; step++) {
			const result = yield* part(
				offsetStepsWork(
					inputs.map((input) => input.path),
					{ ...settings, distance: step * settings.distance, steps: 1, verify: !draft }
				),
				(step - 1) / settings.steps,
				step / settings.steps
			);
			if (!result.ok) {
				problem = result.problem;
				break;
			}
			made.push(...partsByInput(result.value.paths, inputs, settings.steps > 1 ? `${step}:` : ''));
		}
		return made.length || !problem ? done(made) : failed(problem.code, problem.sentence);
	}
});

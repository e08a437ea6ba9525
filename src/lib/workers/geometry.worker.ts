import * as Comlink from 'comlink';
import { toProblem } from '../core/errors';
import { findFaults } from '../core/check/readiness';
import type { Path } from '../core/geometry/path';
import { deviationFrom } from '../core/geometry/deviation';
import { twoWayDistance } from '../core/geometry/edge-tree';
import { combine } from '../core/plane/combine';
import { offsetSteps } from '../core/plane/offset-steps';
import { makeLineSteps } from '../core/fairing/lines';
import { simplifyCurve, simplifySteps } from '../core/fairing/simplify';
import { breathe, drive, Stale } from './drive';
import type { GeometryApi, Job } from './geometry.protocol';
import type { Answer } from './picture.protocol';

// The newest request of each job; older ones are stale.
const newest: Record<Job, number> = {
	line: 0,
	simplify: 0,
	chart: 0,
	offset: 0,
	combine: 0,
	check: 0,
	compare: 0
};

async function answer<T>(job: Job, request: number, work: () => Promise<T> | T): Promise<Answer<T>> {
	newest[job] = Math.max(newest[job], request);
	// Requests that came in meanwhile are read first: only the last of a flurry is computed.
	await breathe();
	if (request < newest[job]) return { ok: 'stale' };
	try {
		return { ok: true, value: await work() };
	} catch (error) {
		if (error instanceof Stale) return { ok: 'stale' };
		return { ok: false, problem: toProblem(error) };
	}
}

/** The same work on each of several lines, telling how far all of it has come. */
async function each<T>(
	job: Job,
	request: number,
	paths: readonly Path[],
	work: (path: Path) => Generator<number, T>,
	tell: (share: number) => void
): Promise<Answer<T[]>> {
	return answer(job, request, async () => {
		const out: T[] = [];
		for (const path of paths) {
			const before = out.length;
			out.push(
				await drive(
					work(path),
					() => request < newest[job],
					(share) => tell((before + share) / paths.length)
				)
			);
		}
		return out;
	});
}

const api: GeometryApi = {
	simplify: (request, paths, tolerance, tell) =>
		each('simplify', request, paths, (path) => simplifySteps(path, tolerance), tell),
	line: (request, paths, options, stretch, tell) =>
		each('line', request, paths, (path) => makeLineSteps(path, options, stretch), tell),
	chart: (request, paths, tolerances, tell) =>
		answer('chart', request, async () => {
			for (const point of simplifyCurve(paths, tolerances)) {
				if (point) tell(point);
				await breathe();
				if (request < newest.chart) break;
			}
			return null;
		}),
	async offset(request, paths, options) {
		const result = await answer('offset', request, () => offsetSteps(paths, options));
		return result.ok === true ? result.value : result;
	},
	async combine(request, inputs, op) {
		const result = await answer('combine', request, () => combine(inputs, op, { verify: true }));
		return result.ok === true ? result.value : result;
	},
	check: (request, paths) => answer('check', request, () => findFaults(paths)),
	compare: (request, pairs, step) =>
		answer('compare', request, () =>
			pairs.map(({ path, other }) => {
				const { distance: off, x, y } = twoWayDistance([path], [other], step / 20, step);
				return {
					deviation: deviationFrom(path, other, step, step / 20),
					worst: { x, y, off }
				};
			})
		)
};

Comlink.expose(api);

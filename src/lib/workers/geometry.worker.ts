import * as Comlink from 'comlink';
import { toProblem } from '../core/errors';
import { findFaults } from '../core/check/readiness';
import { combine } from '../core/geometry/combine';
import { offsetSteps } from '../core/geometry/offset-steps';
import { makeLine } from '../core/fairing/lines';
import { simplifyCurve, simplifyPath } from '../core/fairing/simplify';
import { breathe } from './drive';
import type { GeometryApi, Job } from './geometry.protocol';
import type { Answer } from './picture.protocol';

// The newest request of each job; older ones are stale.
const newest: Record<Job, number> = { line: 0, simplify: 0, chart: 0, offset: 0, combine: 0, check: 0 };

async function answer<T>(job: Job, request: number, work: () => Promise<T> | T): Promise<Answer<T>> {
	newest[job] = Math.max(newest[job], request);
	// Requests that came in meanwhile are read first: only the last of a flurry is computed.
	await breathe();
	if (request < newest[job]) return { ok: 'stale' };
	try {
		return { ok: true, value: await work() };
	} catch (error) {
		return { ok: false, problem: toProblem(error) };
	}
}

const api: GeometryApi = {
	simplify: (request, paths, tolerance) =>
		answer('simplify', request, async () => {
			const out = [];
			for (const path of paths) {
				out.push(simplifyPath(path, tolerance));
				await breathe();
				if (request < newest.simplify) break;
			}
			return out;
		}),
	line: (request, paths, options, stretch) =>
		answer('line', request, async () => {
			const out = [];
			for (const path of paths) {
				out.push(makeLine(path, options, stretch));
				await breathe();
				if (request < newest.line) break;
			}
			return out;
		}),
	chart: (request, paths, tolerances, tell) =>
		answer('chart', request, async () => {
			for (const point of simplifyCurve(paths, tolerances)) {
				tell(point);
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
	check: (request, paths) => answer('check', request, () => findFaults(paths))
};

Comlink.expose(api);

import { describe, expect, test } from 'vitest';
import { GOUGE, randomJob, tryJob } from '../../../../tests/random/jobs';
import { chance } from '../../../../tests/shapes';
import { nestLines } from './compensate';
import { FEED, moveAt, moveLength, moveStart, RAPID } from './moves';
import { circleAs } from './round-hole';
import { reachOf } from './settings';

const JOBS = 160;
/** Others than these: `npm run torture -- --jobs`. */
const tried = Array.from({ length: JOBS }, (_, k) => {
	const job = randomJob(chance(77_000 + k));
	return { job, ...tryJob(job) };
});
const planned = tried.flatMap(({ plan, ...rest }) => (plan ? [{ ...rest, plan }] : []));

describe('jobs by chance', () => {
	test('read back from their files no tool cuts into what is kept or travels through material, holes first', () => {
		expect(tried.flatMap(({ amiss }, k) => amiss.map((a) => ({ k, ...a })))).toEqual([]);
		expect(Math.max(...tried.map(({ gouge }) => gouge))).toBeLessThan(GOUGE);
	});

	test('most can be planned; what cannot is refused by a reason that has a name', () => {
		expect(planned.length).toBeGreaterThan(0.4 * JOBS);
		const codes = new Set(tried.flatMap(({ refused }) => refused ?? []));
		expect(codes.size).toBeGreaterThan(0);
		for (const code of codes) expect(code).toMatch(/^[a-z]+(-[a-z]+)+$/);
	});

	test('moves hang together, in numbers that a machine understands', () => {
		for (const { plan, job } of planned) {
			const { moves } = plan;
			const { settings } = job;
			const isFlat = settings.tool.kind !== 'cutter';
			for (let i = 0; i < moves.kinds.length; i++) {
				const [x, y, z] = moveStart(moves, i, [0, 0, 0]);
				const end = moveAt(moves, i, 1);
				expect([x, y, z, end.x, end.y, end.z].every(Number.isFinite)).toBe(true);
				const start = moveAt(moves, i, 0);
				expect(Math.hypot(start.x - x, start.y - y, start.z - z)).toBeLessThan(1e-9);
				if (moves.kinds[i] === FEED) {
					expect(moves.feeds[i]).toBeGreaterThan(0);
					expect(moves.feeds[i]).toBeLessThanOrEqual(settings.feed);
					if (isFlat) expect(moves.on[i]).toBe(1);
				} else {
					expect(moves.kinds[i]).toBe(RAPID);
					// A rapid across the sheet goes above it, or with the beam off and the knife up.
					if (Math.hypot(end.x - x, end.y - y) > 1e-9)
						expect(isFlat ? 1 - moves.on[i] : Math.min(z, end.z)).toBeGreaterThan(0);
				}
			}
		}
	});

	test('nothing is cut deeper than the depth, and all of it is reached where no tab holds', () => {
		let deep = 0;
		for (const { plan, job } of planned) {
			const { depth, tool } = job.settings;
			if (tool.kind !== 'cutter') continue;
			let lowest = 0;
			for (let i = 0; i < plan.moves.kinds.length; i++) lowest = Math.min(lowest, plan.moves.to[3 * i + 2]);
			expect(lowest).toBeCloseTo(-depth!, 9);
			deep++;
		}
		expect(deep).toBeGreaterThan(20);
	});

	test('discs are gone round whole at full depth, half the tool off; where tabs hold, all but those', () => {
		let discs = 0;
		for (const { plan, job } of planned) {
			const { settings, lines } = job;
			if (settings.side !== 'outside' || settings.tool.kind === 'knife') continue;
			const whole = settings.tool.kind === 'cutter' ? settings.depth! : 0;
			const { parent } = nestLines(lines);
			for (const [k, { path }] of lines.entries()) {
				const disc = circleAs(path);
				// What lies in another is a hole.
				if (!disc || parent[k] !== undefined) continue;
				const points: number[] = [];
				for (let i = 0; i < plan.moves.kinds.length; i++) {
					const cut = plan.moves.cuts[i];
					if (plan.moves.kinds[i] !== FEED || cut < 0 || plan.cuts[cut].line !== k) continue;
					const parts = Math.max(1, Math.ceil(moveLength(plan.moves, i) / 0.05));
					for (let part = 0; part <= parts; part++) {
						const { x, y, z } = moveAt(plan.moves, i, part / parts);
						if (z <= -whole + 1e-6)
							points.push(Math.atan2(y - disc.y, x - disc.x), Math.hypot(x - disc.x, y - disc.y));
					}
				}
				const angles = points.filter((_, i) => i % 2 === 0).sort((a, b) => a - b);
				const gaps = angles.map((a, i) =>
					i ? a - angles[i - 1] : a + 2 * Math.PI - angles[angles.length - 1]
				);
				const open = gaps.filter((gap) => gap * disc.radius > 0.3);
				if (settings.tabs) expect(open.length).toBeGreaterThan(0);
				else expect(open).toEqual([]);
				const nearest = Math.min(...points.filter((_, i) => i % 2));
				expect(nearest).toBeCloseTo(disc.radius + reachOf(settings.tool), 2);
				discs++;
			}
		}
		expect(discs).toBeGreaterThan(10);
	});
});

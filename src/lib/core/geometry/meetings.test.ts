import { describe, expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { segmentMeetings } from './meetings';
import { ARC, CUBIC, STRAIGHT } from './path';
import { pointAt } from './segment';

/** Where two segments drawn as many straights cross clearly; told by nothing that looks for meetings. */
function clearCrossings(
	typeA: number,
	a: readonly number[],
	typeB: number,
	b: readonly number[]
): { x: number; y: number }[] {
	const PARTS = 160;
	const [p, q] = [
		[typeA, a],
		[typeB, b]
	].map(([type, s]) =>
		Array.from({ length: PARTS + 1 }, (_, k) => pointAt(type as number, s as number[], 0, k / PARTS))
	);
	const out: { x: number; y: number }[] = [];
	for (let i = 0; i < PARTS; i++)
		for (let k = 0; k < PARTS; k++) {
			const [dx, dy] = [p[i + 1].x - p[i].x, p[i + 1].y - p[i].y];
			const [ex, ey] = [q[k + 1].x - q[k].x, q[k + 1].y - q[k].y];
			const det = dx * ey - dy * ex;
			if (Math.abs(det) < 0.05 * Math.hypot(dx, dy) * Math.hypot(ex, ey)) continue;
			const t = ((q[k].x - p[i].x) * ey - (q[k].y - p[i].y) * ex) / det;
			const u = ((q[k].x - p[i].x) * dy - (q[k].y - p[i].y) * dx) / det;
			// Not at a joint of the straights, where the curve may pass on the other side.
			if (Math.min(t, 1 - t, u, 1 - u) > 0.02) out.push({ x: p[i].x + t * dx, y: p[i].y + t * dy });
		}
	return out;
}

/** Segments of all kinds, many of them hooked, looped, or with a handle on its anchor. */
function segmentOf(r: () => number): { type: number; s: number[] } {
	const place = () => [10 * r(), 10 * r()];
	const [ends, kind] = [[place(), place()], r()];
	if (kind < 0.15) return { type: STRAIGHT, s: [...ends[0], 0, 0, 0, 0, ...ends[1]] };
	if (kind < 0.3) return { type: ARC, s: [...ends[0], 3 * (r() - 0.5), 0, 0, 0, ...ends[1]] };
	const handles = [place(), place()];
	const size = r() < 0.3 ? 0 : r() < 0.5 ? 1e-3 : 1;
	for (const end of [0, 1])
		if (r() < 0.4)
			handles[end] = [0, 1].map((axis) => ends[end][axis] + size * (handles[end][axis] - ends[end][axis]));
	return { type: CUBIC, s: [...ends[0], ...handles[0], ...handles[1], ...ends[1]] };
}

describe('where segments meet', () => {
	test('no clear crossing is missed, whatever the segments are made of', () => {
		const r = chance(77);
		let seen = 0;
		for (let n = 0; n < 1500; n++) {
			const [a, b] = [segmentOf(r), segmentOf(r)];
			const found = segmentMeetings(a.type, a.s, 0, b.type, b.s, 0);
			for (const { x, y } of clearCrossings(a.type, a.s, b.type, b.s)) {
				seen++;
				const off = Math.min(...found.map((m) => Math.hypot(m.x - x, m.y - y)));
				expect(off, `pair ${n}`).toBeLessThan(0.05);
			}
			// And what is found lies on both.
			for (const m of found) {
				const [p, q] = [pointAt(a.type, a.s, 0, m.t), pointAt(b.type, b.s, 0, m.u)];
				expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(3e-6);
			}
		}
		expect(seen).toBeGreaterThan(500);
	});

	test('cubics that would meet beyond an end as well are not taken to meet there only', () => {
		const a = [-0.0767097, 0.1788217, -0.0688144, 0.1873826, -0.0646221, 0.1909613, -0.0646221, 0.1909613];
		const b = [-0.0649619, 0.1906706, -0.064316, 0.1910901, -0.0581631, 0.1950331, -0.0443208, 0.2019326];
		const [only, ...others] = segmentMeetings(CUBIC, a, 0, CUBIC, b, 0);
		expect(others).toEqual([]);
		const [crossing] = clearCrossings(CUBIC, a, CUBIC, b);
		expect(Math.hypot(only.x - crossing.x, only.y - crossing.y)).toBeLessThan(1e-4);
	});

	test('straights that touch with their ends cross all the same, beyond one or between two', () => {
		const touching = [0, 0, 0, 0, 0, 0, 1, 0];
		const other = [0.9999, 0.9e-6, 0, 0, 0, 0, 1.05, -0.0011];
		const met = segmentMeetings(STRAIGHT, touching, 0, STRAIGHT, other, 0);
		expect(met).toHaveLength(2);
		expect(met[0]).toMatchObject({ u: 0 });
		expect(met[1].t).toBeGreaterThan(met[0].t);
		expect(met[1].t).toBeLessThan(1);
		const lying = [0.9999, 0.9e-6, 0, 0, 0, 0, 1.05, -0.0009];
		const along = segmentMeetings(STRAIGHT, touching, 0, STRAIGHT, lying, 0);
		expect(along.map(({ t, u }) => [t === 1, u === 0])).toEqual([
			[false, true],
			[false, false],
			[true, false]
		]);
	});
});

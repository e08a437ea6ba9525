import { describe, expect, test } from 'vitest';
import { blob, chance } from '../../../../tests/shapes';
import { TOLERANCE } from '../tolerance';
import { stretchesOf } from './alongside';
import { findMeetings, lastStretches } from './meetings';
import { ARC, CUBIC, PathBuilder, reversePath, STRAIGHT, STRIDE, transformPath, type Path } from './path';
import { nearestOn, partOf, pointAt } from './segment';

const SAME = TOLERANCE.coincidence;
const ring = blob(6, 3);
const away = (path: Path, x: number, y: number) => nearestOn(path.types[0], path.segs, 0, x, y).distance;
const alone = (path: Path, i: number): Path => ({
	closed: false,
	types: path.types.slice(i, i + 1),
	segs: path.segs.slice(STRIDE * i, STRIDE * (i + 1))
});
const between = (a: Path, b: Path) => stretchesOf(a.types[0], a.segs, 0, b.types[0], b.segs, 0);

describe('two lines that run along each other', () => {
	test('the whole of it where one was moved by less than counts, nothing where by more', () => {
		for (let i = 0; i < 6; i++) {
			const a = alone(ring, i);
			const near = between(a, transformPath(a, [1, 0, 0, 1, SAME / 4, SAME / 4]));
			expect(near).toHaveLength(1);
			expect(near[0].t1 - near[0].t0).toBeGreaterThan(0.999999);
			const turned = transformPath(a, [1 + 1e-6, 0, 0, 1 + 1e-6, 0, 0]);
			expect(between(a, turned)).toEqual([]);
		}
	});

	test('within a stretch they are as near as that, beyond it they are not; measured by the nearest place', () => {
		const rnd = chance(11);
		let whole = 0;
		for (let k = 0; k < 200; k++) {
			const a = alone(blob(4, 1 + Math.floor(rnd() * 1e6)), 1);
			const by = 10 ** (-6 + 3 * rnd());
			const moved = transformPath(a, [1, 0, 0, 1, by * (rnd() - 0.5), by * (rnd() - 0.5)]);
			const b = rnd() < 0.5 ? moved : reversePath(moved);
			for (const { t0, t1, u0, u1, before, after } of between(a, b)) {
				for (const w of [0, 0.3, 0.5, 0.8, 1]) {
					const p = pointAt(CUBIC, a.segs, 0, t0 + w * (t1 - t0));
					expect(away(b, p.x, p.y)).toBeLessThan(SAME);
				}
				for (const [t, u] of [
					[t0, u0],
					[t1, u1]
				]) {
					const p = pointAt(CUBIC, a.segs, 0, t);
					const q = pointAt(CUBIC, b.segs, 0, u);
					expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1.5 * SAME);
				}
				if (before === 0 || after === 0) continue;
				whole++;
				const beyond = 0.5 * (t1 - t0);
				for (const t of [t0 - beyond, t1 + beyond]) {
					if (t < 0 || t > 1) continue;
					const p = pointAt(CUBIC, a.segs, 0, t);
					expect(away(b, p.x, p.y)).toBeGreaterThan(0.7 * SAME);
				}
			}
		}
		expect(whole).toBeGreaterThan(20);
	});

	test('a straight on a straight cubic, an arc on a cubic that draws it, each for as long as they last', () => {
		const straight = new PathBuilder(0, 0).line(100, 20).open();
		const cubic = new PathBuilder(20, 4).cubic(40, 8, 55, 11, 60, 12).open();
		const [on] = between(straight, cubic);
		expect(on.t0).toBeCloseTo(0.2, 9);
		expect(on.t1).toBeCloseTo(0.6, 9);
		// A twelfth of a circle as one cubic is off by less than a millionth of its radius (Goldapp 1991).
		const arc = new PathBuilder(1, 0)
			.arc(Math.tan(Math.PI / 24), Math.cos(Math.PI / 6), Math.sin(Math.PI / 6))
			.open();
		const k = (4 / 3) * Math.tan(Math.PI / 24);
		const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
		const drawn = new PathBuilder(1, 0).cubic(1, k, c + k * s, s - k * c, c, s).open();
		const [round] = between(arc, drawn);
		expect([arc.types[0], drawn.types[0], straight.types[0]]).toEqual([ARC, CUBIC, STRAIGHT]);
		expect(round.t0).toBeCloseTo(0, 9);
		expect(round.t1).toBeCloseTo(1, 9);
	});

	test('meetings tell the ends of a common stretch, and that it is one', () => {
		const a = alone(ring, 2);
		const b: Path = { ...a, segs: partOf(CUBIC, a.segs, 0, 0.25, 0.75) };
		expect(findMeetings(CUBIC, a.segs, 0, CUBIC, b.segs, 0)).toBe(2);
		const [stretch] = lastStretches();
		expect(stretch.t0).toBeCloseTo(0.25, 6);
		expect(stretch.t1).toBeCloseTo(0.75, 6);
	});

	test('an arc of a radius beyond all rounding is answered all the same', () => {
		for (const bulge of [1e-7, 3e-8, 1e-8, -1e-8]) {
			const flat = new PathBuilder(0, 0).arc(bulge, 100, 0).open();
			const rise = (-200 / 3) * bulge;
			const cubic = new PathBuilder(0, 0).cubic(100 / 3, rise, 200 / 3, rise, 100, 0).open();
			expect(flat.types[0]).toBe(ARC);
			expect(between(flat, cubic)[0].t1).toBeCloseTo(1, 6);
			expect(between(cubic, flat)[0].t0).toBeCloseTo(0, 6);
		}
	});
});

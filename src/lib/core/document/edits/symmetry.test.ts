/** Laws of half and mirror: the whole is its own mirror image whatever is done with the half, and its ends keep to the axis. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../../tests/numbers';
import { edited } from '../../../../../tests/random-drawings';
import { blob } from '../../../../../tests/shapes';
import { CoreError } from '../../errors';
import { twoWayDistance } from '../../geometry/edge-tree';
import { mirrorAt, moveBy, turnBy } from '../../geometry/maps';
import { pathArea, pathLength } from '../../geometry/measure';
import { circlePath, PathBuilder, polygonPath, transformPath, type Path } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import { pointAt } from '../../geometry/segment';
import { completeEdit } from '../complete-edit';
import { newDrawing, type Drawing } from '../drawing';
import { inputLine } from '../graph';
import { bothHalves, footOn, sideOf, type Half } from '../half';
import { applyStep, makeStep, type Edit } from '../history';
import { isClosed, lineOf, madePlain, outlineFromPath, sourceLine, type Outline } from '../outline';
import { moveAnchors, setKind } from './anchors';
import { addFollower } from './made';
import { replaceLines } from './operations';
import { madeSymmetrical, sideDrawn, withAxis } from './symmetry';
import { transformOutline } from './transform';

const PLUMB: Half = { x: 0, y: 0, angle: 90 };
const outline = (path: Path): Outline =>
	outlineFromPath(path, { id: 'o', name: 'Mask', layer: 'cut', rank: 10 });
function drawing(o: Outline): Drawing {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map(empty.records).set(o.id, o) };
}
function after(d: Drawing, edit: Edit): Drawing {
	const step = makeStep(d, 'Edit', completeEdit(d, edit).edit);
	return step ? applyStep(d, step, 'forward') : d;
}
const mask = (d: Drawing) => d.records.get('o') as Outline;
/** How far a line lies from its own mirror image, mm. */
const askew = (path: Path, { x, y, angle }: Half): number =>
	twoWayDistance([path], [transformPath(path, mirrorAt(angle, x, y))], 1e-4, 0.02).distance;
const off = (o: Outline): number => {
	const { segs } = sourceLine(o);
	return Math.max(...[0, segs.length - 2].map((k) => Math.abs(sideOf(o.half!, segs[k], segs[k + 1]))));
};

describe('both halves', () => {
	test('half a circle is a circle', () => {
		const half = madeSymmetrical(outline(circlePath(0, 0, 10)), PLUMB, 'left');
		expect(half.closed).toBe(false);
		expect(isClosed(half)).toBe(true);
		expect(lineOf(half).closed).toBe(true);
		expect(Math.abs(pathArea(lineOf(half)))).toBeCloseTo(Math.PI * 100, 6);
		expect(pathLength(lineOf(half))).toBeCloseTo(20 * Math.PI, 6);
		expect(sideDrawn(half, PLUMB)).toBe('left');
	});

	test('of any blob at any axis through it, either side: its own mirror image, and the drawn half is what it was', () => {
		fc.assert(
			fc.property(fc.nat(200), numberIn(-90, 90), fc.constantFrom('left', 'right'), (seed, angle, side) => {
				const path = blob(9, seed + 1, 30);
				const axis = { x: 0, y: 0, angle };
				let half: Outline;
				try {
					half = madeSymmetrical(outline(path), axis, side, 'corner');
				} catch (error) {
					// An axis that parts it into several pieces is told.
					if (!(error instanceof CoreError)) throw error;
					return;
				}
				expect(askew(lineOf(half), axis)).toBeLessThan(1e-3);
				expect(off(half)).toBeLessThan(1e-9);
				// No place of the drawn half lies off what it was.
				const { segs, types } = sourceLine(half);
				for (let i = 0; i < types.length; i++) {
					const p = pointAt(types[i], segs, 8 * i, 0.37);
					expect(nearestOnPath(path, p.x, p.y, 100)!.distance).toBeLessThan(1e-6);
				}
			}),
			{ numRuns: 60 }
		);
	});

	test('ends far from the axis are led to it by straights, near ones are put on it', () => {
		const path = new PathBuilder(-5, 0).line(-20, 0).line(-20, 30).line(-0.5, 30).open();
		const half = madeSymmetrical(outline(path), PLUMB, 'left');
		const whole = lineOf(half);
		expect(whole.closed).toBe(true);
		expect(off(half)).toBeLessThan(1e-9);
		expect(Math.abs(pathArea(whole))).toBeCloseTo(40 * 30, 6);
	});

	test('what crosses the axis several times is refused, and what lies beside it, each in a sentence', () => {
		const zigzag = polygonPath([-10, 0, 10, 5, -10, 10, 10, 15, -10, 20, 15, 25, 15, -5]);
		expect(() => madeSymmetrical(outline(zigzag), PLUMB, 'left')).toThrow(/pieces on that side/);
		expect(() => madeSymmetrical(outline(circlePath(50, 0, 10)), PLUMB, 'left')).toThrow(
			/does not go through/
		);
	});

	test('smooth over the axis by angle: upright ends are, slanting ones stay corners', () => {
		const heart = new PathBuilder(0, 0).cubic(-30, 20, -30, 50, -12, 45).cubic(-6, 44, -4, 40, 0, 34).open();
		const half = madeSymmetrical(outline(heart), PLUMB, 'left');
		expect([half.marks[0], half.marks[3 * 2]]).toEqual([0, 0]);
		const egg = new PathBuilder(0, 0).cubic(-14, 1, -14, 29, 0, 30).open();
		const round = madeSymmetrical(outline(egg), PLUMB, 'left');
		expect([round.marks[0], round.marks[round.marks.length - 3]]).toEqual([1, 1]);
		const all = madeSymmetrical(outline(heart), PLUMB, 'left', 'smooth');
		const p = all.points;
		// Handles at both ends stand upright on the axis.
		expect(p[5]).toBeCloseTo(p[1], 9);
		expect(p[p.length - 7 + 3]).toBeCloseTo(p[p.length - 7 + 1], 9);
	});
});

describe('while it is edited', () => {
	test('300 edits at random: always its own mirror image, ends on the axis, ids unlike each other', () => {
		const move = fc.record({
			how: fc.nat(1000),
			at: fc.nat(1000),
			a: numberIn(0, 1),
			b: numberIn(0, 1)
		});
		let done = 0;
		fc.assert(
			fc.property(fc.array(move, { minLength: 30, maxLength: 30 }), (moves) => {
				const axis = { x: 1, y: 2, angle: 70 };
				let d = drawing(madeSymmetrical(outline(blob(12, 5, 40)), axis, 'left'));
				for (const m of moves) {
					let next: Outline | undefined;
					try {
						next = edited(mask(d), m);
					} catch (error) {
						if (!(error instanceof CoreError)) throw error;
						continue;
					}
					if (!next || next.anchors.length < 3 || next.closed || !next.half) continue;
					d = after(d, { put: [next] });
					const now = mask(d);
					done++;
					const { x: ax, y: ay, angle } = now.half!;
					expect(off(now)).toBeLessThan(1e-9);
					expect(new Set(now.anchors).size).toBe(now.anchors.length);
					const path = lineOf(now);
					const mirrored = transformPath(path, mirrorAt(angle, ax, ay));
					// Point by point: the last of the one is the first of the other.
					const points = (q: Path) =>
						Array.from({ length: q.types.length }, (_, i) => [q.segs[8 * i], q.segs[8 * i + 1]]);
					const [a, b] = [points(path), points(mirrored)];
					for (const [x, y] of a)
						expect(Math.min(...b.map(([u, v]) => Math.hypot(u - x, v - y)))).toBeLessThan(1e-6);
				}
			}),
			{ numRuns: 10 }
		);
		expect(done).toBeGreaterThan(100);
	});

	test('an end dragged away slides along the axis; made a corner its handle is free', () => {
		const half = madeSymmetrical(outline(circlePath(0, 0, 10)), PLUMB, 'left');
		const d = drawing(half);
		const id = half.anchors[0];
		const moved = after(d, { put: [moveAnchors(half, new Set([id]), 7, 3)] });
		const [x, y] = mask(moved).points;
		expect([x, y]).toEqual([0, half.points[1] + 3]);
		const corner = after(moved, { put: [setKind(mask(moved), new Set([id]), 'corner')] });
		expect(mask(corner).marks[0]).toBe(0);
		const smooth = after(corner, { put: [setKind(mask(corner), new Set([id]), 'smooth')] });
		const p = mask(smooth).points;
		expect(p[5]).toBeCloseTo(p[1], 9);
	});

	test('the axis moved: the half stays, its ends go there; moved whole, all goes along', () => {
		const half = madeSymmetrical(outline(circlePath(0, 0, 10)), PLUMB, 'left');
		const wide = withAxis(half, { x: 5, y: 0, angle: 90 });
		expect(askew(lineOf(wide), { x: 5, y: 0, angle: 90 })).toBeLessThan(1e-6);
		expect(off(wide)).toBeLessThan(1e-9);
		for (const map of [moveBy(3, 4), turnBy(40, 1, 2), mirrorAt(15, 0, 3)]) {
			const whole = transformOutline(half, map);
			const { distance } = twoWayDistance([lineOf(whole)], [transformPath(lineOf(half), map)], 1e-4, 0.02);
			expect(distance).toBeLessThan(1e-6);
			expect(off(whole)).toBeLessThan(1e-9);
		}
		// Scaled unevenly it is no half any more, and the line is what it was.
		const flat = transformOutline(half, [2, 0, 0, 1, 0, 0]);
		expect(flat.half).toBeUndefined();
		expect(Math.abs(pathArea(lineOf(flat)))).toBeCloseTo(Math.PI * 200, 0);
	});

	test('made plain it is what it was, to the bit; with rounds too', () => {
		const path = new PathBuilder(0, 0).line(-20, 0).line(-20, 30).line(0, 30).open();
		const half = madeSymmetrical(outline(path), PLUMB, 'left');
		const round: Outline = { ...half, rounds: [{ anchor: half.anchors[1], radius: 4 }] };
		for (const o of [half, round]) {
			const plain = madePlain(o);
			expect(plain.half).toBeUndefined();
			expect(plain.closed).toBe(true);
			expect([...lineOf(plain).segs]).toEqual([...lineOf(o).segs]);
		}
		expect(Math.abs(pathArea(lineOf(round)))).toBeCloseTo(1200 - 2 * (16 - 4 * Math.PI), 6);
	});

	test('what follows it sees the whole, each anchor of both halves by a name of its own that lasts', () => {
		const half = madeSymmetrical(outline(blob(9, 3, 30)), PLUMB, 'left');
		const { roles, path } = inputLine(half);
		expect(roles).toHaveLength(path.types.length);
		expect(new Set(roles).size).toBe(roles.length);
		let d = after(
			drawing(half),
			addFollower(
				'offset',
				{
					distance: 3,
					steps: 1,
					way: 'outside',
					join: 'round',
					miterLimit: 4,
					side: 'both',
					ends: 'round',
					band: false
				},
				[half],
				{ id: 'f', name: 'f', layer: 'cut', rank: 11 }
			)
		);
		const f = () => d.records.get('f') as Outline;
		expect(f().closed).toBe(true);
		expect(askew(lineOf(f()), PLUMB)).toBeLessThan(0.02);
		const before = [...f().anchors];
		d = after(d, { put: [moveAnchors(half, new Set([half.anchors[2]]), -0.5, 0.3)] });
		const kept = [...f().anchors].filter((id) => before.includes(id)).length;
		expect(kept).toBeGreaterThan(0.7 * before.length);
	});

	test('simplified or faired it stays a half; a half joined to be closed is one line', () => {
		const half = madeSymmetrical(outline(blob(9, 3, 30)), PLUMB, 'left');
		const d = drawing(half);
		const whole = transformPath(lineOf(half), moveBy(0, 0.01));
		const faired = after(
			d,
			replaceLines(d, new Map([['o', whole]]), () => 'kept', 0.1)
		);
		expect(mask(faired).half).toEqual(PLUMB);
		expect(askew(lineOf(mask(faired)), PLUMB)).toBeLessThan(1e-3);
		const { halves } = completeEdit(d, { put: [madePlain(half)] });
		expect(halves).toHaveLength(1);
	});

	test('the foot on level and plumb axes is exact', () => {
		expect(footOn(PLUMB, 3.3, 7.7)).toEqual({ x: 0, y: 7.7 });
		expect(footOn({ x: 1, y: 2, angle: 0 }, 3.3, 7.7)).toEqual({ x: 3.3, y: 2 });
		expect(
			bothHalves({ closed: false, types: new Uint8Array(0), segs: new Float64Array(0) }, PLUMB).types
		).toHaveLength(0);
	});
});

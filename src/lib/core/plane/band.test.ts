import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { unwrap } from '../errors';
import { flattenPath } from '../geometry/edge-tree';
import { pathArea, windingNumber } from '../geometry/measure';
import { circlePath, PathBuilder, polygonPath, STRIDE, type Path } from '../geometry/path';
import { nearestOnPath } from '../geometry/pick';
import { directionAt, pointAt, segmentLength } from '../geometry/segment';
import { band, type BandOptions } from './band';

const plain: BandOptions = { width: 4, taper: 'even', join: 'round', ends: 'butt' };
const area = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + pathArea(path), 0);
const covers = (paths: readonly Path[], x: number, y: number) =>
	paths.reduce((sum, path) => sum + windingNumber(flattenPath(path, 0.0005), x, y), 0) !== 0;
const straight = polygonPath([0, 0, 60, 0], false);

describe('areas by elementary geometry', () => {
	test('a straight that tapers is a trapezium; eased it has the same area; in steps it keeps its first width', () => {
		const widths = [
			{ at: 0, after: 2 },
			{ at: 1, before: 10 }
		];
		for (const taper of ['even', 'eased'] as const)
			expect(area(unwrap(band(straight, { ...plain, taper, widths })))).toBeCloseTo((60 * 12) / 2, 1);
		expect(area(unwrap(band(straight, { ...plain, taper: 'steps', widths })))).toBeCloseTo(120, 9);
	});
	test('a quarter of a ring whose width grows: its area by Guldin, the width as the angle', () => {
		const quarter = new PathBuilder(50, 0).arc(Math.tan(Math.PI / 8), 0, 50).open();
		const made = unwrap(
			band(quarter, {
				...plain,
				widths: [
					{ at: 0, after: 6 },
					{ at: 1, before: 12 }
				]
			})
		);
		expect(made).toHaveLength(1);
		// Half widths on either side are alike: the area is length times the middle width.
		expect(area(made)).toBeCloseTo((Math.PI / 2) * 50 * 9, 0);
		expect(made[0].types.length).toBeLessThan(9);
	});
	test('ends: square ones are half a width longer, round ones half a disc', () => {
		const widths = [
			{ at: 0, after: 4 },
			{ at: 1, before: 8 }
		];
		const butt = area(unwrap(band(straight, { ...plain, widths })));
		expect(area(unwrap(band(straight, { ...plain, ends: 'square', widths }))) - butt).toBeCloseTo(8 + 32, 6);
		expect(area(unwrap(band(straight, { ...plain, ends: 'round', widths }))) - butt).toBeCloseTo(
			(Math.PI * (4 + 16)) / 2,
			6
		);
	});
	test('corners: mitred, bevelled, round', () => {
		const angle = polygonPath([0, 0, 40, 0, 40, 40, 40, 80], false);
		const widths = [{ at: 3, before: 8 }];
		const of = (join: BandOptions['join']) =>
			area(
				unwrap(band(angle, { ...plain, width: 8, join, widths: [...widths, { at: 0, after: 8.000001 }] }))
			);
		expect(of('miter') - of('bevel')).toBeCloseTo(8, 3);
		expect(of('round') - of('bevel')).toBeCloseTo((Math.PI * 16) / 4 - 8, 3);
	});
	test('a width that jumps makes a shoulder; one of 0 parts the band', () => {
		const line = polygonPath([0, 0, 20, 0, 40, 0, 60, 0], false);
		const jump = unwrap(
			band(line, {
				...plain,
				widths: [
					{ at: 1, after: 10 },
					{ at: 2, before: 10 }
				]
			})
		);
		expect(jump).toHaveLength(1);
		expect(area(jump)).toBeCloseTo(40 * 4 + 20 * 10, 6);
		expect(jump[0].types).toHaveLength(12);
		const parted = unwrap(
			band(line, {
				...plain,
				widths: [
					{ at: 1, after: 0 },
					{ at: 2, before: 0 }
				]
			})
		);
		expect(parted).toHaveLength(2);
		expect(area(parted)).toBeCloseTo(160, 6);
	});
	test('a closed line becomes a ring, begun wherever the width is said; of one width it is what the offset gives', () => {
		const ring = unwrap(band(circlePath(0, 0, 30), plain));
		expect(area(ring)).toBeCloseTo(2 * Math.PI * 30 * 4, 3);
		const said = unwrap(band(circlePath(0, 0, 30), { ...plain, widths: [{ at: 1, before: 10, after: 10 }] }));
		expect(said).toHaveLength(2);
		expect(area(said)).toBeGreaterThan(area(ring));
		const box = polygonPath([0, 0, 40, 0, 40, 40, 0, 40], true);
		const framed = unwrap(
			band(box, { ...plain, join: 'miter', widths: [{ at: 2, before: 4, after: 4.0000001 }] })
		);
		expect(area(framed)).toBeCloseTo(44 * 44 - 36 * 36, 3);
	});
	test('no width, or one below 0, is refused', () => {
		expect(band(straight, { ...plain, width: 0 }).ok).toBe(false);
		expect(band(straight, { ...plain, widths: [{ at: 0, after: -1 }] }).ok).toBe(false);
	});
});

/** A wave with a curl in it that is tighter than half its width. */
const curl = new PathBuilder(0, 0)
	.cubic(20, 30, 30, 30, 30, 12)
	.cubic(30, 4, 24, 4, 24, 12)
	.cubic(24, 40, 60, 40, 70, 0)
	.open();

test('what it covers is what lies square to the line within half the width, and nothing beyond half the most', () => {
	const widths = [
		{ at: 0, after: 3 },
		{ at: 1, before: 8, after: 8 },
		{ at: 3, before: 2 }
	];
	const made = unwrap(band(curl, { ...plain, widths }));
	const lengths = Array.from(curl.types, (type, i) => segmentLength(type, curl.segs, STRIDE * i));
	const whole = lengths[1] + lengths[2];
	for (let i = 0; i < 3; i++)
		for (let t = 0.02; t < 1; t += 0.0413) {
			const p = pointAt(curl.types[i], curl.segs, STRIDE * i, t);
			const d = directionAt(curl.types[i], curl.segs, STRIDE * i, t);
			const along = segmentLength(curl.types[i], curl.segs, STRIDE * i, 0, t);
			const width =
				i === 0 ? 3 + (5 * along) / lengths[0] : 8 - (6 * (along + (i === 2 ? lengths[1] : 0))) / whole;
			for (const side of [1, -1]) {
				const h = (side * width) / 2;
				const inner = 0.98 * h;
				expect(covers(made, p.x - d.y * inner, p.y + d.x * inner)).toBe(true);
				const outer = { x: p.x - d.y * 1.02 * h, y: p.y + d.x * 1.02 * h };
				const near = nearestOnPath(curl, outer.x, outer.y, 10)!;
				if (near.distance > 4.0001) expect(covers(made, outer.x, outer.y)).toBe(false);
			}
		}
});

test('random lines, widths, corners and ends: it comes, is closed, and covers the line wherever it has a width', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -40, max: 40 })), {
				minLength: 3,
				maxLength: 6
			}),
			fc.array(numberIn(0.5, 9), { minLength: 12, maxLength: 12 }),
			fc.constantFrom('even' as const, 'eased' as const, 'steps' as const),
			fc.constantFrom('round' as const, 'miter' as const, 'bevel' as const),
			fc.constantFrom('butt' as const, 'square' as const, 'round' as const),
			fc.boolean(),
			fc.boolean(),
			(raw, mm, taper, join, ends, closed, curved) => {
				const points = raw.filter(([x, y], i) => i === 0 || x !== raw[i - 1][0] || y !== raw[i - 1][1]);
				if (points.length < 3) return;
				const builder = new PathBuilder(...points[0]);
				points.slice(1).forEach(([x, y], i) => {
					const [a, b] = points[i];
					if (curved && i % 2) builder.cubic(a + 9, b + 14, x - 12, y + 7, x, y);
					else builder.line(x, y);
				});
				const path = closed ? builder.close() : builder.open();
				const count = path.types.length + (closed ? 0 : 1);
				const widths = Array.from({ length: count }, (_, at) => ({
					at,
					before: mm[2 * at],
					after: mm[2 * at + 1]
				}));
				const made = band(path, { width: 3, widths, taper, join, ends });
				if (!made.ok) throw new Error(made.problem.sentence);
				expect(made.value.every((p) => p.closed)).toBe(true);
				for (let i = 0; i < path.types.length; i++) {
					const p = pointAt(path.types[i], path.segs, STRIDE * i, 0.37);
					expect(covers(made.value, p.x, p.y)).toBe(true);
				}
			}
		),
		{ numRuns: 150, seed: 7 }
	);
});

/** Curves given otherwise: kept as what they are, changed at their places, carried, turned into each other, made plain. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../../tests/shapes';
import { twoWayDistance } from '../../geometry/edge-tree';
import { moveBy, turnBy } from '../../geometry/maps';
import { polygonPath, transformPath } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import { completeEdit } from '../complete-edit';
import { newDrawing, type Drawing } from '../drawing';
import { madeAfresh } from '../graph';
import { applyStep, makeStep, type Edit } from '../history';
import { unwrap } from '../../errors';
import { lineOf, outlineFromPath, type Outline } from '../outline';
import '../recipes/reckonings';
import { formulaPlace } from '../recipes/reckonings';
import { RECIPES, recipeType } from '../recipes/recipes';
import type { PlacesOf } from '../recipes/recipe-type';
import { asPulled, asThrough, turnedInto } from './given-turned';
import { addFollower, givenOutline, makePlain, withGiven } from './made';
import { moveAnchors } from './anchors';
import { copiesOf } from './copies';
import { placeOutlines, transformOutline } from './transform';

const facts = (id: string) => ({ id, name: id, layer: 'cut', rank: 1 });
const ring = (n: number, seed = 1) =>
	Array.from({ length: n }, (_, i) => {
		const a = (2 * Math.PI * i) / n;
		const r = 40 + 12 * Math.sin(seed * 7 + i * 2.3);
		return { id: i + 1, x: r * Math.cos(a), y: r * Math.sin(a) };
	});
const through = (n = 8, more: object = {}) =>
	givenOutline(
		'through',
		{ places: ring(n), closed: true, pace: 'chord', drift: 0, ...more } as never,
		facts('curve')
	);
const withOne = (outline: Outline): Drawing => {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map(empty.records).set(outline.id, outline) };
};
const apply = (drawing: Drawing, edit: Edit): Drawing => {
	const step = makeStep(drawing, 'x', completeEdit(drawing, edit).edit);
	return step ? applyStep(drawing, step, 'forward') : drawing;
};
const off = (a: Outline, b: Outline) => twoWayDistance([lineOf(a)], [lineOf(b)], 0.005).distance;
const conic = { start: { x: 0, y: 0 }, shoulder: { x: 20, y: 30 }, end: { x: 50, y: 0 }, fullness: 0.4 };
const wave = {
	form: 'x and y' as const,
	first: '10 * t',
	second: 'high * sin(t)',
	from: 0,
	to: 6,
	degrees: false,
	closed: false,
	sizes: { high: 8 },
	x: 5,
	y: 7,
	angle: 20,
	scale: 1
};
const all = (): Outline[] => [
	through(),
	through(7, { closed: false }),
	givenOutline('pulled', { vertices: ring(9, 2), degree: 3, closed: true }, facts('pulled')),
	givenOutline('conic', conic, facts('arch')),
	givenOutline('formula', wave, facts('wave'))
];

describe('places', () => {
	test('anchors of a curve through points have the points’ ids, also after one more is put in and one is taken out', () => {
		const outline = through();
		expect([...outline.anchors]).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
		const kind = RECIPES.through.places!;
		const settings = outline.recipe!.settings as never;
		const put = kind.put!(settings, { x: 45, y: 12 })!;
		const more = withGiven(outline, put.settings);
		if (!more.ok) throw new Error(more.problem.sentence);
		expect([...more.value.anchors].sort((a, b) => a - b)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
		// Put in on the line: it hardly moves.
		expect(off(outline, more.value)).toBeLessThan(0.6);
		const less = withGiven(more.value, kind.without!(put.settings, put.key)!);
		expect(less.ok && off(outline, less.value)).toBeLessThan(1e-9);
		expect(kind.without!({ ...(settings as object), places: ring(3) } as never, '1')).toBeUndefined();
	});
	test('a vertex put in leaves a pulled curve where it is; ids stay unlike each other', () => {
		fc.assert(
			fc.property(
				fc.boolean(),
				fc.integer({ min: 1, max: 5 }),
				fc.array(fc.integer({ min: 0, max: 359 }), { minLength: 1, maxLength: 6 }),
				(closed, degree, angles) => {
					let outline = givenOutline('pulled', { vertices: ring(9, 2), degree, closed }, facts('p'));
					const before = outline;
					for (const angle of angles) {
						const at = { x: 40 * Math.cos(angle), y: 40 * Math.sin(angle) };
						const put = RECIPES.pulled.places!.put!(outline.recipe!.settings as never, at);
						if (!put) continue;
						const ids = put.settings.vertices.map((v) => v.id);
						expect(new Set(ids).size).toBe(ids.length);
						expect(RECIPES.pulled.holds(put.settings as never)).toBe(true);
						const made = withGiven(outline, put.settings);
						if (!made.ok) throw new Error(made.problem.sentence);
						outline = made.value;
					}
					expect(off(before, outline)).toBeLessThan(0.012);
				}
			),
			{ numRuns: 40 }
		);
	});
	test('the degree of a pulled curve is changed so that the line stays near', () => {
		const outline = givenOutline('pulled', { vertices: ring(12, 2), degree: 3, closed: true }, facts('p'));
		for (const degree of [2, 4, 5]) {
			const settings = RECIPES.pulled.typed!(outline.recipe!.settings as never, 'degree', degree);
			expect(settings).toMatchObject({ degree });
			const made = withGiven(outline, settings);
			if (!made.ok) throw new Error(made.problem.sentence);
			expect(off(outline, made.value)).toBeLessThan(2.5);
		}
	});
	test('what each kind says of itself holds; what is spoilt does not', () => {
		for (const outline of all()) {
			const type = recipeType(outline.recipe!);
			const settings = outline.recipe!.settings as unknown as Record<string, unknown>;
			expect(type.holds(settings)).toBe(true);
			for (const name of Object.keys(settings).filter((n) => n !== 'spans'))
				expect([name, type.holds({ ...settings, [name]: 'x y' })]).toEqual([
					name,
					name === 'first' || name === 'second'
				]);
			const kind = type.places as PlacesOf<unknown> | undefined;
			for (const place of kind?.of(settings) ?? []) {
				const moved = kind!.moved(settings, place.key, { x: 3, y: 4 });
				expect(type.holds(moved as never)).toBe(true);
				expect(kind!.of(moved).find(({ key }) => key === place.key)).toMatchObject({
					x: expect.closeTo(3, 9),
					y: expect.closeTo(4, 9)
				});
			}
		}
	});
});

test('moved, turned, mirrored, scaled: the recipe goes along, and what it gives is the line so moved', () => {
	const maps = [turnBy(33, 5, 6), [2, 0, 0, 2, 7, -3], [-1, 0, 0, 1, 50, 0]] as const;
	for (const outline of all())
		for (const map of maps) {
			const carried = transformOutline(outline, map as never);
			expect(carried.recipe?.kind).toBe(outline.recipe!.kind);
			const fresh = madeAfresh(withOne(carried)).records.get(outline.id) as Outline;
			const moved = outlineFromPath(transformPath(lineOf(outline), map as never), facts('m'));
			expect(off(fresh, moved)).toBeLessThan(0.02);
		}
	// Drawn out one way: a curve through points would be another, a pulled one and a conic are the same.
	const wide = [1.7, 0, 0, 1, 0, 0] as const;
	expect(transformOutline(through(), wide as never).recipe).toBeUndefined();
	for (const kept of [all()[2], all()[3]]) {
		const carried = transformOutline(kept, wide as never);
		expect(carried.recipe).toBeDefined();
		const moved = outlineFromPath(transformPath(lineOf(kept), wide as never), facts('m'));
		expect(off(madeAfresh(withOne(carried)).records.get(kept.id) as Outline, moved)).toBeLessThan(0.02);
	}
});

describe('turned into each other', () => {
	test('a curve through points is a pulled one exactly; back again within what is told', () => {
		for (const closed of [true, false]) {
			const curve = through(8, { closed });
			const pulled = asPulled(curve);
			expect(pulled.drift).toBeLessThan(0.005);
			expect(pulled.settings.vertices).toHaveLength(closed ? 8 : 10);
			const next = turnedInto(curve, 'pulled', pulled.settings);
			const back = asThrough(next);
			expect(off(turnedInto(next, 'through', back.settings), curve)).toBeLessThan(back.drift + 0.01);
			expect(back.drift).toBeLessThan(1);
		}
	});
	test('a drawn line becomes either, near enough; corners are refused for one through points', () => {
		const drawn = outlineFromPath(blob(9, 4, 60), facts('blob'));
		const pulled = asPulled(drawn);
		expect(pulled.drift).toBeLessThan(0.05);
		expect(off(turnedInto(drawn, 'pulled', pulled.settings), drawn)).toBeCloseTo(pulled.drift, 2);
		expect(asThrough(drawn).drift).toBeLessThan(4);
		expect(() => asThrough(outlineFromPath(polygonPath([0, 0, 30, 0, 30, 30, 0, 30]), facts('s')))).toThrow(
			/corners/
		);
	});
	test('made plain: the same line to the bit', () => {
		for (const outline of all()) {
			const [plain] = makePlain(withOne(outline), [outline]).put as Outline[];
			expect(plain.recipe).toBeUndefined();
			expect(lineOf(plain)).toEqual(lineOf(outline));
		}
	});
});

test('near points instead of through them: fewer anchors, no point farther away than said', () => {
	const places = Array.from({ length: 60 }, (_, i) => ({
		id: i + 1,
		x: 2 * i,
		y: 20 * Math.sin(i / 9) + 0.15 * Math.sin(i * 12.9)
	}));
	const near = givenOutline('through', { places, closed: false, pace: 'chord', drift: 0.4 }, facts('near'));
	expect(near.anchors.length).toBeLessThan(20);
	for (const { x, y } of places)
		expect(nearestOnPath(lineOf(near), x, y, 9)!.distance).toBeLessThanOrEqual(0.4 + 1e-6);
});

describe('formulas (curvature of named curves, from textbooks of differential geometry)', () => {
	test('a circle, a cycloid, an involute and a spiral lie where their formulas have them', () => {
		const made = (settings: object) =>
			givenOutline('formula', { ...wave, sizes: {}, angle: 0, x: 0, y: 0, ...settings } as never, facts('f'));
		const circle = made({
			first: '20 * cos(t)',
			second: '20 * sin(t)',
			from: 0,
			to: 360,
			degrees: true,
			closed: true
		});
		expect(circle.closed).toBe(true);
		expect(off(circle, outlineFromPath(lineOf(circle), facts('c')))).toBe(0);
		for (let i = 0; i < 50; i++) {
			const p = { x: 20 * Math.cos(i), y: 20 * Math.sin(i) };
			expect(nearestOnPath(lineOf(circle), p.x, p.y, 1)!.distance).toBeLessThan(0.006);
		}
		// Length of an arch of a cycloid is 8 r (Wren 1658); of the involute of a circle r t² / 2.
		const cycloid = {
			first: '5 * (t - sin(t))',
			second: '5 * (1 - cos(t))',
			from: 0.001,
			to: 2 * Math.PI - 0.001
		};
		expect(length(made(cycloid))).toBeCloseTo(40, 1);
		const involute = {
			first: '4 * (cos(t) + t * sin(t))',
			second: '4 * (sin(t) - t * cos(t))',
			from: 0,
			to: 5
		};
		expect(length(made(involute))).toBeCloseTo(4 * 12.5, 1);
		expect(length(made({ form: 'radius', first: '3 * a', from: 0, to: 4 }))).toBeCloseTo(
			// r = c a: c/2 (a sqrt(1+a²) + asinh a)
			1.5 * (4 * Math.sqrt(17) + Math.asinh(4)),
			1
		);
	});
	test('what gives no number, no line or no closed one is refused in a sentence', () => {
		const refused = (settings: object) => {
			const made = withGiven(givenOutline('formula', wave, facts('f')), { ...wave, ...settings } as never);
			return made.ok ? '' : made.problem.sentence;
		};
		expect(refused({ first: '1 / (t - 3)' })).toMatch(/no number|can't be drawn/);
		expect(refused({ first: 'wide * t' })).toMatch(/"wide" is no name/);
		expect(refused({ closed: true })).toMatch(/do not meet/);
		expect(refused({ to: 0 })).toMatch(/same number/);
		expect(refused({ first: 'sqrt(t - 2)' })).toMatch(/no number at t = /);
		expect(formulaPlace(wave)(0).x).toBeCloseTo(5, 12);
	});
});

test('in the drawing: an edit is one step of records, made afresh it is the same to the bit', () => {
	for (const outline of all()) {
		const drawing = withOne(outline);
		const fresh = madeAfresh(drawing).records.get(outline.id) as Outline;
		expect(lineOf(fresh)).toEqual(lineOf(outline));
		const type = recipeType(outline.recipe!);
		const kind = type.places as PlacesOf<unknown> | undefined;
		if (!kind) continue;
		const [place] = kind.of(outline.recipe!.settings);
		const made = withGiven(
			outline,
			kind.moved(outline.recipe!.settings, place.key, { x: place.x + 1, y: place.y }) as never
		);
		if (!made.ok) throw new Error(made.problem.sentence);
		const done = completeEdit(drawing, { put: [made.value] });
		expect(done.plain).toEqual([]);
		expect((done.edit.put![0] as Outline).recipe).toEqual(made.value.recipe);
	}
});

const length = (outline: Outline): number => {
	const path = lineOf(outline);
	let sum = 0;
	for (let i = 0; i < path.types.length; i++) {
		const at = 8 * i;
		let [px, py] = [path.segs[at], path.segs[at + 1]];
		for (let k = 1; k <= 40; k++) {
			const t = k / 40;
			const s = 1 - t;
			const b = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
			const [x, y] = [0, 1].map((c) => b.reduce((v, w, j) => v + w * path.segs[at + 2 * j + c], 0));
			sum += Math.hypot(x - px, y - py);
			[px, py] = [x, y];
		}
	}
	return sum;
};

describe('a direction bound to a line', () => {
	const bar = outlineFromPath(polygonPath([0, 30, 60, 30], false), facts('bar'));
	const base = withOne(bar);
	const places = [
		{ id: 1, x: 0, y: 0 },
		{ id: 2, x: 30, y: 20, direction: 0, along: { input: 0, turn: 0 } },
		{ id: 3, x: 60, y: 0 }
	];
	const curve = givenOutline('through', { places, closed: false, pace: 'chord', drift: 0 }, facts('curve'));
	const bound = unwrap(withGiven(curve, curve.recipe!.settings, base.records, [{ record: 'bar' }]));
	const start = apply(base, { put: [bound] });
	const get = (drawing: Drawing, id: string) => drawing.records.get(id) as Outline;
	const directionAtMiddle = (drawing: Drawing) => {
		const { segs } = lineOf(get(drawing, 'curve'));
		return (Math.atan2(segs[11] - segs[9], segs[10] - segs[8]) * 180) / Math.PI;
	};
	test('turns with the line, stays when the curve itself is moved by hand, and undo gives the bits back', () => {
		expect(directionAtMiddle(start)).toBeCloseTo(0, 9);
		const turned = apply(start, { put: [moveAnchors(get(start, 'bar'), new Set([bar.anchors[1]]), 0, 30)] });
		expect(directionAtMiddle(turned)).toBeCloseTo((Math.atan2(30, 60) * 180) / Math.PI, 6);
		const moved = apply(turned, placeOutlines(turned, [get(turned, 'curve')], turnBy(40, 10, 10)));
		expect(get(moved, 'curve').recipe?.inputs).toHaveLength(1);
		expect(directionAtMiddle(moved)).toBeCloseTo((Math.atan2(30, 60) * 180) / Math.PI, 6);
		expect([...get(madeAfresh(moved), 'curve').points]).toEqual([...get(moved, 'curve').points]);
	});
	test('without the line it goes on with the direction that it had; so does a copy of it alone', () => {
		const turned = apply(start, { put: [moveAnchors(get(start, 'bar'), new Set([bar.anchors[1]]), 0, 30)] });
		const alone = apply(turned, { remove: ['bar'] });
		const own = get(alone, 'curve').recipe!;
		expect([own.kind, own.inputs.length]).toEqual(['through', 0]);
		expect(directionAtMiddle(alone)).toBeCloseTo(directionAtMiddle(turned), 6);
		const copied = apply(
			turned,
			copiesOf(turned, [get(turned, 'curve')], moveBy(0, 90), () => 'copy')
		);
		expect(get(copied, 'copy').recipe).toMatchObject({ kind: 'through', inputs: [] });
		const both = apply(
			turned,
			copiesOf(
				turned,
				[get(turned, 'curve'), get(turned, 'bar')],
				moveBy(0, 90),
				(() => {
					let k = 0;
					return () => `c${++k}`;
				})()
			)
		);
		expect(get(both, 'c1').recipe!.inputs).toEqual([{ record: 'c2' }]);
	});
	test('a line cannot go along what is made from it', () => {
		const ring = addFollower(
			'offset',
			{
				distance: 2,
				steps: 1,
				way: 'outside',
				join: 'round',
				miterLimit: 4,
				side: 'left',
				ends: 'round',
				band: false
			},
			[get(start, 'curve')],
			facts('beside')
		);
		const drawing = apply(start, ring);
		const circle = unwrap(withGiven(curve, curve.recipe!.settings, drawing.records, [{ record: 'beside' }]));
		expect(() =>
			apply(drawing, { put: [{ ...circle, recipe: { ...circle.recipe!, made: '' } as never }] })
		).toThrow(/made from/);
	});
});

/** What hangs on the rack, in which order, what is found; layers, names and purposes survive whatever is edited. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { edited } from '../../../../tests/random-drawings';
import { blob } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { circlePath, polygonPath, type Path } from '../geometry/path';
import { completeEdit } from './complete-edit';
import { newDrawing, type Drawing, type DrawingRecord, type Mark } from './drawing';
import { grouped } from './edits/groups';
import { putBefore, putOnLayer } from './edits/order';
import { addRepeat } from './edits/repeats';
import { applyStep, makeStep, type Edit } from './history';
import { outlineFromPath, type Outline } from './outline';
import { matchingThings, RACK_ORDERS, rackOf, sortedThings } from './rack';

const line = (id: string, path: Path, layer = 'cut', more: Partial<Outline> = {}): Outline => ({
	...outlineFromPath(path, { id, name: id, layer, rank: 10 + id.length }),
	...more
});
const SCORE: DrawingRecord = {
	type: 'layer',
	id: 'score',
	rank: 2,
	name: 'Folds',
	purpose: 'score',
	colour: '#aa0000'
};
function drawing(...records: DrawingRecord[]): Drawing {
	const empty = newDrawing('d', 'd');
	return {
		...empty,
		records: new Map([...empty.records, ['score', SCORE], ...records.map((r) => [r.id, r] as const)])
	};
}
function after(d: Drawing, edit: Edit): Drawing {
	const step = makeStep(d, 'Edit', completeEdit(d, edit).edit);
	return step ? applyStep(d, step, 'forward') : d;
}
const plate = line('plate', polygonPath([0, 0, 40, 0, 40, 20, 0, 20]));
const eye = line('eye', circlePath(10, 10, 3));
const pupil = line('pupil', circlePath(10, 10, 1));
const fold = line(
	'fold',
	{ closed: false, types: Uint8Array.of(0), segs: Float64Array.of(50, 0, 0, 0, 0, 0, 90, 0) },
	'score'
);
const mark: Mark = { type: 'mark', id: 'm', rank: 40, layer: 'cut', x: 5, y: 5 };

describe('the rack', () => {
	test('a piece hangs with its holes as one, an island by itself, a line and a mark as what they are', () => {
		const d = drawing(plate, eye, pupil, fold, mark);
		const things = rackOf(d);
		expect(things.map(({ name, kind, holes }) => [name, kind, holes])).toEqual([
			['fold', 'line', 0],
			['plate', 'piece', 1],
			['pupil', 'piece', 0],
			['Mark', 'mark', 0]
		]);
		const [, one] = things;
		expect(one.ids).toEqual(['plate', 'eye']);
		expect(one.parts.map(({ name }) => name)).toEqual(['eye']);
		expect(one.size).toBeCloseTo(40, 9);
		expect(rackOf(d)).toBe(things);
	});

	test('groups and repeats hang as one thing; a group lists its parts', () => {
		let d = drawing(plate, eye, pupil, fold);
		d = after(d, grouped(d, ['plate', 'eye', 'fold'], { id: 'g', name: 'Body' }));
		d = after(
			d,
			addRepeat(
				d,
				[pupil],
				{ way: 'rows', columns: 3, rows: 2, right: 5, up: 5, angle: 0, stagger: 0 },
				{ id: 'r', name: 'Dots' }
			)
		);
		const things = rackOf(d);
		const body = things.find(({ kind }) => kind === 'group')!;
		expect(body).toMatchObject({ name: 'Body', purpose: 'mixed', holes: 1 });
		expect(body.ids).toHaveLength(3);
		expect(body.parts.map(({ name }) => name).sort()).toEqual(['fold', 'plate']);
		expect(things.find(({ kind }) => kind === 'repeat')).toMatchObject({
			name: 'Dots',
			anchors: 6,
			ids: ['r', 'pupil']
		});
	});

	test('sorted by each, the same things; twice is once', () => {
		const d = drawing(plate, eye, fold, mark, line('egg', blob(40, 3, 9)));
		for (const order of RACK_ORDERS) {
			const sorted = sortedThings(rackOf(d), order);
			expect(new Set(sorted)).toEqual(new Set(rackOf(d)));
			expect(sortedThings(sorted, order)).toEqual(sorted);
		}
		expect(sortedThings(rackOf(d), 'anchors')[0].name).toBe('egg');
		expect(sortedThings(rackOf(d), 'size')[0].name).toMatch(/plate|fold/);
		expect(sortedThings(rackOf(d), 'purpose').at(-1)?.purpose).toBe('score');
	});

	test('found by name, purpose, layer, colour, state; holes too; every word counts', () => {
		const d = drawing(
			plate,
			eye,
			fold,
			line('egg', blob(9, 3, 9), 'cut', { colour: '#00ff00', hidden: true })
		);
		const names = (typed: string) => matchingThings(d, rackOf(d), typed).map(({ name }) => name);
		expect(names('eye')).toEqual(['eye']);
		expect(names('FOLDS')).toEqual(['fold']);
		expect(names('score line')).toEqual(['fold']);
		expect(names('#00ff00')).toEqual(['egg']);
		expect(names('hidden cut')).toEqual(['egg']);
		expect(names('plate score')).toEqual([]);
		expect(names('  ')).toHaveLength(rackOf(d).length);
	});
});

describe('where things lie among each other', () => {
	test('put before another one they lie there in their own order, others keep their places', () => {
		fc.assert(
			fc.property(fc.uniqueArray(fc.nat(9), { minLength: 1, maxLength: 5 }), fc.nat(10), (moved, at) => {
				const outlines = Array.from({ length: 10 }, (_, i) => ({
					...line(`o${i}`, circlePath(9 * i, 0, 3)),
					rank: 5 + i
				}));
				const d = drawing(...outlines);
				const ids = new Set(moved.map((i) => `o${i}`));
				const before = at < 10 && !ids.has(`o${at}`) ? `o${at}` : undefined;
				const now = after(d, putBefore(d, ids, before));
				const order = [...now.records.values()]
					.filter((r) => r.type === 'outline')
					.sort((a, b) => a.rank - b.rank)
					.map(({ id }) => id);
				const rest = outlines.map(({ id }) => id).filter((id) => !ids.has(id));
				const moving = outlines.map(({ id }) => id).filter((id) => ids.has(id));
				const k = before ? rest.indexOf(before) : rest.length;
				expect(order).toEqual([...rest.slice(0, k), ...moving, ...rest.slice(k)]);
			})
		);
	});

	test('put on a layer; what lies there already is no step', () => {
		const d = drawing(plate, eye, mark);
		const now = after(d, putOnLayer(d, ['plate', 'm'], 'score'));
		expect(
			rackOf(now)
				.filter(({ layer }) => layer === 'score')
				.map(({ id }) => id)
				.sort()
		).toEqual(['m', 'plate']);
		expect(putOnLayer(now, ['plate'], 'score').put).toEqual([]);
	});
});

test('layers, names, purposes, colours and groups survive 300 edits at random', () => {
	const move = fc.record({
		how: fc.nat(1000),
		at: fc.nat(1000),
		a: numberIn(0, 1),
		b: numberIn(0, 1),
		which: fc.nat(5)
	});
	const facts = ({ name, layer, purpose, colour, group, rank }: Outline) => ({
		name,
		layer,
		purpose,
		colour,
		group,
		rank
	});
	fc.assert(
		fc.property(fc.array(move, { minLength: 300, maxLength: 300 }), (moves) => {
			const outlines = Array.from({ length: 6 }, (_, i) =>
				line(`o${i}`, blob(9, i + 1, 20), i % 2 ? 'score' : 'cut', {
					name: `Part ${i}`,
					colour: i % 3 ? '#123456' : '#654321',
					...(i === 4 ? { purpose: 'engrave' as const } : {})
				})
			);
			let d = drawing(...outlines);
			d = after(d, grouped(d, ['o1', 'o2'], { id: 'g', name: 'Pair' }));
			const was = new Map(
				[...d.records].flatMap(([id, r]) => (r.type === 'outline' ? [[id, facts(r)] as const] : []))
			);
			let done = 0;
			for (const { which, ...m } of moves) {
				const record = d.records.get(`o${which}`);
				if (record?.type !== 'outline') continue;
				let next: Outline | undefined;
				try {
					next = edited(record, m);
				} catch (error) {
					if (!(error instanceof CoreError)) throw error;
				}
				if (!next || next.anchors.length < 4) continue;
				d = after(d, { put: [next] });
				done++;
			}
			expect(done).toBeGreaterThan(100);
			for (const [id, before] of was) expect(facts(d.records.get(id) as Outline)).toEqual(before);
		}),
		{ numRuns: 3 }
	);
});

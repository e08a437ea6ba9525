/** Moved by hand on a sheet: never nearer to another than the gap, as near as it when stopped; the exact distance of the curves tells. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { newDrawing, type Drawing, type DrawingRecord, type Sheet } from '../document/drawing';
import { applyStep, makeStep } from '../document/history';
import { lineOf, outlineFromPath, type Outline } from '../document/outline';
import { twoWayDistance } from '../geometry/edge-tree';
import { circlePath, polygonPath, transformPath, type Path } from '../geometry/path';
import { boxOf, nearestOnPath } from '../geometry/pick';
import { pointAt } from '../geometry/segment';
import { blob } from '../../../../tests/shapes';
import { AmongOthers, amongOthers, closeUp } from './by-hand';

const sheet: Sheet = {
	type: 'sheet',
	id: 's',
	rank: 1,
	name: 'Board',
	x: 0,
	y: 0,
	width: 400,
	height: 300,
	margin: 5
};
const line = (id: string, path: Path) => outlineFromPath(path, { id, name: id, layer: 'cut', rank: 10 });
function drawing(...records: DrawingRecord[]): Drawing {
	const empty = newDrawing('d', 'd');
	return {
		...empty,
		records: new Map([...empty.records, ...[sheet, ...records].map((r) => [r.id, r] as const)])
	};
}
const moved = (path: Path, x: number, y: number) => transformPath(path, [1, 0, 0, 1, x, y]);
/** The least distance of two lines: by places along one of them, each to the nearest of the other. */
function apart(a: Path, b: Path): number {
	let least = Infinity;
	for (let i = 0; i < a.types.length; i++)
		for (let k = 0; k < 60; k++) {
			const p = pointAt(a.types[i], a.segs, 8 * i, k / 60);
			least = Math.min(least, nearestOnPath(b, p.x, p.y, 1000)!.distance);
		}
	return least;
}
const among = (d: Drawing, id: string, gap: number): AmongOthers => amongOthers(d, new Set([id]), gap)!;

describe('a piece dragged on the sheet', () => {
	test('is stopped at the gap, and slides along what stops it', () => {
		const d = drawing(
			line('a', polygonPath([50, 50, 80, 50, 80, 80, 50, 80])),
			line('b', polygonPath([120, 20, 150, 20, 150, 200, 120, 200]))
		);
		const a = among(d, 'a', 2);
		const straight = a.stopped({ x: 0, y: 0 }, { x: 40, y: 0 });
		expect(straight.x).toBeGreaterThan(37.8);
		expect(straight.x).toBeLessThanOrEqual(38.001);
		const slid = a.stopped({ x: 30, y: 0 }, { x: 45, y: 60 });
		expect(slid.y).toBeCloseTo(60, 3);
		expect(slid.x).toBeLessThanOrEqual(38.001);
		// Beyond the other one there is room again.
		expect(a.stopped({ x: 0, y: 0 }, { x: 110, y: 0 })).toEqual({ x: 110, y: 0 });
	});

	test('never nearer than the gap, wherever it is dragged: curves among curves', () => {
		fc.assert(
			fc.property(
				fc.nat(500),
				fc.array(fc.tuple(numberIn(-60, 60), numberIn(-60, 60)), { minLength: 2, maxLength: 6 }),
				(seed, way) => {
					const own = moved(blob(9, seed + 1, 14), 200, 150);
					const others = [
						moved(blob(8, seed + 2, 16), 245, 150),
						moved(blob(7, seed + 3, 16), 160, 170),
						moved(circlePath(0, 0, 12), 205, 105)
					];
					const d = drawing(line('own', own), ...others.map((path, i) => line(`o${i}`, path)));
					const a = among(d, 'own', 1.5);
					if (!a.isFree(0, 0)) return;
					let at = { x: 0, y: 0 };
					for (const [x, y] of way) {
						at = a.stopped(at, { x: at.x + x, y: at.y + y });
						const here = moved(own, at.x, at.y);
						for (const other of others) expect(apart(here, other)).toBeGreaterThan(1.5 - 0.01);
					}
				}
			),
			{ numRuns: 25 }
		);
	});

	test('what lies in another already is not held fast; beside every sheet nothing stops it', () => {
		const d = drawing(
			line('a', circlePath(100, 100, 20)),
			line('b', circlePath(110, 100, 20)),
			line('c', circlePath(900, 900, 5))
		);
		expect(among(d, 'a', 1).stopped({ x: 0, y: 0 }, { x: 3, y: 3 })).toEqual({ x: 3, y: 3 });
		expect(amongOthers(d, new Set(['c']), 1)).toBeUndefined();
	});
});

describe('closing up', () => {
	test('one press brings a piece down and to the left, to the margin and its neighbours at the gap', () => {
		const d = drawing(
			line('a', polygonPath([5, 5, 55, 5, 55, 45, 5, 45])),
			line('b', polygonPath([120, 100, 150, 100, 150, 130, 120, 130]))
		);
		const step = makeStep(d, 'Close up', closeUp(d, new Set(['b']), 2))!;
		const box = boxOf(lineOf(applyStep(d, step, 'forward').records.get('b') as Outline));
		expect(box.y0).toBeCloseTo(5, 2);
		expect(box.x0).toBeCloseTo(57, 0);
		expect(box.x0).toBeGreaterThanOrEqual(57 - 0.01);
	});

	test('pieces keep their shape, none comes nearer than the gap, none lies over the margin', () => {
		fc.assert(
			fc.property(fc.nat(300), (seed) => {
				const paths = Array.from({ length: 5 }, (_, i) =>
					moved(blob(8, 7 * seed + i + 1, 18), 60 + 70 * i, 200 - 30 * (i % 3))
				);
				const d = drawing(...paths.map((path, i) => line(`o${i}`, path)));
				const ids = new Set(paths.map((_, i) => `o${i}`));
				const step = makeStep(d, 'Close up', closeUp(d, ids, 2));
				const now = step ? applyStep(d, step, 'forward') : d;
				const lines = [...ids].map((id) => lineOf(now.records.get(id) as Outline));
				lines.forEach((path, i) => {
					const b = boxOf(path);
					expect(Math.min(b.x0, b.y0)).toBeGreaterThan(5 - 0.01);
					const was = boxOf(paths[i]);
					expect(
						twoWayDistance([moved(path, was.x0 - b.x0, was.y0 - b.y0)], [paths[i]], 1e-3, 0.5).distance
					).toBeLessThan(1e-3);
					for (let j = 0; j < i; j++) expect(apart(path, lines[j])).toBeGreaterThan(2 - 0.01);
				});
			}),
			{ numRuns: 15 }
		);
	});
});

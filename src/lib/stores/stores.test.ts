/** What the stores work out without a browser: stations, commands by a word, the view, rulers' steps. */
import { describe, expect, test } from 'vitest';
import {
	fitBox,
	LEAST_SCALE,
	MARGINS,
	MOST_SCALE,
	panBy,
	seenBox,
	toPaper,
	toScreen,
	zoomAt
} from '../render/view';
import { newDrawing, type Reference } from '../core/document/drawing';
import { outlineFromPath } from '../core/document/outline';
import { polygonPath } from '../core/geometry/path';
import type { Fault } from '../core/check/fault';
import { findStationStates } from './stations';

const size = { widthPx: 1280, heightPx: 800 };

describe('the view', () => {
	const view = { scale: 4, x: 50, y: -30 };
	test("screen and paper are each other's inverse; y points up on paper", () => {
		const p = toScreen(view, size, 60, -20);
		expect(p).toEqual({ x: 680, y: 360 });
		expect(toPaper(view, size, p.x, p.y)).toEqual({ x: 60, y: -20 });
	});
	test('zooming keeps the place under the pointer; it ends at the limits', () => {
		const before = toPaper(view, size, 200, 700);
		const next = zoomAt(view, size, 200, 700, 3);
		const after = toPaper(next, size, 200, 700);
		expect(after.x).toBeCloseTo(before.x, 9);
		expect(after.y).toBeCloseTo(before.y, 9);
		expect(zoomAt(view, size, 0, 0, 1e12).scale).toBe(MOST_SCALE);
		expect(zoomAt(view, size, 0, 0, 1e-12).scale).toBe(LEAST_SCALE);
	});
	test('panning by pixels moves the paper by as much', () => {
		const moved = panBy(view, 40, -20);
		expect(toScreen(moved, size, 50, -30)).toEqual({ x: 680, y: 380 });
	});
	test('a box is fitted clear of what lies over the edges', () => {
		const box = { x0: 0, y0: -210, x1: 297, y1: 0 };
		const fitted = fitBox(box, size);
		const a = toScreen(fitted, size, box.x0, box.y1);
		const b = toScreen(fitted, size, box.x1, box.y0);
		expect(a.y).toBeGreaterThanOrEqual(83);
		expect(b.y).toBeLessThanOrEqual(size.heightPx - MARGINS.lower + 1);
		expect(a.x).toBeGreaterThanOrEqual(45);
		// Whatever lies over the edges, the box is in what is left; but some of the window always is.
		const covered = { left: 46, right: 300, upper: 84, lower: 420 };
		const view = fitBox(box, size, covered);
		expect(toScreen(view, size, box.x1, box.y0).x).toBeLessThanOrEqual(size.widthPx - 300 + 1);
		expect(toScreen(view, size, box.x1, box.y0).y).toBeLessThanOrEqual(size.heightPx - 420 + 1);
		expect(fitBox(box, size, { ...covered, lower: 5000 }).scale).toBeGreaterThan(0.5);
		const seen = seenBox(fitted, size);
		expect(seen.x0).toBeLessThan(0);
		expect(seen.y1).toBeGreaterThan(0);
	});
});

describe('stations', () => {
	const base = newDrawing('d', 'Fox');
	const reference: Reference = {
		type: 'reference',
		id: 'r',
		rank: 2,
		name: 'fox.png',
		picture: '0'.repeat(64),
		mediaType: 'image/png',
		widthPx: 10,
		heightPx: 10,
		x: 0,
		y: 0,
		opacity: 1
	};
	const withRecords = (...records: (typeof reference | ReturnType<typeof outlineFromPath>)[]) => ({
		...base,
		records: new Map([...base.records, ...records.map((r) => [r.id, r] as const)])
	});
	const outline = outlineFromPath(polygonPath([0, 0, 9, 0, 9, 9]), {
		id: 'o',
		name: 'Ear',
		layer: 'cut',
		rank: 3
	});

	test('an empty drawing lies ahead everywhere', () => {
		expect(Object.values(findStationStates(base, [], 0, true)).map((s) => s.state)).toEqual(
			Array(9).fill('ahead')
		);
	});
	test('a picture without a size is a loose thread; with one it is even', () => {
		expect(findStationStates(withRecords(reference), [], 0, true).size).toMatchObject({
			state: 'loose',
			line: 'No true size yet'
		});
		expect(findStationStates(withRecords({ ...reference, pxPerMm: 8 }), [], 0, true).size.state).toBe('even');
		expect(findStationStates(withRecords(reference, outline), [], 1, true).cut.state).toBe('loose');
	});
	test('faults are knots, counted; when all are gone the drawing is ready', () => {
		const fault: Fault = { kind: 'open-ends', outline: 0, x: 0, y: 0, why: '', mend: 'close', stops: true };
		const states = findStationStates(withRecords(outline), [fault, fault], 1, true);
		expect(states.mend).toMatchObject({ state: 'knot', knots: 2, line: '2 things to mend' });
		expect(states.cut.line).toBe('Not ready yet');
		expect(findStationStates(withRecords(outline), [], 1, true).cut.line).toBe('Ready to cut');
	});
});

/** Mending never leaves more to mend than it found, and nothing new: on the demo, on spoiled drawings, on cases seen at work. */
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { spoiledDrawing } from '../../../../tests/spoiled';
import { newDrawing, outlinesOf, type Drawing } from '../document/drawing';
import { applyStep, makeStep } from '../document/history';
import { outlineFromPath } from '../document/outline';
import { unwrap } from '../errors';
import { readDrawingFile } from '../formats/drawing-file';
import { arcThrough } from '../document/recipes/shapes';
import { shapePath } from '../document/recipes/shapes';
import { pathArea } from '../geometry/measure';
import { PathBuilder, polygonPath, type Path } from '../geometry/path';
import { lineOf } from '../document/outline';
import { finish } from '../progress';
import type { FaultKind } from './fault';
import { checkedOf } from './checked';
import { mendAllSteps } from './mend-all';
import { findFaults } from './readiness';

const drawingOf = (paths: readonly Path[]): Drawing => {
	const empty = newDrawing('d', 'd');
	const outlines = paths.map((path, i) =>
		outlineFromPath(path, { id: `o${i}`, name: `Part ${i}`, layer: 'cut', rank: i + 2 })
	);
	return { ...empty, records: new Map([...empty.records, ...outlines.map((o) => [o.id, o] as const)]) };
};
function kindsIn(drawing: Drawing): FaultKind[] {
	const { paths, mayBeOpen } = checkedOf(drawing);
	return findFaults(paths, { mayBeOpen }).map((f) => f.kind);
}
function mended(drawing: Drawing) {
	let count = 0;
	const result = finish(mendAllSteps(drawing, () => `n${++count}`));
	const step = makeStep(drawing, 'Mend', result.edit);
	return { ...result, drawing: step ? applyStep(drawing, step, 'forward') : drawing };
}
/** Fewer things than before, and of no kind more. */
function expectBetter(drawing: Drawing, name: string) {
	const before = kindsIn(drawing);
	const after = kindsIn(mended(drawing).drawing);
	if (before.length) expect(after.length, name).toBeLessThan(before.length);
	for (const kind of new Set(after)) {
		const count = (list: FaultKind[]) => list.filter((k) => k === kind).length;
		expect(count(after), `${name}: ${kind}`).toBeLessThanOrEqual(count(before));
	}
}
const line = (...xy: number[]) => polygonPath(xy, false);

describe('mending', () => {
	test('four sides whose ends touch are one fault, and become the square, once and for all', () => {
		const drawing = drawingOf([
			line(0, 0, 40, 0),
			line(40, 40, 40, 0),
			line(40, 40, 0, 40),
			line(0, 40, 0, 0)
		]);
		expect(kindsIn(drawing)).toEqual(['loose-lines']);
		const once = mended(drawing);
		expect(once.done).toEqual([{ kind: 'loose-lines', count: 1 }]);
		const [square] = outlinesOf(once.drawing);
		expect(Math.abs(pathArea(lineOf(square)))).toBeCloseTo(1600, 9);
		expect([square.name, square.id]).toEqual(['Part 0', 'o0']);
		const again = mended(once.drawing);
		expect([again.done, again.edit.put, again.edit.remove]).toEqual([[], [], []]);
	});

	test('two halves of a ring become a ring, not two halves closed by chords', () => {
		const half = (side: number) =>
			shapePath(arcThrough({ x: -20, y: 0 }, { x: 0, y: 20 * side }, { x: 20, y: 0 }));
		const ring = mended(drawingOf([half(1), half(-1)])).drawing;
		expect(outlinesOf(ring)).toHaveLength(1);
		expect(Math.abs(pathArea(lineOf(outlinesOf(ring)[0])))).toBeCloseTo(Math.PI * 400, 6);
	});

	test('a rib alone is not made a crescent: it stays, with its reason', () => {
		const rib = new PathBuilder(0, 0).cubic(20, 30, 60, 30, 90, 5).open();
		const { done, left, drawing } = mended(drawingOf([rib]));
		expect(done).toEqual([]);
		expect(left[0].why).toContain('not clear');
		expect(outlinesOf(drawing)[0].closed).toBe(false);
	});

	test('what is open on purpose, or lies where nothing is cut, is no fault', () => {
		const drawing = drawingOf([line(0, 0, 40, 0), line(0, 9, 40, 9)]);
		const [a, b] = outlinesOf(drawing);
		const layer = {
			type: 'layer',
			id: 'score',
			rank: 9,
			name: 'Fold',
			purpose: 'score',
			colour: '#000'
		} as const;
		const records = new Map(drawing.records)
			.set(a.id, { ...a, openOnPurpose: true })
			.set(layer.id, layer)
			.set(b.id, { ...b, layer: layer.id });
		expect(kindsIn({ ...drawing, records })).toEqual([]);
	});

	test.each(['control-bars', 'fox-puppet', 'mask-pictures', 'rough-owl'])('%s comes out better', (name) => {
		const bytes = readFileSync(`static/demo/${name}.thread`);
		expectBetter(unwrap(readDrawingFile(bytes)).drawing, name);
	});

	test('thirty spoiled drawings come out better, each of them (all five hundred: npm run spoiled)', () => {
		for (let seed = 1; seed <= 30; seed++) expectBetter(spoiledDrawing(seed * 17), `seed ${seed * 17}`);
	});
});

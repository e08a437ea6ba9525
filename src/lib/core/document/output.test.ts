import { describe, expect, test } from 'vitest';
import { circlePath } from '../geometry/path';
import { newDrawing, type Drawing, type DrawingRecord, type Layer, type Mark, type Purpose } from './drawing';
import { factsLike, keepGhosts } from './edits/operations';
import { intoSingles } from './edits/parting';
import { outlineFromPath } from './outline';
import { isShown, output, shown, shownMarks } from './output';

const layer = (purpose: Purpose, more: Partial<Layer> = {}): Layer => ({
	type: 'layer',
	id: purpose,
	rank: 1,
	name: purpose,
	purpose,
	colour: '#123456',
	...more
});
const line = (id: string, on: string, more = {}) => ({
	...outlineFromPath(circlePath(0, 0, 5), { id, name: id, layer: on, rank: 2 }),
	...more
});
const mark = (id: string, on: string, more = {}): Mark => ({
	type: 'mark',
	id,
	rank: 3,
	layer: on,
	x: 1,
	y: 2,
	...more
});

function drawingOf(...records: DrawingRecord[]): Drawing {
	return { ...newDrawing('d', 'Crow'), records: new Map(records.map((r) => [r.id, r])) };
}
const drawing = drawingOf(
	layer('cut'),
	layer('score'),
	layer('guide'),
	layer('engrave', { hidden: true }),
	layer('cut', { id: 'held back', written: false }),
	line('body', 'cut'),
	line('hidden', 'cut', { hidden: true }),
	line('fold', 'score'),
	line('middle', 'guide'),
	line('shade', 'engrave'),
	line('spare', 'held back'),
	mark('drill', 'cut'),
	mark('put away', 'cut', { hidden: true }),
	mark('pencil', 'guide')
);
const ids = (asked: Parameters<typeof output>[1] = {}) =>
	output(drawing, asked).lines.map((l) => l.outline.id);

describe('what is shown and what goes out', () => {
	test('hidden lines are neither seen nor cut; guides and what is held back are seen, not cut', () => {
		expect(shown(drawing).map((o) => o.id)).toEqual(['body', 'fold', 'middle', 'spare']);
		expect(isShown(drawing, 'middle')).toBe(true);
		expect(isShown(drawing, 'hidden')).toBe(false);
		expect(shownMarks(drawing).map((m) => m.id)).toEqual(['drill', 'pencil']);
		expect(ids()).toEqual(['body', 'fold']);
		expect(output(drawing).marks.map((m) => m.mark.id)).toEqual(['drill']);
	});

	test('by purpose, by layer, and only what is picked', () => {
		expect(ids({ purposes: ['score'] })).toEqual(['fold']);
		expect(ids({ layers: new Set(['cut']) })).toEqual(['body']);
		expect(ids({ picked: new Set(['fold', 'hidden', 'middle']) })).toEqual(['fold']);
		expect(output(drawing, { picked: new Set(['drill']) })).toMatchObject({
			lines: [],
			marks: [{ mark: { id: 'drill' } }]
		});
	});

	test('a line’s own purpose goes before its layer’s, on a layer for guides too', () => {
		const own = drawingOf(
			layer('cut'),
			layer('guide'),
			layer('cut', { id: 'held back', written: false }),
			line('body', 'cut'),
			line('fold', 'cut', { purpose: 'score' }),
			line('slot', 'guide', { purpose: 'cut' }),
			line('middle', 'cut', { purpose: 'guide' }),
			line('spare', 'held back', { purpose: 'score' })
		);
		const asked = (purposes?: Purpose[]) =>
			output(own, purposes ? { purposes } : {}).lines.map((l) => [l.outline.id, l.purpose]);
		expect(asked()).toEqual([
			['body', 'cut'],
			['fold', 'score'],
			['slot', 'cut']
		]);
		expect(asked(['guide'])).toEqual([['middle', 'guide']]);
	});

	test('what is made of a line has its purpose', () => {
		const fold = line('fold', 'cut', { purpose: 'score', colour: '#aa0000' });
		const d = drawingOf(layer('cut'), fold);
		expect(factsLike(d, fold, 'beside')).toMatchObject({ purpose: 'score', colour: '#aa0000' });
		let made = 0;
		const parts = intoSingles(d, [fold], () => `part ${++made}`).put!;
		expect(parts.length).toBeGreaterThan(1);
		for (const part of parts) expect(part).toMatchObject({ purpose: 'score', colour: '#aa0000' });
	});

	test('a ghost is no outline and never goes out', () => {
		const body = line('body', 'cut');
		const kept = keepGhosts(drawing, [body], () => 'ghost');
		const after = drawingOf(layer('cut'), ...kept.put!);
		expect(after.records.get('ghost')).toMatchObject({ type: 'line' });
		expect(output(after).lines.map((l) => l.outline.id)).toEqual(['body']);
	});

	test('asked again of the same records, the same list comes', () => {
		expect(shown({ ...drawing, name: 'Other' })).toBe(shown(drawing));
		expect(output(drawing).lines[0].path).toBe(output(drawing).lines[0].path);
	});
});

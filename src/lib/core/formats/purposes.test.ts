/** What lines are for goes out with them and comes back: in SVG and DXF, by layers and by words of their own. */
import { describe, expect, test } from 'vitest';
import {
	newDrawing,
	layersOf,
	outlinesOf,
	type Drawing,
	type Layer,
	type Purpose
} from '../document/drawing';
import { applyStep, makeStep } from '../document/history';
import { outlineFromPath } from '../document/outline';
import { purposeOf } from '../document/output';
import { circlePath, polygonPath } from '../geometry/path';
import { addImported } from './add-imported';
import { FORMATS, readLines, writtenOf } from './formats';

const layer = (name: string, purpose: Purpose, rank: number): Layer => ({
	type: 'layer',
	id: name,
	rank,
	name,
	purpose,
	colour: '#224466'
});
const LINES = [
	['body', 'cut', undefined],
	['fold', 'Creases', undefined],
	['eye', 'cut', 'engrave'],
	['rib', 'Creases', 'cut']
] as const;

function drawing(): Drawing {
	const empty = newDrawing('d', 'd');
	const outlines = LINES.map(([id, on, purpose], i) =>
		outlineFromPath(
			i % 2 ? polygonPath([60 * i, 0, 60 * i + 30, 20], false) : circlePath(60 * i, 0, 20 - i),
			{
				id,
				name: id,
				layer: on,
				rank: 10 + i,
				...(purpose ? { purpose } : {})
			}
		)
	);
	const records = [layer('Creases', 'score', 2), ...outlines].map((r) => [r.id, r] as const);
	return { ...empty, records: new Map([...empty.records, ...records]) };
}
const said = (d: Drawing) => {
	const layers = new Map(layersOf(d).map((one) => [one.id, one]));
	return Object.fromEntries(
		outlinesOf(d).map((o) => [
			o.name,
			[layers.get(o.layer)?.name.toLowerCase(), purposeOf(o, layers.get(o.layer))]
		])
	);
};

describe.each(['svg', 'dxf'])('%s', (id) => {
	test('keeps layers and what each line is for', () => {
		const before = drawing();
		const format = FORMATS.find((one) => one.id === id)!;
		const bytes = format.write(writtenOf(before), {});
		const read = readLines(bytes, `x${format.ending}`);
		if (!read.ok) throw new Error(read.problem.sentence);
		const empty = newDrawing('e', 'e');
		let n = 0;
		const step = makeStep(
			empty,
			'Open',
			addImported(empty, read.value, 'x', () => `new ${++n}`)
		)!;
		const after = applyStep(empty, step, 'forward');
		expect(said(after)).toEqual(said(before));
	});
});

test('a line inside another that is for something else is no hole of it', () => {
	const empty = newDrawing('d', 'd');
	const records = [
		outlineFromPath(circlePath(0, 0, 20), { id: 'disc', name: 'disc', layer: 'cut', rank: 3 }),
		outlineFromPath(circlePath(0, 0, 5), {
			id: 'ring',
			name: 'ring',
			layer: 'cut',
			rank: 4,
			purpose: 'score'
		})
	].map((r) => [r.id, r] as const);
	const { pieces } = writtenOf({ ...empty, records: new Map([...empty.records, ...records]) });
	expect(pieces.map(({ name, purpose }) => [name, purpose])).toEqual([
		['disc', undefined],
		['ring', 'score']
	]);
});

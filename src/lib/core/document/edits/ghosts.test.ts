/** Lines kept beside outlines: as they first were, and as ghosts. Never cut, gone with the last that refers to them. */
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../../tests/shapes';
import { readSvg } from '../../formats/svg';
import { writeSvg } from '../../formats/svg-write';
import { unwrap } from '../../errors';
import { circlePath, polygonPath } from '../../geometry/path';
import { pathArea } from '../../geometry/measure';
import { newDrawing, outlinesOf, recordAs, recordsOf, type Drawing } from '../drawing';
import { applyStep, makeStep, type Edit } from '../history';
import { addPaths, broughtBack, dropGhosts, keepGhosts, removeOutlines, replaceLines } from './operations';
import { lineOf } from '../outline';
import { placeOutlines } from './transform';
import { moveBy } from '../../geometry/maps';

let ids = 0;
const newId = () => `n${++ids}`;
const after = (drawing: Drawing, edit: Edit) =>
	applyStep(drawing, makeStep(drawing, 'step', edit)!, 'forward');

function two(): Drawing {
	const base = newDrawing('d', 'Fox');
	return after(base, addPaths(base, [blob(10, 1, 8), circlePath(40, 0, 5)], 'Part', 'cut', newId));
}

describe('ghosts', () => {
	test('a ghost is the line as it was when it was kept; a newer one takes its place; let go, its line goes too', () => {
		let drawing = two();
		const was = lineOf(outlinesOf(drawing)[0]);
		drawing = after(drawing, keepGhosts(drawing, outlinesOf(drawing), newId));
		expect(recordsOf(drawing, 'line')).toHaveLength(2);
		const [outline] = outlinesOf(drawing);
		drawing = after(
			drawing,
			replaceLines(drawing, new Map([[outline.id, polygonPath([0, 0, 9, 0, 0, 9])]]), newId)
		);
		const changed = recordAs(drawing, 'outline', outline.id);
		expect(recordAs(drawing, 'line', changed.ghost!).path).toEqual(was);
		expect(changed.first).not.toBe(changed.ghost);
		// Brought back it is the line that it was.
		expect(Math.abs(pathArea(lineOf(broughtBack(drawing, changed, changed.ghost!))))).toBeCloseTo(
			Math.abs(pathArea(was)),
			9
		);
		drawing = after(drawing, keepGhosts(drawing, [changed], newId));
		// The first line and two ghosts: the older ghost is gone.
		expect(recordsOf(drawing, 'line')).toHaveLength(3);
		drawing = after(drawing, dropGhosts(drawing, outlinesOf(drawing)));
		expect(recordsOf(drawing, 'line').map((l) => l.id)).toEqual([changed.first]);
		expect(outlinesOf(drawing).every((o) => o.ghost === undefined)).toBe(true);
	});

	test('it moves along with its outline, and a line that two refer to stays until both are gone', () => {
		let drawing = two();
		drawing = after(drawing, keepGhosts(drawing, outlinesOf(drawing), newId));
		const [a, b] = outlinesOf(drawing);
		drawing = after(drawing, { put: [{ ...b, ghost: a.ghost }], remove: [b.ghost!] });
		const x = recordAs(drawing, 'line', a.ghost!).path.segs[0];
		drawing = after(drawing, placeOutlines(drawing, outlinesOf(drawing), moveBy(3, 0)));
		expect(recordAs(drawing, 'line', a.ghost!).path.segs[0]).toBe(x + 3);
		drawing = after(drawing, removeOutlines(drawing, new Set([a.id])));
		expect(recordsOf(drawing, 'line')).toHaveLength(1);
		drawing = after(drawing, removeOutlines(drawing, new Set([b.id])));
		expect(recordsOf(drawing, 'line')).toHaveLength(0);
	});

	test('what is written for a machine knows nothing of ghosts', () => {
		let drawing = two();
		const shapes = (d: Drawing) => outlinesOf(d).map((o) => ({ paths: [lineOf(o)], name: o.name }));
		const plain = writeSvg(shapes(drawing));
		drawing = after(drawing, keepGhosts(drawing, outlinesOf(drawing), newId));
		expect(writeSvg(shapes(drawing))).toBe(plain);
		expect(unwrap(readSvg(plain)).shapes).toHaveLength(2);
	});
});

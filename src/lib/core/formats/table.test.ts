/** The table of formats: told apart by what they begin with, and each gives back what it was given. */
import { finish } from '../progress';
import { strToU8 } from 'fflate';
import { describe, expect, test } from 'vitest';
import { newDrawing } from '../document/drawing';
import { outlineFromPath } from '../document/outline';
import { unwrap } from '../errors';
import { pathArea } from '../geometry/measure';
import { circlePath, polygonPath } from '../geometry/path';
import { endings, FORMATS, formatOf, formatToWrite, readLines, writtenOf } from './formats';
import { closedPieces } from './solids';

const line = (id: string, path: ReturnType<typeof circlePath>, more = {}) => ({
	...outlineFromPath(path, { id, name: id, layer: 'cut', rank: 3 }),
	...more
});
const empty = newDrawing('d', 'Crow');
const drawing = {
	...empty,
	records: new Map(empty.records)
		.set('Body', line('Body', polygonPath([0, 0, 40, 0, 40, 30, 0, 30])))
		.set('Eye', line('Eye', circlePath(10, 10, 3)))
		.set('Spare', line('Spare', circlePath(90, 0, 5), { hidden: true }))
};

describe('the table of formats', () => {
	test('each gives back what goes out of a drawing, names kept; what is hidden is not among it', () => {
		const written = writtenOf(drawing);
		expect(written.pieces.map((p) => p.paths.length)).toEqual([2]);
		for (const format of FORMATS) {
			const bytes = format.write(written, {});
			expect(formatOf(bytes.subarray(0, 1024), 'no ending')?.id).toBe(format.id);
			const pieces = closedPieces(unwrap(readLines(bytes, `crow${format.ending}`)));
			const area = pieces.flatMap((p) => p.paths).map((path) => Math.abs(pathArea(path)));
			expect(area.sort((a, b) => b - a)[0]).toBeCloseTo(1200, 6);
			expect(area).toHaveLength(2);
		}
		const thread = FORMATS.find((f) => f.id === 'thread')!;
		const back = unwrap(finish(thread.read(thread.write(written, {}))));
		expect(back.shapes.map((s) => s.layer)).toEqual(['Cut']);
	});

	test('lines of almost no size are left out and told; where there is nothing else the file is refused', () => {
		const svg = (...shapes: string[]) =>
			strToU8(
				`<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60">${shapes.join('')}</svg>`
			);
		const dust = '<g transform="scale(1e-9)"><rect width="40" height="30"/><circle r="9"/></g>';
		const both = unwrap(readLines(svg('<rect width="40" height="30"/>', dust), 'a.svg'));
		expect(both.shapes).toHaveLength(1);
		expect(both.warnings.join(' ')).toContain(
			'2 lines are smaller than a hundred-thousandth of a millimetre'
		);
		const none = readLines(svg(dust), 'a.svg');
		expect(none).toMatchObject({ ok: false, problem: { code: 'nothing-drawn' } });
		// A long line as thin is a line.
		const thin = unwrap(readLines(svg('<rect width="40" height="0.000001"/>'), 'a.svg'));
		expect(thin.shapes).toHaveLength(1);
	});

	test('nothing and nonsense are refused by name, an unknown ending with those that are known', () => {
		expect(readLines(new Uint8Array(), 'a.svg')).toMatchObject({ problem: { code: 'empty-file' } });
		expect(readLines(strToU8('hello'), 'a.txt')).toMatchObject({ problem: { code: 'unknown-format' } });
		expect(() => formatToWrite('a.txt')).toThrow('.svg or .dxf or .thread');
		expect(endings()).toEqual([
			'.svg',
			'.dxf',
			'.thread',
			'.pdf',
			'.nc',
			'.gcode',
			'.ngc',
			'.tap',
			'.hpgl',
			'.plt'
		]);
	});
});

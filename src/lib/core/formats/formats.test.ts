import { shapePath, type ShapeRecipe } from '../document/recipes/shapes';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { newDrawing, outlinesOf, recordAs, settingsOf, type Reference } from '../document/drawing';
import { applyStep, makeStep } from '../document/history';
import { keepGhosts } from '../document/edits/operations';
import { outlineFromPath, lineOf } from '../document/outline';
import { CoreError, toProblem, unwrap } from '../errors';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathArea, pathLength } from '../geometry/measure';
import { ARC, circlePath, CUBIC, PathBuilder, polygonPath, type Path } from '../geometry/path';
import { DRAWING_VERSION, fromPlain, readDrawingFile, toPlain, writeDrawingFile } from './drawing-file';
import { readDxf } from './dxf';
import { writeDxf } from './dxf-write';
import { damagedPicture, readPictureHeader } from './picture-header';
import { boundingPaths, closedPieces, openLines } from './solids';
import { readSvg } from './svg';
import { parseTransform } from './svg-place';
import { writeSvg } from './svg-write';
import { parsePathData, writeNumber, writePathData } from './svg-path';
import { strToU8, zipSync } from 'fflate';
import sharp from 'sharp';

const svg = (inner: string, head = 'width="100mm" height="100mm" viewBox="0 0 100 100"') =>
	unwrap(readSvg(`<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inner}</svg>`));
const shapeOf = (inner: string, head?: string) => svg(inner, head).shapes[0];
const same = (a: Path, b: Path, tolerance = 1e-6) => {
	expect(b.closed).toBe(a.closed);
	expect([...b.types]).toEqual([...a.types]);
	a.segs.forEach((v, i) => expect(Math.abs(b.segs[i] - v)).toBeLessThan(tolerance));
};
const mixed = new PathBuilder(0, 0)
	.line(30, 0)
	.arc(0.5, 40, 10)
	.cubic(45, 20, 20, 35, 10, 30)
	.line(0, 20)
	.close();

describe('SVG', () => {
	test('write then read gives the same line: straights, arcs, curves, open and closed', () => {
		const open = new PathBuilder(1, 2).cubic(3, 9, 12, 9, 15, 2).arc(-0.7, 25, 5).open();
		const text = writeSvg([{ paths: [mixed], name: 'Fin & <tail>', fill: '#ff8800' }, { paths: [open] }]);
		const read = unwrap(readSvg(text));
		same(mixed, read.shapes[0].paths[0]);
		same(open, read.shapes[1].paths[0]);
		expect(read.shapes[0].name).toBe('Fin & <tail>');
		expect(read.shapes[0].fill).toBe('#ff8800');
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1000 }), (seed) =>
				same(blob(20, seed), unwrap(readSvg(writeSvg([{ paths: [blob(20, seed)] }]))).shapes[0].paths[0])
			),
			{ numRuns: 20 }
		);
	});

	test('true millimetres: a unit is width over viewBox width; y is turned over; the origin is not subtracted', () => {
		const [path] = shapeOf(
			'<path d="M10 20L20 20L20 40Z"/>',
			'width="50mm" height="50mm" viewBox="5 5 100 100"'
		).paths;
		expect([...path.segs.slice(0, 2)]).toEqual([5, -10]);
		expect(pathArea(shapeOf('<rect width="96" height="192"/>', '').paths[0])).toBeCloseTo(-(25.4 * 50.8), 9);
		expect(pathLength(shapeOf('<line x1="0" y1="0" x2="1in" y2="0"/>', '').paths[0])).toBeCloseTo(25.4, 9);
	});

	test('basic shapes, transforms, use, symbol, nested svg, styles', () => {
		expect(pathLength(shapeOf('<circle cx="5" cy="5" r="4"/>').paths[0])).toBeCloseTo(8 * Math.PI, 9);
		expect([
			...shapeOf('<circle cx="5" cy="5" r="4" transform="rotate(30) scale(2)"/>').paths[0].types
		]).toEqual([ARC, ARC, ARC, ARC]);
		expect(
			shapeOf('<circle cx="5" cy="5" r="4" transform="scale(2 1)"/>').paths[0].types.includes(CUBIC)
		).toBe(true);
		expect(pathArea(shapeOf('<ellipse cx="0" cy="0" rx="6" ry="3"/>').paths[0])).toBeCloseTo(
			-18 * Math.PI,
			3
		);
		expect(shapeOf('<rect width="20" height="10" rx="3"/>').paths[0].types).toHaveLength(8);
		expect(shapeOf('<polygon points="0,0 10,0 10,10"/>').paths[0].closed).toBe(true);
		expect(shapeOf('<polyline points="0,0 10,0 10,10"/>').paths[0].closed).toBe(true);
		expect(shapeOf('<polyline fill="none" points="0,0 10,0 10,10"/>').paths[0].closed).toBe(false);
		const used = svg(
			'<defs><g id="a"><rect width="2" height="2"/></g><symbol id="s"><circle r="1"/></symbol></defs><use href="#a" x="7"/><use xlink:href="#s" y="3"/><use href="#none"/>'
		);
		expect(used.shapes).toHaveLength(2);
		expect(used.shapes[0].paths[0].segs[0]).toBe(7);
		expect(used.warnings.join()).toContain('leads nowhere');
		const styled = svg(
			'<style>.x{fill:#123456;fill-rule:evenodd} #h{display:none}</style><g class="x"><path d="M0 0H4V4Z"/></g><path id="h" d="M0 0H1V1Z" display="none"/><rect style="fill:red" width="1" height="1"/>'
		);
		expect(styled.shapes.map((s) => [s.fill, s.fillRule])).toEqual([
			['#123456', 'evenodd'],
			['red', 'nonzero']
		]);
		const inner = svg('<svg x="10" y="10" width="20" viewBox="0 0 10 10"><rect width="1" height="1"/></svg>');
		expect(inner.shapes[0].paths[0].segs[0]).toBe(10);
		expect(parseTransform('translate(3,4) rotate(90 1 1)')[4]).toBeCloseTo(5, 9);
		expect(parseTransform('skewX(45) matrix(1 0 0 1 2 3)')[2]).toBeCloseTo(1, 9);
	});

	test('a script, text and pictures are dropped and listed; the rest is opened', () => {
		const read = svg(
			'<script>alert(1)</script><text>hello</text><text>again</text><image href="x.png"/><path d="M0 0L10 0L10 10Z"/>'
		);
		expect(read.shapes).toHaveLength(1);
		expect(read.warnings).toEqual([
			'A script was left out.',
			'2 times: text was left out.',
			'A picture was left out.'
		]);
	});

	test('path data: every command; up to an error, and the error is told (SVG 2, 9.3.9)', () => {
		const { paths } = parsePathData(
			'm1 1 l2 0 h2 v2 c1 1 2 1 3 0 s2-1 3 0 q1 1 2 0 t2 0 a2 2 0 0 1 4 0 z m10 10 l1 1'
		);
		expect(paths).toHaveLength(2);
		expect(paths[0].types).toHaveLength(9);
		const broken = parsePathData('M0 0 L10 0 L10 x');
		expect(broken.paths[0].types).toHaveLength(1);
		expect(broken.error).toBeTruthy();
		expect(svg('<path d="M0 0L5 0L5 5 L 3"/>').warnings.join()).toContain('after an error');
		expect(parsePathData('M5 6z').points).toEqual([{ x: 5, y: 6 }]);
		expect(writeNumber(-0)).toBe('0');
		expect(writeNumber(1.5)).toBe('1.5');
		expect(writePathData(circlePath(0, 0, 1))).toMatch(/^M1 0A1 1 0 0 0 .*Z$/);
	});

	test('what cannot be opened says so in one sentence', () => {
		expect(readSvg('hello')).toMatchObject({ ok: false, problem: { code: 'not-svg' } });
		expect(readSvg('<svg><text>x</text></svg>')).toMatchObject({
			ok: false,
			problem: { code: 'nothing-drawn' }
		});
	});

	test('fill rules: under non-zero an inner outline of the same direction bounds nothing', () => {
		const outer = 'M0 0H10V10H0Z';
		expect(boundingPaths(shapeOf(`<path d="${outer}M2 2H8V8H2Z"/>`))).toHaveLength(1);
		expect(boundingPaths(shapeOf(`<path d="${outer}M2 2V8H8V2Z"/>`))).toHaveLength(2);
		expect(
			closedPieces(svg(`<path fill-rule="evenodd" d="${outer}M2 2H8V8H2Z"/><path d="M0 0L3 3"/>`))
		).toHaveLength(1);
		expect(openLines(svg('<path d="M0 0L3 3"/>'))).toHaveLength(1);
	});

	test('the frame stays, and is widened where something sticks out', () => {
		const frame = { x: 0, y: 0, w: 20, h: 20 };
		expect(writeSvg([{ paths: [polygonPath([1, -1, 5, -1, 5, -5])] }], frame)).toContain(
			'viewBox="0 0 20 20"'
		);
		expect(writeSvg([{ paths: [polygonPath([-3, -1, 5, -1, 5, -5])] }], frame)).toContain(
			'viewBox="-3 0 23 20"'
		);
	});
});

describe('DXF', () => {
	test('write then read gives the same line: bulges, splines, layers, points', () => {
		const open = new PathBuilder(1, 2).cubic(3, 9, 12, 9, 15, 2).line(20, 2).open();
		const text = writeDxf(
			[
				{ path: mixed, layer: 'Cut' },
				{ path: circlePath(50, 50, 7), layer: 'Score' },
				{ path: open, layer: 'Cut' }
			],
			{ curves: 'exact', points: [{ x: 3, y: 4, layer: 'Drill' }] }
		);
		const read = unwrap(readDxf(text));
		expect(read.shapes.map((s) => s.layer)).toEqual(['Cut', 'Score', 'Cut']);
		same(mixed, read.shapes[0].paths[0]);
		same(circlePath(50, 50, 7), read.shapes[1].paths[0]);
		same(open, read.shapes[2].paths[0]);
		expect(read.points).toEqual([{ x: 3, y: 4, layer: 'Drill' }]);
		expect(text).toContain('$INSUNITS');
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 500 }), (seed) =>
				same(
					blob(14, seed),
					unwrap(readDxf(writeDxf([{ path: blob(14, seed), layer: '0' }], { curves: 'exact' }))).shapes[0]
						.paths[0]
				)
			),
			{ numRuns: 15 }
		);
	});

	test('polylines for cutters that read nothing else stay within the tolerance', () => {
		const text = writeDxf([{ path: mixed, layer: 'Cut' }], { curves: 'polylines', tolerance: 0.02 });
		expect(text).not.toContain('SPLINE');
		expect(text.slice(text.indexOf('ENTITIES'))).not.toMatch(/\r\n42\r\n/);
		const [shape] = unwrap(readDxf(text)).shapes;
		expect(twoWayDistance([mixed], [shape.paths[0]], 0.001, 0.5).distance).toBeLessThan(0.022);
	});

	const entities = (body: string, header = '9\n$INSUNITS\n70\n1\n') =>
		`0\nSECTION\n2\nHEADER\n${header}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${body}0\nENDSEC\n0\nEOF\n`;
	test('inches, arcs, circles, ellipses, lines that follow one another; what is skipped is listed', () => {
		const line = (a: number, b: number, c: number, d: number) =>
			`0\nLINE\n8\n0\n10\n${a}\n20\n${b}\n11\n${c}\n21\n${d}\n`;
		const read = unwrap(
			readDxf(
				entities(
					line(0, 0, 1, 0) +
						line(1, 0, 1, 1) +
						line(1, 1, 0, 0) +
						'0\nARC\n8\n0\n10\n0\n20\n0\n40\n2\n50\n0\n51\n90\n' +
						'0\nCIRCLE\n8\n0\n10\n9\n20\n0\n40\n1\n' +
						'0\nELLIPSE\n8\n0\n10\n0\n20\n0\n11\n2\n21\n0\n40\n0.5\n41\n0\n42\n6.283185307179586\n' +
						'0\nTEXT\n8\n0\n10\n0\n20\n0\n40\n1\n1\nhi\n'
				)
			)
		);
		expect(read.shapes[0].paths[0].closed).toBe(true);
		expect(pathArea(read.shapes[0].paths[0])).toBeCloseTo((25.4 * 25.4) / 2, 6);
		expect(pathLength(read.shapes[1].paths[0])).toBeCloseTo(Math.PI * 25.4, 6);
		expect(pathLength(read.shapes[2].paths[0])).toBeCloseTo(2 * Math.PI * 25.4, 6);
		expect(pathArea(read.shapes[3].paths[0])).toBeCloseTo(2 * Math.PI * 25.4 * 25.4, 0);
		expect(read.warnings.join()).toContain('TEXT');
	});

	test('damaged files get one sentence', () => {
		expect(readDxf('hello')).toMatchObject({ ok: false });
		expect(readDxf('Any Binary DXF\r\n')).toMatchObject({ problem: { code: 'binary-dxf' } });
		expect(readDxf(entities(''))).toMatchObject({ problem: { code: 'nothing-drawn' } });
	});
});

describe('the drawing file', () => {
	const reference: Reference = {
		type: 'reference',
		id: 'r',
		rank: 2,
		name: 'fox.png',
		picture: 'ab'.repeat(32),
		mediaType: 'image/png',
		widthPx: 10,
		heightPx: 10,
		x: 0,
		y: 0,
		opacity: 1
	};
	const drawing = (() => {
		const d = newDrawing('d', 'Fox');
		const o = outlineFromPath(mixed, { id: 'o', name: 'Fin', layer: 'cut', rank: 3, first: 'l' });
		return {
			...d,
			records: new Map([
				...d.records,
				['o', o] as const,
				['l', { type: 'line', id: 'l', rank: 4, path: blob(5, 5) } as const],
				['r', reference] as const
			])
		};
	})();
	const pictures = new Map([['ab'.repeat(32), new Uint8Array([1, 2, 3])]]);

	test('what is written comes back, bit for bit, with its pictures', () => {
		const read = unwrap(readDrawingFile(writeDrawingFile(drawing, pictures)));
		expect(read.drawing).toEqual(drawing);
		expect(read.pictures).toEqual(pictures);
	});

	test('a newer version, NaN, missing parts, other files: one sentence each', () => {
		const plain = toPlain(drawing);
		expect(fromPlain({ ...plain, version: 7 })).toMatchObject({ problem: { code: 'newer-version' } });
		expect(fromPlain({ ...plain, version: 'x' })).toMatchObject({ problem: { code: 'bad-drawing' } });
		expect(fromPlain({ ...plain, records: [{ type: 'outline' }] })).toMatchObject({
			problem: { code: 'bad-drawing' }
		});
		expect(fromPlain([])).toMatchObject({ problem: { code: 'not-drawing' } });
		const zipped = (text: string) => zipSync({ 'drawing.json': strToU8(text) });
		expect(readDrawingFile(zipped(JSON.stringify(plain).replace('"rank":3', '"rank":NaN')))).toMatchObject({
			problem: { code: 'bad-drawing' }
		});
		const nulled = JSON.parse(JSON.stringify(plain));
		nulled.records.find((r: { id: string }) => r.id === 'o').points[3] = null;
		expect(fromPlain(nulled)).toMatchObject({ problem: { code: 'bad-drawing' } });
		const short = JSON.parse(JSON.stringify(plain));
		short.records.find((r: { id: string }) => r.id === 'o').points.pop();
		expect(fromPlain(short)).toMatchObject({ problem: { code: 'bad-drawing' } });
		const stray = JSON.parse(JSON.stringify(plain));
		stray.records.find((r: { id: string }) => r.id === 'o').layer = 'nowhere';
		expect(fromPlain(stray)).toMatchObject({ problem: { sentence: expect.stringContaining('layer') } });
		expect(readDrawingFile(new Uint8Array())).toMatchObject({ problem: { code: 'empty-file' } });
		expect(readDrawingFile(strToU8('hello'))).toMatchObject({ problem: { code: 'not-drawing' } });
		expect(readDrawingFile(zipSync({ 'a.txt': strToU8('x') }))).toMatchObject({
			problem: { code: 'not-drawing' }
		});
		expect(readDrawingFile(writeDrawingFile(drawing, new Map()))).toMatchObject({
			problem: { sentence: expect.stringContaining('fox.png') }
		});
	});

	test('a drawing stored by version 1 is read as it was, and written as one of today', () => {
		const text = readFileSync(new URL('./fixtures/version-1.json', import.meta.url), 'utf8');
		const old = unwrap(fromPlain(JSON.parse(text)));
		expect(outlinesOf(old)).toHaveLength(2);
		const now = toPlain(old);
		expect(now.version).toBe(DRAWING_VERSION);
		expect({ ...now, version: 1 }).toEqual(JSON.parse(text));
	});

	test('ghosts and the tool radius come back; a version to come is refused', () => {
		const [outline] = outlinesOf(drawing);
		const ghosted = applyStep(
			drawing,
			makeStep(
				drawing,
				'Keep a ghost',
				keepGhosts(drawing, [outline], () => 'ghost-1')
			)!,
			'forward'
		);
		const settings = { ...settingsOf(ghosted), toolRadius: 1.5 };
		const records = new Map(ghosted.records).set('settings', settings);
		const back = unwrap(fromPlain(JSON.parse(JSON.stringify(toPlain({ ...ghosted, records })))));
		expect(settingsOf(back).toolRadius).toBe(1.5);
		expect(recordAs(back, 'outline', outline.id).ghost).toBe('ghost-1');
		expect(recordAs(back, 'line', 'ghost-1').path).toEqual(lineOf(outline));
		expect(fromPlain({ ...toPlain(drawing), version: DRAWING_VERSION + 1 })).toMatchObject({
			problem: { code: 'newer-version' }
		});
	});

	test('what no version ever was is refused, and so is one that is nothing that could be', () => {
		const plain = toPlain(drawing);
		expect(fromPlain({ ...plain, version: 0 })).toMatchObject({ problem: { code: 'old-version' } });
		for (const records of ['none', [{ type: 'puppet' }], [7], [{ type: 'outline' }]])
			expect(fromPlain({ ...plain, version: 2, records })).toMatchObject({
				problem: { code: 'bad-drawing' }
			});
	});

	test('files of the second version open: every line where it lay, shapes with corners that stay editable', () => {
		for (const name of ['rough-owl', 'control-bars', 'mask-pictures', 'fox-puppet']) {
			const bytes = readFileSync(`tests/fixtures/version-2/${name}.thread`);
			expect(unwrap(readDrawingFile(bytes)).drawing.records.size).toBeGreaterThan(1);
		}
		const facts = { type: 'outline', name: 'Plate', layer: 'cut', rank: 3, closed: true };
		const shape = { shape: 'rectangle', x: 3, y: 4, angle: 0, width: 20, height: 10, corner: 2 };
		const { anchors, points, marks, nextAnchor } = outlineFromPath(shapePath(shape as ShapeRecipe), {
			id: 'plate',
			...facts
		});
		const plate = {
			...facts,
			id: 'plate',
			nextAnchor,
			anchors: [...anchors],
			points: [...points],
			marks: [...marks],
			recipe: shape
		};
		const plain = toPlain(newDrawing('d', 'Old'));
		const opened = unwrap(
			fromPlain({ ...plain, version: 2, records: [...(plain.records as object[]), plate] })
		);
		const now = recordAs(opened, 'outline', 'plate');
		expect(now.recipe).toMatchObject({ kind: 'shape', settings: shape });
		expect(now.anchors).toHaveLength(4);
		expect([...lineOf(now).segs]).toEqual([...shapePath(shape as ShapeRecipe).segs]);
	});
});

describe('picture headers', () => {
	const made = (format: 'png' | 'jpeg' | 'webp' | 'gif', density?: number) => {
		const image = sharp({ create: { width: 8, height: 6, channels: 3, background: '#888' } });
		return (density ? image.withMetadata({ density }) : image).toFormat(format).toBuffer();
	};
	test('kinds and true resolutions; 72 and 96 dpi are placeholders; 11811 px/m is 300 dpi (PNG specification, pHYs)', async () => {
		for (const format of ['png', 'jpeg', 'webp', 'gif'] as const)
			expect(unwrap(readPictureHeader(await made(format))).kind).toBe(format);
		expect(unwrap(readPictureHeader(await made('png', 300))).pxPerMm).toBeCloseTo(11.811, 3);
		expect(unwrap(readPictureHeader(await made('jpeg', 200))).pxPerMm).toBeCloseTo(200 / 25.4, 6);
		expect(unwrap(readPictureHeader(await made('png', 72))).pxPerMm).toBeUndefined();
		expect(unwrap(readPictureHeader(await made('jpeg', 96))).pxPerMm).toBeUndefined();
		expect(unwrap(readPictureHeader(await made('png'))).pxPerMm).toBeUndefined();
	});
	test('a text file and an empty file are told apart from damaged pictures', () => {
		expect(readPictureHeader(strToU8('hello'))).toMatchObject({ problem: { code: 'not-picture' } });
		expect(readPictureHeader(new Uint8Array())).toMatchObject({ problem: { code: 'empty-file' } });
		expect(damagedPicture('jpeg')).toMatchObject({ problem: { sentence: expect.stringContaining('JPEG') } });
		expect(toProblem(new CoreError('x', 'Plain.'))).toEqual({ code: 'x', sentence: 'Plain.' });
		expect(toProblem(new Error('odd')).code).toBe('unexpected');
	});
});

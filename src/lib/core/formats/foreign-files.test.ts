/**
 * Files from elsewhere: what they mean by the standards, what is said of them, and that none freezes or spoils anything.
 * Sources: SVG 2 (paths closed by fill 13.4; viewports 8), CSS Cascading 4 (6.1 importance, specificity), CSS Transforms 1
 * (5 transform-origin, transform-box), the published DXF reference (groups 60, 67, 210; arbitrary axis algorithm).
 */
import fc from 'fast-check';
import { strToU8 } from 'fflate';
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { pathArea, pathBox, pathLength } from '../geometry/measure';
import { ARC, PathBuilder, polygonPath, type Path } from '../geometry/path';
import { finish } from '../progress';
import { newDrawing, outlinesOf, type DrawingRecord } from '../document/drawing';
import { addImported } from './add-imported';
import { FILE_LIMIT } from './budget';
import { readDxf } from './dxf';
import { writeDxf } from './dxf-write';
import { FORMATS, readLines, writtenOf } from './formats';
import type { Imported } from './imported';
import { closedPieces, resolvedSteps, type Piece } from './solids';
import { readSvg } from './svg';
import { writeSvg } from './svg-write';

const svgText = (body: string, head = 'width="100mm" height="100mm" viewBox="0 0 100 100"') =>
	`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${body}</svg>`;
const svg = (body: string, head?: string) => unwrap(readSvg(svgText(body, head)));
const dxfText = (entities: string, blocks = '', head = '9 $INSUNITS 70 4') =>
	[
		`0 SECTION 2 HEADER ${head} 0 ENDSEC`,
		...(blocks ? [`0 SECTION 2 BLOCKS ${blocks} 0 ENDSEC`] : []),
		`0 SECTION 2 ENTITIES ${entities} 0 ENDSEC 0 EOF`
	]
		.join(' ')
		.split(' ')
		.join('\n');
const dxf = (entities: string, blocks?: string, head?: string) =>
	unwrap(readDxf(dxfText(entities, blocks, head)));
const areaOf = (imported: Imported) =>
	closedPieces(imported).reduce(
		(sum, piece) => sum + piece.paths.reduce((s, path, i) => s + (i ? -1 : 1) * Math.abs(pathArea(path)), 0),
		0
	);
const allFinite = (paths: readonly Path[]) => paths.every((path) => path.segs.every(Number.isFinite));

describe('an SVG means what it says', () => {
	test('what is filled is closed, what is only stroked stays open; one straight has no area', () => {
		expect(svg('<path d="M0 0H9V9"/>').shapes[0].paths[0].closed).toBe(true);
		expect(svg('<path d="M0 0H9V9" fill="none" stroke="red"/>').shapes[0].paths[0].closed).toBe(false);
		expect(svg('<line x2="9" y2="3" stroke="red"/>').shapes[0].paths[0].closed).toBe(false);
	});

	test('sizes of symbols, inner drawings and shares; a ratio that is meet, slice or none', () => {
		const used = svg(
			'<symbol id="s" viewBox="0 0 4 4"><rect width="4" height="4"/></symbol><use href="#s" x="10" width="20" height="40"/>'
		);
		expect(pathBox(used.shapes[0].paths[0])).toEqual({ x0: 10, x1: 30, y0: -30, y1: -10 });
		const shares = svg('<rect x="50%" width="25%" height="10%"/>').shapes[0].paths[0];
		expect(pathBox(shares)).toEqual({ x0: 50, x1: 75, y0: -10, y1: 0 });
		const wide = (ratio: string) =>
			pathBox(
				svg(
					'<rect width="10" height="10"/>',
					`width="200mm" height="100mm" viewBox="0 0 100 100" preserveAspectRatio="${ratio}"`
				).shapes[0].paths[0]
			);
		expect([wide('none').x1, wide('none').y0]).toEqual([20, -10]);
		expect([wide('xMidYMid').x1, wide('xMidYMid slice').x1]).toEqual([10, 20]);
	});

	test('importance wins over specificity, specificity over order; media of print do not count', () => {
		const one = (css: string) => svg(`<style>${css}</style><rect id="a" class="b" width="1" height="1"/>`);
		expect(one('#a{fill:red} .b{fill:blue} rect{fill:lime}').shapes[0].fill).toBe('red');
		expect(one('.b{fill:blue!important} #a{fill:red}').shapes[0].fill).toBe('blue');
		expect(one('@media print{#a{fill:red}} rect{fill:lime}').shapes[0].fill).toBe('lime');
		expect(one('rect:not(.c){fill:teal} ??? {fill:red}').shapes[0].fill).toBe('teal');
		expect(
			svg('<g color="#123456"><rect fill="currentColor" width="1" height="1"/></g>').shapes[0].fill
		).toBe('#123456');
	});

	test('what cannot be followed is said: clips, masks, markers, gradients, wide strokes', () => {
		const said = svg(
			'<linearGradient id="g"><stop stop-color="#00ff00"/></linearGradient>' +
				'<path d="M0 0H9V9Z" clip-path="url(#c)" mask="url(#m)" fill="url(#g)" stroke="#000" stroke-width="4" marker-end="url(#k)"/>'
		);
		expect(said.shapes[0].fill).toBe('#00ff00');
		for (const word of ['clip', 'mask', 'marker', 'gradient', '4 mm wide'])
			expect(said.warnings.join(' ')).toContain(word);
	});

	test('a shape that crosses itself keeps its area by its own rule, is cut by what bounds it, and that is said', () => {
		const star = 'M50 10L26 84L90 38L10 38L74 84Z';
		const [full, holed] = [svg(`<path d="${star}"/>`), svg(`<path fill-rule="evenodd" d="${star}"/>`)];
		expect(areaOf(full)).toBeGreaterThan(areaOf(holed) + 100);
		const resolved = finish(resolvedSteps(full));
		expect(resolved.shapes[0].paths).toHaveLength(1);
		expect(resolved.warnings.join()).toContain('crossed itself');
		expect(areaOf(resolved)).toBeCloseTo(areaOf(full), 9);
	});
});

describe('a DXF means what it says', () => {
	test('outlines of one shape that touch, lie on or in each other keep the area that they fill by the non-zero rule', () => {
		const area = (d: string) => +areaOf(svg(`<path d="${d}"/>`)).toFixed(4);
		const twice = (d: string) => [area(d), area(`${d}${d}`)];
		// Beside each other along an edge, all of one or a part of it.
		expect(area('M10 10H50V20H10ZM0 20H60V30H0Z')).toBe(1000);
		expect(area('M0 0H10V10H0ZM10 0H20V10H10ZM0 10H10V20H0ZM10 10H20V20H10Z')).toBe(400);
		// In each other, sharing an edge: one way round it adds nothing, the other way it is a notch.
		expect(area('M0 0H40V40H0ZM0 10H20V30H0Z')).toBe(1600);
		expect(area('M0 0H40V40H0ZM0 10V30H20V10Z')).toBe(1200);
		// The same twice.
		expect(twice('M0 0H40V40H0Z')).toEqual([1600, 1600]);
		const [once, again] = twice('M20 0A20 20 0 0 1 20 40A20 20 0 0 1 20 0Z');
		expect(again).toBeCloseTo(once, 2);
		// By the even-odd rule what lies in it is a notch, whichever way it runs.
		for (const d of ['M0 0H40V40H0ZM0 10H20V30H0Z', 'M0 0H40V40H0ZM0 10V30H20V10Z'])
			expect(+areaOf(svg(`<path fill-rule="evenodd" d="${d}"/>`)).toFixed(4)).toBe(1200);
		// Within, not touching: a hole only if it runs the other way round.
		expect(area('M0 0H40V40H0ZM10 10H20V30H10Z')).toBe(1600);
		expect(area('M0 0H40V40H0ZM10 10V30H20V10Z')).toBe(1400);
	});

	test('outlines within each other on a layer are pieces with holes and islands, those of other layers are not', () => {
		const circle = (layer: string, r: number) => `0 CIRCLE 8 ${layer} 10 0 20 0 40 ${r}`;
		const read = dxf([circle('a', 9), circle('a', 6), circle('a', 3), circle('b', 1)].join(' '));
		expect(read.shapes.map((s) => s.paths.length)).toEqual([2, 1, 1]);
		expect(areaOf(read)).toBeCloseTo(Math.PI * (81 - 36 + 9 + 1), 9);
	});

	test('lines in any order and direction are joined where their ends lie within a hundredth; how far is said', () => {
		const line = (a: number, b: number, c: number, d: number) => `0 LINE 8 x 10 ${a} 20 ${b} 11 ${c} 21 ${d}`;
		const read = dxf([line(0, 0, 9, 0), line(0, 9, 9, 9.004), line(0, 9, 0, 0), line(9, 0, 9, 9)].join(' '));
		expect(read.shapes).toHaveLength(1);
		expect(read.shapes[0].paths[0].closed).toBe(true);
		expect(read.warnings.join()).toContain('0.004 mm');
	});

	test('mirrored and tilted planes, blocks in rows, colours of blocks and layers, splines through places', () => {
		const mirrored = dxf('0 ARC 8 0 10 10 20 0 40 2 50 0 51 90 210 0 220 0 230 -1').shapes[0].paths[0];
		expect(mirrored.segs[0]).toBeCloseTo(-12, 9);
		const rows = dxf(
			'0 INSERT 2 B 10 5 20 5 70 3 71 2 44 20 45 30',
			'0 BLOCK 2 B 10 0 20 0 0 CIRCLE 8 0 10 0 20 0 40 1 0 ENDBLK'
		);
		expect(rows.shapes).toHaveLength(6);
		const fits = dxf('0 SPLINE 8 0 70 0 71 3 74 3 11 0 21 0 11 5 21 4 11 10 21 0').shapes[0].paths[0];
		expect(fits.types).toHaveLength(2);
		expect([fits.segs[6], fits.segs[7]]).toEqual([5, 4]);
		expect(dxf('0 LINE 8 0 62 1 10 0 20 0 11 3 21 3').shapes[0].stroke).toBe('#ff0000');
	});

	test('without a unit it says so; what is not shown and what is no line is listed', () => {
		const read = dxf(
			'0 LINE 8 0 10 0 20 0 11 3 21 3 0 XLINE 8 0 10 0 20 0 0 DIMENSION 8 0 0 LINE 8 0 60 1 10 0 20 0 11 1 21 1 0 3DSOLID 8 0',
			'',
			'9 $ACADVER 1 AC1015'
		);
		expect(read.unitless).toBe(true);
		for (const word of ['XLINE', 'DIMENSION', 'not shown', '3DSOLID'])
			expect(read.warnings.join(' ')).toContain(word);
	});

	test('one outline is one entity, and comes back as it went: curves, arcs above half a turn, names, colours', () => {
		const mixed = new PathBuilder(0, 0).line(30, 0).arc(1.9, 40, 10).cubic(45, 20, 20, 35, 10, 30).close();
		const text = writeDxf([{ path: mixed, layer: 'felt', name: 'ear', colour: '#c33c33' }], {
			curves: 'exact'
		});
		expect(text.match(/\r\n0\r\n(SPLINE|LWPOLYLINE)\r\n/g)).toHaveLength(1);
		const [shape] = unwrap(readDxf(text)).shapes;
		expect([...shape.paths[0].types]).toEqual([...mixed.types]);
		expect(shape.paths[0].types.includes(ARC)).toBe(true);
		mixed.segs.forEach((v, i) => expect(shape.paths[0].segs[i]).toBeCloseTo(v, 7));
		expect([shape.name, shape.stroke, shape.layer]).toEqual(['ear', '#c33c33', 'felt']);
	});
});

describe('no file freezes, none passes nonsense on', () => {
	test('references that go round, blocks within themselves, crowds, depths, lengths end with a sentence', () => {
		const bomb = Array.from(
			{ length: 25 },
			(_, i) => `<g id="u${i + 1}"><use href="#u${i}"/><use href="#u${i}" x="1"/></g>`
		).join('');
		const refused: [string, string][] = [
			['a.svg', svgText('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>')],
			['b.svg', svgText(`<rect id="u0" width="1" height="1"/>${bomb}`)],
			['c.svg', svgText('<g>'.repeat(50_000))],
			['d.svg', svgText('<g '.repeat(50_000))],
			['e.svg', svgText(`<path d="M0 0${'L1 2'.repeat(FILE_LIMIT.pathData / 4)}"/>`)],
			['f.svg', svgText('<rect width="1e308" height="1e308"/>')],
			[
				'g.dxf',
				dxfText(
					'0 INSERT 2 B 10 0 20 0 70 30000 71 30000 44 1',
					'0 BLOCK 2 B 10 0 20 0 0 POINT 8 0 10 0 20 0 0 ENDBLK'
				)
			],
			['h.dxf', dxfText('0 LINE 8 0 10 0 20 0 11 1e308 21 1')],
			['i.dxf', dxfText('0 LINE 8 0 10 0 20 0 11 zebra 21 1')]
		];
		for (const [name, text] of refused) {
			const read = readLines(strToU8(text), name);
			expect(read.ok, name).toBe(false);
			if (!read.ok) expect(read.problem.sentence).toMatch(/^[A-Z].*\.$/);
		}
		const itself = dxf(
			'0 INSERT 2 B 10 0 20 0',
			'0 BLOCK 2 B 10 0 20 0 0 CIRCLE 8 0 10 0 20 0 40 1 0 INSERT 2 B 10 1 20 0 0 ENDBLK'
		);
		expect(itself.warnings.join()).toContain('holds itself');
		const turned = dxf(
			'0 ARC 8 0 10 0 20 0 40 5 50 0 51 -1e18 0 ELLIPSE 8 0 10 0 20 0 11 5 21 0 40 0.5 41 0 42 1e9'
		);
		expect(allFinite(turned.shapes.flatMap((s) => s.paths))).toBe(true);
	});

	const whole = {
		svg: writeSvg([
			{ paths: [blob(9, 3)], name: 'a', layer: 'x' },
			{ paths: [polygonPath([0, 0, 9, 0, 9, 9])], stroke: '#f00' }
		]),
		dxf: writeDxf(
			[
				{ path: blob(9, 3), layer: 'x', name: 'a' },
				{ path: polygonPath([0, 0, 9, 0, 9, 9]), layer: 'y' }
			],
			{ curves: 'exact' }
		)
	};
	test.each(['svg', 'dxf'] as const)(
		'a %s with lines or letters missing opens in part or says so, never with nonsense',
		(kind) => {
			const lines = whole[kind].split(/\r?\n/);
			const tried = (text: string) => {
				const read = readLines(strToU8(text), `a.${kind}`);
				if (!read.ok) expect(read.problem.sentence).toMatch(/\.$/);
				else expect(allFinite(read.value.shapes.flatMap((s) => s.paths))).toBe(true);
			};
			for (let k = 0; k < lines.length; k++) tried(lines.filter((_, i) => i !== k).join('\n'));
			fc.assert(
				fc.property(fc.nat(whole[kind].length - 1), fc.nat(40), (at, count) =>
					tried(whole[kind].slice(0, at) + whole[kind].slice(at + count))
				),
				{ numRuns: 300, seed: 4 }
			);
		}
	);

	test('a transform of no numbers is left out, and nothing that is none is written', () => {
		const read = svg('<path transform="matrix(NaN 0 0 1 0 0)" d="M0 0H9V9Z"/>');
		expect(allFinite(read.shapes.flatMap((s) => s.paths))).toBe(true);
		expect(writeSvg(closedPieces(read))).not.toMatch(/NaN|Infinity/);
	});
});

describe('what goes out comes in', () => {
	const drawingOf = (imported: Imported) => {
		const empty = newDrawing('d', 'Fox puppet');
		let count = 0;
		const put = addImported(empty, imported, 'file', () => `r${++count}`).put ?? [];
		return {
			...empty,
			records: new Map<string, DrawingRecord>([...empty.records, ...put.map((r) => [r.id, r] as const)])
		};
	};
	test('layers, names of pieces and holes, colours, marks, the title; closed stays closed, open stays open', () => {
		const drawing = drawingOf(
			svg(
				'<g id="Red felt"><path fill="#cc3333" data-names="[&quot;ear&quot;,&quot;eye&quot;]" d="M0 0H9V9H0ZM3 3V6H6V3Z"/></g><g id="Fold"><path d="M0 20H9V29" fill="none" stroke="#3333cc"/></g><path d="M60 60Z"/>'
			)
		);
		for (const format of FORMATS.filter((f) => f.id !== 'thread')) {
			for (const look of ['lines', 'filled'] as const) {
				const bytes = format.write(writtenOf(drawing, {}, look), {});
				const back = drawingOf(unwrap(readLines(bytes, `a${format.ending}`)));
				const facts = (d: typeof drawing) =>
					outlinesOf(d)
						.map((o) => [o.name, o.closed, o.colour, d.records.get(o.layer)])
						.map(([name, closed, colour, layer]) => [name, closed, colour, (layer as { name: string }).name]);
				expect(facts(back), `${format.id} ${look}`).toEqual(facts(drawing));
				expect([...back.records.values()].filter((r) => r.type === 'mark')).toHaveLength(1);
			}
		}
		expect(writeSvg(writtenOf(drawing).pieces, undefined, [], drawing.name)).toContain(
			'<title>Fox puppet</title>'
		);
		expect(pathLength(closedPieces(svg('<rect width="4" height="4"/>'))[0].paths[0])).toBe(16);
	});

	test('broken lines come in and go out as they are, by their own line type or their layer’s', () => {
		const file = svg(
			'<path d="M0 0H40" fill="none" stroke="#000" stroke-dasharray="6,2 1,2"/><path d="M0 9H40V20H0Z" fill="none" stroke="#000" style="stroke-dasharray:3"/><path d="M0 30H40" stroke="#000" fill="none"/>'
		);
		const dashesOf = (shapes: Imported['shapes']) => shapes.map((s) => s.dashes?.map((d) => +d.toFixed(6)));
		const want = [[6, 2, 1, 2], [3, 3], undefined];
		expect(dashesOf(file.shapes)).toEqual(want);
		const drawing = drawingOf(file);
		expect(outlinesOf(drawing).map((o) => o.dashes?.length)).toEqual([4, 2, undefined]);
		for (const format of FORMATS.filter((f) => f.id !== 'thread')) {
			const back = unwrap(readLines(format.write(writtenOf(drawing), {}), `a${format.ending}`));
			const order = [...back.shapes].sort((a, b) => pathBox(b.paths[0]).y1 - pathBox(a.paths[0]).y1);
			expect(dashesOf(order), format.id).toEqual(want);
		}
		// Codes of the published DXF reference: 6 line type, 49 lengths (gaps negative, dots 0), 48 scale, $LTSCALE.
		const read = unwrap(
			readDxf(
				[
					'0 SECTION 2 HEADER 9 $INSUNITS 70 5 9 $LTSCALE 40 2 0 ENDSEC',
					'0 SECTION 2 TABLES 0 TABLE 2 LTYPE 0 LTYPE 2 Fold 49 1 49 -0.5 49 0 49 -0.5 0 ENDTAB',
					'0 TABLE 2 LAYER 0 LAYER 2 folds 70 0 62 7 6 FOLD 0 ENDTAB 0 ENDSEC',
					'0 SECTION 2 ENTITIES',
					'0 LINE 8 folds 10 0 20 0 11 9 21 0',
					'0 LINE 8 other 6 Fold 48 0.5 10 0 20 5 11 9 21 5',
					'0 LINE 8 folds 6 Continuous 10 0 20 9 11 9 21 9',
					'0 ENDSEC 0 EOF'
				]
					.join(' ')
					.replaceAll(' ', '\n')
			)
		);
		expect(dashesOf(read.shapes)).toEqual([[20, 10, 0.2, 10], [10, 5, 0.1, 5], undefined]);
	});

	test('a thing of another colour or layer on a thing is no hole of it, in SVG and DXF and back', () => {
		const file = svg(
			'<g id="Face"><path fill="#eecc33" d="M0 0H40V40H0ZM5 5V9H9V5Z"/><path fill="#552211" d="M20 20H30V30H20ZM22 22V24H24V22Z"/></g><g id="Score"><path fill="#552211" d="M32 2H38V8H32Z"/></g>'
		);
		const want = [
			['Face', '#eecc33', 1584],
			['Face', '#552211', 96],
			['Score', '#552211', 36]
		];
		const facts = (pieces: readonly Piece[]) =>
			pieces.map(({ paths, layer, fill, stroke }) => [
				layer,
				fill ?? stroke,
				Math.round(paths.reduce((sum, path, i) => sum + (i ? -1 : 1) * Math.abs(pathArea(path)), 0))
			]);
		expect(facts(closedPieces(file))).toEqual(want);
		for (const look of ['lines', 'filled'] as const) {
			const written = writtenOf(drawingOf(file), {}, look);
			expect(facts(written.pieces)).toEqual(want);
			for (const format of FORMATS.filter((f) => f.id !== 'thread')) {
				const back = unwrap(readLines(format.write(written, {}), `a${format.ending}`));
				expect(facts(closedPieces(back)), `${format.id} ${look}`).toEqual(want);
			}
		}
	});

	test('a spline comes back as narrow as it went, however many spans it has; a line of no length is told', () => {
		const line = new PathBuilder(0, 0);
		for (let k = 0; k < 4000; k++) line.cubic(3 * k + 1, 1, 3 * k + 2, 2, 3 * k + 3, k % 2);
		const pieces = [{ paths: [line.open()], name: 'long', layer: 'cut' }];
		const dxf = FORMATS.find(({ id }) => id === 'dxf')!;
		const back = unwrap(
			readLines(dxf.write({ name: 'long', pieces, points: [] }, { curves: 'exact' }), 'a.dxf')
		);
		expect(back.warnings).toEqual([]);
		expect(back.shapes).toHaveLength(1);
		// A width would be offered as a band.
		expect(back.shapes[0].wide).toBeUndefined();
		expect(pathLength(back.shapes[0].paths[0])).toBeCloseTo(pathLength(line.open()), 3);
		const short = svg('<g transform="scale(0)"><path d="M3 3h9v9z"/></g><path d="M1 1h5v5z"/>');
		expect(short.shapes.flatMap(({ paths }) => paths)).toHaveLength(1);
		expect(short.warnings).toEqual(['A line of no length was left out.']);
	});
});

/** Paper: sizes and tiles by ISO 216 and by hand, PDF read by a general reader, PNG by the standard. */
import { describe, expect, test } from 'vitest';
import { PDFDocument, rgb } from 'pdf-lib';
import { strToU8 } from 'fflate';
import { blob } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathBox } from '../geometry/measure';
import { readLines, unpacked } from './formats';
import { writeSvg } from './svg-write';
import ExifReader from 'exifreader';
import { circlePath, polygonPath, transformPath } from '../geometry/path';
import { PAPERS, tilesOf, WHITE_EDGE } from './paper';
import { writePdf } from './pdf-write';
import { pageSvg } from './page-svg';
import { withResolution } from './png-resolution';

const tiled = (width: number, height: number, overlap = 10) => {
	const made = tilesOf({ width, height }, PAPERS.a4, overlap);
	if (!made.ok) throw new Error(made.problem.sentence);
	return made.value;
};

describe('pages', () => {
	test('sizes of ISO 216: each is half the one before, rounded down to whole millimetres', () => {
		for (let k = 0; k < 5; k++) {
			const [large, small] = [PAPERS[`a${k}`], PAPERS[`a${k + 1}`]];
			expect(small).toEqual({ width: Math.floor(large.height / 2), height: large.width });
		}
	});

	test('together they show all of the drawing, neighbours share what was asked for', () => {
		for (const [w, h] of [
			[100, 100],
			[400, 300],
			[1000, 130],
			[194, 281]
		]) {
			const { tiles, page, columns, rows } = tiled(w, h);
			expect(tiles).toHaveLength(columns * rows);
			const shows = (x: number, y: number) =>
				tiles.some(
					(t) =>
						x >= t.x + WHITE_EDGE - 1e-9 &&
						x <= t.x + page.width - WHITE_EDGE + 1e-9 &&
						y >= t.y + WHITE_EDGE - 1e-9 &&
						y <= t.y + page.height - WHITE_EDGE + 1e-9
				);
			for (let x = 0; x <= w; x += w / 37)
				for (let y = 0; y <= h; y += h / 37) expect(shows(x, y)).toBe(true);
			const [first, second] = tiles;
			if (columns > 1) expect(first.x + page.width - WHITE_EDGE - (second.x + WHITE_EDGE)).toBeCloseTo(10, 9);
		}
		// Two lying pages across and two down are fewer than three upright ones across and two down.
		expect(tiled(400, 300).tiles).toHaveLength(4);
	});

	test('an overlap that leaves nothing, or too many pages, is refused in a sentence', () => {
		expect(tilesOf({ width: 500, height: 500 }, PAPERS.a5, 140)).toMatchObject({ ok: false });
		expect(tilesOf({ width: 99_000, height: 99_000 }, PAPERS.a4, 10)).toMatchObject({ ok: false });
	});
});

describe('PDF', () => {
	const pieces = [
		{ paths: [circlePath(100, 100, 50)], name: 'Disc – größer' },
		{ paths: [polygonPath([10, 10, 290, 190], false)], name: 'crease 猫', dashes: [4, 2] }
	];
	test('one page of the drawing’s size; pages of the paper’s size, to 0.01 mm (points of 1/72 inch, ISO 32000)', async () => {
		const one = await PDFDocument.load(
			await writePdf(pieces, { name: 'x', width: 300, height: 200, names: true })
		);
		const mm = ({ width, height }: { width: number; height: number }) =>
			[width, height].map((v) => (v / 72) * 25.4);
		expect(mm(one.getPage(0).getSize())[0]).toBeCloseTo(300, 2);
		expect(mm(one.getPage(0).getSize())[1]).toBeCloseTo(200, 2);
		const parted = await PDFDocument.load(
			await writePdf(pieces, { name: 'x', width: 300, height: 200, names: true, tiling: tiled(300, 200) })
		);
		expect(parted.getPageCount()).toBe(tiled(300, 200).tiles.length);
		for (const page of parted.getPages())
			expect(mm(page.getSize()).sort((a, b) => a - b)[0]).toBeCloseTo(210, 2);
	});

	test('opened again: the same lines, from those put along with pages and from what the pages themselves draw', async () => {
		const lines = [blob(9, 4, 60), circlePath(0, 0, 14), polygonPath([-90, -50, 95, 70], false)].map((path) =>
			transformPath(path, [1, 0, 0, 1, 120, 100])
		);
		const onPages = lines.map((path) => ({ paths: [path] }));
		const facts = { name: 'x', width: 300, height: 200 };
		const svg = writeSvg(onPages, { x: 0, y: -200, w: 300, h: 200 });
		for (const [more, off] of [
			[{}, 2e-3],
			[{ lines: svg }, 1e-5],
			[{ lines: svg, tiling: tiled(300, 200) }, 1e-5]
		] as const) {
			const bytes = await unpacked(await writePdf(onPages, { ...facts, ...more }), 'x.pdf');
			const read = readLines(bytes, 'x.pdf');
			if (!read.ok) throw new Error(read.problem.sentence);
			const paths = read.value.shapes.flatMap((shape) => shape.paths);
			expect(paths.map((path) => path.closed)).toEqual([true, true, false]);
			expect(twoWayDistance(paths, lines, 0.05).distance).toBeLessThan(off);
			expect(read.value.frame).toMatchObject({ w: expect.closeTo(300, 3), h: expect.closeTo(200, 3) });
		}
	});

	test('a PDF made by a general writer: forms, maps, colours, pages beside each other; pictures and texts are told as left out', async () => {
		const doc = await PDFDocument.create();
		const page = doc.addPage([720, 360]);
		page.drawSquare({ x: 72, y: 72, size: 144, borderWidth: 2, borderColor: rgb(1, 0, 0) });
		page.drawSvgPath('M0 0C40 0 72 30 72 72Z', { x: 300, y: 200, color: rgb(0, 0, 1) });
		page.drawText('not a line');
		doc.addPage([144, 144]).drawEllipse({ x: 72, y: 72, xScale: 36, yScale: 36, borderWidth: 1 });
		const other = await PDFDocument.create();
		const [form] = await other.embedPdf(await doc.save());
		other.addPage([360, 360]).drawPage(form, { x: 36, y: 0, xScale: 0.5, yScale: 0.5 });
		const read = async (from: PDFDocument) => {
			const got = readLines(await unpacked(await from.save(), 'x.pdf'), 'x.pdf');
			if (!got.ok) throw new Error(got.problem.sentence);
			return got.value;
		};
		const own = await read(doc);
		expect(own.warnings.join(' ')).toMatch(/text/i);
		const [square, leaf, disc] = own.shapes.map(({ paths }) => pathBox(paths[0]));
		const mm = (pt: number) => (pt / 72) * 25.4;
		expect([square.x0, square.y0, square.x1, square.y1]).toEqual(
			[25.4, 25.4, 76.2, 76.2].map((v) => expect.closeTo(v, 5))
		);
		expect(own.shapes[0].stroke).toBe('#ff0000');
		expect(own.shapes[1].fill).toBe('#0000ff');
		expect(leaf.x1 - leaf.x0).toBeCloseTo(mm(72), 5);
		expect((disc.x0 + disc.x1) / 2).toBeCloseTo(mm(720) + 10 + 25.4, 5);
		const within = await read(other);
		const small = pathBox(within.shapes[0].paths[0]);
		expect([small.x0, small.x1]).toEqual([12.7 + 12.7, 12.7 + 38.1].map((v) => expect.closeTo(v, 5)));
	});

	test('what is no PDF after all, or cut off, says so in a sentence', async () => {
		const whole = await writePdf(pieces, { name: 'x', width: 300, height: 200 });
		for (const bytes of [strToU8('%PDF-1.7 and nothing'), whole.subarray(0, 300)])
			await expect(unpacked(bytes, 'x.pdf').then((b) => readLines(b, 'x.pdf'))).rejects.toThrow(/PDF/);
	});

	test('a list of objects that says it is endless is refused at once (ISO 32000-1, 7.5.8)', async () => {
		const whole = Buffer.from(await writePdf(pieces, { name: 'x', width: 300, height: 200 })).toString(
			'latin1'
		);
		expect(whole).toMatch(/\/W \[ \d+ \d+ \d+ \]/);
		for (const swollen of [
			whole.replace(/\/W \[ \d+ \d+ \d+ \]/, '/W [ 1 2 99999999999999999999999 ]'),
			whole.replace(/\/Index \[ \d+ \d+ \]/, '/Index [ 0 99999999999 ]'),
			whole.replace(/\/W \[ \d+ \d+ \d+ \]/, '/W[1 2 -1]')
		]) {
			expect(swollen).not.toBe(whole);
			await expect(unpacked(new Uint8Array(Buffer.from(swollen, 'latin1')), 'x.pdf')).rejects.toThrow(
				'This PDF is damaged and cannot be read.'
			);
		}
	});

	test('the page for the browser’s print says its size in millimetres and carries its marks', () => {
		const tiling = tiled(300, 200);
		const svg = pageSvg(pieces, tiling.tiles[0], tiling, { name: 'a < b', names: true });
		expect(svg).toContain(`width="${tiling.page.width}mm" height="${tiling.page.height}mm"`);
		expect(svg).toContain('a &lt; b');
		expect(svg).toContain('stroke-dasharray="4 2"');
		expect(svg.match(/<text/g)).toHaveLength(3);
	});
});

test('a PNG states its resolution: 300 dpi are 11811 px in a metre (W3C PNG specification)', () => {
	const plain = Buffer.from(
		'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
		'base64'
	);
	const png = withResolution(new Uint8Array(plain), 300);
	const view = new DataView(png.buffer);
	expect(view.getUint32(41)).toBe(11811);
	// A general reader takes it, checksum and all.
	const tags = ExifReader.load(png.buffer, { expanded: true }) as {
		pngFile?: Record<string, { value: unknown }>;
	};
	expect(tags.pngFile?.['Image Width']?.value ?? 1).toBe(1);
});

/** Paper: sizes and tiles by ISO 216 and by hand, PDF read by a general reader, PNG by the standard. */
import { describe, expect, test } from 'vitest';
import { PDFDocument } from 'pdf-lib';
import ExifReader from 'exifreader';
import { circlePath, polygonPath } from '../geometry/path';
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

/** The command line as its contract says: outputs, exit codes, sentences. It runs the source, not the build. */
import {
	copyFileSync,
	existsSync,
	mkdirSync,
	mkdtempSync,
	readdirSync,
	readFileSync,
	writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import sharp from 'sharp';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { main } from '../../src/cli/main';
import { decodePicture, loadPicture } from '../../src/lib/server/pictures';
import { readSvg } from '../../src/lib/core/formats/svg';
import { unwrap } from '../../src/lib/core/errors';
import { pathArea } from '../../src/lib/core/geometry/measure';

let out = '';
let err = '';
const folder = mkdtempSync(join(tmpdir(), 'thread-'));
const at = (name: string) => join(folder, name);
beforeEach(() => {
	out = '';
	err = '';
	vi.spyOn(process.stdout, 'write').mockImplementation((text) => ((out += text), true));
	vi.spyOn(process.stderr, 'write').mockImplementation((text) => ((err += text), true));
});
afterEach(() => vi.restoreAllMocks());

const SQUARE =
	'<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50"><path fill="#224466" d="M10 10H30V30H10Z"><title>Paw</title></path></svg>';
writeFileSync(at('square.svg'), SQUARE);
writeFileSync(
	at('open.svg'),
	'<svg fill="none" stroke="#000" width="50mm" height="50mm" viewBox="0 0 50 50"><path d="M10 10H30V30"/><path d="M40 40L40.1 40"/></svg>'
);
const picture = async (name: string, density?: number) => {
	const image = sharp(
		new Resvg(
			'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40"><rect width="40" height="40" fill="#fff"/><path d="M8 8H30V25L20 33L8 28Z"/></svg>',
			{ fitTo: { mode: 'width', value: 400 } }
		)
			.render()
			.asPng()
	).removeAlpha();
	await (density ? image.withMetadata({ density }) : image).toFile(at(name));
	return at(name);
};

describe('offset, simplify, measure, check, convert', () => {
	test('offset grows the square, keeps frame, fill and name', async () => {
		expect(
			await main([
				'offset',
				at('square.svg'),
				'--distance',
				'2',
				'--join',
				'miter',
				'--out',
				at('o.svg'),
				'--json'
			])
		).toBe(0);
		expect(JSON.parse(out)).toMatchObject({ pieces: 1, anchors: 4, fallback: false, warnings: [] });
		const text = readFileSync(at('o.svg'), 'utf8');
		expect(text).toContain('viewBox="0 0 50 50"');
		expect(text).toContain('fill="#224466"');
		expect(text).toContain('<title>Paw</title>');
		expect(Math.abs(pathArea(unwrap(readSvg(text)).shapes[0].paths[0]))).toBeCloseTo(576, 6);
	});
	test('a negative distance; nothing left: exit 1, the largest distance named, no file', async () => {
		expect(await main(['offset', at('square.svg'), '--distance', '-3', '--out', at('in.svg')])).toBe(0);
		expect(await main(['offset', at('square.svg'), '--distance', '-12', '--out', at('gone.svg')])).toBe(1);
		expect(err).toMatch(/largest distance that leaves something is 9\.9\d mm/);
		expect(existsSync(at('gone.svg'))).toBe(false);
	});
	test('simplify', async () => {
		writeFileSync(
			at('line.svg'),
			'<svg width="50mm" height="50mm" viewBox="0 0 50 50"><path d="M0 0L10 0L20 0L20 20L0 20Z"/></svg>'
		);
		expect(
			await main(['simplify', at('line.svg'), '--tolerance', '0.1', '--out', at('s.svg'), '--json'])
		).toBe(0);
		expect(JSON.parse(out)).toMatchObject({ anchors: 4 });
		expect(JSON.parse(out).drift).toBeLessThanOrEqual(0.1);
	});
	test('measure: size in the frame of the file, area less holes', async () => {
		expect(await main(['measure', at('square.svg'), '--json'])).toBe(0);
		expect(JSON.parse(out).pieces).toEqual([
			{ name: 'Paw', closed: true, length: 80, area: 400, bounds: [10, 10, 20, 20], anchors: 4, holes: 0 }
		]);
	});
	test('check: exit 1 while something stops a cut', async () => {
		expect(await main(['check', at('square.svg')])).toBe(0);
		expect(out).toContain('Nothing stops a cut');
		out = '';
		expect(await main(['check', at('open.svg'), '--json'])).toBe(1);
		expect(JSON.parse(out).problems.map((p: { what: string }) => p.what)).toEqual(['open-ends', 'crumb']);
		expect(JSON.parse(out).problems[0]).toMatchObject({ where: [10, 10], mend: 'close' });
	});
	test('convert there and back', async () => {
		expect(await main(['convert', at('square.svg'), '--out', at('c.dxf')])).toBe(0);
		expect(await main(['convert', at('c.dxf'), '--out', at('c.svg'), '--json'])).toBe(0);
		expect(
			Math.abs(pathArea(unwrap(readSvg(readFileSync(at('c.svg'), 'utf8'))).shapes[0].paths[0]))
		).toBeCloseTo(400, 6);
		expect(await main(['convert', at('square.svg'), '--out', at('c.xyz')])).toBe(2);
	});
});

describe('trace', () => {
	test('by the size given, by the resolution stated; the frame is the picture', async () => {
		const file = await picture('plain.png');
		expect(await main(['trace', file, '--px-per-mm', '10', '--out', at('t.svg'), '--json'])).toBe(0);
		const facts = JSON.parse(out);
		expect(facts).toMatchObject({ pieces: 1, outlines: 1 });
		expect(facts.worst).toBeLessThan(0.05);
		expect(readFileSync(at('t.svg'), 'utf8')).toContain('width="40mm" height="40mm" viewBox="0 0 40 40"');
		expect(await main(['trace', await picture('scan.png', 254), '--out', at('t2.svg')])).toBe(0);
		expect(readFileSync(at('t2.svg'), 'utf8')).toContain('width="40mm"');
		expect(await main(['trace', file, '--width', '80', '--out', at('t3.svg')])).toBe(0);
		expect(readFileSync(at('t3.svg'), 'utf8')).toContain('width="80mm"');
	});
	test('no size: exit 1 and a sentence; 72 dpi is a placeholder', async () => {
		expect(await main(['trace', await picture('dpi72.png', 72), '--out', at('n.svg')])).toBe(1);
		expect(err).toContain('states no true size');
		expect(existsSync(at('n.svg'))).toBe(false);
	});
	test('several pictures into a folder: one failure makes 1, the others are done', async () => {
		writeFileSync(at('bad.png'), 'no picture');
		const code = await main([
			'trace',
			await picture('a.png'),
			at('bad.png'),
			await picture('b.jpg'),
			'--px-per-mm',
			'10',
			'--out',
			at('many'),
			'--json'
		]);
		expect(code).toBe(1);
		expect(existsSync(join(at('many'), 'a.svg')) && existsSync(join(at('many'), 'b.svg'))).toBe(true);
		expect(err).toContain('bad.png');
		expect(JSON.parse(out).results).toHaveLength(2);
	});
	test('damaged pictures: a sentence each', async () => {
		const jpeg = await sharp({ create: { width: 300, height: 300, channels: 3, background: '#777' } })
			.jpeg()
			.toBuffer();
		writeFileSync(at('cut.jpg'), jpeg.subarray(0, jpeg.length / 2));
		expect(await loadPicture(at('cut.jpg'))).toMatchObject({ problem: { code: 'damaged-picture' } });
		expect(await loadPicture(at('nobody.png'))).toMatchObject({ problem: { code: 'no-file' } });
		expect(await decodePicture(new Uint8Array())).toMatchObject({ problem: { code: 'empty-file' } });
	});
	test('a BMP is read, upright and opaque', async () => {
		const bmp = new Uint8Array(54 + 16);
		const view = new DataView(bmp.buffer);
		bmp.set([0x42, 0x4d]);
		view.setUint32(2, 70, true);
		view.setUint32(10, 54, true);
		view.setUint32(14, 40, true);
		view.setInt32(18, 2, true);
		view.setInt32(22, 2, true);
		view.setUint16(26, 1, true);
		view.setUint16(28, 24, true);
		view.setInt32(38, 11811, true);
		bmp.set([255, 255, 255], 54); // lower left is white
		const read = unwrap(await decodePicture(bmp));
		expect([read.widthPx, read.heightPx]).toEqual([2, 2]);
		expect([...read.rgba.slice(8, 12)]).toEqual([255, 255, 255, 255]);
		expect(read.pxPerMm).toBeCloseTo(11.811, 3);
	});
});

describe('usage', () => {
	test('help on every verb; wrong words are 2', async () => {
		for (const verb of ['trace', 'offset', 'simplify', 'measure', 'check', 'convert'])
			expect(await main([verb, '--help'])).toBe(0);
		expect(await main(['--help'])).toBe(0);
		expect(await main([])).toBe(2);
		expect(await main(['fly'])).toBe(2);
		expect(await main(['offset', at('square.svg'), '--distance', 'x', '--out', at('q.svg')])).toBe(2);
		expect(await main(['offset', at('square.svg'), '--speed', '3'])).toBe(2);
		expect(await main(['simplify', at('square.svg'), '--tolerance', '0', '--out', at('q.svg')])).toBe(2);
		expect(await main(['trace', at('plain.png'), '--by', 'magic', '--out', at('q.svg')])).toBe(2);
		expect(await main(['trace', at('plain.png'), '--region', '1,2', '--out', at('q.svg')])).toBe(2);
		expect(await main(['measure', at('nothing.svg')])).toBe(1);
		expect(err).toContain('could be read');
	});
});

describe('combine, line-to-outline, join, offset of lines', () => {
	const run = async (...words: string[]) => {
		out = '';
		err = '';
		const code = await main([...words, '--json']);
		return { code, facts: code === 0 ? JSON.parse(out) : undefined };
	};
	const shapes = (name: string) => unwrap(readSvg(readFileSync(at(name), 'utf8'))).shapes;
	const area = (name: string) =>
		shapes(name).reduce((sum, s) => sum + Math.abs(s.paths.reduce((a, p) => a + pathArea(p), 0)), 0);

	test('two files, each operation; regions name the inputs; an empty result is an empty drawing', async () => {
		writeFileSync(at('b.svg'), SQUARE.replace('M10 10H30V30H10Z', 'M20 20H40V40H20Z').replace('Paw', 'Ear'));
		for (const [op, size] of [
			['union', 700],
			['difference', 300],
			['intersection', 100],
			['xor', 600],
			['regions', 700]
		] as const) {
			const { code, facts } = await run(
				'combine',
				at('square.svg'),
				at('b.svg'),
				'--op',
				op,
				'--out',
				at('c.svg')
			);
			expect(code).toBe(0);
			expect(facts).toMatchObject({ fallback: false, warnings: [] });
			expect(facts.error).toBeLessThan(1e-6);
			expect(area('c.svg')).toBeCloseTo(size, 6);
		}
		expect(readFileSync(at('c.svg'), 'utf8')).toMatch(/data-in="A B"/);
		const { code, facts } = await run(
			'combine',
			at('square.svg'),
			at('square.svg'),
			'--op',
			'difference',
			'--out',
			at('c.svg')
		);
		expect([code, facts.pieces, shapes.length]).toEqual([0, 0, 1]);
	});

	test('a single file unites all its paths; open lines are cut by the other file', async () => {
		writeFileSync(
			at('two.svg'),
			'<svg width="50mm" height="50mm" viewBox="0 0 50 50"><path d="M10 10H30V30H10Z"/><path d="M20 20H40V40H20Z"/></svg>'
		);
		await run('combine', at('two.svg'), '--op', 'union', '--out', at('c.svg'));
		expect(area('c.svg')).toBeCloseTo(700, 6);
		writeFileSync(
			at('line.svg'),
			'<svg width="50mm" height="50mm" viewBox="0 0 50 50"><path d="M0 20H50" fill="none" stroke="#f00"/></svg>'
		);
		await run('combine', at('line.svg'), at('square.svg'), '--op', 'difference', '--out', at('c.svg'));
		expect(shapes('c.svg').map((s) => s.paths[0].closed)).toEqual([false, false]);
	});

	test('lines of a width, lines joined, lines offset; what is wrong ends with 1 and no file', async () => {
		const wide = await run('line-to-outline', at('line.svg'), '--width', '2', '--out', at('w.svg'));
		expect(wide.facts).toMatchObject({ outlines: 1 });
		expect(area('w.svg')).toBeCloseTo(100, 6);
		writeFileSync(
			at('loose.svg'),
			'<svg fill="none" stroke="#000" width="50mm" height="50mm" viewBox="0 0 50 50"><path d="M10 10H30"/><path d="M30.1 10V30L10 10"/><path d="M45 45V49"/></svg>'
		);
		const joined = await run('join', at('loose.svg'), '--gap', '0.2', '--out', at('j.svg'));
		expect(joined.facts).toMatchObject({ unjoined: 2, outlines: 2 });
		expect(joined.facts.drift).toBeCloseTo(0.05, 9);
		const left = await run(
			'offset',
			at('line.svg'),
			'--distance',
			'3',
			'--side',
			'left',
			'--out',
			at('l.svg')
		);
		expect(left.facts).toMatchObject({ outlines: 1 });
		const steps = await run(
			'offset',
			at('square.svg'),
			'--distance',
			'1',
			'--steps',
			'3',
			'--out',
			at('s.svg')
		);
		expect(steps.facts).toMatchObject({ outlines: 3 });
		expect((await run('offset', at('square.svg'), '--distance', '-30', '--out', at('no.svg'))).code).toBe(1);
		expect(err).toMatch(/largest distance that leaves something is \d/);
		expect(existsSync(at('no.svg'))).toBe(false);
		expect((await run('combine', at('square.svg'), '--op', 'melt', '--out', at('no.svg'))).code).toBe(2);
		expect((await run('join', at('square.svg'), '--out', at('no.svg'))).code).toBe(2);
	});
});

describe('files written are whole', () => {
	test('a folder that is not there, a name that is a folder: told why, nothing beside is left', async () => {
		mkdirSync(at('taken.svg'), { recursive: true });
		expect(await main(['convert', at('square.svg'), '--out', at('nowhere/a.svg')])).toBe(1);
		expect(err).toContain('no such folder');
		err = '';
		expect(await main(['convert', at('square.svg'), '--out', at('taken.svg')])).toBe(1);
		expect(err).toMatch(/could not be written\..*Nothing was changed/);
		expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
	});

	test('an input that is also the output is whole before and after; a refused disk leaves it as it was', async () => {
		writeFileSync(at('own.svg'), SQUARE);
		expect(await main(['simplify', at('own.svg'), '--tolerance', '0.1', '--out', at('own.svg')])).toBe(0);
		expect(readFileSync(at('own.svg'), 'utf8')).toContain('Paw');
		writeFileSync(at('broken.svg'), '<svg><g></svg>');
		expect(await main(['convert', at('broken.svg'), '--out', at('own.svg')])).toBe(1);
		expect(readFileSync(at('own.svg'), 'utf8')).toContain('Paw');
	});

	test('two pictures of one name in a batch give two files', async () => {
		mkdirSync(at('other'), { recursive: true });
		const first = await picture('twin.png', 200);
		copyFileSync(first, at('other/twin.png'));
		const code = await main(['trace', first, at('other/twin.png'), '--out', at('twins'), '--json']);
		expect(code).toBe(0);
		expect(readdirSync(at('twins')).sort()).toEqual(['twin 2.svg', 'twin.svg']);
	});

	test('one object is printed whatever a file holds', async () => {
		const odd = [
			'0 SECTION',
			'2 ENTITIES',
			'0 LINE',
			'8 0',
			'155 odd',
			'290 7',
			'10 0',
			'20 0',
			'11 9',
			'21 9',
			'0 ENDSEC',
			'0 EOF'
		];
		writeFileSync(at('odd.dxf'), odd.flatMap((pair) => pair.split(' ')).join('\n'));
		const log = vi.spyOn(console, 'log');
		expect(await main(['measure', at('odd.dxf'), '--json'])).toBe(0);
		expect(log).not.toHaveBeenCalled();
		expect(JSON.parse(out).pieces).toHaveLength(1);
	});
});

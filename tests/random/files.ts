/**
 * Damaged, swollen and twisted files of everything that is opened, by chance: nothing may crash or give numbers that are none; what opens
 * and is written opens again as the same.
 */
import { readFileSync } from 'node:fs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { CoreError } from '../../src/lib/core/errors';
import type { MachineWords } from '../../src/lib/core/document/job';
import { readDrawingFile, toPlain, writeDrawingFile } from '../../src/lib/core/formats/drawing-file';
import { FORMATS, readLines, unpacked, type Format, type Written } from '../../src/lib/core/formats/formats';
import { gcodeExample } from '../../src/lib/core/formats/gcode-example';
import { readGcode } from '../../src/lib/core/formats/gcode-read';
import { readHpgl } from '../../src/lib/core/formats/hpgl-read';
import type { Imported } from '../../src/lib/core/formats/imported';
import { writePdf } from '../../src/lib/core/formats/pdf-write';
import { readPictureHeader } from '../../src/lib/core/formats/picture-header';
import { writeSvg } from '../../src/lib/core/formats/svg-write';
import { unzipped } from '../../src/lib/core/formats/unzip';
import { readWorkshop, writeWorkshop } from '../../src/lib/core/formats/workshop-file';
import type { Path } from '../../src/lib/core/geometry/path';
import { STOCK } from '../../src/lib/core/toolpath/stock';
import { decodePicture } from '../../src/lib/server/pictures';
import { chance } from '../shapes';

export const FILE_KINDS = [
	'svg',
	'dxf',
	'thread',
	'gcode',
	'hpgl',
	'header',
	'picture',
	'pdf',
	'zip',
	'workshop',
	'template'
] as const;
export type FileKind = (typeof FILE_KINDS)[number];

/** Whether it was opened or refused in a sentence; or what is wrong with what came of it. */
export type Outcome =
	| { readonly outcome: 'opened' | 'refused'; readonly trouble?: undefined }
	| { readonly outcome?: undefined; readonly trouble: string };

const writtenBy = (format: Format, written: Written) => format.write(written, { curves: 'exact' });

type Tree = Record<string, unknown>;

const demo = (name: string) => new Uint8Array(readFileSync(`static/demo/${name}`));
const SVG = strFromU8(demo('fox-parts.svg')).slice(0, 30_000) + '</svg>';
const OWN_SVG = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="80mm" height="60mm" viewBox="0 0 80 60"><style>.a{fill:#123}#b rect{stroke:red}</style><defs><g id="d"><rect x="1" y="1" width="9" height="7" rx="2"/><circle cx="5" cy="5" r="2"/></g><symbol id="s" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></symbol></defs><g id="b" transform="translate(3 4) rotate(20) scale(1.5,.5) skewX(8)"><use xlink:href="#d" x="9"/><use href="#s" width="5" height="6"/><path class="a" d="M1 1c2 3 4 5 6 1s3 3 5 2q1 1 2 2t3 3a5 4 20 1 0 6 6zm9 9l3-3 4 5z"/><ellipse cx="40" cy="30" rx="9" ry="5"/><polyline points="1,2 3,4 5,1"/><polygon points="20,20 30,20 25,29"/><line x1="1" y1="2" x2="9" y2="8" stroke-dasharray="2 1"/></g><text>no</text></svg>`;
const [svg, dxf] = ['svg', 'dxf'].map((id) => FORMATS.find((f) => f.id === id)!);
const once = readLines(strToU8(OWN_SVG), 'a.svg');
if (!once.ok) throw new Error(once.problem.sentence);
const pieces = once.value.shapes.map(({ paths }, k) => ({ paths, name: `part ${k}`, layer: 'cut' }));
const asWritten = (list: Written['pieces']): Written => ({ name: 'fuzzed', pieces: list, points: [] });
const DXF = strFromU8(writtenBy(dxf, asWritten(pieces)));
const GCODE =
	'G21 G90\nG0 X1 Y2 Z5\nM3 S9000\nG1 Z-2 F200\nG1 X30 Y4 F900\nG2 X40 Y14 I0 J10\nG3 X30 Y24 R10 (turn)\n; rest\nM5\nG0 Z5\nM30\n';
const HPGL = 'IN;SP1;VS20;PU100,200;PD300,200,300,500;PA0,0;PR10,10;AA200,200,90;EA400,400;CI50;SP0;';
const THREADS = ['control-bars.thread', 'rough-owl.thread', 'hand-puppet.thread'].map(demo);
const PICTURES = ['cut-bar.png', 'fox-puppet.jpg', 'mask-lines.png'].map(demo);
/** Small pictures of every kind that is taken, so that what is spoilt in them lies in what is decoded. */
const small = sharp('static/demo/mask-lines.png')
	.resize(90, 90, { fit: 'inside' })
	.flatten({ background: '#fff' });
/** A bitmap of 24 bits, upside down as they are. */
const bitmap = (width: number, height: number): Uint8Array => {
	const row = Math.ceil((width * 3) / 4) * 4;
	const file = Buffer.alloc(54 + row * height, 90);
	file.write('BM');
	file.writeUInt32LE(file.length, 2);
	file.writeUInt32LE(54, 10);
	file.writeUInt32LE(40, 14);
	file.writeInt32LE(width, 18);
	file.writeInt32LE(height, 22);
	file.writeUInt16LE(1, 26);
	file.writeUInt16LE(24, 28);
	return new Uint8Array(file);
};
const DECODED = [
	...(
		await Promise.all(
			(['png', 'jpeg', 'webp', 'gif'] as const).map((kind) => small.clone().toFormat(kind).toBuffer())
		)
	).map((bytes) => new Uint8Array(bytes)),
	bitmap(31, 20)
];
const onPaper = pieces.slice(0, 6);
const page = { name: 'fuzzed', width: 80, height: 60 };
const PDF = await writePdf(onPaper, { ...page, lines: writeSvg(onPaper) });
const BARE_PDF = await writePdf(onPaper, page);
const NUMBERS =
	'0 -0 1e308 -1e308 1e-320 NaN Infinity 9007199254740993 1e400 -1 0.1e- .e 00 1,5 0x10 99999999999999999999999 1e9 -2147483649'.split(
		' '
	);
const SIGNS = [
	'<',
	'>',
	'&',
	'"',
	"'",
	';',
	'{',
	'}',
	'[',
	']',
	'\0',
	'\uffff',
	'�',
	'\n',
	' ',
	'0\n',
	'-',
	'é'
];

/** A damaged file of each kind: its name and its bytes. */
function damaged(rnd: () => number): Record<FileKind, () => [name: string, bytes: Uint8Array]> {
	const int = (n: number) => Math.floor(rnd() * n);
	const pick = <T>(list: readonly T[]): T => list[int(list.length)];
	/** Text with something of it lost, doubled, moved, swollen or made another number. */
	const spoilText = (text: string): string => {
		for (let n = 1 + int(6); n > 0; n--) {
			const [a, b] = [int(text.length), int(text.length)].sort((x, y) => x - y);
			const near = Math.min(b, a + 1 + int(200));
			text = pick([
				() => text.slice(0, a) + text.slice(near),
				() => text.slice(0, a),
				() => text.slice(0, near) + text.slice(a, near).repeat(1 + int(40)) + text.slice(near),
				() => text.slice(0, a) + pick(SIGNS).repeat(1 + int(4)) + text.slice(a),
				() => text.slice(0, a) + text.slice(b, b + int(300)) + text.slice(a),
				() => {
					const numbers = [...text.matchAll(/-?\d+(\.\d+)?/g)];
					if (!numbers.length) return text;
					const { index, 0: old } = pick(numbers);
					return text.slice(0, index) + pick(NUMBERS) + text.slice(index + old.length);
				}
			])();
		}
		return text.slice(0, 4_000_000);
	};
	const spoilBytes = (bytes: Uint8Array): Uint8Array => {
		const out = bytes.slice(0, rnd() < 0.2 ? int(bytes.length) : bytes.length);
		for (let n = int(30); n > 0 && out.length; n--)
			out[int(out.length)] = rnd() < 0.3 ? pick([0, 255, 127, 128]) : int(256);
		return out;
	};
	/** Things that grow by naming each other, or lie too deep. */
	const swollenSvg = () => {
		const deep = 10 ** (1 + int(5));
		const levels = 3 + int(12);
		const many = 2 + int(12);
		return pick([
			() =>
				`<svg xmlns="http://www.w3.org/2000/svg">${'<g transform="scale(1.01)">'.repeat(deep)}<path d="M0 0h9v9z"/>${'</g>'.repeat(int(2) * deep)}</svg>`,
			() =>
				`<svg xmlns="http://www.w3.org/2000/svg"><defs><path id="u0" d="M0 0h9v9z"/>${Array.from({ length: levels }, (_, k) => `<g id="u${k + 1}">${`<use href="#u${k}" x="1"/>`.repeat(many)}</g>`).join('')}</defs><use href="#u${levels}"/></svg>`,
			() =>
				`<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g><use href="#${pick(['a', 'b', 'c'])}"/></svg>`,
			() =>
				`<!DOCTYPE svg [<!ENTITY a "x">${Array.from({ length: levels }, (_, k) => `<!ENTITY a${k} "${`&a${k ? k - 1 : ''};`.repeat(many)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg"><text>&a${levels - 1};</text></svg>`,
			() =>
				`<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0${pick([
					'l1 1',
					'c1 1 2 2 3 0',
					'a9 9 0 1 1 1 1',
					'h1v1'
				])
					.concat(' ')
					.repeat(10 ** (1 + int(4)))}"/></svg>`,
			() =>
				`<svg xmlns="http://www.w3.org/2000/svg"><style>${pick([
					'.a',
					'g>*',
					':not(g)',
					'a b c d e f',
					'[x=y]',
					':is(:is(:is(g)))'
				])
					.concat(',')
					.repeat(
						10 ** int(4)
					)}g{fill:red}${'}'.repeat(int(4))}</style>${'<g class="a"><rect width="3" height="4"/></g>'.repeat(1 + int(300))}</svg>`
		])();
	};
	const swollenDxf = () => {
		const levels = 3 + int(12);
		const many = 2 + int(10);
		const block = (k: number) =>
			`0\nBLOCK\n2\nB${k}\n10\n0\n20\n0\n${k ? `0\nINSERT\n2\nB${pick([k - 1, k - 1, k - 1, k])}\n10\n1\n20\n1\n41\n${pick(['1', '1e9', '-1', 'NaN'])}\n70\n${many}\n71\n${many}\n44\n1\n45\n1\n` : '0\nLINE\n10\n0\n20\n0\n11\n5\n21\n5\n'}0\nENDBLK\n`;
		return `0\nSECTION\n2\nBLOCKS\n${Array.from({ length: levels }, (_, k) => block(k)).join('')}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n2\nB${levels - 1}\n10\n0\n20\n0\n0\nSPLINE\n70\n8\n71\n${pick([1, 3, 25, 1e6])}\n72\n${pick([4, 1e8])}\n73\n${pick([4, 1e8])}\n40\n0\n40\n1\n10\n1\n20\n1\n0\nENDSEC\n0\nEOF\n`;
	};
	/** Somewhere in a tree of data something of another kind. */
	const spoilData = (data: Tree): Tree => {
		const places: [Tree, string][] = [];
		const visit = (at: Tree, depth: number): void => {
			if (!at || typeof at !== 'object' || depth > 12) return;
			for (const key of Object.keys(at).slice(0, 60)) {
				places.push([at, key]);
				visit(at[key] as Tree, depth + 1);
			}
		};
		visit(data, 0);
		let deep: unknown[] = [];
		for (let n = 1 + int(4); n > 0 && places.length; n--) {
			const [at, key] = pick(places);
			for (let k = 0; k < 10 ** int(4); k++) deep = [deep];
			const other = [
				null,
				-1,
				1e308,
				-0,
				'',
				'x'.repeat(10 ** int(5)),
				[],
				{},
				true,
				deep,
				at[key],
				data.id,
				pick(places)[0]
			];
			try {
				const value = pick(other);
				JSON.stringify(value);
				if (rnd() < 0.2) delete at[key];
				else if (rnd() < 0.15 && !Array.isArray(at))
					at[pick(['__proto__', 'constructor', 'unheardOf'])] = value;
				else at[key] = value;
			} catch {
				continue;
			}
		}
		return data;
	};
	/** Data spoilt, as text; as it was where what was put in goes round in itself. */
	const spoiltJson = (json: string): string => {
		try {
			return JSON.stringify(spoilData(JSON.parse(json) as Tree));
		} catch {
			return json;
		}
	};
	const spoiltThread = (): Uint8Array => {
		const bytes = pick(THREADS);
		const way = rnd();
		if (way < 0.3) return spoilBytes(bytes);
		const files = unzipSync(bytes);
		const json = strFromU8(files['drawing.json']);
		const text = way < 0.5 ? spoilText(json) : spoiltJson(json);
		const packed: Record<string, Uint8Array> = { ...files, 'drawing.json': strToU8(text) };
		if (rnd() < 0.1) packed['../../up.json'] = strToU8('{}');
		if (rnd() < 0.05) packed['drawing.json'] = new Uint8Array(30_000_000);
		const zip = zipSync(packed, { level: pick([0, 6] as const) });
		return rnd() < 0.1 ? spoilBytes(zip) : zip;
	};
	const latin = (bytes: Uint8Array) => Buffer.from(bytes).toString('latin1');
	/** Its text spoilt, whatever is packed in it left as bytes. */
	const spoiltPdf = () => new Uint8Array(Buffer.from(spoilText(latin(pick([PDF, BARE_PDF]))), 'latin1'));
	/** A zip with names that climb, sizes that lie, things doubled and things that swell. */
	const spoiltZip = (): Uint8Array => {
		const one = zipSync(
			{ 'drawing.json': strToU8('{"a":1}'.repeat(1 + int(200))) },
			{ level: pick([0, 6] as const) }
		);
		const other = zipSync(
			{ [pick(['../../up', '/etc/up', 'C:\\up', 'a/b', 'drawing.json', ''])]: strToU8('x'.repeat(int(99))) },
			{ level: pick([0, 6] as const) }
		);
		const bytes = pick([
			() => one,
			() => new Uint8Array([...one, ...other]),
			() => new Uint8Array([...other, ...one, ...one]),
			() => zipSync({ 'drawing.json': new Uint8Array(10 ** (3 + int(5))) })
		])();
		// What the heads say of sizes and sums: 14 to 28 of the first, and of the list at the end.
		for (let n = int(6); n > 0; n--)
			bytes[pick([14, 18, 22, 26, bytes.length - 1 - int(80)]) + int(4)] = int(256);
		return bytes;
	};
	const spoiltWorkshop = () => {
		const json = strFromU8(writeWorkshop(STOCK));
		return strToU8(rnd() < 0.4 ? spoilText(json) : spoiltJson(json));
	};
	/** A machine's words, as somebody may have typed them. */
	const spoiltWords = () => {
		const say = () =>
			spoilText(
				pick([
					'({name})\nG21 G90 G17\nG94',
					'M3 S{speed}',
					'M5',
					'M30',
					'G20 G91\nG2 X1 Y1 R{speed}',
					'{name}{speed}'
				])
			).repeat(10 ** int(3));
		return { start: say(), on: say(), off: say(), end: say() };
	};
	return {
		picture: () => ['a.png', spoilBytes(pick(DECODED))],
		pdf: () => ['a.pdf', rnd() < 0.5 ? spoilBytes(pick([PDF, BARE_PDF])) : spoiltPdf()],
		zip: () => ['a.zip', spoiltZip()],
		workshop: () => ['a.workshop', spoiltWorkshop()],
		template: () => ['a.json', strToU8(JSON.stringify(spoiltWords()))],
		svg: () => ['a.svg', strToU8(rnd() < 0.25 ? swollenSvg() : spoilText(pick([SVG, OWN_SVG, OWN_SVG])))],
		dxf: () => ['a.dxf', strToU8(rnd() < 0.25 ? swollenDxf() : spoilText(DXF))],
		gcode: () => ['a.nc', strToU8(spoilText(GCODE.repeat(1 + int(30))))],
		hpgl: () => ['a.plt', strToU8(spoilText(HPGL.repeat(1 + int(30))))],
		thread: () => ['a.thread', spoiltThread()],
		header: () => ['a.png', spoilBytes(pick(PICTURES))]
	};
}

const isWhole = (path: Path) => path.segs.every(Number.isFinite);
const shapesOf = ({ shapes }: Imported) => shapes.flatMap(({ paths }) => [...paths]);

/** What is wrong with what came of it; nothing where all is well. */
async function judge(kind: FileKind, name: string, bytes: Uint8Array): Promise<Outcome> {
	if (kind === 'picture') {
		const read = await decodePicture(bytes);
		if (!read.ok) return { outcome: 'refused' };
		const { widthPx, heightPx, rgba } = read.value;
		if (!(widthPx > 0 && heightPx > 0) || rgba.length !== 4 * widthPx * heightPx)
			return { trouble: `${widthPx} by ${heightPx} pixels in ${rgba.length} bytes` };
		return { outcome: 'opened' };
	}
	if (kind === 'zip') {
		try {
			const read = unzipped(bytes, (inside) => inside === 'drawing.json', 50_000_000);
			return [...read.keys()].some((inside) => inside !== 'drawing.json')
				? { trouble: 'something else was unpacked' }
				: { outcome: 'opened' };
		} catch (error) {
			if (!(error instanceof CoreError)) throw error;
			return { outcome: 'refused' };
		}
	}
	if (kind === 'workshop') {
		const read = readWorkshop(bytes);
		if (!read.ok) return { outcome: 'refused' };
		const again = readWorkshop(writeWorkshop(read.value));
		if (!again.ok || JSON.stringify(again.value) !== JSON.stringify(read.value))
			return { trouble: 'written and opened again it is another' };
		for (const machine of read.value.machines) gcodeExample(machine);
		return { outcome: 'opened' };
	}
	if (kind === 'template') {
		const words = JSON.parse(strFromU8(bytes)) as MachineWords;
		const { text, faults } = gcodeExample({ ...STOCK.machines[bytes.length % STOCK.machines.length], words });
		const { moves } = readGcode(text);
		if (![...moves.to, ...moves.bulges].every(Number.isFinite))
			return { trouble: 'a move that is no number' };
		return { outcome: faults.length ? 'refused' : 'opened' };
	}
	if (kind === 'pdf') {
		try {
			bytes = await unpacked(bytes, name);
		} catch (error) {
			if (!(error instanceof CoreError)) throw error;
			return { outcome: 'refused' };
		}
		name = 'a.svg';
	}
	if (kind === 'header') {
		const read = readPictureHeader(bytes);
		if (read.ok && read.value.pxPerMm !== undefined && !(read.value.pxPerMm > 0))
			return { trouble: 'a resolution that is none' };
		return { outcome: read.ok ? 'opened' : 'refused' };
	}
	if (kind === 'thread') {
		const read = readDrawingFile(bytes);
		if (!read.ok) return { outcome: 'refused' };
		const again = readDrawingFile(writeDrawingFile(read.value.drawing, read.value.pictures));
		if (!again.ok) return { trouble: `what was written does not open: ${again.problem.sentence}` };
		if (JSON.stringify(toPlain(again.value.drawing)) !== JSON.stringify(toPlain(read.value.drawing)))
			return { trouble: 'written and opened again it is another' };
		return { outcome: 'opened' };
	}
	if (kind === 'gcode') readGcode(strFromU8(bytes));
	if (kind === 'hpgl') readHpgl(strFromU8(bytes));
	const read = readLines(bytes, name);
	if (!read.ok) return { outcome: 'refused' };
	const paths = shapesOf(read.value);
	if (!paths.every(isWhole)) return { trouble: 'a place that is no number' };
	// A part of them goes out and comes in again.
	const some = paths.filter(({ types }) => types.length > 0).slice(0, 40);
	if (some.length === 0) return { outcome: 'opened' };
	for (const format of [svg, dxf]) {
		const out = writtenBy(
			format,
			asWritten(some.map((path, k) => ({ paths: [path], name: `p${k}`, layer: 'cut' })))
		);
		const back = readLines(out, `b${format.ending}`);
		if (!back.ok) return { trouble: `${format.id} that was written does not open: ${back.problem.sentence}` };
		const count = shapesOf(back.value).length;
		if (count !== some.length)
			return { trouble: `${some.length} lines went out as ${format.id}, ${count} came back` };
	}
	return { outcome: 'opened' };
}

export interface DamagedFile {
	readonly kind: FileKind;
	readonly name: string;
	readonly bytes: Uint8Array;
}

/** The damaged file of a seed and a number, every time the same. */
export function damagedFile(seed: number, at: number, kinds: readonly FileKind[] = FILE_KINDS): DamagedFile {
	const kind = kinds[at % kinds.length];
	const [name, bytes] = damaged(chance(seed * 1_000_003 + at))[kind]();
	return { kind, name, bytes };
}

/** Opens a file by everything that opens such; what it gives goes out and in again. */
export async function tryFile({ kind, name, bytes }: DamagedFile): Promise<Outcome> {
	try {
		return await judge(kind, name, bytes);
	} catch (error) {
		const { name: what, message } = error as Error;
		return { trouble: `${what}: ${message}`.slice(0, 200) };
	}
}

/** Lines out of a PDF, as an SVG that the SVG reader takes: those that were put along with it, else what its pages draw. ISO 32000-1, 8 and 7.11. */
import {
	decodePDFRawStream,
	PDFArray,
	PDFDict,
	PDFDocument,
	PDFHexString,
	PDFName,
	PDFNumber,
	PDFRawStream,
	PDFRef,
	PDFStream,
	PDFString,
	ParseSpeeds,
	type PDFContext,
	type PDFObject,
	type PDFPage
} from 'pdf-lib';
import { strToU8 } from 'fflate';
import { CoreError } from '../errors';
import { placed } from '../geometry/maps';
import { compose, type Affine } from '../geometry/path';
import { pdfTokens, type PdfToken } from './pdf-tokens';

/** The name under which our own pages carry their lines. */
export const LINES_FILE = 'lines.svg';

const MM = 25.4 / 72;
/** mm between pages that are laid side by side. */
const BETWEEN = 10;
/** Forms within forms, and commands: more are refused. */
const DEEPEST = 12;
const MOST_COMMANDS = 2_000_000;

/** @returns the bytes of an SVG, mm. @throws CoreError `bad-pdf`, `too-much` */
export async function linesInPdf(bytes: Uint8Array): Promise<Uint8Array> {
	refuseSwollenLists(bytes);
	let doc: PDFDocument;
	try {
		doc = await PDFDocument.load(bytes, { parseSpeed: ParseSpeeds.Medium, updateMetadata: false });
	} catch (error) {
		const locked = error instanceof Error && /encrypt/i.test(error.message);
		throw locked
			? new CoreError('bad-pdf', 'This PDF is locked with a password; save it without one first.')
			: damaged();
	}
	try {
		return carriedLines(doc) ?? strToU8(drawnLines(doc));
	} catch (error) {
		if (error instanceof CoreError) throw error;
		throw damaged();
	}
}

const damaged = () => new CoreError('bad-pdf', 'This PDF is damaged and cannot be read.');

/** Of a packed list of objects: bytes of a number in it, and entries, beyond which it is no list of a file that can be taken. */
const WIDEST = 8;
const MOST_ENTRIES = 1_000_000;
/** Characters: what says how such a list is packed is no longer. */
const DICT = 4096;

/**
 * A list of objects that says of itself that it has more entries, or wider ones, than it can would be gone through to its end, for
 * minutes. By ISO 32000-1, 7.5.8. @throws CoreError `bad-pdf`
 */
function refuseSwollenLists(bytes: Uint8Array): void {
	const text = new TextDecoder('latin1').decode(bytes);
	for (let at = text.indexOf('/XRef'); at >= 0; at = text.indexOf('/XRef', at + 1)) {
		const start = Math.max(text.lastIndexOf('obj', at), at - DICT, 0);
		const end = text.indexOf('stream', at);
		const said = text.slice(start, Math.min(end < 0 ? Infinity : end, at + DICT));
		const numbers = (key: string) =>
			(new RegExp(`/${key}\\s*\\[?\\s*([-+.\\d][-+.\\d\\s]*)`).exec(said)?.[1] ?? '')
				.split(/\s+/)
				.filter(Boolean)
				.map(Number);
		const isSwollen =
			numbers('W').some((wide) => !(wide >= 0 && wide <= WIDEST)) ||
			[...numbers('Index').filter((_, k) => k % 2 === 1), ...numbers('Size')].some(
				(count) => !(count >= 0 && count <= MOST_ENTRIES)
			);
		if (isSwollen) throw damaged();
	}
}

const named = (dict: PDFDict | undefined, name: string): PDFObject | undefined =>
	dict?.lookup(PDFName.of(name));
const asDict = (object: PDFObject | undefined): PDFDict | undefined =>
	object instanceof PDFDict ? object : object instanceof PDFStream ? object.dict : undefined;
const contentOf = (object: PDFObject | undefined): Uint8Array | undefined =>
	object instanceof PDFRawStream ? decodePDFRawStream(object).decode() : undefined;

/** The lines that were put along with the pages. */
function carriedLines(doc: PDFDocument): Uint8Array | undefined {
	const files = asDict(named(asDict(named(doc.catalog, 'Names')), 'EmbeddedFiles'));
	const list = named(files, 'Names');
	if (!(list instanceof PDFArray)) return undefined;
	for (let i = 0; i + 1 < list.size(); i += 2) {
		const key = list.lookup(i);
		const name = key instanceof PDFHexString || key instanceof PDFString ? key.decodeText() : '';
		if (name === LINES_FILE) return contentOf(named(asDict(named(asDict(list.lookup(i + 1)), 'EF')), 'F'));
	}
	return undefined;
}

function drawnLines(doc: PDFDocument): string {
	const out: string[] = [];
	let [right, height] = [0, 0];
	for (const page of doc.getPages()) {
		const { x, y, width, height: up } = page.getCropBox();
		const turned = (((page.getRotation().angle % 360) + 360) % 360) / 90;
		const [w, h] = turned % 2 ? [up, width] : [width, up];
		// From the page's own points, turned as it is looked at, its lower left corner at 0, 0; y down.
		const upright: Affine[] = [
			[1, 0, 0, -1, -x, y],
			[0, 1, 1, 0, -y, -x - width],
			[-1, 0, 0, 1, width + x, -y - up],
			[0, -1, -1, 0, up + y, x]
		];
		const left = right;
		right += w * MM + BETWEEN;
		height = Math.max(height, h * MM);
		const reader = new PageReader(
			doc.context,
			compose([MM, 0, 0, MM, left, 0], upright[turned] ?? upright[0])
		);
		reader.read(pageContent(page), asDict(named(page.node, 'Resources')) ?? page.node.Resources(), 0);
		out.push(...reader.out);
	}
	const w = Math.max(right - BETWEEN, 1);
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${height}mm" viewBox="0 ${-height} ${w} ${height}">${out.join('\n')}</svg>`;
}

/** The streams of a page are one, parted anywhere between tokens. */
function pageContent(page: PDFPage): Uint8Array {
	const contents = page.node.Contents();
	const streams =
		contents instanceof PDFArray ? contents.asArray().map((_, i) => contents.lookup(i)) : [contents];
	const parts = streams.map((stream) => contentOf(stream) ?? new Uint8Array());
	const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length + 1, 0)).fill(32);
	let at = 0;
	for (const part of parts) {
		all.set(part, at);
		at += part.length + 1;
	}
	return all;
}

interface Pen {
	readonly map: Affine;
	readonly stroke: string;
	readonly fill: string;
	readonly width: number;
	readonly dashes: string;
}

const grey = (v: number) => rgb(v, v, v);
const rgb = (...parts: number[]) =>
	`#${parts
		.map((v) =>
			Math.round(255 * Math.min(1, Math.max(0, v || 0)))
				.toString(16)
				.padStart(2, '0')
		)
		.join('')}`;
const cmyk = (c: number, m: number, y: number, k: number) =>
	rgb(...[c, m, y].map((v) => (1 - (v || 0)) * (1 - (k || 0))));
/** A colour of a space that is not told here, by how many parts it has. */
const colourOf = (parts: readonly number[]) =>
	parts.length === 1
		? grey(parts[0])
		: parts.length === 4
			? cmyk(parts[0], parts[1], parts[2], parts[3])
			: rgb(...parts);

/** Reads what a page draws as elements of an SVG. */
class PageReader {
	readonly out: string[] = [];
	private pen: Pen;
	private kept: Pen[] = [];
	private d: string[] = [];
	private at: readonly [number, number] = [0, 0];
	private commands = 0;

	constructor(
		private readonly context: PDFContext,
		map: Affine
	) {
		this.pen = { map, stroke: '#000000', fill: '#000000', width: 1, dashes: '' };
	}

	read(content: Uint8Array, resources: PDFDict | undefined, depth: number): void {
		const operands: PdfToken[] = [];
		for (const token of pdfTokens(content)) {
			if (typeof token !== 'object' || Array.isArray(token) || token.kind !== 'command') {
				operands.push(token);
				continue;
			}
			if (++this.commands > MOST_COMMANDS)
				throw new CoreError('too-much', 'This PDF draws more than can be taken.');
			this.command(token.word, operands, resources, depth);
			operands.length = 0;
		}
	}

	private command(
		word: string,
		operands: readonly PdfToken[],
		resources: PDFDict | undefined,
		depth: number
	): void {
		const n = operands.filter((v): v is number => typeof v === 'number');
		if (this.wayOf(word, n) || this.penOf(word, n, operands)) return;
		switch (word) {
			case 'S':
				return this.paint({ strokes: true });
			case 's':
				this.d.push('Z');
				return this.paint({ strokes: true });
			case 'f':
			case 'F':
				return this.paint({ fills: 'nonzero' });
			case 'f*':
				return this.paint({ fills: 'evenodd' });
			case 'B':
			case 'B*':
				return this.paint({ strokes: true, fills: word === 'B' ? 'nonzero' : 'evenodd' });
			case 'b':
			case 'b*':
				this.d.push('Z');
				return this.paint({ strokes: true, fills: word === 'b' ? 'nonzero' : 'evenodd' });
			case 'n':
				this.d = [];
				return;
			case 'Do':
				return this.thing(operands.at(-1), resources, depth);
			case 'Tj':
			case 'TJ':
			case "'":
			case '"':
				// Told as skipped by the one who reads the SVG.
				this.out.push('<text>.</text>');
				return;
			case 'EI':
				this.out.push('<image/>');
		}
	}

	/** What goes on with the way. */
	private wayOf(word: string, n: readonly number[]): boolean {
		const [a, b, c, d, e, f] = n;
		switch (word) {
			case 'm':
			case 'l':
				return this.go(word === 'm' ? 'M' : 'L', [a, b]);
			case 'c':
				return this.go('C', [a, b, c, d, e, f]);
			case 'v':
				return this.go('C', [...this.at, a, b, c, d]);
			case 'y':
				return this.go('C', [a, b, c, d, c, d]);
			case 'h':
				this.d.push('Z');
				return true;
			case 're':
				this.go('M', [a, b]);
				this.go('L', [a + c, b]);
				this.go('L', [a + c, b + d]);
				this.go('L', [a, b + d]);
				this.d.push('Z');
				return true;
		}
		return false;
	}

	/** Places are put down where the map of the moment has them: it may change within a way. */
	private go(word: string, at: readonly number[]): true {
		const out: number[] = [];
		for (let i = 0; i + 1 < at.length; i += 2) {
			const { x, y } = placed(this.pen.map, at[i], at[i + 1]);
			out.push(x, y);
		}
		if (out.every(Number.isFinite)) {
			this.d.push(word + out.map((v) => +v.toFixed(7)).join(' '));
			this.at = [at[at.length - 2], at[at.length - 1]];
		}
		return true;
	}

	/** What the pen is from here on. */
	private penOf(word: string, n: readonly number[], operands: readonly PdfToken[]): boolean {
		switch (word) {
			case 'q':
				if (this.kept.length < 1000) this.kept.push(this.pen);
				return true;
			case 'Q':
				this.pen = this.kept.pop() ?? this.pen;
				return true;
			case 'cm':
				if (n.length === 6) this.pen = { ...this.pen, map: compose(this.pen.map, n as unknown as Affine) };
				return true;
			case 'w':
				this.pen = { ...this.pen, width: n[0] ?? 1 };
				return true;
			case 'd': {
				const list = operands.find((v): v is number[] => Array.isArray(v)) ?? [];
				const scale = this.scale;
				this.pen = { ...this.pen, dashes: list.map((v) => v * scale).join(' ') };
				return true;
			}
			case 'G':
			case 'RG':
			case 'K':
			case 'SC':
			case 'SCN':
				if (n.length) this.pen = { ...this.pen, stroke: colourOf(n) };
				return true;
			case 'g':
			case 'rg':
			case 'k':
			case 'sc':
			case 'scn':
				if (n.length) this.pen = { ...this.pen, fill: colourOf(n) };
				return true;
		}
		return false;
	}

	private get scale(): number {
		const [a, b, c, d] = this.pen.map;
		return Math.sqrt(Math.abs(a * d - b * c));
	}

	private paint({
		strokes = false,
		fills
	}: {
		readonly strokes?: boolean;
		readonly fills?: 'nonzero' | 'evenodd';
	}): void {
		const { pen, scale } = this;
		if (this.d.length)
			this.out.push(
				`<path d="${this.d.join('')}" fill="${fills ? pen.fill : 'none'}"` +
					(fills ? ` fill-rule="${fills}"` : '') +
					(strokes ? ` stroke="${pen.stroke}" stroke-width="${pen.width * scale}"` : '') +
					(strokes && pen.dashes ? ` stroke-dasharray="${pen.dashes}"` : '') +
					'/>'
			);
		this.d = [];
	}

	/** A form is drawn as if its content stood here; a picture is told as skipped. */
	private thing(name: PdfToken | undefined, resources: PDFDict | undefined, depth: number): void {
		if (typeof name !== 'object' || Array.isArray(name) || name.kind !== 'name') return;
		const found = named(asDict(named(resources, 'XObject')), name.word);
		const form = found instanceof PDFRef ? this.context.lookup(found) : found;
		if (!(form instanceof PDFRawStream)) return;
		if (named(form.dict, 'Subtype') !== PDFName.of('Form')) {
			this.out.push('<image/>');
			return;
		}
		if (depth >= DEEPEST) throw new CoreError('too-much', 'Forms in this PDF lie too deep in each other.');
		const kept = this.pen;
		const matrix = named(form.dict, 'Matrix');
		const numbers =
			matrix instanceof PDFArray
				? matrix.asArray().map((_, i) => {
						const v = matrix.lookup(i);
						return v instanceof PDFNumber ? v.asNumber() : NaN;
					})
				: [];
		if (numbers.length === 6 && numbers.every(Number.isFinite))
			this.pen = { ...kept, map: compose(kept.map, numbers as unknown as Affine) };
		this.read(
			contentOf(form) ?? new Uint8Array(),
			asDict(named(form.dict, 'Resources')) ?? resources,
			depth + 1
		);
		this.pen = kept;
	}
}

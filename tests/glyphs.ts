/**
 * Letters of an open font (Lora, SIL Open Font License, as its package carries it), as closed outlines in mm, y up:
 * real drawings with many curves, thin joins and nested counters.
 */
import { readFileSync } from 'node:fs';
import opentype from 'opentype.js';
import { PathBuilder, type Path } from '../src/lib/core/geometry/path';

const bytes = readFileSync('node_modules/@fontsource/lora/files/lora-latin-400-normal.woff');
const font = opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));

/** The outlines of one character; `size` is the em in mm. Outer ones and counters turn opposite ways. */
export function glyph(character: string, size = 40): Path[] {
	const out: Path[] = [];
	let builder: PathBuilder | undefined;
	let x = 0;
	let y = 0;
	const close = () => {
		if (builder) out.push(builder.close(1e-9));
		builder = undefined;
	};
	for (const c of font.charToGlyph(character).getPath(0, 0, size).commands) {
		if (c.type === 'Z') {
			close();
			continue;
		}
		if (c.type === 'M') {
			close();
			builder = new PathBuilder(c.x, -c.y);
		} else if (c.type === 'L') {
			if (c.x !== x || c.y !== y) builder!.line(c.x, -c.y);
		} else if (c.type === 'C') builder!.cubic(c.x1, -c.y1, c.x2, -c.y2, c.x, -c.y);
		else {
			// A quadratic as the cubic that it is.
			const ax = x + (2 * (c.x1 - x)) / 3;
			const ay = y + (2 * (c.y1 - y)) / 3;
			const bx = c.x + (2 * (c.x1 - c.x)) / 3;
			const by = c.y + (2 * (c.y1 - c.y)) / 3;
			builder!.cubic(ax, -ay, bx, -by, c.x, -c.y);
		}
		x = c.x;
		y = c.y;
	}
	close();
	return out;
}

export const LETTERS = [...'abcdefghkmqrsxyzBGQRS&@%8$'];

/** What is copied, as text: for other programs as SVG, for another drawing of ours with all that is known of it. */
import { clippingOf } from '../document/edits/copies';
import type { Drawing } from '../document/drawing';
import type { Result } from '../errors';
import { failed } from '../errors';
import { fromPlain, toPlain } from './drawing-file';
import { FORMATS, writtenOf } from './formats';

export interface Clipping {
	readonly svg: string;
	readonly own: string;
}

/** The outlines and marks of some ids. */
export function writeClipping(drawing: Drawing, ids: ReadonlySet<string>): Clipping {
	const clipping = clippingOf(drawing, ids);
	const svg = FORMATS.find((f) => f.id === 'svg')!;
	return {
		svg: new TextDecoder().decode(svg.write(writtenOf(clipping), {})),
		own: JSON.stringify(toPlain(clipping))
	};
}

/** Our own form read back and checked as a drawing is. */
export function readClipping(own: string): Result<Drawing> {
	let data: unknown;
	try {
		data = JSON.parse(own);
	} catch {
		return failed('bad-clipping', 'What was copied cannot be read.');
	}
	return fromPlain(data);
}

/** Whether a text is an SVG that can be opened. */
export const isSvgText = (text: string): boolean => /<svg[\s>]/i.test(text.slice(0, 4000));

/** The lines that an element of an SVG draws, in its own user units and with its y down. */
import type { Element } from 'domhandler';
import { addEllipticalArc } from '../geometry/ellipse';
import { PathBuilder, polygonPath, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { TOLERANCE } from '../tolerance';
import { FILE_LIMIT } from './budget';
import { numbersIn, userLength, type Viewport } from './svg-place';
import { parsePathData } from './svg-path';
import type { Computed } from './svg-style';

export interface Drawn {
	readonly paths: readonly Path[];
	/** Subpaths that never leave their start. */
	readonly points: readonly Point[];
	/** An error in it ended it early. */
	readonly cutShort?: boolean;
}

const NOTHING: Drawn = { paths: [], points: [] };
const one = (path: Path, cutShort = false): Drawn => ({
	paths: path.types.length ? [path] : [],
	points: [],
	...(cutShort ? { cutShort } : {})
});

/** @returns undefined for what is no shape. @throws CoreError `too-much` */
export function shapeOf(name: string, element: Element, style: Computed, port: Viewport): Drawn | undefined {
	const a: Readonly<Record<string, string | undefined>> = { ...element.attribs, ...geometryOf(style) };
	const x = (key: string, fallback = 0) => userLength(a[key], port, 'x', fallback);
	const y = (key: string, fallback = 0) => userLength(a[key], port, 'y', fallback);
	switch (name) {
		case 'path': {
			const d = a.d ?? '';
			if (d.length > FILE_LIMIT.pathData)
				throw new CoreError(
					'too-much',
					`One path of this SVG has ${Math.round(d.length / 1e6)} million characters: too much to be a drawing for a cutter. Nothing was opened.`
				);
			const { paths, points, error } = parsePathData(d);
			return { paths, points, ...(error && d ? { cutShort: true } : {}) };
		}
		case 'rect':
			return rectangle(x('x'), y('y'), x('width'), y('height'), radius(a.rx, 'x'), radius(a.ry, 'y'));
		case 'circle': {
			const r = userLength(a.r, port, 'both');
			return ellipse(x('cx'), y('cy'), r, r);
		}
		case 'ellipse': {
			const [rx, ry] = [radius(a.rx, 'x'), radius(a.ry, 'y')];
			return ellipse(x('cx'), y('cy'), rx ?? ry ?? 0, ry ?? rx ?? 0);
		}
		case 'line':
			return one(new PathBuilder(x('x1'), y('y1')).line(x('x2'), y('y2')).open());
		case 'polyline':
		case 'polygon': {
			const { numbers, whole } = numbersIn(a.points ?? '');
			const even = numbers.slice(0, numbers.length - (numbers.length % 2));
			if (even.length < 4) return NOTHING;
			return one(polygonPath(even, name === 'polygon'), !whole || even.length < numbers.length);
		}
	}
	return undefined;

	function radius(text: string | undefined, along: 'x' | 'y'): number | undefined {
		return text === undefined || text.trim() === 'auto' ? undefined : Math.abs(userLength(text, port, along));
	}
}

/** What a style says of a shape's numbers wins over its attributes (SVG 2, 7.1). */
function geometryOf(style: Computed): Record<string, string> {
	const out: Record<string, string> = {};
	for (const key of ['width', 'height', 'x', 'y', 'cx', 'cy', 'r', 'rx', 'ry'] as const)
		if (style[key] !== undefined) out[key] = style[key];
	const d = /^path\(\s*(?:evenodd\s*,|nonzero\s*,)?\s*['"]([\s\S]*)['"]\s*\)$/.exec(style.d ?? '')?.[1];
	return d === undefined ? out : { ...out, d };
}

function rectangle(x: number, y: number, w: number, h: number, rx0?: number, ry0?: number): Drawn {
	if (!(w > 0 && h > 0)) return NOTHING;
	const rx = Math.min(rx0 ?? ry0 ?? 0, w / 2);
	const ry = Math.min(ry0 ?? rx0 ?? 0, h / 2);
	if (!(rx > 0 && ry > 0)) return one(polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]));
	const b = new PathBuilder(x + rx, y);
	const turn = (ex: number, ey: number) =>
		addEllipticalArc(b, rx, ry, 0, false, true, ex, ey, TOLERANCE.measure);
	b.line(x + w - rx, y);
	turn(x + w, y + ry);
	b.line(x + w, y + h - ry);
	turn(x + w - rx, y + h);
	b.line(x + rx, y + h);
	turn(x, y + h - ry);
	b.line(x, y + ry);
	turn(x + rx, y);
	return one(b.close(TOLERANCE.coincidence));
}

function ellipse(cx: number, cy: number, rx: number, ry: number): Drawn {
	if (!(rx > 0 && ry > 0)) return NOTHING;
	const b = new PathBuilder(cx + rx, cy);
	for (const [ex, ey] of [
		[cx, cy + ry],
		[cx - rx, cy],
		[cx, cy - ry],
		[cx + rx, cy]
	])
		addEllipticalArc(b, rx, ry, 0, false, true, ex, ey, TOLERANCE.measure);
	return one(b.close(TOLERANCE.coincidence));
}

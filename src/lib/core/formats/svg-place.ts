/** Sizes and places in an SVG: lengths, transforms, viewports (SVG 2, 7 and 8; CSS Transforms 1). */
import { compose, IDENTITY, type Affine } from '../geometry/path';
import { isEmptyBox } from '../geometry/measure';
import type { Box } from '../geometry/segment';

/** mm per CSS pixel: 96 px are 25.4 mm (W3C CSS Values and Units). */
export const PX = 25.4 / 96;
const UNITS: Record<string, number> = {
	'': PX,
	px: PX,
	mm: 1,
	cm: 10,
	in: 25.4,
	pt: 25.4 / 72,
	pc: 25.4 / 6,
	q: 0.25,
	// Of a font of the usual 16 px; half of it is high (common practice).
	em: 16 * PX,
	rem: 16 * PX,
	ex: 8 * PX
};

/** A length in mm; undefined for what is none, percentages too. */
export function lengthIn(text: string | undefined): number | undefined {
	const found = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? '');
	if (!found) return undefined;
	const unit = UNITS[found[2].toLowerCase()];
	return unit === undefined ? undefined : Number(found[1]) * unit;
}

/** The numbers of a text, run together or not: "10,10 20-5-5.5.5" (SVG 2, 4.2.3). Up to what is none. */
export function numbersIn(text: string): { readonly numbers: number[]; readonly whole: boolean } {
	const numbers: number[] = [];
	const pattern = /[\s,]*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)/iy;
	let at = 0;
	for (let found = pattern.exec(text); found; found = pattern.exec(text)) {
		numbers.push(Number(found[1]));
		at = pattern.lastIndex;
	}
	return { numbers, whole: text.slice(at).trim() === '' };
}

export interface ViewBox {
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

export function viewBoxOf(text: string | undefined): ViewBox | undefined {
	const { numbers: v, whole } = numbersIn(text ?? '');
	return whole && v.length === 4 && v[2] > 0 && v[3] > 0 ? { x: v[0], y: v[1], w: v[2], h: v[3] } : undefined;
}

/** How large a user unit becomes across and up: the smaller (meet), the larger (slice), or each its own (none). */
export function fitScale(ratio: string | undefined, across: number, up: number): readonly [number, number] {
	const text = ratio ?? '';
	if (/^\s*(defer\s+)?none/.test(text)) return [across, up];
	const one = /\bslice\b/.test(text) ? Math.max(across, up) : Math.min(across, up);
	return [one, one];
}

/** A viewBox laid into a viewport, aligned as its ratio says. */
export function viewportMap(box: ViewBox, port: ViewBox, ratio: string | undefined): Affine {
	const [sx, sy] = fitScale(ratio, port.w / box.w, port.h / box.h);
	const align = /x(Min|Mid|Max)Y(Min|Mid|Max)/.exec(ratio ?? '') ?? ['', 'Mid', 'Mid'];
	const share = { Min: 0, Mid: 0.5, Max: 1 } as Record<string, number>;
	const x = port.x - box.x * sx + share[align[1]] * (port.w - box.w * sx);
	const y = port.y - box.y * sy + share[align[2]] * (port.h - box.h * sy);
	return [sx, 0, 0, sy, x, y];
}

/** What percentages and lengths of a place are of, user units. */
export interface Viewport {
	readonly w: number;
	readonly h: number;
}

/** A length in user units: a number, a length of CSS, or a share of the viewport across, up, or along its diagonal. */
export function userLength(
	text: string | undefined,
	port: Viewport,
	along: 'x' | 'y' | 'both',
	fallback = 0
): number {
	const share = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)%\s*$/i.exec(text ?? '');
	if (share) {
		const whole = { x: port.w, y: port.h, both: Math.hypot(port.w, port.h) / Math.SQRT2 }[along];
		return (Number(share[1]) / 100) * whole;
	}
	const mm = lengthIn(text);
	return mm === undefined ? fallback : mm / PX;
}

const DEGREES: Record<string, number> = { '': 1, deg: 1, rad: 180 / Math.PI, grad: 0.9, turn: 360 };
const ANGLE = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)(deg|rad|grad|turn)?$/i;

/** The affine of a transform attribute or property. Anything not understood ends the list. */
export function parseTransform(text: string | undefined, port: Viewport = { w: 0, h: 0 }): Affine {
	let m: Affine = IDENTITY;
	const pattern = /\s*,?\s*([a-z]+)\s*\(([^)]*)\)/giy;
	for (let found = pattern.exec(text ?? ''); found; found = pattern.exec(text ?? '')) {
		const name = found[1].toLowerCase();
		const words = wordsOf(found[2]);
		const next = oneTransform(name, words, port);
		if (!next || !next.every(Number.isFinite)) break;
		m = compose(m, next);
	}
	return m;
}

/** Words between blanks and commas; numbers that run together come apart. */
function wordsOf(text: string): string[] {
	const { numbers, whole } = numbersIn(text);
	return whole ? numbers.map(String) : text.split(/[\s,]+/).filter(Boolean);
}

function oneTransform(name: string, words: readonly string[], port: Viewport): Affine | undefined {
	const degrees = (k: number): number => {
		if (words[k] === undefined) return 0;
		const found = ANGLE.exec(words[k]);
		return found ? Number(found[1]) * DEGREES[(found[2] ?? '').toLowerCase()] : NaN;
	};
	const rad = (k: number) => (degrees(k) * Math.PI) / 180;
	const plain = (k: number, fallback: number): number => {
		const word = words[k];
		if (word === undefined) return fallback;
		return word.endsWith('%') ? Number(word.slice(0, -1)) / 100 : Number(word);
	};
	const across = (k: number) => userLength(words[k], port, 'x', words[k] === undefined ? 0 : NaN);
	const up = (k: number) => userLength(words[k], port, 'y', words[k] === undefined ? 0 : NaN);
	switch (name) {
		case 'matrix':
			return words.length === 6 ? (words.map(Number) as unknown as Affine) : undefined;
		case 'translate':
			return [1, 0, 0, 1, across(0), up(1)];
		case 'translatex':
			return [1, 0, 0, 1, across(0), 0];
		case 'translatey':
			return [1, 0, 0, 1, 0, up(0)];
		case 'scale':
			return [plain(0, 1), 0, 0, plain(1, plain(0, 1)), 0, 0];
		case 'scalex':
			return [plain(0, 1), 0, 0, 1, 0, 0];
		case 'scaley':
			return [1, 0, 0, plain(0, 1), 0, 0];
		case 'rotate': {
			const [c, s] = [Math.cos(rad(0)), Math.sin(rad(0))];
			const [cx, cy] = [across(1), up(2)];
			return [c, s, -s, c, cx - c * cx + s * cy, cy - s * cx - c * cy];
		}
		case 'skewx':
			return [1, 0, Math.tan(rad(0)), 1, 0, 0];
		case 'skewy':
			return [1, Math.tan(rad(0)), 0, 1, 0, 0];
		case 'skew':
			return [1, Math.tan(rad(1)), Math.tan(rad(0)), 1, 0, 0];
	}
	return undefined;
}

/**
 * A transform about its origin. The origin is of the box that `transform-box` names: the shape's own, or the viewport.
 * @param fill the box of the shape before it is transformed, user units; asked for where it is needed only.
 */
export function transformAbout(
	transform: Affine,
	origin: string | undefined,
	boxName: string | undefined,
	port: Viewport,
	fill: () => Box
): Affine {
	const ofFill = /fill-box|content-box|stroke-box|border-box/.test(boxName ?? '');
	if (origin === undefined && !ofFill) return transform;
	const own = ofFill ? fill() : undefined;
	const box =
		own && !isEmptyBox(own)
			? { x: own.x0, y: own.y0, w: own.x1 - own.x0, h: own.y1 - own.y0 }
			: { x: 0, y: 0, ...port };
	const [ox, oy] = originIn(origin ?? (ofFill ? '50% 50%' : '0 0'), box);
	return compose([1, 0, 0, 1, ox, oy], compose(transform, [1, 0, 0, 1, -ox, -oy]));
}

function originIn(text: string, box: ViewBox): [number, number] {
	const words = text.trim().split(/[\s,]+/);
	const named: Record<string, string> = {
		left: '0%',
		top: '0%',
		center: '50%',
		right: '100%',
		bottom: '100%'
	};
	let [first, second = 'center'] = words;
	// "top left" is the same as "left top".
	if (/^(top|bottom)$/.test(first) || /^(left|right)$/.test(second)) [first, second] = [second, first];
	return [
		box.x + userLength(named[first] ?? first, box, 'x'),
		box.y + userLength(named[second] ?? second, box, 'y')
	];
}

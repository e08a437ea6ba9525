/** SVG files, in and out. Coordinates as in the command line's contract: mm = user unit x (width in mm / viewBox width). */
import type { Point } from '../geometry/point';
import postcss from 'postcss';
import { is as matches } from 'css-select';
import { parseDocument } from 'htmlparser2';
import type { AnyNode, Element } from 'domhandler';
import { failed } from '../errors';
import {
	compose,
	IDENTITY,
	isSimilarity,
	PathBuilder,
	polygonPath,
	transformPath,
	type Affine,
	type Path
} from '../geometry/path';
import { addEllipticalArc } from '../geometry/ellipse';
import { pathBox, unionBox, isEmptyBox } from '../geometry/measure';
import { arcsToCubics } from '../geometry/segment';
import { TOLERANCE } from '../tolerance';
import { parsePathData, writeNumber, writePathData } from './svg-path';
import type { FileFillRule, Frame, Imported, ReadResult, Shape } from './imported';

/** mm per CSS pixel: 96 px are 25.4 mm (W3C CSS Values and Units). */
const PX = 25.4 / 96;
const UNITS: Record<string, number> = {
	'': PX,
	px: PX,
	mm: 1,
	cm: 10,
	in: 25.4,
	pt: 25.4 / 72,
	pc: 25.4 / 6,
	q: 0.25
};

function lengthIn(text: string | undefined): number | undefined {
	const found = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? '');
	if (!found) return undefined;
	const unit = UNITS[found[2].toLowerCase()];
	return unit === undefined ? undefined : Number(found[1]) * unit;
}

const number = (text: string | undefined, fallback = 0) => {
	const v = parseFloat(text ?? '');
	return Number.isFinite(v) ? v : fallback;
};

/** The affine of a transform attribute (SVG 2, 8.5). Anything not understood ends the list. */
export function parseTransform(text: string | undefined): Affine {
	let m: Affine = IDENTITY;
	const pattern = /\s*,?\s*(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)/gy;
	for (let found = pattern.exec(text ?? ''); found; found = pattern.exec(text ?? '')) {
		const v = found[2]
			.split(/[\s,]+/)
			.filter(Boolean)
			.map(Number);
		if (v.some((x) => !Number.isFinite(x))) break;
		const rad = ((v[0] ?? 0) * Math.PI) / 180;
		let next: Affine = IDENTITY;
		if (found[1] === 'matrix' && v.length === 6) next = v as unknown as Affine;
		else if (found[1] === 'translate') next = [1, 0, 0, 1, v[0] ?? 0, v[1] ?? 0];
		else if (found[1] === 'scale') next = [v[0] ?? 1, 0, 0, v[1] ?? v[0] ?? 1, 0, 0];
		else if (found[1] === 'rotate') {
			const c = Math.cos(rad);
			const s = Math.sin(rad);
			const [, cx = 0, cy = 0] = v;
			next = [c, s, -s, c, cx - c * cx + s * cy, cy - s * cx - c * cy];
		} else if (found[1] === 'skewX') next = [1, 0, Math.tan(rad), 1, 0, 0];
		else if (found[1] === 'skewY') next = [1, Math.tan(rad), 0, 1, 0, 0];
		m = compose(m, next);
	}
	return m;
}

interface Rule {
	selector: string;
	weight: number;
	order: number;
	declarations: Record<string, string>;
}

interface Style {
	fill: string;
	stroke: string;
	fillRule: FileFillRule;
	hidden: boolean;
}

interface Reading {
	rules: Rule[];
	byId: Map<string, Element>;
	shapes: Shape[];
	points: { x: number; y: number; layer?: string }[];
	dropped: Map<string, number>;
	scale: number;
	depth: number;
}

const CONTAINERS = new Set(['svg', 'g', 'a', 'switch']);
const SILENT = new Set([
	'defs',
	'title',
	'desc',
	'metadata',
	'style',
	'symbol',
	'lineargradient',
	'radialgradient',
	'clippath',
	'mask',
	'pattern',
	'marker',
	'filter',
	'view'
]);
const DROPPED: Record<string, string> = {
	text: 'text',
	tspan: 'text',
	textpath: 'text',
	image: 'a picture',
	script: 'a script',
	foreignobject: 'foreign content',
	animate: 'an animation',
	animatetransform: 'an animation',
	animatemotion: 'an animation',
	set: 'an animation',
	video: 'a video',
	audio: 'a sound',
	iframe: 'foreign content'
};

/**
 * Reads an SVG. `<style>`, `use`, transforms and basic shapes are honoured; text, pictures and scripts are dropped and
 * listed. A file is opened if anything in it can be.
 */
export function readSvg(text: string): ReadResult {
	const document = parseDocument(text, { xmlMode: true });
	const root = firstElement(document.children, 'svg');
	if (!root) return failed('not-svg', 'This is not an SVG drawing: no svg element was found in it.');
	const box = viewBox(root.attribs.viewBox);
	const width = lengthIn(root.attribs.width);
	const height = lengthIn(root.attribs.height);
	let scale = PX;
	if (box && width !== undefined && width > 0) scale = width / box[2];
	else if (box && height !== undefined && height > 0) scale = height / box[3];
	const frame: Frame | undefined = box
		? { x: box[0] * scale, y: box[1] * scale, w: box[2] * scale, h: box[3] * scale }
		: width !== undefined && height !== undefined
			? { x: 0, y: 0, w: width, h: height }
			: undefined;
	const reading: Reading = {
		rules: [],
		byId: new Map(),
		shapes: [],
		points: [],
		dropped: new Map(),
		scale,
		depth: 0
	};
	collect(root, reading);
	const base: Style = { fill: '#000000', stroke: 'none', fillRule: 'nonzero', hidden: false };
	// y = -y of the file: one flip, exactly reversible.
	visit(root, [scale, 0, 0, -scale, 0, 0], base, undefined, reading, true);
	const warnings = [...reading.dropped].map(([what, count]) =>
		count > 1
			? `${count} times ${what} was left out.`
			: `${what[0].toUpperCase()}${what.slice(1)} was left out.`
	);
	if (reading.shapes.length === 0 && reading.points.length === 0) {
		const why = warnings.length ? ` ${warnings.join(' ')}` : '';
		return failed('nothing-drawn', `There is no line in this SVG that could be opened.${why}`);
	}
	return { ok: true, value: { shapes: reading.shapes, points: reading.points, frame, warnings } };
}

function firstElement(nodes: readonly AnyNode[], name: string): Element | undefined {
	for (const node of nodes) {
		if (node.type !== 'tag') continue;
		if (localName(node) === name) return node;
		const inner = firstElement(node.children, name);
		if (inner) return inner;
	}
	return undefined;
}

const localName = (element: Element) => element.name.replace(/^.*:/, '').toLowerCase();

function viewBox(text: string | undefined): [number, number, number, number] | undefined {
	const v = (text ?? '')
		.trim()
		.split(/[\s,]+/)
		.map(Number);
	return v.length === 4 && v.every(Number.isFinite) && v[2] > 0 && v[3] > 0
		? [v[0], v[1], v[2], v[3]]
		: undefined;
}

function collect(element: Element, reading: Reading): void {
	if (element.attribs.id) reading.byId.set(element.attribs.id, element);
	if (localName(element) === 'style') {
		const css = element.children
			.map((c) =>
				'data' in c
					? c.data
					: 'children' in c
						? c.children.map((d) => ('data' in d ? d.data : '')).join('')
						: ''
			)
			.join('');
		readRules(css, reading);
	}
	for (const child of element.children) {
		if (child.type === 'tag' || child.type === 'style' || child.type === 'script') collect(child, reading);
	}
}

function readRules(css: string, reading: Reading): void {
	let sheet;
	try {
		sheet = postcss.parse(css);
	} catch {
		note(reading, 'a style sheet that could not be read');
		return;
	}
	sheet.walkRules((rule) => {
		const declarations: Record<string, string> = {};
		rule.walkDecls((d) => {
			declarations[d.prop] = d.value;
		});
		for (const selector of rule.selectors) {
			const weight =
				100 * (selector.match(/#/g)?.length ?? 0) +
				10 * (selector.match(/[.[:]/g)?.length ?? 0) +
				(selector.match(/(^|[\s>+~])[a-z]/gi)?.length ?? 0);
			reading.rules.push({ selector, weight, order: reading.rules.length, declarations });
		}
	});
	reading.rules.sort((a, b) => a.weight - b.weight || a.order - b.order);
}

function styleOf(element: Element, parent: Style, reading: Reading): Style {
	const style = { ...parent };
	const set = (property: string, value: string | undefined) => {
		if (value === undefined || value === 'inherit') return;
		const v = value.replace(/!important/, '').trim();
		if (property === 'fill') style.fill = v;
		else if (property === 'stroke') style.stroke = v;
		else if (property === 'fill-rule') style.fillRule = v === 'evenodd' ? 'evenodd' : 'nonzero';
		else if (property === 'display') style.hidden = parent.hidden || v === 'none';
		else if (property === 'visibility') style.hidden = v === 'hidden' || v === 'collapse' || style.hidden;
	};
	const names = ['fill', 'stroke', 'fill-rule', 'display', 'visibility'];
	for (const name of names) set(name, element.attribs[name]);
	for (const rule of reading.rules) {
		let fits: boolean;
		try {
			fits = matches(element as never, rule.selector, { xmlMode: true });
		} catch {
			fits = false;
		}
		if (fits) for (const name of names) set(name, rule.declarations[name]);
	}
	for (const part of (element.attribs.style ?? '').split(';')) {
		const colon = part.indexOf(':');
		if (colon > 0) set(part.slice(0, colon).trim(), part.slice(colon + 1));
	}
	return style;
}

function note(reading: Reading, what: string): void {
	reading.dropped.set(what, (reading.dropped.get(what) ?? 0) + 1);
}

function visit(
	element: Element,
	m: Affine,
	parent: Style,
	layer: string | undefined,
	reading: Reading,
	isRoot = false
): void {
	const name = localName(element);
	if (DROPPED[name]) {
		note(reading, DROPPED[name]);
		return;
	}
	if (SILENT.has(name)) return;
	const style = styleOf(element, parent, reading);
	if (style.hidden && element.attribs.display === 'none') return;
	let here = compose(m, parseTransform(element.attribs.transform));
	if (CONTAINERS.has(name)) {
		if (name === 'svg' && !isRoot) {
			here = compose(here, [1, 0, 0, 1, number(element.attribs.x), number(element.attribs.y)]);
			const inner = viewBox(element.attribs.viewBox);
			const w = number(element.attribs.width);
			if (inner && w > 0) {
				const k = w / inner[2];
				here = compose(here, [k, 0, 0, k, -inner[0] * k, -inner[1] * k]);
			}
		}
		const title = element.children.find((c): c is Element => c.type === 'tag' && localName(c) === 'title');
		const label = isRoot ? undefined : (titleText(title) ?? element.attribs.id);
		for (const child of element.children) {
			if (child.type === 'tag' || child.type === 'script') visit(child, here, style, layer ?? label, reading);
		}
		return;
	}
	if (name === 'use') {
		const href = element.attribs.href ?? element.attribs['xlink:href'] ?? '';
		const target = reading.byId.get(href.replace(/^#/, ''));
		if (!target || reading.depth > 12) {
			note(reading, 'a reference that leads nowhere');
			return;
		}
		reading.depth++;
		const shifted = compose(here, [1, 0, 0, 1, number(element.attribs.x), number(element.attribs.y)]);
		if (localName(target) === 'symbol') {
			for (const child of target.children)
				if (child.type === 'tag') visit(child, shifted, style, layer, reading);
		} else visit(target, shifted, style, layer, reading);
		reading.depth--;
		return;
	}
	if (style.hidden) return;
	const drawn = shapeOf(name, element, reading);
	if (!drawn) {
		if (!['animate', 'font', 'glyph'].includes(name)) note(reading, `the element "${name}"`);
		return;
	}
	const round = isSimilarity(here);
	const title = element.children.find((c): c is Element => c.type === 'tag' && localName(c) === 'title');
	const place = (path: Path) => transformPath(round ? path : arcsToCubics(path), here);
	const colour = (value: string) =>
		value === 'none' || value === 'transparent' || value === '' ? undefined : value;
	if (drawn.paths.length) {
		reading.shapes.push({
			paths: drawn.paths.map(place),
			fillRule: style.fillRule,
			name: titleText(title) ?? element.attribs.id,
			layer,
			fill: colour(style.fill),
			stroke: colour(style.stroke)
		});
	}
	for (const p of drawn.points) {
		const [a, b, c, d, e, f] = here;
		reading.points.push({ x: a * p.x + c * p.y + e, y: b * p.x + d * p.y + f, layer });
	}
}

function titleText(title: Element | undefined): string | undefined {
	const text = title?.children
		.map((c) => ('data' in c ? c.data : ''))
		.join('')
		.trim();
	return text || undefined;
}

function shapeOf(
	name: string,
	element: Element,
	reading: Reading
): { paths: Path[]; points: Point[] } | undefined {
	const a = element.attribs;
	const user = (text: string | undefined, fallback = 0) => {
		const mm = /[a-z%]\s*$/i.test(text ?? '') ? lengthIn(text) : undefined;
		// A length with a unit inside the drawing is in CSS units of the user space.
		return mm !== undefined ? mm / PX : number(text, fallback);
	};
	const one = (path: Path | undefined) => ({ paths: path && path.types.length ? [path] : [], points: [] });
	if (name === 'path') {
		const parsed = parsePathData(a.d ?? '');
		if (parsed.error && a.d) note(reading, 'the rest of a path after an error in it');
		return parsed;
	}
	if (name === 'rect') {
		const x = user(a.x);
		const y = user(a.y);
		const w = user(a.width);
		const h = user(a.height);
		if (!(w > 0 && h > 0)) return one(undefined);
		let rx = a.rx === undefined || a.rx === 'auto' ? user(a.ry) : user(a.rx);
		let ry = a.ry === undefined || a.ry === 'auto' ? rx : user(a.ry);
		rx = Math.min(Math.abs(rx), w / 2);
		ry = Math.min(Math.abs(ry), h / 2);
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
	if (name === 'circle' || name === 'ellipse') {
		const cx = user(a.cx);
		const cy = user(a.cy);
		const rx = name === 'circle' ? user(a.r) : user(a.rx ?? a.ry);
		const ry = name === 'circle' ? rx : user(a.ry ?? a.rx);
		if (!(rx > 0 && ry > 0)) return one(undefined);
		const b = new PathBuilder(cx + rx, cy);
		for (const [ex, ey] of [
			[cx, cy + ry],
			[cx - rx, cy],
			[cx, cy - ry],
			[cx + rx, cy]
		]) {
			addEllipticalArc(b, rx, ry, 0, false, true, ex, ey, TOLERANCE.measure);
		}
		return one(b.close(TOLERANCE.coincidence));
	}
	if (name === 'line') {
		return one(new PathBuilder(user(a.x1), user(a.y1)).line(user(a.x2), user(a.y2)).open());
	}
	if (name === 'polyline' || name === 'polygon') {
		const v = (a.points ?? '')
			.trim()
			.split(/[\s,]+/)
			.map(Number);
		const bad = v.findIndex((x) => !Number.isFinite(x));
		const good = bad < 0 ? v : v.slice(0, bad);
		if (good.length < 4) return one(undefined);
		return one(polygonPath(good.slice(0, good.length - (good.length % 2)), name === 'polygon'));
	}
	return undefined;
}

/** One piece to write: outer outline first, its holes after it; or a single open outline. */
export interface SvgPiece {
	readonly paths: readonly Path[];
	readonly name?: string;
	readonly fill?: string;
	readonly stroke?: string;
	/** mm; a hair line where it is left out. */
	readonly strokeWidth?: number;
	/** Further attributes, such as data-in. */
	readonly data?: Readonly<Record<string, string>>;
}

const escape = (text: string) =>
	text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/**
 * Writes pieces in true millimetres: one user unit is one mm. The frame is widened where something lies outside it.
 */
export function writeSvg(pieces: readonly SvgPiece[], frame?: Frame, points: readonly Point[] = []): string {
	const box = unionBox(pieces.flatMap((piece) => piece.paths.map(pathBox)));
	let x0 = frame?.x ?? Infinity;
	let y0 = frame?.y ?? Infinity;
	let x1 = frame ? frame.x + frame.w : -Infinity;
	let y1 = frame ? frame.y + frame.h : -Infinity;
	if (!isEmptyBox(box)) {
		// A frame keeps its place; only what sticks out by more than rounding widens it.
		const slack = frame ? 1e-6 : 0;
		if (box.x0 < x0 - slack) x0 = box.x0;
		if (-box.y1 < y0 - slack) y0 = -box.y1;
		if (box.x1 > x1 + slack) x1 = box.x1;
		if (-box.y0 > y1 + slack) y1 = -box.y0;
	}
	if (!(x1 >= x0)) [x0, y0, x1, y1] = [0, 0, 1, 1];
	const w = writeNumber(Math.max(x1 - x0, 1e-6));
	const h = writeNumber(Math.max(y1 - y0, 1e-6));
	const lines = pieces.map((piece) => {
		const d = piece.paths.map(writePathData).join('');
		const isOpen = piece.paths.every((path) => !path.closed);
		const attributes = [
			`d="${d}"`,
			`fill="${isOpen ? 'none' : escape(piece.fill ?? '#000000')}"`,
			...(isOpen || piece.stroke
				? [
						`stroke="${escape(piece.stroke ?? '#000000')}"`,
						`stroke-width="${writeNumber(piece.strokeWidth ?? 0.1)}"`
					]
				: []),
			...(isOpen ? [] : ['fill-rule="evenodd"']),
			...Object.entries(piece.data ?? {}).map(([key, value]) => `data-${key}="${escape(value)}"`)
		];
		const title = piece.name ? `<title>${escape(piece.name)}</title>` : '';
		return title ? `<path ${attributes.join(' ')}>${title}</path>` : `<path ${attributes.join(' ')}/>`;
	});
	for (const p of points) lines.push(`<path d="M${writeNumber(p.x)} ${writeNumber(-p.y)}Z" fill="none"/>`);
	return (
		`<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" ` +
		`viewBox="${writeNumber(x0)} ${writeNumber(y0)} ${w} ${h}">\n${lines.join('\n')}\n</svg>\n`
	);
}

export type { Imported };

/** SVG files read. Coordinates as in the command line's contract: mm = user unit x scale, the viewBox's origin not subtracted. */
import { parseDocument } from 'htmlparser2';
import type { AnyNode, Element } from 'domhandler';
import { failed } from '../errors';
import { compose, isSimilarity, transformPath, type Affine, type Path } from '../geometry/path';
import { pathBox, unionBox } from '../geometry/measure';
import type { Point } from '../geometry/point';
import { arcsToCubics } from '../geometry/segment';
import { closePath } from '../document/outline';
import { purposeIn } from '../document/purpose';
import { finish } from '../progress';
import { TOLERANCE } from '../tolerance';
import { Budget, FILE_LIMIT, isWithinReach } from './budget';
import { leftOutWords, type Frame, type ReadResult, type Shape } from './imported';
import { shapeOf } from './svg-shapes';
import {
	fitScale,
	lengthIn,
	parseTransform,
	PX,
	transformAbout,
	userLength,
	viewBoxOf,
	viewportMap,
	type Viewport
} from './svg-place';
import { colourOf, fillRuleOf, INITIAL, referredId, StyleSheets, type Computed } from './svg-style';

/** mm. A stroke wider than this is more than a line drawn to be seen: that its width is not taken is said. */
const WIDE_STROKE = 1;

interface Reading {
	readonly sheets: StyleSheets;
	readonly byId: Map<string, Element>;
	readonly shapes: Shape[];
	readonly points: { x: number; y: number; layer?: string }[];
	/** What was left out or changed, how often. */
	readonly left: Map<string, number>;
	/** Strokes with a width that is not taken. */
	readonly wide: { count: number; most: number };
	readonly budget: Budget;
}

/** An element that is still to be visited, and what it stands in. */
interface Visit {
	readonly element: Element;
	readonly map: Affine;
	readonly style: Computed;
	readonly layer: string | undefined;
	readonly port: Viewport;
	readonly depth: number;
	/** The uses that led here, so that none leads to itself. */
	readonly uses: readonly Element[];
	/** Given by a use to a symbol or an inner svg. */
	readonly size?: { readonly width?: string; readonly height?: string };
	/** It is reached by a use: a symbol is drawn. */
	readonly used?: boolean;
}

const CONTAINERS = new Set(['svg', 'g', 'a', 'switch', 'symbol']);
/** Drawn only where something refers to them. */
const DEFINED = new Set([
	'defs',
	'title',
	'desc',
	'metadata',
	'style',
	'lineargradient',
	'radialgradient',
	'stop',
	'clippath',
	'mask',
	'pattern',
	'marker',
	'filter',
	'view',
	'font',
	'font-face',
	'glyph',
	'missing-glyph',
	'namedview'
]);
const LEFT_OUT: Record<string, string> = {
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
 * Reads an SVG. Style sheets, `use`, transforms, viewports and basic shapes are honoured; filled subpaths are closed, as
 * SVG fills them; text, pictures, scripts, clips, masks, markers are left out and listed. A file is opened if anything in
 * it can be. Yields how far it has come, 0 to 1.
 * @throws CoreError `too-much`
 */
export function* readSvgSteps(text: string): Generator<number, ReadResult> {
	if (deepestTag(text) > FILE_LIMIT.depth) {
		return failed(
			'too-deep',
			`Things in this SVG lie more than ${FILE_LIMIT.depth} deep in each other; it may be damaged. Nothing was opened.`
		);
	}
	const document = parseDocument(text, { xmlMode: true });
	yield 0.3;
	const root = firstElement(document.children, 'svg');
	if (!root) return failed('not-svg', 'This is not an SVG drawing: no svg element was found in it.');
	const reading: Reading = {
		sheets: new StyleSheets(),
		byId: new Map(),
		shapes: [],
		points: [],
		left: new Map(),
		wide: { count: 0, most: 0 },
		budget: new Budget()
	};
	collect(root, reading);
	const { scale, frame, port } = sizeOf(root);
	const [sx, sy] = scale;
	const stack: Visit[] = [
		// y = -y of the file: one flip, exactly reversible.
		{ element: root, map: [sx, 0, 0, -sy, 0, 0], style: INITIAL, layer: undefined, port, depth: 0, uses: [] }
	];
	let total = stack.length;
	for (let done = 0; stack.length; done++) {
		const next = visit(stack.pop()!, reading, done === 0);
		for (let i = next.length - 1; i >= 0; i--) stack.push(next[i]);
		total += next.length;
		if (done % 200 === 0) yield 0.3 + 0.7 * (done / total);
	}
	const warnings = leftOutWords(reading.left);
	const { wide } = reading;
	if (wide.count)
		warnings.push(
			`${wide.count} ${wide.count === 1 ? 'stroke' : 'strokes'} up to ${Math.round(100 * wide.most) / 100} mm wide came as middle lines, without their width.`
		);
	if (reading.shapes.length === 0 && reading.points.length === 0) {
		const why = warnings.length ? ` ${warnings.join(' ')}` : '';
		return failed('nothing-drawn', `There is no line in this SVG that could be opened.${why}`);
	}
	const title = titleOf(root);
	return {
		ok: true,
		value: {
			shapes: reading.shapes,
			points: reading.points,
			frame,
			warnings,
			...(title ? { title } : {})
		}
	};
}

/** Reads an SVG in one go. @throws CoreError `too-much` */
export const readSvg = (text: string): ReadResult => finish(readSvgSteps(text));

/** How deep tags lie in each other, found without following them. */
function deepestTag(text: string): number {
	let depth = 0;
	let most = 0;
	for (const [tag] of text.matchAll(/<!--[\s\S]*?-->|<!\[CDATA\[[\s\S]*?\]\]>|<\/?[a-zA-Z][^<>]*>?/g)) {
		if (tag.startsWith('<!')) continue;
		if (tag.startsWith('</')) depth = Math.max(0, depth - 1);
		else if (!tag.endsWith('/>')) most = Math.max(most, ++depth);
	}
	return most;
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
const elementsIn = (element: Element): Element[] =>
	element.children.filter((c): c is Element => c.type === 'tag' || c.type === 'script');

/** mm per user unit across and up, the frame in mm, and what percentages are of. */
function sizeOf(root: Element): {
	readonly scale: readonly [number, number];
	readonly frame: Frame | undefined;
	readonly port: Viewport;
} {
	const { attribs } = root;
	const box = viewBoxOf(attribs.viewBox);
	const width = lengthIn(attribs.width);
	const height = lengthIn(attribs.height);
	if (!box) {
		const [w, h] = [width ?? 300 * PX, height ?? 150 * PX];
		const frame = width !== undefined && height !== undefined ? { x: 0, y: 0, w, h } : undefined;
		return { scale: [PX, PX], frame, port: { w: w / PX, h: h / PX } };
	}
	const across = width !== undefined && width > 0 ? width / box.w : undefined;
	const up = height !== undefined && height > 0 ? height / box.h : undefined;
	const one = across ?? up ?? PX;
	const scale = fitScale(attribs.preserveAspectRatio, across ?? one, up ?? one);
	const [sx, sy] = scale;
	return {
		scale,
		frame: { x: box.x * sx, y: box.y * sy, w: box.w * sx, h: box.h * sy },
		port: { w: box.w, h: box.h }
	};
}

/** Ids and style sheets of everything in it. */
function collect(element: Element, reading: Reading): void {
	if (element.attribs.id && !reading.byId.has(element.attribs.id))
		reading.byId.set(element.attribs.id, element);
	if (localName(element) === 'style' && !reading.sheets.add(textIn(element)))
		leave(reading, 'a style sheet that could not be read was left out');
	for (const child of element.children) {
		if (child.type === 'tag' || child.type === 'style' || child.type === 'script') collect(child, reading);
	}
}

function textIn(element: Element): string {
	return element.children
		.map((c) => ('data' in c ? c.data : 'children' in c ? textIn(c as Element) : ''))
		.join('');
}

function titleOf(element: Element): string | undefined {
	const title = element.children.find((c): c is Element => c.type === 'tag' && localName(c) === 'title');
	return (title && textIn(title).trim()) || undefined;
}

function leave(reading: Reading, what: string): void {
	reading.left.set(what, (reading.left.get(what) ?? 0) + 1);
}

/** Takes what an element draws. @returns what is to be visited next. */
function visit(at: Visit, reading: Reading, isRoot: boolean): Visit[] {
	const { element, depth } = at;
	const name = localName(element);
	if (LEFT_OUT[name]) {
		leave(reading, `${LEFT_OUT[name]} was left out`);
		return [];
	}
	if (DEFINED.has(name) || (name === 'symbol' && !at.used)) return [];
	reading.budget.element(depth);
	const style = reading.sheets.of(element, at.style);
	if (style.display === 'none') return [];
	tellLeft(style, reading);
	const isContainer = CONTAINERS.has(name);
	const drawn = isContainer || name === 'use' ? undefined : shapeOf(name, element, style, at.port);
	const own = transformAbout(
		parseTransform(style.transform, at.port),
		style['transform-origin'],
		style['transform-box'],
		at.port,
		() => unionBox((drawn?.paths ?? []).map(pathBox))
	);
	const map = compose(at.map, own);
	if (isContainer) return inside({ ...at, map, style }, reading, isRoot);
	if (name === 'use') return used({ ...at, map, style }, reading);
	if (style.visibility === 'hidden' || style.visibility === 'collapse') return [];
	if (!drawn) {
		leave(reading, `the element "${name}" was left out`);
		return [];
	}
	if (drawn.cutShort) leave(reading, 'the rest of a path after an error in it was left out');
	take({ ...at, map, style }, drawn, reading);
	return [];
}

/** Clips, masks and markers change what is seen: that they are not followed is said. */
function tellLeft(style: Computed, reading: Reading): void {
	const is = (value: string | undefined) => value !== undefined && value !== 'none' && value !== '';
	if (is(style['clip-path'])) leave(reading, 'a clip was not followed, its shape is whole');
	if (is(style.mask)) leave(reading, 'a mask was not followed, its shape is whole');
}

/** The parts of a group, a symbol or an inner drawing. */
function inside(at: Visit, reading: Reading, isRoot: boolean): Visit[] {
	const { element, style, depth, uses } = at;
	const name = localName(element);
	let { map, port } = at;
	if (!isRoot && (name === 'svg' || name === 'symbol')) {
		const width = at.size?.width ?? style.width ?? element.attribs.width;
		const height = at.size?.height ?? style.height ?? element.attribs.height;
		const place = {
			x: userLength(element.attribs.x, port, 'x'),
			y: userLength(element.attribs.y, port, 'y'),
			w: userLength(width, port, 'x', port.w),
			h: userLength(height, port, 'y', port.h)
		};
		const box = viewBoxOf(element.attribs.viewBox);
		if (!(place.w > 0 && place.h > 0)) return [];
		map = compose(
			map,
			box ? viewportMap(box, place, element.attribs.preserveAspectRatio) : [1, 0, 0, 1, place.x, place.y]
		);
		port = box ?? place;
	}
	const label = isRoot
		? undefined
		: (titleOf(element) ?? element.attribs['data-layer'] ?? element.attribs.id);
	const layer = at.layer ?? label;
	const parts =
		name === 'switch'
			? elementsIn(element)
					.filter((c) => !LEFT_OUT[localName(c)])
					.slice(0, 1)
			: elementsIn(element);
	return parts.map((part) => ({ element: part, map, style, layer, port, depth: depth + 1, uses }));
}

/** What a use refers to, placed and sized by it. */
function used(at: Visit, reading: Reading): Visit[] {
	const { element, style, port, layer, depth, uses } = at;
	const { attribs } = element;
	const target = reading.byId.get((attribs.href ?? attribs['xlink:href'] ?? '').replace(/^#/, ''));
	if (!target) {
		leave(reading, 'a reference that leads nowhere was left out');
		return [];
	}
	let isRound = uses.includes(target) || target === element;
	for (let up = element.parent; up && !isRound; up = up.parent) isRound = up === target;
	if (isRound) {
		leave(reading, 'a reference that leads to itself was left out');
		return [];
	}
	const [x, y] = [userLength(attribs.x, port, 'x'), userLength(attribs.y, port, 'y')];
	return [
		{
			element: target,
			map: compose(at.map, [1, 0, 0, 1, x, y]),
			style,
			layer,
			port,
			depth: depth + 1,
			uses: [...uses, target],
			size: { width: attribs.width, height: attribs.height },
			used: true
		}
	];
}

/** mm: what is smaller than this is nothing, and would come back as nothing. */
const NOTHING = 1e-9;

/** Takes the lines of a shape. */
function take(
	{ element, map, style, layer }: Visit,
	drawn: { readonly paths: readonly Path[]; readonly points: readonly Point[] },
	reading: Reading
): void {
	const fill = paintOf(style.fill, style, reading);
	const stroke = paintOf(style.stroke, style, reading);
	const round = isSimilarity(map);
	const paths: Path[] = [];
	for (const path of drawn.paths) {
		const placed = transformPath(round ? path : arcsToCubics(path), map);
		if (placed.segs.length > 0 && placed.segs.every((v, k) => Math.abs(v - placed.segs[k % 2]) < NOTHING)) {
			leave(reading, 'a line of no length was left out');
			continue;
		}
		if (!isWithinReach(placed)) {
			leave(reading, 'a line with places beyond every sheet was left out');
			continue;
		}
		// As SVG fills it: what has an area is closed. A single straight has none.
		const hasArea = placed.types.length > 1 || placed.types[0] !== 0;
		const path2 = fill && !placed.closed && hasArea ? closePath(placed, TOLERANCE.coincidence) : placed;
		reading.budget.path(path2);
		paths.push(path2);
	}
	const [a, b, c, d, e, f] = map;
	let wide: Shape['wide'];
	let dashes: Shape['dashes'];
	if (stroke && paths.length) {
		const width = userLength(style['stroke-width'], { w: 0, h: 0 }, 'both', 1);
		const mm = width * Math.sqrt(Math.abs(a * d - b * c));
		if (mm > WIDE_STROKE + TOLERANCE.coincidence) {
			reading.wide.count++;
			reading.wide.most = Math.max(reading.wide.most, mm);
			const ends = style['stroke-linecap'];
			wide = { width: mm, ends: ends === 'round' || ends === 'square' ? ends : 'butt' };
		}
		dashes = dashesOf(style['stroke-dasharray'], Math.sqrt(Math.abs(a * d - b * c)));
		if (['marker-start', 'marker-mid', 'marker-end'].some((m) => referredId(style[m as keyof Computed])))
			leave(reading, 'a marker at a line was left out');
	}
	if (paths.length) {
		const names = namesIn(element.attribs['data-names']);
		const purpose = purposeIn(element.attribs['data-purpose']);
		reading.shapes.push({
			paths,
			fillRule: fillRuleOf(style),
			name: titleOf(element) ?? element.attribs.id,
			...(names ? { names } : {}),
			layer,
			fill,
			stroke,
			...(wide ? { wide } : {}),
			...(dashes ? { dashes } : {}),
			...(purpose ? { purpose } : {})
		});
	}
	for (const p of drawn.points) {
		const point = { x: a * p.x + c * p.y + e, y: b * p.x + d * p.y + f, layer };
		if (Number.isFinite(point.x + point.y)) reading.points.push(point);
	}
}

/** mm: strokes and gaps by turns; an odd number of them is gone through twice (SVG 2, 13.5.6). Undefined for a whole line. */
function dashesOf(text: string | undefined, scale: number): readonly number[] | undefined {
	if (!text || text === 'none') return undefined;
	const list = text
		.split(/[\s,]+/)
		.filter((word) => word !== '')
		.map((word) => scale * userLength(word, { w: 0, h: 0 }, 'both', NaN));
	const isOne = list.every((v) => v >= 0) && list.some((v) => v > 0) && list.length <= FILE_LIMIT.dashes / 2;
	if (!isOne) return undefined;
	return list.length % 2 ? [...list, ...list] : list;
}

/** The names of the lines of one shape, as this program writes them. */
function namesIn(text: string | undefined): readonly string[] | undefined {
	try {
		const names: unknown = JSON.parse(text ?? 'null');
		return Array.isArray(names) && names.every((n) => typeof n === 'string') ? names : undefined;
	} catch {
		return undefined;
	}
}

/** A colour to sort by; of a gradient or a pattern its first colour, which is said. */
function paintOf(paint: string | undefined, style: Computed, reading: Reading): string | undefined {
	const id = referredId(paint);
	if (id === undefined) return colourOf(paint, style);
	const target = reading.byId.get(id);
	const what = target && /pattern/i.test(target.name) ? 'pattern' : 'gradient';
	leave(reading, `a ${what} came as one plain colour`);
	const stop = target && firstStop(target, reading);
	if (stop) return stop;
	return colourOf(paint?.replace(/^url\([^)]*\)\s*/, ''), style) ?? '#808080';
}

function firstStop(gradient: Element, reading: Reading): string | undefined {
	const stop = elementsIn(gradient).find((c) => localName(c) === 'stop');
	if (stop) {
		const said = /stop-color\s*:\s*([^;]+)/.exec(stop.attribs.style ?? '')?.[1] ?? stop.attribs['stop-color'];
		return said?.trim();
	}
	const other = reading.byId.get((gradient.attribs.href ?? gradient.attribs['xlink:href'] ?? '').slice(1));
	return other && elementsIn(other).length ? firstStop(other, reading) : undefined;
}

/**
 * Opens real files of open asset packages (icons, emoji, flags, the samples of DXF readers), as they are, and after they went out as
 * SVG and as DXF and came back. Their filled area is compared with what an independent reader finds: for SVG a rasteriser that
 * draws each element by itself, for DXF a reading package. Prints a table and each file that differs.
 *
 *   npm run real-files            about 2,000 files
 *   npm run real-files -- all     all of them
 */
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { fork } from 'node:child_process';

/** Which share of the area may differ. */
const WITHIN = 0.001;
/** px: how wide an element is drawn; drawn anew wider where the file differs. */
const WIDE = [700, 2000, 5000];

const under = (folder, ending) =>
	readdirSync(join('node_modules', folder), { recursive: true, encoding: 'utf8' })
		.filter((name) => name.endsWith(ending))
		.sort()
		.map((name) => join('node_modules', folder, name));

/** What is opened, and of how many one is taken. */
const PACKS = [
	{ pack: 'bootstrap-icons', folder: 'bootstrap-icons/icons', ending: '.svg', everyNth: 3 },
	{ pack: '@twemoji/svg', folder: '@twemoji/svg', ending: '.svg', everyNth: 4 },
	{ pack: 'flag-icons', folder: 'flag-icons', ending: '.svg', everyNth: 1 },
	{ pack: 'dxf2json samples', folder: 'dxf2json', ending: '.dxf', everyNth: 1 }
];

// What a rasteriser draws of an element that this program does not take, or takes otherwise and says so: the paint is not looked at,
// only whether there is any, and clips, masks and filters are left out.
const UNTAKEN = '(?:stroke(?:-[a-z]+)?|opacity|fill-opacity|clip-path|mask|filter|shape-rendering)';
const bare = (text) =>
	text
		.replace(new RegExp(`\\s${UNTAKEN}\\s*=\\s*("[^"]*"|'[^']*')`, 'g'), '')
		.replace(new RegExp(`([;"'{\\s])${UNTAKEN}\\s*:[^;"'}]*;?`, 'g'), '$1')
		.replace(/(fill\s*[=:]\s*["']?)url\([^)]*\)/g, '$1#000000')
		.replace(/(fill\s*[=:]\s*["']?)currentColor/gi, '$1#000000')
		.replace(/(fill\s*[=:]\s*["']?)rgba?\([^)]*\)/g, '$1#000000');

const require = createRequire(import.meta.url);
const { Resvg } = require('@resvg/resvg-js');
const { parseDocument } = require('htmlparser2');

const DRAWN = new Set([
	'path',
	'rect',
	'circle',
	'ellipse',
	'line',
	'polyline',
	'polygon',
	'use',
	'image',
	'text'
]);
const APART = new Set(['defs', 'clipPath', 'mask', 'pattern', 'marker', 'symbol']);

/** The elements that are drawn by themselves. */
function drawnElements(text) {
	const found = [];
	const walk = (nodes) => {
		for (const node of nodes) {
			if (DRAWN.has(node.name)) found.push(node);
			else if (node.children && !APART.has(node.name)) walk(node.children);
		}
	};
	walk(parseDocument(text, { xmlMode: true, withStartIndices: true, withEndIndices: true }).children);
	return found;
}

/** The drawing with one of its elements alone. */
function alone(text, element, elements) {
	if (element.name === 'use') {
		// What it refers to may stand anywhere: all of it stays, but is not drawn.
		let inner = text.slice(element.startIndex, element.endIndex + 1);
		let root = element.parent;
		for (; root.parent?.name; root = root.parent) {
			const tag = text.slice(root.startIndex, text.indexOf('>', root.startIndex) + 1);
			inner = `${tag.replace(/\sid="[^"]*"/, '')}${inner}</${root.name}>`;
		}
		const begin = text.indexOf('>', root.startIndex) + 1;
		const end = text.lastIndexOf('</');
		return `${text.slice(0, begin)}<defs>${text.slice(begin, end)}</defs>${inner}${text.slice(end)}`;
	}
	let one = '';
	let at = 0;
	for (const other of elements) {
		if (other === element) continue;
		one += text.slice(at, other.startIndex);
		at = other.endIndex + 1;
	}
	return one + text.slice(at);
}

/** Each use as what it refers to (SVG 2, 5.6), so that what overlaps within it is drawn one by one as well. */
function expanded(source) {
	let text = source;
	for (let round = 0; round < 8; round++) {
		const document = parseDocument(text, { xmlMode: true, withStartIndices: true, withEndIndices: true });
		const byId = new Map();
		const uses = [];
		const walk = (nodes, isDrawn) => {
			for (const node of nodes) {
				if (node.attribs?.id && !byId.has(node.attribs.id)) byId.set(node.attribs.id, node);
				if (node.name === 'use' && isDrawn) uses.push(node);
				if (node.children) walk(node.children, isDrawn && !APART.has(node.name));
			}
		};
		walk(document.children, true);
		const plain = uses.filter((use) => {
			const target = byId.get((use.attribs.href ?? use.attribs['xlink:href'] ?? '').slice(1));
			return target && target.name !== 'symbol' && target.name !== 'svg';
		});
		if (plain.length === 0) return text;
		let out = '';
		let at = 0;
		for (const use of plain) {
			const { x = 0, y = 0, width: _w, height: _h, id: _id, href, 'xlink:href': old, ...rest } = use.attribs;
			const target = byId.get((href ?? old).slice(1));
			const content = text.slice(target.startIndex, target.endIndex + 1);
			const attributes = Object.entries(rest).map(
				([key, value]) => ` ${key}="${value.replace(/"/g, '&quot;')}"`
			);
			out += `${text.slice(at, use.startIndex)}<g${attributes.join('')}><g transform="translate(${x} ${y})">${content}</g></g>`;
			at = use.endIndex + 1;
		}
		text = out + text.slice(at);
	}
	return text;
}

let drawn = 0;

/** Square user units that a drawing fills in a box, whose longer side is drawn so many px long; and whether its edge cuts it. */
function coverIn(svg, box, longer) {
	const isWide = box.width >= box.height;
	const sized = new Resvg(svg, {
		font: { loadSystemFonts: false },
		fitTo: { mode: isWide ? 'width' : 'height', value: longer }
	});
	sized.cropByBBox(box);
	const { width, height, pixels } = sized.render();
	let alpha = 0;
	for (let i = 3; i < pixels.length; i += 4) alpha += pixels[i];
	let cut = false;
	for (let x = 0; x < width; x++)
		if (pixels[4 * x + 3] || pixels[4 * ((height - 1) * width + x) + 3]) cut = true;
	for (let y = 0; y < height; y++)
		if (pixels[4 * y * width + 3] || pixels[4 * (y * width + width - 1) + 3]) cut = true;
	// The rasteriser's memory lies outside the heap: it is given back now and then.
	if (++drawn % 20 === 0) globalThis.gc?.();
	const unit = Math.max(box.width, box.height) / longer;
	return { area: (alpha / 255) * unit * unit, cut };
}

/** Square user units that an SVG's elements fill, each drawn by itself. */
function rasterArea(source, wide) {
	const text = expanded(bare(source));
	const elements = drawnElements(text);
	let sum = 0;
	for (const element of elements) {
		if (element.name === 'image' || element.name === 'text') continue;
		const one = alone(text, element, elements);
		const drawing = new Resvg(one, {
			font: { loadSystemFonts: false },
			fitTo: { mode: 'width', value: wide }
		});
		const box = drawing.getBBox();
		if (!box || !(box.width > 0) || !(box.height > 0)) continue;
		// A little beyond its box, so that its edge is whole; more where the box turns out to be too small.
		for (let share = 0.01, tries = 0; tries < 5; share = 0.5, tries++) {
			const pad = share * Math.max(box.width, box.height);
			box.x -= pad;
			box.y -= pad;
			box.width += 2 * pad;
			box.height += 2 * pad;
			const { area, cut } = coverIn(one, box, wide);
			if (cut && tries < 4) continue;
			sum += area;
			break;
		}
	}
	return sum;
}

async function begin() {
	const { createServer } = await import('vite');
	const vite = await createServer({
		server: { middlewareMode: true, hmr: false, ws: false, watch: null },
		appType: 'custom',
		logLevel: 'error',
		optimizeDeps: { noDiscovery: true, include: [] }
	});
	const load = (file) => vite.ssrLoadModule(file);
	const { readLines, formatByEnding } = await load('/src/lib/core/formats/formats.ts');
	const { closedPieces, openLines } = await load('/src/lib/core/formats/solids.ts');
	const { pathArea } = await load('/src/lib/core/geometry/measure.ts');
	const areaOf = (pieces, isCounted) =>
		pieces.filter(isCounted).reduce((sum, { paths }) => {
			const [outer, ...holes] = paths.map((path) => Math.abs(pathArea(path)));
			return sum + outer - holes.reduce((a, b) => a + b, 0);
		}, 0);
	const opened = (bytes, name) => {
		const read = readLines(bytes, name);
		if (!read.ok) return { refused: read.problem.sentence };
		const closed = closedPieces(read.value);
		return { read: read.value, closed, open: openLines(read.value) };
	};
	const differs = (a, b) => Math.abs(a - b) / Math.max(Math.abs(b), 1e-9);

	/** What is found in a file: the shares by which areas differ, or why it was not opened. */
	function look(file) {
		const bytes = readFileSync(file);
		const first = opened(bytes, file);
		if (first.refused) return { refused: first.refused };
		const out = { pieces: first.closed.length, open: first.open.length };
		const whole = areaOf(first.closed, () => true);
		if (file.endsWith('.svg')) {
			const source = bytes.toString('utf8');
			// mm a user unit, by what the file says of its frame.
			const width = /\bwidth="([\d.]+)(?:px)?"/.exec(/<svg[^>]*>/.exec(source)[0])?.[1];
			const box = /viewBox="\s*\S+\s+\S+\s+(\S+)/.exec(source)?.[1];
			const scale = width && box ? ((25.4 / 96) * Number(width)) / Number(box) : 25.4 / 96;
			const filled = areaOf(first.closed, (piece) => piece.fill !== undefined);
			for (const wide of WIDE) {
				out.reading = differs(filled, rasterArea(source, wide) * scale * scale);
				if (out.reading <= WITHIN) break;
			}
		} else out.reading = differs(areaOfAll(first.read, pathArea), dxfArea(bytes.toString('utf8')));
		for (const ending of ['.svg', '.dxf']) {
			const written = formatByEnding(ending).write(
				{
					name: 'Back',
					pieces: [...first.closed, ...first.open],
					points: first.read.points,
					frame: first.read.frame
				},
				{}
			);
			const back = opened(written, `back${ending}`);
			out[ending] = back.refused
				? Infinity
				: differs(
						areaOf(back.closed, () => true),
						whole
					);
			if (!back.refused && (back.closed.length !== out.pieces || back.open.length !== out.open))
				out.count = `${ending}: ${back.closed.length} pieces and ${back.open.length} open for ${out.pieces} and ${out.open}`;
		}
		return out;
	}
	process.on('message', (file) => {
		let found;
		try {
			found = look(file);
		} catch (error) {
			found = { failed: String(error?.stack ?? error).slice(0, 300) };
		}
		process.send({ file, ...found });
	});
	process.send({ ready: true });
}

const areaOfAll = (read, pathArea) =>
	read.shapes
		.flatMap((shape) => shape.paths)
		.filter((path) => path.closed)
		.reduce((sum, path) => sum + Math.abs(pathArea(path)), 0);

/** mm2 of all closed lines by the reading package. */
function dxfArea(text) {
	const { parseString, toPolylines } = require('dxf');
	const parsed = parseString(text);
	const unit = { 1: 25.4, 4: 1, 5: 10, 6: 1000 }[parsed.header?.insUnits] ?? 1;
	let sum = 0;
	for (const { vertices } of toPolylines(parsed).polylines) {
		if (vertices.length < 3) continue;
		const [first, last] = [vertices[0], vertices[vertices.length - 1]];
		if (Math.hypot(first[0] - last[0], first[1] - last[1]) > 1e-6) continue;
		let twice = 0;
		for (let i = 0; i + 1 < vertices.length; i++)
			twice += vertices[i][0] * vertices[i + 1][1] - vertices[i + 1][0] * vertices[i][1];
		sum += Math.abs(twice / 2);
	}
	return sum * unit * unit;
}

const COMPARED = ['reading', '.svg', '.dxf'];
const isOdd = (f) => f.refused || f.failed || f.count || COMPARED.some((key) => !(f[key] <= WITHIN));

async function run(files) {
	const queue = [...files];
	const found = new Map();
	const one = () =>
		new Promise((resolve) => {
			const child = fork(import.meta.filename, ['one'], { execArgv: ['--expose-gc'] });
			const give = () => {
				const file = queue.shift();
				if (file === undefined) {
					child.kill();
					resolve();
				} else child.send(file);
			};
			child.on('message', ({ ready, ...rest }) => {
				if (!ready) {
					found.set(rest.file, rest);
					if (isOdd(rest)) console.log(JSON.stringify(rest));
					if (found.size % 200 === 0) console.error(`${found.size} of ${files.length}`);
				}
				give();
			});
		});
	await Promise.all(Array.from({ length: Math.min(4, cpus().length) }, one));
	return found;
}

if (process.argv[2] === 'one') await begin();
else {
	const isAll = process.argv[2] === 'all';
	const only = isAll ? undefined : process.argv[2];
	const table = [];
	for (const { pack, folder, ending, everyNth } of PACKS) {
		let files = under(folder, ending).filter((_, i) => isAll || only || i % everyNth === 0);
		if (only) files = files.filter((file) => file.includes(only));
		if (files.length === 0) continue;
		const found = [...(await run(files)).values()];
		const bad = (key) => found.filter((f) => !(f[key] <= WITHIN)).length;
		table.push({
			pack,
			files: files.length,
			'not opened': found.filter((f) => f.refused || f.failed).length,
			'as the reader': found.length - bad('reading'),
			'back from SVG': found.length - bad('.svg'),
			'back from DXF': found.length - bad('.dxf'),
			'other count': found.filter((f) => f.count).length
		});
	}
	console.table(table);
}

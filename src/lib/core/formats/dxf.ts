/** DXF files read: lines, arcs, circles, ellipses, polylines with bulges, splines, blocks, points; what is left out is listed. */
import DxfParser from 'dxf-parser';
import { purposeIn, type Purpose } from '../document/purpose';
import { failed } from '../errors';
import { compose, isSimilarity, transformPath, type Affine, type Path } from '../geometry/path';
import { joinEnds } from '../geometry/join';
import { arcsToCubics } from '../geometry/segment';
import { groupPieces } from '../plane/pieces';
import { finish } from '../progress';
import { TOLERANCE } from '../tolerance';
import { Budget, FILE_LIMIT, isWithinReach } from './budget';
import { lineOfEntity, planeOf, Values, type Drawn } from './dxf-entities';
import { parseDxf, type RawDrawing, type RawEntity, type RawLayer } from './dxf-groups';
import { EXTENDED } from './dxf-write';
import { leftOutWords, type ReadResult, type Shape } from './imported';

/** mm per drawing unit by $INSUNITS. */
const INSUNITS: Record<number, number> = {
	1: 25.4,
	2: 304.8,
	3: 1_609_344,
	4: 1,
	5: 10,
	6: 1000,
	7: 1e6,
	8: 25.4e-6,
	9: 0.0254,
	10: 914.4,
	13: 0.001,
	14: 100
};

/** mm. Ends of lines that came one by one are drawn together within this: far below what any cutter shows. */
const JOIN_GAP = 0.01;

/** What cannot be a line to cut, in plain words. */
const LEFT_OUT: Record<string, string> = {
	TEXT: 'text',
	MTEXT: 'text',
	ATTRIB: 'text',
	ATTDEF: 'text',
	HATCH: 'hatching',
	MPOLYGON: 'hatching',
	LEADER: 'a leader',
	MLEADER: 'a leader',
	MULTILEADER: 'a leader',
	DIMENSION: 'a dimension',
	ARC_DIMENSION: 'a dimension',
	TOLERANCE: 'a dimension',
	XLINE: 'an infinite line',
	RAY: 'an infinite line',
	IMAGE: 'a picture',
	WIPEOUT: 'a picture',
	OLE2FRAME: 'foreign content',
	'3DSOLID': 'a solid',
	BODY: 'a solid',
	REGION: 'a solid',
	SURFACE: 'a solid',
	MESH: 'a mesh',
	POLYLINE: 'a mesh'
};
/** Belongs to the page or to the entity before it. */
const SILENT = new Set(['VIEWPORT', 'SEQEND', 'VERTEX']);

interface Run {
	readonly path: Path;
	readonly layer: string;
	readonly colour?: string;
	/** What this program wrote about it. */
	readonly name?: string;
	readonly fill?: string;
	readonly purpose?: Purpose;
	readonly dashes?: readonly number[];
	readonly wide?: Shape['wide'];
	/** Outlines that say the same are one piece. */
	readonly piece?: string;
	/** It is one outline as it stands, however its ends lie. */
	readonly whole: boolean;
}

interface Reading {
	readonly raw: RawDrawing;
	readonly runs: Run[];
	readonly points: { x: number; y: number; layer: string }[];
	readonly left: Map<string, number>;
	readonly budget: Budget;
	flattened: number;
}

/** Where an entity stands: the map to the drawing, and what a block's parts take from where it is put. */
interface Standing {
	readonly map: Affine;
	readonly layer?: string;
	readonly colour?: string;
	/** Names of the blocks that it lies in. */
	readonly blocks: readonly string[];
}

/** @throws CoreError `too-much` */
export const readDxf = (text: string): ReadResult => finish(readDxfSteps(text));

/** Reads a DXF, telling how far it has come (0 to 1). @throws CoreError `too-much` */
export function* readDxfSteps(text: string): Generator<number, ReadResult> {
	if (/^\w+ Binary DXF/.test(text))
		return failed('binary-dxf', 'This is a binary DXF. Save it as a text (ASCII) DXF and open that.');
	let raw: RawDrawing | undefined;
	try {
		raw = parseDxf(text);
	} catch {
		raw = undefined;
	}
	if (!raw)
		return failed('not-dxf', 'This file could not be read as DXF. It may be damaged or of another kind.');
	yield 0.4;
	const scale = INSUNITS[raw.units ?? 0];
	const reading: Reading = {
		raw,
		runs: [],
		points: [],
		left: new Map(),
		budget: new Budget(),
		flattened: 0
	};
	const size = scale ?? 1;
	yield* takeAll(raw.entities, { map: [size, 0, 0, size, 0, 0], blocks: [] }, reading);
	const joined = chained(reading.runs);
	const warnings = warningsOf(reading, scale === undefined, joined.drawn);
	if (joined.runs.length === 0 && reading.points.length === 0) {
		const why = warnings.length ? ' ' + warnings.join(' ') : '';
		return failed('nothing-drawn', `There is no line in this DXF that could be opened.${why}`);
	}
	yield 0.9;
	return {
		ok: true,
		value: {
			shapes: shapesOf(joined.runs),
			points: reading.points,
			warnings,
			layers: [...raw.layers.values()].map((layer) => ({ name: layer.name, colour: colourOfLayer(layer) })),
			...(scale === undefined ? { unitless: true } : {})
		}
	};
}

function warningsOf({ raw, left, flattened }: Reading, isUnitless: boolean, drawn: number): string[] {
	const list = leftOutWords(left);
	if (flattened)
		list.push(`${flattened} ${flattened === 1 ? 'thing' : 'things'} in space came as seen from above.`);
	if (drawn > 0)
		list.push(
			`Lines that came in pieces were joined; their ends lay up to ${drawn < 0.001 ? 'a thousandth of a' : Math.round(1000 * drawn) / 1000} mm apart.`
		);
	if (raw.damaged)
		list.push(
			`The file is damaged in ${raw.damaged === 1 ? 'one place' : `${raw.damaged} places`}; the rest was opened.`
		);
	if (isUnitless) list.push('The file states no unit; its numbers were taken for millimetres.');
	return list;
}

function* takeAll(entities: readonly RawEntity[], at: Standing, reading: Reading): Generator<number, void> {
	for (let i = 0; i < entities.length; i++) {
		const entity = entities[i];
		const vertices: RawEntity[] = [];
		if (entity.type === 'POLYLINE') while (entities[i + 1]?.type === 'VERTEX') vertices.push(entities[++i]);
		reading.budget.element();
		take(entity, vertices, at, reading);
		if (i % 200 === 0) yield 0.4 + (0.4 * i) / entities.length;
	}
}

function leave(reading: Reading, what: string): void {
	reading.left.set(what, (reading.left.get(what) ?? 0) + 1);
}

function take(entity: RawEntity, vertices: readonly RawEntity[], at: Standing, reading: Reading): void {
	const { type } = entity;
	if (SILENT.has(type)) return;
	const values = new Values(entity.groups);
	const own = values.text(8) ?? '0';
	// On layer 0 the parts of a block lie where the block is put.
	const layer = own === '0' && at.layer !== undefined ? at.layer : own;
	const table = reading.raw.layers.get(layer);
	if (values.number(67) === 1) {
		leave(reading, 'a thing on the paper page, not in the drawing itself, was left out');
		return;
	}
	if (values.number(60) === 1 || table?.frozen || (table && table.colour < 0)) {
		leave(reading, 'a thing that is not shown (hidden, its layer off or frozen) was left out');
		return;
	}
	const colour = colourOf(values, table, at.colour);
	const map = compose(at.map, planeOf(type, values));
	if (type === 'INSERT') {
		insert(values, { map, layer, colour, blocks: at.blocks }, reading);
		return;
	}
	if (type === 'POINT') {
		const [a, b, c, d, e, f] = map;
		const [x, y] = [values.number(10), values.number(20)];
		const point = { x: a * x + c * y + e, y: b * x + d * y + f, layer };
		if (Number.isFinite(point.x + point.y)) reading.points.push(point);
		return;
	}
	const said = extended(entity);
	const line = asSaid(lineOfEntity(entity, vertices), said !== undefined && (values.number(70) & 1) === 0);
	if (line === 'unknown') {
		const word = LEFT_OUT[type];
		leave(reading, word ? `${word} (${type}) was left out` : `${type} was left out`);
		return;
	}
	if (line === 'nothing' || line.types.length === 0) return;
	if (!values.isFlat || vertices.some((v) => !new Values(v.groups).isFlat)) reading.flattened++;
	const path = transformPath(isSimilarity(map) ? line : arcsToCubics(line), map);
	if (!isWithinReach(path)) {
		leave(reading, 'a line with places that are no numbers, or beyond every sheet, was left out');
		return;
	}
	// Of a spline these numbers are its knots and how exact they are.
	const isPolyline = /^(LW)?POLYLINE$/.test(type);
	const width = isPolyline ? values.number(43) : 0;
	if (width > 0 || (isPolyline && values.all(40).some((w) => w > 0)))
		leave(reading, 'the width of a polyline was left out, its middle line taken');
	reading.budget.path(path);
	const dashes = dashesOf(values, table, reading.raw);
	const scale = Math.sqrt(Math.abs(at.map[0] * at.map[3] - at.map[1] * at.map[2]));
	const purpose = purposeIn(said?.purpose);
	reading.runs.push({
		path,
		layer,
		colour,
		whole: path.closed || said !== undefined,
		...(dashes ? { dashes: dashes.map((d) => scale * d) } : {}),
		...(width > 0 ? { wide: { width: scale * width, ends: 'butt' as const } } : {}),
		...(said?.name ? { name: said.name } : {}),
		...(said?.fill ? { fill: said.fill } : {}),
		...(purpose ? { purpose } : {}),
		...(said?.piece && at.blocks.length === 0 ? { piece: said.piece } : {})
	});
}

/** An outline that this program wrote as open stays so, though its ends lie on each other. */
const asSaid = (line: Drawn, isOpen: boolean): Drawn =>
	typeof line !== 'string' && isOpen && line.closed ? { ...line, closed: false } : line;

/** A block put down once, or in rows and columns. */
function insert(values: Values, at: Standing & { layer: string }, reading: Reading): void {
	const name = values.text(2) ?? '';
	const block = reading.raw.blocks.get(name);
	if (!block) {
		leave(reading, `the block "${name}" was not found`);
		return;
	}
	if (at.blocks.includes(name)) {
		leave(reading, `the block "${name}" holds itself; that was left out`);
		return;
	}
	if (at.blocks.length > FILE_LIMIT.depth) return;
	const rad = (values.number(50) * Math.PI) / 180;
	const [c, s] = [Math.cos(rad), Math.sin(rad)];
	const [sx, sy] = [values.number(41, 1), values.number(42, 1)];
	const count = (code: number) => Math.max(1, Math.trunc(values.number(code, 1)) || 1);
	const blocks = [...at.blocks, name];
	for (let row = 0; row < count(71); row++) {
		for (let column = 0; column < count(70); column++) {
			reading.budget.element();
			const [ox, oy] = [column * values.number(44), row * values.number(45)];
			const px = values.number(10) + c * ox - s * oy;
			const py = values.number(20) + s * ox + c * oy;
			const placed = compose([c * sx, s * sx, -s * sy, c * sy, px, py], [1, 0, 0, 1, -block.x, -block.y]);
			finish(takeAll(block.entities, { ...at, map: compose(at.map, placed), blocks }, reading));
		}
	}
}

/** What this program writes beside an outline: that it is one, its piece, its name, its fill, its purpose. */
function extended({
	groups
}: RawEntity): { piece?: string; name?: string; fill?: string; purpose?: string } | undefined {
	const from = groups.findIndex(({ code, value }) => code === 1001 && value === EXTENDED);
	if (from < 0) return undefined;
	const said: Record<string, string> = {};
	for (const { code, value } of groups.slice(from + 1)) {
		if (code !== 1000) break;
		const equals = value.indexOf('=');
		if (equals > 0) said[value.slice(0, equals)] = value.slice(equals + 1);
	}
	return said;
}

let colours: readonly number[] | undefined;

/** 0xrrggbb of an index of colours, by the parsing package's table. */
function indexedColour(index: number): number | undefined {
	if (!colours) {
		const rows = Array.from({ length: 256 }, (_, i) => `0\nLAYER\n2\n${i}\n62\n${i}\n`).join('');
		const text = `0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n${rows}0\nENDTAB\n0\nENDSEC\n0\nEOF\n`;
		const layers = new DxfParser().parseSync(text)?.tables?.layer?.layers ?? {};
		colours = Array.from({ length: 256 }, (_, i) => layers[i]?.color ?? 0);
	}
	return colours[index];
}

/** Strokes and gaps of an entity's own line type, or of its layer's; undefined for a whole line. */
function dashesOf(
	values: Values,
	layer: RawLayer | undefined,
	{ lineTypes }: RawDrawing
): readonly number[] | undefined {
	const own = values.text(6)?.toUpperCase();
	const name = own === undefined || own === 'BYLAYER' ? layer?.lineType?.toUpperCase() : own;
	const scale = values.number(48, 1);
	return name === undefined ? undefined : lineTypes.get(name)?.map((d) => d * (scale > 0 ? scale : 1));
}

/** White is drawn black on white paper. */
const WHITE = 0xffffff;
const cssColour = (colour: number): string =>
	'#' + (colour === WHITE ? 0 : colour & WHITE).toString(16).padStart(6, '0');

function colourOfLayer(layer: RawLayer | undefined): string | undefined {
	if (!layer) return undefined;
	const colour = layer.trueColour ?? indexedColour(Math.abs(layer.colour));
	return colour === undefined ? undefined : cssColour(colour);
}

/** Its own colour, its layer's, or that of the block it lies in. */
function colourOf(
	values: Values,
	layer: RawLayer | undefined,
	ofBlock: string | undefined
): string | undefined {
	const true_ = values.text(420);
	if (true_ !== undefined) return cssColour(Number(true_));
	const index = values.number(62, 256);
	if (index === 0) return ofBlock;
	if (index === 256) return colourOfLayer(layer);
	const colour = indexedColour(Math.abs(index));
	return colour === undefined ? undefined : cssColour(colour);
}

/** Open lines of one layer and colour whose ends lie on each other, joined. */
function chained(runs: readonly Run[]): { readonly runs: readonly Run[]; readonly drawn: number } {
	const loose = new Map<string, number[]>();
	runs.forEach((run, i) => {
		if (run.whole) return;
		const key = JSON.stringify([run.layer, run.colour, run.dashes]);
		loose.set(key, [...(loose.get(key) ?? []), i]);
	});
	const out: (Run | undefined)[] = [...runs];
	let drawn = 0;
	for (const list of loose.values()) {
		const { paths, from, drift } = joinEnds(
			list.map((i) => runs[i].path),
			JOIN_GAP
		);
		if (2 * drift > TOLERANCE.coincidence) drawn = Math.max(drawn, 2 * drift);
		paths.forEach((path, k) => {
			const [first, ...others] = from[k].map((i) => list[i]).sort((a, b) => a - b);
			out[first] = { ...runs[first], path };
			for (const other of others) out[other] = undefined;
		});
	}
	return { runs: out.filter((run) => run !== undefined), drawn };
}

/**
 * Closed outlines are the pieces that the file names, as this program writes them; others that lie in each other on a layer are a
 * piece with its holes; open lines are one each.
 */
function shapesOf(runs: readonly Run[]): Shape[] {
	const layers = new Map<string, number[]>();
	runs.forEach((run, i) => {
		const key = JSON.stringify([run.layer, run.piece ?? '']);
		const list = layers.get(key) ?? [];
		list.push(i);
		layers.set(key, list);
	});
	const shapes: { first: number; shape: Shape }[] = [];
	for (const list of layers.values()) {
		const paths = list.map((i) => runs[i].path);
		const open = paths.flatMap((path, k) => (path.closed ? [] : [[k]]));
		for (const group of [...groupPieces(paths), ...open]) {
			const [outer, ...holes] = group.map((k) => runs[list[k]]);
			const names = [outer, ...holes].map((run) => run.name ?? '');
			shapes.push({
				first: list[group[0]],
				shape: {
					paths: [outer, ...holes].map((run) => run.path),
					fillRule: 'evenodd',
					layer: outer.layer,
					stroke: outer.fill ? undefined : outer.colour,
					...(outer.dashes ? { dashes: outer.dashes } : {}),
					...(outer.wide ? { wide: outer.wide } : {}),
					...(outer.name ? { name: outer.name } : {}),
					...(names.some((name) => name) ? { names } : {}),
					...(outer.fill ? { fill: outer.fill } : {}),
					...(outer.purpose ? { purpose: outer.purpose } : {})
				}
			});
		}
	}
	return shapes.sort((a, b) => a.first - b.first).map(({ shape }) => shape);
}

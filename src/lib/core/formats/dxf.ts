/** DXF files, in and out. Polyline bulges as in the published DXF reference: tan(included angle / 4). */
import type { Point } from '../geometry/point';
import DxfParser, { type IDxf, type IEntity } from 'dxf-parser';
import { failed } from '../errors';
import { addEllipticalArc } from '../geometry/ellipse';
import { flattenPath } from '../geometry/edge-tree';
import { pathBox, unionBox, isEmptyBox } from '../geometry/measure';
import {
	ARC,
	compose,
	CUBIC,
	IDENTITY,
	isSimilarity,
	PathBuilder,
	STRIDE,
	transformPath,
	type Affine,
	type Path
} from '../geometry/path';
import { arcsToCubics } from '../geometry/segment';
import { splineToPath } from '../fit/spline';
import { TOLERANCE } from '../tolerance';
import type { ReadResult, Shape } from './imported';

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

interface Group {
	code: number;
	value: number & string;
}
interface Scanner {
	next(): Group;
	isEOF(): boolean;
	lastReadGroup: Group;
}

/** The parsing package leaves out the weights of splines; this handler reads the whole entity. */
class SplineHandler {
	readonly ForEntityName = 'SPLINE';
	parseEntity(scanner: Scanner, curr: Group): IEntity {
		const entity: Record<string, unknown> = { type: 'SPLINE' };
		const knots: number[] = [];
		const weights: number[] = [];
		const controls: Point[] = [];
		const fits: Point[] = [];
		curr = scanner.next();
		while (!scanner.isEOF() && curr.code !== 0) {
			if (curr.code === 40) knots.push(curr.value);
			else if (curr.code === 41) weights.push(curr.value);
			else if (curr.code === 10) controls.push({ x: curr.value, y: 0 });
			else if (curr.code === 20 && controls.length)
				controls[controls.length - 1] = { x: controls[controls.length - 1].x, y: curr.value };
			else if (curr.code === 11) fits.push({ x: curr.value, y: 0 });
			else if (curr.code === 21 && fits.length)
				fits[fits.length - 1] = { x: fits[fits.length - 1].x, y: curr.value };
			else if (curr.code === 70) entity.flags = curr.value;
			else if (curr.code === 71) entity.degree = curr.value;
			else if (curr.code === 8) entity.layer = curr.value;
			else if (curr.code === 62) entity.colorIndex = curr.value;
			curr = scanner.next();
		}
		return { ...entity, knots, weights, controls, fits } as unknown as IEntity;
	}
}

type Fields = Record<string, never> & {
	vertices?: { x: number; y: number; bulge?: number }[];
	shape?: boolean;
	center?: Point;
	radius?: number;
	startAngle?: number;
	endAngle?: number;
	majorAxisEndPoint?: Point;
	axisRatio?: number;
	position?: Point;
	name?: string;
	xScale?: number;
	yScale?: number;
	rotation?: number;
	columnCount?: number;
	rowCount?: number;
	columnSpacing?: number;
	rowSpacing?: number;
	extrusionDirectionZ?: number;
	knots?: number[];
	weights?: number[];
	controls?: Point[];
	fits?: Point[];
	degree?: number;
	flags?: number;
};

interface Run {
	path: Path;
	layer: string;
	colour?: string;
}

/**
 * Reads a DXF: lines, arcs, circles, ellipses, polylines with bulges, splines, blocks, points. Parts whose ends lie on
 * each other one after another become one outline. What is skipped is listed.
 */
export function readDxf(text: string): ReadResult {
	if (/^\w+ Binary DXF/.test(text)) {
		return failed('binary-dxf', 'This is a binary DXF. Save it as a text (ASCII) DXF and open that.');
	}
	const parser = new DxfParser();
	parser.registerEntityHandler(SplineHandler as never);
	let dxf: IDxf | null;
	try {
		dxf = parser.parseSync(text);
	} catch {
		dxf = null;
	}
	if (!dxf || !Array.isArray(dxf.entities)) {
		return failed('not-dxf', 'This file could not be read as DXF. It may be damaged or of another kind.');
	}
	const scale = INSUNITS[Number(dxf.header?.$INSUNITS ?? 0)] ?? 1;
	const warnings = new Map<string, number>();
	if (!(Number(dxf.header?.$INSUNITS ?? 0) in INSUNITS)) {
		warnings.set('The file states no unit; its numbers were taken for millimetres.', 0);
	}
	const runs: Run[] = [];
	const points: { x: number; y: number; layer?: string }[] = [];
	const layers = dxf.tables?.layer?.layers ?? {};
	const colourOf = (entity: IEntity): string | undefined => {
		const own = (entity as unknown as { color?: number }).color ?? layers[entity.layer]?.color;
		return own === undefined ? undefined : '#' + (own & 0xffffff).toString(16).padStart(6, '0');
	};
	const take = (entity: IEntity, m: Affine, depth: number): void => {
		const e = entity as unknown as Fields;
		const layer = String(entity.layer ?? '0');
		// A block turned over by its extrusion direction is mirrored.
		const here = (e.extrusionDirectionZ ?? 1) < 0 ? compose(m, [-1, 0, 0, 1, 0, 0]) : m;
		if (entity.type === 'INSERT') {
			const block = dxf?.blocks?.[e.name ?? ''];
			if (!block?.entities || depth > 12) {
				warnings.set(`The block "${e.name}" was not found.`, 0);
				return;
			}
			const rad = ((e.rotation ?? 0) * Math.PI) / 180;
			const c = Math.cos(rad);
			const s = Math.sin(rad);
			const sx = e.xScale ?? 1;
			const sy = e.yScale ?? 1;
			const base = (block.position ?? { x: 0, y: 0 }) as Point;
			for (let row = 0; row < (e.rowCount || 1); row++) {
				for (let column = 0; column < (e.columnCount || 1); column++) {
					const ox = column * (e.columnSpacing ?? 0);
					const oy = row * (e.rowSpacing ?? 0);
					const px = (e.position?.x ?? 0) + c * ox - s * oy;
					const py = (e.position?.y ?? 0) + s * ox + c * oy;
					const placed = compose(
						here,
						compose([c * sx, s * sx, -s * sy, c * sy, px, py], [1, 0, 0, 1, -base.x, -base.y])
					);
					for (const inner of block.entities) take(inner, placed, depth + 1);
				}
			}
			return;
		}
		if (entity.type === 'POINT') {
			const p = e.position ?? { x: 0, y: 0 };
			const [a, b, c, d, x, y] = here;
			points.push({ x: a * p.x + c * p.y + x, y: b * p.x + d * p.y + y, layer });
			return;
		}
		const path = entityPath(entity.type, e);
		if (path === 'skip') {
			const what = `${entity.type} is not carried over and was left out.`;
			warnings.set(what, (warnings.get(what) ?? 0) + 1);
			return;
		}
		if (!path || path.types.length === 0) return;
		const round = isSimilarity(here);
		runs.push({
			path: transformPath(round ? path : arcsToCubics(path), here),
			layer,
			colour: colourOf(entity)
		});
	};
	for (const entity of dxf.entities) take(entity, compose([scale, 0, 0, scale, 0, 0], IDENTITY), 0);
	const bad = runs.some((run) => run.path.segs.some((v) => !Number.isFinite(v)));
	if (bad) return failed('bad-number', 'This DXF holds coordinates that are no numbers. It may be damaged.');
	const list = [...warnings].map(([sentence, count]) =>
		count > 1 ? `${count} times: ${sentence}` : sentence
	);
	if (runs.length === 0 && points.length === 0) {
		return failed(
			'nothing-drawn',
			`There is no line in this DXF that could be opened.${list.length ? ' ' + list.join(' ') : ''}`
		);
	}
	const shapes: Shape[] = chain(runs).map((run) => ({
		paths: [run.path],
		fillRule: 'evenodd',
		layer: run.layer,
		stroke: run.colour
	}));
	return { ok: true, value: { shapes, points, warnings: list } };
}

function entityPath(type: string, e: Fields): Path | undefined | 'skip' {
	if (type === 'LINE' && e.vertices && e.vertices.length >= 2) {
		return new PathBuilder(e.vertices[0].x, e.vertices[0].y).line(e.vertices[1].x, e.vertices[1].y).open();
	}
	if ((type === 'LWPOLYLINE' || type === 'POLYLINE') && e.vertices && e.vertices.length >= 2) {
		const v = e.vertices;
		const b = new PathBuilder(v[0].x, v[0].y);
		for (let i = 0; i + 1 < v.length; i++) b.arc(v[i].bulge ?? 0, v[i + 1].x, v[i + 1].y);
		if (!e.shape) return b.open();
		b.arc(v[v.length - 1].bulge ?? 0, v[0].x, v[0].y);
		return b.close(TOLERANCE.coincidence);
	}
	if (type === 'CIRCLE' && e.center && e.radius! > 0) {
		return arcPath(e.center, e.radius!, 0, 2 * Math.PI);
	}
	if (type === 'ARC' && e.center && e.radius! > 0) {
		let sweep = (e.endAngle ?? 0) - (e.startAngle ?? 0);
		while (sweep <= 0) sweep += 2 * Math.PI;
		return arcPath(e.center, e.radius!, e.startAngle ?? 0, sweep);
	}
	if (type === 'ELLIPSE' && e.center && e.majorAxisEndPoint) {
		const { x: mx, y: my } = e.majorAxisEndPoint;
		const rx = Math.hypot(mx, my);
		const ry = rx * (e.axisRatio ?? 1);
		const turn = Math.atan2(my, mx);
		const start = e.startAngle ?? 0;
		let sweep = (e.endAngle ?? 2 * Math.PI) - start;
		while (sweep <= 1e-9) sweep += 2 * Math.PI;
		const place = (a: number) => ({
			x: e.center!.x + rx * Math.cos(a) * Math.cos(turn) - ry * Math.sin(a) * Math.sin(turn),
			y: e.center!.y + rx * Math.cos(a) * Math.sin(turn) + ry * Math.sin(a) * Math.cos(turn)
		});
		const from = place(start);
		const b = new PathBuilder(from.x, from.y);
		const parts = Math.max(1, Math.ceil(sweep / (Math.PI / 2) - 1e-9));
		const full = Math.abs(sweep - 2 * Math.PI) < 1e-9;
		for (let i = 1; i <= parts; i++) {
			const q = full && i === parts ? from : place(start + (sweep * i) / parts);
			addEllipticalArc(b, rx, ry, (turn * 180) / Math.PI, false, true, q.x, q.y, TOLERANCE.measure);
		}
		return full ? b.close(TOLERANCE.coincidence) : b.open();
	}
	if (type === 'SPLINE') {
		if (!e.controls?.length) return 'skip';
		const path = splineToPath(
			{
				degree: e.degree ?? 3,
				knots: e.knots ?? [],
				points: e.controls,
				weights: e.weights?.length === e.controls.length ? e.weights : undefined
			},
			TOLERANCE.fit
		);
		return path ?? 'skip';
	}
	return 'skip';
}

/** An arc as bulges of at most half a circle each; a full turn is closed. */
function arcPath(center: Point, radius: number, start: number, sweep: number): Path {
	const place = (a: number) => ({ x: center.x + radius * Math.cos(a), y: center.y + radius * Math.sin(a) });
	const full = Math.abs(sweep - 2 * Math.PI) < 1e-9;
	const parts = full ? 4 : sweep > Math.PI ? 2 : 1;
	const from = place(start);
	const b = new PathBuilder(from.x, from.y);
	for (let i = 1; i <= parts; i++) {
		const q = full && i === parts ? from : place(start + (sweep * i) / parts);
		b.arc(Math.tan(sweep / parts / 4), q.x, q.y);
	}
	return full ? b.close(TOLERANCE.coincidence) : b.open();
}

/** Open runs of one layer, each beginning where the one before ends, tied into one; closed where they come round. */
function chain(runs: readonly Run[]): Run[] {
	const out: Run[] = [];
	let current: { run: Run; builder: PathBuilder; startX: number; startY: number } | undefined;
	const finish = () => {
		if (!current) return;
		const { builder, run, startX, startY } = current;
		const around =
			builder.count > 1 && Math.hypot(builder.endX - startX, builder.endY - startY) <= TOLERANCE.coincidence;
		out.push({ ...run, path: around ? builder.close(TOLERANCE.coincidence) : builder.open() });
		current = undefined;
	};
	for (const run of runs) {
		if (run.path.closed) {
			finish();
			out.push(run);
			continue;
		}
		const s = run.path.segs;
		const follows =
			current &&
			current.run.layer === run.layer &&
			current.run.colour === run.colour &&
			Math.hypot(current.builder.endX - s[0], current.builder.endY - s[1]) <= TOLERANCE.coincidence;
		if (!follows) {
			finish();
			current = { run, builder: new PathBuilder(s[0], s[1]), startX: s[0], startY: s[1] };
		}
		for (let i = 0; i < run.path.types.length; i++)
			current!.builder.segment(run.path.types[i], s, STRIDE * i);
		// A chain that has come round ends here; what follows is another outline.
		const c = current!;
		if (
			c.builder.count > 1 &&
			Math.hypot(c.builder.endX - c.startX, c.builder.endY - c.startY) <= TOLERANCE.coincidence
		)
			finish();
	}
	finish();
	return out;
}

export interface DxfPiece {
	readonly path: Path;
	readonly layer: string;
}

export interface DxfOptions {
	/** 'exact': arcs as bulges, curves as splines. 'polylines': straight polylines only, within `tolerance`. */
	readonly curves: 'exact' | 'polylines';
	/** mm, for polylines. */
	readonly tolerance?: number;
	readonly points?: readonly { x: number; y: number; layer?: string }[];
}

/** Writes outlines in millimetres ($INSUNITS 4). Outlines without free curves are polylines with bulges. */
export function writeDxf(pieces: readonly DxfPiece[], options: DxfOptions): string {
	const tolerance = options.tolerance ?? 0.01;
	const out: string[] = [];
	let handle = 0x100;
	const put = (...pairs: (string | number)[]) => {
		for (let i = 0; i < pairs.length; i += 2) out.push(String(pairs[i]), String(pairs[i + 1]));
	};
	const n = (v: number) => {
		const text = v.toFixed(10).replace(/0+$/, '');
		return (text.endsWith('.') ? text + '0' : text).replace(/^-0\.0$/, '0.0');
	};
	const next = () => (handle++).toString(16).toUpperCase();
	const layers = [
		...new Set([
			'0',
			...pieces.map((p) => layerName(p.layer)),
			...(options.points ?? []).map((p) => layerName(p.layer ?? '0'))
		])
	];
	const box = unionBox(pieces.map((p) => pathBox(p.path)));
	const b = isEmptyBox(box) ? { x0: 0, y0: 0, x1: 1, y1: 1 } : box;
	put(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1015', 9, '$INSUNITS', 70, 4, 9, '$MEASUREMENT', 70, 1);
	put(9, '$EXTMIN', 10, n(b.x0), 20, n(b.y0), 30, '0.0', 9, '$EXTMAX', 10, n(b.x1), 20, n(b.y1), 30, '0.0');
	put(9, '$HANDSEED', 5, 'FFFFFF', 0, 'ENDSEC');
	put(0, 'SECTION', 2, 'TABLES');
	const table = (name: string, owner: string, count: number) =>
		put(0, 'TABLE', 2, name, 5, owner, 330, 0, 100, 'AcDbSymbolTable', 70, count);
	table('VPORT', '8', 0);
	put(0, 'ENDTAB');
	table('LTYPE', '5', 3);
	for (const [h, name] of [
		['14', 'ByBlock'],
		['15', 'ByLayer'],
		['16', 'Continuous']
	]) {
		put(
			0,
			'LTYPE',
			5,
			h,
			330,
			'5',
			100,
			'AcDbSymbolTableRecord',
			100,
			'AcDbLinetypeTableRecord',
			2,
			name,
			70,
			0,
			3,
			'',
			72,
			65,
			73,
			0,
			40,
			'0.0'
		);
	}
	put(0, 'ENDTAB');
	table('LAYER', '2', layers.length);
	layers.forEach((name) =>
		put(
			0,
			'LAYER',
			5,
			next(),
			330,
			'2',
			100,
			'AcDbSymbolTableRecord',
			100,
			'AcDbLayerTableRecord',
			2,
			name,
			70,
			0,
			62,
			7,
			6,
			'Continuous'
		)
	);
	put(0, 'ENDTAB');
	table('STYLE', '3', 1);
	put(
		0,
		'STYLE',
		5,
		next(),
		330,
		'3',
		100,
		'AcDbSymbolTableRecord',
		100,
		'AcDbTextStyleTableRecord',
		2,
		'Standard',
		70,
		0,
		40,
		'0.0',
		41,
		'1.0',
		50,
		'0.0',
		71,
		0,
		42,
		'2.5',
		3,
		'txt',
		4,
		''
	);
	put(0, 'ENDTAB');
	table('VIEW', '6', 0);
	put(0, 'ENDTAB');
	table('UCS', '7', 0);
	put(0, 'ENDTAB');
	table('APPID', '9', 1);
	put(
		0,
		'APPID',
		5,
		'12',
		330,
		'9',
		100,
		'AcDbSymbolTableRecord',
		100,
		'AcDbRegAppTableRecord',
		2,
		'ACAD',
		70,
		0
	);
	put(0, 'ENDTAB');
	put(
		0,
		'TABLE',
		2,
		'DIMSTYLE',
		5,
		'A',
		330,
		0,
		100,
		'AcDbSymbolTable',
		70,
		0,
		100,
		'AcDbDimStyleTable',
		0,
		'ENDTAB'
	);
	table('BLOCK_RECORD', '1', 2);
	put(
		0,
		'BLOCK_RECORD',
		5,
		'1F',
		330,
		'1',
		100,
		'AcDbSymbolTableRecord',
		100,
		'AcDbBlockTableRecord',
		2,
		'*Model_Space'
	);
	put(
		0,
		'BLOCK_RECORD',
		5,
		'1B',
		330,
		'1',
		100,
		'AcDbSymbolTableRecord',
		100,
		'AcDbBlockTableRecord',
		2,
		'*Paper_Space'
	);
	put(0, 'ENDTAB', 0, 'ENDSEC', 0, 'SECTION', 2, 'BLOCKS');
	for (const [h, e, owner, name] of [
		['20', '21', '1F', '*Model_Space'],
		['1C', '1D', '1B', '*Paper_Space']
	]) {
		put(
			0,
			'BLOCK',
			5,
			h,
			330,
			owner,
			100,
			'AcDbEntity',
			8,
			'0',
			100,
			'AcDbBlockBegin',
			2,
			name,
			70,
			0,
			10,
			'0.0',
			20,
			'0.0',
			30,
			'0.0',
			3,
			name,
			1,
			''
		);
		put(0, 'ENDBLK', 5, e, 330, owner, 100, 'AcDbEntity', 8, '0', 100, 'AcDbBlockEnd');
	}
	put(0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES');
	const begin = (type: string, layer: string, subclass: string) =>
		put(0, type, 5, next(), 330, '1F', 100, 'AcDbEntity', 8, layerName(layer), 100, subclass);
	const polyline = (layer: string, closed: boolean, xyb: readonly number[]) => {
		begin('LWPOLYLINE', layer, 'AcDbPolyline');
		put(90, xyb.length / 3, 70, closed ? 1 : 0);
		for (let i = 0; i < xyb.length; i += 3) {
			put(10, n(xyb[i]), 20, n(xyb[i + 1]));
			if (xyb[i + 2] !== 0) put(42, n(xyb[i + 2]));
		}
	};
	for (const { path, layer } of pieces) {
		if (path.types.length === 0) continue;
		if (options.curves === 'polylines') {
			const flat = flattenPath(path, tolerance);
			const xyb: number[] = [];
			for (let i = 0; i < flat.length; i += 2) xyb.push(flat[i], flat[i + 1], 0);
			polyline(layer, path.closed, xyb);
			continue;
		}
		if (!path.types.includes(CUBIC)) {
			polyline(layer, path.closed, bulged(path, 0, path.types.length, !path.closed));
			continue;
		}
		for (const [from, to] of runsOf(path)) {
			if (path.types[from] !== CUBIC) {
				polyline(layer, false, bulged(path, from, to, true));
				continue;
			}
			// Bézier segments as one cubic B-spline whose knots are threefold where they meet.
			const count = to - from;
			begin('SPLINE', layer, 'AcDbSpline');
			put(210, '0.0', 220, '0.0', 230, '1.0', 70, 8, 71, 3, 72, 3 * count + 5, 73, 3 * count + 1, 74, 0);
			put(42, '1e-9', 43, '1e-9', 44, '1e-9');
			for (let k = 0; k <= count; k++) {
				const times = k === 0 || k === count ? 4 : 3;
				for (let m = 0; m < times; m++) put(40, k);
			}
			const s = path.segs;
			put(10, n(s[STRIDE * from]), 20, n(s[STRIDE * from + 1]), 30, '0.0');
			for (let i = from; i < to; i++) {
				for (let k = 2; k < 8; k += 2) put(10, n(s[STRIDE * i + k]), 20, n(s[STRIDE * i + k + 1]), 30, '0.0');
			}
		}
	}
	for (const p of options.points ?? []) {
		begin('POINT', p.layer ?? '0', 'AcDbPoint');
		put(10, n(p.x), 20, n(p.y), 30, '0.0');
	}
	put(
		0,
		'ENDSEC',
		0,
		'SECTION',
		2,
		'OBJECTS',
		0,
		'DICTIONARY',
		5,
		'C',
		330,
		0,
		100,
		'AcDbDictionary',
		281,
		1,
		3,
		'ACAD_GROUP',
		350,
		'D'
	);
	put(0, 'DICTIONARY', 5, 'D', 330, 'C', 100, 'AcDbDictionary', 281, 1, 0, 'ENDSEC', 0, 'EOF');
	return out.join('\r\n') + '\r\n';
}

const layerName = (name: string) => name.replace(/[<>/\\":;?*|=`,\r\n]/g, '_').slice(0, 200) || '0';

/** x, y, bulge triples of segments from..to; with the last place where `withEnd`. */
function bulged(path: Path, from: number, to: number, withEnd: boolean): number[] {
	const out: number[] = [];
	const s = path.segs;
	for (let i = from; i < to; i++)
		out.push(s[STRIDE * i], s[STRIDE * i + 1], path.types[i] === ARC ? s[STRIDE * i + 2] : 0);
	if (withEnd) out.push(s[STRIDE * to - 2], s[STRIDE * to - 1], 0);
	return out;
}

/** Runs of segments that are all curves, or none. */
function runsOf(path: Path): [number, number][] {
	const out: [number, number][] = [];
	let from = 0;
	for (let i = 1; i <= path.types.length; i++) {
		const ends = i === path.types.length || (path.types[i] === CUBIC) !== (path.types[from] === CUBIC);
		if (!ends) continue;
		out.push([from, i]);
		from = i;
	}
	return out;
}

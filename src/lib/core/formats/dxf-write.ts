/** DXF files written. Polyline bulges as in the published DXF reference: tan(included angle / 4). */
import { arcShape } from '../geometry/arc';
import { flattenPath } from '../geometry/edge-tree';
import { pathBox, unionBox, isEmptyBox } from '../geometry/measure';
import type { Purpose } from '../document/purpose';
import { ARC, CUBIC, STRAIGHT, STRIDE, type Path } from '../geometry/path';

/** The name under which this program writes what a DXF has no place for. */
export const EXTENDED = 'EVEN_THREAD';

/** One outline: it is written as one entity. */
export interface DxfPiece {
	readonly path: Path;
	readonly layer: string;
	/** Outlines with one number are a piece with its holes; without one, nesting decides when it is read. */
	readonly piece?: number;
	readonly name?: string;
	/** CSS colours, as #rrggbb. */
	readonly colour?: string;
	/** mm: strokes and gaps by turns. */
	readonly dashes?: readonly number[];
	/** It is filled with this colour. */
	readonly fill?: string;
	/** What is done with it, where the file says so. */
	readonly purpose?: Purpose;
}

export interface DxfOptions {
	/** 'exact': arcs as bulges, curves as splines. 'polylines': straight polylines only, within `tolerance`. */
	readonly curves: 'exact' | 'polylines';
	/** mm, for polylines. */
	readonly tolerance?: number;
	readonly points?: readonly { x: number; y: number; layer?: string }[];
}

/**
 * Writes outlines in millimetres ($INSUNITS 4), each as one entity: without free curves a polyline with bulges, else a spline,
 * both exactly what the outline is.
 */
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
	// A layer has the colour of what lies on it first.
	const colours = new Map<string, string | undefined>();
	for (const { layer, colour, fill } of pieces)
		if (!colours.has(layerName(layer))) colours.set(layerName(layer), colour ?? fill);
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
	const lineTypes = lineTypesOf(pieces);
	table('LTYPE', '5', 3 + lineTypes.size);
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
	for (const [dashes, name] of lineTypes) {
		const list = dashes.split(' ').map(Number);
		put(0, 'LTYPE', 5, next(), 330, '5', 100, 'AcDbSymbolTableRecord', 100, 'AcDbLinetypeTableRecord');
		put(2, name, 70, 0, 3, '', 72, 65, 73, list.length, 40, n(list.reduce((sum, v) => sum + v, 0)));
		list.forEach((length, i) => put(49, n(i % 2 ? -length : length), 74, 0));
	}
	put(0, 'ENDTAB');
	table('LAYER', '2', layers.length);
	layers.forEach((name) => {
		const rgb = trueColour(colours.get(name));
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
		);
		if (rgb !== undefined) put(420, rgb);
	});
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
	table('APPID', '9', 2);
	put(
		0,
		'APPID',
		5,
		'13',
		330,
		'9',
		100,
		'AcDbSymbolTableRecord',
		100,
		'AcDbRegAppTableRecord',
		2,
		EXTENDED,
		70,
		0
	);
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
	const begin = (
		type: string,
		layer: string,
		subclass: string,
		colour?: string,
		dashes?: readonly number[]
	) => {
		put(0, type, 5, next(), 330, '1F', 100, 'AcDbEntity', 8, layerName(layer));
		if (dashes) put(6, lineTypes.get(dashes.join(' '))!);
		const rgb = trueColour(colour);
		if (rgb !== undefined) put(420, rgb);
		put(100, subclass);
	};
	const colourOf = ({ colour, fill }: DxfPiece) => colour ?? fill;
	/** What a DXF has no place for stands behind the entity: that it is one outline, of which piece, its name, its fill. */
	const extend = ({ piece, name, fill, purpose }: DxfPiece) => {
		put(1001, EXTENDED, 1000, 'outline=1');
		if (piece !== undefined) put(1000, `piece=${piece}`);
		if (name) put(1000, `name=${name.replace(/[\r\n]+/g, ' ').slice(0, 240)}`);
		if (fill) put(1000, `fill=${fill}`);
		if (purpose && purpose !== 'cut') put(1000, `purpose=${purpose}`);
	};
	const polyline = (piece: DxfPiece, closed: boolean, xyb: readonly number[]) => {
		begin('LWPOLYLINE', piece.layer, 'AcDbPolyline', colourOf(piece), piece.dashes);
		put(90, xyb.length / 3, 70, closed ? 1 : 0);
		for (let i = 0; i < xyb.length; i += 3) {
			put(10, n(xyb[i]), 20, n(xyb[i + 1]));
			if (xyb[i + 2] !== 0) put(42, n(xyb[i + 2]));
		}
		extend(piece);
	};
	const spline = (piece: DxfPiece) => {
		const { path } = piece;
		const { controls, knots } = splineOf(path);
		const isRational = path.types.includes(ARC);
		begin('SPLINE', piece.layer, 'AcDbSpline', colourOf(piece), piece.dashes);
		put(210, '0.0', 220, '0.0', 230, '1.0');
		put(
			70,
			8 + (path.closed ? 1 : 0) + (isRational ? 4 : 0),
			71,
			3,
			72,
			controls.length + 4,
			73,
			controls.length,
			74,
			0
		);
		put(42, '1e-9', 43, '1e-9');
		for (const knot of knots) put(40, n(knot));
		if (isRational) for (const [, , weight] of controls) put(41, n(weight));
		for (const [x, y] of controls) put(10, n(x), 20, n(y), 30, '0.0');
		extend(piece);
	};
	for (const piece of pieces) {
		const { path } = piece;
		if (path.types.length === 0) continue;
		if (options.curves === 'polylines') {
			const flat = flattenPath(path, tolerance);
			const xyb: number[] = [];
			for (let i = 0; i < flat.length; i += 2) xyb.push(flat[i], flat[i + 1], 0);
			polyline(piece, path.closed, xyb);
		} else if (!path.types.includes(CUBIC)) {
			polyline(piece, path.closed, bulged(path));
		} else spline(piece);
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

/** The name of each kind of broken line, by its lengths. */
function lineTypesOf(pieces: readonly DxfPiece[]): ReadonlyMap<string, string> {
	const names = new Map<string, string>();
	for (const { dashes } of pieces) {
		const key = dashes?.join(' ');
		if (key !== undefined && !names.has(key)) names.set(key, `BROKEN_${names.size + 1}`);
	}
	return names;
}

const layerName = (name: string) => name.replace(/[<>/\\":;?*|=`,\r\n]/g, '_').slice(0, 200) || '0';

/** x, y, bulge triples; with the last place where it is open. */
function bulged(path: Path): number[] {
	const out: number[] = [];
	const s = path.segs;
	const n = path.types.length;
	for (let i = 0; i < n; i++)
		out.push(s[STRIDE * i], s[STRIDE * i + 1], path.types[i] === ARC ? s[STRIDE * i + 2] : 0);
	if (!path.closed) out.push(s[STRIDE * n - 2], s[STRIDE * n - 1], 0);
	return out;
}

/** A control point with its weight. */
type Weighted = readonly [x: number, y: number, w: number];

/** rad. An arc that turns more is several spans, so that its weights stay well above 0. */
const MOST_SWEEP = (2 * Math.PI) / 3;

/**
 * A path as one B-spline of degree 3 whose knots are threefold where segments meet: curves as they are, straights by their
 * thirds, arcs as rational curves, exactly. Anchors lie at whole knots; an arc that takes several spans has broken ones within.
 * Source: Piegl and Tiller, The NURBS Book, 7.3 (arcs), 5.5 (degree raised).
 */
function splineOf(path: Path): { readonly controls: readonly Weighted[]; readonly knots: readonly number[] } {
	const s = path.segs;
	const controls: Weighted[] = [[s[0], s[1], 1]];
	const ends: number[] = [];
	for (let i = 0; i < path.types.length; i++) {
		const at = STRIDE * i;
		const [x0, y0, x1, y1] = [s[at], s[at + 1], s[at + 6], s[at + 7]];
		let spans = 1;
		if (path.types[i] === ARC) {
			const arc = arcControls(x0, y0, x1, y1, s[at + 2]);
			spans = arc.length / 3;
			controls.push(...arc);
		} else if (path.types[i] === STRAIGHT) {
			const [dx, dy] = [(x1 - x0) / 3, (y1 - y0) / 3];
			controls.push([x0 + dx, y0 + dy, 1], [x1 - dx, y1 - dy, 1], [x1, y1, 1]);
		} else controls.push([s[at + 2], s[at + 3], 1], [s[at + 4], s[at + 5], 1], [x1, y1, 1]);
		for (let k = 1; k <= spans; k++) ends.push(k === spans ? i + 1 : i + k / spans);
	}
	const inner = ends.slice(0, -1).flatMap((u) => [u, u, u]);
	const last = ends[ends.length - 1];
	return { controls, knots: [0, 0, 0, 0, ...inner, last, last, last, last] };
}

/** Three control points for each span of an arc. */
function arcControls(x0: number, y0: number, x1: number, y1: number, bulge: number): Weighted[] {
	const { cx, cy, radius, startRad, sweepRad } = arcShape(x0, y0, x1, y1, bulge);
	const parts = Math.max(1, Math.ceil(Math.abs(sweepRad) / MOST_SWEEP - 1e-9));
	const step = sweepRad / parts;
	const w = Math.cos(step / 2);
	const out: Weighted[] = [];
	const place = (rad: number, r = radius) => ({ x: cx + r * Math.cos(rad), y: cy + r * Math.sin(rad) });
	let from = { x: x0, y: y0 };
	for (let k = 1; k <= parts; k++) {
		const shoulder = place(startRad + (k - 0.5) * step, radius / w);
		const to = k === parts ? { x: x1, y: y1 } : place(startRad + k * step);
		const mixed = (p: { readonly x: number; readonly y: number }): Weighted => [
			(p.x + 2 * w * shoulder.x) / (1 + 2 * w),
			(p.y + 2 * w * shoulder.y) / (1 + 2 * w),
			(1 + 2 * w) / 3
		];
		out.push(mixed(from), mixed(to), [to.x, to.y, 1]);
		from = to;
	}
	return out;
}

/** 0xrrggbb of a CSS colour written #rgb or #rrggbb; undefined for any other. */
export function trueColour(css: string | undefined): number | undefined {
	const long = /^#([0-9a-f]{6})$/i.exec(css ?? '')?.[1];
	const short = /^#([0-9a-f]{3})$/i.exec(css ?? '')?.[1];
	const hex = long ?? (short && [...short].map((c) => c + c).join(''));
	return hex === undefined ? undefined : parseInt(hex, 16);
}

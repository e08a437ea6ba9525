/** Entities of a DXF as lines, each in the plane of its own coordinates. Codes as in the published DXF reference. */
import type { Point } from '../geometry/point';
import { addEllipticalArc } from '../geometry/ellipse';
import { IDENTITY, PathBuilder, polygonPath, type Affine, type Path } from '../geometry/path';
import { splineToPath } from '../fit/spline';
import { throughPoints } from '../fit/given-curves';
import { TOLERANCE } from '../tolerance';
import type { Group, RawEntity } from './dxf-groups';

/** The values of an entity by their codes. */
export class Values {
	private readonly first = new Map<number, string>();
	constructor(readonly groups: readonly Group[]) {
		for (const { code, value } of groups) if (!this.first.has(code)) this.first.set(code, value);
	}
	text(code: number): string | undefined {
		return this.first.get(code);
	}
	/** NaN for what is no number. */
	number(code: number, fallback = 0): number {
		const value = this.first.get(code);
		return value === undefined ? fallback : Number(value);
	}
	all(code: number): number[] {
		return this.groups.filter((g) => g.code === code).map((g) => Number(g.value));
	}
	/** Places of which x has a code and y ten more. */
	places(code: number): Point[] {
		const xs = this.all(code);
		const ys = this.all(code + 10);
		return xs.map((x, i) => ({ x, y: ys[i] ?? 0 }));
	}
	get isFlat(): boolean {
		return this.groups.every(
			({ code, value }) => !(code >= 30 && code <= 38) || Math.abs(Number(value)) < 1e-9
		);
	}
}

/** What an entity draws: a line, nothing, or something that cannot be taken. */
export type Drawn = Path | 'nothing' | 'unknown';

const FULL = 2 * Math.PI;
/** rad. A sweep within this of a whole turn is one. */
const WHOLE = 1e-9;

/** The turn from one angle to another, anticlockwise, above 0 and at most a whole one. */
function sweepOf(from: number, to: number): number {
	const sweep = (((to - from) % FULL) + FULL) % FULL;
	return sweep <= WHOLE ? FULL : sweep;
}

/** Whether the coordinates of an entity are its own, seen along its extrusion, and not the drawing's. */
const OWN_PLANE = new Set(['CIRCLE', 'ARC', 'LWPOLYLINE', 'POLYLINE', 'INSERT', 'SOLID', 'TRACE']);

/** From an entity's own coordinates to the drawing's, seen from above: the published arbitrary axis algorithm. */
export function planeOf(type: string, values: Values): Affine {
	if (!OWN_PLANE.has(type) || values.text(230) === undefined) return IDENTITY;
	const n = unit([values.number(210), values.number(220), values.number(230, 1)]);
	if (!n || (n[0] === 0 && n[1] === 0 && n[2] > 0)) return IDENTITY;
	const ax = unit(
		Math.abs(n[0]) < 1 / 64 && Math.abs(n[1]) < 1 / 64 ? cross([0, 1, 0], n) : cross([0, 0, 1], n)
	)!;
	const ay = cross(n, ax);
	return [ax[0], ax[1], ay[0], ay[1], 0, 0];
}

type Vector = readonly [number, number, number];
const cross = (a: Vector, b: Vector): Vector => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];
function unit(v: Vector): Vector | undefined {
	const size = Math.hypot(...v);
	return size > 0 ? [v[0] / size, v[1] / size, v[2] / size] : undefined;
}

/** The line of an entity in its own plane; polylines of the old kind need the vertices that follow them. */
export function lineOfEntity({ type, groups }: RawEntity, vertices: readonly RawEntity[] = []): Drawn {
	const v = new Values(groups);
	switch (type) {
		case 'LINE':
			return new PathBuilder(v.number(10), v.number(20)).line(v.number(11), v.number(21)).open();
		case 'LWPOLYLINE':
			return polyline(lightVertices(groups), (v.number(70) & 1) !== 0);
		case 'POLYLINE':
			return oldPolyline(v, vertices);
		case 'CIRCLE':
			return v.number(40) > 0 ? arc(v, 0, FULL) : 'nothing';
		case 'ARC': {
			const [from, to] = [v.number(50), v.number(51, 360)].map((a) => ((a % 360) * Math.PI) / 180);
			return v.number(40) > 0 ? arc(v, from, sweepOf(from, to)) : 'nothing';
		}
		case 'ELLIPSE':
			return ellipse(v);
		case 'SPLINE':
			return spline(v);
		case 'SOLID':
		case 'TRACE':
		case '3DFACE': {
			const [a, b, c, d] = [10, 11, 12, 13].map((code) => ({ x: v.number(code), y: v.number(code + 10) }));
			const corners = type === '3DFACE' ? [a, b, c, d] : [a, b, d, c];
			return polygonPath(corners.flatMap((p) => [p.x, p.y]));
		}
	}
	return 'unknown';
}

interface Vertex extends Point {
	readonly bulge: number;
}

function lightVertices(groups: readonly Group[]): Vertex[] {
	const out: { x: number; y: number; bulge: number }[] = [];
	for (const { code, value } of groups) {
		if (code === 10) out.push({ x: Number(value), y: 0, bulge: 0 });
		else if (code === 20 && out.length) out[out.length - 1].y = Number(value);
		else if (code === 42 && out.length) out[out.length - 1].bulge = Number(value);
	}
	return out;
}

function polyline(vertices: readonly Vertex[], closed: boolean): Drawn {
	const n = vertices.length;
	if (n < 2) return 'nothing';
	const b = new PathBuilder(vertices[0].x, vertices[0].y);
	for (let i = 0; i + 1 < n; i++) b.arc(vertices[i].bulge, vertices[i + 1].x, vertices[i + 1].y);
	if (!closed) return b.open();
	b.arc(vertices[n - 1].bulge, vertices[0].x, vertices[0].y);
	return b.close(TOLERANCE.coincidence);
}

function oldPolyline(v: Values, vertices: readonly RawEntity[]): Drawn {
	const flags = v.number(70);
	// Meshes and nets of faces are no lines.
	if (flags & (16 | 64)) return 'unknown';
	const places = vertices.flatMap(({ groups }): Vertex[] => {
		const w = new Values(groups);
		// Control points of a fitted spline only steer it.
		return w.number(70) & 16 ? [] : [{ x: w.number(10), y: w.number(20), bulge: w.number(42) }];
	});
	return polyline(places, (flags & 1) !== 0);
}

/** An arc as bulges of at most half a circle each; a full turn is closed. */
function arc(v: Values, start: number, sweep: number): Path {
	const [cx, cy, radius] = [v.number(10), v.number(20), v.number(40)];
	const place = (a: number) => ({ x: cx + radius * Math.cos(a), y: cy + radius * Math.sin(a) });
	const full = Math.abs(sweep - FULL) < WHOLE;
	const parts = full ? 4 : sweep > Math.PI ? 2 : 1;
	const from = place(start);
	const b = new PathBuilder(from.x, from.y);
	for (let i = 1; i <= parts; i++) {
		const q = full && i === parts ? from : place(start + (sweep * i) / parts);
		b.arc(Math.tan(sweep / parts / 4), q.x, q.y);
	}
	return full ? b.close(TOLERANCE.coincidence) : b.open();
}

function ellipse(v: Values): Drawn {
	const [cx, cy, mx, my] = [v.number(10), v.number(20), v.number(11), v.number(21)];
	const rx = Math.hypot(mx, my);
	const ry = rx * Math.abs(v.number(40, 1));
	if (!(rx > 0 && ry > 0)) return 'nothing';
	// Seen from below it runs the other way round.
	const hand = v.number(230, 1) < 0 ? -1 : 1;
	const start = v.number(41, 0) % FULL;
	const sweep = sweepOf(start, v.number(42, FULL) % FULL);
	const turn = Math.atan2(my, mx);
	const place = (a: number) => {
		const [c, s] = [rx * Math.cos(a), hand * ry * Math.sin(a)];
		return {
			x: cx + c * Math.cos(turn) - s * Math.sin(turn),
			y: cy + c * Math.sin(turn) + s * Math.cos(turn)
		};
	};
	const from = place(start);
	const b = new PathBuilder(from.x, from.y);
	const parts = Math.max(1, Math.ceil(sweep / (Math.PI / 2) - WHOLE));
	const full = Math.abs(sweep - FULL) < WHOLE;
	for (let i = 1; i <= parts; i++) {
		const q = full && i === parts ? from : place(start + (sweep * i) / parts);
		addEllipticalArc(b, rx, ry, (turn * 180) / Math.PI, false, hand > 0, q.x, q.y, TOLERANCE.measure);
	}
	return full ? b.close(TOLERANCE.coincidence) : b.open();
}

function spline(v: Values): Drawn {
	const flags = v.number(70);
	const points = v.places(10);
	const fits = v.places(11);
	let path: Path | undefined;
	if (points.length) {
		const weights = v.all(41);
		path = splineToPath(
			{
				degree: v.number(71, 3),
				knots: v.all(40),
				points,
				weights: weights.length === points.length ? weights : undefined
			},
			TOLERANCE.fit
		);
	} else if (fits.length > 1) path = throughFits(v, fits, (flags & 1) !== 0);
	if (!path) return 'unknown';
	return isRound(path) && path.types.length > 0 ? closedAtSeam(path) : path;
}

/** A spline given by the places that it goes through, with its end directions where they are said. */
function throughFits(v: Values, fits: readonly Point[], closed: boolean): Path {
	const direction = (code: number): Point | undefined => {
		const d = { x: v.number(code), y: v.number(code + 10) };
		return v.text(code) !== undefined && Math.hypot(d.x, d.y) > 0 ? d : undefined;
	};
	const [first, last] = [fits[0], fits[fits.length - 1]];
	const meets = Math.hypot(first.x - last.x, first.y - last.y) <= TOLERANCE.coincidence;
	if (closed && fits.length > 3) return throughPoints(meets ? fits.slice(0, -1) : fits, { closed: true });
	return throughPoints(fits, { startDirection: direction(12), endDirection: direction(13) });
}

const isRound = ({ segs }: Path): boolean =>
	Math.hypot(segs[segs.length - 2] - segs[0], segs[segs.length - 1] - segs[1]) <= TOLERANCE.coincidence;
const closedAtSeam = (path: Path): Path =>
	new PathBuilder(path.segs[0], path.segs[1]).along(path).close(TOLERANCE.coincidence);

/**
 * What a machine does, move by move: one meaning for the planner, the files, their readers, the preview and the stand-ins.
 * Lengths are mm in machine coordinates (the sheet's lower left corner, z = 0 on the material, up), feeds mm/min.
 */
import { arcShape } from '../geometry/arc';
import type { Point } from '../geometry/point';

/** Not at a feed: as fast as the machine goes. */
export const RAPID = 0;
export const FEED = 1;

/** Packed moves, one after another; each begins where the one before ends. */
export interface Toolpath {
	/** Where the tool stands before the first move: x, y, z. */
	readonly start: readonly [number, number, number];
	/** RAPID or FEED. */
	readonly kinds: Uint8Array;
	/** x, y, z at the end of each. */
	readonly to: Float64Array;
	/** In the plane: 0 straight, else the tangent of a quarter of the arc's angle, positive anticlockwise; z goes evenly along. */
	readonly bulges: Float64Array;
	/** mm/min; 0 for rapids. */
	readonly feeds: Float64Array;
	/** 1 where the spindle turns, the beam is on, the knife or pen is down. */
	readonly on: Uint8Array;
	/** Which cut each belongs to; -1 on the way between. */
	readonly cuts: Int32Array;
}

/** Collects moves. Moves of no length are dropped. */
export class MovesBuilder {
	private kinds: number[] = [];
	private to: number[] = [];
	private bulges: number[] = [];
	private feeds: number[] = [];
	private on: number[] = [];
	private cuts: number[] = [];
	x: number;
	y: number;
	z: number;
	/** What the next moves belong to. */
	cut = -1;
	/** Whether the tool works while they go. */
	works = 0;

	constructor(readonly start: readonly [number, number, number]) {
		[this.x, this.y, this.z] = start;
	}
	get count(): number {
		return this.kinds.length;
	}
	private add(kind: number, x: number, y: number, z: number, bulge: number, feed: number): void {
		if (x === this.x && y === this.y && z === this.z) return;
		this.kinds.push(kind);
		this.to.push(x, y, z);
		this.bulges.push(bulge);
		this.feeds.push(feed);
		this.on.push(this.works);
		this.cuts.push(this.cut);
		this.x = x;
		this.y = y;
		this.z = z;
	}
	rapid(x: number, y: number, z = this.z): this {
		this.add(RAPID, x, y, z, 0, 0);
		return this;
	}
	straight(x: number, y: number, z: number, feed: number): this {
		this.add(FEED, x, y, z, 0, feed);
		return this;
	}
	arc(bulge: number, x: number, y: number, z: number, feed: number): this {
		this.add(FEED, x, y, z, bulge, feed);
		return this;
	}
	/** Up or down where it stands. */
	height(z: number, feed: number): this {
		return this.straight(this.x, this.y, z, feed);
	}
	moves(): Toolpath {
		return {
			start: this.start,
			kinds: Uint8Array.from(this.kinds),
			to: Float64Array.from(this.to),
			bulges: Float64Array.from(this.bulges),
			feeds: Float64Array.from(this.feeds),
			on: Uint8Array.from(this.on),
			cuts: Int32Array.from(this.cuts)
		};
	}
}

/** Where move `i` begins: its x, y, z written into `out`. */
export function moveStart(path: Toolpath, i: number, out: number[]): number[] {
	for (let k = 0; k < 3; k++) out[k] = i === 0 ? path.start[k] : path.to[3 * (i - 1) + k];
	return out;
}

const from = [0, 0, 0];

/** The length of a move in space, mm; an arc with z is a helix. */
export function moveLength(path: Toolpath, i: number): number {
	const [x, y, z] = moveStart(path, i, from);
	const k = 3 * i;
	const chord = Math.hypot(path.to[k] - x, path.to[k + 1] - y);
	const b = path.bulges[i];
	const plane = b === 0 ? chord : (chord * (1 + b * b) * Math.atan(Math.abs(b))) / Math.abs(b);
	return Math.hypot(plane, path.to[k + 2] - z);
}

/** The place a share (0 to 1) along a move. */
export function moveAt(path: Toolpath, i: number, share: number): Point & { readonly z: number } {
	const [x0, y0, z0] = moveStart(path, i, from);
	const k = 3 * i;
	const [x1, y1, z1] = [path.to[k], path.to[k + 1], path.to[k + 2]];
	const z = z0 + (z1 - z0) * share;
	const b = path.bulges[i];
	if (share >= 1) return { x: x1, y: y1, z: z1 };
	if (b === 0) return { x: x0 + (x1 - x0) * share, y: y0 + (y1 - y0) * share, z };
	const { cx, cy, radius, startRad, sweepRad } = arcShape(x0, y0, x1, y1, b);
	const a = startRad + sweepRad * share;
	return { x: cx + radius * Math.cos(a), y: cy + radius * Math.sin(a), z };
}

/** Several toolpaths as one, each going on from where it begins by a rapid of its own. */
export function joinMoves(paths: readonly Toolpath[]): Toolpath {
	const sum = paths.reduce((n, path) => n + path.kinds.length, 0);
	const out = {
		start: paths[0]?.start ?? ([0, 0, 0] as const),
		kinds: new Uint8Array(sum),
		to: new Float64Array(3 * sum),
		bulges: new Float64Array(sum),
		feeds: new Float64Array(sum),
		on: new Uint8Array(sum),
		cuts: new Int32Array(sum)
	};
	let at = 0;
	let cut = 0;
	for (const path of paths) {
		out.kinds.set(path.kinds, at);
		out.to.set(path.to, 3 * at);
		out.bulges.set(path.bulges, at);
		out.feeds.set(path.feeds, at);
		out.on.set(path.on, at);
		let most = -1;
		path.cuts.forEach((c, i) => {
			out.cuts[at + i] = c < 0 ? -1 : c + cut;
			most = Math.max(most, c);
		});
		cut += most + 1;
		at += path.kinds.length;
	}
	return out;
}

/** What a toolpath comes to: mm at a feed while the tool works, mm on the way in the plane. */
export function lengthsOf(path: Toolpath): { readonly cut: number; readonly travel: number } {
	let cut = 0;
	let travel = 0;
	for (let i = 0; i < path.kinds.length; i++) {
		if (path.kinds[i] === FEED) cut += moveLength(path, i);
		else {
			const [x, y] = moveStart(path, i, from);
			travel += Math.hypot(path.to[3 * i] - x, path.to[3 * i + 1] - y);
		}
	}
	return { cut, travel };
}

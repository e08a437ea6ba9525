/** What a round tool leaves: the corners that it cannot reach. */
import { flattenPath } from '../geometry/edge-tree';
import { polygonArea, turnAt } from '../geometry/measure';
import { STRIDE, type Path } from '../geometry/path';
import { directionAt } from '../geometry/segment';
import type { Way } from './compensate';
import { Running } from './running';

/** A corner that the tool leaves: its middle, its area in mm2, and its outline. */
export interface Uncut {
	readonly x: number;
	readonly y: number;
	readonly area: number;
	/** Index of the line. */
	readonly line: number;
	/** x,y pairs. */
	readonly outline: Float64Array;
}

/** mm2: less than this is no corner that anyone sees. */
const LEAST_AREA = 0.01;
/** Straights along the tool's edge. */
const EDGE_STEPS = 32;
/** Degrees of turn from which a joint of the way is a corner. */
const CORNER = 3;

/**
 * The corners that a tool of that radius leaves along a way: where the way turns a corner into the kept material, it touches the
 * line twice; what lies between the two touches and the tool's own edge stays.
 */
export function uncutAlong(way: Way, line: Path, radius: number, tolerance: number): Uncut[] {
	if (way.kept === 'none' || radius === 0) return [];
	const { path } = way;
	const n = path.types.length;
	const out: Uncut[] = [];
	let running: Running | undefined;
	for (let i = 0; i < n; i++) {
		// A corner into the kept side: the tool turns away from it.
		const turn = turnAt(path, i);
		if (way.kept === 'right' ? !(turn > CORNER) : !(turn < -CORNER)) continue;
		const p = (i + n - 1) % n;
		const [x, y] = [path.segs[STRIDE * i], path.segs[STRIDE * i + 1]];
		const before = directionAt(path.types[p], path.segs, STRIDE * p, 1);
		const after = directionAt(path.types[i], path.segs, STRIDE * i, 0);
		const toKept = way.kept === 'right' ? 1 : -1;
		const touch = (d: { x: number; y: number }) => ({
			x: x + toKept * radius * d.y,
			y: y - toKept * radius * d.x
		});
		const [a, b] = [touch(before), touch(after)];
		running ??= new Running(line);
		const [sa, sb] = [running.nearest(a.x, a.y), running.nearest(b.x, b.y)];
		const between = shorter(running, sa, sb, tolerance);
		if (!between) continue;
		const outline: number[] = [...between];
		// Back along the tool's edge.
		const [angleB, angleA] = [Math.atan2(b.y - y, b.x - x), Math.atan2(a.y - y, a.x - x)];
		let sweep = angleA - angleB;
		while (sweep > Math.PI) sweep -= 2 * Math.PI;
		while (sweep < -Math.PI) sweep += 2 * Math.PI;
		for (let k = 1; k < EDGE_STEPS; k++) {
			const at = angleB + (sweep * k) / EDGE_STEPS;
			outline.push(x + radius * Math.cos(at), y + radius * Math.sin(at));
		}
		const area = Math.abs(polygonArea(outline));
		if (!(area > LEAST_AREA)) continue;
		let mx = 0;
		let my = 0;
		for (let k = 0; k < between.length; k += 2) {
			mx += between[k];
			my += between[k + 1];
		}
		out.push({
			x: (2 * mx) / between.length,
			y: (2 * my) / between.length,
			area,
			line: way.line,
			outline: Float64Array.from(outline)
		});
	}
	return out;
}

/** The points of a line from one length to another, the shorter way round. */
function shorter(running: Running, from: number, to: number, tolerance: number): Float64Array | undefined {
	const { length, path } = running;
	const forward = path.closed ? (((to - from) % length) + length) % length : to - from;
	const isForward = path.closed ? forward <= length / 2 : forward >= 0;
	const [a, b] = isForward
		? [from, from + Math.abs(forward)]
		: [to, to + (path.closed ? length - forward : -forward)];
	if (!(b - a > 1e-9)) return undefined;
	const flat = flattenPath(running.part(a, b), tolerance / 2);
	if (isForward) return flat;
	const back = new Float64Array(flat.length);
	for (let k = 0; k < flat.length; k += 2) {
		back[k] = flat[flat.length - 2 - k];
		back[k + 1] = flat[flat.length - 1 - k];
	}
	return back;
}

/** Lines that two pieces share, cut once: of stretches of two ways that lie on each other only the first stays. */
import Flatbush from 'flatbush';
import { STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { stretchBetween } from '../geometry/join';
import { SHARED, type Way } from './compensate';

/** mm: shorter stretches stay. */
const LEAST = 0.5;

interface Straight {
	readonly way: number;
	readonly segment: number;
	readonly x0: number;
	readonly y0: number;
	readonly x1: number;
	readonly y1: number;
}

/** A stretch of a way, in segment + t. */
type Stretch = readonly [from: number, to: number];

/** The ways without what an earlier one cuts already; a way of which something goes becomes open parts. */
export function cutOnce(ways: readonly Way[]): Way[] {
	const straights = ways.flatMap(({ path }, way) => straightsOf(path, way));
	if (straights.length < 2) return [...ways];
	const index = new Flatbush(straights.length);
	for (const { x0, y0, x1, y1 } of straights)
		index.add(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1));
	index.finish();
	const gone: Stretch[][] = ways.map(() => []);
	for (const a of straights) {
		const found = index.search(
			Math.min(a.x0, a.x1) - SHARED,
			Math.min(a.y0, a.y1) - SHARED,
			Math.max(a.x0, a.x1) + SHARED,
			Math.max(a.y0, a.y1) + SHARED
		);
		for (const k of found) {
			const b = straights[k];
			if (b.way <= a.way) continue;
			const shared = sharedOf(a, b);
			if (shared) gone[b.way].push([b.segment + shared[0], b.segment + shared[1]]);
		}
	}
	return ways.flatMap((way, i) =>
		gone[i].length ? leftOf(way.path, gone[i]).map((path) => ({ ...way, path })) : [way]
	);
}

function straightsOf(path: Path, way: number): Straight[] {
	const out: Straight[] = [];
	for (let i = 0; i < path.types.length; i++) {
		if (path.types[i] !== STRAIGHT) continue;
		const at = STRIDE * i;
		const [x0, y0, x1, y1] = [path.segs[at], path.segs[at + 1], path.segs[at + 6], path.segs[at + 7]];
		if (Math.hypot(x1 - x0, y1 - y0) >= LEAST) out.push({ way, segment: i, x0, y0, x1, y1 });
	}
	return out;
}

/** Which part of the second straight lies on the first, as shares of it. */
function sharedOf(a: Straight, b: Straight): Stretch | undefined {
	const [dx, dy] = [a.x1 - a.x0, a.y1 - a.y0];
	const long = Math.hypot(dx, dy);
	const off = (x: number, y: number) => Math.abs((x - a.x0) * dy - (y - a.y0) * dx) / long;
	if (off(b.x0, b.y0) > SHARED || off(b.x1, b.y1) > SHARED) return undefined;
	const along = (x: number, y: number) => ((x - a.x0) * dx + (y - a.y0) * dy) / long;
	const [s0, s1] = [along(b.x0, b.y0), along(b.x1, b.y1)];
	const [from, to] = [Math.max(0, Math.min(s0, s1)), Math.min(long, Math.max(s0, s1))];
	if (to - from < LEAST) return undefined;
	const share = (s: number) => Math.min(1, Math.max(0, (s - s0) / (s1 - s0)));
	const [t0, t1] = [share(from), share(to)];
	return t0 < t1 ? [t0, t1] : [t1, t0];
}

/** What is left of a way, as open parts. */
function leftOf(path: Path, gone: readonly Stretch[]): Path[] {
	const sorted = [...gone].sort((a, b) => a[0] - b[0]);
	const merged: [number, number][] = [];
	for (const [from, to] of sorted) {
		const last = merged.at(-1);
		if (last && from <= last[1] + 1e-9) last[1] = Math.max(last[1], to);
		else merged.push([from, to]);
	}
	const n = path.types.length;
	const out: Path[] = [];
	const add = (from: number, to: number) => {
		if (to - from > 1e-9) out.push(stretchBetween(path, from, to));
	};
	merged.forEach(([, end], i) => {
		const next = merged[i + 1];
		if (next) add(end, next[0]);
		else if (path.closed) add(end, n + merged[0][0]);
		else {
			add(0, merged[0][0]);
			add(end, n);
		}
	});
	return out;
}

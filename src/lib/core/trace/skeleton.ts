/** The middle lines of an inked area, one pixel wide, as a network. */
import type { Point } from '../geometry/point';

/**
 * Thins an area until only its middle lines are left. Connected parts stay connected, holes stay.
 *
 * @param ink one byte a pixel, not 0 where there is ink; not changed.
 * @returns the same, thinned; the picture's outermost pixels count as paper.
 * Source: Zhang and Suen 1984, "A fast parallel algorithm for thinning digital patterns", CACM 27; with three neighbours at least
 * by Lu and Wang 1986, "A comment on" it, CACM 29, as else lines at 45 degrees are eaten up from their ends; with the last
 * staircase pixels taken out, so that a chain has exactly two neighbours at each of its inner pixels.
 */
export function* thin(ink: Uint8Array, widthPx: number, heightPx: number): Generator<number, Uint8Array> {
	const out = Uint8Array.from(ink, (v) => (v ? 1 : 0));
	for (let x = 0; x < widthPx; x++) out[x] = out[(heightPx - 1) * widthPx + x] = 0;
	for (let y = 0; y < heightPx; y++) out[y * widthPx] = out[(y + 1) * widthPx - 1] = 0;
	let list: number[] = [];
	for (let i = 0; i < out.length; i++) if (out[i]) list.push(i);
	// Neighbours clockwise from above.
	const around = [-widthPx, -widthPx + 1, 1, widthPx + 1, widthPx, widthPx - 1, -1, -widthPx - 1];
	const p = new Uint8Array(8);
	for (let round = 0; ; round++) {
		yield round;
		let removed = 0;
		for (const pass of [0, 1]) {
			const gone: number[] = [];
			for (const i of list) {
				let count = 0;
				for (let k = 0; k < 8; k++) count += p[k] = out[i + around[k]];
				if (count < 3 || count > 6) continue;
				let passages = 0;
				for (let k = 0; k < 8; k++) if (!p[k] && p[(k + 1) & 7]) passages++;
				if (passages !== 1) continue;
				const [n, , e, , s, , w] = p;
				if (pass === 0 ? n & e & s || e & s & w : n & e & w || n & s & w) continue;
				gone.push(i);
			}
			for (const i of gone) out[i] = 0;
			removed += gone.length;
			if (gone.length) list = list.filter((i) => out[i]);
		}
		if (removed === 0) break;
	}
	// Corners of stairs: a pixel whose going leaves its neighbours joined.
	for (const i of list) {
		for (let k = 0; k < 8; k++) p[k] = out[i + around[k]];
		const [n, ne, e, se, s, sw, w, nw] = p;
		const isStair =
			(n && e && !sw && !(nw || se ? nw && w : 0) && !s && !w) ||
			(e && s && !nw && !n && !w) ||
			(s && w && !ne && !n && !e) ||
			(w && n && !se && !s && !e);
		void ne;
		if (isStair) out[i] = 0;
	}
	return out;
}

export interface SkeletonChain {
	/** Pixels in order, as indices. */
	readonly pixels: readonly number[];
	readonly closed: boolean;
	/** Nodes at its ends, -1 for a ring. */
	readonly start: number;
	readonly end: number;
}

export interface Skeleton {
	readonly chains: readonly SkeletonChain[];
	/** x,y pairs, px, pixel centres; the mean of a cluster of pixels. */
	readonly nodes: readonly Point[];
}

/** Chains of a thinned picture between ends and forks. Pixels of a fork that touch are one node. */
export function skeletonNetwork(thinned: Uint8Array, widthPx: number, heightPx: number): Skeleton {
	const around = [-widthPx, -widthPx + 1, 1, widthPx + 1, widthPx, widthPx - 1, -1, -widthPx - 1];
	const n = widthPx * heightPx;
	const neighbours = (i: number): number[] => {
		const out: number[] = [];
		// Straight ones first; a diagonal one only where no straight one leads there.
		for (let k = 0; k < 8; k += 2) if (thinned[i + around[k]]) out.push(i + around[k]);
		for (let k = 1; k < 8; k += 2) {
			if (!thinned[i + around[k]]) continue;
			if (thinned[i + around[k - 1]] || thinned[i + around[(k + 1) & 7]]) continue;
			out.push(i + around[k]);
		}
		return out;
	};
	const nodeOf = new Int32Array(n).fill(-1);
	const nodes: Point[] = [];
	const isNode = (i: number) => neighbours(i).length !== 2;
	for (let i = 0; i < n; i++) {
		if (!thinned[i] || nodeOf[i] >= 0 || !isNode(i)) continue;
		const cluster = [i];
		nodeOf[i] = nodes.length;
		for (let k = 0; k < cluster.length; k++) {
			for (const j of neighbours(cluster[k])) {
				if (nodeOf[j] >= 0 || !isNode(j) || neighbours(j).length < 3 || neighbours(i).length < 3) continue;
				nodeOf[j] = nodes.length;
				cluster.push(j);
			}
		}
		nodes.push({
			x: cluster.reduce((s, j) => s + (j % widthPx), 0) / cluster.length + 0.5,
			y: cluster.reduce((s, j) => s + Math.floor(j / widthPx), 0) / cluster.length + 0.5
		});
	}
	const chains: SkeletonChain[] = [];
	const used = new Uint8Array(n);
	for (let i = 0; i < n; i++) {
		if (nodeOf[i] < 0) continue;
		for (const first of neighbours(i)) {
			if (nodeOf[first] >= 0) {
				if (nodeOf[first] > nodeOf[i])
					chains.push({ pixels: [i, first], closed: false, start: nodeOf[i], end: nodeOf[first] });
				continue;
			}
			if (used[first]) continue;
			const pixels = [i];
			let before = i;
			let at = first;
			for (;;) {
				pixels.push(at);
				if (nodeOf[at] >= 0) break;
				used[at] = 1;
				const next = neighbours(at).find((j) => j !== before && (nodeOf[j] >= 0 || !used[j]));
				if (next === undefined) break;
				before = at;
				at = next;
			}
			chains.push({ pixels, closed: false, start: nodeOf[i], end: nodeOf[at] });
		}
	}
	for (let i = 0; i < n; i++) {
		if (!thinned[i] || nodeOf[i] >= 0 || used[i]) continue;
		const pixels: number[] = [];
		let at: number | undefined = i;
		while (at !== undefined) {
			pixels.push(at);
			used[at] = 1;
			at = neighbours(at).find((j) => !used[j]);
		}
		if (pixels.length >= 6) chains.push({ pixels, closed: true, start: -1, end: -1 });
	}
	return { chains, nodes };
}

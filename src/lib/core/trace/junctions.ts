/** Places where several chains of a network meet. */
import type { Point } from '../geometry/point';
import { chainEnd, type Plan } from './contour-fit';
import type { Ray } from './curves';
import { solve2 } from '../linear/small';

/**
 * Where the junctions stand: as near as can be to all chains that come in, prolonged.
 * @param most px: how far from where it was first seen a junction may move.
 */
export function settle(
	junctions: Float64Array,
	chains: readonly { readonly closed: boolean; readonly start: number; readonly end: number }[],
	plans: readonly (Plan | undefined)[],
	most = 2
): Point[] {
	const rays: Ray[][] = Array.from({ length: junctions.length / 2 }, () => []);
	chains.forEach((chain, i) => {
		const plan = plans[i];
		if (chain.closed || !plan) return;
		rays[chain.start].push(chainEnd(plan, 'start'));
		rays[chain.end].push(chainEnd(plan, 'end'));
	});
	return rays.map((list, j) => {
		const x = junctions[2 * j];
		const y = junctions[2 * j + 1];
		// The pixel corner itself is known to half a pixel: little weight.
		let a = 5e-4;
		let b = 0;
		let c = 5e-4;
		let p = 0;
		let q = 0;
		for (const ray of list) {
			const nx = -ray.ty;
			const ny = ray.tx;
			const off = (ray.x - x) * nx + (ray.y - y) * ny;
			a += nx * nx;
			b += nx * ny;
			c += ny * ny;
			p += off * nx;
			q += off * ny;
		}
		const move = solve2(a, b, c, p, q);
		if (!move) return { x, y };
		const at = { x: x + move[0], y: y + move[1] };
		const far = Math.hypot(...move);
		if (far <= most) return at;
		// The tip of a sliver is lost among mixtures; where all borders agree on it, it is there.
		const off = list.map((r) => Math.abs((at.x - r.x) * r.ty - (at.y - r.y) * r.tx));
		return far <= 10 && list.length >= 3 && Math.max(...off) < 0.3 ? at : { x, y };
	});
}

/**
 * The junctions of some chains go back to where they were found.
 * @param places where junctions stand; changed.
 * @returns the chains, and all others that end in one of these junctions.
 */
export function backToFound(
	some: readonly number[],
	chains: readonly { readonly closed: boolean; readonly start: number; readonly end: number }[],
	places: Point[],
	found: (junction: number) => Point
): Set<number> {
	const back = new Set(some.flatMap((i) => (chains[i].closed ? [] : [chains[i].start, chains[i].end])));
	for (const k of back) places[k] = found(k);
	const all = new Set(some);
	chains.forEach(({ start, end }, i) => {
		if (back.has(start) || back.has(end)) all.add(i);
	});
	return all;
}

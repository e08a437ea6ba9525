/** Borders between flat colours, settled on the pixels: those that meet in junctions together. */
import type { Point } from '../geometry/point';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import type { Path } from '../geometry/path';
import { tangledSteps } from '../plane/crossings';
import { within } from '../progress';
import type { Chain } from './borders';
import type { ContourFitOptions } from './contour-fit';
import { likeliest } from './likeliest/likeliest';
import { moveJunctions, pathsOf, type Net } from './likeliest/net';
import { tones, type Shown } from './likeliest/tones';
import { mostAstray } from './edge-measures';

/** Borders as they are drawn, px: a path for each chain, a place for each junction. */
interface Borders {
	readonly drawn: Path[];
	readonly places: Point[];
}

/**
 * The likeliest borders by the pixels, written over what was drawn. Where they would be drawn away from their own edge points what was
 * drawn stays; where they cross, junctions that stand side by side are taken for one.
 * @param shown the grounds are the chains' labels.
 * @returns puts a chain back as it was drawn, with all that hang together with it.
 */
export function* settleBorders(
	borders: Borders,
	chains: readonly Chain[],
	shown: Shown,
	{ fit, mayChange }: { readonly fit: ContourFitOptions; readonly mayChange: boolean }
): Generator<number, (chain: number) => void> {
	const { drawn, places } = borders;
	const first: Borders = { drawn: [...drawn], places: [...places] };
	const groups = meeting(chains);
	const groupOf = new Int32Array(chains.length);
	groups.forEach((group, i) => group.forEach((k) => (groupOf[k] = i)));
	const witness = tones(shown);
	const pointsOf = (group: readonly number[]) =>
		group.reduce((sum, k) => sum + chains[k].points.length / 2, 0);
	const isFew = pointsOf([...chains.keys()]) <= SETTLED;
	const asking = { mayChange, oneIn: 1 };
	const putBack = (group: readonly number[]) => {
		for (const k of group) {
			drawn[k] = first.drawn[k];
			for (const j of [chains[k].start, chains[k].end]) if (j >= 0) places[j] = first.places[j];
		}
	};
	for (const [i, group] of groups.entries())
		yield* within(settle(group, asOne(group, NO_BORDER)), () => i / groups.length);
	const tangled = yield* within(tangledSteps(drawn), () => 1);
	const bad = new Set(Array.from(tangled, (k) => groupOf[k]));
	for (const [i, group] of groups.entries()) {
		const none = asOne(group, bad.has(i) ? SIDE_BY_SIDE : NO_BORDER);
		// Where all of them are none already nothing new would come of it.
		if (none.every((k) => drawn[k].types.length === 0)) continue;
		if (bad.has(i)) putBack(group);
		yield* within(settle(group, none), () => 1);
	}
	return (k) => putBack(groups[groupOf[k]]);

	/** Borders of a group between junctions that have come to stand side by side. */
	function asOne(group: readonly number[], apart: number): number[] {
		return group.filter((k) => {
			const { start, end } = chains[k];
			if (start < 0 || start === end) return false;
			return Math.hypot(places[start].x - places[end].x, places[start].y - places[end].y) < apart;
		});
	}

	/** px: how far the edge points of some chains lie from paths beyond what they may, added up. */
	function astray(paths: readonly Path[], own: readonly number[]): number {
		const tree = new EdgeTree(paths.map((p) => ({ points: flattenPath(p, 0.01), closed: p.closed })));
		const most = mostAstray(fit);
		let sum = 0;
		for (const k of own) {
			const { points } = chains[k];
			for (let i = 0; i < points.length; i += 2)
				sum += Math.max(0, tree.distance(points[i], points[i + 1]) - most);
		}
		return sum;
	}

	function* settle(group: readonly number[], none: readonly number[]): Generator<void, void> {
		const stands = new Map<number, number>();
		const standsAt = (j: number): number => {
			const next = stands.get(j);
			return next === undefined ? j : standsAt(next);
		};
		for (const k of none) {
			const [a, b] = [standsAt(chains[k].start), standsAt(chains[k].end)];
			if (a !== b) stands.set(a, b);
		}
		const own = group.filter((k) => drawn[k].types.length > 0 && !none.includes(k));
		const net = netOf(own, standsAt);
		const settled = isFew && pointsOf(group) <= SETTLED_NET ? yield* likeliest(net, witness, asking) : net;
		if (settled === net && none.length === 0) return;
		const paths = pathsOf(settled);
		const before = own.map((k) => drawn[k]);
		// Beside junctions edge points stray themselves; a border that is none lies along others.
		const most = 1.5 * astray(before, own) + ASTRAY;
		if (astray(paths, own) > most || astray(paths, none) > most) return;
		const now = new Map<number, Point>();
		own.forEach((k, at) => {
			const { segs } = (drawn[k] = paths[at]);
			const { start, end } = chains[k];
			if (start >= 0) now.set(standsAt(start), { x: segs[0], y: segs[1] });
			if (end >= 0) now.set(standsAt(end), { x: segs[segs.length - 2], y: segs[segs.length - 1] });
		});
		for (const k of none) drawn[k] = NOTHING;
		for (const k of group)
			for (const j of [chains[k].start, chains[k].end])
				if (j >= 0) places[j] = now.get(standsAt(j)) ?? places[j];
	}

	function netOf(own: readonly number[], standsAt: (j: number) => number): Net {
		const end = (j: number) => (j < 0 ? j : standsAt(j));
		const net = {
			types: Uint8Array.from(own.flatMap((k) => [...drawn[k].types])),
			segs: Float64Array.from(own.flatMap((k) => [...drawn[k].segs])),
			lines: own.map((k) => {
				const { start, end: last, left, right } = chains[k];
				return { start: end(start), end: end(last), left, right, count: drawn[k].types.length };
			})
		};
		moveJunctions(net, (j) => places[j]);
		return net;
	}
}
/** Edge points of all borders, and of those that hang together, up to which they are settled: beyond, that would take too long. */
const SETTLED = 60_000;
const SETTLED_NET = 25_000;
/** px: junctions that are one; and that may be where borders cross. */
const NO_BORDER = 0.3;
const SIDE_BY_SIDE = 4;
/** px: so much more edge points may stray in all. */
const ASTRAY = 10;
/** A border that is none. */
const NOTHING: Path = { closed: false, types: new Uint8Array(0), segs: new Float64Array(0) };

/** The chains that hang together by junctions, in groups. */
function meeting(chains: readonly Chain[]): number[][] {
	const atJunction = new Map<number, number[]>();
	chains.forEach(({ start, end }, k) => {
		for (const j of [start, end]) if (j >= 0) atJunction.set(j, [...(atJunction.get(j) ?? []), k]);
	});
	const seen = new Uint8Array(chains.length);
	const groups: number[][] = [];
	for (let first = 0; first < chains.length; first++) {
		if (seen[first]) continue;
		seen[first] = 1;
		const group = [first];
		for (const k of group)
			for (const j of [chains[k].start, chains[k].end])
				for (const other of atJunction.get(j) ?? []) {
					if (seen[other]) continue;
					seen[other] = 1;
					group.push(other);
				}
		groups.push(group.sort((a, b) => a - b));
	}
	return groups;
}

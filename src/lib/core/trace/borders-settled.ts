/** Borders between flat colours, settled on the pixels: those that meet in junctions together. */
import type { Point } from '../geometry/point';
import type { Path } from '../geometry/path';
import { finish, within } from '../progress';
import type { Chain } from './borders';
import type { ContourFitOptions } from './contour-fit';
import { likeliest } from './likeliest/likeliest';
import { pathsOf, type Net } from './likeliest/net';
import { tones, type Shown } from './likeliest/tones';
import { edgeDistance, mostAstray } from './trace';

/**
 * The likeliest borders by the pixels; those stay that would be drawn away from their own edge points.
 * @param drawn the path of each chain, px; settled ones are written over.
 * @param places of the junctions; where they come to stand is written over.
 * @param shown the grounds are the chains' labels.
 */
export function* settleBorders(
	drawn: Path[],
	chains: readonly Chain[],
	places: Point[],
	shown: Shown,
	{ fit, mayChange }: { readonly fit: ContourFitOptions; readonly mayChange: boolean }
): Generator<number, void> {
	const witness = tones(shown);
	const groups = meeting(chains);
	for (const [i, group] of groups.entries()) {
		yield i / groups.length;
		const own = group.filter((k) => drawn[k].types.length > 0);
		const net = netOf(own, drawn, chains);
		const settled = yield* within(likeliest(net, witness, mayChange), () => i / groups.length);
		if (settled === net) continue;
		const paths = pathsOf(settled);
		const edges = own.map((k) => chains[k]);
		const worst = (list: Path[]) => finish(edgeDistance(list, edges)).worst;
		// Beside junctions edge points stray themselves.
		if (worst(paths) > worst(own.map((k) => drawn[k])) + mostAstray(fit)) continue;
		own.forEach((k, at) => {
			drawn[k] = paths[at];
			const { start, end } = chains[k];
			const { segs } = paths[at];
			if (start >= 0) places[start] = { x: segs[0], y: segs[1] };
			if (end >= 0) places[end] = { x: segs[segs.length - 2], y: segs[segs.length - 1] };
		});
	}
}

function netOf(own: readonly number[], drawn: readonly Path[], chains: readonly Chain[]): Net {
	return {
		types: Uint8Array.from(own.flatMap((k) => [...drawn[k].types])),
		segs: Float64Array.from(own.flatMap((k) => [...drawn[k].segs])),
		lines: own.map((k) => ({ ...chains[k], count: drawn[k].types.length }))
	};
}

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

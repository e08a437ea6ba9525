/** How edges last: which edge of a changed line is which of the line before. */

/** What is said of an edge beside where it is. Lengths in mm. */
export interface EdgeFacts {
	/** The corner that it leaves in the direction of travel (or the seam of a line without one). */
	readonly at: number;
	readonly id: number;
	readonly name?: string;
	/** How wide its allowance is; at its start, where it is another at its end. */
	readonly width?: number;
	readonly widthEnd?: number;
}

/** An edge as its anchors, from corner to corner, both included. */
export interface EdgeAnchors {
	readonly id: number;
	readonly anchors: readonly number[];
	readonly name?: string;
	readonly width?: number;
	readonly widthEnd?: number;
}

/** What is said of an edge beside where it is: of those fields that are there; turned round, its widths change places. */
export function saidOf(
	{ name, width, widthEnd }: Pick<EdgeFacts, 'name' | 'width' | 'widthEnd'>,
	isFlipped = false
): Pick<EdgeFacts, 'name' | 'width' | 'widthEnd'> {
	const [first, last] = isFlipped && widthEnd !== undefined ? [widthEnd, width] : [width, widthEnd];
	return {
		...(name !== undefined ? { name } : {}),
		...(first !== undefined ? { width: first } : {}),
		...(last !== undefined ? { widthEnd: last } : {})
	};
}

/** The edges of a line as runs of anchors: from corner to corner, in order; on a closed line without one from its seam round. */
export function edgeRuns(
	anchors: ArrayLike<number>,
	closed: boolean,
	isCorner: (i: number) => boolean
): number[][] {
	const n = anchors.length;
	if (n < 2) return [];
	const stops: number[] = [];
	for (let i = 0; i < n; i++) if ((!closed && (i === 0 || i === n - 1)) || isCorner(i)) stops.push(i);
	if (closed && stops.length === 0) stops.push(0);
	const runs: number[][] = [];
	const last = closed ? stops.length : stops.length - 1;
	for (let k = 0; k < last; k++) {
		const from = stops[k];
		const to = k + 1 < stops.length ? stops[k + 1] : stops[0] + n;
		runs.push(Array.from({ length: to - from + 1 }, (_, j) => anchors[(from + j) % n]));
	}
	return runs;
}

/**
 * Names the edges of a changed line. The laws: an edge whose corners stay keeps its id, also when the line is flipped; when
 * a corner goes, the two beside it are one, with the older (smaller) id; when one comes, the part that keeps the start keeps
 * the id and the other is new.
 *
 * @param before the edges as they were.
 * @param runs the edges of the line as it is, as anchors.
 * @param fresh gives an id that nothing has had.
 */
export function keptEdges(
	before: readonly EdgeAnchors[],
	runs: readonly (readonly number[])[],
	fresh: () => number
): EdgeFacts[] {
	const isFlipped = runsBack(
		before.flatMap((edge) => edge.anchors.slice(1)),
		runs.flatMap((run) => run.slice(1))
	);
	// Where each anchor stands: the edges that it begins, ends, or lies within.
	const starts = new Map<number, number>();
	const ends = new Map<number, number>();
	const within = new Map<number, number>();
	runs.forEach((run, k) => {
		starts.set(run[0], k);
		ends.set(run[run.length - 1], k);
		for (const anchor of run.slice(1, -1)) within.set(anchor, k);
	});
	const [leaving, arriving] = isFlipped ? [ends, starts] : [starts, ends];
	const claims: EdgeAnchors[][] = runs.map(() => []);
	for (const edge of before) {
		const first = edge.anchors.find((a) => within.has(a) || starts.has(a) || ends.has(a));
		if (first === undefined) continue;
		// Its start stays: the edge that leaves there. Its start is gone: the one that comes to the first anchor that stays.
		const side = first === edge.anchors[0] ? leaving : arriving;
		const k = within.get(first) ?? side.get(first);
		if (k !== undefined) claims[k].push(edge);
	}
	const used = new Set<number>();
	const out = runs.map((run, k): EdgeFacts | undefined => {
		const winner = claims[k].reduce<EdgeAnchors | undefined>((a, b) => (a && a.id < b.id ? a : b), undefined);
		if (!winner) return undefined;
		used.add(winner.id);
		return { at: run[0], id: winner.id, ...saidOf(winner, isFlipped) };
	});
	return runs.map((run, k) => out[k] ?? { at: run[0], id: used.has(run[0]) ? fresh() : run[0] });
}

/** Whether the anchors that are on both lines come in the opposite order on the new one. */
function runsBack(before: readonly number[], after: readonly number[]): boolean {
	const at = new Map(after.map((anchor, i) => [anchor, i]));
	const kept = before.filter((anchor) => at.has(anchor));
	let forward = 0;
	for (let i = 0; i < kept.length; i++) {
		const step = at.get(kept[(i + 1) % kept.length])! - at.get(kept[i])!;
		const ahead = (step + after.length) % after.length;
		forward += ahead <= after.length / 2 ? 1 : -1;
	}
	return forward < 0;
}

/** The edges of an outline, from corner to corner: things of their own, with ids that last. */
import { CoreError } from '../errors';
import { segmentLength } from '../geometry/segment';
import { STRIDE } from '../geometry/path';
import { edgeRuns, keptEdges, saidOf, type EdgeAnchors, type EdgeFacts } from './edges-kept';
import { MARK_STRIDE, sourceLine, type Outline } from './outline';

/** A stretch from corner to corner, of the line before its corners are rounded. */
export interface Edge extends EdgeAnchors {
	/** The segment of the source line that it begins with, and how many it has. */
	readonly first: number;
	readonly count: number;
}

const known = new WeakMap<Outline, readonly Edge[]>();

const runsOf = (outline: Outline): number[][] =>
	edgeRuns(outline.anchors, outline.closed, (i) => outline.marks[MARK_STRIDE * i] === 0);

/**
 * The edges in order along the line. A corner is an anchor of that kind; without one the whole line is one edge, from its
 * seam round; with one it is one from it to itself.
 */
export function edgesOf(outline: Outline): readonly Edge[] {
	let list = known.get(outline);
	if (!list) {
		const facts = new Map((outline.edges ?? []).map((f) => [f.at, f]));
		const place = new Map(Array.from(outline.anchors, (id, i) => [id, i]));
		list = runsOf(outline).map((anchors): Edge => {
			const own = facts.get(anchors[0]);
			return {
				id: own?.id ?? anchors[0],
				...(own ? saidOf(own) : {}),
				anchors,
				first: place.get(anchors[0])!,
				count: anchors.length - 1
			};
		});
		known.set(outline, list);
	}
	return list;
}

/** The edge that a segment of the source line belongs to. */
export function edgeAt(outline: Outline, segment: number): Edge | undefined {
	const n = outline.anchors.length;
	return edgesOf(outline).find((edge) => (segment - edge.first + n) % n < edge.count);
}

/** mm along an edge. */
export function edgeLength(outline: Outline, edge: Edge): number {
	const { types, segs } = sourceLine(outline);
	let sum = 0;
	for (let k = 0; k < edge.count; k++) {
		const i = (edge.first + k) % types.length;
		sum += segmentLength(types[i], segs, STRIDE * i);
	}
	return sum;
}

/**
 * The outline with something said of one of its edges; undefined takes it back.
 * @throws CoreError `gone`, `bad-width`
 */
export function withEdge(
	outline: Outline,
	id: number,
	said: {
		readonly name?: string | undefined;
		readonly width?: number | undefined;
		readonly widthEnd?: number | undefined;
	}
): Outline {
	const edges = edgesOf(outline);
	if (!edges.some((e) => e.id === id)) throw new CoreError('gone', 'This edge is no longer there.');
	if (!((said.width ?? 0) >= 0 && (said.widthEnd ?? 0) >= 0))
		throw new CoreError('bad-width', 'An allowance must be 0 mm or more.');
	return withFacts(
		outline,
		edges.map((edge) => (edge.id === id ? { ...factsOf(edge), ...said } : factsOf(edge)))
	);
}

const factsOf = (edge: EdgeAnchors): EdgeFacts => ({
	at: edge.anchors[0],
	id: edge.id,
	...saidOf(edge)
});

/** Only what is more than the usual is kept: an edge without a name or width has the id of the corner it leaves. */
function withFacts(outline: Outline, facts: readonly EdgeFacts[]): Outline {
	const kept = facts
		// Without a width at its start there is none at its end either.
		.map((f) => ({ at: f.at, id: f.id, ...saidOf(f.width === undefined ? { name: f.name } : f) }))
		.filter((f) => f.id !== f.at || f.name !== undefined || f.width !== undefined);
	const { edges, ...rest } = outline;
	if (kept.length === 0) return edges ? rest : outline;
	if (edges && JSON.stringify(edges) === JSON.stringify(kept)) return outline;
	return { ...rest, edges: kept };
}

/** Whether two outlines have the same corners in the same order, so that their edges are the same. */
function sameCorners(a: Outline, b: Outline): boolean {
	if (a.closed !== b.closed || a.edges !== b.edges) return false;
	if (a.anchors === b.anchors && a.marks === b.marks) return true;
	const corners = (o: Outline) => runsOf(o).map((run) => `${run[0]} ${run[run.length - 1]}`);
	return corners(a).join() === corners(b).join();
}

/** The changed outline, its edges named by what they were before. */
export function withKeptEdges(before: Outline, after: Outline): Outline {
	// What was said of its edges by the change itself stands.
	if (before.edges !== after.edges && before.anchors === after.anchors && before.marks === after.marks)
		return after;
	if (sameCorners(before, after)) return after;
	let next = after.nextAnchor;
	const facts = keptEdges(edgesOf(before), runsOf(after), () => next++);
	const named = withFacts(after, facts);
	return next === after.nextAnchor ? named : { ...named, nextAnchor: next };
}

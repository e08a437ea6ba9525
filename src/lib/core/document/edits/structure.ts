/** Edits of the structure: combining, joining, breaking outlines. Name, layer and colour come from the first source. */
import type { CombinedPiece } from '../../plane/area';
import { breakAt, type Joined, type Place } from '../../geometry/join';
import { CUBIC, PathBuilder, reversePath, STRIDE, type Path } from '../../geometry/path';
import { freeName, nextRank, type Drawing } from '../drawing';
import type { Edit } from '../history';
import { flow } from './anchors';
import { find, type MeetSide } from './meet';
import { removeOutlines, type NewId } from './operations';
import {
	isClosed,
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	closed,
	kindOf,
	MARK_STRIDE,
	allRounds,
	lineOf,
	outlineFromPath,
	replaceLine,
	sourceLine,
	sortedLike,
	type Outline
} from '../outline';

/** What becomes of the outlines that something new was made of. */
export type SourceFate = 'removed' | 'hidden' | 'guides' | 'kept';

/** Sources that stay beside what was made of them. */
export const stayAs = (sources: readonly Outline[], fate: SourceFate): Outline[] =>
	fate === 'hidden'
		? sources.map((o) => ({ ...o, hidden: true }))
		: fate === 'guides'
			? sources.map((o) => ({ ...o, purpose: 'guide' }))
			: [];

/** New outlines named after a source, on its layer, in its colour and for its purpose. */
function newLike(drawing: Drawing, source: Outline, paths: readonly Path[], newId: NewId): Outline[] {
	let rank = nextRank(drawing);
	let at = drawing;
	return paths.map((path) => {
		const facts = {
			id: newId(),
			name: freeName(at, source.name),
			layer: source.layer,
			rank: rank++,
			...sortedLike(source)
		};
		const like = outlineFromPath(path, facts);
		const outline = withRoundsOf(source, source.dashes ? { ...like, dashes: source.dashes } : like);
		at = { ...at, records: new Map(at.records).set(outline.id, outline) };
		return outline;
	});
}

/** A new outline with the rounded corners of a source whose anchors it has. */
function withRoundsOf(source: Outline, outline: Outline): Outline {
	if (allRounds(source).length === 0) return outline;
	return { ...replaceLine(outline, lineOf(outline), { sources: [outline, source] }), id: outline.id };
}

/**
 * The pieces of a combination; the sources are removed, hidden (and so not cut twice) or kept. Each line has name, layer and
 * colour of the source that most of its anchors come from, and takes its record where the sources are removed: what follows it
 * goes on following.
 */
export function combineOutlines(
	drawing: Drawing,
	sources: readonly Outline[],
	pieces: readonly CombinedPiece[],
	fate: SourceFate,
	newId: NewId
): Edit {
	const paths = pieces.flatMap((piece) => piece.paths);
	const owners = ownersOf(sources, paths);
	const put: Outline[] = [];
	const taken = new Set<string>();
	const rest: { path: Path; source: Outline }[] = [];
	paths.forEach((path, i) => {
		const source = owners[i].most;
		if (fate !== 'removed' || taken.has(source.id)) {
			rest.push({ path, source });
			return;
		}
		taken.add(source.id);
		put.push(replaceLine(source, path, { sources: [source, ...sources.filter((o) => o !== source)] }));
	});
	const gone =
		fate === 'removed'
			? (removeOutlines(drawing, new Set(sources.flatMap((o) => (taken.has(o.id) ? [] : [o.id])))).remove ??
				[])
			: [];
	// Names of what is removed are free again.
	const records = new Map(drawing.records);
	for (const id of gone) records.delete(id);
	let at: Drawing = { ...drawing, records };
	for (const { path, source } of rest) {
		const [outline] = newLike(at, source, [path], newId);
		at = { ...at, records: new Map(at.records).set(outline.id, outline) };
		put.push(outline);
	}
	put.push(...stayAs(sources, fate));
	return { put, remove: gone };
}

/** Whether lines of different layers or colours became one. */
export const isMixed = (sources: readonly Outline[], pieces: readonly CombinedPiece[]): boolean =>
	ownersOf(
		sources,
		pieces.flatMap((piece) => piece.paths)
	).some(({ all }) => new Set(all.map((o) => `${o.layer} ${o.colour ?? ''} ${o.purpose ?? ''}`)).size > 1);

/** mm: an anchor that came through lies where it lay. */
const SAME_PLACE = 1e-6;

/** For each path the source that most of its anchors come from (the first where none does), and all that gave some. */
function ownersOf(
	sources: readonly Outline[],
	paths: readonly Path[]
): { readonly most: Outline; readonly all: readonly Outline[] }[] {
	const key = (x: number, y: number) => `${Math.round(x / SAME_PLACE)} ${Math.round(y / SAME_PLACE)}`;
	const from = new Map<string, Outline>();
	for (const source of [...sources].reverse()) {
		const { segs, types } = lineOf(source);
		for (let i = 0; i < types.length; i++) from.set(key(segs[STRIDE * i], segs[STRIDE * i + 1]), source);
	}
	return paths.map(({ segs, types }) => {
		const counts = new Map<Outline, number>();
		for (let i = 0; i < types.length; i++) {
			const source = from.get(key(segs[STRIDE * i], segs[STRIDE * i + 1]));
			if (source) counts.set(source, (counts.get(source) ?? 0) + 1);
		}
		let most = sources[0];
		for (const source of sources) if ((counts.get(source) ?? 0) > (counts.get(most) ?? 0)) most = source;
		return { most, all: [...counts.keys()] };
	});
}

const isFlowing = (outline: Outline, i: number): boolean => kindOf(outline, i) === 'flowing';

/** The outline closed (as `closed` does it); where both its ends flow, the line flows on through them. */
export function closeOutline(outline: Outline, within?: number): Outline {
	const last = outline.anchors.length - 1;
	const made = closed(outline, within);
	if (outline.closed || last < 2 || !isFlowing(outline, 0) || !isFlowing(outline, last)) return made;
	const marks = made.marks.slice();
	// Closed by a line of its own it is a curve, else what lies between two flowing anchors would be a straight.
	if (made.anchors.length > last) marks[MARK_STRIDE * last + 1] = CUBIC;
	marks[0] = ANCHOR_KINDS.indexOf('flowing');
	return flow({ ...made, marks });
}

/** Where two ends that flow came together, the line flows on: mm within which they do. */
function flowingThrough(joined: Outline, sources: readonly Outline[], within: number): Outline {
	const ends = sources
		.filter((o) => !isClosed(o) && o.anchors.length > 1)
		.flatMap((o) =>
			[0, o.anchors.length - 1].map((i) => ({
				o,
				i,
				x: o.points[ANCHOR_STRIDE * i],
				y: o.points[ANCHOR_STRIDE * i + 1]
			}))
		);
	const marks = joined.marks.slice();
	let isChanged = false;
	for (let i = 0; i < joined.anchors.length; i++) {
		if (!joined.closed && (i === 0 || i === joined.anchors.length - 1)) continue;
		const [x, y] = joined.points.subarray(ANCHOR_STRIDE * i, ANCHOR_STRIDE * i + 2);
		const here = ends.filter((end) => Math.hypot(end.x - x, end.y - y) <= within + SAME_PLACE);
		if (here.length < 2 || !here.every((end) => isFlowing(end.o, end.i))) continue;
		marks[MARK_STRIDE * i] = ANCHOR_KINDS.indexOf('flowing');
		isChanged = true;
	}
	return isChanged ? flow({ ...joined, marks }) : joined;
}

/** A line so that it ends at the part. */
function runTo(outlines: readonly Outline[], part: MeetSide): Path {
	const path = lineOf(find(outlines, part));
	return part.side === 'in' ? path : reversePath(path);
}

/**
 * Two lines as one outline from end to end, or one line closed on itself, with a line `between` where the ends lie apart. It keeps
 * the record of the first and the way it runs; where two ends that flow meet, it flows on.
 */
export function chainedAt(
	drawing: Drawing,
	outlines: readonly Outline[],
	first: MeetSide,
	second: MeetSide,
	between?: Path
): Edit {
	const [own, other] = [find(outlines, first), find(outlines, second)];
	const isForward = first.side === 'in';
	const [before, after] = isForward ? [first, second] : [second, first];
	const run = runTo(outlines, before);
	const builder = new PathBuilder(run.segs[0], run.segs[1]).along(run);
	if (between) builder.along(isForward ? between : reversePath(between));
	if (own === other) return { put: [flowingThrough(replaceLine(own, builder.close()), [own], 0)] };
	const path = builder.along(reversePath(runTo(outlines, after))).open();
	const made = replaceLine(own, path, { sources: [own, other] });
	return {
		put: [flowingThrough(made, [own, other], 0)],
		remove: removeOutlines(drawing, new Set([other.id])).remove
	};
}

/** What lines become when they are joined to a path, their ends moved by `drift` mm at most. */
export const joinedOutline = (list: readonly Outline[], path: Path, drift: number): Outline =>
	list.length === 1 && lineOf(list[0]) === path
		? list[0]
		: flowingThrough(replaceLine(list[0], path, { sources: list }), list, drift);

/**
 * Joined lines: each takes the record of the first line that it was made of; the others go. Where two ends that flow meet, the
 * line flows on through them.
 */
export function joinOutlines(drawing: Drawing, sources: readonly Outline[], joined: Joined): Edit {
	const put: Outline[] = [];
	const gone = new Set<string>();
	joined.paths.forEach((path, i) => {
		const list = joined.from[i].map((k) => sources[k]);
		const outline = joinedOutline(list, path, joined.drift);
		if (outline === list[0]) return;
		put.push(outline);
		for (const other of list.slice(1)) gone.add(other.id);
	});
	return { put, remove: removeOutlines(drawing, gone).remove };
}

/** An outline replaced by what is left of it: the first part keeps its record, further ones are new; none: it goes. */
export function replaceBy(drawing: Drawing, outline: Outline, paths: readonly Path[], newId: NewId): Edit {
	if (paths.length === 0) return removeOutlines(drawing, new Set([outline.id]));
	const [first, ...rest] = paths;
	return {
		put: [replaceLine(outline, first), ...newLike(drawing, outline, rest, newId)]
	};
}

/** An outline cut at places: one cut opens a closed one, n cuts make n parts of it, n + 1 of an open one. */
export function breakOutline(
	drawing: Drawing,
	outline: Outline,
	places: readonly Place[],
	newId: NewId
): { edit: Edit; parts: number } {
	const parts = breakAt(sourceLine(outline), places);
	return { edit: replaceBy(drawing, outline, parts, newId), parts: parts.length };
}

/** Edits of the structure: combining, joining, breaking outlines. Name, layer and colour come from the first source. */
import type { CombinedPiece } from '../../plane/area';
import { breakAt, type Joined, type Place } from '../../geometry/join';
import type { Path } from '../../geometry/path';
import { freeName, nextRank, type Drawing, type DrawingRecord } from '../drawing';
import type { Edit } from '../history';
import { removeOutlines, type NewId } from './operations';
import { allRounds, lineOf, outlineFromPath, replaceLine, sourceLine, type Outline } from '../outline';

/** What becomes of the outlines that something new was made of. */
export type SourceFate = 'removed' | 'hidden' | 'kept';

/** New outlines named after a source, on its layer and in its colour. */
function newLike(drawing: Drawing, source: Outline, paths: readonly Path[], newId: NewId): Outline[] {
	let rank = nextRank(drawing);
	let at = drawing;
	return paths.map((path) => {
		const facts = {
			id: newId(),
			name: freeName(at, source.name),
			layer: source.layer,
			rank: rank++,
			...(source.colour ? { colour: source.colour } : {})
		};
		const outline = withRoundsOf(source, outlineFromPath(path, facts));
		at = { ...at, records: new Map(at.records).set(outline.id, outline) };
		return outline;
	});
}

/** A new outline with the rounded corners of a source whose anchors it has. */
function withRoundsOf(source: Outline, outline: Outline): Outline {
	if (allRounds(source).length === 0) return outline;
	return { ...replaceLine(outline, lineOf(outline), { sources: [outline, source] }), id: outline.id };
}

/** The pieces of a combination as new outlines; the sources are removed, hidden (and so not cut twice) or kept. */
export function combineOutlines(
	drawing: Drawing,
	sources: readonly Outline[],
	pieces: readonly CombinedPiece[],
	fate: SourceFate,
	newId: NewId
): Edit {
	const gone = fate === 'removed' ? removeOutlines(drawing, new Set(sources.map((o) => o.id))).remove : [];
	// Names of what is removed are free again.
	const records = new Map(drawing.records);
	for (const id of gone ?? []) records.delete(id);
	const put: DrawingRecord[] = newLike(
		{ ...drawing, records },
		sources[0],
		pieces.flatMap((piece) => piece.paths),
		newId
	);
	if (fate === 'hidden') put.push(...sources.map((o) => ({ ...o, hidden: true })));
	return { put, remove: gone };
}

/** Joined lines: each takes the record of the first line that it was made of; the others go. */
export function joinOutlines(drawing: Drawing, sources: readonly Outline[], joined: Joined): Edit {
	const put: Outline[] = [];
	const gone = new Set<string>();
	joined.paths.forEach((path, i) => {
		const list = joined.from[i].map((k) => sources[k]);
		if (list.length === 1 && lineOf(list[0]) === path) return;
		put.push(replaceLine(list[0], path, { sources: list }));
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

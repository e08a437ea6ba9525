/** Edits of the structure: combining, joining, breaking outlines. Name, layer and colour come from the first source. */
import type { CombinedPiece } from '../../plane/area';
import { breakAt, type Joined, type Place } from '../../geometry/join';
import { STRIDE, type Path } from '../../geometry/path';
import { freeName, nextRank, type Drawing } from '../drawing';
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
	if (fate === 'hidden') put.push(...sources.map((o) => ({ ...o, hidden: true })));
	return { put, remove: gone };
}

/** Whether lines of different layers or colours became one. */
export const isMixed = (sources: readonly Outline[], pieces: readonly CombinedPiece[]): boolean =>
	ownersOf(
		sources,
		pieces.flatMap((piece) => piece.paths)
	).some(({ all }) => new Set(all.map((o) => `${o.layer} ${o.colour ?? ''}`)).size > 1);

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

/** What one does to the drawing as a whole. Each gives an edit, to be made a named step. */
import type { Trace } from '../../trace/trace';
import { isSamePath, type Path } from '../../geometry/path';
import { groupPieces } from '../../plane/pieces';
import {
	freeName,
	layersOf,
	nextRank,
	outlinesOf,
	recordAs,
	type Drawing,
	type DrawingRecord,
	type KeptLine,
	type Layer,
	type Reference
} from '../drawing';
import type { Edit } from '../history';
import { placePath } from './placement';
import { symmetricalAgain } from './symmetry';
import {
	outlineFromPath,
	lineOf,
	replaceLine,
	sortedLike,
	type Outline,
	type OutlineFacts
} from '../outline';

/** Makes ids; the caller knows chance, the core does not. */
export type NewId = () => string;

/**
 * Outlines of a trace as new outlines, moved to where the reference lies. Traced by colours or levels every colour gets a
 * layer of its own.
 */
export function addTraced(
	drawing: Drawing,
	reference: Reference,
	traced: Pick<Trace, 'paths' | 'fills'>,
	newId: NewId
): Edit {
	const name = stem(reference.name);
	const placed = traced.paths.map((path) => placePath(path, reference));
	const { fills } = traced;
	const from = { traced: reference.id };
	if (!fills) {
		// The middle of a drawn line is as open as it was drawn.
		const { put = [] } = addPaths(drawing, placed, name, 'cut', newId);
		return {
			put: put.map((o) =>
				o.type === 'outline' ? { ...o, ...from, ...(o.closed ? {} : { openOnPurpose: true }) } : o
			)
		};
	}
	const put: DrawingRecord[] = [];
	let at = drawing;
	const add = (records: readonly DrawingRecord[]) => {
		put.push(...records);
		const all = new Map(at.records);
		for (const r of records) all.set(r.id, r);
		at = { ...at, records: all };
	};
	for (const fill of new Set(fills)) {
		const label = `${name} ${fill}`;
		const known = layersOf(at).find((layer) => layer.name === label);
		const layer: Layer = known ?? {
			type: 'layer',
			id: newId(),
			rank: nextRank(at),
			name: label,
			purpose: 'cut',
			colour: fill
		};
		if (!known) add([layer]);
		const { put: outlines = [] } = addPaths(
			at,
			placed.filter((_, i) => fills[i] === fill),
			name,
			layer.id,
			newId
		);
		add(outlines.map((o) => (o.type === 'outline' ? { ...o, ...from, colour: fill } : o)));
	}
	return { put };
}

function stem(name: string): string {
	return name.replace(/\.[a-z0-9]{2,5}$/i, '') || 'Outline';
}

/** Paths as new outlines on a layer; pieces are numbered, holes called so. */
export function addPaths(
	drawing: Drawing,
	paths: readonly Path[],
	name: string,
	layer: string,
	newId: NewId
): Edit {
	const put: Outline[] = [];
	let rank = nextRank(drawing);
	const names = new Map<number, string>();
	const groups = groupPieces(paths);
	let number = outlinesOf(drawing).length;
	groups.forEach((group) => {
		number++;
		group.forEach((i, k) => names.set(i, k === 0 ? `${name} ${number}` : `${name} ${number}, hole ${k}`));
	});
	paths.forEach((path, i) => {
		const label = names.get(i) ?? `${name} ${++number}`;
		put.push(outlineFromPath(path, { id: newId(), name: label, layer, rank: rank++ }));
	});
	return { put };
}

/**
 * Outlines with other lines; the line as it first was is kept beside each from the first time on.
 * @param reach mm: anchors that moved no farther are the same.
 */
export function replaceLines(
	drawing: Drawing,
	lines: ReadonlyMap<string, Path>,
	newId: NewId,
	reach = 0
): Edit {
	const put: DrawingRecord[] = [];
	let rank = nextRank(drawing);
	for (const [id, path] of lines) {
		const outline = recordAs(drawing, 'outline', id);
		if (isSamePath(lineOf(outline), path)) continue;
		let first = outline.first;
		if (!first) {
			const line: KeptLine = { type: 'line', id: newId(), rank: rank++, path: lineOf(outline) };
			put.push(line);
			first = line.id;
		}
		const made = outline.half
			? symmetricalAgain(outline, path, reach)
			: replaceLine(outline, path, { reach });
		put.push({ ...made, first });
	}
	return { put };
}

/** What a new outline beside a source has from it: its layer and colour, and a name that is not taken. */
export function factsLike(drawing: Drawing, source: Outline, name: string): Omit<OutlineFacts, 'id'> {
	return {
		name: freeName(drawing, name),
		layer: source.layer,
		rank: nextRank(drawing),
		...sortedLike(source)
	};
}

/** The lines kept beside an outline, by id: as it first was, and its ghost. */
const keptBeside = (outline: Outline): string[] =>
	[outline.first, outline.ghost].filter((id) => id !== undefined);

/** Each of the outlines keeps its line as it is now as a ghost, in place of an older one. */
export function keepGhosts(drawing: Drawing, outlines: readonly Outline[], newId: NewId): Edit {
	const put: DrawingRecord[] = [];
	let rank = nextRank(drawing);
	for (const outline of outlines) {
		const line: KeptLine = { type: 'line', id: newId(), rank: rank++, path: lineOf(outline) };
		put.push(line, { ...outline, ghost: line.id });
	}
	return { put, remove: letGoOf(drawing, outlines, (o) => [o.ghost]) };
}

/** Outlines without their ghosts. */
export function dropGhosts(drawing: Drawing, outlines: readonly Outline[]): Edit {
	const put = outlines.filter((o) => o.ghost !== undefined).map(({ ghost: _, ...rest }): Outline => rest);
	return { put, remove: letGoOf(drawing, outlines, (o) => [o.ghost]) };
}

/** An outline with a line that is kept beside it in place of its own. @throws CoreError `gone` */
export function broughtBack(drawing: Drawing, outline: Outline, line: string): Outline {
	return replaceLine(outline, recordAs(drawing, 'line', line).path);
}

/** Those of the lines kept beside outlines to which no other outline refers. */
function letGoOf(
	drawing: Drawing,
	outlines: readonly Outline[],
	which: (outline: Outline) => readonly (string | undefined)[]
): string[] {
	const ids = new Set(outlines.map((o) => o.id));
	const gone = new Set(outlines.flatMap(which).filter((id) => id !== undefined));
	for (const other of outlinesOf(drawing)) {
		const stay = ids.has(other.id)
			? keptBeside(other).filter((id) => !which(other).includes(id))
			: keptBeside(other);
		for (const id of stay) gone.delete(id);
	}
	return [...gone];
}

/** Outlines taken out, with the lines kept beside them to which no other refers. */
export function removeOutlines(drawing: Drawing, ids: ReadonlySet<string>): Edit {
	const remove = [...ids].filter((id) => drawing.records.has(id));
	const outlines = outlinesOf(drawing).filter((o) => ids.has(o.id));
	return { remove: [...remove, ...letGoOf(drawing, outlines, keptBeside)] };
}

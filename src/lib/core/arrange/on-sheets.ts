/** From a drawing to what is arranged, and back: pieces with all that lies in them, the sheets, where pieces came from. */
import {
	layersOf,
	marksOf,
	repeatsOf,
	sheetsOf,
	type Drawing,
	type DrawingRecord,
	type Repeat,
	type Sheet
} from '../document/drawing';
import { copiesOf, type Copied } from '../document/edits/copies';
import type { NewId } from '../document/edits/operations';
import { carriedRecords } from '../document/edits/carrying';
import { unitOf } from '../document/groups';
import type { Edit } from '../document/history';
import { isClosed, lineOf, type Grain, type Outline } from '../document/outline';
import { output, shown } from '../document/output';
import { shownRepeats } from '../document/repeats';
import { isInside, pathBox } from '../geometry/measure';
import {
	compose,
	IDENTITY,
	inverse,
	polygonPath,
	transformPath,
	type Affine,
	type Path
} from '../geometry/path';
import { boxOf } from '../geometry/pick';
import { nestPaths } from '../plane/pieces';
import type { ArrangePiece, ArrangeSheet, PiecePlace, Turns } from './arrange';

/** A piece of the drawing: its outline, its holes, and everything that goes with it. */
export interface SheetPiece {
	readonly name: string;
	/** Its outline first, then its holes; of a group one after the other. */
	readonly lines: readonly Outline[];
	/** Lines, marks and repeats that lie in it. */
	readonly within: readonly string[];
	/** Which of those that are wanted of it: the first is itself, the others are copies. */
	readonly copy?: number;
}

/** mm */
const FLAT = 0.05;

/** The pieces that are cut out, or those of them of which something is picked. */
export function piecesOf(drawing: Drawing, picked?: ReadonlySet<string>): SheetPiece[] {
	const taken = new Set(
		sheetsOf(drawing).flatMap(({ edge, spoilt = [] }) => [...(edge ? [edge] : []), ...spoilt])
	);
	const closed = output(drawing, { purposes: ['cut'] }).lines.filter(
		({ path, outline }) => path.closed && !taken.has(outline.id)
	);
	const nested = nestPaths(
		closed.map(({ path }) => path),
		closed.map(({ outline }) => outline.standing)
	);
	const isCopy = ({ id }: Outline) => !drawing.records.has(id);
	const pieces = closed.flatMap(({ outline, path }, i) =>
		nested[i].depth % 2 === 0 && !isCopy(outline)
			? [
					{
						path,
						name: outline.name,
						lines: [
							outline,
							...closed
								.filter((_, j) => nested[j].parent === i && nested[j].depth % 2 === 1)
								.map((line) => line.outline)
						],
						within: [] as string[]
					}
				]
			: []
	);
	// What else lies on a piece goes with the innermost one around it.
	const own = new Set(pieces.flatMap(({ lines }) => lines.map(({ id }) => id)));
	const inner = [...pieces].sort((a, b) => size(a.path) - size(b.path));
	const around = (x: number, y: number) =>
		inner.find(({ path }) => {
			const b = boxOf(path);
			return x >= b.x0 && x <= b.x1 && y >= b.y0 && y <= b.y1 && isInside(path, x, y, FLAT);
		});
	for (const outline of shown(drawing)) {
		const { segs } = lineOf(outline);
		if (!own.has(outline.id) && !taken.has(outline.id) && segs.length)
			around(segs[0], segs[1])?.within.push(outline.id);
	}
	for (const mark of marksOf(drawing)) around(mark.x, mark.y)?.within.push(mark.id);
	for (const { id, sources } of repeatsOf(drawing)) {
		const piece = pieces.find(({ lines, within }) =>
			sources.every((source) => within.includes(source) || lines.slice(1).some((line) => line.id === source))
		);
		piece?.within.push(id);
	}
	return asGroups(drawing, pieces).filter(
		({ lines, within }) =>
			!picked || lines.some(({ id }) => picked.has(id)) || within.some((id) => picked.has(id))
	);
}

/** Pieces of one group are one piece, which moves as it is. */
function asGroups(drawing: Drawing, pieces: readonly SheetPiece[]): SheetPiece[] {
	const grouped = new Map<string, SheetPiece>();
	for (const { name, lines, within } of pieces) {
		const group = unitOf(drawing, lines[0].id, undefined);
		const key = group?.id ?? lines[0].id;
		const before = grouped.get(key);
		grouped.set(key, {
			name: group?.name ?? name,
			lines: [...(before?.lines ?? []), ...lines],
			within: [...(before?.within ?? []), ...within]
		});
	}
	return [...grouped.values()];
}

/** Repeats of whole pieces: their copies cannot be laid one by one as long as they are copies. */
export function repeatsOfPieces(drawing: Drawing): Repeat[] {
	const inPieces = new Set(piecesOf(drawing).flatMap(({ within }) => within));
	const outer = new Set(piecesOf(drawing).map(({ lines }) => lines[0].id));
	return shownRepeats(drawing).filter(
		({ id, sources }) => !inPieces.has(id) && sources.some((source) => outer.has(source))
	);
}
const size = (path: Path) => {
	const b = pathBox(path);
	return (b.x1 - b.x0) * (b.y1 - b.y0);
};

/** Pieces as often as they are wanted. */
export const asWanted = (pieces: readonly SheetPiece[]): SheetPiece[] =>
	pieces.flatMap((piece) =>
		Array.from({ length: piece.lines[0].wanted ?? 1 }, (_, copy) => (copy ? { ...piece, copy } : piece))
	);

/** Shares of what a piece may lie off the grain at which it is tried. */
const OFF_GRAIN = [0, -0.5, 0.5, -1, 1];

/** How a piece may be turned where the material has a grain and the piece one of its own. */
function turnsBy({ angle, within, oneWay }: Grain, sheet: number): number[] {
	const shares = within > 0 ? OFF_GRAIN : [0];
	const ways = oneWay ? [0] : [0, 180];
	return ways.flatMap((way) => shares.map((share) => sheet - angle + way + share * within));
}

/** Pieces and sheets as they are arranged. @param sheets the first tells how the grain runs. */
export function arrangePieces(
	pieces: readonly SheetPiece[],
	turns: Turns,
	[sheet]: readonly Sheet[] = []
): ArrangePiece[] {
	return pieces.map(({ lines }) => {
		const { grain } = lines[0];
		const own = grain && sheet?.grain !== undefined ? turnsBy(grain, sheet.grain) : turns;
		return { paths: lines.map(lineOf), turns: own };
	});
}

export function arrangeSheets(drawing: Drawing): ArrangeSheet[] {
	return sheetsOf(drawing).map((sheet) => {
		const { width, height: length, margin } = sheet;
		const usable = usableOf(drawing, sheet);
		return { width, length, margin, ...(usable ? { usable } : {}) };
	});
}

/** What of a sheet can be used where it is no rectangle or has spoilt places, from its lower left corner. */
function usableOf(drawing: Drawing, { x, y, width, height, edge, spoilt = [] }: Sheet): Path[] | undefined {
	const line = (id: string): Path[] => {
		const record = drawing.records.get(id);
		return record?.type === 'outline' && isClosed(record) ? [lineOf(record)] : [];
	};
	const around = edge ? line(edge) : [];
	const holes = spoilt.flatMap(line);
	if (around.length + holes.length === 0) return undefined;
	const map: Affine = [1, 0, 0, 1, -x, -y];
	const whole = around.length ? around.map((path) => transformPath(path, map)) : [rectangle(width, height)];
	return [...whole, ...holes.map((path) => transformPath(path, map))];
}
const rectangle = (w: number, h: number): Path => polygonPath([0, 0, w, 0, w, h, 0, h]);

/** From where a piece was to where it lies, in the drawing. */
export function mapOnDrawing(drawing: Drawing, { sheet, map }: PiecePlace): Affine {
	const { x, y } = sheetsOf(drawing)[sheet];
	return compose([1, 0, 0, 1, x, y], map);
}

/** Moves pieces to where they lie now; where they came from is kept with them. */
export function arrangedEdit(
	drawing: Drawing,
	pieces: readonly SheetPiece[],
	places: readonly PiecePlace[],
	newId: NewId
): Edit {
	const put = new Map<string, DrawingRecord>();
	const add = (records: readonly DrawingRecord[]) => records.forEach((record) => put.set(record.id, record));
	/** How many copies of each piece were laid. */
	const laid = new Map<string, number>();
	let at = drawing;
	for (const place of places) {
		const map = mapOnDrawing(drawing, place);
		const { lines, within, copy } = pieces[place.piece];
		const ids = [...lines.map(({ id }) => id), ...within];
		if (copy === undefined) {
			add(moved(drawing, ids, map, (home) => compose(home, inverse(map))));
			continue;
		}
		const records = ids.flatMap((id): Copied[] => {
			const record = drawing.records.get(id);
			return record?.type === 'outline' || record?.type === 'mark' || record?.type === 'repeat'
				? [record]
				: [];
		});
		const copies = copiesOf(at, records, map, newId).put.map((record): DrawingRecord =>
			record.type === 'outline' ? oneOf(record) : record
		);
		add(copies);
		at = {
			...at,
			records: new Map([...at.records, ...copies.map((record) => [record.id, record] as const)])
		};
		laid.set(lines[0].id, (laid.get(lines[0].id) ?? 0) + 1);
	}
	// What was laid is there: only what found no room is still wanted.
	for (const [id, count] of laid) {
		const record = put.get(id) ?? drawing.records.get(id);
		if (record?.type !== 'outline') continue;
		const left = (record.wanted ?? 1) - count;
		put.set(id, left > 1 ? { ...record, wanted: left } : oneOf(record));
	}
	return { put: [...put.values()] };
}

function oneOf({ wanted: _, ...outline }: Outline): Outline {
	return outline;
}

/** Records under a map, each with its way home. */
function moved(
	drawing: Drawing,
	ids: readonly string[],
	map: Affine,
	wayHome: (before: Affine) => Affine | undefined
): DrawingRecord[] {
	const records = ids.flatMap((id) => drawing.records.get(id) ?? []);
	const withHome = <R extends DrawingRecord & { readonly home?: Affine }>(record: R): R => {
		const { home: before, ...rest } = record;
		const home = wayHome(before ?? IDENTITY);
		return { ...rest, ...(home ? { home } : {}) } as R;
	};
	return carriedRecords(drawing, records, map).map((record) =>
		record.type === 'outline' || record.type === 'mark' ? withHome(record) : record
	);
}

/** What was arranged, and where it came from. */
export const cameFromElsewhere = (drawing: Drawing): readonly string[] =>
	[...drawing.records.values()].flatMap((record) =>
		(record.type === 'outline' || record.type === 'mark') && record.home ? [record.id] : []
	);

/** Puts records back where they came from before they were arranged. */
export function broughtHome(drawing: Drawing, ids: readonly string[]): Edit {
	const put = ids.flatMap((id) => {
		const record = drawing.records.get(id);
		const home = record?.type === 'outline' || record?.type === 'mark' ? record.home : undefined;
		return home ? moved(drawing, [id], home, () => undefined) : [];
	});
	// A repeat goes with its sources.
	const back = new Set(put.map(({ id }) => id));
	for (const repeat of repeatsOf(drawing)) {
		const first = drawing.records.get(repeat.sources[0]);
		const home = first?.type === 'outline' || first?.type === 'mark' ? first.home : undefined;
		if (home && repeat.sources.every((id) => back.has(id)))
			put.push(...moved(drawing, [repeat.id], home, () => undefined));
	}
	return { put };
}

/** A sheet that an outline goes round: it is never cut, and lies on a layer for guides. @returns undefined for an open one. */
export function sheetFrom(
	drawing: Drawing,
	outline: Outline,
	sheet: Pick<Sheet, 'id' | 'rank'>,
	layerId: string
): Edit | undefined {
	if (!isClosed(outline)) return undefined;
	const b = boxOf(lineOf(outline));
	const guides = layersOf(drawing).find((layer) => layer.purpose === 'guide');
	const layer = guides ?? {
		type: 'layer' as const,
		id: layerId,
		rank: sheet.rank + 1,
		name: 'Guides',
		purpose: 'guide' as const,
		colour: '#6b6b6b'
	};
	return {
		put: [
			...(guides ? [] : [layer]),
			{ ...outline, layer: layer.id },
			{
				...sheet,
				type: 'sheet',
				name: outline.name,
				x: b.x0,
				y: b.y0,
				width: b.x1 - b.x0,
				height: b.y1 - b.y0,
				margin: 3,
				edge: outline.id
			}
		]
	};
}

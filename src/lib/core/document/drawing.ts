/** The drawing as an immutable value: records by id. */
import type { Hold, NamedSize, SizeRun } from './holds/hold';
import type { PictureRegion } from '../trace/region';
import type { Rectangle } from '../trace/perspective';
import { CoreError } from '../errors';
import type { Affine, Path } from '../geometry/path';
import type { Box } from '../geometry/segment';
import type { Job } from './job';
import type { Outline } from './outline';
import type { MarkForm, OnEdge } from './mark-forms';
import type { Purpose } from './purpose';
import type { RepeatRule } from './repeat-rules';

export { PURPOSES, type Purpose } from './purpose';

/** A placed picture to trace from. The bytes lie in the storage, under their hash. */
export interface Reference {
	readonly type: 'reference';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	/** SHA-256 of the original file's bytes, hexadecimal. */
	readonly picture: string;
	readonly mediaType: string;
	readonly widthPx: number;
	readonly heightPx: number;
	/** Resolution as the file states it, px/mm; undefined where it states none. */
	readonly statedPxPerMm?: number;
	/** True size, px/mm; undefined as long as nobody has said. */
	readonly pxPerMm?: number;
	/** Where the picture's top left corner lies, mm; a mirrored one is mirrored in its own frame first. */
	readonly x: number;
	readonly y: number;
	/** Degrees anticlockwise about that corner. */
	readonly angle?: number;
	readonly mirrored?: boolean;
	/** Only this part is shown and traced, px of the picture as it is shown. */
	readonly crop?: PictureRegion;
	/** 0..1 */
	readonly opacity: number;
	readonly hidden?: boolean;
	readonly locked?: boolean;
	/**
	 * A known rectangle in the original picture (corners in px of it). Where given, the picture is shown and traced in
	 * that rectangle's own plane, and the sizes above are those of the straightened picture.
	 */
	readonly sheet?: Rectangle;
}

/** Tells pictures apart as they are shown: the original, or straightened in one way or another. */
export function pictureKey(reference: Reference): string {
	return reference.sheet ? `${reference.picture}${JSON.stringify(reference.sheet)}` : reference.picture;
}

export interface Layer {
	readonly type: 'layer';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	readonly purpose: Purpose;
	readonly colour: string;
	readonly hidden?: boolean;
	readonly locked?: boolean;
	/** False where its lines go into no file and to no machine. */
	readonly written?: boolean;
}

/** A line that is kept beside an outline, as it first was or as its ghost: for comparing, and for the total drift; never cut. */
export interface KeptLine {
	readonly type: 'line';
	readonly id: string;
	readonly rank: number;
	readonly path: Path;
}

export interface Guide {
	readonly type: 'guide';
	readonly id: string;
	readonly rank: number;
	readonly x: number;
	readonly y: number;
	/** Degrees anticlockwise from +x. */
	readonly angle: number;
}

/** A single point: a drill or notch mark. */
export interface Mark {
	readonly type: 'mark';
	readonly id: string;
	readonly rank: number;
	readonly layer: string;
	readonly hidden?: boolean;
	readonly x: number;
	readonly y: number;
	/** A point to be drilled where nothing is said. */
	readonly form?: MarkForm;
	/** mm. */
	readonly size?: number;
	/** Degrees: the way into the piece. */
	readonly angle?: number;
	/** Where it lies on an outline, so that it follows it. */
	readonly on?: OnEdge;
	/** Id of the group that it belongs to. */
	readonly group?: string;
	/** From where it was arranged to where it came from. */
	readonly home?: Affine;
}

/** Things that move as one; their lines are not joined. Who belongs to it says so himself. */
export interface Group {
	readonly type: 'group';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	/** Id of the group that it lies in. */
	readonly group?: string;
}

/** Copies by a rule, drawn and cut like their sources, and changed by changing those or the rule. */
export interface Repeat {
	readonly type: 'repeat';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	/** Ids of the outlines and marks that are repeated; they themselves are the first. */
	readonly sources: readonly string[];
	readonly rule: RepeatRule;
	/** Places of the rule that stay empty: taken out, or edited apart. */
	readonly without?: readonly number[];
	readonly hidden?: boolean;
	readonly group?: string;
}

/** The material that pieces are laid on. */
export interface Sheet {
	readonly type: 'sheet';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	/** Its lower left corner, mm. */
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
	/** mm along its edge that stay free. */
	readonly margin: number;
	/** Degrees: how the grain of the material runs; undefined where it has none. */
	readonly grain?: number;
	/** Id of the outline that goes round it, where it is no rectangle; ids of those round spoilt places. */
	readonly edge?: string;
	readonly spoilt?: readonly string[];
}

/** Whether the middle of a box lies on a sheet. */
export function liesOnSheet({ x0, y0, x1, y1 }: Box, { x, y, width, height }: Sheet): boolean {
	const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
	return mx > x && mx < x + width && my > y && my < y + height;
}

/** `in/64`: inches, shown as fractions. */
export type LengthUnit = 'mm' | 'cm' | 'in' | 'in/64' | 'ft';

export interface Settings {
	readonly type: 'settings';
	readonly id: 'settings';
	readonly rank: number;
	readonly unit: LengthUnit;
	/** mm between grid lines. */
	readonly grid: number;
	/** mm: the radius of the tool; what bends more tightly is told. */
	readonly toolRadius?: number;
}

export type DrawingRecord =
	| Outline
	| Reference
	| Layer
	| KeptLine
	| Guide
	| Mark
	| Group
	| Repeat
	| Sheet
	| Job
	| Hold
	| NamedSize
	| SizeRun
	| Settings;

export interface Drawing {
	readonly id: string;
	readonly name: string;
	readonly records: ReadonlyMap<string, DrawingRecord>;
}

export const DEFAULT_SETTINGS: Settings = { type: 'settings', id: 'settings', rank: 0, unit: 'mm', grid: 10 };
export const CUT_LAYER: Layer = {
	type: 'layer',
	id: 'cut',
	rank: 1,
	name: 'Cut',
	purpose: 'cut',
	colour: '#1c3f5e'
};

export function newDrawing(id: string, name: string): Drawing {
	return {
		id,
		name,
		records: new Map<string, DrawingRecord>([
			['settings', DEFAULT_SETTINGS],
			['cut', CUT_LAYER]
		])
	};
}

function byRank<T extends DrawingRecord>(records: T[]): T[] {
	return records.sort((a, b) => a.rank - b.rank || (a.id < b.id ? -1 : 1));
}

const sorted = new WeakMap<Drawing, Map<string, DrawingRecord[]>>();

/** The records of one type, in their order. Computed once per drawing value. */
export function recordsOf<K extends DrawingRecord['type']>(
	drawing: Drawing,
	type: K
): readonly Extract<DrawingRecord, { type: K }>[] {
	let lists = sorted.get(drawing);
	if (!lists) {
		lists = new Map();
		for (const record of drawing.records.values()) {
			const list = lists.get(record.type);
			if (list) list.push(record);
			else lists.set(record.type, [record]);
		}
		for (const list of lists.values()) byRank(list);
		sorted.set(drawing, lists);
	}
	return (lists.get(type) ?? []) as Extract<DrawingRecord, { type: K }>[];
}

export const outlinesOf = (drawing: Drawing) => recordsOf(drawing, 'outline');
export const referencesOf = (drawing: Drawing) => recordsOf(drawing, 'reference');
export const layersOf = (drawing: Drawing) => recordsOf(drawing, 'layer');
export const sheetsOf = (drawing: Drawing) => recordsOf(drawing, 'sheet');
/** Jobs in the order in which they are done. */
export const jobsOf = (drawing: Drawing) => recordsOf(drawing, 'job');
export const marksOf = (drawing: Drawing) => recordsOf(drawing, 'mark');
export const groupsOf = (drawing: Drawing) => recordsOf(drawing, 'group');
export const repeatsOf = (drawing: Drawing) => recordsOf(drawing, 'repeat');

export function settingsOf(drawing: Drawing): Settings {
	return recordsOf(drawing, 'settings')[0] ?? DEFAULT_SETTINGS;
}

/** The record of that type and id. @throws CoreError `gone` */
export function recordAs<K extends DrawingRecord['type']>(
	drawing: Drawing,
	type: K,
	id: string
): Extract<DrawingRecord, { type: K }> {
	const record = drawing.records.get(id);
	if (record?.type !== type) throw new CoreError('gone', 'This is no longer in the drawing.');
	return record as Extract<DrawingRecord, { type: K }>;
}

/** A rank behind all that are there. */
export function nextRank(drawing: Drawing): number {
	let most = 0;
	for (const record of drawing.records.values()) most = Math.max(most, record.rank);
	return most + 1;
}

/** Names like "Arm", "Arm 2", "Arm 3", not yet taken by an outline. */
export function freeName(drawing: Drawing, name: string): string {
	return firstFree(name, new Set(outlinesOf(drawing).map((o) => o.name)));
}

/** A name like it that is not among those that are taken. */
export function firstFree(name: string, taken: ReadonlySet<string>): string {
	if (!taken.has(name)) return name;
	const stem = name.replace(/ \d+$/, '');
	for (let k = 2; ; k++) if (!taken.has(`${stem} ${k}`)) return `${stem} ${k}`;
}

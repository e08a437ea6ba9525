/** Holds: what a person wants kept of places of outlines, and named sizes that stand in their values. */
/** An anchor, or one of its handles. */
export interface HoldPlace {
	readonly outline: string;
	readonly anchor: number;
	readonly side?: 'in' | 'out';
}

export const HOLD_KINDS = [
	'pin',
	'level',
	'plumb',
	'angle',
	'length',
	'radius',
	'parallel',
	'square',
	'equal',
	'in line',
	'middle',
	'share',
	'on guide',
	'along guide',
	'tangent',
	'equal radius',
	'meets in direction',
	'meets in curvature',
	'seams'
] as const;
export type HoldKind = (typeof HOLD_KINDS)[number];

/** How many places each is about, and whether it carries a value. An arc is told by both its ends. */
export const HOLD_SHAPES: Readonly<
	Record<HoldKind, { readonly places: number; readonly value?: 'length' | 'angle' | 'share' }>
> = {
	pin: { places: 1 },
	level: { places: 2 },
	plumb: { places: 2 },
	angle: { places: 2, value: 'angle' },
	length: { places: 2, value: 'length' },
	radius: { places: 2, value: 'length' },
	parallel: { places: 4 },
	square: { places: 4 },
	equal: { places: 4 },
	'in line': { places: 3 },
	middle: { places: 3 },
	share: { places: 3, value: 'share' },
	'on guide': { places: 1 },
	'along guide': { places: 2 },
	tangent: { places: 4 },
	'equal radius': { places: 4 },
	// An end, what its direction goes by, and for the curvature what that goes by; the same of the other line's end.
	'meets in direction': { places: 4 },
	'meets in curvature': { places: 6 },
	// The corners between which each seam runs; the value is by how much the first is longer.
	seams: { places: 4, value: 'length' }
};

/** What is kept of some places whatever else is moved. */
export interface Hold {
	readonly type: 'hold';
	readonly id: string;
	readonly rank: number;
	readonly kind: HoldKind;
	readonly on: readonly HoldPlace[];
	/** A number or a formula with named sizes; mm, degrees, or a share. */
	readonly value?: string;
	/** Where it is pinned, mm. */
	readonly x?: number;
	readonly y?: number;
	/** Id of the guide that it lies on. */
	readonly guide?: string;
}

/** A size with a name, to stand in the values of holds. */
export interface NamedSize {
	readonly type: 'size';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	/** A number or a formula of other sizes, mm. */
	readonly value: string;
	/** What it is in the grades of the size run that are not drawn now, by their names. */
	readonly graded?: Readonly<Record<string, string>>;
}

/** The same pattern in several grades: their names in order, and the one that is drawn. */
export interface SizeRun {
	readonly type: 'run';
	readonly id: string;
	readonly rank: number;
	readonly grades: readonly string[];
	readonly now: string;
}

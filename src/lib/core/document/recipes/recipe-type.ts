/** What a kind of recipe is: what it is made from, how it is made, how it moves, what of it can be typed. */
import type { Result } from '../../errors';
import type { Point } from '../../geometry/point';
import type { Affine, Path } from '../../geometry/path';
import type { Round } from '../rounds';

/** What a recipe is made from: a whole line, places on it, or one of its edges. All ids last. */
export type Ref =
	| { readonly record: string }
	| { readonly record: string; readonly anchors: readonly number[] }
	| { readonly record: string; readonly edge: number };

/** A stretch from corner to corner of an input, with the width that it carries, mm. */
export interface InputEdge {
	readonly id: number;
	readonly width?: number;
	/** At its end, where it is another there. */
	readonly widthEnd?: number;
}

/** A line that a recipe is made from, as it is resolved. */
export interface InputLine {
	readonly record: string;
	readonly path: Path;
	/** For each anchor of the path (one more than segments where it is open), what stands there; lasting and unlike the others. */
	readonly roles: readonly string[];
	readonly edges: readonly InputEdge[];
	/** For each segment of the path, the index of its edge. */
	readonly edgeOf: Int32Array;
	/** Tells whether anything of the above has changed. */
	readonly print: string;
}

/** One of the lines that a recipe gives. */
export interface MadeLine {
	readonly path: Path;
	/** Tells it from the others of the same recipe, as lastingly as may be; '' where there is only one. */
	readonly part: string;
	/** Ids of its anchors, where the recipe knows them better than by the inputs' anchors nearest to them. */
	readonly anchors?: readonly number[];
	/** Corners that the recipe rounds, by those ids. */
	readonly rounds?: readonly Round[];
}

/** What of a recipe's settings can be changed in a field. */
export type RecipeField =
	| {
			readonly name: string;
			readonly word: string;
			readonly kind: 'length' | 'count' | 'angle' | 'share';
			readonly least: number;
			readonly most: number;
	  }
	| {
			readonly name: string;
			readonly word: string;
			readonly kind: 'choice';
			readonly items: readonly { readonly value: string; readonly word: string }[];
	  }
	| { readonly name: string; readonly word: string; readonly kind: 'text' };

/** A place that a line is given by: seen and dragged where a line of anchors has its anchors. */
export interface GivenPlace extends Point {
	/** Tells it from the others of the line, lastingly. */
	readonly key: string;
	readonly looks: 'point' | 'vertex' | 'end' | 'tip';
	/** What a tip belongs to. */
	readonly from?: Point;
}

/** How the places of a kind are changed. What is given back are new settings. */
export interface PlacesOf<S> {
	of(settings: S): readonly GivenPlace[];
	/** Rows of places that belong together, drawn as broken straights; closed where the first follows the last. */
	frame?(settings: S): { readonly row: readonly Point[]; readonly closed: boolean };
	moved(settings: S, key: string, to: Point): S;
	/** One more where the line is nearest to a place, the line kept as far as may be; undefined where none can be. */
	put?(settings: S, at: Point): { readonly settings: S; readonly key: string } | undefined;
	/** Without one; undefined where the line needs it. */
	without?(settings: S, key: string): S | undefined;
	/** What of a place can be typed beside where it lies, and what it is now; undefined where it is free. */
	fields?(settings: S, key: string): readonly (RecipeField & { readonly value: number | undefined })[];
	withField?(settings: S, key: string, name: string, value: number | undefined): S;
	/** The line by which a place goes: which of the inputs, and how it stands to that, degrees. */
	boundTo?(settings: S, key: string): { readonly input: number; readonly turn: number } | undefined;
	bound?(settings: S, key: string, to: { readonly input: number; readonly turn: number } | undefined): S;
}

/** Segments of inputs from which on an offset of one step takes longer than about a frame. */
export const DEAR_SEGMENTS = 160;

export const segmentsOf = (inputs: readonly InputLine[]): number =>
	inputs.reduce((sum, input) => sum + input.path.types.length, 0);

/** Whether a line is not to be made here and now: it takes too long, or its reckoning has not come yet. */
export const takesLong = <S>(
	{ late, isDear }: Pick<RecipeType<S>, 'late' | 'isDear'>,
	inputs: readonly InputLine[],
	settings: S
): boolean => late?.isThere === false || isDear(inputs, settings);

export interface RecipeType<S> {
	/** What it is called on a tag. */
	readonly word: (settings: S) => string;
	/** How many lines it is made from. */
	readonly inputs: { readonly least: number; readonly most: number };
	/** Raised whenever the same inputs and settings may give another line. */
	readonly engine: number;
	/** Whether it takes too long to be made again in every frame of a drag. */
	readonly isDear: (inputs: readonly InputLine[], settings: S) => boolean;
	/**
	 * The lines, or why there are none. Yields how far it has come, 0 to 1.
	 * @param draft for the eye alone, while something is dragged: checks may be left out. It is never stored.
	 */
	resolve(
		inputs: readonly InputLine[],
		settings: S,
		draft?: boolean
	): Generator<number, Result<readonly MadeLine[]>>;
	/** The settings after a map that its inputs went through too; undefined where it would be another line then. */
	carried(settings: S, map: Affine): S | undefined;
	fields(settings: S): readonly RecipeField[];
	/** Numbers of fields that are no settings themselves, and the settings with one of them typed. */
	numbers?(settings: S): Readonly<Record<string, number | string>>;
	typed?(settings: S, name: string, value: number | string): S;
	/** Where its reckoning comes late: whether it is there. */
	readonly late?: { readonly isThere: boolean };
	/** The places that it is given by. It stays where it is put by hand, though it may go by other lines too. */
	readonly places?: PlacesOf<S>;
	/** The settings without one of the lines that it goes by, where it goes on without: the line is what it was. */
	unbound?(settings: S, input: number, line: Path): S;
	/** Whether settings read from outside make sense. */
	holds(settings: Readonly<Record<string, unknown>>): boolean;
}

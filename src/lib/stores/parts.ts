/** What the parts of the bench need of the whole: small interfaces, so that none of them knows the bench itself. */
import type { Drawing, LengthUnit, Reference, Settings } from '../core/document/drawing';
import type { Edit } from '../core/document/history';
import type { Outline } from '../core/document/outline';
import type { Problem } from '../core/errors';
import type { Point } from '../core/geometry/point';
import type { Deviation } from '../core/geometry/deviation';
import type { Path } from '../core/geometry/path';
import type { View } from '../render/view';
import type { Station } from './stations';

/** Steps are made of what a person does, and things are said. */
export interface Doing {
	readonly drawing: Drawing;
	commit(name: string, edit: Edit): boolean;
	tell(sentence: string, tone?: 'told' | 'trouble'): void;
	trouble(problem: Problem): void;
}

/** The window on the paper. */
export interface Seeing {
	readonly sight: {
		view: View;
		readonly size: { readonly widthPx: number; readonly heightPx: number };
		lookAt(place: Point): void;
		margins(): { left: number; right: number; upper: number; lower: number };
	};
	fitAll(): void;
}

/** What is picked, and where the work is. */
export interface Choosing {
	readonly selection: {
		selected: ReadonlySet<string>;
		readonly selectedOutlines: readonly Outline[];
		readonly enteredOutlines: readonly Outline[];
	};
	station: Station | undefined;
	leave(): void;
}

export interface ForReadiness extends Doing, Seeing, Choosing {
	readonly references: readonly Reference[];
}

export interface ForLooking extends Doing, Seeing, Choosing {
	readonly references: readonly Reference[];
	readonly settings: Settings;
	readonly unit: LengthUnit;
	readonly drafts: ReadonlyMap<string, Outline>;
	readonly operation:
		{ readonly preview: readonly Path[]; readonly deviations: readonly Deviation[] } | undefined;
}

export interface ForPictures extends Doing, Seeing, Choosing {
	readonly references: readonly Reference[];
	saveFailed(error: unknown): void;
	dropOperation(): void;
}

export interface ForPen extends Doing, Choosing {
	outlineAt(x: number, y: number, kind: 'mouse' | 'pen' | 'touch'): Outline | undefined;
	pickable(): { readonly outlines: readonly Outline[] };
	endDrag(): void;
}

/** What is seen, and what lies where. */
export interface ForKeyPointer {
	readonly drawing: Drawing;
	readonly unit: LengthUnit;
	readonly sight: {
		view: View;
		readonly size: { readonly widthPx: number; readonly heightPx: number };
	};
	outlineAt(x: number, y: number, kind: 'mouse' | 'pen' | 'touch'): Outline | undefined;
}

/** Holds that could not be kept with one that was wanted. */
export interface HoldTrouble {
	readonly name: string;
	readonly edit: Edit;
	readonly holds: readonly string[];
}

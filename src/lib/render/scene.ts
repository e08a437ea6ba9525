/** What the surface shows, and how it is seen. */
import type { Point } from '../core/geometry/point';
import type { Fault } from '../core/check/fault';
import type { Drawing, LengthUnit, Reference } from '../core/document/drawing';
import type { PolygonVertex } from '../core/document/edits/control-polygon';
import type { GuideLine, Snap } from '../core/document/edits/snap';
import type { Outline } from '../core/document/outline';
import type { Comb } from '../core/geometry/comb';
import type { Deviation, Worst } from '../core/geometry/deviation';
import type { Path } from '../core/geometry/path';
import type { CornerVerdict } from '../core/trace/corner-verdicts';
import type { CombLook } from './comb';
import type { GivenLook } from './given';
import type { HoldMark } from './holds';
import type { Palette } from './palette';
import type { View, WindowSize } from './view';

/** An anchor, one of its handles, or the segment that leaves it. */
export interface Pointed {
	readonly outline: string;
	readonly anchor: number;
	readonly side?: 'in' | 'out';
	readonly isSegment?: boolean;
}

/** What is looked at closely. */
export interface Looked extends CombLook {
	/** Combs of curvature. */
	readonly combs: readonly Comb[];
	/** A place pointed at on a line or on its chart, and how far the compared line lies off at the pointer. */
	readonly place: { readonly x: number; readonly y: number; readonly radius: number } | undefined;
	readonly number: { readonly x: number; readonly y: number; readonly off: number } | undefined;
	/** Control polygons to pull lines by. */
	readonly polygons: readonly { readonly vertices: readonly PolygonVertex[]; readonly closed: boolean }[];
	/** Lines that are kept to be seen behind. */
	readonly ghosts: readonly Path[];
}

/** Everything that the surface shows. */
export interface Scene {
	readonly drawing: Drawing;
	readonly view: View;
	readonly size: WindowSize;
	readonly palette: Palette;
	readonly unit: LengthUnit;
	readonly moving: boolean;
	readonly filled: boolean;
	readonly grid: boolean;
	readonly picturesHidden: boolean;
	readonly bitmaps: ReadonlyMap<string, ImageBitmap>;
	readonly bitmapVersion: number;
	readonly selected: ReadonlySet<string>;
	/** Selected outlines as they lie while they are dragged: the still picture goes without them. */
	readonly carried: readonly Outline[];
	/** Ids of repeats that are dragged as wholes, and how far, mm. */
	readonly carriedRepeats: readonly string[];
	readonly carriedBy: { readonly right: number; readonly up: number } | undefined;
	/** The entered outlines, the one in hand first, and the anchors selected in each. */
	readonly entered: readonly Outline[];
	readonly picked: ReadonlyMap<string, ReadonlySet<number>>;
	/** What is held of the entered outlines. */
	readonly holds: readonly HoldMark[];
	/** Anchors of them that cannot move any more. */
	readonly fast: readonly Point[];
	/** The places by which the one in hand is given, and the key of the picked one: drawn in the place of its anchors. */
	readonly given: GivenLook | undefined;
	/** Picked segments of the one in hand, by the anchors that they leave. */
	readonly segments: ReadonlySet<number>;
	/** What would be picked. */
	readonly pointed: Pointed | undefined;
	readonly handleInHand: 'in' | 'out' | undefined;
	readonly preview: readonly Path[];
	/** A freehand stroke as it goes; the line drawn so far; the place on which it would close. */
	readonly trail: readonly Path[];
	/** The band in which a line may move: the lines as they are, and how far to either side, mm. */
	readonly band: { readonly paths: readonly Path[]; readonly drift: number } | undefined;
	readonly drawn: Outline | undefined;
	/** The places of a curve that is being drawn. */
	readonly drawnBy: GivenLook | undefined;
	readonly closing: Point | undefined;
	readonly looked: Looked;
	readonly snap: Snap | undefined;
	/** Lines by which a drag is bound. */
	readonly bound: readonly GuideLine[];
	/** Where the reach of a soft pull ends. */
	readonly reachOf: readonly Point[];
	/** Corners of what is being placed. */
	readonly frame: readonly Point[] | undefined;
	/** Under the pointer, and picked to be left out of the preview. */
	readonly under: readonly Path[];
	readonly leftOut: readonly Path[];
	/** Stretches that go. */
	readonly going: readonly Path[];
	/** Outlines that the preview would replace: shown faint. */
	readonly replaced: ReadonlySet<string>;
	/** Lines that follow what is held, as they would be; stored lines older than what they follow; and those that would not be. */
	readonly following: readonly Outline[];
	readonly faint: ReadonlySet<string>;
	readonly away: ReadonlySet<string>;
	/** Where a line lies farthest off. */
	readonly worst: Worst | undefined;
	/** How far the preview lies from what it follows. */
	readonly deviations: readonly Deviation[];
	/** Words beside places. */
	readonly labels: readonly { readonly x: number; readonly y: number; readonly text: string }[];
	/** Places of which one may doubt whether a corner is meant. */
	readonly doubtful: readonly CornerVerdict[];
	/** The preview is only to be looked at for the moment: no anchors of it. */
	readonly rough: boolean;
	/** A picture in hand: it can be moved and turned. */
	readonly placing: Reference | undefined;
	/** A line being drawn round something, px of the window. */
	readonly lasso: readonly number[] | undefined;
	readonly faults: readonly Fault[];
	readonly faultAt: number;
	/** What the tracer sees of a picture, shown left of the split (0..1 of the window). */
	readonly seen:
		{ readonly reference: string; readonly bitmap: ImageBitmap; readonly split: number } | undefined;
	readonly picks: readonly Point[];
	readonly box:
		{ readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number } | undefined;
	readonly hover: Outline | undefined;
	/** What an operation draws over the lines. */
	readonly over: ((c: CanvasRenderingContext2D, look: SurfaceLook) => void) | undefined;
}

/** How the surface is seen, for what is drawn over it. */
export interface SurfaceLook {
	readonly view: View;
	readonly size: WindowSize;
	readonly palette: Palette;
	readonly ratio: number;
}

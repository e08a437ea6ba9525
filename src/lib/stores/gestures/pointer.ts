/** The pointer on the surface, as it is told to the hand. */

/** How near the pointer must come, px. Fingers are broader. */
export const REACH_PX = { mouse: 9, pen: 12, touch: 22 };
export type PointerKind = keyof typeof REACH_PX;

/** Where the pointer is, and what is held with it. */
export interface PointerAt {
	/** px in the window. */
	readonly x: number;
	readonly y: number;
	readonly kind: PointerKind;
	readonly shift: boolean;
	readonly alt: boolean;
	/** Held, nothing snaps. */
	readonly ctrl: boolean;
	/** A press or tap picks one more: Shift, or the switch for hands without keys. */
	readonly more: boolean;
	/** The second of two quick presses at one place. */
	readonly second: boolean;
	/** 0 main, 1 middle, 2 other. */
	readonly button: number;
	readonly panning: boolean;
}

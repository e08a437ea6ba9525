/** What may be the matter with a line, and what would mend it. */

export type FaultKind =
	/** The check itself did not come to its end: nothing is known. */
	| 'unchecked'
	| 'no-size'
	| 'open-ends'
	| 'crumb'
	| 'doubled'
	| 'overlap'
	| 'self-crossing'
	| 'zero-segments'
	| 'spike'
	| 'jagged'
	| 'dense';
export type Mend =
	| 'again'
	| 'size'
	| 'join-ends'
	| 'close'
	| 'remove'
	| 'remove-segments'
	| 'take-overlap'
	| 'take-spikes'
	| 'fair'
	| 'thin'
	| 'none';

export interface Fault {
	readonly kind: FaultKind;
	/** Index of the outline in what was given; undefined where the fault is of the whole drawing. */
	readonly outline?: number;
	/** The other outline, for doubles and overlaps. */
	readonly other?: number;
	readonly x: number;
	readonly y: number;
	/** One plain sentence: what is the matter and why it matters. */
	readonly why: string;
	readonly mend: Mend;
	/** Whether it stops a cut, or is only worth knowing. */
	readonly stops: boolean;
}

/** mm: what is smaller is a crumb. */
export const CRUMB_SIZE = 0.5;

/** What may be the matter with a line, and what would mend it. */

export type FaultKind =
	/** The check itself did not come to its end: nothing is known. */
	| 'unchecked'
	| 'no-size'
	| 'open-ends'
	/** Ends of different lines that touch or lie near each other. */
	| 'loose-lines'
	| 'crumb'
	| 'doubled'
	| 'overlap'
	/** A line and one that is made beside it would both be cut. */
	| 'both-cut'
	| 'self-crossing'
	| 'zero-segments'
	| 'spike'
	| 'jagged'
	| 'dense'
	/** What the tool, the kerf or the sheet makes of it. */
	| 'off-sheet'
	| 'too-wide'
	| 'tight-gap'
	| 'thin-wall'
	| 'tight-corner';
export type Mend =
	| 'again'
	| 'size'
	| 'join-ends'
	| 'join-lines'
	/** Their nearest ends are joined by a straight. */
	| 'bridge-lines'
	| 'close'
	| 'remove'
	| 'remove-segments'
	| 'take-overlap'
	| 'take-spikes'
	| 'fair'
	| 'thin'
	/** The piece is moved onto the sheet by the least. */
	| 'onto-sheet'
	/** A tool of the workshop that fits takes its place. */
	| 'other-tool'
	| 'none';

export interface Fault {
	readonly kind: FaultKind;
	/** Index of the outline in what was given; undefined where the fault is of the whole drawing. */
	readonly outline?: number;
	/** The other outline, for doubles and overlaps. */
	readonly other?: number;
	/** All lines of a chain, this one first. */
	readonly chain?: readonly number[];
	readonly x: number;
	readonly y: number;
	/** One plain sentence: what is the matter and why it matters. */
	readonly why: string;
	readonly mend: Mend;
	/** mm: the widest tool that would do, where one is too wide. */
	readonly fits?: number;
	/** Whether it stops a cut, or is only worth knowing. */
	readonly stops: boolean;
}

/** mm: what is smaller is a crumb. */
export const CRUMB_SIZE = 0.5;
/** mm: ends this near each other were meant to be one. */
export const END_GAP = 0.5;

/** What each is called, one and several. */
export const FAULT_WORDS: Readonly<Record<FaultKind, readonly [string, string]>> = {
	unchecked: ['unfinished check', 'unfinished checks'],
	'no-size': ['picture without a size', 'pictures without a size'],
	'open-ends': ['open outline', 'open outlines'],
	'loose-lines': ['chain of loose lines', 'chains of loose lines'],
	crumb: ['crumb', 'crumbs'],
	doubled: ['doubled outline', 'doubled outlines'],
	overlap: ['doubled stretch', 'doubled stretches'],
	'both-cut': ['pair that would both be cut', 'pairs that would both be cut'],
	'self-crossing': ['crossing', 'crossings'],
	'zero-segments': ['doubled anchor', 'doubled anchors'],
	spike: ['spike', 'spikes'],
	jagged: ['jagged line', 'jagged lines'],
	dense: ['dense line', 'dense lines'],
	'off-sheet': ['outline off the sheet', 'outlines off the sheet'],
	'too-wide': ['hole too narrow for the tool', 'holes too narrow for the tool'],
	'tight-gap': ['gap too narrow for the tool', 'gaps too narrow for the tool'],
	'thin-wall': ['thin wall', 'thin walls'],
	'tight-corner': [
		'outline with corners tighter than the tool',
		'outlines with corners tighter than the tool'
	]
};

/** What can be said of the width of a band. */

/** How a width goes from one place where it is said to the next: evenly, easing in and out, or not until there. */
export const TAPERS = ['even', 'eased', 'steps'] as const;
export type Taper = (typeof TAPERS)[number];

/** What is said of the width at an anchor, mm; where one side says nothing it is the width of the rest. */
export interface WidthAt {
	/** Which anchor of the path: the start of segment `at`, or the end of an open one. */
	readonly at: number;
	readonly before?: number;
	readonly after?: number;
}

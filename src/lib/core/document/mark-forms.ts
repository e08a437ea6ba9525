/** The forms that single points can have, and how they lie on an edge. */

/** A point is drilled; the others are lines, cut or drawn as their layer says. */
export const MARK_FORMS = ['point', 'cross', 'V', 'T', 'slit'] as const;
export type MarkForm = (typeof MARK_FORMS)[number];

/** Where a mark lies on an outline: at a share of the way along one of its edges, 0 to 1. */
export interface OnEdge {
	readonly outline: string;
	readonly edge: number;
	readonly share: number;
}

/** The corners of an allowance. */

/**
 * What becomes of a corner on the outer side. Folded: beyond the seam of the wider edge the line is the mirror image of what it is on
 * the piece, so that a hem folded back lies true. Square: it leaves the seam of the wider edge at a right angle. Stepped: the wider
 * allowance goes on over the smaller one, and there ends at a right angle to its seam.
 */
export const ALLOWANCE_CORNERS = ['miter', 'bevel', 'round', 'fold', 'square', 'step'] as const;
export type AllowanceCorner = (typeof ALLOWANCE_CORNERS)[number];

/** Whether a corner looks at which of its two edges is wider. */
export const goesByWider = (corner: AllowanceCorner): corner is 'fold' | 'square' | 'step' =>
	corner === 'fold' || corner === 'square' || corner === 'step';

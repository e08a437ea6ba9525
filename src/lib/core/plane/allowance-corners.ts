/** The corners of an allowance. */

/**
 * What becomes of a corner on the outer side. Folded: beyond the seam of the wider edge the line is the mirror image of what it is on
 * the piece, so that a hem folded back lies true. Square: it leaves the seam of the wider edge at a right angle.
 */
export type AllowanceCorner = 'miter' | 'bevel' | 'round' | 'fold' | 'square';
export const ALLOWANCE_CORNERS: readonly AllowanceCorner[] = ['miter', 'bevel', 'round', 'fold', 'square'];

/**
 * Every tolerance and limit, one per kind of quantity, each with its unit and its reason.
 * A tolerance for a length never meets a squared length, an angle or a ratio.
 */
export const TOLERANCE = {
	/** mm. Two places closer than this are the same place; farther apart they are really apart. */
	coincidence: 1e-6,
	/** mm. How closely a derived outline follows the true one unless something else is asked. */
	fit: 0.005,
	/** mm. Flattening for measuring distances; well below anything a cutter shows. */
	measure: 0.0005,
	/** Share of a length. Arc lengths are exact to this. */
	lengthRatio: 1e-11,
	/** A root in t is known to this. */
	parameter: 1e-13,
	/** Degrees. A turn below this is no corner even to a machine. */
	tangent: 0.01,
	/** Degrees. From this turn on an anchor without handles is taken for a meant corner. */
	corner: 30
} as const;

export const LIMIT = {
	/** mm. The largest drawing. */
	drawing: 10_000,
	/** Pieces into which one curve may be flattened. */
	flattenSteps: 100_000,
	/** Pixels of a picture: 50 megapixels and a little. */
	picturePx: 52_000_000,
	/** Crossings found in one search before it is given up as a tangle. */
	crossings: 200_000,
	/** Subdivision steps for one pair of segments. */
	pairSteps: 4_000
} as const;

/** Fewest control points of a degree. */
export const leastVertices = (degree: number, closed: boolean): number =>
	closed ? Math.max(3, degree) : degree + 1;

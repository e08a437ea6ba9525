/** A symmetric system of two unknowns: (a b; b c) (x, y) = (p, q). Undefined where it is singular. */
export function solve2(a: number, b: number, c: number, p: number, q: number): [number, number] | undefined {
	const det = a * c - b * b;
	if (!(Math.abs(det) > 1e-12 * (a * a + c * c + b * b))) return undefined;
	return [(p * c - q * b) / det, (a * q - b * p) / det];
}

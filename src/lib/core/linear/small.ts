/** Small systems of linear equations. */

/** A symmetric system of two unknowns: (a b; b c) (x, y) = (p, q). Undefined where it is singular. */
export function solve2(a: number, b: number, c: number, p: number, q: number): [number, number] | undefined {
	const det = a * c - b * b;
	if (!(Math.abs(det) > 1e-12 * (a * a + c * c + b * b))) return undefined;
	return [(p * c - q * b) / det, (a * q - b * p) / det];
}

/** Adds "the sum of terms times unknowns is the value" to a system of least squares, rows of m + 1 numbers as `eliminate` takes them. */
export function addEquation(a: Float64Array, terms: readonly number[], value: number, weight = 1): void {
	const m = terms.length;
	for (let r = 0; r < m; r++) {
		const row = (m + 1) * r;
		for (let q = 0; q < m; q++) a[row + q] += weight * terms[r] * terms[q];
		a[row + m] += weight * terms[r] * value;
	}
}

/** Gauss elimination of m rows of m + 1 numbers in place, the last column the answer; false where a pivot vanishes. */
export function eliminate(a: Float64Array, m: number): boolean {
	const w = m + 1;
	for (let r = 0; r < m; r++) {
		const pivot = a[w * r + r];
		if (!(Math.abs(pivot) > 1e-14)) return false;
		for (let q = 0; q < m; q++) {
			if (q === r) continue;
			const f = a[w * q + r] / pivot;
			for (let k = r; k <= m; k++) a[w * q + k] -= f * a[w * r + k];
		}
	}
	for (let r = 0; r < m; r++) a[w * r + m] /= a[w * r + r];
	return true;
}

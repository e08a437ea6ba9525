/** Normal equations of least squares. Source: Cholesky's method, as in Golub and Van Loan, Matrix Computations, 4.2. */

/**
 * Solves a symmetric positive set of equations for two right-hand sides, all in place; zeros before the first entry of a row
 * are passed over.
 *
 * @param a n x n, row by row; its lower half counts.
 */
export function choleskySolve(a: Float64Array, n: number, fx: Float64Array, fy: Float64Array): void {
	const first = new Int32Array(n);
	for (let r = 0; r < n; r++) {
		let c = 0;
		while (c < r && a[r * n + c] === 0) c++;
		first[r] = c;
	}
	for (let r = 0; r < n; r++) {
		for (let c = first[r]; c <= r; c++) {
			let v = a[r * n + c];
			for (let k = Math.max(first[r], first[c]); k < c; k++) v -= a[r * n + k] * a[c * n + k];
			a[r * n + c] = r === c ? Math.sqrt(Math.max(v, 1e-300)) : v / a[c * n + c];
		}
	}
	for (const f of [fx, fy]) {
		for (let r = 0; r < n; r++) {
			let v = f[r];
			for (let k = first[r]; k < r; k++) v -= a[r * n + k] * f[k];
			f[r] = v / a[r * n + r];
		}
		for (let r = n - 1; r >= 0; r--) {
			f[r] /= a[r * n + r];
			for (let k = first[r]; k < r; k++) f[k] -= a[r * n + k] * f[r];
		}
	}
}

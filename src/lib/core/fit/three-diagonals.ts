/** Linear equations in which each unknown meets only its neighbours. */

/** Gauss for three diagonals. */
export function solveLine(lower: number[], middle: number[], upper: number[], right: number[]): number[] {
	const n = middle.length;
	const c = [...upper];
	const d = [...right];
	c[0] /= middle[0];
	d[0] /= middle[0];
	for (let i = 1; i < n; i++) {
		const m = middle[i] - lower[i] * c[i - 1];
		c[i] /= m;
		d[i] = (d[i] - lower[i] * d[i - 1]) / m;
	}
	for (let i = n - 2; i >= 0; i--) d[i] -= c[i] * d[i + 1];
	return d;
}

/** Three diagonals that close over the corner (Sherman and Morrison). */
export function solveRing(lower: number[], middle: number[], upper: number[], right: number[]): number[] {
	const n = middle.length;
	const gamma = -middle[0];
	const m = [...middle];
	m[0] -= gamma;
	m[n - 1] -= (lower[0] * upper[n - 1]) / gamma;
	const u = new Array<number>(n).fill(0);
	u[0] = gamma;
	u[n - 1] = upper[n - 1];
	const y = solveLine(lower, m, upper, right);
	const z = solveLine(lower, m, upper, u);
	const w = lower[0] / gamma;
	const f = (y[0] + w * y[n - 1]) / (1 + z[0] + w * z[n - 1]);
	return y.map((v, i) => v - f * z[i]);
}

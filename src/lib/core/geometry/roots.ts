/** Roots of polynomials in Bernstein form on 0..1. */

/**
 * All roots in 0..1 of a polynomial given by its Bernstein coefficients, each once, ascending.
 * A polynomial that is zero throughout gives none.
 *
 * @param coefficients n + 1 values for degree n, n up to 9.
 * Source: sign changes of the control polygon bound the number of roots (variation diminishing); Schneider,
 * "A Bezier curve-based root-finder", Graphics Gems (1990).
 */
export function bernsteinRoots(coefficients: ArrayLike<number>): number[] {
	const n = coefficients.length - 1;
	const roots: number[] = [];
	let scale = 0;
	for (let i = 0; i <= n; i++) scale = Math.max(scale, Math.abs(coefficients[i]));
	if (!(scale > 0) || !Number.isFinite(scale)) return roots;
	const zero = scale * 1e-15;
	const row = new Float64Array(n + 1);
	for (let i = 0; i <= n; i++) row[i] = Math.abs(coefficients[i]) <= zero ? 0 : coefficients[i];
	search(row, 0, 1, 0, roots);
	roots.sort((a, b) => a - b);
	const apart: number[] = [];
	for (const t of roots) if (!apart.length || t - apart[apart.length - 1] > 1e-11) apart.push(t);
	return apart;
}

function search(row: Float64Array, lo: number, hi: number, depth: number, roots: number[]): void {
	const n = row.length - 1;
	let changes = 0;
	let last = 0;
	for (let i = 0; i <= n; i++) {
		const sign = Math.sign(row[i]);
		if (sign !== 0) {
			if (last !== 0 && sign !== last) changes++;
			last = sign;
		}
	}
	if (row[0] === 0) roots.push(lo);
	if (row[n] === 0) roots.push(hi);
	if (changes === 0) return;
	if (changes === 1 && row[0] * row[n] < 0) {
		roots.push(lo + (hi - lo) * singleRoot(row));
		return;
	}
	if (depth > 48) {
		roots.push((lo + hi) / 2);
		return;
	}
	// Split in the middle (de Casteljau).
	const left = new Float64Array(n + 1);
	left[0] = row[0];
	for (let k = 1; k <= n; k++) {
		for (let i = 0; i <= n - k; i++) row[i] = (row[i] + row[i + 1]) / 2;
		left[k] = row[0];
	}
	const mid = (lo + hi) / 2;
	search(left, lo, mid, depth + 1, roots);
	search(row, mid, hi, depth + 1, roots);
}

/** The one root between ends of opposite sign: Newton's step where it stays inside, halving where it does not. */
function singleRoot(row: Float64Array): number {
	const n = row.length - 1;
	const work = new Float64Array(n + 1);
	const rising = row[n] > row[0];
	let a = 0;
	let b = 1;
	let t = row[0] / (row[0] - row[n]);
	for (let step = 0; step < 80; step++) {
		work.set(row);
		for (let k = 1; k < n; k++) for (let i = 0; i <= n - k; i++) work[i] += t * (work[i + 1] - work[i]);
		const slope = n * (work[1] - work[0]);
		const value = work[0] + t * (work[1] - work[0]);
		if (value === 0) break;
		if (value > 0 === rising) b = t;
		else a = t;
		let next = t - value / slope;
		if (!(next > a && next < b)) next = (a + b) / 2;
		const still = Math.abs(next - t) < 1e-16 || b - a < 1e-16;
		t = next;
		if (still) break;
	}
	return t;
}

/** Which places of a row are needed for straights between them to keep within a distance of all. */

/**
 * @param x,y the places of a row.
 * @param closed whether it goes round; an open row keeps both its ends.
 * @returns which are needed, in order; no place lies farther than `tolerance` from the straight that stands for it.
 * Source: Douglas and Peucker 1973.
 */
export function neededPlaces(
	x: ArrayLike<number>,
	y: ArrayLike<number>,
	closed: boolean,
	tolerance: number
): number[] {
	const n = x.length;
	if (n < 3) return Array.from({ length: n }, (_, k) => k);
	/** Two places far apart are certain to be kept. */
	const farFrom = (a: number) => {
		let [far, most] = [0, -1];
		for (let i = 0; i < n; i++) {
			const d = Math.hypot(x[i] - x[a], y[i] - y[a]);
			if (d > most) [far, most] = [i, d];
		}
		return far;
	};
	const one = closed ? farFrom(0) : 0;
	const other = closed ? farFrom(one) : n - 1;
	const [lo, hi] = [Math.min(one, other), Math.max(one, other)];
	const keep = new Set([lo, hi]);
	const spans: [number, number][] = [[lo, hi]];
	if (closed) spans.push([hi, lo + n]);
	for (let span = spans.pop(); span; span = spans.pop()) {
		const [i, j] = span;
		const [ax, ay] = [x[i % n], y[i % n]];
		const [dx, dy] = [x[j % n] - ax, y[j % n] - ay];
		const size = Math.hypot(dx, dy);
		let most = tolerance;
		let at = -1;
		for (let k = i + 1; k < j; k++) {
			const ex = x[k % n] - ax;
			const ey = y[k % n] - ay;
			const along = size > 0 ? (ex * dx + ey * dy) / size : 0;
			const off =
				along < 0 || size === 0
					? Math.hypot(ex, ey)
					: along > size
						? Math.hypot(ex - dx, ey - dy)
						: Math.abs(ex * dy - ey * dx) / size;
			if (off > most) {
				most = off;
				at = k;
			}
		}
		if (at < 0) continue;
		keep.add(at % n);
		spans.push([i, at], [at, j]);
	}
	return [...keep].sort((p, q) => p - q);
}

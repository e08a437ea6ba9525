/** The exact share of each pixel that shapes cover: pictures whose edges are as exact as the shapes. */

export type Row = readonly (readonly [x: number, y: number])[];

/** A bar about a place, so long and so wide to each side of it, turned by radians. */
export function barAt(x: number, y: number, angle: number, long: number, wide: number): Row {
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	return [
		[-1, -1],
		[1, -1],
		[1, 1],
		[-1, 1]
	].map(([u, v]) => [x + u * long * c - v * wide * s, y + u * long * s + v * wide * c] as const);
}

/**
 * Closed rows of places, px, y down, none over another, as the share of each pixel that they cover: each stretch of a side within
 * one pixel hands on to the right what it covers there.
 */
export function coverOf(rows: readonly Row[], widthPx: number, heightPx: number, scale = 1): Float64Array {
	const given = new Float64Array((widthPx + 1) * heightPx + 1);
	for (const row of rows) {
		let twice = 0;
		row.forEach(([x, y], k) => {
			const [u, v] = row[(k + 1) % row.length];
			twice += x * v - y * u;
		});
		row.forEach(([x, y], k) => {
			const [u, v] = row[(k + 1) % row.length];
			side(x * scale, y * scale, u * scale, v * scale, Math.sign(twice));
		});
	}
	function side(x0: number, y0: number, x1: number, y1: number, sign: number): void {
		const cuts = [0, 1];
		for (const [a, b] of [
			[x0, x1],
			[y0, y1]
		])
			for (let c = Math.ceil(Math.min(a, b)); c <= Math.max(a, b); c++)
				if (a !== b) cuts.push((c - a) / (b - a));
		cuts.sort((a, b) => a - b);
		for (let k = 0; k + 1 < cuts.length; k++) {
			const [s, t] = [cuts[k], cuts[k + 1]];
			if (!(t > s) || s < 0 || t > 1) continue;
			const x = x0 + ((s + t) / 2) * (x1 - x0);
			const i = Math.floor(x);
			const j = Math.floor(y0 + ((s + t) / 2) * (y1 - y0));
			if (j < 0 || j >= heightPx || i >= widthPx) continue;
			const high = (t - s) * (y1 - y0) * sign;
			// What lies to the left of the picture covers all to its right.
			if (i < 0) {
				given[j * (widthPx + 1)] -= high;
				continue;
			}
			given[j * (widthPx + 1) + i] -= high * (1 - (x - i));
			given[j * (widthPx + 1) + i + 1] -= high * (x - i);
		}
	}
	const share = new Float64Array(widthPx * heightPx);
	for (let j = 0; j < heightPx; j++) {
		let sum = 0;
		for (let i = 0; i < widthPx; i++) {
			sum += given[j * (widthPx + 1) + i];
			share[j * widthPx + i] = Math.min(1, Math.abs(sum));
		}
	}
	return share;
}

/** The tone that parts ink from paper. */

/** How many pixels have each of the 256 tones. */
export function toneHistogram(grey: Uint8Array): Uint32Array {
	const counts = new Uint32Array(256);
	for (let i = 0; i < grey.length; i++) counts[grey[i]]++;
	return counts;
}

/**
 * The threshold that separates two classes of tone best: pixels up to it are one class, those above the other.
 * Where several separate equally well the middle one is taken. A picture of one tone gives that tone.
 *
 * @returns 0..254, halves possible.
 * Source: Otsu 1979, "A threshold selection method from gray-level histograms", IEEE SMC 9 (between-class variance).
 */
export function otsuThreshold(counts: ArrayLike<number>): number {
	let total = 0;
	let sum = 0;
	for (let v = 0; v < 256; v++) {
		total += counts[v];
		sum += v * counts[v];
	}
	let below = 0;
	let sumBelow = 0;
	let best = -1;
	let first = 0;
	let last = 0;
	for (let v = 0; v < 255; v++) {
		below += counts[v];
		sumBelow += v * counts[v];
		const above = total - below;
		if (below === 0 || above === 0) continue;
		const apart = sumBelow / below - (sum - sumBelow) / above;
		const variance = below * above * apart * apart;
		if (variance > best * (1 + 1e-12)) {
			best = variance;
			first = last = v;
		} else if (variance >= best * (1 - 1e-12)) last = v;
	}
	if (best < 0) {
		for (let v = 0; v < 256; v++) if (counts[v]) return v;
	}
	return (first + last) / 2;
}

/**
 * The tones of plain ink and plain paper: around the commonest tone on each side of Otsu's threshold. (The plain means
 * of the two classes lean toward the pixels of the edge itself.) Both are the same where the picture has one tone.
 */
export function classTones(
	counts: ArrayLike<number>,
	threshold = otsuThreshold(counts)
): { dark: number; bright: number } {
	const mode = (from: number, to: number): number | undefined => {
		let at = from;
		let most = -1;
		for (let v = from; v <= to; v++) {
			const c = counts[v] + 0.5 * ((counts[v - 1] ?? 0) + (counts[v + 1] ?? 0));
			if (c > most) {
				most = c;
				at = v;
			}
		}
		let sum = 0;
		let weight = 0;
		for (let v = Math.max(from, at - 12); v <= Math.min(to, at + 12); v++) {
			sum += v * counts[v];
			weight += counts[v];
		}
		return weight ? sum / weight : undefined;
	};
	const cut = Math.floor(threshold);
	const [dark, bright] = [mode(0, cut), mode(Math.min(255, cut + 1), 255)];
	return { dark: dark ?? bright ?? threshold, bright: bright ?? dark ?? threshold };
}

/** The tone half way between ink and paper: an anti-aliased edge passes half cover there. */
export function edgeTone(counts: ArrayLike<number>): number {
	const t = otsuThreshold(counts);
	const { dark, bright } = classTones(counts, t);
	return bright > dark ? (dark + bright) / 2 : t;
}

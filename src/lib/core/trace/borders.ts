/**
 * The borders between regions of a labelled picture as a network: chains that part two regions, from one junction of
 * three or more to the next, or round in a ring. Every border exists once, so that neighbours share it.
 */

export interface Chain {
	/** x,y pairs in px along the border, the region `left` on the left hand as seen (y down: on the side of dir turned left). */
	readonly points: Float64Array;
	readonly closed: boolean;
	readonly left: number;
	readonly right: number;
	/** Numbers of the junctions at its ends; -1 for a ring. */
	readonly start: number;
	readonly end: number;
}

/** One region's outline as the chains that it is made of; `forward` where the region lies to their left. */
export interface Loop {
	readonly label: number;
	readonly parts: readonly { readonly chain: number; readonly forward: boolean }[];
	/** px^2 counted in pixels; negative for a hole. */
	readonly area: number;
}

export interface Network {
	readonly chains: readonly Chain[];
	readonly loops: readonly Loop[];
	/** Where junctions lie, x,y pairs in px (pixel corners). */
	readonly junctions: Float64Array;
}

// Directions: 0 right, 1 down, 2 left, 3 up. The pixel on the left hand and the one on the right of the edge ahead.
const STEP_X = [1, 0, -1, 0];
const STEP_Y = [0, 1, 0, -1];
const LEFT_X = [0, 0, -1, -1];
const LEFT_Y = [-1, 0, 0, -1];
const RIGHT_X = [0, -1, -1, 0];
const RIGHT_Y = [0, 0, -1, -1];

/**
 * @param background the label that everything beyond the picture has; it gets no loops.
 * @param place px: how far from the first pixel's centre toward the second one's the border lies, 0..1.
 */
export function* followBorders(
	labels: Uint8Array,
	widthPx: number,
	heightPx: number,
	background: number,
	place: (ax: number, ay: number, bx: number, by: number, a: number, b: number) => number
): Generator<number, Network> {
	const at = (x: number, y: number): number =>
		x < 0 || y < 0 || x >= widthPx || y >= heightPx ? background : labels[y * widthPx + x];
	const w = widthPx + 1;
	const isJunction = (x: number, y: number): boolean => {
		const a = at(x - 1, y - 1);
		const b = at(x, y - 1);
		const c = at(x - 1, y);
		const d = at(x, y);
		const cuts = (a !== b ? 1 : 0) + (b !== d ? 1 : 0) + (d !== c ? 1 : 0) + (c !== a ? 1 : 0);
		return cuts > 2;
	};
	const junctionOf = new Map<number, number>();
	const places: number[] = [];
	const numberOf = (x: number, y: number): number => {
		const key = y * w + x;
		let id = junctionOf.get(key);
		if (id === undefined) {
			id = junctionOf.size;
			junctionOf.set(key, id);
			places.push(x, y);
		}
		return id;
	};
	// The chain that each pixel edge belongs to (+1), level ones and plumb ones.
	const level = new Int32Array(w * (heightPx + 1));
	const plumb = new Int32Array(w * (heightPx + 1));
	const edgeKey = (x: number, y: number, dir: number): [Int32Array, number] =>
		dir === 0
			? [level, y * w + x]
			: dir === 2
				? [level, y * w + x - 1]
				: dir === 1
					? [plumb, y * w + x]
					: [plumb, (y - 1) * w + x];
	const leftOf = (x: number, y: number, dir: number) => at(x + LEFT_X[dir], y + LEFT_Y[dir]);
	const rightOf = (x: number, y: number, dir: number) => at(x + RIGHT_X[dir], y + RIGHT_Y[dir]);
	const chains: Chain[] = [];

	/** Walks from a pixel corner in a direction until a junction or back to the start. */
	const walk = (x0: number, y0: number, dir0: number, fromJunction: boolean): void => {
		const left = leftOf(x0, y0, dir0);
		const right = rightOf(x0, y0, dir0);
		const points: number[] = [];
		const dirs: number[] = [];
		const id = chains.length + 1;
		let x = x0;
		let y = y0;
		let dir = dir0;
		for (;;) {
			const [map, key] = edgeKey(x, y, dir);
			map[key] = id;
			const ax = x + LEFT_X[dir];
			const ay = y + LEFT_Y[dir];
			const bx = x + RIGHT_X[dir];
			const by = y + RIGHT_Y[dir];
			const share = place(ax, ay, bx, by, left, right);
			dirs.push(dir);
			points.push(ax + 0.5 + (bx - ax) * share, ay + 0.5 + (by - ay) * share);
			x += STEP_X[dir];
			y += STEP_Y[dir];
			if (isJunction(x, y)) break;
			if (!fromJunction && x === x0 && y === y0) break;
			// On along the only border that goes on.
			for (const turn of [3, 0, 1]) {
				const next = (dir + turn) % 4;
				if (leftOf(x, y, next) === left && rightOf(x, y, next) === right) {
					dir = next;
					break;
				}
			}
		}
		const closed = !fromJunction;
		chains.push({
			points: acrossOnly(points, dirs, closed),
			closed,
			left,
			right,
			start: closed ? -1 : numberOf(x0, y0),
			end: closed ? -1 : numberOf(x, y)
		});
	};

	for (let y = 0; y <= heightPx; y++) {
		if ((y & 63) === 0) yield (0.6 * y) / heightPx;
		for (let x = 0; x <= widthPx; x++) {
			if (!isJunction(x, y)) continue;
			for (let dir = 0; dir < 4; dir++) {
				if (leftOf(x, y, dir) === rightOf(x, y, dir)) continue;
				const [map, key] = edgeKey(x, y, dir);
				if (!map[key]) walk(x, y, dir, true);
			}
		}
	}
	for (let y = 0; y <= heightPx; y++) {
		if ((y & 63) === 0) yield 0.6 + (0.2 * y) / heightPx;
		for (let x = 0; x < widthPx; x++) {
			if (level[y * w + x] || leftOf(x, y, 0) === rightOf(x, y, 0)) continue;
			walk(x, y, 0, false);
		}
	}

	// Every region's loops, by walking round it with the region on the left hand.
	const loops: Loop[] = [];
	const seen = new Uint8Array(w * (heightPx + 1));
	for (let y = 0; y <= heightPx; y++) {
		if ((y & 63) === 0) yield 0.8 + (0.2 * y) / heightPx;
		for (let x = 0; x < widthPx; x++) {
			for (const dir0 of [0, 2]) {
				const sx = dir0 === 0 ? x : x + 1;
				const label = leftOf(sx, y, dir0);
				if (label === rightOf(sx, y, dir0) || label === background) continue;
				const bit = dir0 === 0 ? 1 : 2;
				if (seen[y * w + x] & bit) continue;
				const parts: { chain: number; forward: boolean }[] = [];
				let area = 0;
				let cx = sx;
				let cy = y;
				let dir = dir0;
				do {
					const [map, key] = edgeKey(cx, cy, dir);
					if (dir === 0) seen[key] |= 1;
					if (dir === 2) seen[key] |= 2;
					const chain = map[key] - 1;
					const last = parts[parts.length - 1];
					if (!last || last.chain !== chain || isJunction(cx, cy))
						parts.push({ chain, forward: chains[chain].left === label });
					area += dir === 1 ? cx : dir === 3 ? -cx : 0;
					cx += STEP_X[dir];
					cy += STEP_Y[dir];
					// Regions that touch at a corner only are apart: turn toward the region first.
					for (const turn of [3, 0, 1, 2]) {
						const next = (dir + turn) % 4;
						if (leftOf(cx, cy, next) === label && rightOf(cx, cy, next) !== label) {
							dir = next;
							break;
						}
					}
				} while (cx !== sx || cy !== y || dir !== dir0);
				// Begun in the middle of a chain: its two halves are one part.
				if (parts.length > 1 && parts[0].chain === parts[parts.length - 1].chain && !isJunction(sx, y))
					parts.pop();
				loops.push({ label, parts, area: -area });
			}
		}
	}
	return { chains, loops, junctions: Float64Array.from(places) };
}

/**
 * Keeps the points whose pixel edge lies along the border rather than across it: square to such an edge the border's
 * place is told exactly, along it hardly. A short chain keeps all.
 */
function acrossOnly(points: readonly number[], dirs: readonly number[], closed: boolean): Float64Array {
	const n = dirs.length;
	const out: number[] = [];
	for (let i = 0; i < n; i++) {
		let dx = 0;
		let dy = 0;
		for (let k = i - 3; k <= i + 3; k++) {
			if (!closed && (k < 0 || k >= n)) continue;
			const dir = dirs[((k % n) + n) % n];
			dx += STEP_X[dir];
			dy += STEP_Y[dir];
		}
		const along = dirs[i] % 2 === 0 ? Math.abs(dx) : Math.abs(dy);
		const across = dirs[i] % 2 === 0 ? Math.abs(dy) : Math.abs(dx);
		if (along >= 0.85 * across) out.push(points[2 * i], points[2 * i + 1]);
	}
	return Float64Array.from(out.length >= 16 ? out : points);
}

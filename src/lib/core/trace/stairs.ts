/**
 * The line behind the stairs of a picture without tones between ink and paper. Where a stair rises by one pixel the line
 * passes the middle of the riser, and in the middle of every tread it lies on it, so the middles of all runs of pixel edges
 * lie close to the line, however long the treads are; the single edges of a tread lie up to half a pixel off.
 */

const STEP_X = [1, 0, -1, 0];
const STEP_Y = [0, 1, 0, -1];

interface Run {
	dir: number;
	length: number;
	/** Where it begins, px. */
	x: number;
	y: number;
}

/**
 * @param x0 where the walk begins, a corner between pixels.
 * @param dirs directions of the unit edges in order, 0 right, 1 down, 2 left, 3 up; closed.
 * @returns x,y pairs about a pixel apart.
 */
export function pointsBehindStairs(x0: number, y0: number, dirs: ArrayLike<number>): Float64Array {
	const runs = runsOf(x0, y0, dirs);
	const m = runs.length;
	const spots: number[] = [];
	const isCorner = (k: number) => runs[k].length > 1 && runs[(k + 1) % m].length > 1;
	for (let k = 0; k < m; k++) {
		const run = runs[k];
		const cornerBefore = isCorner((k + m - 1) % m);
		const cornerAfter = isCorner(k);
		const at = (share: number) =>
			spots.push(run.x + STEP_X[run.dir] * run.length * share, run.y + STEP_Y[run.dir] * run.length * share);
		const [before, after] = [runs[(k + m - 1) % m], runs[(k + 1) % m]];
		if (cornerBefore !== cornerAfter) {
			// A tread that a corner cuts short: its middle tells nothing.
		} else if (cornerBefore || before.dir === after.dir || run.length < 6) at(0.5);
		else {
			// Between a rise and a fall the line turns, or runs level: it leaves the tread about a neighbouring tread's length
			// before its end.
			const a = Math.min(0.3, runs[(k + m - 2) % m].length / run.length);
			const b = Math.min(0.3, runs[(k + 2) % m].length / run.length);
			for (const share of [a, 0.5, 1 - b]) at(share);
		}
		if (cornerAfter) at(1);
	}
	return dense(spots);
}

function runsOf(x0: number, y0: number, dirs: ArrayLike<number>): Run[] {
	const n = dirs.length;
	// Begun where the direction changes, so that no run is cut in two.
	let first = 0;
	while (first < n && dirs[first] === dirs[(first + n - 1) % n]) first++;
	let x = x0;
	let y = y0;
	for (let k = 0; k < first; k++) {
		x += STEP_X[dirs[k]];
		y += STEP_Y[dirs[k]];
	}
	const runs: Run[] = [];
	for (let k = 0; k < n; k++) {
		const dir = dirs[(first + k) % n];
		const last = runs[runs.length - 1];
		if (last && last.dir === dir) last.length++;
		else runs.push({ dir, length: 1, x, y });
		x += STEP_X[dir];
		y += STEP_Y[dir];
	}
	return runs;
}

/** The closed line through the spots with a point about every pixel. */
function dense(spots: readonly number[]): Float64Array {
	const out: number[] = [];
	const n = spots.length;
	for (let i = 0; i < n; i += 2) {
		const [x, y] = [spots[i], spots[i + 1]];
		const [u, v] = [spots[(i + 2) % n], spots[(i + 3) % n]];
		const steps = Math.max(1, Math.round(Math.hypot(u - x, v - y)));
		for (let k = 0; k < steps; k++) out.push(x + ((u - x) * k) / steps, y + ((v - y) * k) / steps);
	}
	return Float64Array.from(out);
}

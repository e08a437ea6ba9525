/** Winding numbers of many places around the same polylines: edges sorted into level rows. */

const ROWS = 2048;

/** Answers how often closed polylines wind around a place. */
export class WindingRows {
	private readonly y0: number;
	private readonly height: number;
	private readonly starts: Int32Array;
	private readonly edges: Float64Array;

	/** @param lines x,y pairs of closed polylines; the end is joined to the start. */
	constructor(lines: readonly ArrayLike<number>[]) {
		let y0 = Infinity;
		let y1 = -Infinity;
		for (const p of lines) {
			for (let i = 1; i < p.length; i += 2) {
				if (p[i] < y0) y0 = p[i];
				if (p[i] > y1) y1 = p[i];
			}
		}
		this.y0 = y0;
		this.height = y1 > y0 ? (y1 - y0) / ROWS : 1;
		const counts = new Int32Array(ROWS + 1);
		const each = (visit: (row: number, x0: number, y0: number, x1: number, y1: number) => void) => {
			for (const p of lines) {
				for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
					if (p[i + 1] === p[j + 1]) continue;
					const lo = this.row(Math.min(p[i + 1], p[j + 1]));
					const hi = this.row(Math.max(p[i + 1], p[j + 1]));
					for (let r = lo; r <= hi; r++) visit(r, p[j], p[j + 1], p[i], p[i + 1]);
				}
			}
		};
		each((r) => counts[r + 1]++);
		for (let r = 0; r < ROWS; r++) counts[r + 1] += counts[r];
		this.starts = counts;
		this.edges = new Float64Array(4 * counts[ROWS]);
		const fill = Int32Array.from(counts);
		each((r, ax, ay, bx, by) => {
			const k = 4 * fill[r]++;
			this.edges[k] = ax;
			this.edges[k + 1] = ay;
			this.edges[k + 2] = bx;
			this.edges[k + 3] = by;
		});
	}

	private row(y: number): number {
		const r = Math.floor((y - this.y0) / this.height);
		return r < 0 ? 0 : r >= ROWS ? ROWS - 1 : r;
	}

	/** The winding number at a place; 0 outside. */
	at(x: number, y: number): number {
		if (!(y >= this.y0 && y <= this.y0 + ROWS * this.height)) return 0;
		const r = this.row(y);
		const e = this.edges;
		let winding = 0;
		for (let k = 4 * this.starts[r]; k < 4 * this.starts[r + 1]; k += 4) {
			if (e[k + 1] <= y === e[k + 3] <= y) continue;
			const cross = (e[k + 2] - e[k]) * (y - e[k + 1]) - (x - e[k]) * (e[k + 3] - e[k + 1]);
			if (e[k + 3] > e[k + 1] && cross > 0) winding++;
			else if (e[k + 3] < e[k + 1] && cross < 0) winding--;
		}
		return winding;
	}
}

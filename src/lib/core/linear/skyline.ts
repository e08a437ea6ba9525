/** Symmetric equations with few entries, ordered so that they lie close to the diagonal, and solved by Cholesky there. */

/** Rows of entries by column; symmetric, both halves written. */
export type SparseRows = readonly ReadonlyMap<number, number>[];

/** An order in which neighbours lie close together. Source: Cuthill and McKee 1969, reversed (George 1971). */
export function closeOrder(rows: SparseRows): Int32Array {
	const n = rows.length;
	const order: number[] = [];
	const seen = new Uint8Array(n);
	const degree = (i: number) => rows[i].size;
	const byDegree = Array.from({ length: n }, (_, i) => i).sort((a, b) => degree(a) - degree(b));
	for (const start of byDegree) {
		if (seen[start]) continue;
		seen[start] = 1;
		order.push(start);
		for (let k = order.length - 1; k < order.length; k++) {
			const next = [...rows[order[k]].keys()].filter((j) => !seen[j]).sort((a, b) => degree(a) - degree(b));
			for (const j of next) {
				seen[j] = 1;
				order.push(j);
			}
		}
	}
	return Int32Array.from(order.reverse());
}

/** Share of its diagonal below which a pivot says that its row follows from those before it. */
const DEPENDENT = 1e-9;

/** The factor of a symmetric matrix that is nowhere negative; rows that follow from others are left out and told. */
export class Skyline {
	private readonly first: Int32Array;
	private readonly factor: Float64Array[];
	private readonly place: Int32Array;
	/** Rows that follow from those before them in the order. */
	readonly dependent: readonly number[];

	/** @param extra added to the diagonal. */
	constructor(
		rows: SparseRows,
		private readonly order: Int32Array,
		extra = 0
	) {
		const n = order.length;
		const place = new Int32Array(n);
		order.forEach((row, k) => (place[row] = k));
		this.place = place;
		this.first = new Int32Array(n);
		this.factor = [];
		const dependent: number[] = [];
		for (let k = 0; k < n; k++) {
			let least = k;
			for (const j of rows[order[k]].keys()) least = Math.min(least, place[j]);
			this.first[k] = least;
			const row = new Float64Array(k - least + 1);
			for (const [j, value] of rows[order[k]]) if (place[j] <= k) row[place[j] - least] = value;
			const own = row[k - least];
			row[k - least] += extra;
			for (let j = least; j < k; j++) {
				const other = this.factor[j];
				const from = Math.max(least, this.first[j]);
				let sum = row[j - least];
				for (let c = from; c < j; c++) sum -= row[c - least] * other[c - this.first[j]];
				row[j - least] = sum / other[j - this.first[j]];
			}
			let pivot = row[k - least];
			for (let c = least; c < k; c++) pivot -= row[c - least] * row[c - least];
			if (pivot > DEPENDENT * (own + extra)) row[k - least] = Math.sqrt(pivot);
			else {
				dependent.push(order[k]);
				row.fill(0);
				row[k - least] = Infinity;
			}
			this.factor.push(row);
		}
		this.dependent = dependent;
	}

	/** The unknowns for a right side; those of dependent rows are 0. */
	solve(right: ArrayLike<number>): Float64Array {
		const n = this.order.length;
		const y = new Float64Array(n);
		for (let k = 0; k < n; k++) {
			const row = this.factor[k];
			const least = this.first[k];
			let sum = right[this.order[k]];
			for (let c = least; c < k; c++) sum -= row[c - least] * y[c];
			y[k] = sum / row[k - least];
		}
		for (let k = n - 1; k >= 0; k--) {
			const row = this.factor[k];
			const least = this.first[k];
			y[k] /= row[k - least];
			for (let c = least; c < k; c++) y[c] -= row[c - least] * y[k];
		}
		const x = new Float64Array(n);
		for (let i = 0; i < n; i++) x[i] = y[this.place[i]];
		return x;
	}
}

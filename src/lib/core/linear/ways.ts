/** Many equations over many places, each over few of them that lie near each other. */
import { closeOrder, Skyline } from './skyline';

/** What holds a place that the equations leave loose. */
const LOOSE = 1e-6;

/**
 * Equations over places: what comes of each place's way, by its vector, adds up to what is asked for. They are added up as they
 * come, those over the same places together.
 */
export class Equations {
	private readonly blocks = new Map<readonly number[], Float64Array>();
	private readonly right: Float64Array;

	/** @param count of places. */
	constructor(private readonly count: number) {
		this.right = new Float64Array(2 * count);
	}

	/**
	 * @param at which places; many equations share one list.
	 * @param by x,y of each one's vector.
	 * @param value what is asked for, times the weight.
	 */
	add(at: readonly number[], by: ArrayLike<number>, weight: number, value: number): void {
		const m = 2 * at.length;
		let block = this.blocks.get(at);
		if (!block) this.blocks.set(at, (block = new Float64Array(m * m)));
		for (let i = 0; i < m; i++) {
			const share = by[i];
			if (share === 0) continue;
			this.right[2 * at[i >> 1] + (i & 1)] += value * share;
			for (let j = 0; j <= i; j++) block[i * m + j] += weight * share * by[j];
		}
	}

	/**
	 * The ways of all places that answer the equations with the least squares.
	 * @param isHeld places that stay where they are.
	 * @returns how far each goes along x and along y.
	 */
	solve(isHeld: ArrayLike<number>): [x: Float64Array, y: Float64Array] {
		const free = Array.from({ length: this.count }, (_, k) => k).filter((k) => !isHeld[k]);
		const row = new Int32Array(this.count).fill(-1);
		free.forEach((place, k) => (row[place] = 2 * k));
		const rows = free.flatMap(() => [new Map<number, number>(), new Map<number, number>()]);
		for (const [at, block] of this.blocks) {
			const m = 2 * at.length;
			const unknown = (i: number) => (row[at[i >> 1]] < 0 ? -1 : row[at[i >> 1]] + (i & 1));
			for (let i = 0; i < m; i++)
				for (let j = 0; j <= i; j++) {
					const [p, q] = [unknown(i), unknown(j)];
					if (p < 0 || q < 0) continue;
					rows[p].set(q, (rows[p].get(q) ?? 0) + block[i * m + j]);
					// A place that is named twice has its own entry from both.
					if (i !== j) rows[q].set(p, (rows[q].get(p) ?? 0) + block[i * m + j]);
				}
		}
		const right = Float64Array.from(
			{ length: rows.length },
			(_, i) => this.right[2 * free[i >> 1] + (i & 1)]
		);
		const ways = new Skyline(rows, closeOrder(rows), LOOSE).solve(right);
		const [x, y] = [new Float64Array(this.count), new Float64Array(this.count)];
		free.forEach((place, k) => {
			x[place] = ways[2 * k];
			y[place] = ways[2 * k + 1];
		});
		return [x, y];
	}
}

/** What pixels say of the segments of lines, added up: each by what is left of its share, odd ones less and less. */
import type { Agreement } from './settle';

/** What a pixel costs that scatters as pixels do. */
export const DUE = 0.5;

export class Tally {
	readonly costs: Float64Array;
	readonly counts: Float64Array;
	private readonly squares: Float64Array;
	/** How much unlikelier than it should be near its start and near its end each segment is, where a witness looks for that. */
	readonly atStart: Float64Array;
	readonly atEnd: Float64Array;

	/**
	 * @param count of segments.
	 * @param spread how far shares scatter.
	 * @param odd spreads beyond which a pixel counts less and less.
	 */
	constructor(
		count: number,
		private readonly spread: number,
		private readonly odd: number
	) {
		this.costs = new Float64Array(count);
		this.counts = new Float64Array(count);
		this.squares = new Float64Array(count);
		this.atStart = new Float64Array(count);
		this.atEnd = new Float64Array(count);
	}

	/**
	 * @param square of what is left of a pixel's share.
	 * @returns how much the pixel counts.
	 */
	add(segment: number, square: number): number {
		const { spread, odd } = this;
		const odds = square / (odd * spread * odd * spread);
		this.costs[segment] += 0.5 * odd * odd * Math.log1p(odds);
		this.squares[segment] += square;
		this.counts[segment]++;
		return 1 / (spread * spread) / (1 + odds);
	}

	agreement(): Agreement {
		const { costs, counts, squares, atStart, atEnd } = this;
		return {
			costs,
			atStart,
			atEnd,
			seen: counts,
			due: counts.map((count) => DUE * count),
			rough: squares.map((sum, k) => Math.sqrt(sum / Math.max(1, counts[k])))
		};
	}
}

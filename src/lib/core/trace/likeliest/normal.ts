/** The normal distribution, in one direction and in two. */

const ROOT = Math.sqrt(2 * Math.PI);

export const density = (x: number): number => Math.exp(-0.5 * x * x) / ROOT;

/** How much of it lies below x, to 1e-7. Source: Zelen and Severo 1964, 26.2.17 in Abramowitz and Stegun. */
export function below(x: number): number {
	const t = 1 / (1 + 0.2316419 * Math.abs(x));
	const tail =
		density(x) *
		t *
		(0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
	return x > 0 ? 1 - tail : tail;
}

/** Places and weights of eight points between -1 and 1. Source: Gauss and Legendre, 25.4.30 in Abramowitz and Stegun. */
const POINTS = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const WEIGHTS = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

/**
 * How much lies below x in one direction and below y in another.
 * Source: Plackett 1954, the integral over the correlation, by its angle.
 * @param together their correlation, -1 to 1.
 */
export function bothBelow(x: number, y: number, together: number): number {
	const whole = Math.asin(together);
	let sum = 0;
	POINTS.forEach((point, i) => {
		for (const side of [1 - point, 1 + point]) {
			const sine = Math.sin((whole * side) / 2);
			sum += WEIGHTS[i] * Math.exp(-(x * x + y * y - 2 * x * y * sine) / (2 * (1 - sine * sine)));
		}
	});
	return below(x) * below(y) + (whole * sum) / (4 * Math.PI);
}

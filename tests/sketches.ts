/** Random sketches for the tests of holds. */
import {
	apart,
	atAngle,
	atShare,
	onLine,
	parallel,
	pinned,
	together,
	type Equation
} from '../src/lib/core/holds/equations';
import { chance } from './shapes';

/** A sketch drawn first: places, and holds that are true of them. */
export function sketch(
	seed: number,
	places: number,
	holds: number
): { values: Float64Array; equations: Equation[] } {
	const next = chance(seed);
	const values = Float64Array.from({ length: 2 * places }, () => 100 * next());
	const v = values;
	const pick = () => 2 * Math.floor(next() * places);
	const equations: Equation[] = [];
	for (let h = 0; h < holds; h++) {
		const [p, q, r, s] = [pick(), pick(), pick(), pick()];
		const far = (a: number, b: number) => Math.hypot(v[b] - v[a], v[b + 1] - v[a + 1]);
		if (p === q || far(p, q) < 5) continue;
		const kind = Math.floor(next() * 6);
		if (kind === 0) equations.push(...apart(p, q, far(p, q))(h));
		else if (kind === 1)
			equations.push(...atAngle(p, q, (Math.atan2(v[q + 1] - v[p + 1], v[q] - v[p]) * 180) / Math.PI)(h));
		else if (kind === 2) equations.push(...pinned(p, v[p], v[p + 1])(h));
		else if (kind === 3 && new Set([p, q, r]).size === 3) {
			v[r] = (v[p] + v[q]) / 2;
			v[r + 1] = (v[p + 1] + v[q + 1]) / 2;
			// What was held of it before would not be true any more.
			if (equations.some(({ unknowns }) => unknowns.includes(r)))
				return sketch(seed + 100_003, places, holds);
			equations.push(...atShare(r, p, q, 0.5)(h));
		} else if (kind === 4 && new Set([p, q, r, s]).size === 4 && far(r, s) > 5) {
			const rad = Math.atan2(v[q + 1] - v[p + 1], v[q] - v[p]);
			const long = far(r, s);
			if (equations.some(({ unknowns }) => unknowns.includes(s))) continue;
			v[s] = v[r] + long * Math.cos(rad);
			v[s + 1] = v[r + 1] + long * Math.sin(rad);
			equations.push(...parallel(p, q, r, s)(h));
		} else if (kind === 5)
			equations.push(...onLine(p, v[p] - 3, v[p + 1] - 4, (Math.atan2(4, 3) * 180) / Math.PI)(h));
	}
	return { values, equations };
}

/** The holds of the triangle that cannot be: 10 is more than 3 and 4 together. */
export const IMPOSSIBLE = [900, 901, 902];

/** A sketch with a triangle beside it whose sides cannot meet, tied to its first place. */
export function impossible(seed: number): { values: Float64Array; equations: Equation[] } {
	const { values, equations } = sketch(seed, 6 + (seed % 6), 8);
	const n = values.length;
	const triangle = [
		apart(n, n + 2, 10)(900),
		apart(n + 2, n + 4, 3)(901),
		apart(n, n + 4, 4)(902),
		together(n, 0)(903)
	].flat();
	return {
		values: Float64Array.from([...values, 0, 0, 10, 0, 5, 5]),
		equations: [...equations, ...triangle]
	};
}

/** Random sketches for the tests of holds. */
import {
	alike,
	apart,
	atAngle,
	atShare,
	inLine,
	level,
	meetsInCurvature,
	meetsInDirection,
	onCircle,
	onLine,
	parallel,
	pinned,
	plumb,
	radius,
	sameRadius,
	seams,
	square,
	tangent,
	together,
	touching,
	type ArcSpots,
	type Equation
} from '../src/lib/core/holds/equations';
import { ARC, CUBIC, STRAIGHT } from '../src/lib/core/geometry/path';
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

/**
 * A sketch with curves, drawn so that its holds are true: each is about places of its own, and every second one ties one of them to
 * a place that was there before.
 */
export function curvedSketch(seed: number, holds: number): { values: Float64Array; equations: Equation[] } {
	const next = chance(seed);
	const values: number[] = [];
	const equations: Equation[] = [];
	const ends: number[] = [];
	const put = (x: number, y: number) => values.push(x, y) - 2;
	const polar = ([x, y]: readonly number[], far: number, angle: number) =>
		[x + far * Math.cos(angle), y + far * Math.sin(angle)] as const;
	const anywhere = () => [100 * next(), 100 * next()] as const;
	const turn = () => 2 * Math.PI * next();
	const long = () => 8 + 30 * next();
	/** An arc of a circle, a quarter to a half of it, either way. */
	const arc = (middle: readonly [number, number], r: number): ArcSpots => {
		const [a, sweep] = [turn(), (next() < 0.5 ? -1 : 1) * (1.2 + 1.6 * next())];
		const [from, to] = [put(...polar(middle, r, a)), put(...polar(middle, r, a + sweep))];
		return { from, to, bulge: values.push(Math.tan(sweep / 4)) - 1 };
	};
	const straight = (from = anywhere(), angle = turn(), far = long()) =>
		[put(...from), put(...polar(from, far, angle))] as const;
	const length = (p: number, q: number) => Math.hypot(values[q] - values[p], values[q + 1] - values[p + 1]);
	const made: readonly (() => { makes: (hold: number) => Equation[]; first: number })[] = [
		() => {
			const a = turn();
			const [p, q] = straight(anywhere(), a);
			const [r, s] = straight(anywhere(), a + Math.PI / 2);
			return { makes: square(p, q, r, s), first: p };
		},
		() => {
			const far = long();
			const [p, q] = straight(anywhere(), turn(), far);
			const [r, s] = straight(anywhere(), turn(), far);
			return { makes: alike(p, q, r, s), first: p };
		},
		() => {
			const [from, a] = [anywhere(), turn()];
			const [p, q] = straight(from, a, 40);
			return { makes: inLine(put(...polar(from, 60 * next(), a)), p, q), first: p };
		},
		() => {
			const [p, q] = straight(anywhere(), next() < 0.5 ? 0 : Math.PI);
			return { makes: level(p, q), first: p };
		},
		() => {
			const [p, q] = straight(anywhere(), next() < 0.5 ? Math.PI / 2 : -Math.PI / 2);
			return { makes: plumb(p, q), first: p };
		},
		() => {
			const r = long();
			const one = arc(anywhere(), r);
			return { makes: radius(one, r), first: one.from };
		},
		() => {
			const r = long();
			const one = arc(anywhere(), r);
			return { makes: sameRadius(one, arc(anywhere(), r)), first: one.from };
		},
		() => {
			const [middle, r] = [anywhere(), long()];
			const one = arc(middle, r);
			return { makes: onCircle(put(...polar(middle, r, turn())), one), first: one.from };
		},
		() => {
			const [middle, r, a] = [anywhere(), long(), turn()];
			const one = arc(middle, r);
			const [p, q] = straight(
				polar(polar(middle, r, a), 20 * (next() - 0.5), a + Math.PI / 2),
				a + Math.PI / 2
			);
			return { makes: tangent(p, q, one), first: one.from };
		},
		() => {
			const [middle, r, other, a] = [anywhere(), long(), long(), turn()];
			const one = arc(middle, r);
			return { makes: touching(one, arc(polar(middle, r + other, a), other)), first: one.from };
		},
		() => {
			const [at, a] = [anywhere(), turn()];
			const ps = [
				put(...at),
				put(...polar(at, long(), a)),
				put(...at),
				put(...polar(at, long(), a + Math.PI))
			] as const;
			return { makes: meetsInDirection(...ps), first: ps[1] };
		},
		() => {
			const [at, a] = [anywhere(), turn()];
			const handle = long();
			const bent = long();
			const way = 0.3 + next();
			// The second leaves as the mirror image of the first.
			const side = (ahead: number, left: number) => {
				const h = polar(at, handle, ahead);
				return [put(...at), put(...h), put(...polar(h, bent, ahead + left))] as const;
			};
			const first = side(a, way);
			return { makes: meetsInCurvature(first, side(a + Math.PI, -way)), first: first[1] };
		},
		() => {
			const [p, q] = straight();
			const [from, out] = straight();
			const [into, to] = straight();
			const curve = { type: CUBIC, from, out, in: into, to } as const;
			const bow = arc(anywhere(), long());
			const first = [{ type: STRAIGHT, from: p, to: q } as const, { type: ARC, ...bow } as const];
			const [own] = seams(first, [curve], 0)(0);
			const longer = own.off(own.unknowns.map((u) => values[u]));
			return { makes: seams(first, [curve], longer), first: p };
		}
	];
	for (let h = 0; h < holds; h++) {
		const { makes, first } = made[Math.floor(made.length * next())]();
		equations.push(...makes(h));
		// Tied to one that was there: as far as they are.
		if (h % 2 && ends.length) {
			const other = ends[Math.floor(ends.length * next())];
			if (length(other, first) > 5) equations.push(...apart(other, first, length(other, first))(holds + h));
		}
		ends.push(first);
	}
	return { values: Float64Array.from(values), equations };
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

/** Holds of what is moved as a whole: they go along, so that they still say what is true. */
import { evenMap, placed } from '../../geometry/maps';
import type { Affine } from '../../geometry/path';
import { recordsOf, type Drawing } from '../drawing';
import type { Hold } from './hold';

/** A number that a value is added to or multiplied by, as it stands in a formula. */
const written = (v: number): string => `${Number(v.toFixed(9))}`;
const isNumber = (text: string): boolean => /^-?\d+(\.\d+)?$/.test(text.trim());
const plus = (text: string, v: number): string =>
	isNumber(text) ? written(Number(text) + v) : `${text} + ${written(v)}`;
const times = (text: string, v: number): string =>
	isNumber(text) ? written(Number(text) * v) : `(${text}) * ${written(v)}`;

/** The hold after all its places went through a map; undefined where it would say something else then. */
export function carriedHold(hold: Hold, map: Affine): Hold | undefined {
	const even = evenMap(map);
	if (!even) return undefined;
	const { turned, turn, scale, flips } = even;
	const isTurned = Math.abs(turn) > 1e-9 || flips;
	const { value = '0' } = hold;
	switch (hold.kind) {
		case 'pin':
			return { ...hold, ...placed(map, hold.x ?? 0, hold.y ?? 0) };
		case 'on guide':
		case 'along guide':
			return hold;
		case 'level':
		case 'plumb': {
			const steps = turn / 90;
			const whole = Math.abs(steps - Math.round(steps)) < 1e-9;
			if (whole) {
				const swaps = Math.round(steps) % 2 !== 0;
				return swaps ? { ...hold, kind: hold.kind === 'level' ? 'plumb' : 'level' } : hold;
			}
			return { ...hold, kind: 'angle', value: written(turned(hold.kind === 'level' ? 0 : 90)) };
		}
		case 'angle':
			if (!isTurned) return hold;
			return { ...hold, value: plus(flips ? times(value, -1) : value, turn) };
		case 'length':
		case 'radius':
		case 'seams':
			return Math.abs(scale - 1) < 1e-12 ? hold : { ...hold, value: times(value, scale) };
		default:
			return hold;
	}
}

/** The holds of outlines that are moved as wholes, as they become; none where they stay what they are, or stand against it. */
export function carriedHolds(drawing: Drawing, ids: ReadonlySet<string>, map: Affine): Hold[] {
	return recordsOf(drawing, 'hold').flatMap((hold) => {
		if (!hold.on.every(({ outline }) => ids.has(outline))) return [];
		const next = carriedHold(hold, map);
		return next && next !== hold ? [next] : [];
	});
}

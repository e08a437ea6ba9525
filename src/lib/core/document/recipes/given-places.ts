/** What recipes of places have in common: ids that last, places under a map, numbers that hold. */
import { isSimilarity, type Affine } from '../../geometry/path';
import { placed } from '../../geometry/maps';
import type { Point } from '../../geometry/point';

/** A place with an id that it keeps. */
export interface NumberedPlace extends Point {
	readonly id: number;
}

export const nextId = (places: readonly NumberedPlace[]): number =>
	places.reduce((most, { id }) => Math.max(most, id), 0) + 1;

export const carriedPlaces = <P extends Point>(places: readonly P[], map: Affine): P[] =>
	places.map((place) => ({ ...place, ...placed(map, place.x, place.y) }));

/** What a map does to directions (degrees) and to lengths; undefined where it is no even one. */
export function evenMap(
	map: Affine
): { turned(degrees: number): number; scale: number; flips: boolean } | undefined {
	if (!isSimilarity(map)) return undefined;
	const [a, b, c, d] = map;
	const flips = a * d - b * c < 0;
	const turn = (Math.atan2(b, a) * 180) / Math.PI;
	return {
		turned: (degrees) => turn + (flips ? -degrees : degrees),
		scale: Math.sqrt(Math.abs(a * d - b * c)),
		flips
	};
}

export const isNumber = (value: unknown): value is number =>
	typeof value === 'number' && Number.isFinite(value);
const isPoint = (value: unknown): value is Point =>
	typeof value === 'object' && value !== null && isNumber((value as Point).x) && isNumber((value as Point).y);
export const arePlaces = (value: unknown, least: number): value is readonly NumberedPlace[] =>
	Array.isArray(value) &&
	value.length >= least &&
	value.length <= MOST_PLACES &&
	value.every((place) => isPoint(place) && Number.isInteger((place as NumberedPlace).id)) &&
	new Set(value.map((place: NumberedPlace) => place.id)).size === value.length;
export { isPoint };

/** More places are no longer given by hand. */
const MOST_PLACES = 20_000;

/** Whether optional numbers of places are numbers, where they are there. */
export const numbersHold = (places: readonly object[], names: readonly string[]): boolean =>
	places.every((place) =>
		names.every(
			(name) =>
				(place as Record<string, unknown>)[name] === undefined ||
				isNumber((place as Record<string, unknown>)[name])
		)
	);

/** What recipes of places have in common: ids that last, places under a map, numbers that hold. */
import type { Affine } from '../../geometry/path';
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

export const isNumber = (value: unknown): value is number =>
	typeof value === 'number' && Number.isFinite(value);
export const isPoint = (value: unknown): value is Point =>
	typeof value === 'object' && value !== null && isNumber((value as Point).x) && isNumber((value as Point).y);
export const arePlaces = (value: unknown, least: number): value is readonly NumberedPlace[] =>
	Array.isArray(value) &&
	value.length >= least &&
	value.length <= MOST_PLACES &&
	value.every((place) => isPoint(place) && Number.isInteger((place as NumberedPlace).id)) &&
	new Set(value.map((place: NumberedPlace) => place.id)).size === value.length;

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

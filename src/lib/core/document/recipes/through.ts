/** A curve through picked points: each may have a direction, a pull and a radius of its own. */
import type { Pace, Through } from '../../fit/through';
import { arePlaces, carriedPlaces, isNumber, numbersHold, type NumberedPlace } from './given-places';
import { evenMap } from '../../geometry/maps';
import { STRIDE, type Path } from '../../geometry/path';
import { directionAt } from '../../geometry/segment';
import { Late } from './late';
import type { GivenPlace, RecipeType } from './recipe-type';

export interface ThroughPlace extends NumberedPlace, Through {
	/** Its direction is that of a line there: which of the inputs, and by how many degrees it is turned from it. */
	readonly along?: { readonly input: number; readonly turn: number };
}

export interface ThroughRecipeSettings {
	readonly places: readonly ThroughPlace[];
	readonly closed: boolean;
	readonly pace: Pace;
	/** mm that the line may keep away from the points, for fewer anchors; 0: it touches each. */
	readonly drift: number;
}

export const throughLate = new Late<ThroughRecipeSettings>();

/** Of the mean distance to the neighbours: so far from its point lies the tip of a direction of usual pull. */
const TIP = 1 / 3;

/** mm at a pull of 1 from a point to the tip of its direction. */
function tipLength({ places, closed }: ThroughRecipeSettings, i: number): number {
	const n = places.length;
	const far = [i - 1, i + 1]
		.filter((k) => closed || (k >= 0 && k < n))
		.map((k) => {
			const other = places[(k + n) % n];
			return Math.hypot(other.x - places[i].x, other.y - places[i].y);
		});
	return far.length ? (TIP * far.reduce((a, b) => a + b, 0)) / far.length : 10;
}

const pointKey = (id: number) => `${id}`;
const tipKey = (id: number) => `${id}>`;
const idOf = (key: string) => parseInt(key, 10);
const isTip = (key: string) => key.endsWith('>');

function placesOf(settings: ThroughRecipeSettings): GivenPlace[] {
	return settings.places.flatMap((place, i): GivenPlace[] => {
		const own: GivenPlace = { key: pointKey(place.id), x: place.x, y: place.y, looks: 'point' };
		// One that goes along a line has no tip to be turned by.
		if (place.direction === undefined || place.along) return [own];
		const far = tipLength(settings, i) * (place.pull ?? 1);
		const rad = (place.direction * Math.PI) / 180;
		const from = { x: place.x, y: place.y };
		const tip = { x: place.x + far * Math.cos(rad), y: place.y + far * Math.sin(rad) };
		return [own, { key: tipKey(place.id), ...tip, looks: 'tip', from }];
	});
}

const changed = (
	settings: ThroughRecipeSettings,
	id: number,
	change: (place: ThroughPlace, i: number) => ThroughPlace
): ThroughRecipeSettings => ({
	...settings,
	places: settings.places.map((place, i) => (place.id === id ? change(place, i) : place))
});

/** The direction in which a line goes at one of its places, degrees; undefined where it has other places. */
function directionIn({ types, segs }: Path, i: number): number | undefined {
	const n = types.length;
	if (i > n) return undefined;
	const k = Math.min(i, n - 1);
	const d = directionAt(types[k], segs, STRIDE * k, i > k ? 1 : 0);
	return (Math.atan2(d.y, d.x) * 180) / Math.PI;
}

const without = <K extends keyof ThroughPlace>(place: ThroughPlace, name: K): ThroughPlace => {
	const { [name]: _, ...rest } = place;
	return rest as unknown as ThroughPlace;
};

export const throughRecipe: RecipeType<ThroughRecipeSettings> = {
	word: ({ drift }) => (drift > 0 ? 'curve near points' : 'curve through points'),
	inputs: { least: 0, most: Infinity },
	engine: 1,
	isDear: (_, { places }) => places.length > 400,
	late: throughLate,
	resolve: (inputs, settings, draft) => throughLate.resolve(inputs, settings, draft),
	carried: (settings, map) => {
		const even = evenMap(map);
		if (!even) return undefined;
		const { turned, scale, flips } = even;
		// The lines that it goes along stay where they are, so that it does not turn from them.
		return {
			...settings,
			drift: settings.drift * scale,
			places: carriedPlaces(settings.places, map).map((place) => ({
				...place,
				...(place.direction === undefined ? {} : { direction: turned(place.direction) }),
				...(place.radius === undefined ? {} : { radius: place.radius * scale * (flips ? -1 : 1) })
			}))
		};
	},
	unbound: (settings, input, line) => ({
		...settings,
		places: settings.places.map((place, i) => {
			const { along, ...rest } = place;
			if (!along) return place;
			if (along.input !== input)
				return along.input > input ? { ...place, along: { ...along, input: along.input - 1 } } : place;
			const own = directionIn(line, i);
			return own === undefined ? rest : { ...rest, direction: own };
		})
	}),
	fields: () => [
		{
			name: 'pace',
			word: 'paced',
			kind: 'choice',
			items: [
				{ value: 'fair', word: 'as bends least' },
				{ value: 'chord', word: 'by distances' },
				{ value: 'centripetal', word: 'by their roots' }
			]
		},
		{ name: 'drift', word: 'may keep away', kind: 'length', least: 0, most: 100 }
	],
	places: {
		of: placesOf,
		moved: (settings, key, to) =>
			changed(settings, idOf(key), (place, i) => {
				if (!isTip(key)) return { ...place, x: to.x, y: to.y };
				const [dx, dy] = [to.x - place.x, to.y - place.y];
				const far = Math.hypot(dx, dy);
				if (!(far > 0)) return place;
				return {
					...place,
					direction: (Math.atan2(dy, dx) * 180) / Math.PI,
					pull: far / tipLength(settings, i)
				};
			}),
		put: (settings, at) => throughLate.put(settings, at),
		without: (settings, key) => {
			const id = idOf(key);
			if (isTip(key)) return changed(settings, id, (place) => without(without(place, 'direction'), 'pull'));
			if (settings.places.length <= (settings.closed ? 3 : 2)) return undefined;
			return { ...settings, places: settings.places.filter((place) => place.id !== id) };
		},
		fields: ({ places }, key) => {
			const place = places.find(({ id }) => id === idOf(key));
			return [
				...(place?.along
					? []
					: [
							{
								name: 'direction',
								word: 'direction',
								kind: 'angle' as const,
								least: -360,
								most: 360,
								value: place?.direction
							}
						]),
				...(place?.direction === undefined
					? []
					: [
							{
								name: 'pull',
								word: 'pull',
								kind: 'share' as const,
								least: 0.01,
								most: 20,
								value: place.pull ?? 1
							}
						]),
				{ name: 'radius', word: 'radius', kind: 'length', least: -10_000, most: 10_000, value: place?.radius }
			];
		},
		boundTo: ({ places }, key) => places.find(({ id }) => id === idOf(key))?.along,
		bound: (settings, key, to) =>
			changed(settings, idOf(key), ({ along: _, ...place }) =>
				to ? { ...place, direction: 0, along: to } : place
			),
		withField: (settings, key, name, value) =>
			changed(settings, idOf(key), (place) =>
				value === undefined
					? without(place, name as 'direction' | 'pull' | 'radius')
					: { ...place, [name]: value }
			)
	},
	holds: ({ places, closed, pace, drift }) =>
		arePlaces(places, 2) &&
		numbersHold(places, ['direction', 'pull', 'radius']) &&
		places.every(
			({ along }: ThroughPlace) =>
				along === undefined || (Number.isInteger(along.input) && isNumber(along.turn))
		) &&
		places.every((place) => (place as ThroughPlace).radius !== 0) &&
		typeof closed === 'boolean' &&
		['fair', 'chord', 'centripetal'].includes(pace as string) &&
		isNumber(drift) &&
		drift >= 0
};

/** A curve pulled by a control polygon: a B-spline of degree 1 to 7, its vertices weighted where that is wanted. */
import type { Pulled, Vertex } from '../../fit/pulled';
import { leastVertices } from '../../fit/least-vertices';
import { arePlaces, carriedPlaces, isNumber, numbersHold, type NumberedPlace } from './given-places';
import { Late } from './late';
import type { RecipeType } from './recipe-type';

export interface PulledSettings extends Omit<Pulled, 'vertices'> {
	readonly vertices: readonly (NumberedPlace & Vertex)[];
}

export const pulledLate = new Late<PulledSettings>();

/** Vertices above which it is not made anew in every frame. */
const MANY = 300;

export const pulledRecipe: RecipeType<PulledSettings> = {
	word: ({ degree }) => `pulled curve of degree ${degree}`,
	inputs: { least: 0, most: 0 },
	engine: 1,
	isDear: (_, { vertices, degree }) => vertices.length > (degree > 3 ? 40 : MANY),
	late: pulledLate,
	resolve: (inputs, settings, draft) => pulledLate.resolve(inputs, settings, draft),
	carried: (settings, map) => ({ ...settings, vertices: carriedPlaces(settings.vertices, map) }),
	numbers: ({ degree, vertices }) => ({ degree, count: vertices.length }),
	fields: ({ vertices, degree, closed }) => [
		{
			name: 'degree',
			word: 'degree',
			kind: 'count',
			least: 1,
			most: Math.min(7, closed ? vertices.length : vertices.length - 1)
		},
		{ name: 'count', word: 'vertices', kind: 'count', least: leastVertices(degree, closed), most: 500 }
	],
	typed: (settings, name, value) => pulledLate.typed(settings, name, value as number),
	places: {
		of: ({ vertices }) => vertices.map(({ id, x, y }) => ({ key: `${id}`, x, y, looks: 'vertex' as const })),
		frame: ({ vertices, closed }) => ({ row: vertices, closed }),
		moved: (settings, key, to) => ({
			...settings,
			vertices: settings.vertices.map((v) => (`${v.id}` === key ? { ...v, x: to.x, y: to.y } : v))
		}),
		put: (settings, at) => pulledLate.put(settings, at),
		without: (settings, key) => {
			const { vertices, degree, closed, spans } = settings;
			if (vertices.length <= leastVertices(degree, closed)) return undefined;
			const i = vertices.findIndex(({ id }) => `${id}` === key);
			if (i < 0) return undefined;
			const left = { ...settings, vertices: vertices.filter((_, k) => k !== i) };
			if (!spans) return left;
			const j = Math.min(spans.length - 2, Math.max(0, closed ? i : i - Math.ceil(degree / 2)));
			return { ...left, spans: [...spans.slice(0, j), spans[j] + spans[j + 1], ...spans.slice(j + 2)] };
		},
		fields: ({ vertices }, key) => [
			{
				name: 'weight',
				word: 'weight',
				kind: 'share',
				least: 0.001,
				most: 1000,
				value: vertices.find(({ id }) => `${id}` === key)?.weight ?? 1
			}
		],
		withField: (settings, key, name, value) => ({
			...settings,
			vertices: settings.vertices.map((v) => {
				if (`${v.id}` !== key || name !== 'weight') return v;
				const { weight: _, ...rest } = v;
				return value === undefined || value === 1 ? rest : { ...rest, weight: value };
			})
		})
	},
	holds: ({ vertices, degree, closed, spans }) =>
		Number.isInteger(degree) &&
		(degree as number) >= 1 &&
		(degree as number) <= 7 &&
		typeof closed === 'boolean' &&
		arePlaces(vertices, leastVertices(degree as number, closed)) &&
		numbersHold(vertices, ['weight']) &&
		vertices.every(({ weight = 1 }: Vertex) => weight > 0) &&
		(spans === undefined ||
			(Array.isArray(spans) &&
				spans.length === (closed ? vertices.length : vertices.length - (degree as number)) &&
				spans.every((span) => isNumber(span) && span > 0)))
};

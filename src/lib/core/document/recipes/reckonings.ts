/** The reckoning of the kinds that come late: whoever makes lines of recipes by himself imports this file. */
import { CoreError, done, failed, toProblem } from '../../errors';
import { readFormula } from '../../expression';
import { conicLine } from '../../fit/conic-line';
import { between } from '../../fit/between';
import { fitPoints } from '../../fit/fit-points';
import { fitFunction } from '../../fit/function';
import { pulledPath, timeNearest, withCount, withDegree, withKnot } from '../../fit/pulled';
import { throughPlaces } from '../../fit/through';
import { STRIDE, type Path } from '../../geometry/path';
import { pointAt } from '../../geometry/segment';
import { nearestOnPath } from '../../geometry/pick';
import type { Point } from '../../geometry/point';
import { TOLERANCE } from '../../tolerance';
import { betweenLate } from './between';
import '../holds/keep';
import './areas';
import './bridges';
import './corners';
import './parallels';
import './rosettes';
import { conicLate } from './conic';
import { formulaLate, RUNNING, type FormulaSettings } from './formula';
import { nextId } from './given-places';
import { Late, type Reckoning } from './late';
import { pulledLate } from './pulled';
import { lineDirection } from './line-direction';
import type { InputLine, MadeLine } from './recipe-type';
import { throughLate, type ThroughRecipeSettings } from './through';

/** A kind that is one line out of its settings, and perhaps of lines that it goes by. */
function provide<S>(
	late: Late<S>,
	line: (settings: S, inputs: readonly InputLine[]) => Omit<MadeLine, 'part'>,
	more: Pick<Reckoning<S>, 'put' | 'typed'> = {}
): void {
	late.provide({
		*resolve(inputs, settings) {
			yield 0;
			try {
				return done([{ part: '', ...line(settings, inputs) }]);
			} catch (error) {
				if (!(error instanceof CoreError)) throw error;
				const { code, sentence } = toProblem(error);
				return failed(code, sentence);
			}
		},
		...more
	});
}

const throughLine = ({ places, closed, pace }: ThroughRecipeSettings): Path =>
	throughPlaces(places, { closed, pace });

/** The places with the directions of the lines that they go along. */
const alongLines = (settings: ThroughRecipeSettings, inputs: readonly InputLine[]): ThroughRecipeSettings =>
	inputs.length === 0
		? settings
		: {
				...settings,
				places: settings.places.map((place) => {
					const own = place.along && lineDirection(inputs[place.along.input]?.path, place);
					return own === undefined ? place : { ...place, direction: own + place.along!.turn };
				})
			};

provide(
	throughLate,
	(given, inputs) => {
		const settings = alongLines(given, inputs);
		const { places, closed, drift } = settings;
		if (drift > 0)
			return {
				path: fitPoints(
					places.flatMap(({ x, y }) => [x, y]),
					closed,
					drift,
					180
				)
			};
		const path = throughLine(settings);
		const ids = places.map(({ id }) => id);
		// Points on one place are one anchor.
		return path.types.length + (path.closed ? 0 : 1) === ids.length ? { path, anchors: ids } : { path };
	},
	{
		put(settings, at) {
			const { places, closed, drift } = settings;
			const path = throughLine({ ...settings, places });
			const near = nearestOnPath(path, at.x, at.y, Infinity);
			if (!near || path.types.length !== places.length - (closed ? 0 : 1)) return undefined;
			const id = nextId(places);
			const { x, y } =
				drift > 0 ? at : pointAt(path.types[near.segment], path.segs, STRIDE * near.segment, near.t);
			const next = [...places];
			next.splice(near.segment + 1, 0, { id, x, y });
			return { settings: { ...settings, places: next }, key: `${id}` };
		}
	}
);

provide(pulledLate, (settings) => ({ path: pulledPath(settings, TOLERANCE.fit) }), {
	put(settings, at) {
		const { vertices } = settings;
		const next = withKnot(settings, timeNearest(settings, at.x, at.y));
		if (!next) return undefined;
		const { added, ...pulled } = next;
		// Vertices that lie where they lay keep their ids.
		const free = new Map(vertices.map((v) => [`${v.x} ${v.y}`, v.id]));
		let id = nextId(vertices);
		const left = new Set(vertices.map((v) => v.id));
		const numbered = pulled.vertices.map((v) => {
			const own = free.get(`${v.x} ${v.y}`);
			if (own === undefined || !left.delete(own)) return { ...v, id: 0 };
			return { ...v, id: own };
		});
		const spare = [...left];
		const all = numbered.map((v, i) =>
			v.id ? v : { ...v, id: i === added ? id++ : (spare.shift() ?? id++) }
		);
		return { settings: { ...pulled, vertices: all }, key: `${all[added].id}` };
	},
	typed(settings, name, value) {
		if (name !== 'degree' && name !== 'count') return { ...settings, [name]: value };
		const { vertices, ...pulled } =
			name === 'count' ? withCount(settings, value) : withDegree(settings, value);
		return { ...pulled, vertices: vertices.map((v, i) => ({ ...v, id: i + 1 })) };
	}
});

betweenLate.provide({
	*resolve(inputs, { count, easing, shift, way }) {
		const made: MadeLine[] = [];
		for (let i = 0; i + 1 < inputs.length; i++) {
			yield i / (inputs.length - 1);
			const lines = between(inputs[i].path, inputs[i + 1].path, {
				count,
				easing,
				...(shift ? { shift } : {}),
				...(way === 'other' ? { flipped: true } : {}),
				tolerance: TOLERANCE.fit
			});
			if (!lines.ok) return lines;
			lines.value.forEach((path, k) => made.push({ path, part: `${k + 1}:${i}` }));
		}
		return done(made);
	}
});

provide(conicLate, (settings) => ({ path: conicLine(settings, TOLERANCE.fit) }));

/** The place of a formula at a running number. @throws CoreError `bad-formula` */
export function formulaPlace({
	form,
	first,
	second,
	degrees,
	sizes,
	x,
	y,
	angle,
	scale,
	mirrored
}: FormulaSettings): (t: number) => Point {
	const running = RUNNING[form];
	const known = new Set([running, ...Object.keys(sizes)]);
	const [f, g] = [first, ...(form === 'x and y' ? [second] : [])].map((text) =>
		readFormula(text, { degrees, known })
	);
	const turn = degrees ? Math.PI / 180 : 1;
	const rad = (angle * Math.PI) / 180;
	const [c, s] = [Math.cos(rad) * scale, Math.sin(rad) * scale];
	return (t) => {
		const values = { ...sizes, [running]: t };
		const v = f.at(values);
		const [px, py] =
			form === 'x and y'
				? [v, g.at(values)]
				: form === 'y over x'
					? [t, v]
					: [v * Math.cos(t * turn), v * Math.sin(t * turn)];
		if (!Number.isFinite(px) || !Number.isFinite(py))
			throw new CoreError(
				'bad-formula',
				`The formula gives no number at ${running} = ${Number(t.toPrecision(4))}.`
			);
		const up = mirrored ? -py : py;
		return { x: x + px * c - up * s, y: y + px * s + up * c };
	};
}

/** Of the size of the whole: ends nearer than this close smoothly. */
const CLOSES = 1e-6;

provide(formulaLate, (settings) => {
	const { from, to, closed } = settings;
	if (!(Math.abs(to - from) > 1e-9))
		throw new CoreError('bad-formula', 'The range begins and ends at the same number.');
	const place = formulaPlace(settings);
	const [a, b] = [place(from), place(to)];
	const middle = place((from + to) / 2);
	const size = Math.hypot(middle.x - a.x, middle.y - a.y) + Math.hypot(b.x - a.x, b.y - a.y);
	const meets = Math.hypot(b.x - a.x, b.y - a.y) <= CLOSES * size;
	if (closed && !meets)
		throw new CoreError(
			'bad-formula',
			'Its ends do not meet, so that it cannot be closed. Change the range.'
		);
	return { path: fitFunction(place, from, to, TOLERANCE.fit, closed) };
});

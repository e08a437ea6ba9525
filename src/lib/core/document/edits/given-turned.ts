/** Lines turned into curves that are given otherwise, and those into each other, with how far they lie off then. */
import { CoreError } from '../../errors';
import { pulledNear, splineOf, type Pulled } from '../../fit/pulled';
import { leastVertices } from '../../fit/least-vertices';
import { splinePoint } from '../../fit/spline';
import { spansOf } from '../../fit/through';
import { twoWayDistance } from '../../geometry/edge-tree';
import { pathLength, turnAt } from '../../geometry/measure';
import { STRIDE, type Path } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { curvatureAt, directionAt, pointAt, segmentLength } from '../../geometry/segment';
import { finish } from '../../progress';
import { kindOf, lineOf, sourceLine, type Outline } from '../outline';
import type { PulledSettings } from '../recipes/pulled';
import '../recipes/reckonings';
import { RECIPES, type RecipeSettings } from '../recipes/recipes';
import type { RecipeType } from '../recipes/recipe-type';
import type { ThroughRecipeSettings } from '../recipes/through';
import { givenOutline } from './made';

/** Places along a line at even steps of length weighted by how it bends, with their times from 0 to 1. */
function spreadAlong(path: Path, count: number): { times: number[]; places: Point[] } {
	const long = pathLength(path);
	const per = Math.max(4, Math.ceil((4 * count) / path.types.length));
	const times: number[] = [];
	const places: Point[] = [];
	let time = 0;
	for (let i = 0; i < path.types.length; i++) {
		const at = STRIDE * i;
		const part = segmentLength(path.types[i], path.segs, at) / per;
		for (let k = 0; k < per; k++) {
			times.push(time);
			places.push(pointAt(path.types[i], path.segs, at, k / per));
			const bend = Math.abs(curvatureAt(path.types[i], path.segs, at, (k + 0.5) / per));
			// A turn of a radian counts as much as an eighth of the whole line.
			time += part * (1 + Math.min(bend, 50 / long) * (long / 8));
		}
	}
	times.push(time);
	const last = path.types.length - 1;
	places.push(pointAt(path.types[last], path.segs, STRIDE * last, 1));
	return { times: times.map((t) => t / time), places };
}

/** What a line became, and how far it lies off now, mm. */
export interface Turned<S> {
	readonly settings: S;
	readonly drift: number;
}

/** mm: near enough for a polygon that nobody asked a number of; and the most vertices that are tried. */
const NEAR = 0.02;
const MOST = 240;
/** Degrees of turn from which an anchor is a corner of the line. */
const CORNER = 1;

const DEGREE = 3;

/** The line pulled by a polygon of as few vertices as come near enough. @throws CoreError */
export function asPulled(outline: Outline): Turned<PulledSettings> {
	const path = lineOf(outline);
	const own = splineThrough(outline);
	const exact = own && measured(path, own);
	if (exact && exact.drift <= NEAR) return exact;
	let best: Turned<PulledSettings> | undefined;
	for (
		let n = Math.max(leastVertices(DEGREE, path.closed), path.types.length + 1);
		n <= MOST;
		n = Math.ceil(1.4 * n)
	) {
		best = measured(path, pulledAlong(path, n));
		if (best.drift <= NEAR) return best;
	}
	if (!best)
		throw new CoreError('too-many', 'This line has too many anchors for a polygon. Simplify it first.');
	return best;
}

/** A curve through points is a spline of degree 3 over its own pace. */
function splineThrough({ recipe }: Outline): Pulled | undefined {
	if (recipe?.kind !== 'through' || recipe.settings.drift > 0 || recipe.settings.pace === 'centripetal')
		return undefined;
	const { places, closed } = recipe.settings;
	const spans = spansOf(places, closed, 1);
	const count = closed ? places.length : places.length + 2;
	if (count < leastVertices(DEGREE, closed)) return undefined;
	const path = finish(RECIPES.through.resolve([], { ...recipe.settings, pace: 'chord' }));
	if (!path.ok) return undefined;
	const times: number[] = [];
	const at: Point[] = [];
	let time = 0;
	const line = path.value[0].path;
	if (line.types.length !== spans.length) return undefined;
	spans.forEach((span, i) => {
		for (let k = 0; k < 8; k++) {
			times.push(time + (span * k) / 8);
			at.push(pointAt(line.types[i], line.segs, STRIDE * i, k / 8));
		}
		time += span;
	});
	if (!closed) {
		times.push(time);
		at.push({ x: places[places.length - 1].x, y: places[places.length - 1].y });
	}
	return pulledNear({ degree: DEGREE, closed, spans, count }, times, at);
}

function pulledAlong(path: Path, count: number): Pulled {
	const { times, places } = spreadAlong(path, count);
	const spans = path.closed ? count : count - DEGREE;
	if (path.closed) {
		times.pop();
		places.pop();
	}
	return pulledNear(
		{ degree: DEGREE, closed: path.closed, count },
		times.map((t) => t * spans),
		places
	);
}

function measured(path: Path, pulled: Pulled): Turned<PulledSettings> {
	const settings = { ...pulled, vertices: pulled.vertices.map((v, i) => ({ ...v, id: i + 1 })) };
	return { settings, drift: driftOf('pulled', settings, path) };
}

/** How far what settings give lies from a line, mm. */
function driftOf<K extends 'through' | 'pulled'>(kind: K, settings: RecipeSettings[K], path: Path): number {
	const made = finish((RECIPES[kind] as unknown as RecipeType<unknown>).resolve([], settings));
	return made.ok ? twoWayDistance([made.value[0].path], [path], 0.002).distance : Infinity;
}

/** The line through its own anchors, or through the places of its polygon's knots. @throws CoreError `has-corners` */
export function asThrough(outline: Outline): Turned<ThroughRecipeSettings> {
	const path = lineOf(outline);
	const { recipe } = outline;
	let places: Point[];
	if (recipe?.kind === 'pulled') {
		const spline = splineOf(recipe.settings);
		const { degree, knots, points } = spline;
		const inner = [...new Set(knots.slice(degree, points.length + 1))];
		places = (path.closed ? inner.slice(0, -1) : inner).map((u) => splinePoint(spline, u));
	} else {
		outline.anchors.forEach((_, i) => {
			const isEnd = !path.closed && (i === 0 || i === outline.anchors.length - 1);
			if (!isEnd && kindOf(outline, i) === 'corner' && Math.abs(turnAt(sourceLine(outline), i)) > CORNER)
				throw new CoreError(
					'has-corners',
					'A curve through points has no corners. Smooth them, or part the line at them.'
				);
		});
		places = Array.from({ length: path.types.length + (path.closed ? 0 : 1) }, (_, i) => {
			const [k, t] = i < path.types.length ? [i, 0] : [i - 1, 1];
			return pointAt(path.types[k], path.segs, STRIDE * k, t);
		});
	}
	const last = path.types.length - 1;
	const degrees = (d: Point) => (Math.atan2(d.y, d.x) * 180) / Math.PI;
	const numbered = places.map((p, i) => ({
		id: i + 1,
		...p,
		// Free ends would be straight: they keep the direction that they had.
		...(!path.closed && i === 0 ? { direction: degrees(directionAt(path.types[0], path.segs, 0, 0)) } : {}),
		...(!path.closed && i === places.length - 1
			? { direction: degrees(directionAt(path.types[last], path.segs, STRIDE * last, 1)) }
			: {})
	}));
	if (numbered.length < (path.closed ? 3 : 2))
		throw new CoreError('too-few', 'A curve through points needs more anchors than this line has.');
	const make = (pace: 'chord' | 'centripetal'): Turned<ThroughRecipeSettings> => {
		const settings = { places: numbered, closed: path.closed, pace, drift: 0 };
		return { settings, drift: driftOf('through', settings, path) };
	};
	const [chord, root] = [make('chord'), make('centripetal')];
	return root.drift < chord.drift ? root : chord;
}

/** The outline given otherwise from now on; its name, layer and id stay, anchors that stay where they are keep their ids. */
export function turnedInto<K extends 'through' | 'pulled'>(
	outline: Outline,
	kind: K,
	settings: RecipeSettings[K]
): Outline {
	const { recipe: _, rounds: _r, half: _h, edges: _e, ...plain } = outline;
	const made = givenOutline(kind, settings, plain);
	return { ...plain, ...made, id: outline.id };
}

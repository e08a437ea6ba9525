/** Ready shapes, kept as what they are: the recipe they were made from stays with the outline until it is made plain. */
import type { Point } from '../../geometry/point';
import { CoreError } from '../../errors';
import { arcShape, bulgeThrough, circleOf } from '../../geometry/arc';
import { fillet } from '../../geometry/corner';
import { circlePath, PathBuilder, polygonPath, type Affine, type Path } from '../../geometry/path';

/** Where a shape lies: its middle, and how it is turned, degrees anticlockwise. */
interface Lying {
	readonly x: number;
	readonly y: number;
	readonly angle: number;
}

/** All lengths in mm. */
export type ShapeRecipe =
	| ({
			readonly shape: 'rectangle';
			readonly width: number;
			readonly height: number;
			readonly corner: number;
	  } & Lying)
	| ({ readonly shape: 'circle'; readonly radius: number } & Lying)
	| ({ readonly shape: 'ellipse'; readonly width: number; readonly height: number } & Lying)
	| ({
			readonly shape: 'polygon';
			/** From the middle to a corner. */
			readonly radius: number;
			readonly sides: number;
			readonly corner: number;
	  } & Lying)
	| ({
			readonly shape: 'star';
			readonly radius: number;
			/** From the middle to the inner corners, as a share of the radius. */
			readonly inner: number;
			readonly points: number;
			readonly corner: number;
	  } & Lying)
	/** Two half circles joined; the length is from end to end. */
	| ({ readonly shape: 'slot'; readonly length: number; readonly width: number } & Lying)
	/** An open arc about its centre, from `angle` on by `sweep` degrees. */
	| ({ readonly shape: 'arc'; readonly radius: number; readonly sweep: number } & Lying);

export type ShapeName = ShapeRecipe['shape'];

/** What of a shape is a number to be typed: its field, its word, how small and large it may be. */
export interface ShapeField {
	readonly name: string;
	readonly word: string;
	readonly kind: 'length' | 'count' | 'angle' | 'share';
	readonly least: number;
	readonly most: number;
}

const length = (name: string, word: string, least = 0.001): ShapeField => ({
	name,
	word,
	kind: 'length',
	least,
	most: 10_000
});
const corner = length('corner', 'corner radius', 0);

export const SHAPE_FIELDS: Readonly<Record<ShapeName, readonly ShapeField[]>> = {
	rectangle: [length('width', 'wide'), length('height', 'high'), corner],
	circle: [length('radius', 'radius')],
	ellipse: [length('width', 'wide'), length('height', 'high')],
	polygon: [
		{ name: 'sides', word: 'sides', kind: 'count', least: 3, most: 200 },
		length('radius', 'radius'),
		corner
	],
	star: [
		{ name: 'points', word: 'points', kind: 'count', least: 2, most: 200 },
		length('radius', 'radius'),
		{ name: 'inner', word: 'inner share', kind: 'share', least: 0.02, most: 0.98 },
		corner
	],
	slot: [length('length', 'long'), length('width', 'wide')],
	arc: [
		length('radius', 'radius'),
		{ name: 'sweep', word: 'sweep', kind: 'angle', least: -359.9, most: 359.9 }
	]
};

/** The lines of a recipe. @throws CoreError `bad-shape`, and what a corner radius that does not fit says. */
export function shapePath(recipe: ShapeRecipe): Path {
	for (const field of SHAPE_FIELDS[recipe.shape]) {
		const value = (recipe as unknown as Record<string, number>)[field.name];
		if (!(value >= field.least && value <= field.most))
			throw new CoreError(
				'bad-shape',
				`The ${field.word} must lie between ${field.least} and ${field.most}.`
			);
	}
	const place = placer(recipe);
	switch (recipe.shape) {
		case 'circle':
			return circlePath(recipe.x, recipe.y, recipe.radius);
		case 'rectangle': {
			const w = recipe.width / 2;
			const h = recipe.height / 2;
			return rounded(place([-w, -h, w, -h, w, h, -w, h]), recipe.corner);
		}
		case 'polygon':
			return rounded(place(onRing(recipe.sides, () => recipe.radius)), recipe.corner);
		case 'star':
			return rounded(
				place(onRing(2 * recipe.points, (i) => (i % 2 ? recipe.inner * recipe.radius : recipe.radius))),
				recipe.corner
			);
		case 'ellipse': {
			const [a, b] = [recipe.width / 2, recipe.height / 2];
			const k = (4 / 3) * (Math.SQRT2 - 1);
			// Quarters, each cubic 2.7e-4 of the radius off at most (Goldapp 1991).
			const p = place([
				a,
				0,
				a,
				k * b,
				k * a,
				b,
				0,
				b,
				-k * a,
				b,
				-a,
				k * b,
				-a,
				0,
				-a,
				-k * b,
				-k * a,
				-b,
				0,
				-b,
				k * a,
				-b,
				a,
				-k * b
			]);
			const builder = new PathBuilder(p[0], p[1]);
			for (let i = 2; i < 24; i += 6)
				builder.cubic(p[i], p[i + 1], p[i + 2], p[i + 3], p[(i + 4) % 24], p[(i + 5) % 24]);
			return builder.close();
		}
		case 'slot': {
			const r = recipe.width / 2;
			const reach = recipe.length / 2 - r;
			if (!(reach > 1e-9)) throw new CoreError('bad-shape', 'A slot must be longer than it is wide.');
			const p = place([-reach, -r, reach, -r, reach, r, -reach, r]);
			return new PathBuilder(p[0], p[1])
				.line(p[2], p[3])
				.arc(1, p[4], p[5])
				.line(p[6], p[7])
				.arc(1, p[0], p[1])
				.close();
		}
		case 'arc': {
			const { x, y, radius, angle, sweep } = recipe;
			if (Math.abs(sweep) < 1e-6) throw new CoreError('bad-shape', 'An arc needs a sweep.');
			const at = (degrees: number) => {
				const rad = (degrees * Math.PI) / 180;
				return [x + radius * Math.cos(rad), y + radius * Math.sin(rad)] as const;
			};
			const parts = Math.ceil(Math.abs(sweep) / 180);
			const bulge = Math.tan(((sweep / parts) * Math.PI) / 720);
			const builder = new PathBuilder(...at(angle));
			for (let k = 1; k <= parts; k++) builder.arc(bulge, ...at(angle + (sweep * k) / parts));
			return builder.open();
		}
	}
}

function onRing(count: number, radius: (i: number) => number): number[] {
	return Array.from({ length: count }, (_, i) => {
		const a = (2 * Math.PI * i) / count;
		return [radius(i) * Math.cos(a), radius(i) * Math.sin(a)];
	}).flat();
}

function placer({ x, y, angle }: Lying): (points: readonly number[]) => number[] {
	const rad = (angle * Math.PI) / 180;
	const c = angle ? Math.cos(rad) : 1;
	const s = angle ? Math.sin(rad) : 0;
	return (points) => {
		const out: number[] = [];
		for (let i = 0; i < points.length; i += 2)
			out.push(x + points[i] * c - points[i + 1] * s, y + points[i] * s + points[i + 1] * c);
		return out;
	};
}

/** All corners of a polygon rounded alike. */
function rounded(points: readonly number[], radius: number): Path {
	let path = polygonPath(points);
	if (radius <= 0) return path;
	for (let i = 0; i < points.length; i += 2) {
		let at = 0;
		let least = Infinity;
		for (let k = 0; k < path.types.length; k++) {
			const off = Math.hypot(path.segs[8 * k] - points[i], path.segs[8 * k + 1] - points[i + 1]);
			if (off < least) {
				least = off;
				at = k;
			}
		}
		const next = fillet(path, at, radius);
		if (!next.ok) throw new CoreError(next.problem.code, next.problem.sentence);
		path = next.value;
	}
	return path;
}

/**
 * The recipe moved, turned, evenly scaled or mirrored; undefined where the map would make another shape of it.
 */
export function transformRecipe(recipe: ShapeRecipe, m: Affine): ShapeRecipe | undefined {
	const [a, b, c, d, e, f] = m;
	const scale = Math.sqrt(Math.abs(a * d - b * c));
	const flips = a * d - b * c < 0;
	const even = flips ? Math.hypot(a + d, b - c) < 1e-9 * scale : Math.hypot(a - d, b + c) < 1e-9 * scale;
	if (!even || !(scale > 0)) return undefined;
	const turn = (Math.atan2(b, a) * 180) / Math.PI;
	const scaled: Record<string, unknown> = { ...recipe };
	for (const field of SHAPE_FIELDS[recipe.shape]) {
		if (field.kind === 'length') scaled[field.name] = scale * (scaled[field.name] as number);
		if (field.kind === 'angle' && flips) scaled[field.name] = -(scaled[field.name] as number);
	}
	scaled.x = a * recipe.x + c * recipe.y + e;
	scaled.y = b * recipe.x + d * recipe.y + f;
	scaled.angle = turn + (flips ? -recipe.angle : recipe.angle);
	return scaled as unknown as ShapeRecipe;
}

/** The circle through three places. @throws CoreError `in-line` */
export function circleThrough(p: Point, q: Point, r: Point): { x: number; y: number; radius: number } {
	const circle = circleOf(p, q, r);
	if (!circle)
		throw new CoreError('in-line', 'These three places lie in a line: no circle goes through them.');
	return circle;
}

/** The arc from one place to another by way of a third. @throws CoreError `in-line` */
export function arcThrough(from: Point, by: Point, to: Point): ShapeRecipe & { shape: 'arc' } {
	const { x, y, radius } = circleThrough(from, by, to);
	const bulge = bulgeThrough(from, by, to);
	const shape = arcShape(from.x, from.y, to.x, to.y, bulge);
	const degrees = (rad: number) => (rad * 180) / Math.PI;
	return { shape: 'arc', x, y, radius, angle: degrees(shape.startRad), sweep: degrees(shape.sweepRad) };
}

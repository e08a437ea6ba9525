/** Ready shapes, kept as what they are: the recipe they were made from stays with the outline until it is made plain. */
import type { Point } from '../../geometry/point';
import { CoreError, done, failed, toProblem } from '../../errors';
import { arcShape, bulgeThrough, circleOf } from '../../geometry/arc';
import { roundsFit } from '../rounds';
import type { RecipeField, RecipeType } from './recipe-type';
import { circlePath, PathBuilder, polygonPath, type Affine, type Path } from '../../geometry/path';

/** Where a shape lies: its middle, and how it is turned, degrees anticlockwise. */
interface Lying {
	readonly x: number;
	readonly y: number;
	readonly angle: number;
	/** Mirrored at its own level axis before it is turned. */
	readonly mirrored?: true;
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
export type ShapeField = Exclude<RecipeField, { kind: 'choice' | 'text' }>;

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

/** The lines of a shape. @throws CoreError `bad-shape`, and what a corner radius that does not fit says. */
export function shapePath(recipe: ShapeRecipe): Path {
	const base = shapeBase(recipe);
	if (!('corner' in recipe) || recipe.corner <= 0) return base;
	const corners = Array.from(base.types, (_, i): Point => ({ x: base.segs[8 * i], y: base.segs[8 * i + 1] }));
	const made = roundsFit(
		base,
		corners.map((_, i) => ({ anchor: i, radius: recipe.corner })),
		(i) => corners[i]
	);
	if (!made.ok) throw new CoreError(made.problem.code, made.problem.sentence);
	return made.value;
}

/** The lines of a shape before its corners are rounded. @throws CoreError `bad-shape` */
export function shapeBase(recipe: ShapeRecipe): Path {
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
			return polygonPath(place([-w, -h, w, -h, w, h, -w, h]));
		}
		case 'polygon':
			return polygonPath(place(onRing(recipe.sides, () => recipe.radius)));
		case 'star':
			return polygonPath(
				place(onRing(2 * recipe.points, (i) => (i % 2 ? recipe.inner * recipe.radius : recipe.radius)))
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
			const round = recipe.mirrored ? -1 : 1;
			return new PathBuilder(p[0], p[1])
				.line(p[2], p[3])
				.arc(round, p[4], p[5])
				.line(p[6], p[7])
				.arc(round, p[0], p[1])
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

function placer({ x, y, angle, mirrored }: Lying): (points: readonly number[]) => number[] {
	const rad = (angle * Math.PI) / 180;
	const c = angle ? Math.cos(rad) : 1;
	const s = angle ? Math.sin(rad) : 0;
	return (points) => {
		const out: number[] = [];
		for (let i = 0; i < points.length; i += 2) {
			const up = mirrored ? -points[i + 1] : points[i + 1];
			out.push(x + points[i] * c - up * s, y + points[i] * s + up * c);
		}
		return out;
	};
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
	if (flips && recipe.shape !== 'arc') {
		if (recipe.mirrored) delete scaled.mirrored;
		else scaled.mirrored = true;
	}
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

/** A ready shape as a recipe made from nothing but its numbers. Its anchors are counted from 1 in their order. */
export const shapeRecipe: RecipeType<ShapeRecipe> = {
	word: ({ shape }) => shape,
	inputs: { least: 0, most: 0 },
	engine: 1,
	isDear: () => false,
	*resolve(_, recipe) {
		yield 0;
		try {
			shapePath(recipe);
			const path = shapeBase(recipe);
			const count = path.types.length + (path.closed ? 0 : 1);
			const anchors = Array.from({ length: count }, (__, i) => i + 1);
			const rounds =
				'corner' in recipe && recipe.corner > 0
					? anchors.map((anchor) => ({ anchor, radius: recipe.corner }))
					: undefined;
			return done([{ path, part: '', anchors, ...(rounds ? { rounds } : {}) }]);
		} catch (error) {
			const { code, sentence } = toProblem(error);
			return failed(code, sentence);
		}
	},
	carried: transformRecipe,
	fields: ({ shape }) => SHAPE_FIELDS[shape],
	holds: (settings) =>
		typeof settings.shape === 'string' &&
		settings.shape in SHAPE_FIELDS &&
		[...SHAPE_FIELDS[settings.shape as ShapeName].map((f) => f.name), 'x', 'y', 'angle'].every((name) =>
			Number.isFinite(settings[name])
		)
};

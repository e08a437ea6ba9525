/** Drawings made by a sequence of random edits, repeatable by seed: what a person may have done to a few outlines. */
import {
	deleteAnchors,
	insertAnchors,
	moveAnchors,
	placeHandle,
	setKind
} from '../src/lib/core/document/edits/anchors';
import { givenOutline } from '../src/lib/core/document/edits/made';
import { mendHandles, setRadius } from '../src/lib/core/document/edits/handles';
import {
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	madePlain,
	outlineFromPath,
	sourceLine,
	type Outline
} from '../src/lib/core/document/outline';
import { slideOnLine, softPull } from '../src/lib/core/document/edits/pulling';
import { exchangeRounds } from '../src/lib/core/document/rounds';
import { bendSegment, segmentToArc, withBulge } from '../src/lib/core/document/edits/segments';
import type { ShapeRecipe } from '../src/lib/core/document/recipes/shapes';
import { transformOutline } from '../src/lib/core/document/edits/transform';
import { mirrorAt, scaleBy, turnBy } from '../src/lib/core/geometry/maps';
import { CoreError } from '../src/lib/core/errors';
import { STRIDE } from '../src/lib/core/geometry/path';
import { pointAt } from '../src/lib/core/geometry/segment';
import { blob, chance } from './shapes';

/** One random edit: which one, at which anchor, and two shares of how much. */
export type Move = { readonly how: number; readonly at: number; readonly a: number; readonly b: number };

/** An outline after a random edit. @throws CoreError where it cannot be done. */
export function edited(o: Outline, { how, at, a, b }: Move): Outline | undefined {
	const n = o.anchors.length;
	const i = at % n;
	const id = o.anchors[i];
	const dx = 6 * a - 3;
	const dy = 6 * b - 3;
	switch (how % 13) {
		case 0:
			return moveAnchors(o, new Set([id]), dx, dy);
		case 1:
			return placeHandle(
				o,
				id,
				'out',
				o.points[ANCHOR_STRIDE * i] + dx,
				o.points[ANCHOR_STRIDE * i + 1] + dy
			);
		case 2:
			return insertAnchors(o, [{ segment: i, t: 0.1 + 0.8 * a }]).outline;
		case 3:
			return n > 6 ? deleteAnchors(o, new Set([id]), (['straight', 'through', 'kept'] as const)[at % 3]) : o;
		case 4:
			return setKind(o, new Set([id]), ANCHOR_KINDS[at % 4]);
		case 5: {
			const p = pointAt(sourceLine(o).types[i], sourceLine(o).segs, STRIDE * i, 0.5);
			return bendSegment(o, i, 0.5, p.x + dx, p.y + dy);
		}
		case 6:
			return softPull(o, id, dx, dy, { before: 10 + 20 * a, after: 10 + 20 * b });
		case 7:
			return segmentToArc(o, i);
		case 8:
			return transformOutline(o, at % 2 ? turnBy(90 * a, dx, dy) : mirrorAt(180 * b, 0, 0));
		case 9: {
			const rounds = exchangeRounds(
				o.rounds,
				[id],
				at % 2 ? (anchor) => ({ anchor, radius: 0.2 + a }) : undefined
			);
			const { rounds: _, ...rest } = o;
			return rounds ? { ...rest, rounds } : rest;
		}
		case 10:
			return slideOnLine(o, id, o.points[ANCHOR_STRIDE * i] + dx, o.points[ANCHOR_STRIDE * i + 1] + dy);
		case 11:
			return at % 3 === 0 ? madePlain(o) : mendHandles(o, [i]);
		default:
			return at % 2 ? setRadius(o, id, 'in', 1 + 20 * a) : withBulge(o, i, a - 0.5);
	}
}

const facts = (id: string) => ({ id, name: id, layer: 'cut', rank: 2 });

/** A ready shape as an outline. */
export const readyShape = (recipe: ShapeRecipe, id = 'shape'): Outline =>
	givenOutline('shape', recipe, facts(id));

/** A ready shape of any kind. */
export function randomShape(seed: number): ShapeRecipe {
	const rnd = chance(seed);
	const lying = { x: 50 * rnd() - 25, y: 50 * rnd() - 25, angle: seed % 3 ? 90 * rnd() : 0 };
	const size = 5 + 40 * rnd();
	const corner = seed % 2 ? 0.05 * size * rnd() : 0;
	switch (seed % 7) {
		case 0:
			return { shape: 'rectangle', width: size, height: size * (0.3 + rnd()), corner, ...lying };
		case 1:
			return { shape: 'circle', radius: size, ...lying };
		case 2:
			return { shape: 'ellipse', width: size, height: size * (0.3 + rnd()), ...lying };
		case 3:
			return { shape: 'polygon', radius: size, sides: 3 + Math.floor(9 * rnd()), corner, ...lying };
		case 4:
			return {
				shape: 'star',
				radius: size,
				inner: 0.4 + 0.4 * rnd(),
				points: 3 + Math.floor(6 * rnd()),
				corner,
				...lying
			};
		case 5:
			return { shape: 'slot', length: 2 * size, width: size * (0.2 + 0.7 * rnd()), ...lying };
		default:
			return { shape: 'arc', radius: size, sweep: 10 + 300 * rnd(), ...lying };
	}
}

/** What a random sequence of edits makes of a smooth outline, a ready shape moved about, and that shape made plain and edited. */
export function randomOutlines(seed: number): Outline[] {
	const rnd = chance(seed);
	const moves = Array.from({ length: 12 }, () => ({
		how: Math.floor(1000 * rnd()),
		at: Math.floor(1000 * rnd()),
		a: rnd(),
		b: rnd()
	}));
	const run = (outline: Outline): Outline => {
		let now = outline;
		for (const move of moves) {
			try {
				const next = edited(now, move);
				if (next && next.anchors.length >= 4) now = next;
			} catch (error) {
				if (!(error instanceof CoreError)) throw error;
			}
		}
		return now;
	};
	const shape = readyShape(randomShape(seed));
	const map = seed % 5 ? turnBy(360 * rnd(), 3, -4) : scaleBy(0.5 + rnd(), 0.5 + rnd(), 1, 2);
	return [
		run(outlineFromPath(blob(6 + (seed % 9), seed, 40), facts('wing'))),
		shape,
		transformOutline(shape, map),
		run(madePlain(shape))
	];
}

/** Whole outlines moved, turned, scaled, mirrored. */
import { CoreError } from '../../errors';
import { placed } from '../../geometry/maps';
import { ARC, isSimilarity, transformPath, type Affine } from '../../geometry/path';
import { arcsToCubics } from '../../geometry/segment';
import { segmentToCurve } from './anchors';
import type { Drawing, DrawingRecord, KeptLine } from '../drawing';
import type { Edit } from '../history';
import type { Half } from '../half';
import { scaledRound } from '../rounds';
import { ANCHOR_STRIDE, detached, MARK_STRIDE, madePlain, segmentTotal, type Outline } from '../outline';
import { carriedHolds } from '../holds/carried';
import { recipeType, type Recipe } from '../recipes/recipes';

/**
 * The outline under a map. Arcs stay arcs and rounded corners stay rounded where it keeps circles round; otherwise arcs
 * become curves and rounds plain. Mirrored, a closed outline still runs the way it did along its own anchors.
 *
 * @throws CoreError `bad-scale` where the map flattens everything to a line.
 */
export function transformOutline(outline: Outline, m: Affine): Outline {
	const [a, b, c, d, e, f] = m;
	const det = a * d - b * c;
	if (!(Math.abs(det) > 1e-12) || !m.every(Number.isFinite))
		throw new CoreError('bad-scale', 'That would make it vanish. Scale by more than 0.');
	const even = isSimilarity(m);
	const { recipe: own } = outline;
	// What is given by places goes along with any map; rounds and mirror images only with even ones.
	const isKept =
		even ||
		(own !== undefined &&
			!outline.rounds?.length &&
			!outline.half &&
			recipeType(own).carried(own.settings, m) !== undefined);
	let base = isKept ? outline : madePlain(outline);
	if (!even) {
		for (let i = segmentTotal(base) - 1; i >= 0; i--)
			if (base.marks[MARK_STRIDE * i + 1] === ARC) base = segmentToCurve(base, i);
	}
	const points = new Float64Array(base.points.length);
	for (let i = 0; i < points.length; i += ANCHOR_STRIDE) {
		for (let k = 0; k < 6; k += 2) {
			const x = base.points[i + k];
			const y = base.points[i + k + 1];
			points[i + k] = a * x + c * y + e;
			points[i + k + 1] = b * x + d * y + f;
		}
		// No bulge stays none: a file knows no 0 below 0.
		points[i + 6] = det < 0 ? 0 - base.points[i + 6] : base.points[i + 6];
	}
	const scale = Math.sqrt(Math.abs(det));
	const moved = base.recipe && carriedRecipe(base.recipe, m, scale);
	const { recipe, rounds, ...rest } = moved ? base : detached(base);
	return {
		...rest,
		points,
		...(rest.half ? { half: carriedHalf(rest.half, m) } : {}),
		...(recipe && moved ? { recipe: moved } : {}),
		...(rounds
			? {
					rounds: rounds.map((r) => scaledRound(r, scale))
				}
			: {})
	};
}

/** The axis of a half under a map that keeps circles round. */
function carriedHalf({ x, y, angle }: Half, map: Affine): Half {
	const [a, b, c, d] = map;
	const on = placed(map, x, y);
	// Only moved, it keeps its angle to the bit.
	if (a === 1 && b === 0 && c === 0 && d === 1) return { ...on, angle };
	const rad = (angle * Math.PI) / 180;
	const [dx, dy] = [Math.cos(rad), Math.sin(rad)];
	return { ...on, angle: (Math.atan2(b * dx + d * dy, a * dx + c * dy) * 180) / Math.PI };
}

/**
 * What a recipe becomes under a map of its result; undefined where it is made plain. One made from other lines keeps its
 * result only as long as those go along; then it is made again anyway.
 */
function carriedRecipe(recipe: Recipe, m: Affine, scale: number): Recipe | undefined {
	const settings = recipeType(recipe).carried(recipe.settings, m);
	if (settings === undefined) return undefined;
	const { rounds } = recipe;
	return {
		...recipe,
		settings,
		// Made from its numbers alone, it is made anew from them, to the bit.
		...(recipe.inputs.length === 0 || recipeType(recipe).places ? { made: '' } : {}),
		...(rounds ? { rounds: rounds.map((r) => scaledRound(r, scale)) } : {})
	} as Recipe;
}

/** A kept line under a map; its arcs become curves where the map does not keep circles round. */
export const transformKept = (line: KeptLine, map: Affine): KeptLine => ({
	...line,
	path: transformPath(isSimilarity(map) ? line.path : arcsToCubics(line.path), map)
});

/** Outlines under a map; the lines kept beside them go along, so that what they tell stays what it is. */
export function placeOutlines(drawing: Drawing, outlines: readonly Outline[], map: Affine): Edit {
	const ids = new Set(outlines.flatMap((o) => [o.first, o.ghost]));
	const kept = [...ids].flatMap((id): DrawingRecord[] => {
		const line = id === undefined ? undefined : drawing.records.get(id);
		return line?.type === 'line' ? [transformKept(line, map)] : [];
	});
	const holds = carriedHolds(drawing, new Set(outlines.map((o) => o.id)), map);
	return { put: [...outlines.map((o) => transformOutline(o, map)), ...kept, ...holds] };
}

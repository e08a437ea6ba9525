/** What lies in closed outlines: their holes, and all that goes with a piece when it is moved. */
import { repeatsOf, type Drawing, type Mark, type Repeat } from '../drawing';
import { isFollower } from '../graph';
import { isClosed, ANCHOR_STRIDE, lineOf, type Outline } from '../outline';
import { isLoose, shown, shownMarks } from '../output';
import { flattenPath } from '../../geometry/edge-tree';
import { windingNumber } from '../../geometry/measure';
import { boxOf } from '../../geometry/pick';

export interface Within {
	readonly outlines: readonly Outline[];
	readonly marks: readonly Mark[];
	/** Repeats of what goes along. */
	readonly repeats: readonly Repeat[];
	/** How many lie there too but are tied fast, and stay. */
	readonly tied: number;
}

/** mm. Closely enough to tell on which side of a line a place lies. */
const FLAT = 0.05;

/** What is seen within closed outlines and is none of them; lines that follow others go along by themselves. */
export function liesWithin(drawing: Drawing, pieces: readonly Outline[]): Within {
	const around = pieces
		.filter((o) => isClosed(o) && o.anchors.length > 0)
		.map((o) => ({ box: boxOf(lineOf(o)), flat: flattenPath(lineOf(o), FLAT) }));
	if (around.length === 0) return { outlines: [], marks: [], repeats: [], tied: 0 };
	const isIn = (x: number, y: number) =>
		around.some(
			({ box, flat }) =>
				x >= box.x0 && x <= box.x1 && y >= box.y0 && y <= box.y1 && windingNumber(flat, x, y) !== 0
		);
	const ids = new Set(pieces.map((o) => o.id));
	const inside = shown(drawing).filter((o) => {
		if (ids.has(o.id) || isFollower(o) || o.anchors.length === 0) return false;
		for (let i = 0; i < o.anchors.length; i++)
			if (!isIn(o.points[ANCHOR_STRIDE * i], o.points[ANCHOR_STRIDE * i + 1])) return false;
		return true;
	});
	const outlines = inside.filter((o) => isLoose(drawing, o));
	const marks = shownMarks(drawing).filter((m) => !ids.has(m.id) && isIn(m.x, m.y));
	const along = new Set([...outlines, ...marks].map(({ id }) => id));
	return {
		outlines,
		marks,
		repeats: repeatsOf(drawing).filter(({ sources }) => sources.every((id) => along.has(id))),
		tied: inside.length - outlines.length
	};
}

/** Whole things lined up and spread: each piece with all that lies in it moves as one. */
import { carriedRecords } from './carrying';
import { moveBy } from '../../geometry/maps';
import { liesWithin } from './within';
import type { Drawing, DrawingRecord, Mark, Repeat } from '../drawing';
import { isFollower } from '../graph';
import type { Edit } from '../history';
import { lineOf, type Outline } from '../outline';
import { boxOf } from '../../geometry/pick';
import type { Box } from '../../geometry/segment';
import type { LineUpAt } from './anchor-groups';

/** An outline with what goes along with it. */
export interface Thing {
	readonly outline: Outline;
	readonly outlines: readonly Outline[];
	readonly marks: readonly (Mark | Repeat)[];
	readonly box: Box;
}

export interface AlignSettings {
	/** To the left edge, the middle or the right edge; to the lower edge, the middle or the upper. */
	readonly across?: LineUpAt;
	readonly up?: LineUpAt;
	/** What they are brought to. */
	readonly to: Box;
	/** Between the outermost: equal gaps, equal distances of their middles; or gaps of that many mm, from the first on. */
	readonly spread?: {
		readonly axis: 'across' | 'up';
		readonly by: 'gaps' | 'middles' | number;
	};
}

/** What of what is selected moves as one: an outline within another goes with it. Followers move with what they follow. */
export function thingsOf(drawing: Drawing, selected: readonly Outline[]): Thing[] {
	const free = selected.filter((outline) => !isFollower(outline) && outline.anchors.length > 0);
	const within = new Map(free.map((outline) => [outline.id, liesWithin(drawing, [outline])]));
	const inner = new Set([...within.values()].flatMap(({ outlines }) => outlines.map(({ id }) => id)));
	return free
		.filter(({ id }) => !inner.has(id))
		.map((outline) => {
			const own = within.get(outline.id)!;
			return {
				outline,
				outlines: [outline, ...own.outlines],
				marks: [...own.marks, ...own.repeats],
				box: boxOf(lineOf(outline))
			};
		});
}

const least = (box: Box, axis: 'across' | 'up') => (axis === 'across' ? box.x0 : box.y0);
const most = (box: Box, axis: 'across' | 'up') => (axis === 'across' ? box.x1 : box.y1);
const at = (box: Box, axis: 'across' | 'up', where: LineUpAt) =>
	where === 'least'
		? least(box, axis)
		: where === 'most'
			? most(box, axis)
			: (least(box, axis) + most(box, axis)) / 2;

/** How far each thing moves, mm: x, y, in their order. */
export function alignMoves(
	things: readonly Thing[],
	{ across, up, to, spread }: AlignSettings
): [number, number][] {
	const moves = things.map(({ box }): [number, number] => [
		across ? at(to, 'across', across) - at(box, 'across', across) : 0,
		up ? at(to, 'up', up) - at(box, 'up', up) : 0
	]);
	if (!spread || things.length < 2) return moves;
	const { axis, by } = spread;
	const k = axis === 'across' ? 0 : 1;
	const sorted = things
		.map((_, i) => i)
		.sort((a, b) => at(things[a].box, axis, 'middle') - at(things[b].box, axis, 'middle'));
	const boxes = sorted.map((i) => things[i].box);
	const size = (box: Box) => most(box, axis) - least(box, axis);
	const [first, last] = [boxes[0], boxes[boxes.length - 1]];
	const gap =
		typeof by === 'number'
			? by
			: (most(last, axis) - least(first, axis) - boxes.reduce((sum, box) => sum + size(box), 0)) /
				(boxes.length - 1);
	const step = (at(last, axis, 'middle') - at(first, axis, 'middle')) / (boxes.length - 1);
	let next = least(first, axis);
	sorted.forEach((i, n) => {
		const box = things[i].box;
		moves[i][k] =
			by === 'middles'
				? at(first, axis, 'middle') + n * step - at(box, axis, 'middle')
				: next - least(box, axis);
		next += size(box) + gap;
	});
	return moves;
}

/** Moves that are nothing but the noise of reckoning, mm. */
const NOISE = 1e-9;

export function alignEdit(
	drawing: Drawing,
	things: readonly Thing[],
	moves: readonly (readonly [number, number])[]
): Edit {
	const put = things.flatMap(({ outlines, marks }, i): readonly DrawingRecord[] => {
		const [dx, dy] = moves[i];
		if (Math.hypot(dx, dy) < NOISE) return [];
		return carriedRecords(drawing, [...outlines, ...marks], moveBy(dx, dy));
	});
	return { put };
}

/** Where the tag of what is selected lies: beside it, where it hides nothing that is picked or could be picked. */
import type { Point } from '../core/geometry/point';
import type { Box } from '../core/geometry/segment';
import { headPx, toScreen, type View, type WindowSize } from './view';

/** Room that the rulers need, px. */
const LEFT = 34;
/** px between the tag and what it is tied to; round what must not be hidden. */
const BESIDE = 26;
const AIR = 8;
/** So many places across and down the window are tried where there is none beside it. */
const ACROSS = 12;
const DOWN = 8;

/** What must not lie under the tag, px of the window. */
export interface NotUnder {
	/** Places of what is selected: its line, its anchors, its handles. */
	readonly own: readonly Point[];
	/** Whether something else that could be picked lies in a box, px. */
	readonly others: (x0: number, y0: number, x1: number, y1: number) => boolean;
}

export interface TagSize {
	readonly width: number;
	readonly height: number;
	/** Out of the way, in a corner, while one draws beside what was drawn last. */
	readonly aside?: boolean;
	/** Where the free part of the window ends on the right and below, px. */
	readonly right: number;
	readonly foot: number;
}

/**
 * @param box what it is tied to, mm.
 * @returns the upper left corner, px, and whether nothing lies under it there.
 */
export function placeTag(
	box: Box,
	view: View,
	size: WindowSize,
	tag: TagSize,
	not: NotUnder
): Point & { readonly isFree: boolean } {
	const head = headPx(size);
	const a = toScreen(view, size, box.x0, box.y1);
	const b = toScreen(view, size, box.x1, box.y0);
	const low = Math.max(head, tag.foot - tag.height - 12);
	const far = Math.max(LEFT, tag.right - tag.width - 14);
	const inX = (x: number) => Math.min(far, Math.max(LEFT, x));
	const inY = (y: number) => Math.min(low, Math.max(head, y));
	const middleX = (a.x + b.x - tag.width) / 2;
	const middleY = (a.y + b.y - tag.height) / 2;
	const beside = [
		[b.x + BESIDE, a.y],
		[a.x - tag.width - BESIDE, a.y],
		[b.x + BESIDE, middleY],
		[a.x - tag.width - BESIDE, middleY],
		[b.x + BESIDE, b.y - tag.height],
		[a.x - tag.width - BESIDE, b.y - tag.height],
		[middleX, b.y + BESIDE],
		[middleX, a.y - tag.height - BESIDE],
		[b.x + BESIDE, b.y + BESIDE],
		[a.x - tag.width - BESIDE, b.y + BESIDE],
		[b.x + BESIDE, a.y - tag.height - BESIDE],
		[a.x - tag.width - BESIDE, a.y - tag.height - BESIDE]
	];
	if (tag.aside) beside.unshift([far, head], [far, low]);
	// Anywhere else in the window, the nearest first: within a large outline there is room too.
	const near = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
	const anywhere: [number, number][] = [];
	for (let j = 0; j <= ACROSS; j++)
		for (let k = 0; k <= DOWN; k++)
			anywhere.push([LEFT + ((far - LEFT) * j) / ACROSS, head + ((low - head) * k) / DOWN]);
	const off = ([x, y]: [number, number]) =>
		Math.hypot(x + tag.width / 2 - near.x, y + tag.height / 2 - near.y);
	beside.push(...anywhere.sort((p, q) => off(p) - off(q)));
	let best: (Point & { isFree: boolean }) | undefined;
	let least = Infinity;
	for (const [tryX, tryY] of beside) {
		const x = inX(tryX);
		const y = inY(tryY);
		const [x0, y0, x1, y1] = [x - AIR, y - AIR, x + tag.width + AIR, y + tag.height + AIR];
		let hidden = 0;
		for (const p of not.own) if (p.x > x0 && p.x < x1 && p.y > y0 && p.y < y1) hidden += 1;
		const isOther = hidden < least && not.others(x0, y0, x1, y1);
		const cost = hidden * 4 + (isOther ? 2 : 0);
		if (cost >= least) continue;
		least = cost;
		best = { x, y, isFree: cost === 0 };
		if (cost === 0) break;
	}
	return best!;
}

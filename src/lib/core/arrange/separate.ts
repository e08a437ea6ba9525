/**
 * Pieces that lie in each other taken apart within the room: one after another each is moved to where it lies least in the others, by
 * places tried at random and improved step by step; what stays in each other weighs more from round to round.
 */
import type { Layout, Placed } from './layout';

/** How hard it is tried. */
export interface Effort {
	/** Rounds without getting better, and how often that may be before it is given up. */
	readonly rounds: number;
	readonly strikes: number;
	/** Places anywhere and places near by that are tried for each piece. */
	readonly anywhere: number;
	readonly nearBy: number;
}

export const USUAL: Effort = { rounds: 40, strikes: 2, anywhere: 18, nearBy: 10 };

/** A loss that counts as better. */
const BETTER = 0.98;
/** The best so many places are improved. */
const KEPT = 3;

/**
 * @param chance from 0 to below 1. @param goesOn false where there is no more time.
 * @returns whether no piece lies in another now; else the best that was found is where they lie.
 */
export function* separateSteps(
	layout: Layout,
	chance: () => number,
	goesOn: () => boolean,
	effort: Effort = USUAL
): Generator<undefined, boolean> {
	const pairs: number[] = [];
	let least = layout.overlaps(pairs);
	if (pairs.length === 0) return true;
	let best = layout.save();
	layout.forgetWeights();
	for (let strike = 0; strike < effort.strikes;) {
		const before = least;
		for (let idle = 0; idle < effort.rounds;) {
			const loose = new Set<number>();
			for (let k = 0; k < pairs.length; k += 3) loose.add(pairs[k]).add(pairs[k + 1]);
			const order = shuffled(
				[...loose].filter((i) => !layout.pieces[i].isFixed),
				chance
			);
			for (const i of order) {
				moveToLeast(layout, i, chance, effort);
				if ((layout.looks & 1023) < 64) yield;
			}
			const sum = layout.overlaps(pairs);
			if (pairs.length === 0) return true;
			if (sum < BETTER * least) idle = 0;
			else idle++;
			if (sum < least) {
				least = sum;
				best = layout.save();
			}
			layout.weigh(pairs);
			yield;
			if (!goesOn()) {
				layout.restore(best);
				return false;
			}
		}
		strike = least < 0.95 * before ? 0 : strike + 1;
		layout.restore(best);
		layout.overlaps(pairs);
	}
	return false;
}

export function shuffled<T>(list: T[], chance: () => number): T[] {
	for (let i = list.length - 1; i > 0; i--) {
		const j = Math.floor(chance() * (i + 1));
		[list[i], list[j]] = [list[j], list[i]];
	}
	return list;
}

/** A turn that a piece may take. */
export function anyTurn(layout: Layout, i: number, chance: () => number): number {
	const { turns } = layout.pieces[i];
	if (turns === 'free') return chance() * 2 * Math.PI;
	return (turns[Math.floor(chance() * turns.length)] * Math.PI) / 180;
}

/** A place anywhere in the room, from a height to another; undefined where it does not fit so turned. */
export function anywhere(
	layout: Layout,
	i: number,
	chance: () => number,
	from = 0,
	to = layout.length
): Placed | undefined {
	const place = {
		x: chance() * layout.width,
		y: from + chance() * (to - from),
		angle: anyTurn(layout, i, chance)
	};
	return layout.within(i, place) ? place : undefined;
}

interface Tried extends Placed {
	loss: number;
}

/** Moves one piece to where it lies least in the others. */
export function moveToLeast(layout: Layout, i: number, chance: () => number, effort: Effort): number {
	const here: Placed = { x: layout.x[i], y: layout.y[i], angle: layout.angle[i] };
	const now = layout.loss(i, here, Infinity);
	if (now === 0) return 0;
	const found: Tried[] = [];
	const offer = (place: Placed) => {
		const most = found.length < KEPT ? Infinity : found[found.length - 1].loss;
		const loss = layout.loss(i, place, most);
		if (loss >= most) return;
		if (found.length === KEPT) found.pop();
		const at = found.findIndex((one) => one.loss > loss);
		found.splice(at < 0 ? found.length : at, 0, { ...place, loss });
	};
	found.push({ ...here, loss: now });
	const { shape, turns } = layout.pieces[i];
	for (let k = 0; k < effort.nearBy && found[0].loss > 0; k++) {
		const place = {
			x: here.x + (chance() - 0.5) * shape.reach,
			y: here.y + (chance() - 0.5) * shape.reach,
			angle:
				turns === 'free'
					? here.angle + (chance() - 0.5) * 0.4
					: turns.length > 1 && chance() < 0.3
						? anyTurn(layout, i, chance)
						: here.angle
		};
		if (layout.within(i, place)) offer(place);
	}
	for (let k = 0; k < effort.anywhere && found[0].loss > 0; k++) {
		const place = anywhere(layout, i, chance);
		if (place) offer(place);
	}
	let best = found[0];
	for (const one of found) {
		if (best.loss === 0) break;
		const better = descended(layout, i, one, chance, COARSE);
		if (better.loss < best.loss) best = better;
	}
	if (best.loss > 0) best = descended(layout, i, best, chance, FINE);
	if (best.loss < now) layout.put(i, best.x, best.y, best.angle);
	return Math.min(best.loss, now);
}

/** Of a piece's reach: the steps with which a place is improved, from and to; and radians. */
interface Steps {
	readonly from: number;
	readonly to: number;
	readonly turn: number;
}
const COARSE: Steps = { from: 0.12, to: 0.01, turn: 0.1 };
const FINE: Steps = { from: 0.01, to: 0.001, turn: 0.02 };

/** Along one direction after another, longer where it serves, shorter where not. */
function descended(layout: Layout, i: number, from: Tried, chance: () => number, steps: Steps): Tried {
	const { shape, turns } = layout.pieces[i];
	let best = from;
	let step = steps.from * shape.reach;
	let turn = turns === 'free' ? steps.turn : 0;
	const least = steps.to * shape.reach;
	const place: Placed = { x: 0, y: 0, angle: 0 };
	const look = (x: number, y: number, angle: number): boolean => {
		place.x = x;
		place.y = y;
		place.angle = angle;
		if (!layout.within(i, place)) return false;
		const loss = layout.loss(i, place, best.loss);
		if (!(loss < best.loss)) return false;
		best = { ...place, loss };
		return true;
	};
	while (step > least && best.loss > 0) {
		const { x, y, angle } = best;
		if (turn > 0 && chance() < 0.3) {
			const by = chance() < 0.5 ? turn : -turn;
			if (look(x, y, angle + by) || look(x, y, angle - by)) turn *= 1.2;
			else {
				turn *= 0.6;
				step *= 0.85;
			}
			continue;
		}
		const way = chance();
		const [u, v] = way < 0.3 ? [1, 0] : way < 0.6 ? [0, 1] : way < 0.8 ? [0.7, 0.7] : [0.7, -0.7];
		if (look(x + u * step, y + v * step, angle) || look(x - u * step, y - v * step, angle)) step *= 1.1;
		else step *= 0.6;
	}
	return best;
}

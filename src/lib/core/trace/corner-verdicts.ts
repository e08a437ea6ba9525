/** Corners on which a person has decided, against what the angle alone would say. */

import Flatbush from 'flatbush';

/** "This is a corner", or "this is none", at a place; in the units of the line it is about. */
export interface CornerVerdict {
	readonly x: number;
	readonly y: number;
	readonly isCorner: boolean;
}

export interface CornerRule {
	/** Degrees: the least turn that counts as a corner where nobody has decided. */
	readonly cornerAngle: number;
	readonly verdicts?: readonly CornerVerdict[];
	/** How near a place must lie to a verdict to be meant by it. */
	readonly verdictReach?: number;
	/** Where nobody has decided, but the line itself shows that it bends without a corner. */
	readonly bends?: Bends;
}

/** A place, and how far about it there is no corner. */
export interface Bend {
	readonly x: number;
	readonly y: number;
	readonly reach: number;
}

/** Many of them. */
export class Bends {
	private readonly boxes: Flatbush;

	/** @param places at least one. */
	constructor(private readonly places: readonly Bend[]) {
		this.boxes = new Flatbush(places.length);
		for (const { x, y, reach } of places) this.boxes.add(x - reach, y - reach, x + reach, y + reach);
		this.boxes.finish();
	}

	has(x: number, y: number): boolean {
		return this.boxes.search(x, y, x, y).some((k) => {
			const place = this.places[k];
			return Math.hypot(place.x - x, place.y - y) <= place.reach;
		});
	}
}

/** Of the angle that makes a corner, what is enough where a person says that there is one. */
const SAID = 0.3;
const REACH = 6;

/** What was decided about a place; undefined where nothing was. */
export function verdictAt(rule: CornerRule, x: number, y: number): boolean | undefined {
	let least = rule.verdictReach ?? REACH;
	let said: boolean | undefined;
	for (const v of rule.verdicts ?? []) {
		const off = Math.hypot(v.x - x, v.y - y);
		if (off > least) continue;
		least = off;
		said = v.isCorner;
	}
	return said ?? (rule.bends?.has(x, y) ? false : undefined);
}

/** Degrees by which the line must turn at a place to have a corner there: no turn is enough where none is wanted. */
export function leastTurn(rule: CornerRule, x: number, y: number): number {
	const said = verdictAt(rule, x, y);
	if (said === undefined) return rule.cornerAngle;
	return said ? SAID * rule.cornerAngle : Infinity;
}

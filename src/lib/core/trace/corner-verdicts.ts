/** Corners on which a person has decided, against what the angle alone would say. */

/** "This is a corner", or "this is none", at a place; in the units of the line it is about. */
export interface CornerVerdict {
	readonly x: number;
	readonly y: number;
	readonly isCorner: boolean;
	/** How near a place must lie to be meant by it, where that is said of this one alone. */
	readonly reach?: number;
}

export interface CornerRule {
	/** Degrees: the least turn that counts as a corner where nobody has decided. */
	readonly cornerAngle: number;
	readonly verdicts?: readonly CornerVerdict[];
	/** How near a place must lie to a verdict to be meant by it. */
	readonly verdictReach?: number;
}

/** Of the angle that makes a corner, what is enough where a person says that there is one. */
const SAID = 0.3;
const REACH = 6;

/** What was decided about a place; undefined where nothing was. */
export function verdictAt(rule: CornerRule, x: number, y: number): boolean | undefined {
	let least = Infinity;
	let said: boolean | undefined;
	for (const v of rule.verdicts ?? []) {
		const off = Math.hypot(v.x - x, v.y - y);
		if (off > least || off > (v.reach ?? rule.verdictReach ?? REACH)) continue;
		least = off;
		said = v.isCorner;
	}
	return said;
}

/** Degrees by which the line must turn at a place to have a corner there: no turn is enough where none is wanted. */
export function leastTurn(rule: CornerRule, x: number, y: number): number {
	const said = verdictAt(rule, x, y);
	if (said === undefined) return rule.cornerAngle;
	return said ? SAID * rule.cornerAngle : Infinity;
}

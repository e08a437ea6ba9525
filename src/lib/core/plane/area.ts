/** Areas to be combined: closed paths with a fill rule, and what is asked of several of them. */
import type { Path } from '../geometry/path';

export const COMBINE_OPS = ['union', 'difference', 'intersection', 'xor', 'regions'] as const;
/** `difference` is the first input less all others; `xor` what an odd number of inputs cover. */
export type CombineOp = (typeof COMBINE_OPS)[number];

/** `positive` and `negative` count only what is wound anticlockwise, or clockwise, in sum. */
export type FillRule = 'evenodd' | 'nonzero' | 'positive' | 'negative';

/** Closed paths that cover an area together by one fill rule. */
export interface Area {
	readonly paths: readonly Path[];
	readonly rule: FillRule;
}

/** An input covers what any of its areas covers. */
export type CombineInput = readonly Area[];

export interface CombinedPiece {
	/** The outer outline, anticlockwise, then its holes, clockwise. */
	readonly paths: Path[];
	/** Which inputs cover it; told apart for `regions` only. */
	readonly inputs: readonly number[];
}

/** Whether a place wound so often counts as inside. */
export function isWound(winding: number, rule: FillRule): boolean {
	if (rule === 'evenodd') return winding % 2 !== 0;
	if (rule === 'nonzero') return winding !== 0;
	return rule === 'positive' ? winding > 0 : winding < 0;
}

/** What lies under the pointer: anchors, handles, segments, the pegs of a soft pull, the teeth of a comb. */
import type { Point } from '../../core/geometry/point';
import {
	ANCHOR_STRIDE,
	handleAt,
	segmentTypeOf,
	sourceLine,
	type Outline
} from '../../core/document/outline';
import { TOOTH } from '../../core/geometry/comb';
import { CUBIC } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import { combTips } from '../../render/comb';
import { handleEnd } from '../../render/marks';
import { toScreen } from '../../render/view';
import type { Bench } from '../bench.svelte';
import type { Under } from '../selection.svelte';
import { REACH_PX } from './pointer';
import type { PointerAt } from './pointer';

/** px: shorter teeth of a comb are not taken hold of. */
const LEAST_TOOTH_PX = 12;
/** Clicks this near to the one before go on to the next of what lies together, px. */
const SAME_CLICK_PX = 4;

export class Picking {
	private lastClick: { x: number; y: number; turn: number } | undefined;

	constructor(private readonly bench: Bench) {}

	/** The peg at an end of a soft pull's reach under the pointer. */
	pegAt(at: PointerAt): 'before' | 'after' | undefined {
		const { bench } = this;
		if (bench.movingWay !== 'soft' || !bench.selection.enteredOutline) return undefined;
		const k = bench.reachPlaces().findIndex((place) => {
			const s = toScreen(bench.sight.view, bench.sight.size, place.x, place.y);
			return Math.hypot(s.x - at.x, s.y - at.y) < REACH_PX[at.kind];
		});
		return k < 0 ? undefined : k === 0 ? 'before' : 'after';
	}

	/** The tooth of a comb whose tip is under the pointer: its foot and length, px. */
	toothAt(at: PointerAt): { x: number; y: number; length: number } | undefined {
		const { bench } = this;
		let best: { x: number; y: number; length: number } | undefined;
		let least = REACH_PX[at.kind];
		for (const comb of bench.looking.showsComb ? bench.looking.combs : []) {
			const tips = combTips({ view: bench.sight.view, size: bench.sight.size }, comb, bench.looking.gain);
			for (let i = 0; i < tips.length / 2; i++) {
				const off = Math.hypot(tips[2 * i] - at.x, tips[2 * i + 1] - at.y);
				const foot = toScreen(
					bench.sight.view,
					bench.sight.size,
					comb.teeth[TOOTH * i],
					comb.teeth[TOOTH * i + 1]
				);
				const length = Math.hypot(tips[2 * i] - foot.x, tips[2 * i + 1] - foot.y);
				if (off >= least || length < LEAST_TOOTH_PX) continue;
				least = off;
				best = { ...foot, length };
			}
		}
		return best;
	}

	/** How many clicks on the same spot came before this one. */
	turnOf(at: PointerAt): number {
		const was = this.lastClick;
		const same = was && Math.hypot(was.x - at.x, was.y - at.y) < SAME_CLICK_PX;
		this.lastClick = { x: at.x, y: at.y, turn: same ? was.turn + 1 : 0 };
		return this.lastClick.turn;
	}

	/**
	 * The anchor, handle or segment of the entered outlines under the pointer. Handles of the selected anchors come first,
	 * so that they can be reached; with Shift, which adds anchors to the selection, the anchors do. Where several lie
	 * together, presses on the same spot go through them.
	 *
	 * @param pressing whether this is a press, which counts for that.
	 */
	pickAt(p: Point, at: PointerAt, pressing: boolean): Under | undefined {
		const { bench } = this;
		const reach = REACH_PX[at.kind];
		const found: { under: Under; off: number }[] = [];
		for (const outline of bench.selection.enteredOutlines) this.anchorsNear(outline, at, reach, found);
		found.sort((a, b) => a.off - b.off);
		if (found.length > 0) {
			const together = found.filter((f) => f.off <= found[0].off + 3);
			const turn = pressing ? this.turnOf(at) : (this.lastClick?.turn ?? -1) + 1;
			const again =
				this.lastClick !== undefined &&
				(pressing || Math.hypot(this.lastClick.x - at.x, this.lastClick.y - at.y) < SAME_CLICK_PX);
			return (again && together.length > 1 ? together[turn % together.length] : found[0]).under;
		}
		if (pressing) this.turnOf(at);
		for (const outline of bench.selection.enteredOutlines) {
			const on = nearestOnPath(sourceLine(outline), p.x, p.y, bench.reach(at.kind));
			if (on) return { outline: outline.id, anchor: outline.anchors[on.segment], isSegment: true };
		}
		return undefined;
	}

	private anchorsNear(
		outline: Outline,
		at: PointerAt,
		reach: number,
		found: { under: Under; off: number }[]
	): void {
		const { bench } = this;
		const n = outline.anchors.length;
		const selected = bench.selection.anchorsOf(outline.id);
		const first = at.shift ? -4 : 2;
		const p = outline.points;
		const s = bench.sight.view.scale;
		const { x: cx, y: cy } = toScreen(bench.sight.view, bench.sight.size, 0, 0);
		const consider = (x: number, y: number, under: Under, bonus = 0) => {
			const dx = cx + x * s - at.x;
			const dy = cy - y * s - at.y;
			if (Math.abs(dx) > reach + 4 || Math.abs(dy) > reach + 4) return;
			const off = Math.hypot(dx, dy) - bonus;
			if (off < reach) found.push({ under, off });
		};
		const handles = selected.size <= 40;
		const open = !outline.closed;
		for (let i = 0; i < n; i++) {
			const a = ANCHOR_STRIDE * i;
			const anchor = outline.anchors[i];
			consider(p[a], p[a + 1], { outline: outline.id, anchor });
			if (!bench.looking.polygon && (!handles || !selected.has(anchor))) continue;
			for (const side of ['out', 'in'] as const) {
				const k = handleAt(i, side);
				const segment = side === 'out' ? i : (i + n - 1) % n;
				if (segmentTypeOf(outline, segment) !== CUBIC) continue;
				if (open && (side === 'out' ? i === n - 1 : i === 0)) continue;
				if (p[k] === p[a] && p[k + 1] === p[a + 1]) continue;
				const end = handleEnd(p[a], p[a + 1], p[k], p[k + 1], bench.sight.view.scale);
				consider(end.x, end.y, { outline: outline.id, anchor, side }, first);
			}
		}
	}
}

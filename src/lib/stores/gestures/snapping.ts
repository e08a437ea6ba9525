/** What a dragged or drawn place would catch on. */
import type { Point } from '../../core/geometry/point';
import { recordsOf } from '../../core/document/drawing';
import { anchorIndex, sourceLine } from '../../core/document/outline';
import { findSnap, type Snap } from '../../core/document/edits/snap';
import { STRAIGHT } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import type { PointerAt } from './pointer';

export class Snapping {
	/** Where the picture's edge was found last, and for which place. */
	private edge: { at: Point; found: Point | undefined } | undefined;

	constructor(private readonly bench: Bench) {}

	/** What a dragged place would snap to; lines of what is dragged itself do not count. */
	snapAt(p: Point, at: PointerAt, dragged?: { outline: string; pressed: number }): Snap | undefined {
		const { bench } = this;
		if (!bench.snaps) return undefined;
		const reach = bench.reach(at.kind) * 0.9;
		const { outlines, paths } = bench.pickable();
		const near = paths
			.within(p.x - reach, p.y - reach, p.x + reach, p.y + reach)
			.filter((i) => outlines[i].id !== dragged?.outline)
			.slice(0, 30)
			.map((i) => paths.paths[i]);
		let from: { x: number; y: number; dx?: number; dy?: number } | undefined;
		const record = dragged && bench.drawing.records.get(dragged.outline);
		if (record?.type === 'outline' && bench.selection.anchors.size === 1) {
			const path = sourceLine(record);
			const n = record.anchors.length;
			const i = anchorIndex(record, dragged!.pressed) ?? 0;
			if (record.closed || i > 0) {
				const k = (i + n - 1) % n;
				const before = record.closed || k > 0 ? (k + n - 1) % n : undefined;
				from = { x: path.segs[8 * k], y: path.segs[8 * k + 1] };
				if (before !== undefined && path.types[before] === STRAIGHT && path.types[k] === STRAIGHT)
					from = {
						...from,
						dx: path.segs[8 * before + 6] - path.segs[8 * before],
						dy: path.segs[8 * before + 7] - path.segs[8 * before + 1]
					};
			}
		}
		return findSnap(p.x, p.y, reach, {
			paths: near,
			guides: recordsOf(bench.drawing, 'guide'),
			...(bench.grid ? { grid: bench.settings.grid } : {}),
			...(from ? { from } : {}),
			...(bench.snapsToPicture ? { edge: this.edgeNear(p, reach) } : {})
		});
	}

	/** The picture's edge nearest to a place, as found last; a new one is asked for meanwhile. */
	private edgeNear(p: Point, reach: number): Point | undefined {
		const { bench } = this;
		if (!this.edge || Math.hypot(this.edge.at.x - p.x, this.edge.at.y - p.y) > reach / 8) {
			const asked = { at: p, found: this.edge?.found };
			this.edge = asked;
			void bench.pictures.edgeNear(p.x, p.y, reach).then((found) => {
				if (this.edge === asked) this.edge = { at: p, found };
			});
		}
		const { found } = this.edge;
		return found && Math.hypot(found.x - p.x, found.y - p.y) <= reach ? found : undefined;
	}

	snapPen(p: Point, at: PointerAt): Snap | undefined {
		const { pen } = this.bench;
		if (!pen || pen.kind === 'freehand' || pen.kind === 'redraw') return undefined;
		const snap = this.snapAt(p, at);
		if (snap || pen.anchors.length < 2 || pen.kind !== 'line') return snap;
		const [a, b] = pen.anchors.slice(-2);
		return findSnap(p.x, p.y, this.bench.reach(at.kind) * 0.7, {
			paths: [],
			guides: [],
			from: { x: b.x, y: b.y, dx: b.x - a.x, dy: b.y - a.y }
		});
	}
}

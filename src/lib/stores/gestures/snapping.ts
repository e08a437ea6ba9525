/** What a dragged or drawn place would catch on. */
import type { Point } from '../../core/geometry/point';
import { recordsOf, sheetsOf } from '../../core/document/drawing';
import { anchorIndex, lineOf, sourceLine } from '../../core/document/outline';
import { rackOf } from '../../core/document/rack';
import { findSnap, type Snap } from '../../core/document/edits/snap';
import { snapBox, type BoxSnap } from '../../core/document/edits/snap-boxes';
import { isEmptyBox, unionBox } from '../../core/geometry/measure';
import { boxOf } from '../../core/geometry/pick';
import type { Box } from '../../core/geometry/segment';
import { seenBox } from '../../render/view';
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

	/** Boxes of things that are not dragged, as they were when the drag began; those of sheets too. */
	private others: { readonly of: Bench['drawing']; readonly boxes: readonly Box[] } | undefined;

	/** What the selected things would catch on, so far from where they lie. */
	snapThings(right: number, up: number, at: PointerAt): BoxSnap | undefined {
		const { bench } = this;
		if (!bench.snaps || at.ctrl) return undefined;
		const own = bench.inHand;
		if (isEmptyBox(own)) return undefined;
		if (this.others?.of !== bench.drawing) this.others = { of: bench.drawing, boxes: this.boxesBeside() };
		const here = { x0: own.x0 + right, y0: own.y0 + up, x1: own.x1 + right, y1: own.y1 + up };
		return snapBox(here, this.others.boxes, recordsOf(bench.drawing, 'guide'), bench.reach(at.kind) * 0.7);
	}

	private boxesBeside(): Box[] {
		const { drawing, selection, sight } = this.bench;
		const along = new Set(this.bench.within.outlines.map(({ id }) => id));
		const seen = seenBox(sight.view, sight.size, 0);
		const things = rackOf(drawing)
			.filter(({ ids, hidden }) => !hidden && !ids.some((id) => selection.selected.has(id) || along.has(id)))
			.map(({ outlines }) => unionBox(outlines.map((outline) => boxOf(lineOf(outline)))))
			.filter((b) => b.x1 >= seen.x0 && b.x0 <= seen.x1 && b.y1 >= seen.y0 && b.y0 <= seen.y1);
		const sheets = sheetsOf(drawing).map(({ x, y, width, height, margin }) => ({
			x0: x + margin,
			y0: y + margin,
			x1: x + width - margin,
			y1: y + height - margin
		}));
		return [...things, ...sheets];
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

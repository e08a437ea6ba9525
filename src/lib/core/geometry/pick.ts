/** What lies under the pointer: outlines by a spatial index over their boxes, segments by one over theirs. */
import Flatbush from 'flatbush';
import { pathBox } from './measure';
import { STRIDE, type Path } from './path';
import { emptyBox, growBox, nearestOn, pointAt, type Box } from './segment';

const segmentIndex = new WeakMap<Path, Flatbush>();

function indexOf(path: Path): Flatbush {
	let index = segmentIndex.get(path);
	if (!index) {
		index = new Flatbush(Math.max(1, path.types.length));
		for (let i = 0; i < path.types.length; i++) {
			const box = emptyBox();
			growBox(box, path.types[i], path.segs, STRIDE * i);
			index.add(box.x0, box.y0, box.x1, box.y1);
		}
		if (path.types.length === 0) index.add(0, 0, 0, 0);
		index.finish();
		segmentIndex.set(path, index);
	}
	return index;
}

export interface OnLine {
	readonly segment: number;
	readonly t: number;
	readonly distance: number;
}

/** The nearest place on a path within `reach` mm; undefined where there is none. */
export function nearestOnPath(path: Path, x: number, y: number, reach: number): OnLine | undefined {
	if (path.types.length === 0) return undefined;
	let best: OnLine | undefined;
	for (const i of indexOf(path).search(x - reach, y - reach, x + reach, y + reach)) {
		const near = nearestOn(path.types[i], path.segs, STRIDE * i, x, y);
		if (near.distance <= reach && (!best || near.distance < best.distance)) best = { segment: i, ...near };
	}
	return best;
}

const boxes = new WeakMap<Path, Box>();

/** The box of a path, computed once. */
export function boxOf(path: Path): Box {
	let box = boxes.get(path);
	if (!box) boxes.set(path, (box = pathBox(path)));
	return box;
}

/** Whether some of a path's line lies in a box; its inside does not count. Told by the boxes of quarters of its segments. */
export function crossesBox(path: Path, box: Box): boolean {
	const own = boxOf(path);
	if (own.x1 < box.x0 || own.x0 > box.x1 || own.y1 < box.y0 || own.y0 > box.y1) return false;
	for (let i = 0; i < path.types.length; i++) {
		let last = pointAt(path.types[i], path.segs, STRIDE * i, 0);
		for (let k = 1; k <= 4; k++) {
			const p = pointAt(path.types[i], path.segs, STRIDE * i, k / 4);
			if (
				Math.max(p.x, last.x) >= box.x0 &&
				Math.min(p.x, last.x) <= box.x1 &&
				Math.max(p.y, last.y) >= box.y0 &&
				Math.min(p.y, last.y) <= box.y1
			)
				return true;
			last = p;
		}
	}
	return false;
}

/** An index over the boxes of many paths. */
export class PathIndex {
	private readonly index: Flatbush | undefined;
	constructor(readonly paths: readonly Path[]) {
		if (paths.length === 0) return;
		this.index = new Flatbush(paths.length);
		for (const path of paths) {
			const b = boxOf(path);
			this.index.add(b.x0, b.y0, b.x1, b.y1);
		}
		this.index.finish();
	}
	/** Indexes of the paths whose boxes meet the given one. */
	within(x0: number, y0: number, x1: number, y1: number): number[] {
		return this.index?.search(x0, y0, x1, y1) ?? [];
	}
	/** The nearest path within `reach` mm. */
	nearest(x: number, y: number, reach: number): (OnLine & { path: number }) | undefined {
		let best: (OnLine & { path: number }) | undefined;
		for (const p of this.within(x - reach, y - reach, x + reach, y + reach)) {
			const near = nearestOnPath(this.paths[p], x, y, best ? best.distance : reach);
			if (near && (!best || near.distance < best.distance)) best = { ...near, path: p };
		}
		return best;
	}
}

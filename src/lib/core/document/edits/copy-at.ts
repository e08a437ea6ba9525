/** Which copy of a repeat lies at a place. */
import Flatbush from 'flatbush';
import type { Drawing, Repeat } from '../drawing';
import { lineOf } from '../outline';
import { RECORDS } from '../records';
import { boxUnder, instancesOf, shownRepeats, type Instance, type Instances } from '../repeats';
import { placed } from '../../geometry/maps';
import { inverse } from '../../geometry/path';
import { boxOf, nearestOnPath } from '../../geometry/pick';
import { unionBox } from '../../geometry/measure';

export interface CopyAt {
	readonly repeat: Repeat;
	readonly place: number;
	/** mm */
	readonly distance: number;
}

const trees = new WeakMap<Instances, Flatbush>();

/** An index over the boxes of the copies. Made once. */
function treeOf(instances: Instances): Flatbush {
	let tree = trees.get(instances);
	if (!tree) {
		const box = unionBox(
			instances.sources.map((s) => (s.type === 'mark' ? RECORDS.mark.box(s) : boxOf(lineOf(s))))
		);
		tree = new Flatbush(instances.list.length);
		for (const { map } of instances.list) {
			const b = boxUnder(box, map);
			tree.add(b.x0, b.y0, b.x1, b.y1);
		}
		tree.finish();
		trees.set(instances, tree);
	}
	return tree;
}

/** How far one copy lies from a place, if within reach: looked for where its source would lie. */
function distanceTo({ sources }: Instances, { map }: Instance, x: number, y: number, reach: number): number {
	const { x: px, y: py } = placed(inverse(map), x, y);
	let least = Infinity;
	for (const source of sources) {
		const off =
			source.type === 'mark'
				? Math.hypot(source.x - px, source.y - py)
				: (nearestOnPath(lineOf(source), px, py, Math.min(reach, least))?.distance ?? Infinity);
		least = Math.min(least, off);
	}
	return least;
}

/** The copy nearest to a place, within reach; undefined where there is none. */
export function copyAt(drawing: Drawing, x: number, y: number, reach: number): CopyAt | undefined {
	let found: CopyAt | undefined;
	for (const repeat of shownRepeats(drawing)) {
		const instances = instancesOf(drawing, repeat);
		if (instances.list.length === 0) continue;
		for (const i of treeOf(instances).search(x - reach, y - reach, x + reach, y + reach)) {
			const instance = instances.list[i];
			const distance = distanceTo(instances, instance, x, y, found?.distance ?? reach);
			if (distance <= (found?.distance ?? reach)) found = { repeat, place: instance.place, distance };
		}
	}
	return found;
}

/** Can it be cut? What stops it, where, why, and what would mend it. */
import type { Point } from '../geometry/point';
import { crossingSteps } from '../plane/crossings';
import { EdgeTree, flattenPath, largestDistance } from '../geometry/edge-tree';
import { isEmptyBox, pathArea, pathBox, pathLength } from '../geometry/measure';
import { STRIDE, type Path } from '../geometry/path';
import { pointAt } from '../geometry/segment';
import { finish, part } from '../progress';
import { TOLERANCE } from '../tolerance';
import { CRUMB_SIZE, END_GAP, type Fault } from './fault';
import { openEndFaults } from './open-ends';
import { overlapSteps, type Overlap } from './overlaps';
import { roughnessSteps } from './roughness';

export interface CheckOptions {
	/** mm: an outline smaller than this in both directions is a crumb. */
	readonly crumbSize?: number;
	/** mm: open ends this near each other are drawn together rather than bridged. */
	readonly gap?: number;
	/** Indexes of lines that are open on purpose. */
	readonly mayBeOpen?: readonly number[];
}

/** All faults of a set of outlines, in the order of the outlines. */
export function findFaults(paths: readonly Path[], options: CheckOptions = {}): Fault[] {
	return finish(faultSteps(paths, options));
}

/** The same, telling how far it has come (0 to 1). */
export function* faultSteps(paths: readonly Path[], options: CheckOptions = {}): Generator<number, Fault[]> {
	const crumbSize = options.crumbSize ?? CRUMB_SIZE;
	const gap = options.gap ?? END_GAP;
	const faults: Fault[] = [];
	const boxes = paths.map(pathBox);
	const crumbs = new Set<number>();
	paths.forEach((path, i) => {
		const box = boxes[i];
		const n = path.types.length;
		const at = n ? { x: path.segs[0], y: path.segs[1] } : { x: 0, y: 0 };
		const small = isEmptyBox(box) || (box.x1 - box.x0 < crumbSize && box.y1 - box.y0 < crumbSize);
		const flat =
			path.closed && n > 0 && Math.abs(pathArea(path)) < 1e-3 * crumbSize * pathLength(path) && n <= 2;
		if (n === 0 || small || flat) {
			crumbs.add(i);
			faults.push({
				kind: 'crumb',
				outline: i,
				...at,
				why:
					flat && !small
						? 'This outline encloses nothing: the cutter would only go there and back.'
						: 'A stray bit, too small to be a part: it would leave a mark on the material.',
				mend: 'remove',
				stops: true
			});
		}
	});
	faults.push(...openEndFaults(paths, gap, new Set([...crumbs, ...(options.mayBeOpen ?? [])])));
	paths.forEach((path, i) => {
		if (crumbs.has(i)) return;
		for (let k = 0; k < path.types.length; k++) {
			const at = STRIDE * k;
			const s = path.segs;
			const chord = Math.hypot(s[at + 6] - s[at], s[at + 7] - s[at + 1]);
			if (chord <= TOLERANCE.coincidence && segmentSpread(s, at) <= 10 * TOLERANCE.coincidence) {
				faults.push({
					kind: 'zero-segments',
					outline: i,
					x: s[at],
					y: s[at + 1],
					why: 'Two anchors lie on the same place: the machine may stop or mark there.',
					mend: 'remove-segments',
					stops: true
				});
				break;
			}
		}
	});
	yield 0.1;
	const doubled = doubledPairs(paths, boxes, crumbs);
	for (const [i, j] of doubled) {
		faults.push({
			kind: 'doubled',
			outline: j,
			other: i,
			x: paths[j].segs[0],
			y: paths[j].segs[1],
			why: 'Another outline lies exactly on this one: it would be cut twice.',
			mend: 'remove',
			stops: true
		});
	}
	yield 0.25;
	const beside = new Set([...crumbs, ...doubled.map(([, j]) => j)]);
	faults.push(...(yield* part(overlapFaults(paths, crumbSize, beside), 0.25, 0.4)));
	for (const [i, path] of paths.entries()) {
		if (crumbs.has(i)) continue;
		const share = 0.3 / paths.length;
		const at = 0.4 + share * i;
		yield at;
		let count = 0;
		let first: Point | undefined;
		for (const c of yield* part(crossingSteps([path], 'self'), at, at + share)) {
			if (!c.through) continue;
			count++;
			first ??= c;
		}
		if (!first) continue;
		faults.push({
			kind: 'self-crossing',
			outline: i,
			x: first.x,
			y: first.y,
			why:
				count === 1
					? 'The line crosses itself here: inside and outside change places.'
					: `The line crosses itself ${count} times, first here: inside and outside change places.`,
			mend: 'none',
			stops: true
		});
	}
	yield 0.7;
	faults.push(...(yield* part(roughnessSteps(paths), 0.7, 1)));
	// What stops the cut comes first.
	return faults.sort((a, b) => Number(b.stops) - Number(a.stops) || (a.outline ?? -1) - (b.outline ?? -1));
}

/** One fault for every outline that lies on another, or on itself, for a while; the longest stretch is shown. */
function* overlapFaults(
	paths: readonly Path[],
	least: number,
	leave: ReadonlySet<number>
): Generator<number, Fault[]> {
	const longest = new Map<string, Overlap>();
	for (const overlap of yield* overlapSteps(paths, least)) {
		if (leave.has(overlap.path) || leave.has(overlap.other)) continue;
		const key = `${overlap.path} ${overlap.other}`;
		if (overlap.length > (longest.get(key)?.length ?? 0)) longest.set(key, overlap);
	}
	return [...longest.values()].map(({ path, other, from, to, length }): Fault => {
		const middle = (from + to) / 2;
		const segment = Math.floor(middle) % paths[path].types.length;
		const { x, y } = pointAt(
			paths[path].types[segment],
			paths[path].segs,
			STRIDE * segment,
			middle - Math.floor(middle)
		);
		const isOpen = !paths[path].closed && path !== other;
		const where = path === other ? 'on itself' : 'on another outline';
		return {
			kind: 'overlap',
			outline: path,
			other,
			x,
			y,
			why: `A stretch of ${length.toFixed(1)} mm lies ${where}: it would be cut twice.${isOpen ? '' : ' Both are needed to be closed; move or trim one where that is not meant.'}`,
			mend: isOpen ? 'take-overlap' : 'none',
			stops: false
		};
	});
}

function segmentSpread(s: Float64Array, at: number): number {
	return Math.max(
		Math.abs(s[at + 2] - s[at]) + Math.abs(s[at + 3] - s[at + 1]),
		Math.abs(s[at + 4] - s[at]) + Math.abs(s[at + 5] - s[at + 1])
	);
}

/** Pairs of outlines that lie on each other everywhere, whatever their anchors or direction. */
function doubledPairs(
	paths: readonly Path[],
	boxes: readonly { x0: number; y0: number; x1: number; y1: number }[],
	leave: ReadonlySet<number>
): [number, number][] {
	const same = 1e-3;
	const order = paths.map((_, i) => i).filter((i) => !leave.has(i));
	order.sort((a, b) => boxes[a].x0 - boxes[b].x0);
	const found: [number, number][] = [];
	const gone = new Set<number>();
	for (let a = 0; a < order.length; a++) {
		const i = order[a];
		if (gone.has(i)) continue;
		for (let b = a + 1; b < order.length; b++) {
			const j = order[b];
			if (boxes[j].x0 - boxes[i].x0 > same) break;
			if (gone.has(j)) continue;
			const near =
				Math.abs(boxes[i].y0 - boxes[j].y0) <= same &&
				Math.abs(boxes[i].x1 - boxes[j].x1) <= same &&
				Math.abs(boxes[i].y1 - boxes[j].y1) <= same;
			if (!near) continue;
			const fi = { points: flattenPath(paths[i], same / 4), closed: paths[i].closed };
			const fj = { points: flattenPath(paths[j], same / 4), closed: paths[j].closed };
			const apart = Math.max(
				largestDistance([fi], new EdgeTree([fj])).distance,
				largestDistance([fj], new EdgeTree([fi])).distance
			);
			if (apart > same) continue;
			// The later one goes.
			const [keep, extra] = i < j ? [i, j] : [j, i];
			found.push([keep, extra]);
			gone.add(extra);
			if (extra === i) break;
		}
	}
	return found;
}

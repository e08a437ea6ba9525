/** Holds kept through an edit: what is moved goes as far as it can, what is not moved moves as little as may be. Provides `lateHolds`. */
import { conflict, dragTo, freedom, solve } from '../../holds/solve';
import type { Drawing, DrawingRecord } from '../drawing';
import { recordsOf } from '../drawing';
import type { Outline } from '../outline';
import type { Hold, HoldPlace } from './hold';
import { HoldConflict, holdsIn, lateHolds } from './tidy';
import { Sketch } from './sketch';

/** A hold as a sentence names it. */
const holdName = (hold: Hold, records: ReadonlyMap<string, DrawingRecord>): string => {
	const line = records.get(hold.on[0]?.outline ?? '');
	const name = line?.type === 'outline' ? ` of "${line.name}"` : '';
	return `${hold.kind}${hold.value === undefined ? '' : ` ${hold.value}`}${name}`;
};

/** The holds about some outlines, and about all that those are tied to. */
function holdsAbout(holds: readonly Hold[], ids: ReadonlySet<string>): Hold[] {
	const reached = new Set(ids);
	const left = new Set(holds);
	const out: Hold[] = [];
	for (let isMore = true; isMore;) {
		isMore = false;
		for (const hold of left) {
			if (!hold.on.some(({ outline }) => reached.has(outline))) continue;
			left.delete(hold);
			out.push(hold);
			for (const { outline } of hold.on) reached.add(outline);
			isMore = true;
		}
	}
	return out.sort((a, b) => a.rank - b.rank);
}

/** What each edit's holds come to. See `KeepHolds`. */
function keep(
	before: Drawing,
	records: ReadonlyMap<string, DrawingRecord>,
	put: ReadonlySet<string>
): readonly Outline[] {
	const all = holdsIn(records.values());
	if (all.length === 0) return [];
	const ids = new Set<string>();
	let isNew = false;
	for (const id of put) {
		const now = records.get(id);
		const was = before.records.get(id);
		if (now?.type === 'hold' && now !== was) {
			isNew = true;
			for (const { outline } of now.on) ids.add(outline);
		} else if (now?.type === 'size' || now?.type === 'guide') {
			isNew = true;
			for (const { on } of all) for (const { outline } of on) ids.add(outline);
		} else if (now?.type === 'outline' && (was?.type !== 'outline' || was.points !== now.points)) ids.add(id);
	}
	const holds = holdsAbout(all, ids);
	if (holds.length === 0) return [];
	const sketch = new Sketch(records, holds);
	const wanted = sketch.valuesIn(records);
	if (!wanted) return [];
	const from = isNew ? undefined : sketch.valuesIn(before.records);
	if (from) {
		const dragged = new Set<number>();
		wanted.forEach((v, u) => {
			if (v !== from[u]) dragged.add(u);
		});
		if (dragged.size === 0) return [];
		const moved = dragTo(sketch.equations, from, wanted, dragged);
		if (moved.isKept) return sketch.applied(records, moved.values);
	}
	const solved = solve(sketch.equations, wanted);
	if (!solved.isKept) {
		const named = conflict(sketch.equations, wanted).map((k) => holds[k]);
		throw new HoldConflict(
			`These cannot be kept together: ${named.map((hold) => holdName(hold, records)).join('; ')}.`,
			named.map(({ id }) => id)
		);
	}
	return sketch.applied(records, solved.values);
}
lateHolds.keep = keep;

/** The holds about some outlines as they lie; undefined where there are none. */
function sketchOf(drawing: Drawing, ids: ReadonlySet<string>) {
	const holds = holdsAbout(recordsOf(drawing, 'hold'), ids);
	const sketch = holds.length ? new Sketch(drawing.records, holds) : undefined;
	const values = sketch?.valuesIn(drawing.records);
	return sketch && values && { sketch, values };
}

/** Holds that follow from others, by id. */
export function redundantHolds(drawing: Drawing, ids: ReadonlySet<string>): string[] {
	const own = sketchOf(drawing, ids);
	if (!own) return [];
	const { equations, holds } = own.sketch;
	const { dependent } = solve(equations, own.values);
	return [...new Set(dependent.map((k) => holds[equations[k].hold].id))];
}

/** Anchors that no hold lets move any more, of the outlines asked for. */
export function heldFast(drawing: Drawing, ids: ReadonlySet<string>): HoldPlace[] {
	const own = sketchOf(drawing, ids);
	if (!own) return [];
	const { equations, unknowns } = own.sketch;
	const anchors = unknowns.filter(({ what, outline }) => what === 'anchor' && ids.has(outline));
	const free = freedom(
		equations,
		own.values,
		anchors.flatMap(({ at }) => [at, at + 1])
	);
	return anchors
		.filter((_, i) => free[2 * i] < FAST && free[2 * i + 1] < FAST)
		.map(({ outline, anchor }) => ({ outline, anchor }));
}
/** Share of a move that is still possible, below which nothing is. */
const FAST = 1e-6;

/** Named steps: what each one changed, and how to go back and forth, bit for bit. */
import { sameNumbers } from '../bytes';
import { CoreError } from '../errors';
import type { Drawing, DrawingRecord } from './drawing';
import { ANCHOR_STRIDE, MARK_STRIDE, type Outline } from './outline';

/** A record put in, taken out or replaced whole. */
interface Replace {
	readonly how: 'replace';
	readonly id: string;
	readonly before?: DrawingRecord;
	readonly after?: DrawingRecord;
}

/** A stretch of an outline's anchors exchanged; what lies before and behind stays. */
interface Splice {
	readonly how: 'splice';
	readonly id: string;
	/** Index of the first anchor that differs. */
	readonly at: number;
	readonly before: Bits;
	readonly after: Bits;
}
interface Bits {
	readonly anchors: Uint32Array;
	readonly points: Float64Array;
	readonly marks: Uint8Array;
	readonly nextAnchor: number;
	readonly closed: boolean;
}
interface Rename {
	readonly how: 'rename';
	readonly before: string;
	readonly after: string;
}
export type Change = Replace | Splice | Rename;

export interface Step {
	readonly name: string;
	readonly changes: readonly Change[];
}

/** What a step does: records to put (by their id) and ids to take out; optionally a new name for the drawing. */
export interface Edit {
	readonly put?: readonly DrawingRecord[];
	readonly remove?: readonly string[];
	readonly rename?: string;
	/** Much changes at once: the drawing as it was is worth a version. */
	readonly isLarge?: boolean;
}

/** The step that an edit makes of a drawing. Undefined where it changes nothing. */
export function makeStep(drawing: Drawing, name: string, edit: Edit): Step | undefined {
	const changes: Change[] = [];
	for (const id of edit.remove ?? []) {
		const before = drawing.records.get(id);
		if (before) changes.push({ how: 'replace', id, before });
	}
	for (const after of edit.put ?? []) {
		const before = drawing.records.get(after.id);
		if (before === after) continue;
		changes.push(change(before, after));
	}
	if (edit.rename !== undefined && edit.rename !== drawing.name) {
		changes.push({ how: 'rename', before: drawing.name, after: edit.rename });
	}
	return changes.length ? { name, changes } : undefined;
}

function change(before: DrawingRecord | undefined, after: DrawingRecord): Change {
	if (before?.type === 'outline' && after.type === 'outline' && sameFacts(before, after)) {
		return spliceBetween(before, after);
	}
	return { how: 'replace', id: after.id, before, after };
}

const SPLICED = new Set(['anchors', 'points', 'marks', 'nextAnchor', 'closed']);

function sameFacts(a: Outline, b: Outline): boolean {
	const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
	for (const key of keys) {
		if (!SPLICED.has(key) && a[key as keyof Outline] !== b[key as keyof Outline]) return false;
	}
	return true;
}

function sameAnchor(a: Outline, i: number, b: Outline, j: number): boolean {
	if (a.anchors[i] !== b.anchors[j]) return false;
	for (let k = 0; k < ANCHOR_STRIDE; k++) {
		if (!Object.is(a.points[ANCHOR_STRIDE * i + k], b.points[ANCHOR_STRIDE * j + k])) return false;
	}
	for (let k = 0; k < MARK_STRIDE; k++) {
		if (a.marks[MARK_STRIDE * i + k] !== b.marks[MARK_STRIDE * j + k]) return false;
	}
	return true;
}

function spliceBetween(a: Outline, b: Outline): Splice {
	const m = a.anchors.length;
	const n = b.anchors.length;
	let head = 0;
	while (head < m && head < n && sameAnchor(a, head, b, head)) head++;
	let tail = 0;
	while (tail < m - head && tail < n - head && sameAnchor(a, m - 1 - tail, b, n - 1 - tail)) tail++;
	const before = bits(a, head, m - tail);
	const after = bits(b, head, n - tail);
	return { how: 'splice', id: b.id, at: head, before, after: sharing(after, before) };
}

/** Most edits only move anchors: what is alike on both sides lies in memory, and in the store, once. */
function sharing(after: Bits, before: Bits): Bits {
	return {
		...after,
		anchors: sameNumbers(after.anchors, before.anchors) ? before.anchors : after.anchors,
		marks: sameNumbers(after.marks, before.marks) ? before.marks : after.marks
	};
}

function bits(o: Outline, from: number, to: number): Bits {
	return {
		anchors: o.anchors.slice(from, to),
		points: o.points.slice(ANCHOR_STRIDE * from, ANCHOR_STRIDE * to),
		marks: o.marks.slice(MARK_STRIDE * from, MARK_STRIDE * to),
		nextAnchor: o.nextAnchor,
		closed: o.closed
	};
}

function spliced(o: Outline, at: number, out: Bits, put: Bits): Outline {
	return {
		...o,
		closed: put.closed,
		nextAnchor: put.nextAnchor,
		anchors: exchange(o.anchors, at, out.anchors.length, put.anchors),
		points: exchange(o.points, ANCHOR_STRIDE * at, out.points.length, put.points),
		marks: exchange(o.marks, MARK_STRIDE * at, out.marks.length, put.marks)
	};
}

function exchange<T extends Uint8Array | Uint32Array | Float64Array>(
	all: T,
	at: number,
	out: number,
	put: T
): T {
	const next = new (all.constructor as new (n: number) => T)(all.length - out + put.length);
	next.set(all.subarray(0, at));
	next.set(put, at);
	next.set(all.subarray(at + out), at + put.length);
	return next;
}

/**
 * The drawing after a step, or before it again.
 * @throws CoreError `broken-history` where the step does not fit the drawing.
 */
export function applyStep(drawing: Drawing, step: Step, direction: 'forward' | 'back'): Drawing {
	const records = new Map(drawing.records);
	let name = drawing.name;
	const list = direction === 'forward' ? step.changes : [...step.changes].reverse();
	for (const c of list) {
		if (c.how === 'rename') {
			name = direction === 'forward' ? c.after : c.before;
			continue;
		}
		if (c.how === 'splice') {
			const outline = records.get(c.id);
			if (outline?.type !== 'outline') {
				throw new CoreError('broken-history', 'This step does not fit the drawing any more.');
			}
			const forward = direction === 'forward';
			records.set(c.id, spliced(outline, c.at, forward ? c.before : c.after, forward ? c.after : c.before));
			continue;
		}
		const record = direction === 'forward' ? c.after : c.before;
		if (record) records.set(c.id, record);
		else records.delete(c.id);
	}
	return { ...drawing, name, records };
}

/**
 * A step as if some records had come out of it as they are now: results that were reckoned while the hand went on.
 * @param now the drawing that differs from `before` in those records alone.
 */
export function amendStep(before: Drawing, now: Drawing, step: Step, ids: ReadonlySet<string>): Step {
	// What the step found: its own 'before' where it touched a record, else the record as it was.
	const found = new Map<string, DrawingRecord | undefined>();
	for (const id of ids) found.set(id, before.records.get(id));
	for (const c of step.changes) {
		if (c.how === 'rename' || !ids.has(c.id)) continue;
		if (c.how === 'replace') found.set(c.id, c.before);
		else {
			const record = before.records.get(c.id);
			if (record?.type === 'outline') found.set(c.id, spliced(record, c.at, c.after, c.before));
		}
	}
	const kept = step.changes.filter((c) => c.how === 'rename' || !ids.has(c.id));
	const changes: Change[] = [];
	for (const id of ids) {
		const old = found.get(id);
		const next = now.records.get(id);
		if (old === next) continue;
		changes.push({ how: 'replace', id, ...(old ? { before: old } : {}), ...(next ? { after: next } : {}) });
	}
	return { name: step.name, changes: [...kept, ...changes] };
}

/** Ids of the records that a step touches. */
export function touchedIds(step: Step): string[] {
	return step.changes.flatMap((c) => (c.how === 'rename' ? [] : [c.id]));
}

/** Whether a step gives the drawing another name. */
export const isRenaming = (step: Step): boolean => step.changes.some((c) => c.how === 'rename');

/** About how much memory a step keeps, bytes: what it touched, not the drawing. */
export function stepSize(step: Step): number {
	let size = 100;
	for (const c of step.changes) {
		if (c.how === 'splice') {
			for (const b of [c.before, c.after])
				size += b.anchors.byteLength + b.points.byteLength + b.marks.byteLength;
		} else if (c.how === 'replace') {
			for (const r of [c.before, c.after])
				if (r?.type === 'outline') size += r.points.byteLength + r.marks.byteLength;
			size += 200;
		}
	}
	return size;
}

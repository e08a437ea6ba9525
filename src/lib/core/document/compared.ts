/** Two states of a drawing held against each other: what came, what went, what moved and by how much. */
import { twoWayDistance } from '../geometry/edge-tree';
import { moveBy } from '../geometry/maps';
import { transformPath } from '../geometry/path';
import { TOLERANCE } from '../tolerance';
import type { DrawingRecord } from './drawing';
import { lineOf, type Outline } from './outline';

export interface Came {
	readonly how: 'came' | 'went';
	readonly record: DrawingRecord;
}
/** A line that runs otherwise: how far at most, and where on either of the two. */
export interface Moved {
	readonly how: 'moved';
	readonly before: Outline;
	readonly after: Outline;
	/** mm. */
	readonly by: number;
	readonly x: number;
	readonly y: number;
}
/** A line that was carried as it is, mm to the right and up. */
export interface CarriedAway {
	readonly how: 'carried';
	readonly before: Outline;
	readonly after: Outline;
	readonly right: number;
	readonly up: number;
}
/** A record of which something else is said. */
export interface SaidOtherwise {
	readonly how: 'said';
	readonly before: DrawingRecord;
	readonly after: DrawingRecord;
	/** Names of its fields that differ. */
	readonly fields: readonly string[];
}
export type Difference = Came | Moved | CarriedAway | SaidOtherwise;

/** What is kept beside outlines for comparing is no thing of its own. */
const isBeside = ({ type }: DrawingRecord): boolean => type === 'line';

type Records = ReadonlyMap<string, DrawingRecord>;

/**
 * What differs between two states of a drawing, in the order of the later one; what went comes last.
 * @param tolerance mm: how finely curves are followed.
 */
export function compare(before: Records, after: Records, tolerance: number = TOLERANCE.fit): Difference[] {
	const found: Difference[] = [];
	for (const record of after.values()) {
		if (isBeside(record)) continue;
		const was = before.get(record.id);
		if (was?.type !== record.type) found.push({ how: 'came', record });
		else if (was !== record) found.push(...differences(was, record, tolerance));
	}
	for (const record of before.values())
		if (!isBeside(record) && after.get(record.id)?.type !== record.type) found.push({ how: 'went', record });
	return found;
}

/** Fields that speak of the line and of what it was made from, not of the thing. */
const LINE = new Set(['anchors', 'points', 'marks', 'nextAnchor', 'recipe', 'rounds', 'edges', 'first']);

function differences(before: DrawingRecord, after: DrawingRecord, tolerance: number): Difference[] {
	const fields = fieldsThatDiffer(before, after);
	if (before.type !== 'outline' || after.type !== 'outline')
		return fields.length ? [{ how: 'said', before, after, fields }] : [];
	const found: Difference[] = [];
	const said = fields.filter((field) => !LINE.has(field));
	if (said.length) found.push({ how: 'said', before, after, fields: said });
	if (fields.some((field) => LINE.has(field))) {
		const [right, up] = carriedBy(before, after) ?? [0, 0];
		if (Math.hypot(right, up) > TOLERANCE.coincidence)
			found.push({ how: 'carried', before, after, right, up });
		else {
			const { distance, x, y } = twoWayDistance([lineOf(before)], [lineOf(after)], tolerance);
			if (distance > TOLERANCE.coincidence) found.push({ how: 'moved', before, after, by: distance, x, y });
		}
	}
	return found;
}

/** By how much a line was carried; undefined where it changed in itself. */
function carriedBy(before: Outline, after: Outline): readonly [number, number] | undefined {
	const [a, b] = [lineOf(before), lineOf(after)];
	if (a.types.length === 0 || a.types.length !== b.types.length) return undefined;
	const [right, up] = [b.segs[0] - a.segs[0], b.segs[1] - a.segs[1]];
	const { types, segs } = transformPath(a, moveBy(right, up));
	const isThere =
		types.every((type, i) => type === b.types[i]) &&
		segs.every((v, i) => Math.abs(v - b.segs[i]) <= TOLERANCE.coincidence);
	return isThere ? [right, up] : undefined;
}

function fieldsThatDiffer(before: DrawingRecord, after: DrawingRecord): string[] {
	const [a, b] = [before as unknown as Fields, after as unknown as Fields];
	return [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((key) => !same(a[key], b[key]));
}
type Fields = Readonly<Record<string, unknown>>;

/** Whether two values are alike, packed numbers and fields within fields too. */
export function same(a: unknown, b: unknown): boolean {
	if (Object.is(a, b)) return true;
	if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
	if (ArrayBuffer.isView(a) && ArrayBuffer.isView(b)) {
		const [p, q] = [a as Float64Array, b as Float64Array];
		return p.length === q.length && p.every((value, i) => Object.is(value, q[i]));
	}
	if (ArrayBuffer.isView(a) || ArrayBuffer.isView(b) || Array.isArray(a) !== Array.isArray(b)) return false;
	const [p, q] = [a as Fields, b as Fields];
	const keys = Object.keys(p);
	return keys.length === Object.keys(q).length && keys.every((key) => key in q && same(p[key], q[key]));
}

/** A value whose fields, if it has any, stand in the order of their names: for texts that are alike where what they say is. */
export const inOrderOfNames = (value: unknown): unknown =>
	typeof value === 'object' && value !== null && !Array.isArray(value)
		? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
		: value;

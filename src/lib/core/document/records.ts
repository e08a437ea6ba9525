/** The table of record kinds: what each refers to, where it lies, how it moves, how it is written down. A new kind is a line here. */
import { placed } from '../geometry/maps';
import { STRIDE, type Affine } from '../geometry/path';
import { boxOf } from '../geometry/pick';
import { emptyBox, type Box } from '../geometry/segment';
import type { DrawingRecord, KeptLine } from './drawing';
import { HOLD_SHAPES } from './holds/hold';
import { referenceBox } from './edits/placement';
import { transformKept, transformOutline } from './edits/transform';
import { ANCHOR_STRIDE, lineOf, MARK_STRIDE, type Outline } from './outline';
import { RECIPES, recipeType } from './recipes/recipes';
import { carriedRule, ruleHolds } from './repeat-rules';

export type RecordKind = DrawingRecord['type'];
type RecordOf<K extends RecordKind> = Extract<DrawingRecord, { type: K }>;
type Plain = Record<string, unknown>;

export interface RecordType<R> {
	/** What a person calls it. */
	readonly word: string;
	/** Ids of records without which it cannot be. */
	needs(record: R): readonly string[];
	/** Where it lies, mm; empty where it lies nowhere. */
	box(record: R): Box;
	/** mm from a place to it where a person picks it by itself; undefined where it is picked otherwise, or not at all. */
	near?(record: R, x: number, y: number): number;
	/** Moved, turned, scaled; undefined where it does not move with what is picked. */
	carried?(record: R, map: Affine): R;
	/** As JSON data, and back; what is no such record gives undefined. */
	plain(record: R): Plain;
	revived(plain: Plain): R | undefined;
	/** What is wrong with its packed numbers; undefined where they hold. The rest is told by the schema. */
	broken?(record: R): string | undefined;
}

const nothing = (): readonly string[] => [];
const nowhere = (): Box => emptyBox();
const spot = (x: number, y: number): Box => ({ x0: x, y0: y, x1: x, y1: y });
/** Records without packed numbers are JSON as they are. */
const asIs = <R>() => ({
	plain: (record: R): Plain => ({ ...(record as Plain) }),
	revived: (plain: Plain): R => plain as R
});

function allFinite(numbers: Float64Array): boolean {
	for (let i = 0; i < numbers.length; i++) if (!Number.isFinite(numbers[i])) return false;
	return true;
}

function brokenOutline(o: Outline): string | undefined {
	const n = o.anchors.length;
	if (o.points.length !== ANCHOR_STRIDE * n || o.marks.length !== MARK_STRIDE * n)
		return 'its numbers do not fit';
	if (n === 0 && !o.recipe) return 'it has no anchor';
	if (!allFinite(o.points)) return 'one of its places is no number';
	for (let i = 0; i < n; i++)
		if (o.marks[MARK_STRIDE * i] >= 4 || o.marks[MARK_STRIDE * i + 1] >= 3)
			return 'an anchor is of no known kind';
	let most = 0;
	for (const id of o.anchors) most = Math.max(most, id);
	if (new Set(o.anchors).size !== n || (n > 0 && o.nextAnchor <= most)) return 'two anchors have one name';
	const { recipe } = o;
	if (recipe && (!(recipe.kind in RECIPES) || !recipeType(recipe).holds(recipe.settings as never)))
		return 'what it was made from makes no sense';
	return undefined;
}

export const RECORDS: { readonly [K in RecordKind]: RecordType<RecordOf<K>> } = {
	outline: {
		word: 'outline',
		needs: (o) => [o.layer],
		box: (o) => boxOf(lineOf(o)),
		carried: transformOutline,
		plain: (o) => ({
			...o,
			anchors: Array.from(o.anchors),
			points: Array.from(o.points),
			marks: Array.from(o.marks)
		}),
		revived: (r) => ({
			...(r as unknown as Outline),
			anchors: Uint32Array.from(r.anchors as number[]),
			points: Float64Array.from(r.points as number[]),
			marks: Uint8Array.from(r.marks as number[])
		}),
		broken: brokenOutline
	},
	reference: { word: 'picture', needs: nothing, box: referenceBox, ...asIs() },
	layer: { word: 'layer', needs: nothing, box: nowhere, ...asIs() },
	line: {
		word: 'kept line',
		needs: nothing,
		box: nowhere,
		carried: transformKept,
		plain: ({ path, ...rest }) => ({
			...rest,
			closed: path.closed,
			types: Array.from(path.types),
			segs: Array.from(path.segs)
		}),
		revived: (r) => {
			const { closed, types, segs, ...rest } = r as unknown as KeptLine & {
				closed: boolean;
				types: number[];
				segs: number[];
			};
			return { ...rest, path: { closed, types: Uint8Array.from(types), segs: Float64Array.from(segs) } };
		},
		broken: ({ path }) =>
			path.segs.length !== STRIDE * path.types.length || !allFinite(path.segs)
				? 'its numbers do not fit'
				: undefined
	},
	guide: {
		word: 'guide',
		needs: nothing,
		box: nowhere,
		near: (guide, x, y) => {
			const rad = (guide.angle * Math.PI) / 180;
			return Math.abs((y - guide.y) * Math.cos(rad) - (x - guide.x) * Math.sin(rad));
		},
		carried: (guide, map) => {
			const rad = (guide.angle * Math.PI) / 180;
			const from = placed(map, guide.x, guide.y);
			const to = placed(map, guide.x + Math.cos(rad), guide.y + Math.sin(rad));
			// Only moved, it keeps its angle to the bit.
			const turned = map[0] !== 1 || map[1] !== 0 || map[2] !== 0 || map[3] !== 1;
			const angle = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
			return { ...guide, ...from, ...(turned ? { angle } : {}) };
		},
		...asIs()
	},
	mark: {
		word: 'mark',
		needs: (mark) => [mark.layer],
		box: (mark) => spot(mark.x, mark.y),
		near: (mark, x, y) => Math.hypot(mark.x - x, mark.y - y),
		carried: (mark, map) => {
			const { angle, size } = mark;
			const [a, b, c, d] = map;
			const rad = ((angle ?? 90) * Math.PI) / 180;
			const [dx, dy] = [a * Math.cos(rad) + c * Math.sin(rad), b * Math.cos(rad) + d * Math.sin(rad)];
			const isMoved = a === 1 && b === 0 && c === 0 && d === 1;
			return {
				...mark,
				...placed(map, mark.x, mark.y),
				// What is only moved keeps its angle to the bit.
				...(angle !== undefined && !isMoved ? { angle: (Math.atan2(dy, dx) * 180) / Math.PI } : {}),
				...(size !== undefined && !isMoved ? { size: size * Math.sqrt(Math.abs(a * d - b * c)) } : {})
			};
		},
		...asIs()
	},
	group: { word: 'group', needs: nothing, box: nowhere, ...asIs() },
	repeat: {
		word: 'repeat',
		needs: nothing,
		box: nowhere,
		carried: (repeat, map) => ({ ...repeat, rule: carriedRule(repeat.rule, map) ?? repeat.rule }),
		...asIs(),
		broken: ({ rule }) => (ruleHolds({ ...rule }) ? undefined : 'its rule makes no sense')
	},
	sheet: {
		word: 'sheet',
		needs: nothing,
		box: (sheet) => ({
			x0: sheet.x,
			y0: sheet.y,
			x1: sheet.x + sheet.width,
			y1: sheet.y + sheet.height
		}),
		...asIs()
	},
	hold: {
		word: 'hold',
		needs: nothing,
		box: nowhere,
		...asIs(),
		broken: ({ kind, on, value }) =>
			on.length !== HOLD_SHAPES[kind]?.places ||
			(HOLD_SHAPES[kind].value !== undefined) !== (value !== undefined)
				? 'it is about nothing'
				: undefined
	},
	size: { word: 'size', needs: nothing, box: nowhere, ...asIs() },
	run: {
		word: 'size run',
		needs: nothing,
		box: nowhere,
		...asIs(),
		broken: ({ grades, now }) => (grades.includes(now) ? undefined : 'none of its grades is drawn')
	},
	job: { word: 'job', needs: nothing, box: nowhere, ...asIs() },
	settings: { word: 'settings', needs: nothing, box: nowhere, ...asIs() }
};

/** The kind of a record as what can be done with any. */
export const recordType = <R extends DrawingRecord>(record: R): RecordType<R> =>
	RECORDS[record.type] as unknown as RecordType<R>;

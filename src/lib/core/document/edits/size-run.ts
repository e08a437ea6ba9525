/** A size run: the same pattern in several grades from named sizes; which of them is drawn, and all of them nested. */
import { CoreError } from '../../errors';
import { moveBy } from '../../geometry/maps';
import { completeEdit } from '../complete-edit';
import {
	marksOf,
	nextRank,
	outlinesOf,
	recordsOf,
	type Drawing,
	type DrawingRecord,
	type Group
} from '../drawing';
import { applyStep, makeStep, type Edit } from '../history';
import type { NamedSize, SizeRun } from '../holds/hold';
import { valuesOf } from '../holds/sizes';
import { placeOfAnchor, type Outline } from '../outline';
import { copiesOf, type Copied } from './copies';
import type { NewId } from './operations';

export const runOf = (drawing: Drawing): SizeRun | undefined => recordsOf(drawing, 'run')[0];

/** What a size is in a grade. */
export const valueIn = (size: NamedSize, run: SizeRun, grade: string): string =>
	grade === run.now ? size.value : (size.graded?.[grade] ?? size.value);

/** All sizes as they are in a grade, mm. @throws CoreError `bad-formula` */
export const valuesIn = (drawing: Drawing, run: SizeRun, grade: string): Record<string, number> =>
	valuesOf(recordsOf(drawing, 'size').map((size) => ({ ...size, value: valueIn(size, run, grade) })));

/** Why a grade cannot have a name; undefined where it can. */
export function badGrade(name: string, run: SizeRun | undefined): string | undefined {
	if (!name.trim()) return 'Give the grade a name, as S, M or 38.';
	return run?.grades.includes(name) ? `There is a grade "${name}" already.` : undefined;
}

/** A grade more, behind the others, with the values of the last; the first makes the run, and is what is drawn now. */
export function withGrade(drawing: Drawing, name: string): Edit {
	const run = runOf(drawing);
	if (!run) return { put: [{ type: 'run', id: 'run', rank: nextRank(drawing), grades: [name], now: name }] };
	const last = run.grades[run.grades.length - 1];
	return {
		put: [
			{ ...run, grades: [...run.grades, name] },
			...recordsOf(drawing, 'size').map((size) => ({
				...size,
				graded: { ...size.graded, [name]: valueIn(size, run, last) }
			}))
		]
	};
}

/** Without a grade; the last one that is left is drawn on. Without any there is no run. */
export function withoutGrade(drawing: Drawing, run: SizeRun, grade: string): Edit {
	const grades = run.grades.filter((one) => one !== grade);
	if (grades.length === 0) return { remove: [run.id] };
	const now = grade === run.now ? grades[grades.length - 1] : run.now;
	return {
		put: [
			{ ...run, grades, now },
			...recordsOf(drawing, 'size').map((size) => {
				const { [grade]: _, [now]: __, ...left } = size.graded ?? {};
				return { ...size, value: valueIn(size, run, now), graded: left };
			})
		]
	};
}

/** A size with its value in a grade. */
export const withValue = (size: NamedSize, run: SizeRun, grade: string, value: string): NamedSize =>
	grade === run.now ? { ...size, value } : { ...size, graded: { ...size.graded, [grade]: value } };

/** Another grade is drawn: the sizes become those of it, and what is held by them follows. */
export function drawnIn(drawing: Drawing, grade: string): Edit {
	const run = runOf(drawing);
	if (!run?.grades.includes(grade)) throw new CoreError('gone', 'This grade is no longer in the drawing.');
	if (grade === run.now) return {};
	return {
		put: [
			{ ...run, now: grade },
			...recordsOf(drawing, 'size').map((size) => {
				const { [grade]: _, ...left } = size.graded ?? {};
				return { ...size, value: valueIn(size, run, grade), graded: { ...left, [run.now]: size.value } };
			})
		]
	};
}

/**
 * A size run out of a table: grades in its first row, sizes in its first column; cells apart by tabs, semicolons or commas. Sizes
 * and grades that are there already take the new values.
 * @throws CoreError `bad-table`
 */
export function runFromTable(drawing: Drawing, text: string, newId: NewId): Edit {
	const rows = text
		.split(/\r?\n/)
		.filter((line) => line.trim())
		.map((line) =>
			line.split(line.includes('\t') ? '\t' : line.includes(';') ? ';' : ',').map((c) => c.trim())
		);
	const [head, ...body] = rows;
	const grades = head?.slice(1) ?? [];
	if (
		body.length === 0 ||
		grades.length === 0 ||
		grades.some((g) => !g) ||
		new Set(grades).size < grades.length
	)
		throw new CoreError(
			'bad-table',
			'A size table has the grades in its first row and the sizes in its first column.'
		);
	const old = runOf(drawing);
	const all = [...(old?.grades ?? []), ...grades.filter((g) => !old?.grades.includes(g))];
	const run: SizeRun = {
		...(old ?? { type: 'run', id: 'run', rank: nextRank(drawing) }),
		grades: all,
		now: old?.now ?? grades[0]
	};
	const sizes = new Map(recordsOf(drawing, 'size').map((size) => [size.name, size]));
	let rank = nextRank(drawing) + 1;
	for (const [name, ...cells] of body) {
		const short = cells.findIndex((cell, k) => k < grades.length && !cell);
		if (cells.length < grades.length || short >= 0)
			throw new CoreError(
				'bad-table',
				`"${name}" has no value in the grade "${grades[Math.max(short, 0)] ?? ''}".`
			);
		let size: NamedSize = sizes.get(name) ?? {
			type: 'size',
			id: newId(),
			rank: rank++,
			name,
			value: cells[0]
		};
		grades.forEach((grade, k) => (size = withValue(size, run, grade, cells[k])));
		sizes.set(name, size);
	}
	return { put: [run, ...sizes.values()] };
}

/** The drawing after an edit. @throws CoreError */
function after(drawing: Drawing, edit: Edit): Drawing {
	const step = makeStep(drawing, '', completeEdit(drawing, edit).edit);
	return step ? applyStep(drawing, step, 'forward') : drawing;
}

const groupId = (grade: string): string => `run ${grade}`;

/** Colours for grades, of dyed thread, from small to large. */
const COLOURS = ['#7a8c3a', '#2f6d7e', '#8a4b2d', '#6a4a86', '#b0742a', '#3f6b4f'];

/**
 * All other grades drawn over the one that is there, each a group of its own; those drawn before go. What no size changes is not
 * drawn twice.
 * @param at the anchor on which they lie together; where they come to lie by their holds if undefined.
 * @throws CoreError `no-run`; what cannot be kept in a grade, with its name
 */
export function nested(
	drawing: Drawing,
	newId: NewId,
	at?: { readonly outline: string; readonly anchor: number }
): Edit {
	const run = runOf(drawing);
	if (!run || run.grades.length < 2)
		throw new CoreError('no-run', 'A size run has two grades or more. Add one first.');
	const ids = new Set(run.grades.map(groupId));
	const own = outlinesOf(drawing).filter(({ group }) => group === undefined || !ids.has(group));
	const remove = [...drawing.records.values()].flatMap((r) =>
		'group' in r && r.group !== undefined && ids.has(r.group) ? [r.id] : []
	);
	const bare = after(drawing, { remove });
	const others = run.grades
		.filter((grade) => grade !== run.now)
		.map((grade) => {
			try {
				return { grade, graded: after(bare, drawnIn(bare, grade)) };
			} catch (error) {
				if (!(error instanceof CoreError)) throw error;
				throw new CoreError(error.code, `In the grade "${grade}": ${error.message}`);
			}
		});
	const lineIn = (d: Drawing, id: string): Outline | undefined => {
		const record = d.records.get(id);
		return record?.type === 'outline' ? record : undefined;
	};
	const changing = new Set(
		own
			.filter(({ id, points }) => others.some(({ graded }) => lineIn(graded, id)?.points !== points))
			.map((o) => o.id)
	);
	if (changing.size === 0)
		throw new CoreError('no-run', 'No line changes with the sizes: hold lengths by them first.');
	const marks = marksOf(drawing).filter(({ on }) => on && changing.has(on.outline));
	const put: DrawingRecord[] = [];
	let rank = nextRank(drawing);
	for (const { grade, graded } of others) {
		const records = [...changing, ...marks.map((m) => m.id)].flatMap((id): Copied[] => {
			const record = graded.records.get(id);
			return record?.type === 'outline' || record?.type === 'mark' ? [record] : [];
		});
		const from = at && lineIn(graded, at.outline);
		const to = at && lineIn(drawing, at.outline);
		const [p, q] = [from && placeOfAnchor(from, at.anchor), to && placeOfAnchor(to, at.anchor)];
		const shift = p && q ? moveBy(q.x - p.x, q.y - p.y) : moveBy(0, 0);
		const group: Group = { type: 'group', id: groupId(grade), rank: rank++, name: `Size ${grade}` };
		const colour = COLOURS[run.grades.indexOf(grade) % COLOURS.length];
		const copies = copiesOf(bare, records, shift, newId, graded).put;
		put.push(group);
		copies.forEach((copy, k) => {
			if (copy.type === 'outline') {
				const name = (records[k] as Outline).name;
				put.push({ ...copy, name: `${name}, ${grade}`, group: group.id, colour, rank: rank++ });
			} else if (copy.type === 'mark') put.push({ ...copy, group: group.id, rank: rank++ });
		});
	}
	return { put, remove };
}

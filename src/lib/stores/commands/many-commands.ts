/** Commands for many things at once: groups, and copies that stay copies. What they open is loaded when it is first asked for. */
import { freeGroupName, grouped, outOfGroup, ungrouped } from '../../core/document/edits/groups';
import { groupOf } from '../../core/document/groups';
import type { RepeatWay } from '../../core/document/repeat-rules';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { withPart, type Command } from './command';

const repeat = (way?: RepeatWay) =>
	withPart(
		() => import('../operations/repeat-operation.svelte'),
		(b, { openRepeat }) => openRepeat(b, way)
	);
const repeating = () => import('../repeating');
const needsSomething = (b: Bench) =>
	b.selection.selected.size || b.selection.enteredOutline
		? undefined
		: 'Select what is to be repeated first.';
const needsRepeat = (b: Bench) =>
	b.selection.selectedRepeats.length ? undefined : 'Press a copy of a repeat first.';

/** Ways to repeat: word, plain line, other words. */
const WAYS: readonly (readonly [RepeatWay, string, string, string])[] = [
	[
		'rows',
		'Rows of copies',
		'In rows and columns, every second row set on where wanted.',
		'grid of copies, rows, columns, tile copies, array, scales, feathers'
	],
	[
		'around',
		'Copies around',
		'Around a middle, all round or a part of it.',
		'around a circle, circular, ring, polar, petals'
	],
	[
		'along',
		'Copies along a line',
		'Along an outline, by number or by spacing.',
		'along a line, along a path, stitch holes, teeth, follow a line'
	],
	[
		'mirrored',
		'Mirrored copy',
		'One on the other side of a line, which follows.',
		'mirror live, mirrored pair, other side'
	]
];

export const MANY_COMMANDS: readonly Command[] = [
	{
		id: 'group',
		word: 'Group',
		line: 'What is selected moves as one from now on. Its lines stay as they are: ends are joined with "Join ends".',
		also: 'group, bundle, together, keep together',
		key: 'Shift+(',
		station: 'build',
		group: 'many',
		drawing: 'group',
		why: (b) =>
			b.selection.units > 1
				? undefined
				: b.selection.selectedGroups.length
					? 'This is one group already.'
					: 'Select two things or more first.',
		run: (b) => {
			const id = newId();
			const name = freeGroupName(b.drawing);
			const ids = b.selection.selected;
			if (!b.commit('Group', grouped(b.drawing, ids, { id, name }, b.selection.groupIn))) return;
			b.select(ids);
			b.tell(`"${name}" moves as one now. Double click or Enter goes into it; lines are not joined by it.`);
		}
	},
	{
		id: 'ungroup',
		word: 'Take apart',
		line: 'The selected groups are no groups any more; what lies in them stays.',
		also: 'ungroup, unbundle, dissolve, split group',
		key: 'Shift+)',
		station: 'build',
		group: 'many',
		drawing: 'ungroup',
		why: (b) => (b.selection.selectedGroups.length ? undefined : 'Select a group first.'),
		run: (b) => {
			const ids = b.selection.selected;
			if (b.commit('Take the group apart', ungrouped(b.drawing, b.selection.selectedGroups))) b.select(ids);
		}
	},
	{
		id: 'out-of-group',
		word: 'Out of the group',
		line: 'What is selected leaves the group that it lies in.',
		also: 'remove from group, leave the group',
		why: (b) =>
			[...b.selection.selected].some((id) => groupOf(b.drawing, b.drawing.records.get(id)))
				? undefined
				: 'Go into a group and select what is to leave it.',
		run: (b) => {
			const { selected, selectedGroups } = b.selection;
			const inner = new Set(selectedGroups.map(({ id }) => id));
			const ids = [...selected].filter((id) => {
				const group = groupOf(b.drawing, b.drawing.records.get(id));
				return group && !inner.has(group.id);
			});
			if (b.commit('Out of the group', outOfGroup(b.drawing, ids))) b.select(ids);
			else b.tell('Go into the group first: what is selected is the whole of it.');
		}
	},
	{
		id: 'repeat',
		word: 'Repeat',
		line: 'Copies by a rule that change with the first one: in rows, around, along a line, mirrored.',
		also: 'repeat, array, pattern, many copies, copies that follow',
		key: 'Shift+*',
		station: 'build',
		group: 'many',
		drawing: 'repeat',
		why: needsSomething,
		run: repeat()
	},
	...WAYS.map(([way, word, line, also]): Command => ({
		id: `repeat-${way}`,
		word,
		line,
		also,
		why: needsSomething,
		run: repeat(way)
	})),
	{
		id: 'standing',
		word: 'Hole or piece',
		line: 'What lies in another outline is its hole: said otherwise it is a piece by itself, or a hole where it would be an island. Once more takes it back.',
		also: 'override a hole, piece in a piece, not a hole, island',
		why: (b) => (b.selection.selectedOutlines.length ? undefined : 'Select what lies in another outline.'),
		run: withPart(
			() => import('../standing'),
			(b, { turnStanding }) => turnStanding(b, b.selection.selectedOutlines)
		)
	},
	{
		id: 'mark-on',
		word: 'Onto the line',
		line: 'The selected marks go onto the nearest line, and stay at their share of its edge whatever becomes of it.',
		also: 'stay on the edge, tie a mark to a line, follow the edge',
		why: (b) => (b.selection.selectedMarks.length ? undefined : 'Select marks first.'),
		run: withPart(
			() => import('../marking'),
			(b, { putOnLine }) => putOnLine(b, b.selection.selectedMarks)
		)
	},
	{
		id: 'symmetry',
		word: 'Symmetry',
		line: 'One half is drawn, the other follows; the axis can be moved later.',
		also: 'symmetry, half, both sides, mirror half, symmetric, half and mirror, axis',
		station: 'build',
		group: 'many',
		drawing: 'symmetry',
		why: (b) =>
			b.selection.enteredOutline || b.selection.selectedOutlines.length === 1
				? undefined
				: 'Select the one line that is to be symmetrical.',
		run: withPart(
			() => import('../operations/symmetry-operation.svelte'),
			(b, { openSymmetry }) => openSymmetry(b)
		)
	},
	{
		id: 'rosette',
		word: 'Rosette',
		line: 'An open line is turned about a centre until it closes; all its leaves follow the one that is drawn.',
		also: 'rosette, turned symmetry, kaleidoscope, flower, gear, n-fold, rotational symmetry',
		station: 'build',
		group: 'many',
		drawing: 'rosette',
		why: (b) =>
			b.selection.enteredOutline || b.selection.selectedOutlines.length === 1
				? undefined
				: 'Select one open line: the part from one ray to the next.',
		run: withPart(
			() => import('../operations/rosette-operation.svelte'),
			(b, { openRosette }) => openRosette(b)
		)
	},
	{
		id: 'edit-apart',
		word: 'Edit this copy apart',
		line: 'The copy that was pressed becomes an outline of its own; its place in the repeat stays empty.',
		also: 'one instance, break instance, unlink copy, detach a copy',
		why: needsRepeat,
		run: withPart(repeating, (b, { editApart }) => {
			if (!editApart(b)) b.tell('Press the copy that is meant first.');
		})
	},
	{
		id: 'copy-out',
		word: 'Leave this copy out',
		line: 'The copy that was pressed goes; its place in the repeat stays empty.',
		also: 'skip one, remove one copy, leave a gap',
		why: needsRepeat,
		run: withPart(repeating, (b, { takeOutCopy }) => {
			if (!takeOutCopy(b)) b.tell('Press the copy that is meant first.');
		})
	},
	{
		id: 'repeat-plain',
		word: 'Copies made plain',
		line: 'The copies of the selected repeat become outlines of their own.',
		also: 'expand, explode, unlink, make real',
		why: needsRepeat,
		run: withPart(repeating, (b, { makeRepeatsPlain }) => makeRepeatsPlain(b))
	}
];

/** Commands for what hangs together: combining, joining, trimming, breaking, extending, detaching, the start and the direction. */
import { brokenAtCrossings, holesBeside, intoSingles, startedAt } from '../../core/document/edits/parting';
import { closeOutline } from '../../core/document/edits/structure';
import { liesWithin } from '../../core/document/edits/within';
import { isClosed, flipped } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import { CombineOperation } from '../operations/combine-operation.svelte';
import { start } from '../operations/starting';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { needsAnchors, needsEntered, needsOutlines, withPart, type Command } from './command';

/** mm between a piece and what was laid beside it. */
const BESIDE = 5;

const needsSelected = (bench: Bench) =>
	bench.selection.selected.size ? undefined : 'Select an outline first.';
const needsOpen = (bench: Bench) =>
	bench.selection.selectedOutlines.some((o) => !isClosed(o)) ? undefined : 'Select an open outline first.';
const needsClosed = (bench: Bench) =>
	bench.selection.selectedOutlines.some((o) => isClosed(o)) ? undefined : 'Select a closed outline first.';
/** The holes of the selected pieces: closed outlines that lie in them. */
const holesOf = (bench: Bench) =>
	liesWithin(
		bench.drawing,
		bench.selection.selectedOutlines.filter((o) => isClosed(o))
	).outlines.filter((o) => isClosed(o));

export const STRUCTURE_COMMANDS: readonly Command[] = [
	{
		id: 'combine',
		word: 'Combine',
		line: 'Two or more closed outlines made one: all, common, first less the rest, regions.',
		also: 'weld, merge, unite, union, add shapes, combine, subtract, cut out, minus, punch, knock out, difference, common, overlap, intersect, regions, divide, fragments',
		key: 'Shift+c',
		station: 'build',
		group: 'together',
		drawing: 'combine',
		why: (b) =>
			b.selection.selectedOutlines.filter((o) => isClosed(o)).length >= 2
				? undefined
				: 'Select two or more closed outlines first.',
		run: (b) => void start(b, 'combine')
	},
	{
		id: 'swap-first',
		word: 'Another first',
		line: 'While the first is taken less the rest: another of the pieces is the first.',
		also: 'swap, order, which first',
		key: 'Shift+w',
		why: (b) =>
			b.operation instanceof CombineOperation && b.operation.op === 'difference'
				? undefined
				: 'Combine outlines first, and take the first less the rest.',
		run: (b) => {
			if (b.operation instanceof CombineOperation) b.operation.swap();
		}
	},
	{
		id: 'join',
		word: 'Join ends',
		line: 'Ends that lie near each other become one line; or drop an end on an end.',
		also: 'glue, join, connect, attach, link, stitch ends, close, gap, loose lines, shut, seal',
		key: 'Shift+j',
		station: 'build',
		group: 'together',
		drawing: 'join',
		why: (b) => (b.outlines.some((o) => !isClosed(o)) ? undefined : 'There is no open outline to join.'),
		run: (b) => void start(b, 'join')
	},
	{
		id: 'close',
		word: 'Make it closed',
		line: 'Joins the ends of an open outline; no anchor moves unless they nearly touch.',
		also: 'close, close path, shut, seal, gap, closed, close shape',
		why: needsOpen,
		run: (b) =>
			b.commit('Make closed', {
				put: b.selection.selectedOutlines.filter((o) => !isClosed(o)).map((o) => closeOutline(o))
			})
	},
	{
		id: 'open-on-purpose',
		word: 'Open on purpose',
		line: 'What is selected is meant to stay open, which is no fault; or it is to be closed again.',
		also: 'open, stays open, unclosed, allowed, intention',
		why: needsOpen,
		run: (b) => {
			const open = b.selection.selectedOutlines.filter((o) => !isClosed(o));
			const purpose = open.some((o) => !o.openOnPurpose);
			b.commit(purpose ? 'Open on purpose' : 'To be closed', {
				put: open.map((o) => ({ ...o, openOnPurpose: purpose }))
			});
		}
	},
	{
		id: 'trim',
		word: 'Trim',
		line: 'Point at what has to go, as far as the outlines that cross it; those selected before cut, or all.',
		also: 'trim, cut off, clip, shorten, crop line, cut away',
		key: 'Shift+t',
		station: 'build',
		group: 'apart',
		drawing: 'trim',
		why: needsOutlines,
		run: (b) => void start(b, 'trim')
	},
	{
		id: 'extend',
		word: 'Extend',
		line: 'An open line goes on to the next outline, or by a length: straight on or along its curve.',
		also: 'extend, lengthen, longer, prolong, continue, grow',
		key: 'Shift+z',
		station: 'build',
		group: 'longer, round, moved',
		drawing: 'extend',
		why: needsOpen,
		run: (b) => void start(b, 'extend')
	},
	{
		id: 'shorten',
		word: 'Shorten',
		line: 'An open line ends earlier: by a length, or where another outline crosses it.',
		also: 'shorten, shorter, cut back, retract',
		why: needsOpen,
		run: (b) => void start(b, 'extend', true)
	},
	{
		id: 'break',
		word: 'Break',
		line: 'Parts the line at the selected anchors, or in the middle of the picked stretch.',
		also: 'open, break, cut path, scissors, split, snip, split line, open path, cut apart',
		key: 'k',
		station: 'build',
		group: 'apart',
		drawing: 'break',
		why: (b) =>
			needsEntered(b) ??
			(b.selection.anchors.size || b.selection.segment !== undefined
				? undefined
				: 'Select an anchor or pick a stretch first.'),
		run: (b) => b.breakHere()
	},
	{
		id: 'split-crossings',
		word: 'Break at all crossings',
		line: 'The selected outlines are parted wherever they cross each other, others or themselves.',
		also: 'split, break, split at crossings, intersections, fragments, divide, break at intersections',
		station: 'build',
		group: 'apart',
		drawing: 'crossings',
		why: needsSelected,
		run: (b) => {
			const outlines = b.selection.selectedOutlines;
			const { edit, crossings } = brokenAtCrossings(b.drawing, outlines, shown(b.drawing), newId);
			if (crossings === 0 || !b.commit('Break at all crossings', edit)) {
				b.tell('Nothing crosses here.');
				return;
			}
			b.leave();
			b.pickMade(edit);
			b.tell(
				`${crossings} crossings: there are ${b.selection.selected.size} lines now, each an outline of its own.`
			);
		}
	},
	{
		id: 'singles',
		word: 'Into single segments',
		line: 'Every segment of what is selected becomes a line of its own.',
		also: 'explode, singles, take apart, separate, single segments, break apart, ungroup path',
		station: 'build',
		group: 'apart',
		drawing: 'singles',
		why: needsSelected,
		run: (b) => {
			const edit = intoSingles(b.drawing, b.selection.selectedOutlines, newId);
			if (!b.commit('Into single segments', edit)) {
				b.tell('It is one single segment already.');
				return;
			}
			b.leave();
			b.pickMade(edit);
			b.tell(
				`There are ${b.selection.selected.size} lines now, each one segment. "Join ends" puts them together again.`
			);
		}
	},
	{
		id: 'detach',
		word: 'Detach a stretch',
		line: 'What lies between two anchors, or what is picked, becomes an outline of its own.',
		also: 'detach, part, separate, split off, take off, own outline',
		station: 'build',
		group: 'apart',
		drawing: 'detach',
		why: needsSelected,
		run: (b) => void start(b, 'part', true)
	},
	{
		id: 'take-out',
		word: 'Take a stretch out',
		line: 'What lies between two places goes; you say which side.',
		also: 'take out a stretch, remove stretch, cut out, trim, erase part, delete between, gap',
		station: 'build',
		group: 'apart',
		drawing: 'takeout',
		why: needsSelected,
		run: (b) => void start(b, 'part', false)
	},
	{
		id: 'holes-beside',
		word: 'Holes out of the piece',
		line: 'The holes of the selected piece are laid beside it, as pieces of their own; dragged back they are holes again.',
		also: 'hole, opening, window, separate, holes, unmake hole, release hole, take apart, compound',
		why: (b) =>
			needsClosed(b) ??
			(holesOf(b).length ? undefined : 'No hole lies in it. A closed outline inside another is its hole.'),
		run: (b) => {
			const [piece] = b.selection.selectedOutlines.filter((o) => isClosed(o));
			const holes = holesOf(b);
			if (!b.commit('Holes out of the piece', holesBeside(b.drawing, piece, holes, BESIDE))) return;
			b.select(holes.map((o) => o.id));
			b.tell(
				holes.length === 1
					? 'It was a hole and is a piece of its own now, beside it.'
					: `${holes.length} holes are pieces of their own now, beside it.`
			);
		}
	},
	{
		id: 'start-here',
		word: 'Start here',
		line: 'A closed outline begins at the selected anchor: its needle’s eye moves there.',
		also: 'start, seam point, begin, origin, first point, start point',
		why: (b) =>
			needsAnchors(b) ?? (b.selection.enteredOutline!.closed ? undefined : 'An open line starts at its end.'),
		run: (b) => {
			const [anchor] = b.selection.anchors;
			b.changeInHand('Start here', (o) => startedAt(o, anchor));
		}
	},
	{
		id: 'flip',
		word: 'Flip direction',
		line: 'The outline is travelled the other way; an arrow at its start shows which.',
		also: 'direction, reverse, orientation, which way, flip, turn round, clockwise',
		why: needsSelected,
		run: (b) => b.commit('Flip direction', { put: b.selection.selectedOutlines.map(flipped) })
	},
	{
		id: 'corner',
		word: 'Round or cut off',
		line: 'The selected corners get a radius, or are cut off; it stays editable.',
		also: 'round, rounded, fillet, radius, soft corner, chamfer, bevel, cut corner, corner, blunt',
		key: 'Shift+r',
		station: 'build',
		group: 'longer, round, moved',
		drawing: 'corner',
		why: needsAnchors,
		run: (b) => void start(b, 'corner')
	},
	{
		id: 'corner-between',
		word: 'Corner of two lines',
		line: 'Two lines meet in a round, flat or sharp corner: the arms you point at stay, one outline afterwards.',
		also: 'fillet, chamfer, round, bevel, corner, corner between, trim to corner, meet in a corner',
		station: 'build',
		group: 'together',
		drawing: 'between',
		why: (b) =>
			b.selection.selectedOutlines.length === 2
				? undefined
				: 'Select the two lines first, with Shift or "pick more".',
		run: withPart(
			() => import('../operations/corner-between-operation.svelte'),
			(b, { openCornerBetween }) => openCornerBetween(b)
		)
	}
];

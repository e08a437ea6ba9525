/** Everything that can be asked for: its word, other words for it, its key, and why it cannot be used just now. */
import { start, startSimplify } from '../operations/starting';
import type { Bench } from '../bench.svelte';
import {
	insertAnchors,
	placesOnSegment,
	setKind,
	straightenSegments,
	curveSegments
} from '../../core/document/edits/anchors';
import {
	ANCHOR_KINDS,
	sourceLine,
	flipped,
	type AnchorKind,
	type Outline
} from '../../core/document/outline';
import { closeOutline } from '../../core/document/edits/structure';
import { recordsOf } from '../../core/document/drawing';
import { shownMarks } from '../../core/document/output';
import { HAND_COMMANDS } from './hand-commands';
import { LOOK_COMMANDS } from './look-commands';
import { isMendable } from '../../core/check/mend-all';
import { CombineOperation } from '../operations/combine-operation.svelte';
import { needsAnchors, needsEntered, needsOutlines, needsSegment, type Command } from './command';

export type { Command } from './command';

const always = () => undefined;
const guideIds = (bench: Bench) => recordsOf(bench.drawing, 'guide').map((g) => g.id);

const kindLines: Record<AnchorKind, string> = {
	corner: 'Both handles are independent.',
	smooth: 'Both handles share one direction.',
	even: 'One direction, and both as long.',
	flowing: 'The handles follow the neighbours by themselves.'
};
const kindKeys: Record<AnchorKind, string> = { corner: 'c', smooth: 's', even: 'v', flowing: 'w' };

/** The next outline in the drawing's order, brought into sight. */
function stepOutline(bench: Bench, by: number): void {
	const list = bench.pickable().outlines;
	if (list.length === 0) return;
	const at = list.findIndex((o) => bench.selection.selected.has(o.id));
	const next = at < 0 ? (by > 0 ? 0 : list.length - 1) : (at + by + list.length) % list.length;
	bench.select([list[next].id]);
	bench.reveal(list[next]);
}

function stepAnchor(bench: Bench, by: number): void {
	const outline = bench.selection.enteredOutline;
	if (!outline) {
		stepOutline(bench, by);
		return;
	}
	const n = outline.anchors.length;
	const at = outline.anchors.findIndex((id) => bench.selection.anchors.has(id));
	const next = at < 0 ? 0 : (at + by + n) % n;
	bench.selection.segment = undefined;
	bench.selection.anchors = new Set([outline.anchors[next]]);
	const x = outline.points[7 * next];
	const y = outline.points[7 * next + 1];
	const { view, size } = bench.sight;
	const inX = Math.abs((x - view.x) * view.scale) < size.widthPx * 0.45;
	const inY = Math.abs((y - view.y) * view.scale) < size.heightPx * 0.4;
	if (!inX || !inY) bench.sight.view = { ...view, x, y };
}

/** Anchors put on the picked segment, or on every segment whose both ends are selected, or on all. */
function addOnSegments(bench: Bench, name: string, how: Parameters<typeof placesOnSegment>[2]): void {
	const { selection } = bench;
	const made = new Map<string, ReturnType<typeof insertAnchors>>();
	for (const outline of selection.enteredOutlines) {
		const places = segmentsMeant(bench, outline).flatMap((i) => placesOnSegment(outline, i, how));
		if (places.length) made.set(outline.id, insertAnchors(outline, places));
	}
	if (made.size === 0) {
		bench.tell('There is no such place on what is picked.');
		return;
	}
	if (!bench.commitChanged(name, new Map([...made].map(([id, { outline }]) => [id, outline])))) return;
	selection.segment = undefined;
	selection.picked = new Map([...made].map(([id, { added }]) => [id, new Set(added)]));
}

/** The segments of an entered outline that are meant: picked ones, those between picked anchors, or all where nothing is picked. */
function segmentsMeant({ selection }: Bench, outline: Outline): number[] {
	const n = outline.anchors.length;
	const all = Array.from(sourceLine(outline).types.keys());
	const inHand = outline.id === selection.entered;
	if (selection.segments.size) return inHand ? [...selection.segmentIndexes()] : [];
	const anchors = selection.anchorsOf(outline.id);
	const isAnyPicked = [...selection.picked.values()].some((ids) => ids.size > 0);
	if (!isAnyPicked) return all;
	return all.filter((i) => anchors.has(outline.anchors[i]) && anchors.has(outline.anchors[(i + 1) % n]));
}

export const COMMANDS: readonly Command[] = [
	{
		id: 'trace',
		word: 'Trace',
		line: 'Get closed outlines from the picture.',
		also: 'vectorise outline follow edge scan',
		key: 't',
		station: 'trace',
		drawing: 'trace',
		why: (b) => (b.references.length === 0 ? 'Bring in a picture first.' : undefined),
		run: (b) => {
			const reference = b.references.find((r) => r.pxPerMm !== undefined && !r.hidden) ?? b.references[0];
			if (reference.pxPerMm === undefined) {
				b.station = 'size';
				b.tell('Give the picture its true size first.', 'trouble');
			} else start(b, 'trace', reference);
		}
	},
	{
		id: 'enter',
		word: 'Enter',
		line: 'Edit the anchors of the selected outline.',
		also: 'edit points nodes open into',
		key: 'e',
		station: 'mend',
		drawing: 'enter',
		why: (b) =>
			b.selection.enteredOutline || b.selection.selected.size ? undefined : 'Select an outline first.',
		run: (b) => (b.selection.enteredOutline ? b.leave() : b.enter(...b.selection.selected))
	},
	{
		id: 'simplify',
		word: 'Simplify',
		line: 'Fewest anchors within a drift you allow.',
		also: 'reduce fewer points smooth clean jagged thin out',
		key: 'd',
		station: 'mend',
		drawing: 'simplify',
		why: needsOutlines,
		run: (b) => startSimplify(b)
	},
	{
		id: 'next-knot',
		word: 'Next knot',
		line: 'Go to the next thing that stops the cut.',
		also: 'problem error fault check mend open crossing',
		key: 'f',
		station: 'mend',
		drawing: 'knot',
		why: (b) => (b.readiness.faults.length ? undefined : 'Nothing is left to mend.'),
		run: (b) => b.readiness.next()
	},
	{
		id: 'mend-all',
		word: 'Mend all',
		line: 'Mend everything of which it is clear how.',
		also: 'fix repair clean up',
		station: 'mend',
		drawing: 'mendall',
		why: (b) =>
			b.readiness.faults.some((f) => isMendable(f.mend))
				? undefined
				: 'There is nothing that could be mended by itself.',
		run: (b) => void b.readiness.mendAll()
	},
	{
		id: 'add-half',
		word: 'Half way',
		line: 'A new anchor in the middle of what is picked; the shape stays.',
		also: 'add insert anchor point middle',
		key: 'a',
		station: 'mend',
		drawing: 'half',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchor half way', { evenly: 1 })
	},
	{
		id: 'add-evenly',
		word: 'Several evenly',
		line: 'As many new anchors as were last asked for (three at first), evenly along what is picked.',
		also: 'add insert three several divide evenly',
		why: needsEntered,
		run: (b) => addOnSegments(b, `Add ${b.evenly} anchors evenly`, { evenly: b.evenly })
	},
	{
		id: 'add-extremes',
		word: 'At extremes',
		line: 'New anchors where the line runs level or plumb.',
		also: 'add insert extreme top bottom',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchors at extremes', 'extremes')
	},
	{
		id: 'add-inflections',
		word: 'At inflections',
		line: 'New anchors where the line bends over to the other side.',
		also: 'add insert inflection turn',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchors at inflections', 'inflections')
	},
	{
		id: 'delete',
		word: 'Delete',
		line: 'Take the selected out; the line runs smoothly through.',
		also: 'remove erase take away',
		key: 'x',
		station: 'mend',
		drawing: 'delete',
		why: (b) =>
			b.selection.enteredOutline
				? b.selection.anchors.size || b.selection.segment !== undefined
					? undefined
					: 'Select an anchor first.'
				: b.selection.selected.size
					? undefined
					: 'Select something first.',
		run: (b) => {
			if (!b.selection.enteredOutline) b.removeSelected();
			else if (b.selection.anchors.size) b.removeAnchors('through');
			else b.removeSegment();
		}
	},
	...HAND_COMMANDS,
	...LOOK_COMMANDS,
	{
		id: 'delete-straight',
		word: 'Delete, straight across',
		line: 'The neighbours are connected straight: a square loses a corner and is a triangle.',
		also: 'remove straight triangle',
		why: needsAnchors,
		run: (b) => b.removeAnchors('straight')
	},
	{
		id: 'delete-kept',
		word: 'Delete, keep the shape',
		line: 'One curve takes over and keeps the shape as well as it can.',
		also: 'remove keep shape',
		why: needsAnchors,
		run: (b) => b.removeAnchors('kept')
	},
	...ANCHOR_KINDS.map((kind): Command => ({
		id: `kind-${kind}`,
		word: kind[0].toUpperCase() + kind.slice(1),
		line: kindLines[kind],
		also: 'anchor kind type handle',
		key: kindKeys[kind],
		why: needsAnchors,
		run: (b) => b.change(`Make ${kind}`, (o, ids) => setKind(o, ids, kind))
	})),
	{
		id: 'straighten',
		word: 'Straighten',
		line: 'The picked stretch becomes straight.',
		also: 'line straight',
		key: 'i',
		why: needsSegment,
		run: (b) => b.changeInHand('Straighten', (o) => straightenSegments(o, b.selection.segmentIndexes()))
	},
	{
		id: 'curve',
		word: 'Make a curve',
		line: 'The picked stretch gets handles; its shape stays.',
		also: 'bend curve handles',
		key: 'u',
		why: needsSegment,
		run: (b) => b.changeInHand('Make a curve', (o) => curveSegments(o, b.selection.segmentIndexes()))
	},
	{
		id: 'close',
		word: 'Close',
		line: 'Joins the ends of an open outline; no anchor moves unless they nearly touch.',
		also: 'join ends closed shut',
		why: (b) =>
			b.selection.selectedOutlines.some((o) => !o.closed) ? undefined : 'Select an open outline first.',
		run: (b) =>
			b.commit('Close', {
				put: b.selection.selectedOutlines.filter((o) => !o.closed).map((o) => closeOutline(o))
			})
	},
	{
		id: 'swap-first',
		word: 'Another first',
		line: 'While the first is taken less the rest: another of the pieces is the first.',
		also: 'swap order subtract minus which difference',
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
		id: 'open-on-purpose',
		word: 'Open on purpose',
		line: 'What is selected is meant to stay open, which is no fault; or it is to be closed again.',
		also: 'stays open line stroke intention unclosed allowed',
		why: (b) =>
			b.selection.selectedOutlines.some((o) => !o.closed) ? undefined : 'Select an open outline first.',
		run: (b) => {
			const open = b.selection.selectedOutlines.filter((o) => !o.closed);
			const purpose = open.some((o) => !o.openOnPurpose);
			b.commit(purpose ? 'Open on purpose' : 'To be closed', {
				put: open.map((o) => ({ ...o, openOnPurpose: purpose }))
			});
		}
	},
	{
		id: 'flip',
		word: 'Flip direction',
		line: 'The outline is travelled the other way.',
		also: 'reverse direction turn round',
		why: (b) => (b.selection.selected.size ? undefined : 'Select an outline first.'),
		run: (b) => b.commit('Flip direction', { put: b.selection.selectedOutlines.map(flipped) })
	},
	{
		id: 'next-anchor',
		word: 'Next along',
		line: 'Select the next anchor along the line, or the next outline.',
		also: 'step forward',
		key: 'n',
		why: needsOutlines,
		run: (b) => stepAnchor(b, 1)
	},
	{
		id: 'previous-anchor',
		word: 'The one before',
		line: 'Select the anchor before, or the outline before.',
		also: 'previous step back',
		key: 'b',
		why: needsOutlines,
		run: (b) => stepAnchor(b, -1)
	},
	{
		id: 'combine',
		word: 'Combine',
		line: 'Two or more closed outlines made one: all, common, first less the rest.',
		also: 'union unite weld subtract cut out intersect difference regions merge',
		key: 'Shift+c',
		station: 'build',
		drawing: 'combine',
		why: (b) =>
			b.selection.selectedOutlines.filter((o) => o.closed).length >= 2
				? undefined
				: 'Select two or more closed outlines first.',
		run: (b) => start(b, 'combine')
	},
	{
		id: 'join',
		word: 'Join ends',
		line: 'Ends that lie near each other become one line.',
		also: 'connect close gap loose lines bridge open',
		key: 'Shift+j',
		station: 'build',
		drawing: 'join',
		why: (b) => (b.outlines.some((o) => !o.closed) ? undefined : 'There is no open outline to join.'),
		run: (b) => start(b, 'join')
	},
	{
		id: 'trim',
		word: 'Trim',
		line: 'Take the picked stretch out, as far as the outlines that cross it.',
		also: 'cut shorten remove crossing',
		key: 'Shift+t',
		station: 'build',
		drawing: 'trim',
		why: needsSegment,
		run: (b) => start(b, 'trim')
	},
	{
		id: 'break',
		word: 'Break',
		line: 'Cut the line at the selected anchors, or in the middle of the picked stretch.',
		also: 'split cut open apart separate',
		key: 'k',
		station: 'build',
		drawing: 'break',
		why: (b) =>
			needsEntered(b) ??
			(b.selection.anchors.size || b.selection.segment !== undefined
				? undefined
				: 'Select an anchor or pick a stretch first.'),
		run: (b) => b.breakHere()
	},
	{
		id: 'corner',
		word: 'Corner',
		line: 'Round the selected corners with a radius, or cut them off.',
		also: 'fillet chamfer round radius bevel',
		key: 'Shift+r',
		station: 'build',
		drawing: 'corner',
		why: needsAnchors,
		run: (b) => start(b, 'corner')
	},
	{
		id: 'offset',
		word: 'Offset',
		line: 'A new outline beside the drawn one: outside, inside, round a line or to one side.',
		also: 'cut line kerf grow shrink parallel seam allowance inset outset',
		key: 'o',
		station: 'offset',
		drawing: 'offset',
		why: (b) => (b.outlines.length === 0 ? 'There is no outline yet.' : undefined),
		run: (b) => start(b, 'offset')
	},
	{
		id: 'allowance',
		word: 'Allowance',
		line: 'A cut line outside of a piece, with a width for each edge; it follows the piece.',
		also: 'seam hem width edge sew cloth margin turn',
		key: 'Shift+o',
		station: 'offset',
		drawing: 'allowance',
		why: (b) => (b.outlines.some((o) => o.closed) ? undefined : 'An allowance needs a closed outline.'),
		run: (b) => start(b, 'allowance')
	},
	{
		id: 'undo',
		word: 'Undo',
		line: 'Take the last step back.',
		also: 'back revert',
		key: '$mod+z',
		why: (b) => (b.canUndo ? undefined : 'There is nothing to undo.'),
		run: (b) => b.undo()
	},
	{
		id: 'redo',
		word: 'Redo',
		line: 'Do it again.',
		also: 'again forward',
		key: '$mod+Shift+z',
		why: (b) => (b.canRedo ? undefined : 'There is nothing to do again.'),
		run: (b) => b.redo()
	},
	{
		id: 'select-all',
		word: 'Select all',
		line: 'All anchors of the entered outline, or all outlines.',
		also: 'everything',
		key: '$mod+a',
		why: needsOutlines,
		run: (b) => {
			if (b.selection.enteredOutline)
				for (const o of b.selection.enteredOutlines) b.selection.pickAnchors(o.id, new Set(o.anchors));
			else b.select([...b.pickable().outlines, ...shownMarks(b.drawing)].map((r) => r.id));
		}
	},
	{
		id: 'fit',
		word: 'See all',
		line: 'The whole drawing in the window.',
		also: 'fit zoom everything home',
		key: 'h',
		why: always,
		run: (b) => b.fitAll()
	},
	{
		id: 'fit-selection',
		word: 'See the selected',
		line: 'What is selected fills the window.',
		also: 'fit zoom selection',
		key: 'j',
		why: (b) => (b.selection.selected.size ? undefined : 'Select something first.'),
		run: (b) => b.fitSelection()
	},
	{
		id: 'actual',
		word: 'Actual size',
		line: 'A millimetre on the screen is a millimetre.',
		also: 'true size 1:1 real zoom',
		key: 'm',
		why: always,
		run: (b) => b.sight.actualSize()
	},
	{
		id: 'zoom-in',
		word: 'Closer',
		line: 'Look closer.',
		also: 'zoom in',
		key: '+',
		why: always,
		run: (b) => b.sight.zoom(b.sight.size.widthPx / 2, b.sight.size.heightPx / 2, 1.5)
	},
	{
		id: 'zoom-out',
		word: 'Farther',
		line: 'Look from farther away.',
		also: 'zoom out',
		key: '-',
		why: always,
		run: (b) => b.sight.zoom(b.sight.size.widthPx / 2, b.sight.size.heightPx / 2, 1 / 1.5)
	},
	{
		id: 'filled',
		word: 'Filled view',
		line: 'Pieces in flat colour, holes empty, open outlines unfilled.',
		also: 'fill solid preview holes',
		key: 'g',
		why: always,
		run: (b) => void (b.filled = !b.filled)
	},
	{
		id: 'pictures',
		word: 'Picture away',
		line: 'Hide or show the pictures.',
		also: 'hide reference image show',
		key: 'p',
		why: (b) => (b.references.length ? undefined : 'There is no picture.'),
		run: (b) => void (b.pictures.hidden = !b.pictures.hidden)
	},
	{
		id: 'grid',
		word: 'Grid',
		line: 'Show or hide the weave.',
		also: 'lines graph',
		key: 'y',
		why: always,
		run: (b) => void (b.grid = !b.grid)
	},
	{
		id: 'no-guides',
		word: 'Remove guides',
		line: 'Take all guides out of the drawing.',
		also: 'guide line clear',
		why: (b) => (guideIds(b).length ? undefined : 'There is no guide. Pull one out of a ruler.'),
		run: (b) => b.commit('Remove guides', { remove: guideIds(b) })
	},
	{
		id: 'rack',
		word: 'Rack',
		line: 'All outlines on a rail, heaviest first.',
		also: 'list outlines layers objects',
		key: 'r',
		why: always,
		run: (b) => void (b.rackOpen = !b.rackOpen)
	}
];

/** Commands that fit what was typed, the best first. */
export function findCommands(text: string): Command[] {
	const words = text.toLowerCase().split(/\s+/).filter(Boolean);
	if (words.length === 0) return [...COMMANDS];
	const score = (command: Command): number => {
		let sum = 0;
		for (const w of words) {
			const name = command.word.toLowerCase();
			if (name.startsWith(w)) sum += 8;
			else if (name.includes(w)) sum += 5;
			else if (command.also.split(' ').some((a) => a.startsWith(w))) sum += 3;
			else if (command.line.toLowerCase().includes(w)) sum += 1;
			else return 0;
		}
		return sum;
	};
	return COMMANDS.map((command) => ({ command, s: score(command) }))
		.filter(({ s }) => s > 0)
		.sort((a, b) => b.s - a.s)
		.map(({ command }) => command);
}

/** A key as a person reads it. */
export function keyName(key: string): string {
	return (
		key
			.replace('$mod', 'Ctrl')
			.split('+')
			.map((k) => (k.length === 1 ? k.toUpperCase() : k))
			.join(' + ') || '+'
	);
}

/** Everything that can be asked for: its word, other words for it, its key, and why it cannot be used just now. */
import { start, startSimplify } from '../operations/starting';
import type { Way } from '../../core/trace/ways';
import type { Bench } from '../bench.svelte';
import {
	insertAnchors,
	placesOnSegment,
	setKind,
	straightenSegments,
	curveSegments
} from '../../core/document/edits/anchors';
import {
	isClosed,
	ANCHOR_KINDS,
	sourceLine,
	type AnchorKind,
	type Outline
} from '../../core/document/outline';
import { recordsOf } from '../../core/document/drawing';
import { shownMarks } from '../../core/document/output';
import { shownRepeats } from '../../core/document/repeats';
import { takePlaceOut, walkPlaces } from '../giving';
import { GIVEN_COMMANDS } from './given-commands';
import { HOLD_COMMANDS } from './hold-commands';
import { HAND_COMMANDS } from './hand-commands';
import { COPY_COMMANDS } from './copy-commands';
import { GO_COMMANDS } from './go-commands';
import { LATER_COMMANDS } from './later-commands';
import { MACHINE_COMMANDS } from './machine-commands';
import { MANY_COMMANDS } from './many-commands';
import { SHEET_COMMANDS } from './sheet-commands';
import { LOOK_COMMANDS } from './look-commands';
import { STRUCTURE_COMMANDS } from './structure-commands';
import { isMendable } from '../../core/check/checked';
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

const needsTraced = (b: Bench) => (b.references.length === 0 ? 'Bring in a picture first.' : undefined);
/** Traces the first picture that is seen and has its true size. */
function startTrace(b: Bench, way?: Way): void {
	const reference = b.references.find((r) => r.pxPerMm !== undefined && !r.hidden) ?? b.references[0];
	if (reference.pxPerMm === undefined) {
		b.station = 'size';
		b.trayOpen = true;
		b.tell('Give the picture its true size first.', 'trouble');
	} else start(b, 'trace', reference, way);
}

/** Changes what is selected in one named step. */
const putSelected = (b: Bench, name: string, changed: (o: Outline) => Outline) =>
	b.commit(name, { put: b.selection.selectedOutlines.map(changed) });
const needsSelected = (b: Bench) =>
	b.selection.selectedOutlines.length ? undefined : 'Select an outline first.';

export const COMMANDS: readonly Command[] = [
	{
		id: 'trace',
		word: 'Trace',
		line: 'Get closed outlines from the picture.',
		also: 'trace, vectorise, vectorize, auto outline, convert picture, picture to outline, outline, follow, edge, scan',
		key: 't',
		station: 'trace',
		drawing: 'trace',
		why: needsTraced,
		run: (b) => startTrace(b)
	},
	{
		id: 'enter',
		word: 'Enter',
		line: 'Edit the anchors of the selected outline.',
		also: 'edit, points, nodes, open, into',
		key: 'e',
		station: 'mend',
		drawing: 'enter',
		why: (b) =>
			b.selection.enteredOutline || b.selection.selected.size ? undefined : 'Select an outline first.',
		run: (b) => (b.selection.enteredOutline ? b.leave() : b.enterSelected())
	},
	{
		id: 'trace-colours',
		word: 'Trace by colours',
		line: 'Each flat colour of the picture becomes pieces on a layer of its own.',
		also: 'colour, color, colours, flat colours, posterise, by colour',
		why: needsTraced,
		run: (b) => startTrace(b, 'colours')
	},
	{
		id: 'trace-tone',
		word: 'Trace by tone',
		line: 'What is darker than one threshold is ink.',
		also: 'threshold, black and white, tone, brightness, ink, dark',
		why: needsTraced,
		run: (b) => startTrace(b, 'tone')
	},
	{
		id: 'simplify',
		word: 'Simplify',
		line: 'Fewest anchors within a drift you allow.',
		also: 'simplify, reduce, fewer, fewer points, too many points, lighter, heavy file, slow, thin out, less points, optimise, decimate, points, smooth, clean, jagged, thin, out',
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
		also: 'problems, check, errors, faults, ready, fault, doubled, overlap lines, cut twice, crumbs, stray, problem, next problem, crossing, error, mend, open',
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
		also: 'repair, heal, fix problems, mend, fix, clean up, doubled, crumbs, stray, overlap lines, clean, up',
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
		also: 'half way, middle, midpoint, centre point, insert middle, add, insert, anchor, point',
		key: 'a',
		station: 'mend',
		drawing: 'half',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchor half way', { evenly: 1 })
	},
	{
		id: 'add-evenly',
		word: 'Several, spread',
		line: 'As many new anchors as were last asked for (three at first), evenly along what is picked.',
		also: 'several, subdivide, more points, even points, spread, evenly, divide evenly, insert several, add, insert, three, divide',
		why: needsEntered,
		run: (b) => addOnSegments(b, `Add ${b.evenly} anchors evenly`, { evenly: b.evenly })
	},
	{
		id: 'add-extremes',
		word: 'At extremes',
		line: 'New anchors where the line runs level or plumb.',
		also: 'add, insert, extreme, top, bottom',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchors at extremes', 'extremes')
	},
	{
		id: 'add-inflections',
		word: 'At inflections',
		line: 'New anchors where the line bends over to the other side.',
		also: 'add, insert, inflection, turn',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchors at inflections', 'inflections')
	},
	{
		id: 'delete',
		word: 'Delete',
		line: 'Take the selected out; the line runs smoothly through.',
		also: 'remove, delete, erase, rub out, take away, clear, take, away',
		key: 'x',
		station: 'mend',
		drawing: 'delete',
		why: (b) =>
			b.selection.given
				? b.selection.place === undefined
					? 'Pick one of its points first.'
					: undefined
				: b.selection.enteredOutline
					? b.selection.anchors.size || b.selection.segment !== undefined
						? undefined
						: 'Select an anchor first.'
					: b.selection.selected.size
						? undefined
						: 'Select something first.',
		run: (b) => {
			if (b.selection.given) takePlaceOut(b);
			else if (!b.selection.enteredOutline) b.removeSelected();
			else if (b.selection.anchors.size) b.removeAnchors('through');
			else b.removeSegment();
		}
	},
	...STRUCTURE_COMMANDS,
	...HAND_COMMANDS,
	...GIVEN_COMMANDS,
	...HOLD_COMMANDS,
	...COPY_COMMANDS,
	...LOOK_COMMANDS,
	{
		id: 'delete-straight',
		word: 'Delete, straight across',
		line: 'The neighbours are connected straight: a square loses a corner and is a triangle.',
		also: 'straight, triangle, remove anchor',
		why: needsAnchors,
		run: (b) => b.removeAnchors('straight')
	},
	{
		id: 'delete-kept',
		word: 'Delete, keep the shape',
		line: 'One curve takes over and keeps the shape as well as it can.',
		also: 'keep, shape, remove anchor',
		why: needsAnchors,
		run: (b) => b.removeAnchors('kept')
	},
	...ANCHOR_KINDS.map((kind): Command => ({
		id: `kind-${kind}`,
		word: kind[0].toUpperCase() + kind.slice(1),
		line: kindLines[kind],
		also: 'anchor, kind, type, handle',
		key: kindKeys[kind],
		why: needsAnchors,
		run: (b) => b.change(`Make ${kind}`, (o, ids) => setKind(o, ids, kind))
	})),
	{
		id: 'straighten',
		word: 'Make straight',
		line: 'The picked stretch becomes straight.',
		also: 'straight, straighten, flatten, straight line, line',
		key: 'i',
		why: needsSegment,
		run: (b) => b.changeInHand('Make straight', (o) => straightenSegments(o, b.selection.segmentIndexes()))
	},
	{
		id: 'curve',
		word: 'Make a curve',
		line: 'The picked stretch gets handles; its shape stays.',
		also: 'curve, bend, make curved, curved, bezier, handles',
		key: 'u',
		why: needsSegment,
		run: (b) => b.changeInHand('Make a curve', (o) => curveSegments(o, b.selection.segmentIndexes()))
	},
	{
		id: 'next-anchor',
		word: 'Next along',
		line: 'Select the next anchor along the line, or the next outline.',
		also: 'next point, next anchor, tab, next, forward, step',
		key: 'n',
		why: needsOutlines,
		run: (b) => (b.selection.given ? walkPlaces(b, 1) : stepAnchor(b, 1))
	},
	{
		id: 'previous-anchor',
		word: 'The one before',
		line: 'Select the anchor before, or the outline before.',
		also: 'previous, step, back',
		key: 'b',
		why: needsOutlines,
		run: (b) => (b.selection.given ? walkPlaces(b, -1) : stepAnchor(b, -1))
	},
	{
		id: 'offset',
		word: 'Offset',
		line: 'A new outline beside the drawn one: outside, inside, round a line or to one side.',
		also: 'offset, parallel, cut line, outline around, border, outset, inset, thicker, thinner, margin, width, thickness, band, line to outline, stroke, grow, shrink, bigger by, contour, beside, cut, line, kerf, seam, allowance',
		key: 'o',
		station: 'offset',
		drawing: 'offset',
		why: (b) => (b.outlines.length === 0 ? 'There is no outline yet.' : undefined),
		run: (b) => void start(b, 'offset')
	},
	{
		id: 'allowance',
		word: 'Allowance',
		line: 'A cut line outside of a piece, with a width for each edge; it follows the piece.',
		also: 'allowance, seam, seam allowance, hem, sewing, sew, turn-in, edge width, width, edge, cloth, margin, turn',
		key: 'Shift+o',
		station: 'offset',
		drawing: 'allowance',
		why: (b) => (b.outlines.some((o) => isClosed(o)) ? undefined : 'An allowance needs a closed outline.'),
		run: (b) => void start(b, 'allowance')
	},
	{
		id: 'undo',
		word: 'Undo',
		line: 'Take the last step back.',
		also: 'undo, back, revert, history',
		key: '$mod+z',
		why: (b) => (b.canUndo ? undefined : 'There is nothing to undo.'),
		run: (b) => b.undo()
	},
	{
		id: 'redo',
		word: 'Redo',
		line: 'Do it again.',
		also: 'redo, again, forward, history',
		key: '$mod+Shift+z',
		why: (b) => (b.canRedo ? undefined : 'There is nothing to do again.'),
		run: (b) => b.redo()
	},
	{
		id: 'select-all',
		word: 'Select all',
		line: 'All anchors of the entered outline, or all outlines.',
		also: 'select all, everything, all',
		key: '$mod+a',
		why: needsOutlines,
		run: (b) => {
			if (b.selection.enteredOutline)
				for (const o of b.selection.enteredOutlines) b.selection.pickAnchors(o.id, new Set(o.anchors));
			else
				b.select(
					[...b.pickable().outlines, ...shownMarks(b.drawing), ...shownRepeats(b.drawing)].map((r) => r.id)
				);
		}
	},
	{
		id: 'fit',
		word: 'See all',
		line: 'The whole drawing in the window.',
		also: 'zoom, fit, see all, whole, everything, home, overview',
		key: 'h',
		why: always,
		run: (b) => b.fitAll()
	},
	{
		id: 'fit-selection',
		word: 'See the selected',
		line: 'What is selected fills the window.',
		also: 'fit, zoom, selection',
		key: 'j',
		why: (b) => (b.selection.selected.size ? undefined : 'Select something first.'),
		run: (b) => b.fitSelection()
	},
	{
		id: 'actual',
		word: 'Actual size',
		line: 'A millimetre on the screen is a millimetre.',
		also: 'true, size, 1:1, real, zoom',
		key: 'm',
		why: always,
		run: (b) => (localStorage.getItem('screen-px-per-mm') ? b.sight.actualSize() : void (b.sheet = 'screen'))
	},
	{
		id: 'zoom-in',
		word: 'Nearer',
		line: 'Look from nearer.',
		also: 'closer, zoom, zoom in, nearer, magnify, in',
		key: '+',
		why: always,
		run: (b) => b.sight.zoom(b.sight.size.widthPx / 2, b.sight.size.heightPx / 2, 1.5)
	},
	{
		id: 'zoom-out',
		word: 'Farther',
		line: 'Look from farther away.',
		also: 'zoom, out',
		key: '-',
		why: always,
		run: (b) => b.sight.zoom(b.sight.size.widthPx / 2, b.sight.size.heightPx / 2, 1 / 1.5)
	},
	{
		id: 'filled',
		word: 'Filled view',
		line: 'Pieces in flat colour, holes empty, open outlines unfilled.',
		also: 'fill, filled, solid, hole, preview, holes, pieces',
		key: 'g',
		why: always,
		run: (b) => void (b.filled = !b.filled)
	},
	{
		id: 'pictures',
		word: 'Picture away',
		line: 'Hide or show the pictures.',
		also: 'hide, reference, image, show',
		key: 'p',
		why: (b) => (b.references.length ? undefined : 'There is no picture.'),
		run: (b) => void (b.pictures.hidden = !b.pictures.hidden)
	},
	{
		id: 'grid',
		word: 'Grid',
		line: 'Show or hide the weave.',
		also: 'grid, weave, squares, graph paper, guides, lines, graph',
		key: 'y',
		why: always,
		run: (b) => void (b.grid = !b.grid)
	},
	{
		id: 'no-guides',
		word: 'Remove guides',
		line: 'Take all guides out of the drawing.',
		also: 'guide, line, clear',
		why: (b) => (guideIds(b).length ? undefined : 'There is no guide. Pull one out of a ruler.'),
		run: (b) => b.commit('Remove guides', { remove: guideIds(b) })
	},
	{
		id: 'rack',
		word: 'Rack',
		line: 'All outlines on a rail, heaviest first.',
		also: 'layer, layers, list, objects, outlines, colour, color, show, list of outlines, purpose',
		key: 'r',
		why: always,
		run: (b) => void (b.rackOpen = !b.rackOpen)
	},
	{
		id: 'hide',
		word: 'Hide',
		line: 'What is selected is not seen and not cut; the rack shows it again.',
		also: 'hide, show, invisible, visible, turn away',
		why: needsSelected,
		run: (b) => {
			putSelected(b, 'Hide', (o) => ({ ...o, hidden: true }));
			b.select([]);
			b.tell('Hidden. The rack shows it again.');
		}
	},
	{
		id: 'show-all',
		word: 'Show all hidden',
		line: 'Whatever is hidden is seen again.',
		also: 'show, unhide, visible, hidden',
		why: (b) => (b.outlines.some((o) => o.hidden) ? undefined : 'Nothing is hidden.'),
		run: (b) =>
			b.commit('Show all hidden', {
				put: b.outlines.filter((o) => o.hidden).map((o) => ({ ...o, hidden: false }))
			})
	},
	{
		id: 'lock',
		word: 'Tie fast',
		line: 'What is selected cannot be moved or changed by mistake; or it is untied again.',
		also: 'lock, fix, pin, unlock, tie, protect, untie',
		why: needsSelected,
		run: (b) => {
			const locked = !b.selection.selectedOutlines.every((o) => o.locked);
			putSelected(b, locked ? 'Tie fast' : 'Untie', (o) => ({ ...o, locked }));
			b.tell(locked ? 'Tied fast. The rack unties it.' : 'Untied.');
		}
	},
	{
		id: 'rename',
		word: 'Rename',
		line: 'The name of what is selected is a field on its tag; that of the drawing stands above it.',
		also: 'name, rename, title, label, call',
		why: (b) =>
			b.selection.selectedOutlines.length === 1 ? undefined : 'Select one outline: its tag has its name.',
		run: (b) => void (b.wantsField = 'name')
	},
	{
		id: 'add-anchor',
		word: 'Add an anchor',
		line: 'Double-click the line of an entered outline; pulled at once, it bends there.',
		also: 'add point, insert, node, vertex, new anchor, add node, new point',
		why: needsEntered,
		run: (b) => addOnSegments(b, 'Add anchor half way', { evenly: 1 })
	},
	...MACHINE_COMMANDS,
	...MANY_COMMANDS,
	...SHEET_COMMANDS,
	...GO_COMMANDS,
	...LATER_COMMANDS
];

const byId = new Map(COMMANDS.map((command) => [command.id, command]));
/** The command of an id. @throws where there is none */
export function commandOf(id: string): Command {
	const command = byId.get(id);
	if (!command) throw new Error(`There is no command "${id}".`);
	return command;
}

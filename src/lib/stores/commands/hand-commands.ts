/** Commands for what lies under the hand: drawing, selecting, ways of moving, handles, segments, corners, placing. */
import { makePlain } from '../../core/document/edits/made';
import { fairAgain, start } from '../operations/starting';
import { endsToMeet, partsToMeet } from '../operations/meet-operation.svelte';
import { dropHandle, placeHandle, releaseHandles } from '../../core/document/edits/anchors';
import { handleFaults, mendHandles, segmentBeside } from '../../core/document/edits/handles';
import { ANCHOR_KINDS, ANCHOR_STRIDE, handleAt, type Outline, type Side } from '../../core/document/outline';
import { withAnchorsInReach } from '../../core/document/edits/pulling';
import {
	moveSideways,
	restOfCircle,
	segmentToArc,
	sharpenTip,
	straightenStretch
} from '../../core/document/edits/segments';
import type { AlignOperation } from '../operations/align-operation.svelte';
import { lineUp, spread } from '../../core/document/edits/anchor-groups';
import { anchorsBetween, edgeOf, inverted, ofKind } from '../../core/document/edits/selecting';
import { toProblem } from '../../core/errors';
import { MOVING_WAYS, type Bench, type MovingWay } from '../bench.svelte';
import { newId } from '../ids';
import { needsAnchors, needsEntered, needsOutlines, needsSegment, withPart, type Command } from './command';
import { Pen, type PenKind } from '../gestures/pen.svelte';

const MOVING_WORDS: Record<MovingWay, string> = {
	free: 'Anchors move freely.',
	before: 'Anchors move along the side before them: it keeps its angle.',
	after: 'Anchors move along the side after them: it keeps its angle.',
	'own line': 'Anchors slide along their own line.',
	soft: 'The neighbourhood follows softly, as far as the two pegs on the line.'
};

function draw(bench: Bench, kind: PenKind): void {
	bench.dropOperation();
	bench.leave();
	bench.station = 'draw';
	bench.trayOpen = true;
	bench.pen = new Pen(bench, kind);
}

/** The two ends of what is selected along the line. */
function selectedEnds(bench: Bench): [number, number] | undefined {
	const outline = bench.selection.enteredOutline;
	if (!outline) return undefined;
	const span = [...anchorsBetween(outline, bench.selection.anchors)];
	return span.length > 1 ? [span[0], span[span.length - 1]] : undefined;
}

const needsToPlace = (bench: Bench) =>
	bench.selection.selected.size || bench.selection.picked.size ? undefined : 'Select an outline first.';

/** Ways to what "Move and turn" does, each with the number that it asks for. */
const PLACING: readonly { id: string; word: string; line: string; also: string; field: string }[] = [
	{
		id: 'turn',
		word: 'Turn',
		line: 'Turns what is selected by an angle, about any place.',
		also: 'rotate, turn, spin, angle, tilt',
		field: 'turn'
	},
	{
		id: 'scale',
		word: 'Scale',
		line: 'Makes what is selected larger or smaller: by percent, or to a width or height.',
		also: 'scale, resize, bigger, smaller, larger, size, percent, enlarge, shrink, stretch',
		field: 'scale'
	},
	{
		id: 'mirror',
		word: 'Mirror',
		line: 'Left and right, or top and bottom, change places.',
		also: 'mirror, flip, reflect, left and right, mirrored copy',
		field: 'mirror'
	}
];
const WHERE = {
	across: { least: 'left', middle: 'middle across', most: 'right' },
	up: { least: 'bottom', middle: 'middle up', most: 'top' }
} as const;

/** Lines up what is selected. */
const alignThings = (preset: Partial<AlignOperation> = {}) =>
	withPart(
		() => import('../operations/align-operation.svelte'),
		(b, { openAlign }) => openAlign(b, preset)
	);

const needsThings = (bench: Bench) =>
	bench.selection.selected.size ? undefined : 'Select what is to be lined up first.';

const needsTwo = (bench: Bench) =>
	needsEntered(bench) ??
	(bench.selection.anchors.size > 1 ? undefined : 'Select the anchors at both ends first.');

/** One change of the outline in hand, and how far its line moved. */
function changeTold(bench: Bench, name: string, edit: (outline: Outline) => Outline): void {
	const outline = bench.selection.enteredOutline;
	if (!outline) return;
	try {
		bench.commitTold(name, { put: [edit(outline)] });
	} catch (error) {
		bench.trouble(toProblem(error));
	}
}

const takeHandle = (side: Side, word: string, key: string): Command => ({
	id: `handle-${side}`,
	word,
	line: 'The arrows move this handle of the selected anchor; once more, the anchor again.',
	also: 'handles, handle, tangent, direction of handle, keyboard, pull, grab',
	key,
	why: needsAnchors,
	run: (b) => {
		const outline = b.selection.enteredOutline!;
		const [id] = b.selection.anchors;
		if (segmentBeside(outline, outline.anchors.indexOf(id), side) === undefined) {
			b.tell('There is no handle on this side: the line ends here.');
			return;
		}
		b.selection.handleInHand = b.selection.handleInHand === side ? undefined : side;
	}
});

/** A handle drawn out by a third of the way to the neighbour, or taken away. */
function toggleHandle(bench: Bench, side: Side): void {
	bench.change('Handle', (o, ids) => {
		let next = o;
		for (const id of ids) {
			const i = next.anchors.indexOf(id);
			if (i < 0 || segmentBeside(next, i, side) === undefined) continue;
			const n = next.anchors.length;
			const a = ANCHOR_STRIDE * i;
			const k = handleAt(i, side);
			const p = next.points;
			if (p[k] !== p[a] || p[k + 1] !== p[a + 1]) {
				next = dropHandle(next, id, side);
				continue;
			}
			const b = ANCHOR_STRIDE * (side === 'in' ? (i + n - 1) % n : (i + 1) % n);
			next = placeHandle(
				next,
				id,
				side,
				p[a] + (p[b] - p[a]) / 3,
				p[a + 1] + (p[b + 1] - p[a + 1]) / 3,
				true
			);
		}
		return next;
	});
}

export const HAND_COMMANDS: readonly Command[] = [
	{
		id: 'draw-line',
		word: 'Draw a line',
		line: 'Anchor by anchor over the picture: click for a corner, press and pull for a smooth one.',
		also: 'line, draw, pen, polyline, path, bezier, new line, by hand, outline, new, by, hand',
		key: 'l',
		station: 'draw',
		drawing: 'line',
		why: () => undefined,
		run: (b) => draw(b, 'line')
	},
	{
		id: 'draw-freehand',
		word: 'Freehand',
		line: 'A stroke of the hand becomes a line of few anchors.',
		also: 'freehand, sketch, brush, pencil, stroke, doodle, draw',
		key: 'Shift+l',
		station: 'draw',
		drawing: 'freehand',
		why: () => undefined,
		run: (b) => draw(b, 'freehand')
	},
	{
		id: 'draw-shape',
		word: 'Ready shape',
		line: 'Rectangle, circle, ellipse, arc, polygon, star or slot; its sizes stay editable.',
		also: 'circle, ellipse, oval, rectangle, square, polygon, hexagon, star, slot, shape, round rectangle, triangle, box, round',
		key: 'Shift+s',
		station: 'draw',
		drawing: 'shape',
		why: () => undefined,
		run: (b) => draw(b, 'rectangle')
	},
	{
		id: 'mark',
		word: 'Single points',
		line: 'A click puts a point for a drill hole or a notch; its place can be typed on its tag.',
		also: 'dot, drill, mark, drill hole, notch, point, punch mark',
		key: 'Shift+.',
		station: 'draw',
		drawing: 'mark',
		why: () => undefined,
		run: (b) => draw(b, 'mark')
	},
	{
		id: 'fair',
		word: 'Fair',
		line: 'A jagged line is smoothed within a drift; meant corners stay. Also: rebuild, arcs, straights.',
		also: 'smooth, smoother, fair, even out, clean up, jagged, bumpy, wobbly, shaky, stairs, soften, rough, wavy, spline, through points, control points, degree, b-spline, rebuild, arcs, curve fit, even, noise, straights, curve',
		key: 'Shift+f',
		station: 'mend',
		drawing: 'fair',
		why: needsOutlines,
		run: (b) => void start(b, 'fair')
	},
	{
		id: 'fair-again',
		word: 'Fair again',
		line: 'Fairs what is selected as last time, at once.',
		also: 'repeat, smooth, again',
		key: ';',
		why: needsOutlines,
		run: (b) => void fairAgain(b, 1)
	},
	{
		id: 'fair-stronger',
		word: 'Fair again, stronger',
		line: 'Fairs what is selected with half as much again of strength and drift, at once.',
		also: 'repeat, smooth, stronger, more',
		key: "'",
		why: needsOutlines,
		run: (b) => void fairAgain(b, 1.5)
	},
	{
		id: 'redraw',
		word: 'Redraw',
		line: 'A stroke from the line back to it replaces what lies between; from an open end it prolongs.',
		also: 'freehand, replace, stretch, stroke, reshape',
		key: 'Shift+d',
		station: 'draw',
		drawing: 'redraw',
		why: needsOutlines,
		run: withPart(
			() => import('../../core/fairing/redraw'),
			(b, redrawing) => {
				b.dropOperation();
				b.pen = new Pen(b, 'redraw', redrawing);
			}
		)
	},
	{
		id: 'place',
		word: 'Move and turn',
		line: 'Moves, turns, scales, mirrors or copies what is selected, or the picked anchors; by hand or by numbers.',
		also: 'move, shift, position, place, transform, by an amount, coordinates',
		key: 'Shift+p',
		station: 'build',
		group: 'longer, round, moved',
		drawing: 'place',
		why: needsToPlace,
		run: (b) => void start(b, 'place')
	},
	...PLACING.map(({ id, word, line, also, field }): Command => ({
		id,
		word,
		line,
		also,
		why: needsToPlace,
		run: (b) => {
			if (start(b, 'place')) b.wantsField = field;
		}
	})),
	...(['across', 'up'] as const).flatMap((axis) =>
		(['least', 'middle', 'most'] as const).map((at): Command => {
			const where = WHERE[axis][at];
			return {
				id: axis === 'across' && at === 'least' ? 'line-up' : `line-up-${axis}-${at}`,
				word: `Line up: ${where}`,
				line: `What is selected, or the picked anchors, come to one line, ${where} of them.`,
				also: `align, line up, ${where}, ${at === 'middle' ? 'centre, center, middle' : `${where} edge`}, line up anchors`,
				why: (b) => (b.selection.enteredOutline ? needsTwo(b) : needsThings(b)),
				run: (b, command) => {
					if (b.selection.enteredOutline) b.change(`Line up: ${where}`, (o, ids) => lineUp(o, ids, axis, at));
					else alignThings({ [axis]: at })(b, command);
				}
			};
		})
	),
	...(['across', 'up', 'along'] as const).map((way): Command => ({
		id: way === 'across' ? 'spread' : `spread-${way}`,
		word: way === 'along' ? 'Spread along the line' : `Spread ${way}`,
		line:
			way === 'along'
				? 'The picked anchors slide along the line to equal distances; the shape stays.'
				: `What is selected, or the picked anchors, lie at equal distances ${way}, between the outermost of them.`,
		also: 'distribute, space evenly, equal gaps, equal distances, spread, space out',
		why: (b) =>
			way !== 'along' && !b.selection.enteredOutline
				? needsThings(b)
				: (needsAnchors(b) ?? (b.selection.anchors.size > 2 ? undefined : 'Select three anchors or more.')),
		run: (b, command) => {
			if (way !== 'along' && !b.selection.enteredOutline)
				alignThings({ spreadBy: 'gaps', spreadAxis: way })(b, command);
			else b.change(`Spread ${way}`, (o, ids) => spread(o, ids, way));
		}
	})),
	{
		id: 'align',
		word: 'Line up',
		line: 'Selected things come to one edge or middle, are spread evenly, or come to the sheet.',
		also: 'align, line up things, distribute, centre on the sheet, equal gaps, center, arrange in a row',
		station: 'build',
		group: 'longer, round, moved',
		drawing: 'align',
		why: needsThings,
		run: alignThings()
	},
	{
		id: 'moving-way',
		word: 'Ways to move',
		line: 'Freely, along the side before or after, along their own line, or softly with the neighbourhood.',
		also: 'constrain, keep, angle, slide, soft, proportional, drag, lock, hem',
		key: 'z',
		station: 'mend',
		drawing: 'soft',
		why: needsEntered,
		run: (b) => {
			b.movingWay = MOVING_WAYS[(MOVING_WAYS.indexOf(b.movingWay) + 1) % MOVING_WAYS.length];
			b.tell(MOVING_WORDS[b.movingWay]);
		}
	},
	{
		id: 'arrow-step',
		word: 'How far an arrow goes',
		line: 'Shows, or puts away, how anchors move, how far an arrow moves them, and how many are put in evenly.',
		also: 'nudge, step, settings, arrow, distance, evenly, number, several',
		why: needsEntered,
		run: (b) => void (b.tuning = !b.tuning)
	},
	{
		id: 'more-in-reach',
		word: 'More in reach',
		line: 'Puts anchors in within the reach of a soft pull; the shape stays.',
		also: 'soft, pull, add, anchors, reach',
		why: needsAnchors,
		run: (b) => {
			const [anchor] = b.selection.anchors;
			b.changeInHand('More anchors in reach', (o) => withAnchorsInReach(o, anchor, b.reachAlong));
		}
	},
	{
		id: 'snap-picture',
		word: "Snap to the picture's edge",
		line: 'Dragged anchors catch on the edge in the picture, or no longer do.',
		also: 'snap, magnet, catch, gradient',
		why: (b) => (b.references.length ? undefined : 'There is no picture.'),
		run: (b) => {
			b.snapsToPicture = !b.snapsToPicture;
			b.tell(b.snapsToPicture ? 'Anchors catch on the edge in the picture.' : 'The picture is passed over.');
		}
	},
	{
		id: 'select-between',
		word: 'All between',
		line: 'Selects everything along the line between the selected anchors.',
		also: 'select, range, stretch',
		key: 'Shift+n',
		why: needsTwo,
		run: (b) => (b.selection.anchors = anchorsBetween(b.selection.enteredOutline!, b.selection.anchors))
	},
	{
		id: 'select-inverted',
		word: 'The others instead',
		line: 'Selects all anchors that are not selected.',
		also: 'invert selection, the others, invert, opposite, selection',
		key: 'Shift+i',
		why: needsEntered,
		run: (b) => {
			for (const o of b.selection.enteredOutlines)
				b.selection.pickAnchors(o.id, inverted(o, b.selection.anchorsOf(o.id)));
		}
	},
	{
		id: 'select-edge',
		word: 'The whole edge',
		line: 'Selects from corner to corner what the picked stretch lies on.',
		also: 'select, side, edge, corner',
		key: 'Shift+e',
		why: needsSegment,
		run: (b) => {
			const [i] = b.selection.segmentIndexes();
			b.selection.pickAnchors(b.selection.entered!, edgeOf(b.selection.enteredOutline!, i));
		}
	},
	...ANCHOR_KINDS.map((kind): Command => ({
		id: `select-${kind}`,
		word: `All ${kind}`,
		line: `Selects all ${kind} anchors.`,
		also: 'select, kind, type',
		why: needsEntered,
		run: (b) => {
			for (const o of b.selection.enteredOutlines) b.selection.pickAnchors(o.id, ofKind(o, kind));
		}
	})),
	takeHandle('in', 'Handle before', ','),
	takeHandle('out', 'Handle after', '.'),
	...(['in', 'out'] as const).map((side): Command => ({
		id: `toggle-handle-${side}`,
		word: `Draw out or take away the handle ${side === 'in' ? 'before' : 'after'}`,
		line: 'A missing handle is drawn out, one that is there taken away.',
		also: 'handle, retract, missing, remove',
		why: needsAnchors,
		run: (b) => toggleHandle(b, side)
	})),
	{
		id: 'release-handles',
		word: 'Give handles back',
		line: 'Held handles of flowing anchors are computed again.',
		also: 'handles, computed, automatic, free handles, held, tangent, free',
		why: needsAnchors,
		run: (b) => b.change('Give handles back', (o, ids) => releaseHandles(o, ids))
	},
	{
		id: 'mend-handles',
		word: 'Mend handles',
		line: 'Handles that cross, point backward or make a loop are put right.',
		also: 'handles, tangle, loop, twisted, crossing handles, fix handles, handle, tangent, crossing, fix',
		key: 'Shift+h',
		why: (b) =>
			needsEntered(b) ??
			(handleFaults(b.selection.enteredOutline!).length
				? undefined
				: 'No handle crosses, turns back or loops.'),
		run: (b) =>
			changeTold(b, 'Mend handles', (o) =>
				mendHandles(
					o,
					handleFaults(o).map((f) => f.segment)
				)
			)
	},
	{
		id: 'meet',
		word: 'Meet',
		line: 'Two sides of an anchor, or the ends of two lines, meet in place, direction or curvature; you say which gives way.',
		also: 'meet, continuity, smooth join, match, tangent match, curvature match, g2, curvature, smooth, tangent, join, end',
		key: 'Shift+m',
		station: 'build',
		group: 'together',
		drawing: 'meet',
		why: (b) =>
			partsToMeet(b) ? undefined : 'Select one anchor, the ends of two lines, or two open outlines.',
		run: (b) => void start(b, 'meet')
	},
	{
		id: 'bridge',
		word: 'Bridge two ends',
		line: 'A line from one end to another; at each it meets in place, direction or curvature, and goes on as far as you say. No line moves.',
		also: 'blend, bridge, smooth join, fill gap, connect with curve, connect, gap, close, smooth, curvature, g2, tangent, between, join',
		station: 'build',
		group: 'together',
		drawing: 'bridge',
		why: (b) => (endsToMeet(b) ? undefined : 'Select the ends of two lines, or one or two open outlines.'),
		run: withPart(
			() => import('../operations/bridge-operation.svelte'),
			(b, { openBridge }) => openBridge(b)
		)
	},
	{
		id: 'arc',
		word: 'Make an arc',
		line: 'The picked stretch becomes a true circular arc.',
		also: 'arc, make arc, true arc, circle, bow, round, radius, segment',
		key: 'Shift+u',
		why: needsSegment,
		run: (b) =>
			changeTold(b, 'Make an arc', (o) =>
				[...b.selection.segmentIndexes()].reduce((next, i) => segmentToArc(next, i), o)
			)
	},
	{
		id: 'rest-of-circle',
		word: 'The rest of its circle',
		line: 'The picked arc is swapped for the other part of its circle.',
		also: 'arc, flip, complement, other, side',
		why: needsSegment,
		run: (b) => {
			const [i] = b.selection.segmentIndexes();
			b.changeInHand('The rest of its circle', (o) => restOfCircle(o, i));
		}
	},
	{
		id: 'straighten-stretch',
		word: 'Straight between two',
		line: 'Everything between the selected anchors becomes one straight.',
		also: 'straighten, stretch, line, between',
		why: needsTwo,
		run: (b) => {
			const ends = selectedEnds(b);
			if (ends) changeTold(b, 'Straighten a stretch', (o) => straightenStretch(o, ...ends));
		}
	},
	...(['straight', 'curve'] as const).map((how): Command => ({
		id: `sharpen-${how}`,
		word: how === 'straight' ? 'One sharp tip' : 'One sharp tip, along the curves',
		line:
			how === 'straight'
				? 'A blunted tip goes: both sides are prolonged straight until they meet.'
				: 'A blunted tip goes: both sides are prolonged along their curves until they meet.',
		also: 'sharp, sharpen, tip, point it, blunt, corner, prolong, pointed',
		...(how === 'straight' ? { key: 'Shift+b' } : {}),
		why: needsTwo,
		run: (b) => {
			const ends = selectedEnds(b);
			if (ends) changeTold(b, 'One sharp tip', (o) => sharpenTip(o, ...ends, how));
		}
	})),
	{
		id: 'copy-sideways',
		word: 'Copy the straight sideways',
		line: 'A copy of the picked straight, one grid step beside it, as a line of its own.',
		also: 'parallel, duplicate, straight, line, offset',
		why: needsSegment,
		run: (b) => {
			const outline = b.selection.enteredOutline!;
			const [i] = b.selection.segmentIndexes();
			const n = outline.anchors.length;
			const moved = moveSideways(outline, i, b.settings.grid);
			const p = moved.points;
			const ends = [i, (i + 1) % n].map((k) => ANCHOR_STRIDE * k);
			const copy: Outline = {
				type: 'outline',
				id: newId(),
				name: `${outline.name}, beside`,
				layer: outline.layer,
				rank: outline.rank + 0.001,
				closed: false,
				nextAnchor: 3,
				anchors: Uint32Array.of(1, 2),
				points: Float64Array.from(ends.flatMap((k) => [p[k], p[k + 1], p[k], p[k + 1], p[k], p[k + 1], 0])),
				marks: new Uint8Array(6)
			};
			b.commit('Copy the straight sideways', { put: [copy] });
		}
	},
	{
		id: 'guide-along',
		word: 'Guide along it',
		line: 'A guide through the picked stretch or the two selected anchors, at their angle.',
		also: 'guide, line, angle, slant',
		why: (b) =>
			needsEntered(b) ??
			(b.selection.segments.size || b.selection.anchors.size === 2
				? undefined
				: 'Pick a stretch, or two anchors.'),
		run: (b) => {
			const o = b.selection.enteredOutline!;
			const n = o.anchors.length;
			const [i] = b.selection.segmentIndexes();
			const [from, to] =
				i !== undefined ? [i, (i + 1) % n] : [...b.selection.anchors].map((id) => o.anchors.indexOf(id));
			const at = (k: number) => ({ x: o.points[ANCHOR_STRIDE * k], y: o.points[ANCHOR_STRIDE * k + 1] });
			const p = at(from);
			const q = at(to);
			const angle = (Math.atan2(q.y - p.y, q.x - p.x) * 180) / Math.PI;
			b.commit('Put a guide', { put: [{ type: 'guide', id: newId(), rank: 1e6, ...p, angle }] });
		}
	},
	{
		id: 'plain',
		word: 'Make plain',
		line: 'Ready shapes, rounded corners, halves and lines that follow others become plain anchors.',
		also: 'expand, convert, shape, corners, anchors, follow, offset, allowance, free',
		why: (b) =>
			b.selection.selectedOutlines.some((o) => o.recipe || o.rounds || o.half)
				? undefined
				: 'Nothing selected is more than plain.',
		run: (b) =>
			b.commit('Make plain', { ...makePlain(b.drawing, b.selection.selectedOutlines), isLarge: true })
	}
];

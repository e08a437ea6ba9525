/** Commands for curves that are given otherwise than by anchors: drawn, turned into each other, their points put in and taken out. */
import { givenOutline } from '../../core/document/edits/made';
import { freeName, layersOf, nextRank } from '../../core/document/drawing';
import { isFollower } from '../../core/document/graph';
import { lineOf, type Outline } from '../../core/document/outline';
import { toProblem } from '../../core/errors';
import { formatLength } from '../../core/units';
import { toPaper } from '../../render/view';
import type { Bench } from '../bench.svelte';
import type { GivenPenKind } from '../gestures/given-pen.svelte';
import { changeGiven, lineAt, putPlaceAfter } from '../giving';
import { newId } from '../ids';
import { loadReckonings } from '../reckonings';
import { withPart, type Command } from './command';

const DRAWN = [
	{
		kind: 'through',
		word: 'Through points',
		line: 'Click places: a smooth curve goes through them, and is edited by them afterwards.',
		also: 'spline, curve through points, through points, interpolate, smooth curve, pins'
	},
	{
		kind: 'pulled',
		word: 'Pulled curve',
		line: 'Click a polygon: it pulls a smooth curve that touches both ends; its corners stay to be dragged.',
		also: 'b-spline, spline, degree, weights'
	},
	{
		kind: 'conic',
		word: 'Arch',
		line: 'Two ends and a shoulder: arc of a circle, ellipse, parabola or hyperbola by how full it is.',
		also: 'conic, parabola, hyperbola, ellipse, fullness, shoulder, bow'
	}
] as const;

/** Begins to draw a curve that is given by places. */
const drawGiven = (kind: GivenPenKind) =>
	withPart(
		() => Promise.all([import('../gestures/given-pen.svelte'), loadReckonings()]),
		(bench, [{ GivenPen }]) => {
			bench.dropOperation();
			bench.leave();
			bench.station = 'draw';
			bench.trayOpen = true;
			bench.pen = new GivenPen(bench, kind);
		}
	);

/** A wave to begin with: its formula is on its tag. */
function putFormula(bench: Bench): void {
	const { view, size } = bench.sight;
	const middle = toPaper(view, size, size.widthPx / 2, size.heightPx / 2);
	const long = Math.max(1, Number(((0.4 * size.widthPx) / view.scale).toPrecision(1)));
	try {
		const outline = givenOutline(
			'formula',
			{
				form: 'x and y',
				first: 'long * (t / 360 - 1 / 2)',
				second: 'high * sin(2 * t)',
				from: 0,
				to: 360,
				degrees: true,
				closed: false,
				sizes: { long, high: long / 10 },
				...middle,
				angle: 0,
				scale: 1
			},
			{
				id: newId(),
				name: freeName(bench.drawing, 'Formula'),
				layer: layersOf(bench.drawing)[0]?.id ?? 'cut',
				rank: nextRank(bench.drawing)
			}
		);
		if (bench.commit('Put a formula', { put: [{ ...outline, openOnPurpose: true }] }))
			bench.select([outline.id]);
	} catch (error) {
		bench.trouble(toProblem(error));
	}
}

/** The one outline that is selected or entered and has a line of its own. */
const own = (bench: Bench): Outline | undefined => {
	const list = bench.selection.enteredOutline
		? [bench.selection.enteredOutline]
		: bench.selection.selectedOutlines;
	return list.length === 1 && !isFollower(list[0]) && lineOf(list[0]).types.length > 0 ? list[0] : undefined;
};

const givenTurned = () => import('../../core/document/edits/given-turned');
type GivenTurned = Awaited<ReturnType<typeof givenTurned>>;

const needsOwn = (bench: Bench) => (own(bench) ? undefined : 'Select one outline that follows no other.');

function turn(bench: Bench, into: 'through' | 'pulled', turned: GivenTurned): void {
	const outline = own(bench);
	if (!outline) return;
	try {
		const { settings, drift } = into === 'through' ? turned.asThrough(outline) : turned.asPulled(outline);
		const next = turned.turnedInto(outline, into, settings);
		if (!bench.commit(into === 'through' ? 'Give by points' : 'Give by a polygon', { put: [next] })) return;
		bench.enter(next.id);
		bench.tell(
			drift < 0.0005
				? 'The line is what it was.'
				: `The line lies up to ${formatLength(drift, bench.unit)} off where it was.`
		);
	} catch (error) {
		bench.trouble(toProblem(error));
	}
}

const needsGiven = (bench: Bench) =>
	bench.selection.given ? undefined : 'Enter a curve that is given by points or a polygon.';
const needsPlace = (bench: Bench) =>
	needsGiven(bench) ?? (bench.selection.place === undefined ? 'Pick one of its points.' : undefined);

/** Turns the direction of the picked point round; of one that has none of its own, the one in which the line goes there. */
function reverseDirection(bench: Bench): void {
	const { given, place } = bench.selection;
	if (!given || place === undefined) return;
	const { kind, settings, outline } = given;
	const field = kind.fields?.(settings, place).find(({ name }) => name === 'direction');
	if (!field || !kind.withField) return;
	const now = field.value ?? lineAt(outline, parseInt(place, 10))?.direction;
	if (now === undefined) return;
	const turned = ((((now + 360) % 360) + 360) % 360) - 180;
	changeGiven(bench, 'Turn a direction', given, kind.withField(settings, place, 'direction', turned));
}

export const GIVEN_COMMANDS: readonly Command[] = [
	...DRAWN.map(({ kind, word, line, also }): Command => ({
		id: `draw-${kind}`,
		word,
		line,
		also,
		station: 'draw',
		drawing: kind,
		why: () => undefined,
		run: drawGiven(kind)
	})),
	{
		id: 'formula',
		word: 'Formula',
		line: 'A line by a formula: x and y over t, y over x, or a radius over an angle, with named numbers.',
		also: 'formula, equation, function, sine wave, parametric, polar, spiral, maths',
		station: 'draw',
		drawing: 'formula',
		why: () => undefined,
		run: withPart(loadReckonings, putFormula)
	},
	{
		id: 'between',
		word: 'Lines in between',
		line: 'Lines in between two outlines, or through several, as many as wanted; they follow them.',
		also: 'between, in-between, morph, tween, blend shapes',
		station: 'offset',
		drawing: 'in-between',
		why: (b) => (b.selection.selectedOutlines.length > 1 ? undefined : 'Select two outlines or more.'),
		run: withPart(
			() => import('../operations/between-operation.svelte'),
			(b, { openBetween }) => openBetween(b)
		)
	},
	{
		id: 'band',
		word: 'Band',
		line: 'A line gets a width, the same all along or another on each stretch; its outline follows it. A selected band is changed.',
		also: 'strap, strip, ribbon, width along a line, line width, thick line, belt, double line, taper, line with a width',
		station: 'offset',
		drawing: 'band',
		why: (b) =>
			b.selection.selectedOutlines.length ? undefined : 'Select the line that is to have a width.',
		run: withPart(
			() => import('../operations/band-operation.svelte'),
			(b, { openBand }) => openBand(b)
		)
	},
	{
		id: 'facing',
		word: 'Facing',
		line: 'What of a piece lies within a depth of some of its edges becomes a piece of its own that follows it.',
		also: 'facing, lining strip, turn-in, inside strip, neck facing, border piece',
		station: 'offset',
		drawing: 'facing',
		why: (b) =>
			b.selection.enteredOutline || b.selection.selectedOutlines.length === 1
				? undefined
				: 'Select the one piece that is to be faced.',
		run: withPart(
			() => import('../operations/facing-operation.svelte'),
			(b, { openFacing }) => openFacing(b)
		)
	},
	{
		id: 'seams',
		word: 'Compare seams',
		line: 'Two seams side by side: how long each is, by how much they differ, notches at the same places of both.',
		also: 'seam length, walk the seam, match seams, compare lengths, notches, sew together, ease',
		station: 'offset',
		drawing: 'seams',
		why: (b) => (b.outlines.length ? undefined : 'There is no outline yet.'),
		run: withPart(
			() => import('../operations/seams-operation.svelte'),
			(b, { openSeams }) => openSeams(b)
		)
	},
	{
		id: 'as-through',
		word: 'Give it by points',
		line: 'The line goes through its anchors from now on and is edited by them alone; how far it moves is told.',
		also: 'turn into, through points, spline',
		why: needsOwn,
		run: withPart(givenTurned, (b, turned) => turn(b, 'through', turned))
	},
	{
		id: 'as-pulled',
		word: 'Give it by a polygon',
		line: 'The line is pulled by a control polygon from now on; how far it moves is told.',
		also: 'turn into, b-spline, control polygon, rebuild',
		why: needsOwn,
		run: withPart(givenTurned, (b, turned) => turn(b, 'pulled', turned))
	},
	{
		id: 'point-after',
		word: 'Point after it',
		line: 'One more point between the picked one and the next.',
		also: 'insert point, add point, vertex',
		why: needsGiven,
		run: (b) => putPlaceAfter(b, 1)
	},
	{
		id: 'point-before',
		word: 'Point before it',
		line: 'One more point between the picked one and the one before.',
		also: 'insert point, add point, vertex',
		why: needsGiven,
		run: (b) => putPlaceAfter(b, -1)
	},
	{
		id: 'reverse-direction',
		word: 'Direction turned round',
		line: 'The direction at the picked point goes the other way.',
		also: 'reverse direction, flip, tangent',
		why: needsPlace,
		run: reverseDirection
	}
];

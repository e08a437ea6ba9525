/** The one line that says what is expected next and what choices there are. */
import type { Bench, MovingWay } from './bench.svelte';

const MOVING: Record<MovingWay, string> = {
	free: 'Drag or arrows move it, Shift locks, Ctrl passes snaps over; type a number while dragging.',
	before: 'It moves along the side before it, which keeps its angle (Z: another way).',
	after: 'It moves along the side after it, which keeps its angle (Z: another way).',
	'own line': 'It slides along its own line (Z: another way).',
	soft: 'Its neighbourhood follows as far as the pegs (Z: another way).'
};

/** What is expected next on the bench. */
export function hintOf(bench: Bench): string {
	const { pictures, selection } = bench;
	if (pictures.placing)
		return 'Drag the picture to move it, its loop to turn it; Shift and a drag crop it. Esc lets it go.';
	if (pictures.sizing) return hintOfSizing(bench);
	if (bench.operation)
		return (
			bench.operation.hint ??
			'Look at the new line. Enter keeps it, Esc leaves it. Hold Q to see it as it was.'
		);
	if (bench.pen) return bench.pen.hint;
	if (selection.enteredOutline) return hintOfEntered(bench);
	if (bench.pickingMore) return 'A tap picks one more, or lets it go again. The switch at the left ends it.';
	if (selection.selectedRepeats.length)
		return 'Drag moves all copies with the first one. Shift + * changes the rule; a double click on a copy offers to edit it apart.';
	if (selection.selected.size)
		return 'Drag moves it, Y while dragging leaves a copy; Enter or double click goes into it. Shift + P turns and scales, D simplifies, O offsets, X removes.';
	if (bench.outlines.length === 0)
		return bench.references.length
			? 'T traces the picture. L draws by hand.'
			: 'Bring in a picture, draw, take a ready shape, or open a file.';
	if (selection.groupIn !== undefined)
		return 'You are in a group: its parts are picked one by one. Esc leaves it.';
	if (!bench.trayOpen)
		return 'A word on the thread brings its tools. / finds anything by a word. ? shows how the work goes.';
	return 'Click an outline, or drag a box. L draws. / finds anything by a word. ? shows how the work goes.';
}

function hintOfSizing(bench: Bench): string {
	const sizing = bench.pictures.sizing!;
	if (sizing.purpose === 'level')
		return 'Click two points on a line of the picture that should be level or plumb. Esc leaves.';
	if (sizing.purpose === 'corners')
		return sizing.points.length < 4
			? 'Click the four corners of a rectangle of known size, one after the other. Esc leaves.'
			: 'Pull a corner to where it belongs, say what the rectangle is, and take the slant out.';
	return sizing.points.length < 2
		? 'Click two points on the picture. Esc leaves.'
		: 'Type how far apart they are.';
}

function hintOfEntered(bench: Bench): string {
	const { selection } = bench;
	if (selection.given)
		return selection.place === undefined
			? 'Drag a point of the curve, or N walks along them. A double click on the line puts one in. Esc leaves.'
			: 'Drag it, or the arrows move it; X takes it out. N goes to the next one. Its numbers are on the tag.';
	if (selection.handleInHand)
		return `The arrows move the handle ${selection.handleInHand === 'in' ? 'before' : 'after'} the anchor. Esc lets go of it.`;
	if (bench.gripped === 'handle')
		return 'Shift: its direction stays, it only gets longer or shorter. Ctrl: its length stays, it only turns. Alt: alone. Both Shift and Ctrl: level, plumb, 45°.';
	const anchors = [...selection.picked.values()].reduce((sum, ids) => sum + ids.size, 0);
	if (anchors > 1)
		return `${MOVING[bench.movingWay]} Shift + P turns, scales, mirrors and lines them up. C S V W change their kind, X takes them out.`;
	if (anchors)
		return `${MOVING[bench.movingWay]} C S V W change its kind, X takes it out, N and B step along.`;
	if (selection.segments.size)
		return selection.isStraightPicked
			? 'Drag moves it whole, its direction kept; with Alt it bends. Arrows move it. A halves it, U curves, Shift + U makes an arc, X takes it out.'
			: 'Drag bends it; with Alt it moves whole. Arrows move it. A halves it, I makes it straight, Shift + U makes an arc, X takes it out.';
	return 'Pick an anchor, or a stretch between two. Double-click the line for a new anchor. Esc leaves.';
}

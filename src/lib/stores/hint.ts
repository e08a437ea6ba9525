/** The one line that says what is expected next and what choices there are. */
import type { Bench, MovingWay } from './bench.svelte';
import { commandOf } from './commands/commands';
import { keyName, keys } from './keys.svelte';

const MOVING: Record<MovingWay, string> = {
	free: 'Drag or arrows move it, Shift locks, Ctrl passes snaps over; type a number while dragging.',
	before: 'It moves along the side before it, which keeps its angle ([moving-way]: another way).',
	after: 'It moves along the side after it, which keeps its angle ([moving-way]: another way).',
	'own line': 'It slides along its own line ([moving-way]: another way).',
	soft: 'Its neighbourhood follows as far as the pegs ([moving-way]: another way).'
};

/** What is expected next on the bench; keys are named as they are just now. */
export const hintOf = (bench: Bench): string => withKeys(hint(bench));

/** Ids of commands in brackets become their keys; where one has none, its word. */
function withKeys(text: string): string {
	return text.replace(/\[([a-z-]+)\]/g, (_, id: string) => {
		if (id === 'find') return keys.single ? '/' : keyName('$mod+k');
		const command = commandOf(id);
		const key = keys.of(command);
		return key ? keyName(key) : `"${command.word}"`;
	});
}

function hint(bench: Bench): string {
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
		return 'Drag moves all copies with the first one. [repeat] changes the rule; a double click on a copy offers to edit it apart.';
	if (selection.selected.size)
		return 'Drag moves it, Y while dragging leaves a copy; Enter or double click goes into it. [place] turns and scales, [simplify] simplifies, [offset] offsets, [delete] removes.';
	if (bench.outlines.length === 0)
		return bench.references.length
			? '[trace] traces the picture. [draw-line] draws by hand.'
			: 'Bring in a picture, draw, take a ready shape, or open a file.';
	if (selection.groupIn !== undefined)
		return 'You are in a group: its parts are picked one by one. Esc leaves it.';
	if (!bench.trayOpen)
		return 'A word on the thread brings its tools. [find] finds anything by a word. [help] shows how the work goes.';
	return 'Click an outline, or drag a box. [draw-line] draws. [find] finds anything by a word. [help] shows how the work goes.';
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
			? 'Drag a point of the curve, or [next-anchor] walks along them. A double click on the line puts one in. Esc leaves.'
			: 'Drag it, or the arrows move it; [delete] takes it out. [next-anchor] goes to the next one. Its numbers are on the tag.';
	if (selection.handleInHand)
		return `The arrows move the handle ${selection.handleInHand === 'in' ? 'before' : 'after'} the anchor. Esc lets go of it.`;
	if (bench.gripped === 'handle')
		return 'Shift: its direction stays, it only gets longer or shorter. Ctrl: its length stays, it only turns. Alt: alone. Both Shift and Ctrl: level, plumb, 45°.';
	const anchors = [...selection.picked.values()].reduce((sum, ids) => sum + ids.size, 0);
	if (anchors > 1)
		return `${MOVING[bench.movingWay]} [place] turns, scales, mirrors and lines them up. [kind-corner] [kind-smooth] [kind-even] [kind-flowing] change their kind, [delete] takes them out.`;
	if (anchors)
		return `${MOVING[bench.movingWay]} [kind-corner] [kind-smooth] [kind-even] [kind-flowing] change its kind, [delete] takes it out, [next-anchor] and [previous-anchor] step along.`;
	if (selection.segments.size)
		return selection.isStraightPicked
			? 'Drag moves it whole, its direction kept; with Alt it bends. Arrows move it. [add-half] halves it, [curve] curves, [arc] makes an arc, [delete] takes it out.'
			: 'Drag bends it; with Alt it moves whole. Arrows move it. [add-half] halves it, [straighten] makes it straight, [arc] makes an arc, [delete] takes it out.';
	return 'Pick an anchor, or a stretch between two. Double-click the line for a new anchor. Esc leaves.';
}

/** What has changed on the drawing, in words for whoever does not see it. */
import {
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	lineOf,
	MARK_STRIDE,
	isClosed,
	type Outline
} from '../../core/document/outline';
import { isEmptyBox, unionBox } from '../../core/geometry/measure';
import { boxOf } from '../../core/geometry/pick';
import { formatLength } from '../../core/units';
import type { Bench } from '../bench.svelte';

/** What is picked: a thing with its facts, several, an anchor of one, a stretch. */
export function pickedWords(bench: Bench): string {
	const { selection, unit } = bench;
	const { enteredOutline } = selection;
	if (enteredOutline) {
		const inIt = withinWords(bench, enteredOutline);
		return inIt || `In "${enteredOutline.name}", ${enteredOutline.anchors.length} anchors.`;
	}
	const { selectedOutlines } = selection;
	const [one, ...more] = selectedOutlines;
	if (!one) return selection.selected.size ? `${selection.selected.size} picked.` : '';
	const box = unionBox(selectedOutlines.map((o) => boxOf(lineOf(o))));
	const size = isEmptyBox(box)
		? ''
		: `, ${formatLength(box.x1 - box.x0, unit)} wide, ${formatLength(box.y1 - box.y0, unit)} high`;
	return more.length
		? `${selectedOutlines.length} outlines picked${size}.`
		: `"${one.name}" picked, ${isClosed(one) ? 'closed' : 'open'}, ${one.anchors.length} anchors${size}.`;
}

function withinWords({ selection, unit }: Bench, outline: Outline): string {
	const picked = selection.anchorsOf(outline.id);
	const n = outline.anchors.length;
	if (picked.size > 1) return `${picked.size} of ${n} anchors picked.`;
	const at = outline.anchors.findIndex((id) => picked.has(id));
	if (at >= 0) {
		const [x, y] = [outline.points[ANCHOR_STRIDE * at], outline.points[ANCHOR_STRIDE * at + 1]];
		const kind = ANCHOR_KINDS[outline.marks[MARK_STRIDE * at]];
		return `Anchor ${at + 1} of ${n}, ${kind}, ${formatLength(x, unit)} right, ${formatLength(y, unit)} up.`;
	}
	const [stretch] = selection.segmentIndexes();
	return stretch === undefined
		? ''
		: `Stretch ${stretch + 1}, from anchor ${stretch + 1} to ${((stretch + 1) % n) + 1}.`;
}

/** The fault that one has come to. */
export function faultWords({ readiness }: Bench): string {
	const fault = readiness.faults[readiness.at];
	return fault ? `Fault ${readiness.at + 1} of ${readiness.faults.length}: ${fault.why}` : '';
}

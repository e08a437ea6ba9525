/** Copying, lifting, pasting and doubling by the browser's own clipboard: within a drawing, between drawings, to and from other programs. */
import type { Drawing } from '../core/document/drawing';
import { addClipping, copiesOf } from '../core/document/edits/copies';
import { moveBy } from '../core/geometry/maps';
import type { Edit } from '../core/document/history';
import { toProblem } from '../core/errors';
import { whenThere } from './asked';
import type { Bench } from './bench.svelte';
import { takeIn } from './files/taking-in';
import { newId } from './ids';

/** mm to the right and down that a copy lies from the original, where nothing else was said. */
const ASIDE = 10;

/** The media type by which the browser keeps our own form beside the SVG. */
const CLIPPING_TYPE = 'application/x-even-thread';

/** What was copied last in this tab, for commands that have no clipboard at hand. */
let last: { readonly svg: string; readonly own: string } | undefined;

export const whyNothingToCopy = (bench: Bench): string | undefined =>
	bench.selection.selectedOutlines.length + bench.selection.selectedMarks.length
		? undefined
		: 'Select something first.';

/** Loaded before a copy is asked for: a copy event is answered at once or not at all. */
const clippings = import('../core/formats/clipping');
let loaded: Awaited<typeof clippings> | undefined;
void clippings.then((module) => (loaded = module));

/** What is selected, as text for others and for us; the next copy beside it begins anew. */
function clip(
	bench: Bench,
	{ writeClipping }: Awaited<typeof clippings>
): { readonly svg: string; readonly own: string } {
	bench.copyStep = undefined;
	return (last = writeClipping(bench.drawing, bench.selection.selected));
}
function tellClipped(bench: Bench, lift: boolean): void {
	const count = bench.selection.selected.size;
	if (!lift) {
		bench.tell(`${count === 1 ? 'Copied' : `${count} things copied`}; other programs get it as SVG.`);
		return;
	}
	bench.leave();
	bench.removeSelected();
	bench.tell(`${count === 1 ? 'Lifted' : `${count} things lifted`} out; paste puts it down again.`);
}

/** Puts the selection into the clipboard where no copy event has one at hand; with `lift` what was copied goes. */
export function copyPicked(bench: Bench, lift = false): Promise<void> {
	return whenThere(bench, clippings, whyNothingToCopy, (module) => {
		const { svg } = clip(bench, module);
		void navigator.clipboard?.writeText(svg).catch(() => undefined);
		tellClipped(bench, lift);
	});
}

/** Answers the browser's own copy; with `lift` what was copied goes. */
export function answerCopy(bench: Bench, event: ClipboardEvent, lift: boolean): void {
	if (!event.clipboardData || !loaded || whyNothingToCopy(bench)) return;
	event.preventDefault();
	const { svg, own } = clip(bench, loaded);
	event.clipboardData.setData('text/plain', svg);
	event.clipboardData.setData('image/svg+xml', svg);
	event.clipboardData.setData(CLIPPING_TYPE, own);
	tellClipped(bench, lift);
}

/** Answers the browser's own paste: our own form, an SVG as text, or files. */
export async function answerPaste(bench: Bench, data: DataTransfer): Promise<void> {
	const own = data.getData(CLIPPING_TYPE);
	const text = data.getData('image/svg+xml') || data.getData('text/plain');
	const files = [...data.files];
	await pasteThese(bench, { own, text, files });
}

/** Pastes what was copied in this tab, or what the clipboard has as text. */
export async function pasteLast(bench: Bench): Promise<void> {
	if (last) await pasteThese(bench, { own: last.own, text: last.svg, files: [] });
	else {
		const text = await navigator.clipboard?.readText().catch(() => '');
		await pasteThese(bench, { own: '', text: text ?? '', files: [] });
	}
}

async function pasteThese(
	bench: Bench,
	{ own, text, files }: { own: string; text: string; files: readonly File[] }
): Promise<void> {
	const { isSvgText, readClipping } = await clippings;
	try {
		if (own) {
			const read = readClipping(own);
			if (read.ok) {
				putDown(bench, read.value);
				return;
			}
		}
		if (files.length) await takeIn(bench, files);
		else if (isSvgText(text))
			await bench.opening.open(new File([text], 'pasted.svg', { type: 'image/svg+xml' }));
		else bench.tell('There is nothing to paste that could be drawn: outlines, an SVG as text, or a picture.');
	} catch (error) {
		bench.trouble(toProblem(error));
	}
}

/** Puts down what was copied: where it was, or a step aside where something lies there already; each time a step further. */
function putDown(bench: Bench, clipping: Drawing): void {
	const isHere = [...clipping.records.keys()].some((id) => id !== 'cut' && bench.drawing.records.has(id));
	const before = bench.pasted?.from === clipping.id && isHere ? bench.pasted.times : 0;
	const times = isHere ? before + 1 : 0;
	const map = moveBy(ASIDE * times, -ASIDE * times);
	commitCopies(bench, 'Paste', addClipping(bench.drawing, clipping, map, newId));
	bench.pasted = { from: clipping.id, times };
}

function commitCopies(bench: Bench, name: string, edit: Edit): boolean {
	if (!bench.commit(name, edit)) return false;
	const ids = (edit.put ?? []).flatMap((r) => (['outline', 'mark', 'repeat'].includes(r.type) ? [r.id] : []));
	bench.select(ids);
	for (const id of ids) {
		const record = bench.drawing.records.get(id);
		if (record?.type === 'outline') {
			bench.reveal(record);
			break;
		}
	}
	return true;
}

/** Copies of what is selected, by the same step as the copies before it. */
export function double(bench: Bench, right?: number, up?: number): boolean {
	const outlines = bench.selection.selectedOutlines;
	const marks = bench.selection.selectedMarks;
	const was = bench.copyStep;
	const step =
		right !== undefined && up !== undefined
			? { right, up }
			: was && sameIds(was.ids, bench.selection.selected)
				? { right: was.right, up: was.up }
				: { right: ASIDE, up: -ASIDE };
	const repeats = bench.selection.selectedRepeats;
	const edit = copiesOf(
		bench.drawing,
		[...outlines, ...marks, ...repeats],
		moveBy(step.right, step.up),
		newId
	);
	if (!commitCopies(bench, outlines.length + marks.length === 1 ? 'Copy' : 'Copy several', edit))
		return false;
	bench.copyStep = { ids: bench.selection.selected, ...step };
	return true;
}

const sameIds = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean =>
	a.size === b.size && [...a].every((id) => b.has(id));

/** Copies that are moved by hand go on by the whole way next time. */
export function movedCopies(bench: Bench, right: number, up: number): void {
	const was = bench.copyStep;
	if (was && sameIds(was.ids, bench.selection.selected))
		bench.copyStep = { ids: was.ids, right: was.right + right, up: was.up + up };
}

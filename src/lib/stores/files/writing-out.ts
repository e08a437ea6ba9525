/** The drawing written out as a file that the person gets. */
import { toProblem } from '../../core/errors';
import { output } from '../../core/document/output';
import type { Bench } from '../bench.svelte';
import { drawingAs, drawingAsFile, saveAs } from './files';
import { goingOut } from './going-out.svelte';

/** What can be written: SVG, DXF with its curves or as polylines, or the whole drawing with its pictures. */
export type WrittenKind = 'svg' | 'dxf' | 'polylines' | 'file';

/** Why nothing can be written just now. */
export const whyNotWritten = (bench: Bench): string | undefined => {
	const { lines, marks } = output(bench.drawing, goingOut.question(bench));
	return lines.length + marks.length ? undefined : 'There is no line yet that would go into a file.';
};

/** What goes into a file of a kind, with the ending and the type of such a file. */
export async function written(
	bench: Bench,
	kind: WrittenKind
): Promise<{ readonly bytes: Uint8Array<ArrayBuffer>; readonly ending: string; readonly mediaType: string }> {
	if (kind === 'file') {
		const bytes = (await drawingAsFile(bench.drawing)) as Uint8Array<ArrayBuffer>;
		return { bytes, ending: '.thread', mediaType: 'application/zip' };
	}
	const [id, curves] = kind === 'polylines' ? ['dxf', 'polylines' as const] : [kind, 'exact' as const];
	const { bytes, ...rest } = await drawingAs(bench.drawing, id, {
		curves,
		look: goingOut.filled ? 'filled' : 'lines',
		question: goingOut.question(bench)
	});
	return { bytes: bytes as Uint8Array<ArrayBuffer>, ...rest };
}

/** Writes the drawing out; what goes wrong is told. */
export async function writeOut(bench: Bench, kind: WrittenKind): Promise<void> {
	try {
		const { bytes, ending, mediaType } = await written(bench, kind);
		saveAs(`${bench.drawing.name}${ending}`, bytes, mediaType);
	} catch (error) {
		bench.trouble(toProblem(error));
	}
}

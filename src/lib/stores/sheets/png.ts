/** What goes onto paper as a picture of a chosen resolution. */
import { boxSvg } from '../../core/formats/page-svg';
import type { OnPaper } from '../../core/formats/paper-pieces';
import { withResolution } from '../../core/formats/png-resolution';

/** @param dpi dots in an inch. */
export async function pngOf(
	{ pieces, width, height }: OnPaper,
	dpi: number
): Promise<Uint8Array<ArrayBuffer>> {
	const svg = boxSvg(pieces, { x0: 0, y0: 0, x1: width, y1: height });
	const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
	try {
		const image = new Image();
		image.src = url;
		await image.decode();
		const canvas = document.createElement('canvas');
		canvas.width = Math.max(1, Math.round((width / 25.4) * dpi));
		canvas.height = Math.max(1, Math.round((height / 25.4) * dpi));
		const c = canvas.getContext('2d')!;
		c.fillStyle = '#fff';
		c.fillRect(0, 0, canvas.width, canvas.height);
		c.drawImage(image, 0, 0, canvas.width, canvas.height);
		const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
		if (!blob) throw new Error('The browser did not make the picture. Take fewer dots in an inch.');
		return withResolution(new Uint8Array(await blob.arrayBuffer()), dpi);
	} finally {
		URL.revokeObjectURL(url);
	}
}

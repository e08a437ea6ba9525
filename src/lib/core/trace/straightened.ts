/** A picture in the plane of a rectangle seen in it. */
import { backFrom, project, rectifying, type Rectangle } from './perspective';
import { checkPictureSize, type ColourPicture } from './picture';

/**
 * The rectangle as seen from straight above, each pixel taken between the four nearest of the picture.
 *
 * @param pxPerMm > 0, of the result.
 * @throws CoreError `bad-corners`, `bad-size`, `too-large`
 */
export function straightened(picture: ColourPicture, rectangle: Rectangle, pxPerMm: number): ColourPicture {
	rectifying(rectangle);
	const widthPx = Math.max(1, Math.round(rectangle.width * pxPerMm));
	const heightPx = Math.max(1, Math.round(rectangle.height * pxPerMm));
	checkPictureSize(widthPx, heightPx);
	const back = backFrom(rectangle.corners, widthPx, heightPx);
	const { rgba, widthPx: w, heightPx: h } = picture;
	const out = new Uint8ClampedArray(4 * widthPx * heightPx);
	for (let y = 0; y < heightPx; y++) {
		for (let x = 0; x < widthPx; x++) {
			const p = project(back, x + 0.5, y + 0.5);
			const px = Math.min(w - 1, Math.max(0, p.x - 0.5));
			const py = Math.min(h - 1, Math.max(0, p.y - 0.5));
			const i = Math.min(Math.max(0, w - 2), Math.floor(px));
			const j = Math.min(Math.max(0, h - 2), Math.floor(py));
			const u = px - i;
			const v = py - j;
			const a = 4 * (j * w + i);
			const right = w > 1 ? 4 : 0;
			const below = h > 1 ? 4 * w : 0;
			const to = 4 * (y * widthPx + x);
			for (let c = 0; c < 4; c++) {
				out[to + c] =
					(1 - v) * ((1 - u) * rgba[a + c] + u * rgba[a + right + c]) +
					v * ((1 - u) * rgba[a + below + c] + u * rgba[a + below + right + c]);
			}
		}
	}
	return { widthPx, heightPx, rgba: out };
}

/** A small picture of a drawing, for the list. */
import { pictureKey, referencesOf, type Drawing } from '../core/document/drawing';
import { isClosed, lineOf } from '../core/document/outline';
import { shown } from '../core/document/output';
import { boxOfRepeat, shownRepeats } from '../core/document/repeats';
import { placement, referenceBox, scaleOf, shownPart } from '../core/document/edits/placement';
import { isEmptyBox, unionBox } from '../core/geometry/measure';
import { boxOf } from '../core/geometry/pick';
import { addCopies, drawCopies } from './copies';
import { levelFor } from './levels';
import { fillPath, strokePaths } from './lines';
import { DAY } from './palette';

const WIDTH = 320;
const HEIGHT = 220;

/** A PNG of 320 x 220 px; undefined where there is nothing to show. */
export async function makeThumbnail(
	drawing: Drawing,
	bitmaps: ReadonlyMap<string, ImageBitmap>
): Promise<Blob | undefined> {
	const outlines = shown(drawing);
	const references = referencesOf(drawing).filter((r) => !r.hidden);
	const box = unionBox([
		...outlines.map((o) => boxOf(lineOf(o))),
		...references.map(referenceBox),
		...shownRepeats(drawing).map((repeat) => boxOfRepeat(drawing, repeat))
	]);
	if (isEmptyBox(box)) return undefined;
	const canvas = new OffscreenCanvas(WIDTH, HEIGHT);
	const c = canvas.getContext('2d');
	if (!c) return undefined;
	const k = Math.min(
		(WIDTH - 16) / Math.max(1e-6, box.x1 - box.x0),
		(HEIGHT - 16) / Math.max(1e-6, box.y1 - box.y0)
	);
	c.fillStyle = DAY.paper;
	c.fillRect(0, 0, WIDTH, HEIGHT);
	const x = WIDTH / 2 - ((box.x0 + box.x1) / 2) * k;
	const y = HEIGHT / 2 + ((box.y0 + box.y1) / 2) * k;
	for (const r of references) {
		const whole = bitmaps.get(pictureKey(r)) ?? bitmaps.get(r.picture);
		if (!whole) continue;
		const [m0, m1, m2, m3, tx, ty] = placement(r);
		const f = k / scaleOf(r);
		const { x: left, y: top, w, h } = shownPart(r);
		const { level: bitmap, quality } = levelFor(whole, (f * Math.hypot(m0, m1) * r.widthPx) / whole.width);
		const fx = bitmap.width / r.widthPx;
		const fy = bitmap.height / r.heightPx;
		c.globalAlpha = outlines.length ? 0.35 : r.opacity;
		c.setTransform(m0 * f, -m1 * f, -m2 * f, m3 * f, x + tx * k, y - ty * k);
		c.imageSmoothingQuality = quality;
		c.drawImage(bitmap, left * fx, top * fy, w * fx, h * fy, left, top, w, h);
	}
	c.globalAlpha = 1;
	c.setTransform(k, 0, 0, -k, x, y);
	const all = new Path2D();
	for (const o of outlines) if (isClosed(o)) all.addPath(fillPath(lineOf(o)));
	for (const repeat of shownRepeats(drawing)) addCopies(all, drawing, repeat, () => true);
	c.fillStyle = DAY.fill;
	c.fill(all, 'evenodd');
	c.strokeStyle = DAY.ink;
	c.lineWidth = 1.2 / k;
	for (const o of outlines) for (const piece of strokePaths(lineOf(o))) c.stroke(piece);
	const view = { scale: k, x: (WIDTH / 2 - x) / k, y: (y - HEIGHT / 2) / k };
	const size = { widthPx: WIDTH, heightPx: HEIGHT };
	for (const repeat of shownRepeats(drawing))
		drawCopies(c as unknown as CanvasRenderingContext2D, drawing, repeat, {
			view,
			size,
			palette: DAY,
			ratio: 1
		});
	return canvas.convertToBlob({ type: 'image/png' });
}

/** Where a reference lies on the paper: from the pixels of its picture as it is shown to millimetres, and back. */
import { reversePath, transformPath, type Affine, type Path } from '../../geometry/path';
import { emptyBox, type Box } from '../../geometry/segment';
import { backFrom, project, type Corner } from '../../trace/perspective';
import { rectangleAsPolygon, type PictureRegion } from '../../trace/region';
import type { Reference } from '../drawing';

/** px/mm of a picture whose true size nobody has said: as a screen shows it (CSS: 96 px are an inch). */
export const UNSIZED_PX_PER_MM = 96 / 25.4;

/** px/mm of a picture as it is shown. */
export function scaleOf(reference: Pick<Reference, 'pxPerMm'>): number {
	return reference.pxPerMm ?? UNSIZED_PX_PER_MM;
}

/** From the picture's own frame (mm, origin at its top left corner, y up) to the paper. */
export function placement(reference: Reference): Affine {
	const rad = ((reference.angle ?? 0) * Math.PI) / 180;
	const c = reference.angle ? Math.cos(rad) : 1;
	const s = reference.angle ? Math.sin(rad) : 0;
	const { x, y } = reference;
	if (!reference.mirrored) return [c, s, -s, c, x, y];
	const w = reference.widthPx / scaleOf(reference);
	return [-c, -s, -s, c, x + w * c, y + w * s];
}

/** A line of the picture's own frame as it lies on the paper; what runs anticlockwise still does. */
export function placePath(path: Path, reference: Reference): Path {
	const placed = transformPath(path, placement(reference));
	return reference.mirrored ? reversePath(placed) : placed;
}

/** A place of the picture as it is shown (px, y down) on the paper, mm. */
export function onPaper(reference: Reference, px: number, py: number): Corner {
	const [a, b, c, d, e, f] = placement(reference);
	const scale = scaleOf(reference);
	const u = px / scale;
	const v = -py / scale;
	return { x: a * u + c * v + e, y: b * u + d * v + f };
}

/** A place of the paper in the px of the picture as it is shown. */
export function onPicture(reference: Reference, x: number, y: number): Corner {
	const [a, b, c, d, e, f] = placement(reference);
	const det = a * d - b * c;
	const scale = scaleOf(reference);
	const dx = x - e;
	const dy = y - f;
	return { x: (scale * (d * dx - c * dy)) / det, y: (-scale * (a * dy - b * dx)) / det };
}

/** The part of the picture that is shown, px of it. */
export function shownPart(reference: Reference): PictureRegion {
	return reference.crop ?? { x: 0, y: 0, w: reference.widthPx, h: reference.heightPx };
}

/** The corners of what is shown on the paper, round it. */
export function frameOf(reference: Reference): Corner[] {
	const { x, y, w, h } = shownPart(reference);
	return [
		onPaper(reference, x, y),
		onPaper(reference, x + w, y),
		onPaper(reference, x + w, y + h),
		onPaper(reference, x, y + h)
	];
}

/** The box of what is shown, mm. */
export function referenceBox(reference: Reference): Box {
	const box = emptyBox();
	for (const p of frameOf(reference)) {
		box.x0 = Math.min(box.x0, p.x);
		box.y0 = Math.min(box.y0, p.y);
		box.x1 = Math.max(box.x1, p.x);
		box.y1 = Math.max(box.y1, p.y);
	}
	return box;
}

/** Whether a place of the paper lies on what is shown of a picture. */
export function isOnReference(reference: Reference, x: number, y: number): boolean {
	const p = onPicture(reference, x, y);
	const part = shownPart(reference);
	return p.x >= part.x && p.y >= part.y && p.x <= part.x + part.w && p.y <= part.y + part.h;
}

/** From px of the picture as it is shown to the original one; undefined where it is shown as it is. */
const straightenedFrom = ({ sheet, widthPx, heightPx }: Reference) =>
	sheet && backFrom(sheet.corners, widthPx, heightPx);

/** From places of the paper to px of the original picture, whether it is shown straightened or not. */
export function toOriginal(reference: Reference): (x: number, y: number) => Corner {
	const back = straightenedFrom(reference);
	return (x, y) => {
		const p = onPicture(reference, x, y);
		return back ? project(back, p.x, p.y) : p;
	};
}

/** A polygon on the shown picture (px) as it lies in the original one. */
export function inOriginal(reference: Reference, polygon: ArrayLike<number>): Float64Array {
	const out = Float64Array.from(polygon);
	const back = straightenedFrom(reference);
	if (!back) return out;
	for (let i = 0; i < out.length; i += 2) {
		const p = project(back, out[i], out[i + 1]);
		out[i] = p.x;
		out[i + 1] = p.y;
	}
	return out;
}

/** The picture turned about a place of the paper. */
export function turned(reference: Reference, by: number, about: Corner): Reference {
	const rad = (by * Math.PI) / 180;
	const dx = reference.x - about.x;
	const dy = reference.y - about.y;
	const angle = (reference.angle ?? 0) + by;
	return {
		...reference,
		x: about.x + dx * Math.cos(rad) - dy * Math.sin(rad),
		y: about.y + dx * Math.sin(rad) + dy * Math.cos(rad),
		angle: angle - 360 * Math.round(angle / 360)
	};
}

/** The picture turned so that a line through two places of it (px) runs level or plumb, whichever is nearer. */
export function levelledBy(reference: Reference, from: Corner, to: Corner): Reference {
	const a = onPaper(reference, from.x, from.y);
	const b = onPaper(reference, to.x, to.y);
	const angle = (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
	const by = 90 * Math.round(angle / 90) - angle;
	return turned(reference, by, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
}

/** The picture seen from behind; what is shown of it stays where it lies. */
export function mirrored(reference: Reference): Reference {
	const middle = middleOf(reference);
	const next: Reference = { ...reference, mirrored: !reference.mirrored };
	const now = middleOf(next);
	return { ...next, x: next.x + middle.x - now.x, y: next.y + middle.y - now.y };
}

/** The middle of what is shown, mm. */
export function middleOf(reference: Reference): Corner {
	const { x, y, w, h } = shownPart(reference);
	return onPaper(reference, x + w / 2, y + h / 2);
}

/** The crop as a polygon of the original picture; undefined where all of it is shown. */
export function cropInOriginal(reference: Reference): Float64Array | undefined {
	return reference.crop && inOriginal(reference, rectangleAsPolygon(reference.crop));
}

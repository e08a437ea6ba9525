/** What lies on a sheet seen at an angle: told from what lies beyond, and brought into the sheet's own plane. */
import type { Contour } from './boundary';
import { project, type Corner, type Homography } from './perspective';
import type { GreyPicture } from './picture';
import { classTones } from './threshold';

/** Positive where the corners go round clockwise as seen (y down). */
function twiceArea(corners: readonly Corner[]): number {
	let twice = 0;
	for (let k = 0; k < 4; k++) {
		const p = corners[k];
		const q = corners[(k + 1) % 4];
		twice += p.x * q.y - p.y * q.x;
	}
	return twice;
}

/** px: how far a place lies inside a convex quadrilateral; negative outside. */
export function insideOf(corners: readonly Corner[], x: number, y: number): number {
	let least = Infinity;
	const twice = twiceArea(corners);
	for (let k = 0; k < 4; k++) {
		const p = corners[k];
		const q = corners[(k + 1) % 4];
		const size = Math.hypot(q.x - p.x, q.y - p.y) || 1;
		const off = ((q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x)) / size;
		least = Math.min(least, twice > 0 ? off : -off);
	}
	return least;
}

/** The picture with paper in place of what lies beyond a sheet, and of its very edge. */
export function clearOutside(picture: GreyPicture, corners: readonly Corner[], light: boolean): GreyPicture {
	const { widthPx, heightPx, grey } = picture;
	const counts = new Uint32Array(256);
	for (let y = 0; y < heightPx; y += 2)
		for (let x = 0; x < widthPx; x += 2)
			if (insideOf(corners, x, y) > EDGE_PX) counts[grey[y * widthPx + x]]++;
	const { dark, bright } = classTones(counts);
	const paper = Math.round(light ? dark : bright);
	const out = Uint8Array.from(grey);
	for (let y = 0; y < heightPx; y++)
		for (let x = 0; x < widthPx; x++)
			if (insideOf(corners, x + 0.5, y + 0.5) < EDGE_PX) out[y * widthPx + x] = paper;
	return { widthPx, heightPx, grey: out };
}
/** px: so much of a sheet beside its edge may show the edge's own shadow or the ground under it. */
export const EDGE_PX = 4;

/** Points as they lie on the sheet, px of the sheet's own scale. */
export function pointsOnSheet(points: Float64Array, plane: Homography, pxPerMm: number): Float64Array {
	const flat = new Float64Array(points.length);
	for (let i = 0; i < points.length; i += 2) {
		const p = project(plane, points[i], points[i + 1]);
		flat[i] = p.x * pxPerMm;
		flat[i + 1] = p.y * pxPerMm;
	}
	return flat;
}

/** Does the map to the sheet mirror, because its corners were picked the other way round? */
export function isMirrored(corners: readonly Corner[]): boolean {
	return twiceArea(corners) < 0;
}

/** A closed contour as it lies on the sheet; ink stays on the same hand. */
export function contourOnSheet(
	contour: Contour,
	plane: Homography,
	pxPerMm: number,
	mirrored: boolean
): Contour {
	const flat = pointsOnSheet(contour.points, plane, pxPerMm);
	const n = flat.length / 2;
	let twice = 0;
	for (let i = 0, j = n - 1; i < n; j = i++)
		twice += flat[2 * j] * flat[2 * i + 1] - flat[2 * j + 1] * flat[2 * i];
	if (mirrored) {
		for (let i = 0, j = n - 1; i < j; i++, j--)
			for (let c = 0; c < 2; c++) [flat[2 * i + c], flat[2 * j + c]] = [flat[2 * j + c], flat[2 * i + c]];
	}
	const tips = mirrored ? contour.tips?.map((k) => n - 1 - k).reverse() : contour.tips;
	return { points: flat, area: (Math.sign(contour.area) * Math.abs(twice)) / 2, tips };
}

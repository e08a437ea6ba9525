/** The boundary at the screen's resolution, at once: what one sees while a setting is being changed. */
import { finish } from '../progress';
import { polygonPath, type Path } from '../geometry/path';
import { followBoundaries } from './boundary';
import { contourOnSheet, isMirrored } from './on-sheet';
import { meanScale, rectifying } from './perspective';
import type { GreyPicture } from './picture';
import { inMm, inked, type TraceOptions } from './trace';
import { classTones } from './threshold';

/** The picture with squares of `times` by `times` pixels averaged into one; the rest at the right and below is left out. */
export function reduced({ widthPx, heightPx, grey }: GreyPicture, times: number): GreyPicture {
	if (times <= 1) return { widthPx, heightPx, grey };
	const w = Math.max(1, Math.floor(widthPx / times));
	const h = Math.max(1, Math.floor(heightPx / times));
	const out = new Uint8Array(w * h);
	const sums = new Uint32Array(w);
	const half = (times * times) >> 1;
	for (let y = 0; y < h; y++) {
		sums.fill(0);
		for (let v = 0; v < times; v++) {
			let at = (y * times + v) * widthPx;
			for (let x = 0; x < w; x++) {
				let sum = 0;
				for (let u = 0; u < times; u++) sum += grey[at++];
				sums[x] += sum;
			}
		}
		for (let x = 0; x < w; x++) out[y * w + x] = (sums[x] + half) / (times * times);
	}
	return { widthPx: w, heightPx: h, grey: out };
}

/**
 * The boundary of ink in a reduced picture as closed polygons, in the frame and size that a trace of the whole picture
 * has. Not fitted, not checked: to be looked at only.
 *
 * @param picture reduced by `times`.
 * @param options as for the whole picture; all px in them are those of the whole one.
 */
export function quickBoundary(picture: GreyPicture, times: number, options: TraceOptions): Path[] {
	const { rectify, lasso, region } = options;
	const small: TraceOptions = {
		...options,
		pxPerMm: options.pxPerMm / times,
		...(options.blur ? { blur: options.blur / times } : {}),
		...(rectify
			? { rectify: { ...rectify, corners: rectify.corners.map((c) => ({ x: c.x / times, y: c.y / times })) } }
			: {}),
		...(lasso ? { lasso: lasso.map((v) => v / times) } : {}),
		...(region
			? { region: { x: region.x / times, y: region.y / times, w: region.w / times, h: region.h / times } }
			: {})
	};
	const light = options.light ?? false;
	const { prepared, counts, threshold } = inked(picture, small);
	const { dark, bright } = classTones(counts);
	const contours = finish(
		followBoundaries(prepared.grey, prepared.widthPx, prepared.heightPx, {
			threshold,
			light,
			tones: { ink: light ? bright : dark, paper: light ? dark : bright },
			diagonal: options.diagonal ?? 'join',
			leastAreaPx: 2,
			region: small.region
		})
	);
	const plane = small.rectify && rectifying(small.rectify);
	const pxPerMm = small.rectify ? meanScale(small.rectify) : small.pxPerMm;
	const placed = plane
		? contours.map((c) => contourOnSheet(c, plane, pxPerMm, isMirrored(small.rectify!.corners)))
		: contours;
	return inMm(
		placed.map((c) => polygonPath(c.points)),
		pxPerMm
	).paths;
}

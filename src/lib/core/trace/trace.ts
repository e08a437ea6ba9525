/** From a picture to closed outlines of true size. */
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { within } from '../progress';
import type { Deviation } from '../geometry/deviation';
import { anchorCount, pathArea } from '../geometry/measure';
import { polygonPath, transformPath, type Path } from '../geometry/path';
import type { Tones } from './across';
import { followBoundaries, lookedAt, type Contour } from './boundary';
import { fitContourSteps, type ContourFitOptions } from './contour-fit';
import { edgeDistance, edgeNoise, strayOf } from './edge-measures';
import type { Channel, GreyPicture } from './picture';
import { withHelp, type Edges, type Helper } from './outlines';
import { isWithinNoise } from './paper';
import { clearOutside, contourOnSheet, isMirrored } from './on-sheet';
import { meanScale, rectifying, type Rectangle } from './perspective';
import { blurred, edgeBlur, evenLight, levelled, pixelNoise } from './prepare';
import { coverOf, onlyCovered, withFaintInk, type PictureRegion } from './region';
import { inkOfThinStrokes, withThinStrokes } from './thin';
import { withTips } from './tips';
import { classTones, edgeTone, toneHistogram } from './threshold';
import { CLOSER, closerFit, untangled } from './untangled';

export interface TraceOptions {
	/** px/mm, > 0. */
	readonly pxPerMm: number;
	/** 0..255, or found by itself. */
	readonly threshold?: number | 'auto';
	/** Light ink on dark paper. */
	readonly light?: boolean;
	/** mm: how close the outlines keep to the picture's edge. Chosen from resolution and noise where left out. */
	readonly tolerance?: number;
	/** Degrees: the least turn that counts as a corner. */
	readonly cornerAngle?: number;
	/** mm^2: smaller specks are dropped. */
	readonly leastArea?: number;
	readonly diagonal?: 'join' | 'part';
	/** Take uneven light out first. */
	readonly evenLight?: boolean;
	/** Average noise away first. */
	readonly denoise?: boolean;
	/** Blur first, px (standard deviation). */
	readonly blur?: number;
	/** Stretch the tones first: what becomes black and what becomes white, 0..255. */
	readonly black?: number;
	readonly white?: number;
	/** Which of the picture's tones counts; its lightness where nothing is said. */
	readonly channel?: Channel;
	/** Ink as faint as this tone counts too where it hangs together with ink beyond the threshold. */
	readonly faint?: number;
	/** A known rectangle in the picture: what lies on it comes out in its own plane and size. */
	readonly rectify?: Rectangle;
	/** Only this part of the picture, px. */
	readonly region?: PictureRegion;
	/** Only what lies inside this polygon, x,y pairs, px of the picture. */
	readonly lasso?: Float64Array;
	/** Tell how far the outlines lie from the edge all along them. */
	readonly stray?: boolean;
	/** Follow what looks like the grain of paper too; otherwise it is refused before it is followed. */
	readonly grain?: boolean;
}

export interface Trace {
	/** Width and height of what was traced, mm. */
	readonly frame: { readonly w: number; readonly h: number };
	/**
	 * Closed paths, mm, y up, the picture's top left corner at the origin: solids anticlockwise, holes clockwise.
	 */
	readonly paths: Path[];
	/** The colour of each path, where the picture was traced by colours. */
	readonly fills?: readonly string[];
	/** The width of the stroke of each path, mm, where drawn lines were traced along their middles. */
	readonly widths?: readonly number[];
	/** Along each path how far it lies from the picture's edge, where that was asked for; mm. */
	readonly stray?: readonly Deviation[];
	readonly threshold: number;
	/** The closeness that was used, mm. */
	readonly tolerance: number;
	/** Largest and mean distance of the picture's edge from the outlines, mm, and the worst place. */
	readonly worst: number;
	readonly mean: number;
	readonly worstAt: Point;
	readonly anchors: number;
	/** By colours: the colour that was left out as the ground, #rrggbb. */
	readonly ground?: string;
	/** Specks that were dropped. */
	readonly dropped: number;
	/** px: how the edges were found to be blurred beyond the pixel, and how their points scatter. */
	readonly blur: number;
	readonly noise: number;
}

export interface TraceProgress {
	/** 0..1 */
	readonly share: number;
	readonly step: 'edges' | 'outlines' | 'checking';
}

/** The least area kept where none is asked for, px^2. */
export const LEAST_AREA_PX = 6;

/** @throws CoreError `bad-size`, `bad-tolerance` */
export function checkAsked(pxPerMm: number, tolerance: number | undefined): void {
	if (!(pxPerMm > 0)) throw new CoreError('bad-size', 'The picture has no true size yet. Give it one first.');
	if (tolerance !== undefined && !(tolerance > 0))
		throw new CoreError('bad-tolerance', 'The closeness must be above 0 mm.');
}

/**
 * Traces by tone.
 *
 * @param helper draws a share of the outlines at the same time; they come out the same.
 * @returns the trace; `nothing-found` is thrown where no outline is left.
 * @throws CoreError `bad-size`, `bad-tolerance`, `bad-threshold`, `bad-region`, `nothing-found`
 */
export function* traceByTone(
	picture: GreyPicture,
	options: TraceOptions,
	helper?: Helper
): Generator<TraceProgress, Trace> {
	const { rectify } = options;
	const plane = rectify && rectifying(rectify);
	const pxPerMm = rectify ? meanScale(rectify) : options.pxPerMm;
	const { widthPx, heightPx } = picture;
	checkAsked(pxPerMm, options.tolerance);
	const light = options.light ?? false;
	const { prepared, cover, counts, middle, ...asked } = inked(picture, options);
	let { threshold } = asked;
	const { grey } = prepared;
	const { region } = options;
	if (region) {
		const clear =
			region.w > 0 &&
			region.h > 0 &&
			region.x < widthPx &&
			region.y < heightPx &&
			region.x + region.w > 0 &&
			region.y + region.h > 0;
		if (!clear) throw new CoreError('bad-region', 'This region lies outside the picture.');
	}
	const leastAreaPx = options.leastArea !== undefined ? options.leastArea * pxPerMm * pxPerMm : LEAST_AREA_PX;
	const { dark, bright } = classTones(counts);
	const stairs = isTwoTone(counts, dark, bright);
	// A threshold that was moved away from the middle is meant to make the ink fatter or leaner.
	const isMiddle = Math.abs(threshold - middle) < 0.06 * (bright - dark);
	let tones: Tones | undefined = isMiddle
		? { ink: light ? bright : dark, paper: light ? dark : bright }
		: undefined;
	const followed = { light, diagonal: options.diagonal ?? 'join', leastAreaPx: 0, region } as const;
	const follow = (at: number, by: Tones | undefined) =>
		followBoundaries(grey, widthPx, heightPx, { ...followed, threshold: at, tones: by, stairs });
	const edgesUpTo = (share: number, work: Generator<number, Contour[]>) =>
		within(work, (s): TraceProgress => ({ share: share - 0.2 + 0.2 * s, step: 'edges' }));
	let found: readonly Contour[] = yield* edgesUpTo(0.2, follow(threshold, tones));
	let blur = stairs ? 0 : edgeBlur(prepared, found, bright - dark);
	// Thin strokes in blur do not show how dark their ink is.
	const ink =
		tones && !stairs ? inkOfThinStrokes(prepared, found, tones, Math.max(blur, THIN_BLUR)) : undefined;
	if (tones && ink !== undefined) {
		tones = { ...tones, ink };
		threshold = (ink + tones.paper) / 2;
		found = yield* edgesUpTo(0.4, follow(threshold, tones));
		blur = edgeBlur(prepared, found, Math.abs(tones.paper - ink));
	}
	const noiseOf = (list: readonly Contour[]) =>
		stairs ? STAIRS : Math.max(edgeNoise(list, blur), scatterOf(picture));
	const refined = tones
		? yield* within(refine(prepared, found, tones, blur, noiseOf(found)), (): TraceProgress => ({
				share: 0.4,
				step: 'edges'
			}))
		: found;
	const placed = (list: readonly Contour[]) =>
		plane ? list.map((c) => contourOnSheet(c, plane, pxPerMm, isMirrored(rectify!.corners))) : list;
	const all = placed(refined);
	const isLarge = all.map((c) => Math.abs(c.area) >= leastAreaPx);
	const contours = all.filter((_, i) => isLarge[i]);
	if (contours.length === 0 && all.length > 0) {
		throw new CoreError(
			'nothing-found',
			'Only specks were found. Lower the smallest area that counts, or choose another threshold.'
		);
	}
	if (!options.grain && isGrain(contours)) throw grainFound();
	// Where everything is ink its only edge is the picture's own.
	const { x0, y0, x1, y1 } = lookedAt(widthPx, heightPx, region);
	const looked = cover ? cover.reduce((sum, c) => sum + c, 0) / 255 : (x1 - x0) * (y1 - y0);
	const isAllInk =
		!rectify && contours.length === 1 && contours[0].area > looked - (cover ? 0.005 * looked + 4 : 0.5);
	if (contours.length === 0 || isAllInk) {
		throw new CoreError(
			'nothing-found',
			'No edge was found at this threshold: everything is on one side of it. Choose another threshold.'
		);
	}
	const noise = noiseOf(contours);
	const fit = fitFor(options, pxPerMm, { noise, blur, stairs });
	const edges: Edges = {
		picture: prepared,
		threshold,
		light,
		region,
		tones,
		stairs,
		fit,
		isFlat: !plane,
		mayChange: options.tolerance === undefined,
		count: contours.reduce((sum, c) => sum + c.points.length / 2, 0)
	};
	const outlines = yield* within(withHelp(edges, contours, helper), (share): TraceProgress => ({
		share: 0.4 + 0.45 * share,
		step: 'outlines'
	}));
	const paths = outlines.filter((path) => path !== undefined);
	const drawn = (list: readonly Contour[]) => list.filter((_, i) => outlines[i] !== undefined);
	const kept = drawn(contours);
	const between = function* () {
		const list = yield* followBoundaries(grey, widthPx, heightPx, { ...followed, threshold, between: true });
		return drawn(placed(list).filter((_, i) => isLarge[i]));
	};
	yield { share: 0.87, step: 'checking' };
	yield* checking(uncrossed(paths, kept, fit, between), 0.87, 0.93);
	const edge = yield* checking(edgeDistance(paths, kept), 0.93, 1);
	return {
		...measured(picture, options, pxPerMm, fit, edge),
		...inMm(paths, pxPerMm),
		...strayOf(options, paths, kept, pxPerMm),
		threshold,
		dropped: all.length - kept.length
	};
}

/** Contours where the tone at the threshold does not tell the edge: thin strokes in blur, and needles. */
function* refine(
	picture: GreyPicture,
	contours: readonly Contour[],
	tones: Tones,
	blur: number,
	noise: number
): Generator<number, readonly Contour[]> {
	const out: Contour[] = [];
	for (const [k, contour] of contours.entries()) {
		yield k / contours.length;
		if (isSpeck(contour)) out.push(contour);
		else {
			const thin = blur >= LEAST_BLUR ? withThinStrokes(picture, contour, tones, blur) : contour;
			out.push(withTips(picture, thin, tones, blur, noise));
		}
	}
	return out;
}
/** px: strokes are looked at as if they were blurred so much at least: where their ink is not seen the blur is not, either. */
const THIN_BLUR = 0.7;
/** px: blur below which a pixel tells more of an edge than what lies across does. */
const LEAST_BLUR = 0.5;

const isSpeck = ({ area }: Contour) => Math.abs(area) < LEAST_AREA_PX;

/** The last part of tracing, told as such. */
export const checking = <T>(
	work: Generator<number, T>,
	from: number,
	to: number
): Generator<TraceProgress, T> =>
	within(work, (share) => ({ share: from + (to - from) * share, step: 'checking' }));

/** What a fit keeps to: as asked for, or as the picture's own scatter and blur allow. */
export function fitFor(
	options: Pick<TraceOptions, 'tolerance' | 'cornerAngle'>,
	pxPerMm: number,
	edges: Pick<ContourFitOptions, 'noise' | 'blur' | 'stairs'>
): ContourFitOptions {
	const { tolerance, cornerAngle = 30 } = options;
	return {
		...edges,
		tolerance: tolerance !== undefined ? tolerance * pxPerMm : toleranceFor(edges.noise),
		cornerAngle
	};
}

/** Paths of the picture's frame (px, y down) as they are traced: mm, y up. */
export function inMm(paths: readonly Path[], pxPerMm: number): Pick<Trace, 'paths' | 'anchors'> {
	const scale = 1 / pxPerMm;
	const placed = paths.map((path) => transformPath(path, [scale, 0, 0, -scale, 0, 0]));
	return { paths: placed, anchors: placed.reduce((sum, path) => sum + anchorCount(path), 0) };
}

/** What every trace tells of itself: its frame, its closeness, and how far it came out from the edge (px), in mm. */
export function measured(
	{ widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
	{ rectify }: Pick<TraceOptions, 'rectify'>,
	pxPerMm: number,
	{ tolerance, blur, noise }: ContourFitOptions,
	edge: { readonly worst: number; readonly mean: number; readonly x: number; readonly y: number }
): Pick<Trace, 'frame' | 'tolerance' | 'worst' | 'mean' | 'worstAt' | 'blur' | 'noise'> {
	const scale = 1 / pxPerMm;
	return {
		frame: rectify ? { w: rectify.width, h: rectify.height } : { w: widthPx * scale, h: heightPx * scale },
		tolerance: tolerance * scale,
		worst: edge.worst * scale,
		mean: edge.mean * scale,
		worstAt: { x: edge.x * scale, y: -edge.y * scale },
		blur,
		noise
	};
}

/** The picture as the tracer sees it: what is asked for is done to it, one after the other. */
function prepare(picture: GreyPicture, options: TraceOptions): GreyPicture {
	let out = picture;
	if (options.evenLight) out = evenLight(out, options.light);
	if (options.denoise) {
		const noise = pixelNoise(out);
		if (noise > 1) out = blurred(out, noise > 6 ? 1.2 : 0.8);
	}
	if (options.blur !== undefined && options.blur > 0) out = blurred(out, Math.min(4, options.blur));
	const { black = 0, white = 255 } = options;
	if (black > 0 || white < 255) {
		if (!(white - black >= 1)) throw new CoreError('bad-levels', 'White must be a brighter tone than black.');
		out = levelled(out, black, white);
	}
	return out;
}

/** A picture ready to be parted into ink and paper. */
export interface Inked {
	/** Prepared, with paper beyond a sheet and beyond the lasso. */
	readonly prepared: GreyPicture;
	/** How much of each pixel the lasso covers, where there is one. */
	readonly cover?: Uint8Array;
	readonly counts: Uint32Array;
	/** Where ink ends and paper begins, and where the middle between both lies. */
	readonly threshold: number;
	readonly middle: number;
}

/**
 * Prepares a picture and finds the tone that parts ink from paper.
 * @throws CoreError `bad-threshold`, `bad-levels`, `bad-region`; `grain` where a threshold set by hand lies within the paper's noise
 */
export function inked(picture: GreyPicture, options: TraceOptions): Inked {
	const { rectify, lasso, faint } = options;
	const light = options.light ?? false;
	let prepared = prepare(picture, options);
	if (rectify) prepared = clearOutside(prepared, rectify.corners, light);
	const cover = lasso && coverOf(lasso, picture.widthPx, picture.heightPx);
	if (cover) prepared = onlyCovered(prepared, cover, paperTone(toneHistogram(prepared.grey), light));
	const counts = toneHistogram(prepared.grey);
	const middle = edgeTone(counts);
	const asked = options.threshold;
	const threshold = asked === undefined || asked === 'auto' ? middle : asked;
	if (!(threshold >= 0 && threshold <= 255))
		throw new CoreError('bad-threshold', 'The threshold must lie between 0 and 255.');
	if (asked === threshold && !options.grain && isWithinNoise(prepared, threshold, light)) throw grainFound();
	if (faint === undefined || !(light ? faint < threshold : faint > threshold))
		return { prepared, cover, counts, threshold, middle };
	prepared = withFaintInk(prepared, threshold, faint, light, paperTone(counts, light));
	return { prepared, cover, counts, threshold: faint, middle };
}

/** So many outlines, most of them of a few pixels, are the grain of paper. */
const MANY = 4000;
const GRAIN_AREA_PX = 16;

const isGrain = (contours: readonly Contour[]): boolean =>
	contours.length > MANY &&
	contours.filter((c) => Math.abs(c.area) < GRAIN_AREA_PX).length > 0.8 * contours.length;

const grainFound = () =>
	new CoreError(
		'grain',
		'So the grain of the paper is taken for ink: that would be thousands of specks. Nothing was followed.'
	);

/** The tone of plain paper. */
function paperTone(counts: ArrayLike<number>, light: boolean): number {
	const { dark, bright } = classTones(counts);
	return Math.round(light ? dark : bright);
}

/** px: how closely an outline keeps to the picture's edge where nothing else is asked for. */
export const toleranceFor = (noise: number) => Math.min(0.4, 0.1 + 1.8 * noise);

/** px: how much the squares under a stroke shift its edge; they do so over stretches longer than noise is looked for in. */
const PRINTED = 0.17;

/** px: what is known of a picture's edges beyond their noise. */
export const scatterOf = ({ isPrinted }: GreyPicture): number => (isPrinted ? PRINTED : 0);

/** px: how far the middles of treads and risers lie from the line behind them (root mean square, measured on straights). */
const STAIRS = 0.16;

/** Are there next to no tones between ink and paper: no anti-aliasing? */
function isTwoTone(counts: ArrayLike<number>, dark: number, bright: number): boolean {
	let between = 0;
	let all = 0;
	for (let v = 0; v < 256; v++) {
		all += counts[v];
		if (v > dark + 0.15 * (bright - dark) && v < bright - 0.15 * (bright - dark)) between += counts[v];
	}
	return between < 1e-5 * all;
}

/**
 * Outlines that cross are drawn closer, then through all their edge points, and at last half way between the pixels, where none can cross.
 * @param between the same contours by the middles of the pixel edges that were walked along.
 */
function uncrossed(
	paths: Path[],
	contours: readonly Contour[],
	fit: ContourFitOptions,
	between: () => Generator<number, readonly Contour[]>
): Generator<number, void> {
	let middles: readonly Contour[] | undefined;
	return untangled(paths, [...CLOSER, 'followed', 'between'] as const, function* (crossing, way) {
		if (way === 'between') middles ??= yield* within(between(), () => undefined);
		for (const i of crossing) {
			yield;
			const { points, tips } = contours[i];
			if (way === 'followed') paths[i] = polygonPath(points);
			else if (way === 'between') paths[i] = polygonPath(middles![i].points);
			else paths[i] = yield* fitContourSteps(points, closerFit(fit, way), tips);
		}
	});
}

/** The areas of traced paths by sign, for facts: ink less holes, mm^2. */
export function tracedArea(trace: Trace): number {
	return trace.paths.reduce((sum, path) => sum + pathArea(path), 0);
}

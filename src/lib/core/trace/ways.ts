/** All ways of tracing behind one door. */
import { CoreError } from '../errors';
import type { Deviation } from '../geometry/deviation';
import type { Path } from '../geometry/path';
import { alphaAsInk, channelOf, type Channel, type ColourPicture, type GreyPicture } from './picture';
import { localTone } from './prepare';
import type { Helper } from './outlines';
import { isWithinNoise, MOST_INK, plainPaper } from './paper';
import { edgeTone, toneHistogram } from './threshold';
import { traceByTone, type Trace, type TraceOptions, type TraceProgress } from './trace';
import { traceByColours } from './trace-colours';
import { traceLineCentres } from './trace-lines';

export const WAYS = ['tone', 'local-tone', 'alpha', 'colours', 'line-centre', 'levels'] as const;
/** What parts ink from paper, or what the lines are. */
export type Way = (typeof WAYS)[number];

export interface WayOptions extends TraceOptions {
	readonly way: Way;
	/** By colours: how many flat colours, the background counted. */
	readonly colours?: number | 'auto';
	/** By colours: outlines of the colour that fills the picture's border as well. */
	readonly withBackground?: boolean;
	/** Level lines: how many. */
	readonly levels?: number;
}

/** A picture's pixels, each kind made when first asked for. */
export interface PictureSource {
	grey(channel?: Channel): GreyPicture;
	alpha(): GreyPicture;
	colour(): ColourPicture;
}

export function sourceOf(picture: ColourPicture): PictureSource {
	return {
		grey: (channel) => channelOf(picture, channel ?? 'lightness'),
		alpha: () => alphaAsInk(picture),
		colour: () => picture
	};
}

/**
 * @param helper draws a share of the outlines at the same time, where they are told by tone.
 * @throws CoreError as the ways do; `bad-levels`
 */
export function tracePicture(
	source: PictureSource,
	options: WayOptions,
	helper?: Helper
): Generator<TraceProgress, Trace> {
	switch (options.way) {
		case 'colours':
			return traceByColours(source.colour(), { ...options, colours: options.colours ?? 'auto' });
		case 'line-centre':
			return traceLineCentres(tonesFor(source, options), options);
		case 'levels':
			return traceLevels(tonesFor(source, options), options);
		case 'local-tone':
			return traceByTone(tonesFor(source, options), { ...options, evenLight: false }, helper);
		default:
			return traceByTone(tonesFor(source, options), options, helper);
	}
}

/** The tones that a way looks at, before anything is done to them. */
export function tonesFor(source: PictureSource, options: Omit<WayOptions, 'pxPerMm'>): GreyPicture {
	if (options.way === 'alpha') return source.alpha();
	const grey = source.grey(options.channel);
	if (options.way === 'levels') return grey;
	const clean = withPlainPaper(grey, options);
	return options.way === 'local-tone' ? { ...localTone(clean), isPrinted: clean.isPrinted } : clean;
}

/** Share of a picture on the ink's side of a tone. */
function inkShare(counts: ArrayLike<number>, tone: number, light: boolean): number {
	let [ink, all] = [0, 0];
	for (let v = 0; v < 256; v++) {
		all += counts[v];
		if (light ? v > tone : v < tone) ink += counts[v];
	}
	return ink / Math.max(1, all);
}

const cleaned = new WeakMap<GreyPicture, Map<boolean, GreyPicture>>();

/**
 * Where the threshold would lie within the noise of paper, or parts the paper itself, the paper is made plain. What a person has set by hand is left to
 * them.
 */
function withPlainPaper(grey: GreyPicture, options: Omit<WayOptions, 'pxPerMm'>): GreyPicture {
	const { threshold = 'auto', light = false, black = 0, white = 255 } = options;
	if (threshold !== 'auto' || black > 0 || white < 255) return grey;
	const before = cleaned.get(grey) ?? new Map<boolean, GreyPicture>();
	const known = before.get(light);
	if (known) return known;
	const counts = toneHistogram(grey.grey);
	const tone = edgeTone(counts);
	// Where light or folds part the paper itself, much of it would be ink.
	const isPaperAmiss = inkShare(counts, tone, light) > MOST_INK || isWithinNoise(grey, tone, light);
	const clean = (isPaperAmiss ? plainPaper(grey, light) : undefined) ?? grey;
	cleaned.set(grey, before.set(light, clean));
	return clean;
}

/**
 * Level lines of a grey picture at equal steps between its darkest and its brightest tone: what is darker than each, as
 * closed outlines, for layers that lie on each other. The fill of each path tells its level.
 */
function* traceLevels(picture: GreyPicture, options: WayOptions): Generator<TraceProgress, Trace> {
	const levels = options.levels ?? 5;
	if (!(Number.isInteger(levels) && levels >= 1 && levels <= 64))
		throw new CoreError('bad-levels', 'The number of levels must be a whole number from 1 to 64.');
	const counts = toneHistogram(picture.grey);
	const low = toneAt(counts, 0.002);
	const high = toneAt(counts, 0.998);
	if (!(high - low >= 2))
		throw new CoreError('nothing-found', 'This picture is of one tone: there are no levels in it.');
	const paths: Path[] = [];
	const stray: Deviation[] = [];
	const fills: string[] = [];
	let last: Trace | undefined;
	let worst: Trace | undefined;
	let meanSum = 0;
	let dropped = 0;
	for (let k = 1; k <= levels; k++) {
		const threshold = low + ((high - low) * k) / (levels + 1);
		const work = traceByTone(picture, { ...options, threshold, grain: true });
		try {
			let step = work.next();
			while (!step.done) {
				yield { share: (k - 1 + step.value.share) / levels, step: step.value.step };
				step = work.next();
			}
			last = step.value;
		} catch (error) {
			// A level that nothing reaches is an empty layer.
			if (error instanceof CoreError && error.code === 'nothing-found') continue;
			throw error;
		}
		const tone = Math.round(threshold).toString(16).padStart(2, '0');
		paths.push(...last.paths);
		stray.push(...(last.stray ?? []));
		for (let i = 0; i < last.paths.length; i++) fills.push(`#${tone}${tone}${tone}`);
		if (!worst || last.worst > worst.worst) worst = last;
		meanSum += last.mean * last.anchors;
		dropped += last.dropped;
	}
	if (!worst || !last) throw new CoreError('nothing-found', 'No level line was found in this picture.');
	const anchors = paths.reduce((sum, path) => sum + path.types.length, 0);
	return {
		...worst,
		paths,
		...(options.stray ? { stray } : {}),
		fills,
		anchors,
		mean: meanSum / Math.max(1, anchors),
		dropped
	};
}

/** The tone below which a share of all pixels lies. */
function toneAt(counts: ArrayLike<number>, share: number): number {
	let total = 0;
	for (let v = 0; v < 256; v++) total += counts[v];
	let seen = 0;
	for (let v = 0; v < 256; v++) {
		seen += counts[v];
		if (seen >= share * total) return v;
	}
	return 255;
}

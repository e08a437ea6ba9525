/** Outlines drawn of the contours of a picture, each by itself: whoever draws them, they come out the same. */
import { anchorCount } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { tangledSteps } from '../plane/crossings';
import { finish, within } from '../progress';
import type { Tones } from './across';
import { WAYS_ROUND, type Way } from './beginning';
import { inkTest, lookedAt, type Contour } from './boundary';
import { fitContourSteps, type ContourFitOptions } from './contour-fit';
import { edgeDistance, mostAstray } from './edge-measures';
import { askedOneIn, likeliest, type Asking } from './likeliest/likeliest';
import { netOf, pathsOf } from './likeliest/net';
import type { Witness } from './likeliest/settle';
import { softTones } from './likeliest/soft-tones';
import { inkAndPaper, tones as likelyTones } from './likeliest/tones';
import { twoTones } from './likeliest/two-tones';
import type { GreyPicture } from './picture';
import type { PictureRegion } from './region';

/** What the contours of a picture were found in and are drawn by. It can be handed to a worker. */
export interface Edges {
	/** As it was looked at. */
	readonly picture: GreyPicture;
	readonly threshold: number;
	readonly light: boolean;
	readonly region?: PictureRegion;
	/** The tones of full ink and full paper, where the threshold lies in their middle. */
	readonly tones?: Tones;
	/** No tones between ink and paper. */
	readonly stairs: boolean;
	readonly fit: ContourFitOptions;
	/** Contours lie in the picture's own frame, not on a sheet at an angle. */
	readonly isFlat: boolean;
	/** Segments may be put in and taken out. */
	readonly mayChange: boolean;
	/** Points of all contours. */
	readonly count: number;
}

/** The outline of a contour; nothing where there is too little of it. */
export type Outlined = Path | undefined;

/**
 * Draws outlines of some contours.
 * @returns one for each contour. Yields the share of them that is drawn.
 */
export function* drawOutlines(edges: Edges, contours: readonly Contour[]): Generator<number, Outlined[]> {
	const { fit, count } = edges;
	const witness = witnessOf(edges);
	const isThorough = count <= THOROUGH;
	const asking: Asking = {
		mayChange: edges.mayChange,
		// Without tones between ink and paper every pixel is needed.
		oneIn: edges.stairs ? 1 : askedOneIn(count)
	};
	const out: Outlined[] = [];
	for (const [i, contour] of contours.entries()) {
		const share = i / contours.length;
		yield share;
		const drawn = yield* within(closeEnough(contour, fit, isThorough), () => share);
		if (drawn.path.types.length < 2) out.push(undefined);
		else if (!witness) out.push(drawn.path);
		else out.push(yield* within(settled(drawn, contour, witness, fit, asking), () => share));
	}
	return out;
}

/** Somebody who draws outlines at the same time. */
export interface Helper {
	/** Begins to draw outlines of contours. */
	readonly begin: (edges: Edges, contours: readonly Contour[]) => void;
	/** The outlines once all are drawn; 'failed' where they cannot be. */
	readonly drawn: () => readonly Outlined[] | 'failed' | undefined;
}

/** Outlines of all contours, a share of them drawn by a helper where there is one. */
export function* withHelp(
	edges: Edges,
	contours: readonly Contour[],
	helper: Helper | undefined
): Generator<number, Outlined[]> {
	const theirs = helper ? halfOf(contours) : [];
	const isTheirs = new Uint8Array(contours.length);
	for (const i of theirs) isTheirs[i] = 1;
	const given = theirs.map((i) => contours[i]);
	if (given.length > 0) helper!.begin(edges, given);
	const own = yield* drawOutlines(
		edges,
		contours.filter((_, i) => !isTheirs[i])
	);
	let drawn = given.length > 0 ? helper!.drawn() : [];
	for (; drawn === undefined; drawn = helper!.drawn()) yield 1;
	const more = drawn === 'failed' ? yield* drawOutlines(edges, given) : drawn;
	let [a, b] = [0, 0];
	return contours.map((_, i) => (isTheirs[i] ? more[b++] : own[a++]));
}

/** Those contours that are about half of the work; none where it is not worth while to hand them over. */
function halfOf(contours: readonly Contour[]): number[] {
	const work = contours.map(({ points }) => points.length / 2 + EACH);
	if (work.reduce((sum, w) => sum + w, 0) < WORTH_HELP) return [];
	const theirs: number[] = [];
	let [own, their] = [0, 0];
	for (const i of [...work.keys()].sort((a, b) => work[b] - work[a])) {
		if (own <= their) own += work[i];
		else {
			their += work[i];
			theirs.push(i);
		}
	}
	return theirs.sort((a, b) => a - b);
}
/** Points of a contour that are as much work as a contour itself. */
const EACH = 40;
/** So little is done sooner than handed over. */
const WORTH_HELP = 6000;

/** What the pixels say of an outline, where they can be asked. */
function witnessOf(edges: Edges): Witness | undefined {
	const { picture, stairs, tones, region, isFlat, count } = edges;
	const { blur } = edges.fit;
	if (!isFlat || count > (stairs ? SETTLED : SETTLED_IN_PART)) return undefined;
	if (stairs) return twoTones(inkTest(picture.grey, picture.widthPx, picture.heightPx, edges));
	if (!tones || blur >= SOFTEST) return undefined;
	const inkOf = coverIn(picture, tones, region);
	return blur < SHARP ? likelyTones(inkAndPaper(inkOf)) : softTones(inkOf, blur);
}

/** How much of each pixel is ink, by its tone; what lies beyond the picture, or beyond the region, is paper. */
function coverIn(
	{ widthPx, heightPx, grey }: GreyPicture,
	{ ink, paper }: Tones,
	region: PictureRegion | undefined
): (i: number, j: number) => number {
	const { x0, y0, x1, y1 } = lookedAt(widthPx, heightPx, region);
	return (i, j) =>
		i >= x0 && j >= y0 && i < x1 && j < y1 ? (paper - grey[j * widthPx + i]) / (paper - ink) : 0;
}
/** px: less blur than this does not reach beyond a pixel. */
const SHARP = 0.45;
/** px: in more blur an outline's own pixels are too few. */
const SOFTEST = 3;
/**
 * Points of all contours up to which outlines are settled on the pixels: beyond, that would take too long. More where of long segments
 * only a part is asked.
 */
const SETTLED = 60_000;
const SETTLED_IN_PART = 120_000;

/** An outline of a contour, and how far the contour's points lie from it at most, px. */
interface Drawn {
	readonly path: Path;
	readonly worst: number;
}

/** An outline of a contour; where it strays farther than corners are blunted it is drawn again, closer. */
function* closeEnough(contour: Contour, fit: ContourFitOptions, isThorough: boolean): Generator<void, Drawn> {
	const most = mostAstray(fit);
	const drawn = function* (share: number, way: Way) {
		const closer = { ...fit, tolerance: share * fit.tolerance };
		const path = yield* fitContourSteps(contour.points, closer, contour.tips, way);
		const worst = path.types.length ? finish(edgeDistance([path], [contour])).worst : Infinity;
		return { path, worst, way };
	};
	const [first, ...others] = WAYS_ROUND;
	let best = yield* drawn(1, first);
	const isWorthIt = isThorough || (best.worst > DOUBTFUL * most && contour.points.length <= 2 * ALL_WAYS);
	for (const way of isWorthIt ? others : []) {
		const other = yield* drawn(1, way);
		const [here, there] = [best, other].map(({ worst }) => worst > most);
		const fewer = anchorCount(other.path) - anchorCount(best.path);
		if (here !== there ? here : fewer < 0 || (fewer === 0 && other.worst < best.worst)) best = other;
	}
	for (let share = 0.5; best.worst > most && share > 0.2; share /= 2) {
		const closer = yield* drawn(share, best.way);
		if (closer.worst < 0.8 * best.worst) best = closer;
	}
	return best;
}
/** Points of all contours up to which each is gone round in every way, and the better outline taken. */
const THOROUGH = 6000;
/** Beyond that only where an outline strays more than this share of what it may, and has no more points than that. */
const DOUBTFUL = 0.4;
const ALL_WAYS = 1000;

/** The likeliest outline by the pixels; the given one where they draw it away from its own edge points, or across itself. */
function* settled(
	{ path, worst }: Drawn,
	contour: Contour,
	witness: Witness,
	fit: ContourFitOptions,
	asking: Asking
): Generator<void, Path> {
	const net = netOf(path);
	const settled = yield* likeliest(net, witness, asking);
	if (settled === net) return path;
	const [likely] = pathsOf(settled);
	const after = finish(edgeDistance([likely], [contour])).worst;
	// Where a stroke tapers to nothing its edge points stray themselves.
	if (!(after <= Math.max(worst, 2 * mostAstray(fit)))) return path;
	const tangled = yield* within(tangledSteps([likely]), () => undefined);
	return tangled.size === 0 ? likely : path;
}

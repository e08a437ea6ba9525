/** Traces a picture by its flat colours: every colour's regions, neighbours sharing one border. */
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { bulgeThrough } from '../geometry/arc';
import { within } from '../progress';
import { PathBuilder, polygonPath, reversePath, type Path } from '../geometry/path';
import { followBorders, type Chain } from './borders';
import {
	drawChain,
	fitContour,
	fitContourSteps,
	planChain,
	planChainSteps,
	type ContourFitOptions,
	type Plan
} from './contour-fit';
import { dropPatches, labelSteps } from './labels';
import { flatColours, hexOf, type Colour } from './palette';
import { EDGE_PX, insideOf, isMirrored, pointsOnSheet } from './on-sheet';
import { meanScale, rectifying, type Rectangle } from './perspective';
import type { Shown } from './likeliest/tones';
import type { ColourPicture } from './picture';
import { coverOf, rectangleAsPolygon, type PictureRegion } from './region';
import { edgeNoise, strayOf, edgeDistance } from './edge-measures';
import {
	checkAsked,
	LEAST_AREA_PX,
	fitFor,
	inMm,
	measured,
	checking,
	type Trace,
	type TraceProgress
} from './trace';
import { backToFound, settle } from './junctions';
import { settleBorders } from './borders-settled';
import { CLOSER, closerFit, through, untangled } from './untangled';

export interface ColourTraceOptions {
	/** px/mm, > 0. */
	readonly pxPerMm: number;
	/** How many flat colours, the background counted, or found by itself. */
	readonly colours: number | 'auto';
	/** mm */
	readonly tolerance?: number;
	/** Degrees */
	readonly cornerAngle?: number;
	/** mm^2 */
	readonly leastArea?: number;
	/** A known rectangle in the picture: what lies on it comes out in its own plane and size. */
	readonly rectify?: Rectangle;
	/** Only this part of the picture, px. */
	readonly region?: PictureRegion;
	/** Only what lies inside this polygon, x,y pairs, px of the picture. */
	readonly lasso?: Float64Array;
	/** Tell how far the outlines lie from the edge all along them. */
	readonly stray?: boolean;
	/** Outlines of the colour that fills the picture's border as well. */
	readonly withBackground?: boolean;
}

/**
 * @returns the trace, with the fill of each path in `fills`.
 * @throws CoreError `bad-size`, `bad-tolerance`, `bad-colours`, `nothing-found`
 */
export function* traceByColours(
	picture: ColourPicture,
	options: ColourTraceOptions
): Generator<TraceProgress, Trace> {
	const { rectify } = options;
	const plane = rectify && rectifying(rectify);
	const pxPerMm = rectify ? meanScale(rectify) : options.pxPerMm;
	const { widthPx, heightPx } = picture;
	checkAsked(pxPerMm, options.tolerance);
	const palette = flatColours(picture, options.colours);
	const edges =
		(from: number, to: number) =>
		(share: number): TraceProgress => ({
			share: from + (to - from) * share,
			step: 'edges'
		});
	const labels = yield* within(labelSteps(picture, palette), edges(0.1, 0.3));
	if (rectify) {
		const { corners } = rectify;
		fillOutside(labels, widthPx, (x, y) => insideOf(corners, x + 0.5, y + 0.5) - EDGE_PX, 1.5 * EDGE_PX);
	}
	const lasso = options.lasso ?? (options.region && rectangleAsPolygon(options.region));
	const cover = lasso && coverOf(lasso, widthPx, heightPx);
	const isLooked = (i: number, j: number): boolean =>
		i >= 0 && j >= 0 && i < widthPx && j < heightPx && !(cover && cover[j * widthPx + i] <= 127);
	if (lasso) fillOutside(labels, widthPx, (x, y) => (isLooked(x, y) ? 1 : -1), Infinity);
	const leastPx = options.leastArea !== undefined ? options.leastArea * pxPerMm * pxPerMm : LEAST_AREA_PX;
	const dropped = yield* within(dropPatches(labels, widthPx, heightPx, leastPx), edges(0.3, 0.35));
	const background = options.withBackground ? 255 : borderLabel(labels, widthPx, heightPx);
	const walk = followBorders(labels, widthPx, heightPx, background, placer(picture, palette));
	const network = yield* within(walk, edges(0.35, 0.5));
	const { loops } = network;
	const chains = plane
		? network.chains.map((c) => ({ ...c, points: pointsOnSheet(c.points, plane, pxPerMm) }))
		: network.chains;
	const junctions = plane ? pointsOnSheet(network.junctions, plane, pxPerMm) : network.junctions;
	if (loops.length === 0)
		throw new CoreError('nothing-found', 'The whole picture is of one colour: there is nothing to trace.');
	const noise = edgeNoise(
		chains.filter((c) => c.points.length > 80),
		0
	);
	const fit = fitFor(options, pxPerMm, { noise, blur: 0 });
	const drawn: Path[] = [];
	const plans: (Plan | undefined)[] = [];
	for (let i = 0; i < chains.length; i++) {
		const here: TraceProgress = { share: 0.5 + (0.3 * i) / chains.length, step: 'outlines' };
		yield here;
		const { closed, points } = chains[i];
		if (closed) drawn[i] = yield* within(fitContourSteps(points, fit), () => here);
		else if (points.length >= 8) plans[i] = yield* within(planChainSteps(points, fit, BESIDE), () => here);
	}
	const places = settle(junctions, chains, plans);
	for (const [i, chain] of chains.entries()) {
		if (chain.closed) continue;
		if (i % 64 === 63) yield { share: 0.8 + (0.05 * i) / chains.length, step: 'outlines' };
		const [a, b] = [places[chain.start], places[chain.end]];
		const points = trimmed(chain.points, a, b);
		let plan = plans[i];
		if (points !== chain.points) plan = points.length >= 8 ? planChain(points, fit, BESIDE) : undefined;
		drawn[i] = plan ? drawChain(plan, a, b, fit) : shortChain(points, a, b);
	}
	let putBack: ((chain: number) => void) | undefined;
	if (!plane) {
		const shown = shownIn(picture, palette, background, isLooked);
		const mayChange = options.tolerance === undefined;
		const here = (share: number): TraceProgress => ({ share: 0.8 + 0.05 * share, step: 'outlines' });
		putBack = yield* within(settleBorders({ drawn, places }, chains, shown, { fit, mayChange }), here);
	}
	yield { share: 0.85, step: 'checking' };
	const between = function* (): Generator<number, Between> {
		const plain = yield* followBorders(labels, widthPx, heightPx, background, () => 0.5);
		if (!plane) return plain;
		return {
			chains: plain.chains.map((c) => ({ ...c, points: pointsOnSheet(c.points, plane, pxPerMm) })),
			junctions: pointsOnSheet(plain.junctions, plane, pxPerMm)
		};
	};
	yield* checking(uncross(drawn, chains, { places, junctions, fit, putBack, between }), 0.85, 0.93);
	const edge = yield* checking(edgeDistance(drawn, chains), 0.93, 1);
	const paths: Path[] = [];
	const fills: string[] = [];
	const mirrored = rectify !== undefined && isMirrored(rectify.corners);
	for (const loop of loops) {
		const loose = assemble(loop.parts.map((p) => (p.forward ? drawn[p.chain] : reversePath(drawn[p.chain]))));
		if (loose.types.length < 2) continue;
		paths.push(mirrored ? reversePath(loose) : loose);
		fills.push(hexOf(palette[loop.label]));
	}
	return {
		...measured(picture, options, pxPerMm, fit, edge),
		...inMm(paths, pxPerMm),
		...strayOf(options, drawn, chains, pxPerMm),
		fills,
		...(background < palette.length ? { ground: hexOf(palette[background]) } : {}),
		threshold: 0,
		dropped
	};
}

/**
 * What lies outside gets the label that is commonest inside, along the border.
 * @param inside how far a pixel lies inside; negative outside.
 * @param beside how far from the border is looked for that label.
 */
function fillOutside(
	labels: Uint8Array,
	widthPx: number,
	inside: (x: number, y: number) => number,
	beside: number
): void {
	const counts = new Uint32Array(256);
	const outside: number[] = [];
	for (let i = 0; i < labels.length; i++) {
		const x = i % widthPx;
		const d = inside(x, (i - x) / widthPx);
		if (d < 0) outside.push(i);
		else if (d < beside) counts[labels[i]]++;
	}
	const paper = counts.indexOf(Math.max(...counts));
	for (const i of outside) labels[i] = paper;
}

/** What the pixels show of the flat colours; where the picture is not looked at, its background. */
function shownIn(
	{ widthPx, rgba }: ColourPicture,
	palette: readonly Colour[],
	background: number,
	isLooked: (i: number, j: number) => boolean
): Shown {
	const grounds = palette.map(({ r, g, b }) => [r, g, b]);
	const beyond = grounds[background] ?? [0, 0, 0];
	return {
		tones: 3,
		of: (i, j, tone) => (isLooked(i, j) ? rgba[4 * (j * widthPx + i) + tone] : beyond[tone]),
		grounds
	};
}

/** The label that most of the picture's border has. */
function borderLabel(labels: Uint8Array, widthPx: number, heightPx: number): number {
	const counts = new Uint32Array(256);
	for (let x = 0; x < widthPx; x++) {
		counts[labels[x]]++;
		counts[labels[(heightPx - 1) * widthPx + x]]++;
	}
	for (let y = 0; y < heightPx; y++) {
		counts[labels[y * widthPx]]++;
		counts[labels[(y + 1) * widthPx - 1]]++;
	}
	return counts.indexOf(Math.max(...counts));
}

/** Cover that counts as full, how far the line of pixels is followed, and how far off a mixture may be (tones). */
const FULL = 0.94;
const REACH = 4;
const OFF = 40;

/** Where the border lies between two pixels of different colours, from how much of each colour the pixels across it hold. */
function placer({ widthPx, heightPx, rgba }: ColourPicture, palette: readonly Colour[]) {
	return (ax: number, ay: number, bx: number, by: number, a: number, b: number): number => {
		if (ax < 0 || ay < 0 || ax >= widthPx || ay >= heightPx) return 0.5;
		if (bx < 0 || by < 0 || bx >= widthPx || by >= heightPx) return 0.5;
		const p = palette[a];
		const q = palette[b];
		if (!p || !q) return 0.5;
		const dr = p.r - q.r;
		const dg = p.g - q.g;
		const db = p.b - q.b;
		const size = dr * dr + dg * dg + db * db;
		/** Share of the first colour in a pixel; nothing where a third takes part. */
		const cover = (x: number, y: number): number | undefined => {
			const i = 4 * (y * widthPx + x);
			const r = rgba[i] - q.r;
			const g = rgba[i + 1] - q.g;
			const c = rgba[i + 2] - q.b;
			const share = (r * dr + g * dg + c * db) / size;
			const off = (r - share * dr) ** 2 + (g - share * dg) ** 2 + (c - share * db) ** 2;
			return off > OFF * OFF ? undefined : Math.min(1, Math.max(0, share));
		};
		const dx = bx - ax;
		const dy = by - ay;
		/** What is missing from full cover on one side, or undefined where a third colour comes in. */
		const missing = (x0: number, y0: number, sign: number, of: (c: number) => number): number | undefined => {
			let sum = 0;
			let before = 0;
			for (let k = 0; k <= REACH; k++) {
				const x = x0 + sign * k * dx;
				const y = y0 + sign * k * dy;
				if (x < 0 || y < 0 || x >= widthPx || y >= heightPx) return sum;
				const c = cover(x, y);
				if (c === undefined) return undefined;
				const full = of(c);
				if (full >= FULL) return sum;
				if (k > 0 && full < before - 0.12) return undefined;
				sum += 1 - full;
				before = full;
			}
			return undefined;
		};
		const onA = missing(ax, ay, -1, (c) => c);
		const onB = missing(bx, by, 1, (c) => 1 - c);
		if (onA !== undefined && onB !== undefined) return 0.5 + onB - onA;
		const ca = cover(ax, ay) ?? 1;
		const cb = cover(bx, by) ?? 0;
		if (!(ca - cb > 0.05)) return 0.5;
		return Math.min(0.999, Math.max(0.001, (ca - 0.5) / (ca - cb)));
	};
}

/** A chain of too few points for a fit: an arc by the point that lies farthest off. */
function shortChain(points: Float64Array, a: Point, b: Point): Path {
	const chord = Math.hypot(b.x - a.x, b.y - a.y) || 1;
	let most = BENT;
	let bulge = 0;
	for (let k = 0; k < points.length; k += 2) {
		const p = { x: points[k], y: points[k + 1] };
		const off = Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / chord;
		if (off <= most) continue;
		most = off;
		bulge = bulgeThrough(a, p, b);
	}
	const isBent = Math.abs(bulge) <= ROUNDEST;
	return new PathBuilder(a.x, a.y).arc(isBent ? bulge : 0, b.x, b.y).open();
}
/** px: what lies nearer to a straight is on it. */
const BENT = 0.4;
/** Rounder than a half circle and a half no short chain is: its ends stand side by side. */
const ROUNDEST = 2.4;

/** px: how much of a chain's end may lie beyond its junction, round the tip of a sliver. */
const BEYOND = 14;

/** A chain's points without what lies beyond where its ends have come to stand. */
function trimmed(points: Float64Array, a: Point, b: Point): Float64Array {
	const n = points.length / 2;
	const nearest = (p: Point, from: number, dir: 1 | -1): number => {
		let best = from;
		let least = Infinity;
		for (let k = 0; k < Math.min(n, BEYOND); k++) {
			const i = from + dir * k;
			const d = Math.hypot(points[2 * i] - p.x, points[2 * i + 1] - p.y);
			if (d < least) {
				least = d;
				best = i;
			}
		}
		return least < 1.2 ? best : from;
	};
	const from = nearest(a, 0, 1);
	const to = nearest(b, n - 1, -1);
	if ((from <= 1 && to >= n - 2) || to - from < 2) return points;
	return points.slice(2 * from, 2 * to + 2);
}

/**
 * Borders that cross themselves or each other (at the tips of slivers, where the drift of a fit is as wide as they are) are drawn
 * closer; those settled on the pixels are put back and drawn closer again; then they go through all the places that were followed, with
 * their junctions where these were found; at last half way between the pixels, where none can cross.
 */
function uncross(
	drawn: Path[],
	chains: readonly Chain[],
	{
		places,
		junctions,
		fit,
		putBack,
		between
	}: {
		places: Point[];
		junctions: Float64Array;
		fit: ContourFitOptions;
		/** Puts a chain back as it was before it was settled on the pixels, where that was done. */
		putBack: ((chain: number) => void) | undefined;
		/** The same borders half way between the pixels. */
		between: () => Generator<number, Between>;
	}
): Generator<number, void> {
	let halfWay: Between | undefined;
	const ways = [
		...CLOSER,
		...(putBack ? (['back', ...CLOSER] as const) : []),
		'followed',
		'from junctions',
		'between'
	] as const;
	return untangled(drawn, ways, function* (crossing, way) {
		if (way === 'back') {
			for (const i of crossing) putBack!(i);
			return;
		}
		if (way === 'between') halfWay ??= yield* within(between(), () => undefined);
		const found = way === 'between' ? halfWay! : { chains, junctions };
		const foundAt = (k: number) => ({ x: found.junctions[2 * k], y: found.junctions[2 * k + 1] });
		const isBack = way === 'between' || way === 'from junctions';
		const again = isBack ? backToFound(crossing, chains, places, foundAt) : crossing;
		const closer = typeof way === 'number' ? closerFit(fit, way) : undefined;
		for (const i of again) {
			yield;
			const chain = found.chains[i];
			if (chain.closed) {
				drawn[i] = closer ? fitContour(chain.points, closer) : polygonPath(chain.points);
				continue;
			}
			const [a, b] = [places[chain.start], places[chain.end]];
			const points = closer || way === 'followed' ? trimmed(chain.points, a, b) : chain.points;
			const plan = closer && points.length >= 8 ? planChain(points, closer, BESIDE) : undefined;
			drawn[i] = plan ? drawChain(plan, a, b, closer!) : through(points, a, b);
		}
	});
}

/** Borders half way between the pixels. */
interface Between {
	readonly chains: readonly Chain[];
	readonly junctions: Float64Array;
}

/** Parts one after the other as one closed path. */
function assemble(parts: readonly Path[]): Path {
	if (parts.length === 1 && parts[0].closed) return parts[0];
	const first = parts.find((p) => p.types.length > 0);
	if (!first) return { closed: true, types: new Uint8Array(0), segs: new Float64Array(0) };
	const builder = new PathBuilder(first.segs[0], first.segs[1]);
	for (const part of parts) builder.along(part);
	return builder.close(1e-9);
}

/** px: so much of a chain beside a junction is spoilt by the third colour. */
const BESIDE = [1.2, 1.2] as const;

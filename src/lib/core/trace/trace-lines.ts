/** Traces drawn lines along their middles: single lines, open or closed, with the width of the stroke. */
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { within } from '../progress';
import { polygonPath, type Path } from '../geometry/path';
import { drawChain, fitContour, planChain, type ContourFitOptions, type Plan } from './contour-fit';
import { backToFound, settle } from './junctions';
import { pointsOnSheet } from './on-sheet';
import { meanScale, project, rectifying } from './perspective';
import type { GreyPicture } from './picture';
import { middleOf, Profile } from './stroke-middles';
import { skeletonNetwork, thin, type Skeleton } from './skeleton';
import { classTones } from './threshold';
import { edgeDistance, edgeNoise, strayOf } from './edge-measures';
import { CLOSER, closerFit, through, untangled } from './untangled';
import {
	checkAsked,
	checking,
	inked,
	fitFor,
	scatterOf,
	inMm,
	measured,
	type Trace,
	type TraceOptions,
	type TraceProgress
} from './trace';

interface Line {
	points: Float64Array;
	/** The middles of the pixels that were left of it, x,y pairs. */
	pixels: Float64Array;
	closed: boolean;
	start: number;
	end: number;
	/** px */
	width: number;
}

/**
 * @returns the trace; open and closed paths, with the width of each stroke in `widths`, mm. `worst` and `mean` are
 * distances from the middles that were measured.
 * @throws CoreError `bad-size`, `bad-tolerance`, `bad-threshold`, `nothing-found`
 */
export function* traceLineCentres(
	picture: GreyPicture,
	options: TraceOptions
): Generator<TraceProgress, Trace> {
	const { rectify } = options;
	const plane = rectify && rectifying(rectify);
	const pxPerMm = rectify ? meanScale(rectify) : options.pxPerMm;
	const { widthPx, heightPx } = picture;
	checkAsked(pxPerMm, options.tolerance);
	const light = options.light ?? false;
	const { prepared, counts, threshold } = inked(picture, options);
	const { dark, bright } = classTones(counts);
	const [inkTone, paperTone] = light ? [bright, dark] : [dark, bright];
	const { region } = options;
	const ink = new Uint8Array(widthPx * heightPx);
	for (let y = 0; y < heightPx; y++) {
		for (let x = 0; x < widthPx; x++) {
			if (region && !(x >= region.x && x < region.x + region.w && y >= region.y && y < region.y + region.h))
				continue;
			const i = y * widthPx + x;
			ink[i] = light ? (prepared.grey[i] > threshold ? 1 : 0) : prepared.grey[i] < threshold ? 1 : 0;
		}
	}
	yield { share: 0.05, step: 'edges' };
	const work = thin(ink, widthPx, heightPx);
	const thinned = yield* within(work, (round): TraceProgress => ({
		share: Math.min(0.4, 0.05 + 0.02 * round),
		step: 'edges'
	}));
	const network = skeletonNetwork(thinned, widthPx, heightPx);
	const profile = new Profile(prepared, inkTone, paperTone);
	const leastLength =
		options.leastArea !== undefined ? Math.sqrt(options.leastArea) * pxPerMm : LEAST_LENGTH_PX;
	const { lines, nodes, dropped } = linesOf(network, ink, widthPx, profile, leastLength);
	if (lines.length === 0)
		throw new CoreError(
			'nothing-found',
			'No drawn line was found at this threshold. Choose another threshold.'
		);
	if (plane) {
		for (const line of lines) {
			line.points = pointsOnSheet(line.points, plane, pxPerMm);
			line.pixels = pointsOnSheet(line.pixels, plane, pxPerMm);
		}
		for (const node of nodes) {
			const p = project(plane, node.x, node.y);
			Object.assign(node, { x: p.x * pxPerMm, y: p.y * pxPerMm });
		}
	}
	yield { share: 0.5, step: 'outlines' };
	const scatter = edgeNoise(
		lines.filter((l) => l.points.length > 60),
		0
	);
	const noise = Math.max(scatter, scatterOf(picture), QUARTERS);
	const fit = fitFor(options, pxPerMm, { noise, blur: 0 });
	const degree = new Int32Array(nodes.length);
	for (const line of lines) {
		if (line.closed) continue;
		degree[line.start]++;
		degree[line.end]++;
	}
	const planOf = (line: Line, fit: ContourFitOptions): Plan | undefined => {
		if (line.closed || line.points.length < 4) return undefined;
		// Where strokes meet, ink beside the line pulls its middle aside.
		const skip = (node: number) => (degree[node] > 1 ? 1.4 * line.width + 1 : 0);
		const skips = [skip(line.start), skip(line.end)] as const;
		return planChain(line.points, fit, skips, skips);
	};
	const plans = lines.map((line) => planOf(line, fit));
	yield { share: 0.75, step: 'outlines' };
	const junctions = Float64Array.from(nodes.flatMap((n) => [n.x, n.y]));
	const usual = lines.map((l) => l.width).sort((a, b) => a - b)[lines.length >> 1];
	const places = settle(junctions, lines, plans, 1 + usual);
	const junctionAt = (node: number): Point | undefined => (degree[node] > 1 ? places[node] : undefined);
	/** Where a line ends: in a junction, or where the stroke does. */
	const endsOf = ({ start, end, points }: Line): [Point, Point] => {
		const at = (node: number, k: number) => junctionAt(node) ?? { x: points[k], y: points[k + 1] };
		return [at(start, 0), at(end, points.length - 2)];
	};
	const drawnOf = (line: Line, plan: Plan | undefined, fit: ContourFitOptions): Path | undefined =>
		line.closed ? fitContour(line.points, fit) : plan && drawChain(plan, ...endsOf(line), fit);
	const drawn = lines.map((line, i) => drawnOf(line, plans[i], fit));
	const kept = lines.filter((_, i) => drawn[i]?.types.length);
	const paths = drawn.filter((path) => path?.types.length) as Path[];
	const uncrossed = untangled(paths, [...CLOSER, 'measured', 'pixels'] as const, function* (crossing, way) {
		const again = way === 'pixels' ? backToFound(crossing, kept, places, (k) => nodes[k]) : crossing;
		for (const i of again) {
			yield;
			const line = kept[i];
			if (typeof way === 'number') {
				const closer = closerFit(fit, way);
				const path = drawnOf(line, planOf(line, closer), closer);
				if (path?.types.length) paths[i] = path;
				continue;
			}
			if (line.closed) paths[i] = polygonPath(way === 'pixels' ? line.pixels : line.points);
			else if (way === 'measured') paths[i] = through(line.points, ...endsOf(line));
			else paths[i] = alongPixels(line, junctionAt(line.start), junctionAt(line.end));
		}
	});
	yield* checking(uncrossed, 0.85, 0.9);
	const edge = yield* checking(edgeDistance(paths, kept), 0.9, 1);
	return {
		...measured(picture, options, pxPerMm, fit, edge),
		...inMm(paths, pxPerMm),
		...strayOf(options, paths, kept, pxPerMm),
		widths: kept.map((line) => line.width / pxPerMm),
		threshold,
		dropped
	};
}

/** Straights by the middles of the pixels that were left of a line, from junction to junction where it ends in one. */
function alongPixels({ pixels }: Line, from?: Point, to?: Point): Path {
	const far = (p: Point, k: number) => Math.hypot(p.x - pixels[k], p.y - pixels[k + 1]) > 0.01;
	const before = from && far(from, 0) ? [from.x, from.y] : [];
	const behind = to && far(to, pixels.length - 2) ? [to.x, to.y] : [];
	return polygonPath([...before, ...pixels, ...behind], false);
}

/**
 * px: how much middles stray over long stretches by edges that were drawn to a quarter of a pixel, as most programs draw them; noise
 * is looked for in stretches too short for it.
 */
const QUARTERS = 0.04;

/** px: shorter lines that touch nothing are specks. */
const LEAST_LENGTH_PX = 4;

/** How far it is to paper, px, in steps of 3 and 4 thirds (chamfer distance, Borgefors 1986). */
function depthOf(ink: Uint8Array, widthPx: number): Float32Array {
	const n = ink.length;
	const heightPx = n / widthPx;
	const d = new Float32Array(n);
	for (let i = 0; i < n; i++) d[i] = ink[i] ? 1e9 : 0;
	const pull = (i: number, j: number, by: number) => {
		if (d[j] + by < d[i]) d[i] = d[j] + by;
	};
	for (let y = 1; y < heightPx; y++) {
		for (let x = 1; x + 1 < widthPx; x++) {
			const i = y * widthPx + x;
			if (!ink[i]) continue;
			pull(i, i - 1, 3);
			pull(i, i - widthPx, 3);
			pull(i, i - widthPx - 1, 4);
			pull(i, i - widthPx + 1, 4);
		}
	}
	for (let y = heightPx - 2; y >= 0; y--) {
		for (let x = widthPx - 2; x >= 1; x--) {
			const i = y * widthPx + x;
			if (!ink[i]) continue;
			pull(i, i + 1, 3);
			pull(i, i + widthPx, 3);
			pull(i, i + widthPx + 1, 4);
			pull(i, i + widthPx - 1, 4);
		}
	}
	for (let i = 0; i < n; i++) d[i] = Math.min(1e6, d[i] / 3);
	return d;
}

function linesOf(
	network: Skeleton,
	ink: Uint8Array,
	widthPx: number,
	profile: Profile,
	leastLength: number
): { lines: Line[]; nodes: Point[]; dropped: number } {
	const depth = depthOf(ink, widthPx);
	let chains = network.chains.map((c) => ({ ...c, pixels: [...c.pixels] }));
	const nodes = network.nodes.map((n) => ({ ...n }));
	const depthAt = (node: number) => {
		const { x, y } = nodes[node];
		return Math.max(1, depth[Math.floor(y) * widthPx + Math.floor(x)]);
	};
	const degreeOf = (node: number) =>
		chains.reduce((sum, c) => sum + (c.start === node ? 1 : 0) + (c.end === node ? 1 : 0), 0);
	let dropped = 0;
	for (let round = 0; round < 3; round++) {
		// Spurs: what sticks out of a stroke no farther than the stroke is wide.
		const before = chains.length;
		chains = chains.filter((c) => {
			if (c.closed) return true;
			const [a, b] = [degreeOf(c.start), degreeOf(c.end)];
			if (a > 1 === b > 1) return true;
			const fork = a > 1 ? c.start : c.end;
			return c.pixels.length > 2.4 * depthAt(fork) + 1.5;
		});
		// The two forks of a crossing are one.
		for (const c of [...chains]) {
			if (c.closed || c.start === c.end) continue;
			if (degreeOf(c.start) < 3 || degreeOf(c.end) < 3) continue;
			if (c.pixels.length > 1.6 * Math.max(depthAt(c.start), depthAt(c.end)) + 2) continue;
			const [stay, go] = [c.start, c.end];
			nodes[stay] = { x: (nodes[stay].x + nodes[go].x) / 2, y: (nodes[stay].y + nodes[go].y) / 2 };
			chains = chains.filter((k) => k !== c);
			chains = chains.map((k) => ({
				...k,
				start: k.start === go ? stay : k.start,
				end: k.end === go ? stay : k.end
			}));
		}
		// A node between two chains is none.
		for (let node = 0; node < nodes.length; node++) {
			const here = chains.filter((c) => !c.closed && (c.start === node || c.end === node));
			if (here.length === 1 && here[0].start === node && here[0].end === node) {
				chains = chains.map((c) => (c === here[0] ? { ...c, closed: true, start: -1, end: -1 } : c));
				continue;
			}
			if (here.length !== 2 || degreeOf(node) !== 2) continue;
			const [a, b] = here;
			const first = a.end === node ? a.pixels : [...a.pixels].reverse();
			const second = b.start === node ? b.pixels : [...b.pixels].reverse();
			const start = a.end === node ? a.start : a.end;
			const end = b.start === node ? b.end : b.start;
			const joined = { pixels: [...first, ...second.slice(1)], closed: false, start, end };
			chains = [...chains.filter((c) => c !== a && c !== b), joined];
		}
		if (chains.length === before) break;
	}
	const lines: Line[] = [];
	for (const chain of chains) {
		const free = chain.closed || (degreeOf(chain.start) === 1 && degreeOf(chain.end) === 1);
		const line = middleOf(chain, depth, widthPx, profile, [
			!chain.closed && degreeOf(chain.start) === 1,
			!chain.closed && degreeOf(chain.end) === 1
		]);
		if (free && lengthOf(line.points) < leastLength) {
			dropped++;
			continue;
		}
		const pixels = Float64Array.from(
			chain.pixels.flatMap((i) => [(i % widthPx) + 0.5, Math.floor(i / widthPx) + 0.5])
		);
		lines.push({ ...line, pixels, closed: chain.closed, start: chain.start, end: chain.end });
	}
	return { lines, nodes, dropped };
}

function lengthOf(points: Float64Array): number {
	let sum = 0;
	for (let i = 2; i < points.length; i += 2)
		sum += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
	return sum;
}

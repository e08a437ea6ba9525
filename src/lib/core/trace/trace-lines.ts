/** Traces drawn lines along their middles: single lines, open or closed, with the width of the stroke. */
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { within } from '../progress';
import type { Path } from '../geometry/path';
import { drawChain, fitContour, planChain, type Plan } from './contour-fit';
import { settle } from './junctions';
import { pointsOnSheet } from './on-sheet';
import { meanScale, project, rectifying } from './perspective';
import { toneBetween, type GreyPicture } from './picture';
import { skeletonNetwork, thin, type Skeleton } from './skeleton';
import { classTones } from './threshold';
import { edgeDistance, edgeNoise, strayOf } from './edge-measures';
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
		for (const line of lines) line.points = pointsOnSheet(line.points, plane, pxPerMm);
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
	const noise = Math.max(scatter, scatterOf(picture));
	const fit = fitFor(options, pxPerMm, { noise, blur: 0 });
	const degree = new Int32Array(nodes.length);
	for (const line of lines) {
		if (line.closed) continue;
		degree[line.start]++;
		degree[line.end]++;
	}
	const plans: (Plan | undefined)[] = lines.map((line) => {
		if (line.closed || line.points.length < 4) return undefined;
		// Where strokes meet, ink beside the line pulls its middle aside.
		const skip = (node: number) => (degree[node] > 1 ? 1.4 * line.width + 1 : 0);
		const skips = [skip(line.start), skip(line.end)] as const;
		return planChain(line.points, fit, skips, skips);
	});
	yield { share: 0.75, step: 'outlines' };
	const junctions = Float64Array.from(nodes.flatMap((n) => [n.x, n.y]));
	const usual = lines.map((l) => l.width).sort((a, b) => a - b)[lines.length >> 1];
	const places = settle(junctions, lines, plans, 1 + usual);
	const paths: Path[] = [];
	const widths: number[] = [];
	const kept: Line[] = [];
	lines.forEach((line, i) => {
		const { points } = line;
		const last = points.length - 2;
		const plan = plans[i];
		const end = (node: number, at: number) =>
			degree[node] > 1 ? places[node] : { x: points[at], y: points[at + 1] };
		const path = line.closed
			? fitContour(points, fit)
			: plan && drawChain(plan, end(line.start, 0), end(line.end, last), fit);
		if (!path?.types.length) return;
		paths.push(path);
		widths.push(line.width / pxPerMm);
		kept.push(line);
	});
	const edge = yield* checking(edgeDistance(paths, kept), 0.9, 1);
	return {
		...measured(picture, options, pxPerMm, fit, edge),
		...inMm(paths, pxPerMm),
		...strayOf(options, paths, kept, pxPerMm),
		widths,
		threshold,
		dropped
	};
}

/** px: shorter lines that touch nothing are specks. */
const LEAST_LENGTH_PX = 4;

/** Ink square to a line: where its middle is and how wide it is. */
class Profile {
	constructor(
		private readonly picture: GreyPicture,
		private readonly ink: number,
		private readonly paper: number
	) {}

	/** Share of ink at a place, 0..1, between pixel centres by the four around. */
	at(x: number, y: number): number {
		const tone = toneBetween(this.picture, x, y);
		return Math.min(1, Math.max(0, (this.paper - tone) / (this.paper - this.ink || 1)));
	}

	/** The middle of the ink along a direction through a place, signed, and its width; px. */
	across(x: number, y: number, nx: number, ny: number, reach: number): { off: number; width: number } {
		const step = 0.25;
		let sum = 0;
		let moment = 0;
		const side = (sign: 1 | -1) => {
			for (let d = sign > 0 ? 0 : step; d <= reach; d += step) {
				const share = this.at(x + sign * d * nx, y + sign * d * ny);
				if (share < 0.04) break;
				sum += share;
				moment += share * sign * d;
			}
		};
		side(1);
		side(-1);
		return { off: sum > 0 ? moment / sum : 0, width: sum * step };
	}

	/** How far ink reaches from a place in a direction, px. */
	reach(x: number, y: number, tx: number, ty: number, most: number): number {
		let before = this.at(x, y);
		for (let d = 0.25; d <= most; d += 0.25) {
			const here = this.at(x + d * tx, y + d * ty);
			if (here < 0.5) return d - 0.25 + (0.25 * (before - 0.5)) / Math.max(1e-6, before - here);
			before = here;
		}
		return most;
	}
}

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
			return c.pixels.length > 1.7 * depthAt(fork) + 1.5;
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
		lines.push({ ...line, closed: chain.closed, start: chain.start, end: chain.end });
	}
	return { lines, nodes, dropped };
}

function lengthOf(points: Float64Array): number {
	let sum = 0;
	for (let i = 2; i < points.length; i += 2)
		sum += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
	return sum;
}

/** The middle of the stroke along a chain of pixels, to a fraction of a pixel, and the stroke's width. */
function middleOf(
	chain: { pixels: readonly number[]; closed: boolean },
	depth: Float32Array,
	widthPx: number,
	profile: Profile,
	isFree: readonly [boolean, boolean]
): { points: Float64Array; width: number } {
	const { pixels, closed } = chain;
	const n = pixels.length;
	let x = Float64Array.from(pixels, (i) => (i % widthPx) + 0.5);
	let y = Float64Array.from(pixels, (i) => Math.floor(i / widthPx) + 0.5);
	const depths = pixels.map((i) => depth[i]).sort((a, b) => a - b);
	const radius = Math.max(0.7, depths[n >> 1]);
	const widths: number[] = [];
	const direction = (i: number): [number, number] => {
		const reach = Math.max(3, Math.ceil(1.5 * radius));
		const a = closed ? (i - reach + n) % n : Math.max(0, i - reach);
		const b = closed ? (i + reach) % n : Math.min(n - 1, i + reach);
		const dx = x[b] - x[a];
		const dy = y[b] - y[a];
		const size = Math.hypot(dx, dy) || 1;
		return [dx / size, dy / size];
	};
	for (let round = 0; round < 2; round++) {
		const nx = Float64Array.from(x);
		const ny = Float64Array.from(y);
		widths.length = 0;
		for (let i = 0; i < n; i++) {
			const [tx, ty] = direction(i);
			const { off, width } = profile.across(x[i], y[i], -ty, tx, 1.8 * radius + 2);
			widths.push(width);
			if (Math.abs(off) > radius + 1) continue;
			nx[i] = x[i] - ty * off;
			ny[i] = y[i] + tx * off;
		}
		x = nx;
		y = ny;
	}
	const sorted = [...widths].sort((a, b) => a - b);
	const width = sorted[sorted.length >> 1] ?? 1;
	const out: number[] = [];
	for (let i = 0; i < n; i++) out.push(x[i], y[i]);
	// Thinning eats the ends; and the profiles near them look round the corner.
	if (!closed) {
		if (isFree[1]) mendEnd(out, width, profile);
		if (isFree[0]) {
			const back: number[] = [];
			for (let i = out.length - 2; i >= 0; i -= 2) back.push(out[i], out[i + 1]);
			mendEnd(back, width, profile);
			out.length = 0;
			for (let i = back.length - 2; i >= 0; i -= 2) out.push(back[i], back[i + 1]);
		}
	}
	return { points: Float64Array.from(out), width };
}

/** Carries the last end on to where the stroke ends: at its edge where it is cut off square, half a width before where round. */
function mendEnd(points: number[], width: number, profile: Profile): void {
	const half = width / 2;
	// What lies within half a width of the end is not trusted.
	let cut = points.length / 2 - 1;
	const ex = points[2 * cut];
	const ey = points[2 * cut + 1];
	while (cut > 3 && Math.hypot(points[2 * cut] - ex, points[2 * cut + 1] - ey) < 0.6 * half) cut--;
	const back = Math.max(0, cut - Math.max(4, Math.ceil(2 * width)));
	let dx = points[2 * cut] - points[2 * back];
	let dy = points[2 * cut + 1] - points[2 * back + 1];
	const size = Math.hypot(dx, dy);
	if (!(size > 0)) return;
	dx /= size;
	dy /= size;
	const x = points[2 * cut];
	const y = points[2 * cut + 1];
	const reach = profile.reach(x, y, dx, dy, 3 * width + 4);
	// Full width close to the tip says that it is cut off square.
	const look = Math.max(0, reach - 0.35 * half);
	const there = profile.across(x + dx * look, y + dy * look, -dy, dx, width + 2).width;
	const end = there > 0.86 * width ? reach : Math.max(0, reach - half);
	points.length = 2 * cut + 2;
	if (end < 0.2) return;
	const steps = Math.max(1, Math.round(end));
	for (let k = 1; k <= steps; k++) points.push(x + (dx * end * k) / steps, y + (dy * end * k) / steps);
}

/**
 * Shapes that are hard to trace: needles (two curved sides meeting at 5 to 15 degrees), hairlines (1 to 2.5 px) beside a disc, strokes
 * (3 to 6 px) alone, gaps (1 to 2 px), curls (a stroke rolled up, tapering). Each is drawn as the exact cover of every pixel, then spoilt
 * as pictures are.
 */
import { EdgeTree, flattenPath, twoWayDistance } from '../../src/lib/core/geometry/edge-tree';
import { polygonPath } from '../../src/lib/core/geometry/path';
import { CoreError } from '../../src/lib/core/errors';
import { crossingSteps } from '../../src/lib/core/plane/crossings';
import { finish } from '../../src/lib/core/progress';
import type { GreyPicture } from '../../src/lib/core/trace/picture';
import { blurred } from '../../src/lib/core/trace/prepare';
import { traceByTone, type TraceOptions } from '../../src/lib/core/trace/trace';
import { traceByColours } from '../../src/lib/core/trace/trace-colours';
import { coverOf, type Row } from '../cover';
import { isOfColour, pieces, pictureOf } from '../pieces';
import { type Chance } from '../shapes';

type Place = readonly [x: number, y: number];
type Line = (t: number) => Place;

/** px of the picture. */
const SIDE = 480;
const BLUR_PX = 1.5;
const NOISE = 12;

const cover = (rows: readonly Row[], side: number, scale: number) => coverOf(rows, side, side, scale);

/** A line as points, by a function of 0 to 1. */
const along = (place: Line, n = 400): Place[] => Array.from({ length: n + 1 }, (_, k) => place(k / n));
/** Both sides of a middle line with a width at each share of it, as one closed outline; a side may be none wide at an end. */
function ribbon(place: Line, width: (t: number) => number, n = 400): Place[] {
	const sides: [Place[], Place[]] = [[], []];
	for (let k = 0; k <= n; k++) {
		const t = k / n;
		const [x, y] = place(t);
		const [ax, ay] = place(Math.max(0, t - 1e-4));
		const [bx, by] = place(Math.min(1, t + 1e-4));
		const l = Math.hypot(bx - ax, by - ay);
		const half = width(t) / 2;
		sides[0].push([x - (half * (by - ay)) / l, y + (half * (bx - ax)) / l]);
		sides[1].push([x + (half * (by - ay)) / l, y - (half * (bx - ax)) / l]);
	}
	return [...sides[0], ...sides[1].reverse()];
}
const turned = (list: readonly Place[], angle: number, [cx, cy]: Place): Place[] =>
	list.map(([x, y]): Place => [
		cx + (x - cx) * Math.cos(angle) - (y - cy) * Math.sin(angle),
		cy + (x - cx) * Math.sin(angle) + (y - cy) * Math.cos(angle)
	]);
const MIDDLE: Place = [SIDE / 2, SIDE / 2];
/** Three strokes along waves, each as wide as chance says between two widths, px. */
const wavyStrokes = (r: Chance, least: number, most: number): Place[][] =>
	[0, 1, 2].map((k) => {
		const width = least + (most - least) * r();
		const [a, b, phase] = [20 + 20 * r(), 1 + r(), 6 * r()];
		const place = (t: number): Place => [70 + 340 * t, 110 + 130 * k + a * Math.sin(b * 6 * t + phase)];
		const row = ribbon(place, () => width);
		return turned(row, 0.5 * r() - 0.25, [SIDE / 2, 110 + 130 * k]);
	});

/** Each gives closed rows of places, px; what is drawn is even-odd. */
export const FAMILIES: Record<string, (r: Chance) => Place[][]> = {
	needles(r) {
		// Two circles' arcs of different bend, meeting in a tip at both ends.
		const tips: Place[][] = [];
		for (let k = 0; k < 3; k++) {
			const long = 140 + 120 * r();
			const angle = ((5 + 10 * r()) * Math.PI) / 180;
			const bend = (r() - 0.5) * 0.8;
			const y0 = 110 + 120 * k;
			// The height of an arc over its chord for the angle at its ends.
			const arc =
				(turn: number) =>
				(t: number): Place => {
					if (Math.abs(turn) < 1e-6) return [SIDE / 2 + (t - 0.5) * long, y0];
					const radius = long / 2 / Math.sin(turn);
					const a = turn * (2 * t - 1);
					return [SIDE / 2 + radius * Math.sin(a), y0 + radius * (Math.cos(a) - Math.cos(turn))];
				};
			const row = [
				...along(arc(bend + angle / 2)),
				...along(arc(bend - angle / 2))
					.reverse()
					.slice(1, -1)
			];
			tips.push(turned(row, r() * 0.9 - 0.45, [SIDE / 2, y0]));
		}
		return tips;
	},
	hairlines(r) {
		const disc = along((t) => [430 + 20 * Math.cos(6.2832 * t), 40 + 20 * Math.sin(6.2832 * t)], 64).slice(1);
		return [disc, ...wavyStrokes(r, 1, 2.5)];
	},
	/** Nothing in the picture is wide enough to show full ink once it is blurred. */
	strokes: (r) => wavyStrokes(r, 3, 6),
	gaps(r) {
		const gap = 1 + r();
		const [a, b, phase] = [15 + 20 * r(), 1 + r(), 6 * r()];
		const wave = (t: number): Place => [60 + 360 * t, 240 + a * Math.sin(b * 6 * t + phase)];
		const angle = r() * Math.PI;
		const upper: Place[] = [
			...along((t) => [wave(t)[0], wave(t)[1] - gap / 2]),
			[420, 110 + 40 * r()],
			[60, 90 + 40 * r()]
		];
		const lower: Place[] = [
			...along((t) => [wave(t)[0], wave(t)[1] + gap / 2]),
			[420, 370 - 40 * r()],
			[60, 390 - 40 * r()]
		];
		return [turned(upper, angle, MIDDLE), turned(lower, angle, MIDDLE)];
	},
	curls(r) {
		const turns = 1.5 + 1.5 * r();
		const wide = 5 + 8 * r();
		const step = 14 + 14 * r();
		const phase = 6 * r();
		const place = (t: number): Place => {
			const a = turns * 2 * Math.PI * t;
			const radius = 14 + (step * a) / (2 * Math.PI);
			return [SIDE / 2 + radius * Math.cos(a + phase), SIDE / 2 + radius * Math.sin(a + phase)];
		};
		return [ribbon(place, (t) => wide * Math.min(1, 4 * t), 700)];
	}
};
const picture = (
	share: ArrayLike<number>,
	side: number,
	tone: (c: number, k: number) => number
): GreyPicture => ({
	widthPx: side,
	heightPx: side,
	grey: Uint8Array.from(share, (c, k) => Math.max(0, Math.min(255, Math.round(tone(c, k)))))
});
/** How what is drawn becomes a picture, how large a px is then, and how it is traced. */
export interface Condition {
	readonly draw: (rows: readonly Row[], r: Chance) => GreyPicture;
	readonly scale?: number;
	readonly options: Partial<TraceOptions>;
}
export const CONDITIONS: Record<string, Condition> = {
	clean: { draw: (rows) => picture(cover(rows, SIDE, 1), SIDE, (c) => 255 * (1 - c)), options: {} },
	faint: { draw: (rows) => picture(cover(rows, SIDE, 1), SIDE, (c) => 230 - 120 * c), options: {} },
	half: {
		draw: (rows) => picture(cover(rows, SIDE / 2, 0.5), SIDE / 2, (c) => 255 * (1 - c)),
		scale: 0.5,
		options: {}
	},
	twotone: { draw: (rows) => picture(cover(rows, SIDE, 1), SIDE, (c) => (c >= 0.5 ? 0 : 255)), options: {} },
	blurred: {
		draw: (rows) =>
			blurred(
				picture(cover(rows, SIDE, 1), SIDE, (c) => 240 - 220 * c),
				BLUR_PX
			),
		options: {}
	},
	photo: {
		draw(rows, r) {
			const soft = blurred(
				picture(cover(rows, SIDE, 1), SIDE, (c) => 235 - 205 * c),
				BLUR_PX
			);
			const scatter = () => (r() + r() + r() + r() - 2) * NOISE * Math.sqrt(3);
			return picture(soft.grey, SIDE, (v, k) => v * (1 - (0.4 * (k % SIDE)) / SIDE) + scatter());
		},
		options: { evenLight: true, denoise: true }
	}
};

/** How a trace came out. */
export interface TraceScore {
	/** px, the largest distance both ways; infinite where nothing was found, or where outlines cross. */
	readonly distance: number;
	/** px, from what was drawn to what was traced. */
	readonly mean: number;
	readonly found: number;
	readonly wanted: number;
	readonly anchors?: number;
	/** The sentence with which it was refused. */
	readonly problem?: string;
}

/** Draws shapes, spoils them, traces them, and holds the trace against what was drawn. */
export function scoreOf(
	rows: readonly Row[],
	{ draw, options, scale = 1 }: Condition,
	r: Chance
): TraceScore {
	// The trace lies y up; what was drawn lies y down.
	const truth = rows.map((row) => polygonPath(row.flatMap(([x, y]) => [x * scale, -y * scale])));
	try {
		const { paths, anchors } = finish(traceByTone(draw(rows, r), { pxPerMm: 1, ...options }));
		const { distance } = twoWayDistance(truth, paths, 0.02);
		const tree = new EdgeTree(paths.map((p) => ({ points: flattenPath(p, 0.01), closed: true })));
		let [sum, count] = [0, 0];
		for (const path of truth) {
			const points = flattenPath(path, 0.01);
			for (let k = 0; k < points.length; k += 2, count++) sum += tree.distance(points[k], points[k + 1]);
		}
		return { distance, mean: sum / count, found: paths.length, wanted: rows.length, anchors };
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
		return {
			distance: Infinity,
			mean: Infinity,
			found: 0,
			wanted: rows.length,
			problem: error.message
		};
	}
}

/** Pieces of four colours that meet in a point, cut at 6 to 90 degrees, traced by colours. */
export function scoreOfColours(r: Chance): TraceScore {
	const list = pieces(r, SIDE, 6);
	const asked = { pxPerMm: 1, colours: list.length + 1 };
	const { paths, fills, anchors } = finish(traceByColours(pictureOf(list, SIDE), asked));
	let distance = 0;
	let found = 0;
	for (const { colour, row } of list) {
		const own = paths.filter((_, k) => isOfColour(fills![k], colour));
		if (own.length !== 1) continue;
		found++;
		const truth = [polygonPath(row.flatMap(([x, y]) => [x, -y]))];
		distance = Math.max(distance, twoWayDistance(truth, own, 0.02).distance);
	}
	const isCrossed = finish(crossingSteps(paths)).some((c) => c.through);
	return {
		distance: isCrossed ? Infinity : distance,
		mean: distance,
		found,
		wanted: list.length,
		anchors
	};
}

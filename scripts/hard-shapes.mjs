// Shapes that are hard to trace, drawn and traced and held against what was drawn: `npm run hard-shapes -- --seed 1 --count 12`.
// Needles (two curved sides meeting at 5 to 15 degrees), hairlines (1 to 2.5 px) beside a disc, strokes (3 to 6 px) alone, gaps (1 to 2 px), curls (a stroke rolled up, tapering).
// Pieces of four colours that meet in a point, cut at 6 to 90 degrees, by colours.
// Each is drawn as the exact cover of every pixel, then spoilt as pictures are. Tells the largest distance both ways and the mean, px.
import { argument } from './argument.mjs';
import { openSources } from './sources.mjs';

const SEED = argument('--seed', 1);
const COUNT = argument('--count', 10);
const ONLY = argument('--only', '');
const FAMILY = argument('--family', '');
const CASE = argument('--case', -1);
const SIDE = 480;
const BLUR_PX = 1.5;
const NOISE = 12;

const sources = await openSources();
const load = (name) => sources.ssrLoadModule(`/src/lib/core/${name}.ts`);
const { traceByTone } = await load('trace/trace');
const { flattenPath, twoWayDistance, EdgeTree } = await load('geometry/edge-tree');
const { polygonPath } = await load('geometry/path');
const { blurred } = await load('trace/prepare');
const { finish } = await load('progress');
const { chance } = await sources.ssrLoadModule('/tests/shapes.ts');
const { coverOf } = await sources.ssrLoadModule('/tests/cover.ts');
const { isOfColour, pieces, pictureOf } = await sources.ssrLoadModule('/tests/pieces.ts');
const { traceByColours } = await load('trace/trace-colours');
const { crossingSteps } = await load('plane/crossings');
const cover = (rows, side, scale) => coverOf(rows, side, side, scale);

/** A line as points, by a function of 0 to 1. */
const along = (place, n = 400) => Array.from({ length: n + 1 }, (_, k) => place(k / n));
/** Both sides of a middle line with a width at each share of it, as one closed outline; a side may be none wide at an end. */
function ribbon(place, width, n = 400) {
	const sides = [[], []];
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
const turned = (list, angle, [cx, cy]) =>
	list.map(([x, y]) => [
		cx + (x - cx) * Math.cos(angle) - (y - cy) * Math.sin(angle),
		cy + (x - cx) * Math.sin(angle) + (y - cy) * Math.cos(angle)
	]);
const MIDDLE = [SIDE / 2, SIDE / 2];
/** Three strokes along waves, each as wide as chance says between two widths, px. */
const wavyStrokes = (r, least, most) =>
	[0, 1, 2].map((k) => {
		const width = least + (most - least) * r();
		const [a, b, phase] = [20 + 20 * r(), 1 + r(), 6 * r()];
		const place = (t) => [70 + 340 * t, 110 + 130 * k + a * Math.sin(b * 6 * t + phase)];
		const row = ribbon(place, () => width);
		return turned(row, 0.5 * r() - 0.25, [SIDE / 2, 110 + 130 * k]);
	});

/** Each gives closed rows of places, px; what is drawn is even-odd. */
const FAMILIES = {
	needles(r) {
		// Two circles' arcs of different bend, meeting in a tip at both ends.
		const tips = [];
		for (let k = 0; k < 3; k++) {
			const long = 140 + 120 * r();
			const angle = ((5 + 10 * r()) * Math.PI) / 180;
			const bend = (r() - 0.5) * 0.8;
			const y0 = 110 + 120 * k;
			// The height of an arc over its chord for the angle at its ends.
			const arc = (turn) => (t) => {
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
		const wave = (t) => [60 + 360 * t, 240 + a * Math.sin(b * 6 * t + phase)];
		const angle = r() * Math.PI;
		const upper = [
			...along((t) => [wave(t)[0], wave(t)[1] - gap / 2]),
			[420, 110 + 40 * r()],
			[60, 90 + 40 * r()]
		];
		const lower = [
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
		const place = (t) => {
			const a = turns * 2 * Math.PI * t;
			const radius = 14 + (step * a) / (2 * Math.PI);
			return [SIDE / 2 + radius * Math.cos(a + phase), SIDE / 2 + radius * Math.sin(a + phase)];
		};
		return [ribbon(place, (t) => wide * Math.min(1, 4 * t), 700)];
	}
};
const picture = (share, side, tone) => ({
	widthPx: side,
	heightPx: side,
	grey: Uint8Array.from(share, (c, k) => Math.max(0, Math.min(255, Math.round(tone(c, k)))))
});
const CONDITIONS = {
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

const scores = {};
for (let n = 0; n < COUNT; n++)
	for (const [family, draw] of Object.entries(FAMILIES)) {
		if ((FAMILY && family !== FAMILY) || (CASE >= 0 && n !== CASE)) continue;
		const r = chance(1000 * SEED + n);
		const rows = draw(r);
		for (const [condition, { draw: render, options, scale = 1 }] of Object.entries(CONDITIONS)) {
			if (ONLY && condition !== ONLY) continue;
			// The trace lies y up; what was drawn lies y down.
			const truth = rows.map((row) => polygonPath(row.flatMap(([x, y]) => [x * scale, -y * scale])));
			let score;
			try {
				const trace = finish(traceByTone(render(rows, r), { pxPerMm: 1, ...options }));
				const lines = trace.paths;
				const { distance } = twoWayDistance(truth, lines, 0.02);
				const tree = new EdgeTree(lines.map((p) => ({ points: flattenPath(p, 0.01), closed: true })));
				let [sum, count] = [0, 0];
				for (const p of truth) {
					const f = flattenPath(p, 0.01);
					for (let k = 0; k < f.length; k += 2, count++) sum += tree.distance(f[k], f[k + 1]);
				}
				score = {
					distance,
					mean: sum / count,
					found: lines.length,
					wanted: rows.length,
					anchors: trace.anchors
				};
			} catch (error) {
				if (!error.code) throw error;
				score = {
					distance: Infinity,
					mean: Infinity,
					found: 0,
					wanted: rows.length,
					problem: String(error.message)
				};
			}
			(scores[`${family} ${condition}`] ??= []).push({ seed: n, ...score });
		}
	}
for (let n = 0; n < COUNT; n++) {
	if ((FAMILY && FAMILY !== 'pieces') || (ONLY && ONLY !== 'colours') || (CASE >= 0 && n !== CASE)) continue;
	const r = chance(1000 * SEED + n);
	const list = pieces(r, SIDE, 6);
	const { paths, fills, anchors } = finish(
		traceByColours(pictureOf(list, SIDE), { pxPerMm: 1, colours: list.length + 1 })
	);
	let distance = 0;
	let found = 0;
	for (const { colour, row } of list) {
		const own = paths.filter((_, k) => isOfColour(fills[k], colour));
		if (own.length !== 1) continue;
		found++;
		const truth = [polygonPath(row.flatMap(([x, y]) => [x, -y]))];
		distance = Math.max(distance, twoWayDistance(truth, own, 0.02).distance);
	}
	const crossed = finish(crossingSteps(paths)).filter((c) => c.through).length;
	(scores['pieces colours'] ??= []).push({
		seed: n,
		distance: crossed ? Infinity : distance,
		mean: distance,
		found,
		wanted: list.length,
		anchors
	});
}
await sources.close();
const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
console.log('px                    median   worst (of)   mean   anchors  lost');
for (const [name, list] of Object.entries(scores)) {
	const worst = list.reduce((a, b) => (b.distance > a.distance ? b : a));
	console.log(
		name.padEnd(20),
		middle(list.map((s) => s.distance))
			.toFixed(3)
			.padStart(7),
		worst.distance.toFixed(3).padStart(7),
		`(${worst.seed})`.padEnd(6),
		middle(list.map((s) => s.mean))
			.toFixed(3)
			.padStart(7),
		String(middle(list.map((s) => s.anchors ?? 0))).padStart(7),
		String(list.filter((s) => s.found !== s.wanted).length).padStart(6)
	);
}

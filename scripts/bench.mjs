// The core beside general libraries, in one run: medians after warm-up, ms; anchors or points; the largest error, mm.
//   npm run bench [-- TEXT]   only the tables whose title holds TEXT
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';
import paper from 'paper';
import fitCurve from 'fit-curve';
import simplifyJs from 'simplify-js';
import { buildCore } from './build-core.mjs';
import { drawnSheet, photoOf } from './sheet-pictures.mjs';

const require = createRequire(import.meta.url);
const only = process.argv[2] ?? '';
const core = await import(pathToFileURL(await buildCore()).href);
const { pathLength, anchorCount, flattenPath, pathTree, pointAt, transformPath, circlePath } = core;
const { wavy, jagged, jaggedDense } = core;
paper.setup(new paper.Size(100, 100));
const clipper = await require('clipper2-wasm/dist/umd/clipper2z.js')();
const kit = await require('canvaskit-wasm')();

/** Longer than this is not repeated, ms. */
const LONG = 1500;
function median(work) {
	const times = [];
	let result;
	const first = performance.now();
	result = work();
	const once = performance.now() - first;
	if (once > LONG) return { ms: once, result };
	const runs = once > 300 ? 3 : once > 50 ? 7 : 25;
	for (let i = 0; i < Math.min(runs, 8); i++) result = work();
	for (let i = 0; i < runs; i++) {
		const start = performance.now();
		result = work();
		times.push(performance.now() - start);
	}
	times.sort((a, b) => a - b);
	return { ms: times[times.length >> 1], result };
}

function table(title, rows) {
	if (!title.includes(only)) return;
	console.log(`\n${title}`);
	let ours;
	for (const [name, work, tell] of rows) {
		try {
			const { ms, result } = median(work);
			ours ??= ms;
			const ratio = name.startsWith('ours') ? '' : `  ours takes ${(ours / ms).toFixed(3)} of it`;
			console.log(
				`  ${name.padEnd(34)} ${ms.toFixed(2).padStart(10)} ms  ${tell ? tell(result) : ''}${ratio}`
			);
		} catch (error) {
			console.log(`  ${name.padEnd(34)} gave up: ${String(error?.message ?? error).slice(0, 80)}`);
		}
	}
}

const data = (paths) => paths.map(core.writePathData).join('');
const asPaper = (paths) => new paper.CompoundPath({ pathData: data(paths), fillRule: 'evenodd' });
const asKit = (paths) => kit.Path.MakeFromSVGString(data(paths));
function asClipper(paths, tolerance) {
	const all = new clipper.PathsD();
	for (const path of paths) all.push_back(clipper.MakePathD([...flattenPath(path, tolerance)]));
	return all;
}
const clipperPoints = (paths) => {
	let n = 0;
	for (let i = 0; i < paths.size(); i++) n += paths.get(i).size();
	return n;
};
const paperAnchors = (item) => (item.children ?? [item]).reduce((n, p) => n + (p.segments?.length ?? 0), 0);
const kitAnchors = (path) => (path ? (path.toSVGString().match(/[LQCZ]/g) ?? []).length : 0);
const pieceAnchors = (r) =>
	r.value.pieces.reduce((n, piece) => n + piece.paths.reduce((m, p) => m + p.types.length, 0), 0);
const input = (paths) => [{ paths, rule: 'evenodd' }];
const ours = (a, b, op) => () => core.combine([input(a), input(b)], op);
const tellOurs = (r) => `${pieceAnchors(r)} anchors${r.value.fallback ? ', by the net' : ''}`;

for (const n of [1000, 10000]) {
	const a = [wavy(n, 1)];
	const b =
		n === 1000
			? [transformPath(wavy(n, 2), [1, 0, 0, 1, 1, 0.5])]
			: [transformPath(a[0], [Math.cos(0.004), Math.sin(0.004), -Math.sin(0.004), Math.cos(0.004), 0.3, 0])];
	const [pa, pb] = [asPaper(a), asPaper(b)];
	const [ka, kb] = [asKit(a), asKit(b)];
	const [ca, cb] = [asClipper(a, 0.005), asClipper(b, 0.005)];
	table(`union of two outlines of ${n} anchors`, [
		['ours', ours(a, b, 'union'), tellOurs],
		['paper', () => pa.unite(pb, { insert: false }), (r) => `${paperAnchors(r)} anchors`],
		['canvaskit', () => kit.Path.MakeFromOp(ka, kb, kit.PathOp.Union), (r) => `${kitAnchors(r)} anchors`],
		[
			'clipper2-wasm, flattened',
			() => clipper.UnionD(ca, cb, clipper.FillRule.EvenOdd, 4),
			(r) => `${clipperPoints(r)} points`
		],
		[
			'clipper2-ts, flattened',
			() => core.combinePolygons([input(a), input(b)], 'union', 0.005),
			(r) => `${r.reduce((s, p) => s + p.length / 2, 0)} points`
		]
	]);
	if (n === 1000) {
		table('all crossings of two outlines of 1000 anchors', [
			['ours', () => core.pathCrossings([a[0], b[0]], 'others').length, (k) => `${k} found`],
			['paper', () => pa.getCrossings(pb).length, (k) => `${k} found`]
		]);
		const nudged = [transformPath(a[0], [1, 0, 0, 1, 1e-4, 0])];
		const pn = asPaper(nudged);
		table('difference of near outlines of 1000 anchors', [
			['ours, ordinary pair', ours(a, b, 'difference'), tellOurs],
			['ours, identical', ours(a, a, 'difference'), tellOurs],
			['ours, 0.0001 mm apart', ours(a, nudged, 'difference'), tellOurs],
			[
				'paper, identical',
				() => pa.subtract(pa.clone({ insert: false }), { insert: false }),
				(r) => `${paperAnchors(r)} anchors`
			],
			[
				'paper, 0.0001 mm apart',
				() => pa.subtract(pn, { insert: false }),
				(r) => `${paperAnchors(r)} anchors`
			]
		]);
	}
	for (const distance of [3, -1]) {
		const tell = (r) => {
			const tree = pathTree(a, 1e-4);
			let error = 0;
			for (const path of r.value.paths)
				for (let i = 0; i < path.types.length; i++)
					for (let k = 0; k < 10; k++) {
						const p = pointAt(path.types[i], path.segs, 8 * i, k / 10);
						error = Math.max(error, Math.abs(tree.distance(p.x, p.y) - Math.abs(distance)));
					}
			return `${r.value.paths.reduce((s, p) => s + anchorCount(p), 0)} anchors, error ${error.toFixed(4)}${r.value.fallback ? ', by the net' : ''}`;
		};
		table(`offset of ${n} anchors by ${distance} mm`, [
			['ours', () => core.offsetPieces(a, { distance, join: 'round', verify: false }), tell],
			[
				'clipper2-ts, flattened',
				() => core.offsetPolygons(a, distance, 'round', 4, 0.005),
				(r) => `${r.reduce((s, p) => s + p.length / 2, 0)} points`
			],
			[
				'clipper2-wasm, flattened',
				() =>
					clipper.InflatePathsD(
						asClipper(a, 0.005),
						distance,
						clipper.JoinType.Round,
						clipper.EndType.Polygon,
						2,
						4,
						0.005
					),
				(r) => `${clipperPoints(r)} points`
			]
		]);
	}
}

const circles = Array.from({ length: 2500 }, (_, i) => circlePath(10 * (i % 50), 10 * Math.floor(i / 50), 6));
const soft = circles.map((c) => core.arcsToCubics(c, 1));
table('union of 2500 overlapping circles', [
	[
		'ours, cubics',
		() =>
			core.combine(
				soft.map((c) => input([c])),
				'union'
			),
		tellOurs
	],
	[
		'ours, true arcs',
		() =>
			core.combine(
				circles.map((c) => input([c])),
				'union'
			),
		tellOurs
	],
	[
		'paper',
		() =>
			new paper.CompoundPath({ pathData: data(soft), fillRule: 'nonzero' }).unite(undefined, {
				insert: false
			}),
		(r) => `${paperAnchors(r)} anchors`
	],
	[
		'canvaskit',
		() => {
			const p = asKit(soft);
			p.setFillType(kit.FillType.Winding);
			return kit.Path.MakeFromOp(p, kit.Path.MakeFromSVGString('M0 0'), kit.PathOp.Union);
		},
		(r) => `${kitAnchors(r)} anchors`
	],
	[
		'clipper2-wasm, flattened',
		() => clipper.UnionSelfD(asClipper(soft, 0.005), clipper.FillRule.NonZero, 4),
		(r) => `${clipperPoints(r)} points`
	]
]);

for (const n of [10000, 100000]) {
	const rough = [jaggedDense(n)];
	table(`offset of ${n} jagged vertices by 3 mm`, [
		[
			'ours',
			() => core.offsetPieces(rough, { distance: 3, join: 'round', verify: false }),
			(r) =>
				`${r.value.paths.reduce((s, p) => s + anchorCount(p), 0)} anchors${r.value.fallback ? ', by the net' : ''}`
		],
		[
			'clipper2-wasm',
			() =>
				clipper.InflatePathsD(
					asClipper(rough, 0.005),
					3,
					clipper.JoinType.Round,
					clipper.EndType.Polygon,
					2,
					4,
					0.005
				),
			(r) => `${clipperPoints(r)} points`
		],
		...(n > 20000
			? []
			: [
					[
						'clipper2-ts',
						() => core.offsetPolygons(rough, 3, 'round', 4, 0.005),
						(r) => `${r.reduce((s, p) => s + p.length / 2, 0)} points`
					]
				])
	]);
}

const shape = wavy(720, 5, 130, 12);
const dense = flattenPath(core.arcsToCubics(shape, 1), 2e-6);
const stride = Math.max(1, Math.floor(dense.length / 2 / 10000));
const points = [];
for (let i = 0; i < dense.length / 2; i += stride) points.push([dense[2 * i], dense[2 * i + 1]]);
const polygon = core.polygonPath(points.flat());
table(`fit of ${points.length} clean points to 0.01 mm`, [
	[
		'ours',
		() => core.fitPoints(points.flat(), true, 0.01),
		(r) =>
			`${r.types.length} segments, error ${core.twoWayDistance([polygon], [r], 1e-4, 0.05).distance.toFixed(4)}`
	],
	[
		'ours, simplify',
		() => core.simplifyPath(polygon, 0.01),
		(r) => `${r.path.types.length} segments, drift ${r.drift.toFixed(4)}`
	],
	['fit-curve', () => fitCurve(points, 0.01 ** 2), (r) => `${r.length} segments`],
	[
		'simplify-js',
		() =>
			simplifyJs(
				points.map(([x, y]) => ({ x, y })),
				0.01,
				true
			),
		(r) => `${r.length} points`
	]
]);
// A jagged outline drawn anew, held against the smooth line under it (root mean square and largest, mm).
const trees = new Map();
const against = (n, path) => {
	if (!trees.has(n)) trees.set(n, pathTree([core.smoothUnder(n)], 1e-4));
	const tree = trees.get(n);
	const flat = flattenPath(path, 1e-3);
	let sum = 0;
	let most = 0;
	let count = 0;
	for (let i = 0; i + 3 < flat.length; i += 2) {
		for (let k = 0; k < 4; k++) {
			const d = tree.distance(
				flat[i] + ((flat[i + 2] - flat[i]) * k) / 4,
				flat[i + 1] + ((flat[i + 3] - flat[i + 1]) * k) / 4
			);
			sum += d * d;
			most = Math.max(most, d);
			count++;
		}
	}
	return `rms ${Math.sqrt(sum / count).toFixed(4)}, largest ${most.toFixed(3)} mm from the true line`;
};
for (const [n, drift] of [
	[10_000, 0.25],
	[100_000, 0.15]
]) {
	const rough = jaggedDense(n);
	const corners = Array.from({ length: n }, (_, i) => [rough.segs[8 * i], rough.segs[8 * i + 1]]);
	const asPath = (cubics) => {
		const builder = new core.PathBuilder(cubics[0][0][0], cubics[0][0][1]);
		for (const [, a, b, c] of cubics) builder.cubic(a[0], a[1], b[0], b[1], c[0], c[1]);
		return builder.open();
	};
	table(`a jagged outline of ${n} vertices made fair, ${drift} mm`, [
		[
			'ours, fair',
			() => core.fairPath(rough, { drift }),
			(r) => `${r.path.types.length} segments, ${against(n, r.path)}`
		],
		[
			'ours, simplify',
			() => core.simplifyPath(rough, drift),
			(r) => `${r.path.types.length} segments, ${against(n, r.path)}`
		],
		['the outline itself', () => rough, (r) => `${r.types.length} segments, ${against(n, r)}`],
		...(n > 20_000
			? []
			: [
					[
						'fit-curve (a greedy fit)',
						() => asPath(fitCurve([...corners, corners[0]], drift ** 2)),
						(r) => `${r.types.length} segments, ${against(n, r)}`
					]
				]),
		[
			'simplify-js (Douglas and Peucker)',
			() =>
				core.polygonPath(
					simplifyJs(
						corners.map(([x, y]) => ({ x, y })),
						drift,
						true
					).flatMap((p) => [p.x, p.y])
				),
			(r) => `${r.types.length} segments, ${against(n, r)}`
		]
	]);
}
for (const n of [1000, 10_000, 100_000, 1_000_000]) {
	const rough = jaggedDense(n);
	table(`growth: ${n} jagged vertices to 0.25 mm`, [
		['ours, simplify', () => core.simplifyPath(rough, 0.25), (r) => `${r.path.types.length} segments`],
		['ours, fair', () => core.fairPath(rough, { drift: 0.25 }), (r) => `${r.path.types.length} segments`]
	]);
}

// Tracing 12 megapixels on one thread: the demo's sheet of parts, clean, and blurred under falling light with noise.
const clean = drawnSheet(core, 4200);
const megapixels = (clean.widthPx * clean.heightPx) / 1e6;
const photo = photoOf(core, clean);
const traced = (r) =>
	`${r.paths.length} outlines, ${r.anchors} anchors, worst ${(r.worst * 14.14).toFixed(2)} px`;
const edges = (picture) =>
	core.finish(
		core.followBoundaries(picture.grey, picture.widthPx, picture.heightPx, {
			threshold: 127.5,
			light: false,
			diagonal: 'join',
			leastAreaPx: 6
		})
	);
const pairsOf = ({ points }) =>
	Array.from({ length: points.length / 2 }, (_, k) => [points[2 * k], points[2 * k + 1]]);
table(`trace of ${megapixels.toFixed(1)} megapixels, whole, one thread`, [
	['ours, clean', () => core.finish(core.traceByTone(clean, { pxPerMm: 14.14 })), traced],
	[
		'ours, photo: light evened, noise',
		() => core.finish(core.traceByTone(photo, { pxPerMm: 14.14, evenLight: true, denoise: true })),
		traced
	],
	[
		'our edges, simplify-js to 0.25 px',
		() =>
			edges(clean).map((c) =>
				simplifyJs(
					pairsOf(c).map(([x, y]) => ({ x, y })),
					0.25,
					true
				)
			),
		(r) => `${r.length} outlines, ${r.reduce((n, p) => n + p.length, 0)} points`
	],
	[
		'our edges, fit-curve to 0.25 px',
		() => edges(clean).map((c) => fitCurve(pairsOf(c), 0.25 * 0.25)),
		(r) => `${r.length} outlines, ${r.reduce((n, p) => n + p.length, 0)} curves`
	]
]);

const thousand = wavy(1000, 1);
const outline = core.outlineFromPath(thousand, { id: 'o', name: 'o', layer: 'cut', rank: 1 });
const stairs = jagged(100, 0.3, 3);
const item = asPaper([thousand]).children[0];
table('single operations on 1000 anchors', [
	['ours: length', () => pathLength(thousand)],
	['paper: length', () => item.clone({ insert: false }).length],
	['ours: nearest place', () => core.nearestOnPath(thousand, 80, 30, 100)],
	[
		'ours: move an anchor and its line',
		() => core.sourceLine(core.moveAnchors(outline, new Set([outline.anchors[500]]), 1, 1))
	],
	['ours: add an anchor', () => core.insertAnchors(outline, [{ segment: 300, t: 0.4 }])],
	['ours: kind of all anchors', () => core.setKind(outline, new Set(outline.anchors), 'even')],
	['ours: own crossings', () => core.pathCrossings([thousand], 'self').length],
	['ours: readiness', () => core.findFaults([thousand]).length],
	[
		'ours: simplify to 0.02 mm',
		() => core.simplifyPath(thousand, 0.02),
		(r) => `${anchorCount(r.path)} anchors`
	],
	[
		`ours: simplify ${stairs.types.length} stairs to 0.25 mm`,
		() => core.simplifyPath(stairs, 0.25),
		(r) => `${anchorCount(r.path)} anchors`
	]
]);

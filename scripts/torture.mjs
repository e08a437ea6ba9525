// Many random combinations and offsets, each held against an independent check. Seeded, so that a failure can be had again.
//   npm run torture -- --seed 1 [--runs 20000] [--wild]     ordinary outlines, or with --wild also ones that cross themselves
//   npm run torture -- --seed 1 [--runs 2000] --torn        torn outlines of hundreds of anchors, as traces of rough edges have them
//   npm run torture -- --jobs [--seed 1] [--runs 20000]     jobs for a machine: see torture-jobs.mjs
//   npm run torture -- --arrange [--seed 1] [--runs 1000]   pieces on a sheet: see torture-arrange.mjs
//   npm run torture -- --coincident [--seed 1] [--runs 20000]   outlines nearly on each other: see torture-coincident.mjs
//   npm run torture -- --holds [--seed 1] [--runs 10000]    sketches with holds: see torture-holds.mjs
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const wanted = argument('--runs', 20000);
const wild = process.argv.includes('--wild');
const torn = process.argv.includes('--torn');
for (const other of ['jobs', 'arrange', 'holds', 'coincident']) {
	if (!process.argv.includes(`--${other}`)) continue;
	await import(`./torture-${other}.mjs`);
	process.exit(process.exitCode ?? 0);
}
const core = await import(pathToFileURL(await buildCore()).href);
const { blob, wavy, chance, combine, offsetPieces, transformPath, circlePath, polygonPath, PathBuilder } =
	core;

const rnd = chance(seed);
const pick = (list) => list[Math.floor(rnd() * list.length)];
const quarter = Math.tan(Math.PI / 8);

function shape() {
	const x = Math.round(rnd() * 40) / 2;
	const y = Math.round(rnd() * 40) / 2;
	const kinds = [
		() =>
			transformPath(blob(pick([6, 12, 24, 60]), 1 + Math.floor(rnd() * 1e6), 8 + 12 * rnd()), [
				1,
				0,
				0,
				1,
				x,
				y
			]),
		() => circlePath(x, y, pick([3, 5, 5, 7.5, 10])),
		() => {
			const [w, h] = [pick([5, 10, 20]), pick([5, 10])];
			return polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
		},
		() => {
			const n = pick([3, 5, 7, 12]);
			const p = [];
			for (let i = 0; i < 2 * n; i++) {
				const r = i % 2 ? pick([3, 5]) : 10;
				p.push(x + r * Math.cos((Math.PI * i) / n), y + r * Math.sin((Math.PI * i) / n));
			}
			return polygonPath(p);
		},
		() => {
			const [w, r] = [pick([10, 20]), pick([1, 2, 4])];
			return new PathBuilder(x + r, y)
				.line(x + w - r, y)
				.arc(quarter, x + w, y + r)
				.line(x + w, y + w - r)
				.arc(quarter, x + w - r, y + w)
				.line(x + r, y + w)
				.arc(quarter, x, y + w - r)
				.line(x, y + r)
				.arc(quarter, x + r, y)
				.close();
		}
	];
	const crossing = [
		() => polygonPath(Array.from({ length: 2 * pick([5, 8, 20]) }, (_, i) => (i % 2 ? y : x) + 20 * rnd())),
		() => {
			const builder = new PathBuilder(x, y);
			for (let i = pick([3, 5, 8]); i > 0; i--)
				builder.cubic(
					x + 25 * rnd(),
					y + 25 * rnd(),
					x + 25 * rnd(),
					y + 25 * rnd(),
					x + 20 * rnd(),
					y + 20 * rnd()
				);
			return builder.close();
		}
	];
	if (torn) {
		const line = wavy(pick([150, 400, 1000]), 1 + Math.floor(rnd() * 1e6), pick([6, 10, 25]));
		return transformPath(line, [1, 0, 0, 1, x, y]);
	}
	return pick(wild ? [...kinds, ...crossing] : kinds)();
}

const moves = [
	[1, 0, 0, 1, 0, 0],
	[1, 0, 0, 1, 1e-4, 0],
	[1, 0, 0, 1, 1e-7, 0],
	[1, 0, 0, 1, 5, 0],
	[-1, 0, 0, 1, 20, 0],
	[0, 1, -1, 0, 0, 0]
];
const counts = { runs: 0, failed: 0, net: 0, slowest: 0 };
function tell(what, work) {
	counts.runs++;
	const start = performance.now();
	let result;
	try {
		result = work();
	} catch (error) {
		result = { ok: false, problem: { code: `threw: ${error.message}` } };
	}
	counts.slowest = Math.max(counts.slowest, performance.now() - start);
	if (!result.ok && result.problem.code !== 'nothing-left') {
		counts.failed++;
		console.log(`case ${what}: ${result.problem.code}`);
	} else if (result.ok && result.value.fallback) {
		counts.net++;
		console.log(`case ${what}: by the polygon net`);
	}
}
for (let i = 0; counts.runs < wanted; i++) {
	const a = [shape()];
	const b = [rnd() < 0.2 ? transformPath(a[0], pick(moves)) : shape()];
	if (rnd() < 0.3) a.push(shape());
	const inputs = [[{ paths: a, rule: pick(['evenodd', 'nonzero']) }], [{ paths: b, rule: 'nonzero' }]];
	for (const op of ['union', 'difference', 'intersection', 'xor', 'regions'])
		tell(`${i} ${op}`, () => combine(inputs, op, { verify: true }));
	for (const join of ['round', 'miter', 'bevel']) {
		const distance = pick([-3, -1, -0.3, 0.3, 1, 3, 8]);
		tell(`${i} offset ${join} ${distance}`, () => offsetPieces(a, { distance, join }));
	}
}
console.log(
	`${counts.runs} runs with seed ${seed}: ${counts.failed} failed, ${counts.net} by the polygon net (${((100 * counts.net) / counts.runs).toFixed(3)} %), slowest ${Math.round(counts.slowest)} ms`
);
process.exit(counts.failed ? 1 : 0);

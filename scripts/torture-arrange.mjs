// Many random arrangements: each piece once, apart by the gap and off the edge by the margin, told by exact distances apart from the search.
//   npm run torture -- --arrange [--seed 1] [--runs 1000]
//   npm run torture -- --arrange --growth     what is reached for 12, 50, 200, 1,000 pieces, and how long it takes
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const runs = argument('--runs', 1000);
const core = await import(pathToFileURL(await buildCore()).href);
const {
	layOnSheetsSteps,
	blob,
	chance,
	circlePath,
	EdgeTree,
	finish,
	flattenPath,
	polygonPath,
	transformPath
} = core;

/** mm: nearer than the gap by more is a failure. */
const NEAR = 0.01;

function piece(rnd, turns, size) {
	const pick = (list) => list[Math.floor(rnd() * list.length)];
	const star = () => {
		const n = pick([3, 5, 7]);
		const p = [];
		for (let i = 0; i < 2 * n; i++) {
			const r = size * (i % 2 ? 0.4 + 0.3 * rnd() : 1);
			p.push(r * Math.cos((Math.PI * i) / n), r * Math.sin((Math.PI * i) / n));
		}
		return polygonPath(p);
	};
	const made = pick([
		() => blob(pick([6, 12, 24]), 1 + Math.floor(rnd() * 1e6), size * 0.7),
		() => circlePath(0, 0, size * (0.3 + 0.6 * rnd())),
		() => polygonPath([0, 0, size * (0.5 + 1.5 * rnd()), 0, size, size * (0.4 + rnd()), 0, size]),
		star
	])();
	return { paths: [transformPath(made, [1, 0, 0, 1, 500 * rnd(), 500 * rnd()])], turns };
}

/** How much nearer than the gap, and how far beyond the margin. */
function judged(pieces, sheet, gap, { places }) {
	const laid = places.map(({ piece: i, map }) => flattenPath(transformPath(pieces[i].paths[0], map), 1e-3));
	const trees = laid.map((points) => new EdgeTree([{ points, closed: true }]));
	let [near, off] = [0, 0];
	laid.forEach((a, i) => {
		for (let k = 0; k < a.length; k += 2)
			off = Math.max(
				off,
				sheet.margin - a[k],
				sheet.margin - a[k + 1],
				a[k] - sheet.width + sheet.margin,
				a[k + 1] - sheet.length + sheet.margin
			);
		laid.forEach((b, j) => {
			if (i === j) return;
			for (let k = 0; k < b.length; k += 2) {
				const d = trees[i].distance(b[k], b[k + 1]);
				const inside = core.windingNumber(a, b[k], b[k + 1]) !== 0;
				near = Math.max(near, gap - (inside ? -d : d));
			}
		});
	});
	return { near, off };
}

if (process.argv.includes('--growth')) {
	for (const n of [12, 50, 200, 1000]) {
		const rnd = chance(seed);
		const pieces = Array.from({ length: n }, () => piece(rnd, 'free', 14));
		const sheet = { width: 60 * Math.ceil(Math.sqrt(n / 2)), length: 20_000, margin: 3 };
		const begin = performance.now();
		const at = {};
		const steps = layOnSheetsSteps(pieces, [sheet], {
			gap: 1,
			inHoles: false,
			seed,
			share: () => (performance.now() - begin) / 60_000
		});
		let last;
		for (let next = steps.next(); !next.done; next = steps.next()) {
			const seconds = (performance.now() - begin) / 1000;
			if (next.value.best !== last && next.value.best && next.value.best.left.length === 0) {
				last = next.value.best;
				for (const mark of [1, 5, 20, 60]) if (seconds <= mark) at[mark] = last.usage;
			}
		}
		console.log(
			`${n} pieces: ${[1, 5, 20, 60].map((s) => `${at[s] ? (100 * at[s]).toFixed(1) : '–'} % in ${s} s`).join(', ')}`
		);
	}
	process.exit(0);
}

const begin = performance.now();
let [bad, thrown, left, worst] = [0, 0, 0, 0];
for (let k = 0; k < runs; k++) {
	const rnd = chance(seed * 100_003 + k);
	const turns = [[0], [0, 180], [0, 90, 180, 270], 'free'][Math.floor(4 * rnd())];
	const pieces = Array.from({ length: 3 + Math.floor(14 * rnd()) }, () => piece(rnd, turns, 5 + 20 * rnd()));
	const sheet = { width: 80 + 120 * rnd(), length: 120 + 300 * rnd(), margin: 6 * rnd() };
	const gap = rnd() < 0.2 ? 0 : 4 * rnd();
	try {
		const found = finish(
			layOnSheetsSteps(pieces, [sheet], { gap, inHoles: false, seed: k, share: (looks) => looks / 6000 })
		);
		left += found.left.length;
		const { near, off } = judged(pieces, sheet, gap, found);
		worst = Math.max(worst, near, off);
		const ids = new Set([...found.places.map((p) => p.piece), ...found.left]);
		if (near > NEAR || off > NEAR || ids.size !== pieces.length) {
			bad++;
			console.error(`seed ${seed} run ${k}: ${near.toFixed(4)} mm too near, ${off.toFixed(4)} mm off`);
		}
	} catch (error) {
		thrown++;
		console.error(`seed ${seed} run ${k}: ${error.stack}`);
	}
}
console.log(
	`${runs} arrangements in ${((performance.now() - begin) / 1000).toFixed(0)} s: ${bad} bad (worst ${worst.toFixed(4)} mm), ${left} pieces found no room, ${thrown} exceptions`
);
process.exitCode = bad + thrown ? 1 : 0;

// Shapes that are hard to trace (tests/random/hard-shapes.ts), drawn and traced and held against what was drawn:
//   npm run hard-shapes -- --seed 1 --count 12 [--only clean] [--family needles] [--case 3]
// Tells the largest distance both ways and the mean, px.
import { argument } from './argument.mjs';
import { openSources } from './sources.mjs';

const SEED = argument('--seed', 1);
const COUNT = argument('--count', 10);
const ONLY = argument('--only', '');
const FAMILY = argument('--family', '');
const CASE = argument('--case', -1);

const sources = await openSources();
const { chance } = await sources.ssrLoadModule('/tests/shapes.ts');
const { CONDITIONS, FAMILIES, scoreOf, scoreOfColours } = await sources.ssrLoadModule(
	'/tests/random/hard-shapes.ts'
);

const scores = {};
for (let n = 0; n < COUNT; n++) {
	if (CASE >= 0 && n !== CASE) continue;
	for (const [family, draw] of Object.entries(FAMILIES)) {
		if (FAMILY && family !== FAMILY) continue;
		const r = chance(1000 * SEED + n);
		const rows = draw(r);
		for (const [name, condition] of Object.entries(CONDITIONS)) {
			if (ONLY && name !== ONLY) continue;
			(scores[`${family} ${name}`] ??= []).push({ seed: n, ...scoreOf(rows, condition, r) });
		}
	}
	if ((FAMILY && FAMILY !== 'pieces') || (ONLY && ONLY !== 'colours')) continue;
	(scores['pieces colours'] ??= []).push({ seed: n, ...scoreOfColours(chance(1000 * SEED + n)) });
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

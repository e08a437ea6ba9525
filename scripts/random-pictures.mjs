// Small pictures by chance, traced in all ways, and counted in which outlines cross: `npm run random-pictures -- --seed 1 --count 10000`.
// Tells the number of each that crosses, so that it can be drawn again: `--from 4711 --count 1`.
import { argument } from './argument.mjs';
import { openSources } from './sources.mjs';

const SEED = argument('--seed', 1);
const FROM = argument('--from', 0);
const COUNT = argument('--count', 1000);

const sources = await openSources();
const load = (file) => sources.ssrLoadModule(file);
const { randomPicture } = await load('/tests/random/pictures.ts');
const { crossedOf } = await load('/tests/random/crossed.ts');
const { chance } = await load('/tests/shapes.ts');
const { sourceOf, tracePicture } = await load('/src/lib/core/trace/ways.ts');
const { finish } = await load('/src/lib/core/progress.ts');

const tally = { traced: 0, empty: 0, crossed: 0 };
const refused = {};
const ways = {};
const began = performance.now();
for (let n = FROM; n < FROM + COUNT; n++) {
	const { name, picture, options } = randomPicture(chance(100_000 * SEED + n));
	try {
		const trace = finish(tracePicture(sourceOf(picture), options));
		tally.traced++;
		const way = name.split(', ')[2];
		ways[way] = (ways[way] ?? 0) + 1;
		const crossed = crossedOf(trace);
		if (crossed === 0) continue;
		tally.crossed++;
		console.log(`${n}: ${crossed} crossings (${name})`);
	} catch (error) {
		if (!error.code) throw new Error(`${n} (${name})`, { cause: error });
		tally.empty++;
		refused[error.code] = (refused[error.code] ?? 0) + 1;
	}
}
await sources.close();
const told = (of) =>
	Object.entries(of)
		.map(([k, v]) => `${k} ${v}`)
		.join(', ');
console.log(
	`seed ${SEED}: ${tally.traced} pictures traced (${told(ways)}), ${tally.empty} without an outline (${told(refused)}); ` +
		`outlines cross in ${tally.crossed}; ${((performance.now() - began) / 1000).toFixed(0)} s`
);
process.exit(tally.crossed > 0 ? 1 : 0);

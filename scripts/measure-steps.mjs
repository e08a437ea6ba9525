// Long work can be stopped between its steps: how long do its steps take? Every work of the core's table over heavy inputs; prints, for each,
// its time, its number of steps and its longest one, and says which take more than 200 ms.
//   node scripts/measure-steps.mjs [--only NAME]
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import { buildCore } from './build-core.mjs';

const core = await import(
	pathToFileURL(
		await buildCore(
			[
				'src/lib/core/operations/work',
				'src/lib/core/index',
				'src/lib/core/document/recipes/recipes',
				'src/lib/core/document/recipes/reckonings',
				'src/lib/core/document/graph',
				'src/lib/core/document/outline',
				'src/lib/core/formats/drawing-file',
				'tests/shapes'
			],
			'steps'
		)
	).href
);
const {
	WORK,
	inputLine,
	outlineFromPath,
	wavy,
	jaggedDense,
	blob,
	transformPath,
	circlePath,
	writeSvg,
	sourceOf,
	tracePicture
} = core;
const only = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : '';
const moved = (path, x, y) => transformPath(path, [1, 0, 0, 1, x, y]);
const field = (count, segments) =>
	Array.from({ length: count }, (_, i) =>
		moved(wavy(segments, 1 + (i % 40), 40), 100 * (i % 10), 100 * Math.floor(i / 10))
	);
const nonzero = (paths) => paths.map((path) => [{ paths: [path], rule: 'nonzero' }]);
const text = (string) => new TextEncoder().encode(string);
const picture = async (file) => {
	const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	return sourceOf({ widthPx: info.width, heightPx: info.height, rgba: new Uint8ClampedArray(data) });
};
const rough = jaggedDense(20_000);
const long = wavy(10_000, 3);
const many = field(60, 1000);
const circles = Array.from({ length: 900 }, (_, i) => circlePath(9 * (i % 30), 9 * Math.floor(i / 30), 6));
const cases = {
	'check 60 outlines of 1,000': () => WORK.check(many),
	'check a rough line of 20,000': () => WORK.check([rough]),
	'facts of 60,000 segments': () => WORK.facts(many),
	'simplify 20,000': () => WORK.simplify([rough], 0.1),
	'fair 20,000 (line)': () => WORK.line([rough], { way: 'fair', drift: 0.3 }),
	'chart 20,000': () => WORK.chart([rough], [0.02, 0.1, 0.3]),
	'offset 10,000 anchors': () => WORK.offset([long], { distance: 1, join: 'round', way: 'outside' }),
	'offset inward of a rough line': () => WORK.offset([rough], { distance: 2, join: 'round', way: 'inside' }),
	'combine 900 circles': () => WORK.combine(nonzero(circles), 'union'),
	'combine two of 10,000': () => WORK.combine(nonzero([long, moved(long, 3, 1)]), 'xor'),
	'open an SVG of 60,000 segments': () =>
		WORK.open(text(writeSvg(many.map((path, i) => ({ name: `part ${i}`, paths: [path] })))), 'many.svg'),
	'compare 10,000': () => WORK.compare([{ path: long, other: moved(long, 0.1, 0) }], 0.2),
	'narrow places of 60': () => WORK.narrow(many.slice(0, 20)),
	'tool faults of 60,000': () => WORK.toolFaults(many, { toolRadius: 1.5 }),
	'plan a job of 60': () =>
		WORK.plan(
			{
				lines: many.map((path, i) => ({ path: moved(path, 100, 100), name: `part ${i}` })),
				sheet: { width: 1200, height: 800 }
			},
			{
				tool: { kind: 'cutter', diameter: 3 },
				side: 'outside',
				feed: 900,
				plunge: 300,
				speed: 18_000,
				depth: 4,
				pass: 2
			}
		),
	'clear a pocket of 1,000 anchors': () =>
		WORK.plan(
			{
				lines: [{ path: moved(wavy(1000, 5), 200, 200), name: 'pocket' }],
				sheet: { width: 400, height: 400 }
			},
			{
				tool: { kind: 'cutter', diameter: 2 },
				side: 'clear',
				feed: 900,
				plunge: 300,
				speed: 18_000,
				depth: 4,
				pass: 2
			}
		),
	'lay a scan on its drawing': () => WORK.layOn([moved(blob(200, 4, 60), 2, 1)], [blob(200, 4, 60)]),
	'allowance around 60': () =>
		WORK.make(
			'allowance',
			many.map((path, i) =>
				inputLine(outlineFromPath(path, { id: `o${i}`, name: 'a', layer: 'cut', rank: i }))
			),
			{ width: 6, corner: 'miter' }
		),
	'trace a photo': async () =>
		tracePicture(await picture('static/demo/fox-puppet.jpg'), { way: 'tone', pxPerMm: 8 }),
	'trace 12 megapixels': async () => {
		const file = await sharp(readFileSync('static/demo/fox-puppet.jpg'))
			.resize(4000, 3000, { fit: 'fill' })
			.png()
			.toBuffer();
		return tracePicture(await picture(file), { way: 'tone', pxPerMm: 20 });
	},
	'trace 12 megapixels by colours': async () => {
		const file = await sharp(readFileSync('static/demo/fox-puppet.jpg'))
			.resize(4000, 3000, { fit: 'fill' })
			.png()
			.toBuffer();
		return tracePicture(await picture(file), { way: 'colours', pxPerMm: 20 });
	}
};
let slow = 0;
/** Work that refuses what it is given measures nothing. */
let refused = 0;
for (const [name, make] of Object.entries(cases)) {
	if (only && !name.includes(only)) continue;
	let [steps, longest, at] = [0, 0, 0];
	const started = performance.now();
	try {
		const work = await make();
		for (;;) {
			const before = performance.now();
			const { done, value } = work.next();
			const took = performance.now() - before;
			steps++;
			if (took > longest) [longest, at] = [took, steps];
			if (!done) continue;
			if (value?.ok === false) throw new Error(value.problem.sentence);
			break;
		}
	} catch (error) {
		console.log(`${name.padEnd(34)} refused: ${error.message}`);
		refused++;
		continue;
	}
	if (longest > 200) slow++;
	console.log(
		`${name.padEnd(34)} ${Math.round(performance.now() - started)} ms in ${steps} steps, the longest ${Math.round(longest)} ms (step ${at})${longest > 200 ? '  <- too long' : ''}`
	);
}
console.log(`${slow} of them have a step above 200 ms, ${refused} were refused`);
process.exitCode = refused ? 1 : 0;

/**
 * Small drawings of an open asset package, drawn by an independent rasteriser from 64 to 1,024 px wide, traced, and held against the
 * outlines that the drawing itself states: how many come out with the true number of outlines, and how far the lines lie off.
 *
 *   npm run real-pictures -- [--every 16] [--from 0] [--only 128] [--show]
 */
import { readdirSync, readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import { argument } from './argument.mjs';
import { openSources } from './sources.mjs';

const FOLDER = 'node_modules/bootstrap-icons/icons';
const EVERY = argument('--every', 16);
const FROM = argument('--from', 0);
const ONLY = argument('--only', 0);
const SHOWS = process.argv.includes('--show');
const SIZES = [64, 128, 256, 512, 1024].filter((size) => !ONLY || size === ONLY);

const sources = await openSources();
const load = (name) => sources.ssrLoadModule(`/src/lib/core/${name}.ts`);
const { traceByTone } = await load('trace/trace');
const { twoWayDistance } = await load('geometry/edge-tree');
const { transformPath } = await load('geometry/path');
const { combine } = await load('plane/combine');
const { readLines } = await load('formats/formats');
const { boundingPaths } = await load('formats/solids');
const { finish } = await load('progress');

const scores = new Map(SIZES.map((size) => [size, []]));
const files = readdirSync(FOLDER)
	.filter((name) => name.endsWith('.svg'))
	.sort()
	.filter((_, k) => k % EVERY === FROM);
for (const name of files) {
	const bytes = readFileSync(`${FOLDER}/${name}`);
	const read = readLines(bytes, name);
	if (!read.ok) continue;
	const united = combine(
		read.value.shapes.map((shape) => [{ paths: boundingPaths(shape), rule: 'evenodd' }]),
		'union'
	);
	if (!united.ok) continue;
	const stated = united.value.pieces.flatMap(({ paths }) => paths);
	const { frame } = read.value;
	for (const size of SIZES) {
		const drawn = new Resvg(bytes.toString('utf8'), {
			background: '#fff',
			fitTo: { mode: 'width', value: size }
		}).render();
		const { width, height, pixels } = drawn;
		const grey = new Uint8Array(width * height);
		for (let k = 0; k < grey.length; k++) grey[k] = pixels[4 * k];
		const scale = width / frame.w;
		const truth = stated.map((path) =>
			transformPath(path, [scale, 0, 0, scale, -frame.x * scale, -frame.y * scale])
		);
		const score = { name, wanted: truth.length };
		try {
			const trace = finish(traceByTone({ widthPx: width, heightPx: height, grey }, { pxPerMm: 1 }));
			// A trace lies y up from the foot of the picture, as the drawing does.
			score.found = trace.paths.length;
			score.distance =
				score.found === score.wanted ? twoWayDistance(truth, trace.paths, 0.02).distance : Infinity;
			score.anchors = trace.anchors;
			score.stated = truth.reduce((sum, path) => sum + path.types.length, 0);
		} catch (error) {
			if (!error.code) throw error;
			score.found = 0;
			score.distance = Infinity;
		}
		scores.get(size).push(score);
		if (SHOWS)
			console.log(
				size,
				name,
				score.wanted,
				score.found,
				score.distance.toFixed(3),
				score.anchors,
				score.stated
			);
	}
}
await sources.close();
const at = (list, share) =>
	[...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))];
console.log(
	'px wide   drawings  true number   median   95 of 100   worst (of those)   anchors for those stated'
);
for (const [size, list] of scores) {
	const right = list.filter((s) => s.found === s.wanted);
	const off = right.map((s) => s.distance);
	const worst = right.reduce((a, b) => (b.distance > a.distance ? b : a));
	console.log(
		String(size).padStart(7),
		String(list.length).padStart(10),
		`${((100 * right.length) / list.length).toFixed(1)} %`.padStart(13),
		at(off, 0.5).toFixed(3).padStart(8),
		at(off, 0.95).toFixed(3).padStart(11),
		`${worst.distance.toFixed(2)} ${worst.name}`.padStart(28),
		at(
			right.map((s) => s.anchors / s.stated),
			0.5
		)
			.toFixed(2)
			.padStart(8)
	);
}

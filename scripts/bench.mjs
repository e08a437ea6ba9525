// Core operations beside general libraries, in one run: median of several after warm-up, in ms; anchors; largest error.
//   npm run bench [-- TEXT]   only the rows whose name holds TEXT
import { createServer } from 'vite';
import paper from 'paper';

const only = process.argv[2] ?? '';
const vite = await createServer({
	server: { middlewareMode: true },
	appType: 'custom',
	logLevel: 'error',
	optimizeDeps: { noDiscovery: true }
});
const load = (path) => vite.ssrLoadModule(path);
const core = (name) => load(`/src/lib/core/${name}.ts`);

const { blob, jagged } = await load('/tests/shapes.ts');
const { offsetPieces } = await core('geometry/offset');
const { offsetPolygons } = await core('geometry/polygon-clipper');
const { simplifyPath } = await core('geometry/simplify');
const { pathCrossings } = await core('geometry/crossings');
const { pathLength, pathArea, anchorCount } = await core('geometry/measure');
const { nearestOnPath } = await core('geometry/pick');
const { findFaults } = await core('check/readiness');
const { writePathData } = await core('formats/svg-path');
const { outlineFromPath, resolve } = await core('edit/outline');
const { moveAnchors, insertAnchors, setKind } = await core('edit/anchors');

function median(work, runs = 9) {
	let result;
	for (let i = 0; i < 3; i++) result = work();
	const times = [];
	for (let i = 0; i < runs; i++) {
		const t = performance.now();
		result = work();
		times.push(performance.now() - t);
	}
	times.sort((a, b) => a - b);
	return { ms: times[times.length >> 1], result };
}

function row(name, work, tell = () => '', runs) {
	if (!name.includes(only)) return;
	const { ms, result } = median(work, runs);
	console.log(`${name.padEnd(54)} ${ms.toFixed(2).padStart(10)} ms  ${tell(result)}`);
}

paper.setup(new paper.Size(100, 100));
const thousand = blob(1000, 1, 100);
const outline = outlineFromPath(thousand, { id: 'o', name: 'o', layer: 'cut', rank: 1 });
const theirs = new paper.CompoundPath(writePathData(thousand));
const other = new paper.CompoundPath(writePathData(blob(1000, 2, 100)));
const rough = jagged(100, 0.3, 3);

console.log('1,000 anchors');
row('length', () => pathLength(thousand));
row('length, paper', () => theirs.children[0].length);
row('area', () => pathArea(thousand));
row('nearest place', () => nearestOnPath(thousand, 80, 30, 100));
row('move an anchor and resolve', () => resolve(moveAnchors(outline, new Set([outline.anchors[500]]), 1, 1)));
row('add an anchor', () => insertAnchors(outline, [{ segment: 300, t: 0.4 }]));
row('kind of all anchors', () => setKind(outline, new Set(outline.anchors), 'even'));
row(
	'own crossings',
	() => pathCrossings([thousand], 'self').length,
	(n) => `${n} found`
);
row('readiness', () => findFaults([thousand]).length);
row(
	'simplify to 0.02 mm',
	() => simplifyPath(thousand, 0.02),
	(r) => `${anchorCount(r.path)} anchors, drift ${r.drift.toFixed(4)}`
);
row(
	`simplify ${rough.types.length} stairs to 0.25 mm`,
	() => simplifyPath(rough, 0.25),
	(r) => `${anchorCount(r.path)} anchors, drift ${r.drift.toFixed(4)}`
);
for (const d of [3, -1]) {
	row(
		`offset by ${d}, unchecked`,
		() => offsetPieces([thousand], { distance: d, join: 'round', verify: false }),
		(r) => `${r.value.paths.reduce((n, p) => n + anchorCount(p), 0)} anchors`
	);
	row(
		`offset by ${d}, checked`,
		() => offsetPieces([thousand], { distance: d, join: 'round' }),
		(r) => `error ${r.value.error.toFixed(4)}${r.value.fallback ? ', by the polygon net' : ''}`
	);
	row(
		`offset by ${d}, clipper2-ts on flattened input`,
		() => offsetPolygons([thousand], d, 'round', 4, 0.005),
		(r) => `${r.reduce((n, p) => n + p.length / 2, 0)} points`
	);
}
row(
	'crossings of two',
	() => pathCrossings([thousand, blob(1000, 2, 100)], 'others').length,
	(n) => `${n} found`
);
row(
	'crossings of two, paper',
	() => theirs.getCrossings(other).length,
	(n) => `${n} found`
);
await vite.close();

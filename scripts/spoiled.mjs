/** Mends 500 spoiled drawings and prints what was to mend, what stays, and whether any came out worse. */
import { openSources } from './sources.mjs';

const [from = 1, to = 500] = process.argv.slice(2).map(Number);
const vite = await openSources();
const load = (file) => vite.ssrLoadModule(file);
const { spoiledDrawing } = await load('/tests/spoiled.ts');
const { mendAllSteps, checkedOf } = await load('/src/lib/core/check/mend-all.ts');
const { findFaults } = await load('/src/lib/core/check/readiness.ts');
const { applyStep, makeStep } = await load('/src/lib/core/document/history.ts');
const { finish } = await load('/src/lib/core/progress.ts');

function kindsIn(drawing) {
	const { paths, mayBeOpen } = checkedOf(drawing);
	return findFaults(paths, { mayBeOpen }).map((fault) => fault.kind);
}
function counted(kinds, all) {
	const own = new Map();
	for (const kind of kinds) {
		own.set(kind, (own.get(kind) ?? 0) + 1);
		all.set(kind, (all.get(kind) ?? 0) + 1);
	}
	return own;
}

const before = new Map();
const after = new Map();
let worse = 0;
for (let seed = from; seed <= to; seed++) {
	const drawing = spoiledDrawing(seed);
	let count = 0;
	const { edit } = finish(mendAllSteps(drawing, () => `n${++count}`));
	const step = makeStep(drawing, 'Mend', edit);
	const was = kindsIn(drawing);
	const is = kindsIn(step ? applyStep(drawing, step, 'forward') : drawing);
	const had = counted(was, before);
	const has = counted(is, after);
	const isNew = [...has].some(([kind, n]) => n > (had.get(kind) ?? 0));
	if (isNew || (was.length > 0 && is.length >= was.length)) {
		worse++;
		console.log(`seed ${seed}: ${was.join(', ')} became ${is.join(', ')}`);
	}
}
console.table([...before].map(([kind, n]) => ({ kind, 'to mend': n, stays: after.get(kind) ?? 0 })));
console.log(`${to - from + 1} drawings, ${worse} not better`);
await vite.close();
process.exit(worse ? 1 : 0);

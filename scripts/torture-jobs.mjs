// Many random jobs for a machine: planned, written as G-code or HP-GL, read by our own reader, and the tool followed against the lines.
//   npm run torture -- --jobs [--seed 1] [--runs 20000]
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const runs = argument('--runs', 20000);
const core = await import(pathToFileURL(await buildCore()).href);
const { blob, chance, circlePath, polygonPath, transformPath, finish, reversePath } = core;

/** mm: more than this into what is kept is a failure. */
const GOUGE = 0.01;
const CELL = 60;

function outline(rnd, x, y, r) {
	const pick = (list) => list[Math.floor(rnd() * list.length)];
	const turned = (path) => {
		const a = rnd() * 6.28;
		const [c, s] = [Math.cos(a), Math.sin(a)];
		return transformPath(path, [c, s, -s, c, x, y]);
	};
	const made = pick([
		() => turned(blob(pick([6, 12, 30, 60]), 1 + Math.floor(rnd() * 1e6), r * 0.7)),
		() => circlePath(x, y, r * (0.3 + 0.7 * rnd())),
		() => {
			const [w, h] = [r * (0.4 + 0.5 * rnd()), r * (0.2 + 0.5 * rnd())];
			return turned(polygonPath([-w, -h, w, -h, w, h, -w, h]));
		},
		() => {
			const n = pick([3, 5, 7, 12]);
			const p = [];
			for (let i = 0; i < 2 * n; i++) {
				const q = r * (i % 2 ? 0.35 + 0.4 * rnd() : 0.95);
				p.push(q * Math.cos((Math.PI * i) / n), q * Math.sin((Math.PI * i) / n));
			}
			return turned(polygonPath(p));
		},
		() => {
			// A slot with a long narrow neck.
			const w = 0.3 + 3 * rnd();
			return turned(
				polygonPath([
					-r,
					-4,
					-w,
					-4,
					-w,
					-r * 0.5,
					w,
					-r * 0.5,
					w,
					-4,
					r,
					-4,
					r * 0.8,
					r * 0.4,
					-r * 0.8,
					r * 0.4
				])
			);
		}
	])();
	return rnd() < 0.5 ? made : reversePath(made);
}

function job(rnd) {
	const pick = (list) => list[Math.floor(rnd() * list.length)];
	const [nx, ny] = [1 + Math.floor(rnd() * 3), 1 + Math.floor(rnd() * 2)];
	const lines = [];
	for (let i = 0; i < nx; i++)
		for (let j = 0; j < ny; j++) {
			const [x, y] = [CELL * (i + 0.5), CELL * (j + 0.5)];
			const r = 12 + 14 * rnd();
			const name = `p${i}${j}`;
			lines.push({ path: outline(rnd, x, y, r), name });
			// Holes where they surely lie inside, and in them sometimes a piece.
			if (rnd() < 0.4) {
				const inner = 1 + 3 * rnd();
				lines[lines.length - 1] = { path: circlePath(x, y, r), name };
				lines.push({ path: outline(rnd, x, y, r * 0.6), name: `${name} hole` });
				if (rnd() < 0.3) {
					lines[lines.length - 1] = { path: circlePath(x, y, r * 0.7), name: `${name} hole` };
					lines.push({ path: circlePath(x, y, inner), name: `${name} inner` });
				}
			}
		}
	const kind = pick(['cutter', 'cutter', 'cutter', 'beam', 'beam', 'knife']);
	const depth = pick([1, 3, 6, 18]);
	const tool =
		kind === 'cutter'
			? { kind, diameter: pick([0.5, 1, 2, 3, 3.175, 6]) }
			: kind === 'beam'
				? { kind, kerf: pick([0.05, 0.1, 0.2, 0.5]) }
				: { kind, offset: pick([0.25, 0.45, 0.9]) };
	const side =
		kind === 'knife'
			? 'on'
			: pick(
					kind === 'cutter'
						? ['outside', 'outside', 'inside', 'on', 'clear']
						: ['outside', 'outside', 'inside', 'on']
				);
	const maybe = (share, value) => (rnd() < share ? value() : undefined);
	return {
		input: { lines, sheet: { width: nx * CELL, height: ny * CELL } },
		settings: {
			tool,
			side,
			feed: pick([300, 900, 3000]),
			plunge: pick([100, 250]),
			depth: kind === 'cutter' ? depth : undefined,
			pass: kind === 'cutter' ? pick([depth, depth / 2, 2]) : undefined,
			passes: kind === 'cutter' ? undefined : pick([1, 1, 2]),
			safe: pick([2, 5, 15]),
			speed: 12000,
			power: 500,
			way: pick(['climb', 'conventional']),
			ramp: maybe(0.3, () => pick([1, 3, 10, 30])),
			lead: maybe(0.4, () => pick([0.5, 1, 3, 6])),
			leadKind: pick(['arc', 'line']),
			overcut: maybe(0.3, () => pick([0.5, 2])),
			tabs: maybe(0.3, () => ({
				...pick([{ count: 3 }, { spacing: 25 }]),
				width: pick([2, 5]),
				height: depth * 0.4
			})),
			relief: side === 'clear' ? 'none' : pick(['none', 'none', 'none', 'corner', 'side']),
			step: pick([0.3, 0.4, 0.45]),
			pattern: pick(['turns', 'turns', 'lines']),
			angle: Math.round(180 * rnd()),
			rest: maybe(0.2, () => pick([4, 8])),
			order: pick(['short', 'short', 'small'])
		}
	};
}

const tally = { planned: 0, refused: {}, faults: 0, gouged: 0, low: 0, still: 0, unordered: 0, thrown: 0 };
let worst = 0;
const since = performance.now();
for (let k = 0; k < runs; k++) {
	const own = seed * 1_000_003 + k;
	const { input, settings } = job(chance(own));
	const tell = (what) => console.log(`job ${own} (${settings.tool.kind} ${settings.side}): ${what}`);
	try {
		const plan = finish(core.planSteps(input, settings));
		if (!plan.ok) {
			tally.refused[plan.problem.code] = (tally.refused[plan.problem.code] ?? 0) + 1;
			if (['offset-failed', 'unexpected'].includes(plan.problem.code)) tell(plan.problem.sentence);
			continue;
		}
		tally.planned++;
		const isCutter = settings.tool.kind === 'cutter';
		const isKnife = settings.tool.kind === 'knife';
		const read = isKnife
			? core.readHpgl(core.writeHpgl(plan.value.moves, 0.0025))
			: core.readGcode(
					core.writeGcode([{ moves: plan.value.moves, tool: settings.tool, speed: 12000 }], {
						arcs: k % 5 !== 0
					})
				);
		if (read.faults.length) {
			tally.faults++;
			tell(`line ${read.faults[0].line}: ${read.faults[0].why}`);
		}
		const reach = isCutter ? settings.tool.diameter / 2 : isKnife ? 0 : settings.tool.kerf / 2;
		if (!isKnife) {
			// Leads go off the line where it is cut on, and relief into the corners: they are followed for the rest alone.
			const isOff = settings.relief !== 'none' || (settings.side === 'on' && settings.lead);
			const judged = core.judge(
				read.moves,
				input.lines.map((l) => l.path),
				{ side: settings.side === 'clear' ? 'inside' : settings.side, reach, hasHeights: isCutter }
			);
			if (!isOff) {
				worst = Math.max(worst, judged.gouge);
				if (judged.gouge > GOUGE) {
					tally.gouged++;
					tell(
						`cuts ${judged.gouge.toFixed(4)} mm into what is kept at ${judged.at.x.toFixed(2)}, ${judged.at.y.toFixed(2)}`
					);
				}
			}
			if (judged.low) {
				tally.low++;
				tell(`${judged.low} rapids through material`);
			}
			if (judged.still) {
				tally.still++;
				tell('cuts with nothing turning');
			}
		}
		if (settings.side !== 'clear') {
			const nested = core.nestLines(input.lines);
			const at = new Map();
			plan.value.cuts.forEach((cut, i) => at.set(cut.line, [...(at.get(cut.line) ?? []), i]));
			for (const [line, cuts] of at) {
				const parent = nested.parent[line];
				if (parent !== undefined && Math.max(...cuts) > Math.min(...(at.get(parent) ?? [Infinity]))) {
					tally.unordered++;
					tell(`${input.lines[line].name} comes after what is around it`);
				}
			}
		}
	} catch (error) {
		tally.thrown++;
		tell(error.stack);
	}
	if (k % 500 === 499 && process.stderr.isTTY) process.stderr.write(`${k + 1} of ${runs}\r`);
}
const bad = tally.faults + tally.gouged + tally.low + tally.still + tally.unordered + tally.thrown;
console.log(
	`${runs} jobs in ${((performance.now() - since) / 1000).toFixed(0)} s: ${tally.planned} planned, refused ${JSON.stringify(tally.refused)}; faults in files ${tally.faults}, gouged ${tally.gouged} (worst ${worst.toFixed(4)} mm), through material ${tally.low}, still ${tally.still}, out of order ${tally.unordered}, exceptions ${tally.thrown}`
);
process.exitCode = bad ? 1 : 0;

/** Jobs planned: the tool is followed against the lines, with figures reckoned by hand beside. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { circlePath, PathBuilder, polygonPath, reversePath, type Path } from '../geometry/path';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathArea } from '../geometry/measure';
import { finish } from '../progress';
import { areasBeside, cutBeside, judge } from './judge';
import { drawnMoves } from './drawn';
import { FEED, moveAt, moveLength, moveStart, RAPID, type Toolpath } from './moves';
import { planSteps, type Plan } from './plan';
import type { CutSettings } from './settings';

const rect = (x: number, y: number, w: number, h: number) =>
	polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
const named = (...paths: Path[]) => paths.map((path, i) => ({ path, name: `line ${i}` }));
const ROUTED: CutSettings = {
	tool: { kind: 'cutter', diameter: 3 },
	side: 'outside',
	feed: 900,
	plunge: 200,
	depth: 6,
	pass: 2,
	speed: 16000
};
const BEAM: CutSettings = { tool: { kind: 'beam', kerf: 0.2 }, side: 'outside', feed: 900, power: 600 };

function planned(paths: Path[], settings: CutSettings, sheet?: { width: number; height: number }): Plan {
	const plan = finish(planSteps({ lines: named(...paths), sheet }, settings));
	if (!plan.ok) throw new Error(plan.problem.sentence);
	return plan.value;
}
const refusal = (paths: Path[], settings: CutSettings, sheet?: { width: number; height: number }) => {
	const plan = finish(planSteps({ lines: named(...paths), sheet }, settings));
	return plan.ok ? undefined : plan.problem;
};
const gougeOf = (
	plan: Plan,
	paths: Path[],
	reach: number,
	side: CutSettings['side'] = 'outside',
	hasHeights = true
) => judge(plan.moves, paths, { side, reach, hasHeights });

/** Places along all cuts below a height. */
function* below(path: Toolpath, z: number) {
	for (let i = 0; i < path.kinds.length; i++) {
		if (path.kinds[i] !== FEED) continue;
		const parts = Math.max(1, Math.ceil(moveLength(path, i) / 0.2));
		for (let k = 0; k <= parts; k++) {
			const p = moveAt(path, i, k / parts);
			if (p.z <= z + 1e-6) yield p;
		}
	}
}

describe('compensation', () => {
	test('a disc is cut on circles of its radius and half the tool, as arcs, holes the other way', () => {
		const plan = planned([circlePath(50, 50, 30), circlePath(50, 50, 10)], ROUTED);
		expect(plan.cuts.map((cut) => cut.line)).toEqual([1, 0]);
		for (const p of below(plan.moves, -6)) {
			const r = Math.hypot(p.x - 50, p.y - 50);
			expect(Math.min(Math.abs(r - 31.5), Math.abs(r - 8.5))).toBeLessThan(0.005);
		}
		// Few arcs stay few: a circle is four or five of them at each of three depths.
		expect(plan.moves.bulges.filter((b) => b !== 0).length).toBeLessThanOrEqual(2 * 3 * 5);
		// Climb: the kept material lies right of the way, so that a piece is gone round clockwise.
		const [hole, outer] = plan.cuts.map((cut) => pathArea(cut.way!));
		expect(outer).toBeLessThan(0);
		expect(hole).toBeGreaterThan(0);
		const other = planned([circlePath(50, 50, 30)], { ...ROUTED, way: 'conventional' });
		expect(pathArea(other.cuts[0].way!)).toBeGreaterThan(0);
	});

	test('inside, the opening comes out true', () => {
		const plan = planned([rect(10, 10, 40, 30)], { ...ROUTED, side: 'inside' });
		const tree = new EdgeTree([{ points: flattenPath(rect(11.5, 11.5, 37, 27), 1e-3), closed: true }]);
		for (const p of below(plan.moves, -6)) expect(tree.distance(p.x, p.y)).toBeLessThan(0.003);
		// Four corners of (1 - pi / 4) r2 stay: the square of the radius less the quarter of a circle.
		expect(plan.uncut).toHaveLength(4);
		for (const { area } of plan.uncut) expect(area).toBeCloseTo((1 - Math.PI / 4) * 1.5 ** 2, 2);
	});

	test('no tool cuts into what is kept, whatever the outline, its direction and the tool', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 6, max: 40 }),
				fc.integer({ min: 1, max: 1e6 }),
				fc.constantFrom(0.5, 2, 4),
				fc.boolean(),
				(n, seed, diameter, back) => {
					const line = blob(n, seed, 30);
					const path = back ? reversePath(line) : line;
					const settings = { ...ROUTED, tool: { kind: 'cutter', diameter } as const, depth: 2 };
					const { gouge, low, still } = gougeOf(planned([path], settings), [path], diameter / 2);
					expect(gouge).toBeLessThan(0.006);
					expect([low, still]).toEqual([0, 0]);
				}
			),
			{ numRuns: 25 }
		);
	});

	test('what cannot be is refused in a sentence that says what would fit', () => {
		expect(
			refusal([rect(0, 0, 80, 40), circlePath(40, 20, 2)], {
				...ROUTED,
				tool: { kind: 'cutter', diameter: 6 }
			})?.sentence
		).toMatch(/too wide for "line 1".*3\.99 mm/);
		expect(refusal([rect(0, 0, 30, 30), rect(32, 0, 30, 30)], ROUTED)?.sentence).toMatch(
			/2\.00 mm apart, and the tool is 3 mm wide/
		);
		expect(refusal([rect(0, 0, 80, 40)], ROUTED, { width: 60, height: 50 })?.code).toBe('beyond-sheet');
		expect(refusal([polygonPath([0, 0, 10, 0, 10, 10], false)], ROUTED)?.code).toBe('open-outline');
		expect(refusal([], ROUTED)?.code).toBe('nothing-given');
		// A ribbon that goes through itself: neither side of it is the outside.
		const eight = new PathBuilder(20, -30)
			.cubic(50, 0, 90, -90, 120, -50)
			.cubic(136, -28, 100, -10, 80, -40)
			.cubic(60, -70, 40, -90, 20, -80)
			.close();
		expect(refusal([rect(80, 20, 20, 20), eight], BEAM)?.sentence).toMatch(/^"line 1" crosses itself/);
		expect(refusal([rect(0, 0, 9, 9)], { ...ROUTED, feed: 0 })?.code).toBe('bad-feed');
		expect(refusal([rect(0, 0, 9, 9)], { ...ROUTED, feed: NaN })?.code).toBe('bad-feed');
		expect(refusal([rect(0, 0, 9, 9)], { ...ROUTED, tool: { kind: 'cutter', diameter: 0 } })?.code).toBe(
			'bad-tool'
		);
		expect(refusal([rect(0, 0, 9, 9)], { ...ROUTED, pass: 6e-6 })?.sentence).toMatch(/1000000 passes/);
		expect(refusal([rect(0, 0, 9, 9)], { ...ROUTED, depth: undefined })?.code).toBe('no-depth');
		expect(refusal([rect(0, 0, 9, 9)], { ...ROUTED, tabs: { count: 2, width: 3, height: 9 } })?.code).toBe(
			'bad-setting'
		);
	});
});

describe('going down, holding, coming and going', () => {
	const plate = rect(20, 20, 80, 50);

	test('each pass is at most as deep as asked for, and all are alike', () => {
		const plan = planned([plate], { ...ROUTED, depth: 5, pass: 2 });
		const heights = new Set(
			Array.from({ length: plan.moves.kinds.length }, (_, i) => plan.moves.to[3 * i + 2]).filter((z) => z < 0)
		);
		expect([...heights].map((z) => z.toFixed(4))).toEqual(['-1.6667', '-3.3333', '-5.0000']);
		expect(plan.passes).toBe(3);
	});

	test('a ramp goes down along the line at its slope, no faster than a plunge', () => {
		const plan = planned([plate], { ...ROUTED, ramp: 5 });
		const { moves } = plan;
		for (let i = 1; i < moves.kinds.length; i++) {
			if (moves.kinds[i] !== FEED) continue;
			const [x, y, z] = moveStart(moves, i, []);
			const down = z - moves.to[3 * i + 2];
			if (down < 1e-9 || z > 0.5) continue;
			const along = Math.hypot(moves.to[3 * i] - x, moves.to[3 * i + 1] - y);
			if (moves.bulges[i] === 0) expect(down / along).toBeCloseTo(Math.tan((5 * Math.PI) / 180), 4);
			expect((moves.feeds[i] * down) / moveLength(moves, i)).toBeLessThanOrEqual(200.001);
		}
		expect(gougeOf(plan, [plate], 1.5).gouge).toBeLessThan(0.006);
	});

	test('tabs stand as wide and high as asked for, on straights, and are cut all round before', () => {
		const plan = planned([plate], { ...ROUTED, tabs: { count: 4, width: 5, height: 1.5 } });
		const [cut] = plan.cuts;
		expect(cut.tabs).toHaveLength(4);
		for (const tab of cut.tabs) {
			// Off the corners by half the tab and the tool.
			for (const [x, y] of [
				[20, 20],
				[100, 20],
				[100, 70],
				[20, 70]
			])
				expect(Math.hypot(tab.x - x, tab.y - y)).toBeGreaterThan(3);
			const deepest = Math.min(
				...[...below(plan.moves, 0)].filter((p) => Math.hypot(p.x - tab.x, p.y - tab.y) < 3.9).map((p) => p.z)
			);
			expect(deepest).toBeCloseTo(-6 + 1.5, 6);
		}
		const beam = planned([plate], { ...BEAM, tabs: { count: 2, width: 4, height: 1 } });
		const gaps = Array.from({ length: beam.moves.kinds.length }, (_, i) => i).filter(
			(i) => i > 1 && beam.moves.kinds[i] === RAPID && beam.moves.on[i] === 0
		);
		for (const i of gaps) {
			const [x, y] = moveStart(beam.moves, i, []);
			expect(Math.hypot(beam.moves.to[3 * i] - x, beam.moves.to[3 * i + 1] - y)).toBeCloseTo(4.2, 3);
		}
		expect(gaps).toHaveLength(2);
	});

	test('tabs and starts set by hand are where they were set', () => {
		const plan = planned([plate], {
			...ROUTED,
			tabs: {
				count: 4,
				width: 5,
				height: 1.5,
				places: {
					0: [
						[60, 20],
						[60, 70]
					]
				}
			},
			starts: { 0: [100, 45] }
		});
		expect(plan.cuts[0].tabs.map((p) => [p.x, p.y].map((v) => +v.toFixed(2)))).toEqual([
			[60, 18.5],
			[60, 71.5]
		]);
		expect([plan.cuts[0].start.x, plan.cuts[0].start.y].map((v) => +v.toFixed(2))).toEqual([101.5, 45]);
	});

	test('leads come out of what falls away, and are shorter where there is less room', () => {
		const hole = circlePath(60, 45, 4);
		const plan = planned([plate, hole], { ...ROUTED, lead: 4 });
		expect(gougeOf(plan, [plate, hole], 1.5).gouge).toBeLessThan(0.006);
		expect(plan.warnings.join()).toMatch(/the least is [\d.]+ mm/);
		const tree = new EdgeTree(
			[plate, hole].map((path) => ({ points: flattenPath(path, 1e-3), closed: true }))
		);
		for (let i = 1; i < plan.moves.kinds.length; i++) {
			const [x, y, z] = moveStart(plan.moves, i, []);
			const isDown = z > 0.5 && plan.moves.to[3 * i + 2] < 0;
			if (isDown) expect(tree.distance(x, y)).toBeGreaterThan(1.5 + 0.3);
		}
	});

	test('relief touches the corner’s point and goes no farther', () => {
		const hole = rect(40, 30, 20, 20);
		for (const relief of ['corner', 'side'] as const) {
			const plan = planned([plate, hole], { ...ROUTED, relief });
			const near = new Map<string, number>();
			for (const p of below(plan.moves, -6))
				for (const [x, y] of [
					[40, 30],
					[60, 30],
					[60, 50],
					[40, 50]
				]) {
					const key = `${x} ${y}`;
					near.set(key, Math.min(near.get(key) ?? Infinity, Math.hypot(p.x - x, p.y - y)));
				}
			for (const d of near.values()) expect(d).toBeCloseTo(1.5, 3);
		}
	});

	test('an overcut goes on past the start', () => {
		const length = (overcut: number) => planned([circlePath(50, 50, 30)], { ...BEAM, overcut }).cut;
		expect(length(3) - length(0)).toBeCloseTo(3, 3);
	});

	test('a beam is never on while it travels', () => {
		const plan = planned([plate, circlePath(60, 45, 6), circlePath(40, 40, 4)], { ...BEAM, lead: 2 });
		for (let i = 0; i < plan.moves.kinds.length; i++)
			expect(plan.moves.on[i]).toBe(plan.moves.kinds[i] === FEED ? 1 : 0);
		expect(
			gougeOf(plan, [plate, circlePath(60, 45, 6), circlePath(40, 40, 4)], 0.1, 'outside', false).gouge
		).toBeLessThan(0.006);
	});
});

describe('the cut against the drawing', () => {
	test('areas beside the lines: the corners that a round tool leaves, nothing that it took', () => {
		const lines = [rect(10, 10, 40, 30)];
		const plan = planned(lines, { ...ROUTED, side: 'inside' });
		const { rest, gouged } = areasBeside(cutBeside(plan.moves, lines, 1.5));
		// Four corners, each by its two sides: between a side and the circle of the tool, twice r2 (1 - pi / 4) in all where seen
		// along the normals; on a line of 140 mm nothing else but thousandths.
		expect(rest).toBeGreaterThan(2 * (1 - Math.PI / 4) * 1.5 ** 2);
		expect(rest).toBeLessThan(6 * (1 - Math.PI / 4) * 1.5 ** 2);
		expect(gouged).toBeLessThan(0.2);
		const deep = planned(lines, { ...ROUTED, side: 'inside', tool: { kind: 'cutter', diameter: 3.2 } });
		// A tool that is wider than it was reckoned with takes 0.1 mm all round.
		const worn = areasBeside(cutBeside(plan.moves, lines, 1.6));
		// 140 mm less what lies in the corners.
		expect(worn.gouged).toBeGreaterThan(0.1 * (140 - 12 * 1.5));
		expect(worn.gouged).toBeLessThan(0.1 * 140);
		expect(areasBeside(cutBeside(deep.moves, lines, 1.6)).gouged).toBeLessThan(0.2);
	});
});

describe('order by hand', () => {
	test('is kept, and what would drop too early is said', () => {
		const lines = [circlePath(50, 50, 30), circlePath(50, 50, 10), circlePath(120, 50, 20)];
		const free = planned(lines, BEAM);
		expect(free.cuts.map((c) => c.line).indexOf(1)).toBeLessThan(free.cuts.map((c) => c.line).indexOf(0));
		const fixed = planned(lines, { ...BEAM, fixed: [2, 0, 1] });
		expect(fixed.cuts.map((c) => c.line)).toEqual([2, 0, 1]);
		expect(fixed.warnings[0]).toMatch(/"line 0" is cut before "line 1"/);
		// What is not named follows in the order that is found.
		expect(planned(lines, { ...BEAM, fixed: [2] }).cuts.map((c) => c.line)).toEqual([2, 1, 0]);
		expect(planned(lines, { ...BEAM, order: 'small' }).cuts.map((c) => c.line)).toEqual([1, 2, 0]);
	});
});

describe('clearing', () => {
	test.each([
		{ pattern: 'turns' as const, downs: 3 },
		{ pattern: 'lines' as const, angle: 0, downs: 8 },
		{ pattern: 'lines' as const, angle: 33, downs: 8 }
	])('leaves nothing where the tool reaches, and no island: $pattern $angle', ({ downs: most, ...how }) => {
		const [area, island] = [rect(10, 10, 60, 40), circlePath(40, 30, 8)];
		const plan = planned([area, island], { ...ROUTED, side: 'clear', depth: 2, step: 0.45, ...how });
		// Line by line, so that the ways between cuts are not taken for cuts.
		const places: number[][] = [];
		let run: number[] = [];
		let last = { x: NaN, y: NaN };
		for (const p of below(plan.moves, -2)) {
			if (!(Math.hypot(p.x - last.x, p.y - last.y) <= 0.5)) {
				run = [];
				places.push(run);
			}
			run.push(p.x, p.y);
			last = { x: p.x, y: p.y };
		}
		const done = new EdgeTree(places.map((points) => ({ points, closed: false })));
		let left = 0;
		for (let x = 11.6; x < 68.4; x += 0.7)
			for (let y = 11.6; y < 48.4; y += 0.7)
				if (Math.hypot(x - 40, y - 30) > 9.6) left = Math.max(left, done.distance(x, y) - 1.5);
		expect(left).toBeLessThan(0.03);
		expect(gougeOf(plan, [area, island], 1.5, 'inside').gouge).toBeLessThan(0.006);
		// Linked inside: it lifts for few parts that an island keeps from each other.
		const downs = plan.moves.kinds.filter(
			(kind, i) => kind === RAPID && plan.moves.to[3 * i + 2] === 1
		).length;
		expect(downs).toBeLessThanOrEqual(most);
	});
});

describe('rest', () => {
	test('a smaller tool clears what a larger one left, and little more', () => {
		const area = polygonPath([0, 0, 60, 0, 60, 40, 32, 40, 32, 20, 28, 20, 28, 40, 0, 40]);
		const clear = (diameter: number, rest?: number) =>
			planned([area], { ...ROUTED, tool: { kind: 'cutter', diameter }, side: 'clear', depth: 2, rest });
		const [large, small, whole] = [clear(8), clear(2, 8), clear(2)];
		expect(small.cut).toBeLessThan(0.5 * whole.cut);
		expect(gougeOf(small, [area], 1, 'inside').gouge).toBeLessThan(0.006);
		// Both together leave no more than the small one alone.
		const cover = (plan: Plan) => {
			const { cuts } = drawnMoves(plan.moves);
			return new EdgeTree(cuts.map((c) => ({ points: flattenPath(c, 1e-3), closed: c.closed })));
		};
		const [byLarge, bySmall, byWhole] = [large, small, whole].map(cover);
		let worst = 0;
		for (let x = 0.3; x < 60; x += 0.6)
			for (let y = 0.3; y < 40; y += 0.6) {
				if (byWhole.distance(x, y) > 1) continue;
				worst = Math.max(worst, Math.min(byLarge.distance(x, y) - 4, bySmall.distance(x, y) - 1));
			}
		expect(worst).toBeLessThan(0.03);
		expect(refusal([circlePath(0, 0, 20)], { ...ROUTED, side: 'clear', depth: 2, rest: 6 })?.code).toBe(
			'nothing-left'
		);
	});
});

describe('a trailing knife', () => {
	/** Where the tip goes: it is pulled along and keeps its direction while lifted. */
	function tipOf(path: Toolpath, offset: number) {
		const tips: { x: number; y: number; line: number }[] = [];
		let tip = { x: -offset, y: 0 };
		let pivot = { x: 0, y: 0 };
		for (let i = 0; i < path.kinds.length; i++) {
			if (path.kinds[i] === RAPID) {
				const to = { x: path.to[3 * i], y: path.to[3 * i + 1] };
				tip = { x: to.x + tip.x - pivot.x, y: to.y + tip.y - pivot.y };
				pivot = to;
				continue;
			}
			const parts = Math.max(1, Math.ceil(moveLength(path, i) / (offset / 40)));
			for (let k = 1; k <= parts; k++) {
				pivot = moveAt(path, i, k / parts);
				const d = Math.hypot(tip.x - pivot.x, tip.y - pivot.y) || 1;
				tip = {
					x: pivot.x + ((tip.x - pivot.x) / d) * offset,
					y: pivot.y + ((tip.y - pivot.y) / d) * offset
				};
				tips.push({ ...tip, line: path.cuts[i] });
			}
		}
		return tips;
	}

	test('its tip follows the line, around corners and curves, and turns first beside it', () => {
		const lines = [rect(20, 20, 30, 20), blob(12, 4, 12)];
		const plan = planned(lines, { tool: { kind: 'knife', offset: 0.3 }, side: 'on', feed: 3000, overcut: 1 });
		const tree = new EdgeTree(lines.map((path) => ({ points: flattenPath(path, 1e-3), closed: true })));
		let since = 0;
		let last: { x: number; y: number; line: number } | undefined;
		let stray = 0;
		for (const tip of tipOf(plan.moves, 0.3)) {
			since = last && last.line === tip.line ? since + Math.hypot(tip.x - last.x, tip.y - last.y) : 0;
			last = tip;
			if (since > 1.5) stray = Math.max(stray, tree.distance(tip.x, tip.y));
		}
		expect(stray).toBeLessThan(0.02);
	});
});

describe('lines that two pieces share', () => {
	const left = rect(10, 10, 40, 30);
	test('a beam cuts the line between pieces a kerf apart once, and both come out true to size', () => {
		const pieces = [left, rect(50.2, 10, 40, 30)];
		const once = planned(pieces, { ...BEAM, common: true });
		const each = planned([left, rect(60, 10, 40, 30)], BEAM);
		expect(each.cut - once.cut).toBeCloseTo(30, 0);
		expect(gougeOf(once, pieces, 0.1, 'outside', false).gouge).toBeLessThan(0.006);
		// Nothing of either outline stays uncut.
		for (const { samples } of cutBeside(once.moves, pieces, 0.1))
			for (let i = 4; i < samples.length; i += 5) expect(samples[i]).toBeLessThan(0.03);
	});

	test('on the line: of four squares in a block each of the inner lines once', () => {
		const squares = [0, 1, 2, 3].map((k) => rect(20 * (k % 2), 20 * (k >> 1), 20, 20));
		const once = planned(squares, { tool: { kind: 'pen', width: 0.5 }, side: 'on', feed: 900, common: true });
		expect(once.cut).toBeCloseTo(6 * 40, 3);
	});

	test('nearer than the tool is wide they are refused, farther each is cut whole', () => {
		expect(refusal([left, rect(50.1, 10, 40, 30)], { ...BEAM, common: true })?.sentence).toMatch(
			/"line 0" and "line 1" lie 0.10 mm apart/
		);
		const apart = planned([left, rect(52, 10, 40, 30)], { ...BEAM, common: true });
		expect(apart.cuts).toHaveLength(2);
	});
});

describe('piece by piece', () => {
	test('all that lies in a piece and then the piece, before the next one', () => {
		const pieces = [0, 1, 2, 3].flatMap((k) => [
			rect(60 * (k % 2), 50 * (k >> 1), 40, 30),
			circlePath(60 * (k % 2) + 10, 50 * (k >> 1) + 15, 5),
			circlePath(60 * (k % 2) + 30, 50 * (k >> 1) + 15, 5)
		]);
		const { cuts } = planned(pieces, { ...ROUTED, order: 'pieces' });
		const order = cuts.map(({ line }) => Math.floor(line / 3));
		for (let k = 0; k < 12; k += 3) {
			expect(new Set(order.slice(k, k + 3)).size).toBe(1);
			expect(cuts[k + 2].line % 3).toBe(0);
		}
	});
});

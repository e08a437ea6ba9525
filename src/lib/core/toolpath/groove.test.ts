/** Grooves whose depth follows their width, against depths reckoned by hand and by following the bit. */
import { describe, expect, test } from 'vitest';
import { readFileSync } from 'node:fs';
import { output } from '../document/output';
import { readDrawingFile } from '../formats/drawing-file';
import { glyph } from '../../../../tests/glyphs';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { circlePath, polygonPath, type Path } from '../geometry/path';
import { finish } from '../progress';
import { FEED, moveAt, moveLength, moveStart, RAPID, type Toolpath } from './moves';
import { planSteps, type Plan } from './plan';
import type { CutSettings } from './settings';

const ENGRAVED: CutSettings = {
	tool: { kind: 'cutter', diameter: 12, shape: 'vee', angle: 60 },
	side: 'groove',
	feed: 900,
	plunge: 200,
	depth: 10,
	speed: 16000
};
const SLOPE = Math.tan(Math.PI / 6);

function planned(paths: readonly Path[], settings: CutSettings = ENGRAVED): Plan {
	const plan = finish(planSteps({ lines: paths.map((path, i) => ({ path, name: `line ${i}` })) }, settings));
	if (!plan.ok) throw new Error(plan.problem.sentence);
	return plan.value;
}

/** x, y and how wide the V cuts to each side there, all along what is cut. */
function cone(path: Toolpath, step = 0.1): number[] {
	const out: number[] = [];
	for (let i = 0; i < path.kinds.length; i++) {
		if (path.kinds[i] !== FEED) continue;
		const parts = Math.max(1, Math.ceil(moveLength(path, i) / step));
		for (let k = 0; k <= parts; k++) {
			const { x, y, z } = moveAt(path, i, k / parts);
			if (z < 0) out.push(x, y, -z * SLOPE);
		}
	}
	return out;
}

function followed(plan: Plan, paths: readonly Path[]) {
	const flat = paths.map((path) => ({ points: flattenPath(path, 1e-4), closed: true }));
	const edge = new EdgeTree(flat);
	const discs = cone(plan.moves);
	let gouge = 0;
	for (let d = 0; d < discs.length; d += 3)
		gouge = Math.max(gouge, discs[d + 2] - edge.distance(discs[d], discs[d + 1]));
	let missed = 0;
	for (const { points } of flat)
		for (let i = 0; i < points.length; i += 2 * Math.ceil(points.length / 400)) {
			let least = Infinity;
			for (let d = 0; d < discs.length; d += 3)
				least = Math.min(
					least,
					Math.hypot(discs[d] - points[i], discs[d + 1] - points[i + 1]) - discs[d + 2]
				);
			missed = Math.max(missed, least);
		}
	return { gouge, missed };
}
const deepestOf = ({ to, kinds }: Toolpath) =>
	kinds.reduce((least, _, i) => Math.min(least, to[3 * i + 2]), 0);

describe('a groove', () => {
	test('is as deep as half its width over the tangent of half the angle (common practice)', () => {
		const plan = planned([polygonPath([0, 0, 40, 0, 40, 6, 0, 6])]);
		expect(deepestOf(plan.moves)).toBeCloseTo(-3 / SLOPE, 2);
		const round = planned([circlePath(20, 20, 4)]);
		expect(deepestOf(round.moves)).toBeCloseTo(-4 / SLOPE, 2);
	});

	test('goes down along its way from a corner, and from there on without lifting where it may', () => {
		const { moves } = planned([polygonPath([0, 0, 40, 0, 40, 6, 0, 6])]);
		const downs = moves.kinds.reduce(
			(n, kind, i) => n + Number(kind === RAPID && moves.to[3 * i + 2] === 1),
			0
		);
		expect(downs).toBe(3);
		const [x, y, z] = moveStart(moves, moves.kinds.indexOf(FEED) + 1, [0, 0, 0]);
		expect([x, y, z].map((v) => Math.abs(v))).toEqual([0, 0, 0]);
	});

	test.each(['g', 'R', '&'])('of a letter %s cuts to both edges and over none', (letter) => {
		const paths = glyph(letter, 50);
		const { gouge, missed } = followed(planned(paths), paths);
		expect(gouge).toBeLessThan(0.01);
		expect(missed).toBeLessThan(0.03);
	});

	test('in passes: each no deeper than it may be, the last one whole', () => {
		const paths = glyph('R', 50);
		const plan = planned(paths, { ...ENGRAVED, pass: 1 });
		let above = 0;
		for (let i = 0; i < plan.moves.kinds.length; i++) {
			const [, , z] = moveStart(plan.moves, i, [0, 0, 0]);
			above = Math.min(above, z);
			// No move goes more than a pass below what was the deepest so far.
			expect(plan.moves.to[3 * i + 2]).toBeGreaterThan(above - 1.0001);
		}
		const { gouge, missed } = followed(plan, paths);
		expect(gouge).toBeLessThan(0.01);
		expect(missed).toBeLessThan(0.03);
	});

	test('wider than the V may go deep: a floor at that depth between flanks, and it says so', () => {
		const area = polygonPath([0, 0, 40, 0, 40, 30, 0, 30]);
		const plan = planned([area], { ...ENGRAVED, depth: 3 });
		expect(deepestOf(plan.moves)).toBeCloseTo(-3, 6);
		expect(plan.warnings.join()).toMatch(/wider than the V goes deep/);
		const { gouge, missed } = followed(plan, [area]);
		expect(gouge).toBeLessThan(0.01);
		expect(missed).toBeLessThan(0.03);
		// No ridge on the floor stands higher than a tenth of the depth.
		const discs = cone(plan.moves, 0.2);
		let ridge = 0;
		for (let x = 3; x < 37; x += 0.9)
			for (let y = 3; y < 27; y += 0.9) {
				let least = Infinity;
				for (let d = 0; d < discs.length; d += 3)
					if (discs[d + 2] > 3 * SLOPE - 1e-6)
						least = Math.min(least, Math.hypot(discs[d] - x, discs[d + 1] - y));
				ridge = Math.max(ridge, least / SLOPE);
			}
		expect(ridge).toBeLessThan(0.301);
	});

	test('of a rough old trace stays within it, to the innermost turn of its floor', () => {
		const read = readDrawingFile(new Uint8Array(readFileSync('static/demo/rough-owl.thread')));
		if (!read.ok) throw new Error(read.problem.sentence);
		const moon = output(read.value.drawing).lines.find(({ outline }) => outline.name === 'Moon')!.path;
		const { gouge, missed } = followed(planned([moon], { ...ENGRAVED, depth: 1.8 }), [moon]);
		expect(gouge).toBeLessThan(0.01);
		expect(missed).toBeLessThan(0.03);
	});

	test('asks for a V bit and closed lines', () => {
		const lines = [{ path: polygonPath([0, 0, 40, 0, 40, 6, 0, 6]), name: 'bar' }];
		const flat = finish(planSteps({ lines }, { ...ENGRAVED, tool: { kind: 'cutter', diameter: 3 } }));
		expect(!flat.ok && flat.problem.sentence).toMatch(/V bit/);
		const open = finish(
			planSteps({ lines: [{ path: polygonPath([0, 0, 9, 9], false), name: 'slit' }] }, ENGRAVED)
		);
		expect(!open.ok && open.problem.sentence).toMatch(/"slit" is open/);
	});
});

describe('a hole just as wide as the tool', () => {
	test('is drilled before its piece is cut; picked circles are drilled whatever their size, other lines refused', () => {
		const lines = [
			{ path: polygonPath([0, 0, 40, 0, 40, 20, 0, 20]), name: 'bar' },
			{ path: circlePath(10, 10, 1.5), name: 'hole' }
		];
		const routed: CutSettings = { ...ENGRAVED, tool: { kind: 'cutter', diameter: 3 }, side: 'outside' };
		const plan = finish(planSteps({ lines }, routed));
		if (!plan.ok) throw new Error(plan.problem.sentence);
		expect(plan.value.cuts.map((cut) => cut.name)).toEqual(['hole', 'bar']);
		expect(plan.value.cuts[0].start).toMatchObject({ x: 10, y: 10 });
		const drill = finish(planSteps({ lines: lines.slice(1) }, { ...routed, side: 'drill' }));
		expect(drill.ok && drill.value.cuts.length).toBe(1);
		const bar = finish(planSteps({ lines }, { ...routed, side: 'drill' }));
		expect(!bar.ok && bar.problem.sentence).toMatch(/"bar" is no circle/);
	});
});

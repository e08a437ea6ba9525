/** A scanned piece laid on its drawing: the kerf is found again that the piece was cut with, whatever its turn and its burrs. */
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { flattenPath } from '../geometry/edge-tree';
import { circlePath, polygonPath, transformPath, type Path } from '../geometry/path';
import { offsetPieces } from '../plane/offset';
import { finish } from '../progress';
import { seeded } from '../chance';
import { layOnSteps, trueKerf } from './scanned';

/** The outline of a cut piece as a scan gives it: moved aside by the kerf's error, dense, noisy, with burrs, turned and moved. */
function scan(drawn: readonly Path[], larger: number, seed: number) {
	const chance = seeded(seed);
	const cut =
		larger === 0 ? [...drawn] : unwrap(offsetPieces(drawn, { distance: larger, join: 'round' })).paths;
	const turn = 2 * Math.PI * chance();
	const [c, s] = [Math.cos(turn), Math.sin(turn)];
	const map = [c, s, -s, c, 200 * chance(), 200 * chance()] as const;
	return cut.map((path) => {
		const p = flattenPath(transformPath(path, map), 0.003);
		const dense: number[] = [];
		let burr = 0;
		let way = 1;
		for (let i = 0; i < p.length; i += 2) {
			const j = (i + 2) % p.length;
			const [dx, dy] = [p[j] - p[i], p[j + 1] - p[i + 1]];
			const length = Math.hypot(dx, dy);
			const parts = Math.max(1, Math.ceil(length / 0.25));
			for (let k = 0; k < parts; k++) {
				if (chance() < 0.006) [burr, way] = [3 + 6 * chance(), chance() < 0.8 ? 1 : -1];
				burr = Math.max(0, burr - 1);
				// Burrs stand out by up to half a millimetre; the scan itself wavers by a hundredth.
				const off = (burr > 0 ? way * 0.5 * chance() : 0) + 0.02 * (chance() - 0.5);
				dense.push(
					p[i] + (dx * k) / parts + (dy / length) * off,
					p[i + 1] + (dy * k) / parts - (dx / length) * off
				);
			}
		}
		return polygonPath(dense);
	});
}

const PIECES: readonly (readonly Path[])[] = [
	[blob(14, 3, 30), circlePath(4, 2, 5)],
	[polygonPath([0, 0, 60, 0, 60, 25, 35, 25, 35, 45, 0, 45]), circlePath(12, 12, 4), circlePath(48, 12, 3)],
	[blob(24, 8, 22)],
	[polygonPath([0, 0, 80, 0, 80, 30, 0, 30])]
];

describe('a scan laid on its drawing', () => {
	// All 200 with KERFS=200.
	const kerfs = Number(process.env.KERFS ?? 60);
	test(`over ${kerfs} kerf errors, turns and burrs the kerf is found to 0.02 mm`, () => {
		const chance = seeded(11);
		let worst = 0;
		for (let k = 0; k < kerfs; k++) {
			const drawn = PIECES[k % PIECES.length];
			const reckoned = 0.1 + 0.2 * chance();
			const real = Math.max(0.02, reckoned + 0.3 * (chance() - 0.5));
			const laid = unwrap(finish(layOnSteps(scan(drawn, (reckoned - real) / 2, k + 1), drawn)));
			worst = Math.max(worst, Math.abs(trueKerf(reckoned, laid.larger) - real));
		}
		expect(worst).toBeLessThan(0.02);
	});

	test('it tells how far it was turned and how much is burr', () => {
		const drawn = PIECES[1];
		const [c, s] = [Math.cos(0.4), Math.sin(0.4)];
		const moved = drawn.map((path) => transformPath(path, [c, s, -s, c, 30, -20]));
		const { turned, larger, burrs, rest } = unwrap(finish(layOnSteps(moved, drawn)));
		expect(turned).toBeCloseTo((-0.4 * 180) / Math.PI, 3);
		expect([larger, burrs, rest].map((v) => Math.abs(v) < 1e-3)).toEqual([true, true, true]);
	});

	test('another piece, another size and open lines are refused', () => {
		expect(finish(layOnSteps(PIECES[0], PIECES[3]))).toMatchObject({ ok: false });
		const twice = PIECES[1].map((path) => transformPath(path, [2, 0, 0, 2, 0, 0]));
		expect(finish(layOnSteps(twice, PIECES[1]))).toMatchObject({
			ok: false,
			problem: { code: 'another-piece' }
		});
		expect(finish(layOnSteps([polygonPath([0, 0, 5, 5], false)], PIECES[1]))).toMatchObject({ ok: false });
	});
});

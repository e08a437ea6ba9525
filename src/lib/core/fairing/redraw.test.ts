/** A redrawn stretch lies where the hand drew it: within what the stroke may be smoothed by, however shallow, at any angle. */
import { expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { circlePath, polygonPath } from '../geometry/path';
import { nearestOnPath } from '../geometry/pick';
import { redrawn } from './redraw';

/** A stroke along a straight (or round a circle of radius 30): one bulge, an S, or one that leaves along the line. */
function stroke(form: number, depth: number, width: number, round: boolean, jitter: () => number): number[] {
	const out: number[] = [];
	for (let i = 0; i <= 40; i++) {
		const t = i / 40;
		const off = depth * [Math.sin(Math.PI * t), Math.sin(2 * Math.PI * t), Math.sin(Math.PI * t) ** 2][form];
		const along = (t - 0.5) * width;
		const [x, y] = round
			? [(30 + off) * Math.cos(along / 30), (30 + off) * Math.sin(along / 30)]
			: [along, off];
		out.push(x + jitter(), y + jitter());
	}
	return out;
}

test('a thousand strokes on lines and circles: everywhere within the smoothing', () => {
	const random = chance(11);
	for (let k = 0; k < 1000; k++) {
		const tolerance = 0.3 + random();
		const depth = (random() < 0.5 ? -1 : 1) * (2 * tolerance + 8 * random());
		const round = k % 2 === 1;
		const drawn = stroke(k % 3, depth, 12 + 40 * random(), round, () => (random() - 0.5) * 0.1 * tolerance);
		const line = round ? circlePath(0, 0, 30) : polygonPath([-60, 0, 60, 0], false);
		const { path } = redrawn(line, drawn, 4.7 * tolerance, tolerance);
		let off = 0;
		for (let i = 0; i < drawn.length; i += 2)
			off = Math.max(off, nearestOnPath(path, drawn[i], drawn[i + 1], Infinity)!.distance);
		expect(off, `stroke ${k}`).toBeLessThanOrEqual(tolerance * 1.001);
	}
});

test('as seen at work: a bulge of 4 mm over 30 mm, an S of 4 mm, a bump of 4 mm on a circle arrive', () => {
	const peak = (round: boolean) => {
		const line = round ? circlePath(0, 0, 30) : polygonPath([-60, 0, 60, 0], false);
		const { path } = redrawn(
			line,
			stroke(0, 4, 30, round, () => 0),
			4,
			0.8
		);
		return nearestOnPath(path, round ? 34 : 0, round ? 0 : 4, 10)!.distance;
	};
	expect(peak(false)).toBeLessThan(0.8);
	expect(peak(true)).toBeLessThan(0.8);
});

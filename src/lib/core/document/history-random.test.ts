/** Any sequence of edits undone gives the first drawing back, bit for bit; done again, the last. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { edited } from '../../../../tests/random-drawings';
import { blob } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { newDrawing, type Drawing } from './drawing';
import { applyStep, makeStep, stepSize, type Step } from './history';
import { outlineFromPath, type Outline } from './outline';

const bits = (d: Drawing) =>
	JSON.stringify(
		[...d.records.values()].map((r) =>
			r.type === 'outline'
				? {
						...r,
						anchors: [...r.anchors],
						points: [...r.points].map((v) => (Object.is(v, -0) ? '-0' : v)),
						marks: [...r.marks]
					}
				: r
		)
	);

test('500 edits at random, undone and done again', () => {
	const move = fc.record({
		how: fc.nat(1000),
		at: fc.nat(1000),
		a: numberIn(0, 1),
		b: numberIn(0, 1)
	});
	fc.assert(
		fc.property(fc.array(move, { minLength: 500, maxLength: 500 }), (moves) => {
			const empty = newDrawing('d', 'Owl');
			const outline = outlineFromPath(blob(12, 9, 40), { id: 'o', name: 'Wing', layer: 'cut', rank: 2 });
			const first: Drawing = { ...empty, records: new Map(empty.records).set('o', outline) };
			const steps: Step[] = [];
			let drawing = first;
			for (const m of moves) {
				const record = drawing.records.get('o');
				if (record?.type !== 'outline') break;
				let next: Outline | undefined;
				try {
					next = edited(record, m);
				} catch (error) {
					// What cannot be done says so and changes nothing.
					if (!(error instanceof CoreError)) throw error;
					continue;
				}
				if (!next || next.anchors.length < 4) continue;
				expect(next.points.every(Number.isFinite)).toBe(true);
				const step = makeStep(drawing, 'Edit', { put: [next] });
				if (!step) continue;
				steps.push(step);
				drawing = applyStep(drawing, step, 'forward');
			}
			expect(steps.length).toBeGreaterThan(200);
			const last = bits(drawing);
			let back = drawing;
			for (const step of [...steps].reverse()) back = applyStep(back, step, 'back');
			expect(bits(back)).toBe(bits(first));
			let again = back;
			for (const step of steps) again = applyStep(again, step, 'forward');
			expect(bits(again)).toBe(last);
			expect(Math.max(...steps.map(stepSize))).toBeLessThan(200_000);
		}),
		{ numRuns: 6 }
	);
});

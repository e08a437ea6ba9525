/** Any sequence of edits undone gives the first drawing back, bit for bit; done again, the last. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { STRIDE } from '../geometry/path';
import { pointAt } from '../geometry/segment';
import { deleteAnchors, insertAnchors, moveAnchors, placeHandle, setKind } from './anchors';
import { newDrawing, type Drawing } from './drawing';
import { applyStep, makeStep, stepSize, type Step } from './history';
import { mendHandles, setRadius } from './handles';
import { ANCHOR_KINDS, madePlain, outlineFromPath, sourceLine, type Outline } from './outline';
import { slideOnLine, softPull } from './pulling';
import { exchangeRounds } from './rounds';
import { bendSegment, segmentToArc, withBulge } from './segments';
import { mirrorAt, transformOutline, turnBy } from './transform';

type Move = { how: number; at: number; a: number; b: number };

function edited(o: Outline, { how, at, a, b }: Move): Outline | undefined {
	const n = o.anchors.length;
	const i = at % n;
	const id = o.anchors[i];
	const dx = 6 * a - 3;
	const dy = 6 * b - 3;
	switch (how % 13) {
		case 0:
			return moveAnchors(o, new Set([id]), dx, dy);
		case 1:
			return placeHandle(o, id, 'out', o.points[7 * i] + dx, o.points[7 * i + 1] + dy);
		case 2:
			return insertAnchors(o, [{ segment: i, t: 0.1 + 0.8 * a }]).outline;
		case 3:
			return n > 6 ? deleteAnchors(o, new Set([id]), (['straight', 'through', 'kept'] as const)[at % 3]) : o;
		case 4:
			return setKind(o, new Set([id]), ANCHOR_KINDS[at % 4]);
		case 5: {
			const p = pointAt(sourceLine(o).types[i], sourceLine(o).segs, STRIDE * i, 0.5);
			return bendSegment(o, i, 0.5, p.x + dx, p.y + dy);
		}
		case 6:
			return softPull(o, id, dx, dy, { before: 10 + 20 * a, after: 10 + 20 * b });
		case 7:
			return segmentToArc(o, i);
		case 8:
			return transformOutline(o, at % 2 ? turnBy(90 * a, dx, dy) : mirrorAt(180 * b, 0, 0));
		case 9: {
			const rounds = exchangeRounds(
				o.rounds,
				[id],
				at % 2 ? (anchor) => ({ anchor, radius: 0.2 + a }) : undefined
			);
			const { rounds: _, ...rest } = o;
			return rounds ? { ...rest, rounds } : rest;
		}
		case 10:
			return slideOnLine(o, id, o.points[7 * i] + dx, o.points[7 * i + 1] + dy);
		case 11:
			return at % 3 === 0 ? madePlain(o) : mendHandles(o, [i]);
		default:
			return at % 2 ? setRadius(o, id, 'in', 1 + 20 * a) : withBulge(o, i, a - 0.5);
	}
}

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
		a: fc.double({ min: 0, max: 1, noNaN: true }),
		b: fc.double({ min: 0, max: 1, noNaN: true })
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

/** Steps come out of memory as they went in, bit for bit, however old they are. */
import { expect, test } from 'vitest';
import { edited } from '../../../../tests/random-drawings';
import { blob, chance } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { newDrawing, type Drawing } from './drawing';
import { applyStep, makeStep, type Edit, type Step } from './history';
import { KeptSteps } from './kept-steps';
import { outlineFromPath, type Outline } from './outline';

const get = (drawing: Drawing) => drawing.records.get('wing') as Outline;

/** A drawing, and many steps of it: anchors moved, renamed, records put in and taken out, a place at minus nought. */
function worked(count: number, seed: number): { first: Drawing; last: Drawing; steps: Step[] } {
	const r = chance(seed);
	const empty = newDrawing('d', 'Owl');
	const wing = outlineFromPath(blob(12, 9, 40), { id: 'wing', name: 'Wing', layer: 'cut', rank: 2 });
	const first: Drawing = { ...empty, records: new Map(empty.records).set('wing', wing) };
	const steps: Step[] = [];
	let drawing = first;
	const act = (name: string, edit: Edit) => {
		const step = makeStep(drawing, name, edit);
		if (!step) return;
		steps.push(step);
		drawing = applyStep(drawing, step, 'forward');
	};
	while (steps.length < count) {
		const which = r();
		if (which < 0.05) act('Rename', { rename: `Owl ${steps.length}` });
		else if (which < 0.1) {
			const more = { ...get(drawing), id: 'more', points: get(drawing).points.map((v, i) => (i ? v : -0)) };
			act('Put', drawing.records.has('more') ? { remove: ['more'] } : { put: [more] });
		} else {
			try {
				const next = edited(get(drawing), {
					how: Math.floor(1000 * r()),
					at: Math.floor(1000 * r()),
					a: r(),
					b: r()
				});
				if (next && next.anchors.length >= 4) act('Edit', { put: [next] });
			} catch (error) {
				// What cannot be done says so and changes nothing.
				if (!(error instanceof CoreError)) throw error;
			}
		}
	}
	return { first, last: drawing, steps };
}

/** Typed rows compared by kind and number, minus nought told from nought. */
const sameRecords = (a: Drawing, b: Drawing) => {
	expect(a.name).toBe(b.name);
	expect([...a.records]).toEqual([...b.records]);
};

test('a thousand steps, packed and not: each comes out as it went in, and they lead back to the first drawing and on to the last', () => {
	const { first, last, steps } = worked(1000, 4);
	const kept = new KeptSteps([]);
	steps.forEach((step, i) => kept.push(step, i));
	expect(kept.length).toBe(1000);
	for (const i of [0, 1, 63, 64, 500, 871, 999, 3]) expect(kept.at(i)).toEqual(steps[i]);
	expect(kept.from(990)).toEqual(steps.slice(990));
	let now = last;
	for (let i = 999; i >= 0; i--) now = applyStep(now, kept.at(i), 'back');
	sameRecords(now, first);
	for (let i = 0; i < 1000; i++) now = applyStep(now, kept.at(i), 'forward');
	sameRecords(now, last);
});

test('a step after some that were taken back leaves those out, near the end and far from it', () => {
	const { steps } = worked(700, 9);
	for (const count of [690, 600, 128, 100, 64, 5, 0]) {
		const kept = new KeptSteps([]);
		steps.forEach((step, i) => kept.push(step, i));
		kept.push(steps[count + 1], count);
		expect(kept.from()).toEqual([...steps.slice(0, count), steps[count + 1]]);
	}
});

test('a step is amended where it lies', () => {
	const { steps } = worked(400, 2);
	const kept = new KeptSteps(steps);
	expect(kept.from()).toEqual(steps);
	// What was opened at once is packed by and by.
	for (let i = 0; i < 8; i++) kept.push(steps[i], kept.length);
	kept.replace(10, steps[300]);
	kept.replace(406, steps[301]);
	expect(kept.at(10)).toEqual(steps[300]);
	expect(kept.at(11)).toEqual(steps[11]);
	expect(kept.at(406)).toEqual(steps[301]);
	expect(kept.length).toBe(408);
});

/** Every operation has its help, with a drawing that there is; the guide for readers says the same. */
import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { STATIONS } from '../stations';
import { OPERATION_HELP } from './sheets';
import { tour, TOUR, type Toured } from './tour.svelte';

const trays = readFileSync('src/lib/components/trays/operation-trays.ts', 'utf8');
const kinds = [...trays.split('satisfies')[0].matchAll(/^\t'?([a-z-]+)'?: \(\) => import/gm)].map(
	([, kind]) => kind
);

test('every kind of operation with a tray has help, and there is none without one', () => {
	expect(kinds.length).toBeGreaterThan(20);
	expect(kinds.filter((kind) => !(kind in OPERATION_HELP))).toEqual([]);
	expect(Object.keys(OPERATION_HELP).filter((kind) => !kinds.includes(kind))).toEqual([]);
});

test('each belongs to a station, has a drawing of ours, and says what people do wrong', () => {
	const drawings = readFileSync('src/lib/components/parts/ToolDrawing.svelte', 'utf8');
	const stations = STATIONS.map(({ id }) => id);
	for (const [kind, help] of Object.entries(OPERATION_HELP)) {
		expect(stations, kind).toContain(help.station);
		expect(drawings.includes(`'${help.drawing}'`), `${kind} is drawn as ${help.drawing}`).toBe(true);
		for (const sentence of [help.purpose, help.before, help.after, ...help.mistakes])
			expect(sentence, kind).toMatch(/[.]$/);
		expect(help.mistakes.length, kind).toBeGreaterThan(0);
	}
});

test('the guide for readers is made of the same sentences', () => {
	const guide = readFileSync('docs/guide.md', 'utf8');
	for (const { purpose, after } of Object.values(OPERATION_HELP)) {
		expect(guide).toContain(purpose);
		expect(guide).toContain(after);
	}
});

test('the tour goes on by what is done, waits where nothing is, and ends at its last step', () => {
	const bench = {
		drawing: { records: new Map() },
		station: 'trace',
		operation: undefined,
		selection: { entered: undefined },
		stepNames: [],
		pointer: 0
	} as unknown as { -readonly [K in keyof Toured]: Toured[K] };
	tour.look(bench);
	expect(tour.at).toBeUndefined();
	tour.start();
	tour.look(bench);
	expect(tour.at).toBe(0);
	bench.operation = { kind: 'trace' };
	tour.look(bench);
	expect(tour.at).toBe(1);
	tour.look(bench);
	expect(tour.at).toBe(1);
	for (let k = 0; k < 9; k++) tour.go(1);
	expect(tour.at).toBe(TOUR.length - 1);
	tour.look(bench);
	expect(tour.at).toBe(TOUR.length - 1);
	tour.leave();
	expect(tour.at).toBeUndefined();
});

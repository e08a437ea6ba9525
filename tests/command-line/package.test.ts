/** The core as a package of its own: built, its examples run by its own name, its page tells all that it gives. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from 'vitest';
import { unwrap } from '../../src/lib/core/errors';
import { readLines } from '../../src/lib/core/formats/formats';
import { readGcode } from '../../src/lib/core/formats/gcode-read';
import { pathArea } from '../../src/lib/core/geometry/measure';

const run = (...args: string[]) => {
	const done = spawnSync('node', args, { encoding: 'utf8' });
	expect(done.stderr).toBe('');
	return done.stdout;
};

beforeAll(() => {
	// The build made it; whoever runs this test alone gets it here.
	if (!existsSync('package/dist/index.mjs')) run('scripts/build-package.mjs');
});

test('a disc of 20 mm is traced to an outline of that area', () => {
	const svg = run('package/examples/trace.mjs');
	const [disc] = unwrap(readLines(new TextEncoder().encode(svg), 'disc.svg')).shapes;
	expect(Math.abs(pathArea(disc.paths[0]))).toBeCloseTo(100 * Math.PI, 1);
});

test('a plate with a round lug has the area that elementary geometry gives it, and so has what lies 3 mm around it', () => {
	const numbers = [...run('package/examples/plate.mjs').matchAll(/[\d.]+(?= mm)/g)].map(([n]) => Number(n));
	const [length, area] = numbers;
	const larger = numbers.at(-1)!;
	expect(length).toBeCloseTo(200 - 24 + 12 * Math.PI, 3);
	expect(area).toBeCloseTo(2400 + 72 * Math.PI, 3);
	// The grown plate, and of the grown circle what lies beyond it.
	const strip = 3 * Math.sqrt(15 * 15 - 9) + 225 * Math.asin(3 / 15);
	expect(larger).toBeCloseTo(2400 + 600 + 9 * Math.PI + (225 * Math.PI) / 2 - strip, 2);
});

test('a square is cut out: the moves read back stay half the tool outside it', () => {
	const { moves, faults } = readGcode(run('package/examples/cut.mjs'));
	expect(faults).toEqual([]);
	expect(moves.kinds.length).toBeGreaterThan(8);
});

test('what the package gives can be used with its types, and every name stands on its page', () => {
	const folder = mkdtempSync(join('package', 'use-'));
	try {
		writeFileSync(
			join(folder, 'use.ts'),
			`import { circlePath, factsOf, unwrap, offsetPieces, type Path } from 'even-thread-core';
			const path: Path = circlePath(0, 0, 3);
			const grown: readonly Path[] = unwrap(offsetPieces([path], { distance: 1, join: 'round' })).paths;
			export const area: number | undefined = factsOf(grown).area;
			// @ts-expect-error a radius is a number
			circlePath(0, 0, '3');`
		);
		const done = spawnSync(
			'node_modules/.bin/tsc',
			'--ignoreConfig --noEmit --strict --skipLibCheck --target es2022 --module esnext --moduleResolution bundler'
				.split(' ')
				.concat(join(folder, 'use.ts')),
			{ encoding: 'utf8' }
		);
		expect(done.stdout).toBe('');
		expect(done.status).toBe(0);
	} finally {
		rmSync(folder, { recursive: true });
	}
	const page = readFileSync('docs/api/README.md', 'utf8');
	const given = readFileSync('src/lib/core/index.ts', 'utf8').replace(/\/\*[^]*?\*\//g, '');
	for (const [, list] of given.matchAll(/export (?:type )?\{([^}]*)\}/g))
		for (const name of list.split(',').map((word) => word.replace(/\btype\b/, '').trim()))
			if (name) expect(page, `npm run api: ${name}`).toMatch(new RegExp(`^### ${name}\\b`, 'm'));
});

/**
 * The lines that drawings stand for, bit for bit as they were recorded: a step that should change nothing changes none of
 * them. `RECORD=1 npx vitest run tests/record` records anew, for a step that is meant to.
 */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { outlinesOf } from '../../src/lib/core/document/drawing';
import { lineOf } from '../../src/lib/core/document/outline';
import { readDrawingFile } from '../../src/lib/core/formats/drawing-file';
import type { Path } from '../../src/lib/core/geometry/path';
import { unwrap } from '../../src/lib/core/errors';
import { randomOutlines } from '../random-drawings';

const FILE = 'tests/fixtures/resolved-lines.json';
const DEMO = ['rough-owl', 'control-bars', 'mask-pictures', 'fox-puppet'];
const DRAWINGS = 1000;

function printOf(paths: readonly Path[]): string {
	const hash = createHash('sha256');
	for (const path of paths) {
		hash.update(path.closed ? 'closed' : 'open').update(path.types);
		// 0 and -0 are one place.
		const segs = path.segs.map((v) => v + 0);
		hash.update(new Uint8Array(segs.buffer, segs.byteOffset, segs.byteLength));
	}
	return hash.digest('hex').slice(0, 16);
}

function record(): Record<string, string> {
	const lines: Record<string, string> = {};
	for (const name of DEMO) {
		const { drawing } = unwrap(readDrawingFile(readFileSync(`tests/fixtures/version-2/${name}.thread`)));
		lines[name] = printOf(outlinesOf(drawing).map(lineOf));
	}
	for (let seed = 1; seed <= DRAWINGS; seed++) lines[seed] = printOf(randomOutlines(seed).map(lineOf));
	return lines;
}

test(`lines of the demo and of ${DRAWINGS} random drawings are as recorded`, () => {
	const lines = record();
	if (process.env.RECORD || !existsSync(FILE)) writeFileSync(FILE, JSON.stringify(lines, null, '\t') + '\n');
	const recorded = JSON.parse(readFileSync(FILE, 'utf8')) as Record<string, string>;
	const changed = Object.keys(recorded).filter((key) => recorded[key] !== lines[key]);
	expect(changed).toEqual([]);
});

/** Zips as they should not be: names that climb, sizes that lie, bombs, doubled and cut off entries. */
import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { CoreError } from '../errors';
import { readDrawingFile } from './drawing-file';
import { unzipped } from './unzip';

const codeOf = (bytes: Uint8Array, wants: (name: string) => boolean = () => true, most?: number) => {
	try {
		unzipped(bytes, wants, most);
		return undefined;
	} catch (error) {
		return error instanceof CoreError ? error.code : String(error);
	}
};
/** Where a name or a signature stands. */
const placesOf = (bytes: Uint8Array, what: Uint8Array): number[] => {
	const found: number[] = [];
	for (let i = 0; i + what.length <= bytes.length; i++)
		if (what.every((v, k) => bytes[i + k] === v)) found.push(i);
	return found;
};

test('what was packed comes out, packed tightly or not, and nothing that is not wanted', () => {
	fc.assert(
		fc.property(
			fc.dictionary(fc.stringMatching(/^[a-z]{1,8}$/), fc.uint8Array({ maxLength: 40_000 }), {
				minKeys: 1,
				maxKeys: 5
			}),
			fc.constantFrom(0, 6, 9),
			(files, level) => {
				const zip = zipSync(files, { level: level as 0 });
				const names = Object.keys(files);
				const out = unzipped(zip, (name) => name !== names[0]);
				expect([...out.keys()].sort()).toEqual(names.slice(1).sort());
				for (const [name, bytes] of out) expect(bytes).toEqual(files[name]);
			}
		),
		{ numRuns: 60 }
	);
});

test('a bomb is let go of long before it has gone off', () => {
	const bomb = zipSync({ 'drawing.json': new Uint8Array(40_000_000) }, { level: 9 });
	expect(bomb.length).toBeLessThan(50_000);
	expect(codeOf(bomb, () => true, 5_000_000)).toBe('too-much');
	expect(codeOf(bomb, () => true, 40_000_000)).toBeUndefined();
	expect(codeOf(bomb, (name) => name === 'another', 1)).toBeUndefined();
});

test('a size that lies changes nothing of what is counted; an entry that comes twice is refused; one that is cut off is told', () => {
	const text = strToU8('{"format":"even-thread-drawing"}'.repeat(500));
	const zip = zipSync({ 'drawing.json': text });
	for (const lie of [0, 7, 0x7fffffff]) {
		const lying = zip.slice();
		// The unpacked size: 22 bytes into the local header, 24 into the one at the end.
		for (const at of placesOf(lying, Uint8Array.of(0x50, 0x4b, 3, 4)))
			new DataView(lying.buffer).setUint32(at + 22, lie, true);
		for (const at of placesOf(lying, Uint8Array.of(0x50, 0x4b, 1, 2)))
			new DataView(lying.buffer).setUint32(at + 24, lie, true);
		expect(unzipped(lying, () => true).get('drawing.json')).toEqual(text);
	}
	const two = zipSync({ 'drawing.json': text, 'drawinh.json': text });
	for (const at of placesOf(two, strToU8('drawinh'))) two.set(strToU8('drawing'), at);
	expect(codeOf(two)).toBe('doubled');
	for (const length of [0, 10, 40, zip.length >> 1])
		expect(codeOf(zip.slice(0, length)), String(length)).toMatch(/not-zip|cut-off/);
});

test('a name that climbs is a name that nobody asks for', () => {
	const zip = zipSync({ '../../drawing.json': strToU8('{}'), '/etc/drawing.json': strToU8('{}') });
	expect(readDrawingFile(zip)).toMatchObject({ ok: false, problem: { code: 'not-drawing' } });
});

/** Damaged files by chance, a few of those that `npm run fuzz` opens by the hundred thousand. */
import { expect, test } from 'vitest';
import { damagedFile, FILE_KINDS, tryFile } from '../../../../tests/random/files';

const EACH = 40;

test.each(FILE_KINDS)(
	'%s: opened, or refused in a sentence; what opens and goes out comes in again',
	async (kind) => {
		const told = { opened: 0, refused: 0 };
		for (let at = 0; at < EACH; at++) {
			const { outcome, trouble } = await tryFile(damagedFile(41, at, [kind]));
			expect(trouble, `${kind} ${at}`).toBeUndefined();
			told[outcome!]++;
		}
		expect(told.opened + told.refused).toBe(EACH);
		if (['svg', 'dxf', 'thread', 'picture', 'pdf', 'workshop'].includes(kind))
			expect(Math.min(told.refused, told.opened)).toBeGreaterThan(0);
	}
);

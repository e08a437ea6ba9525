/** Shapes that are hard to trace, one of each kind that `npm run hard-shapes` draws by the hundred: none comes out worse than it did. */
import { expect, test } from 'vitest';
import { CONDITIONS, FAMILIES, scoreOf, scoreOfColours } from '../../../../tests/random/hard-shapes';
import { chance } from '../../../../tests/shapes';

/** px: the largest distance both ways, about a fifth above what was measured. */
test.each([
	['needles', 'clean', 0.14],
	['needles', 'faint', 0.14],
	['needles', 'half', 0.14],
	['hairlines', 'clean', 0.14],
	['hairlines', 'faint', 0.14],
	['strokes', 'clean', 0.1],
	['strokes', 'half', 0.14],
	['strokes', 'twotone', 0.7],
	['curls', 'clean', 0.25],
	['curls', 'faint', 0.25]
])('%s, %s: within %s px of what was drawn, each of them found', (family, condition, most) => {
	const r = chance(21_000);
	const score = scoreOf(FAMILIES[family](r), CONDITIONS[condition], r);
	expect(score.problem).toBeUndefined();
	expect(score.found).toBe(score.wanted);
	expect(score.distance).toBeLessThan(most);
	expect(score.mean).toBeLessThan(most / 4);
});

test('pieces of flat colours that meet in a point: within a twentieth of a pixel, and nothing crosses', () => {
	const { distance, found, wanted } = scoreOfColours(chance(21_000));
	expect(found).toBe(wanted);
	expect(distance).toBeLessThan(0.05);
});

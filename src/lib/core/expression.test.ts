/** Formulas: worked by hand and by the language's own arithmetic; what is no formula says where. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readFormula } from './expression';

const value = (text: string, values = {}, options = {}) => readFormula(text, options).at(values);

test('what common practice in mathematics says of signs, powers, brackets and units', () => {
	expect(value('2 + 3 * 4')).toBe(14);
	expect(value('-3^2')).toBe(-9);
	expect(value('(-3)^2')).toBe(9);
	expect(value('2*-3^2')).toBe(-18);
	expect(value('2^3^2')).toBe(512);
	expect(value('2^-1')).toBe(0.5);
	expect(value('10 - 2 - 3')).toBe(5);
	expect(value('hip / 4 + 5 mm', { hip: 920 })).toBe(235);
	expect(value('1 in + 1 cm')).toBeCloseTo(35.4, 12);
	expect(value('1,5 * 2')).toBe(3);
	expect(value('max(1, 2, 7) + min(3, 4)')).toBe(10);
	expect(value('sin(90)', {}, { degrees: true })).toBeCloseTo(1, 15);
	expect(value('atan2(1, 1)', {}, { degrees: true })).toBeCloseTo(45, 12);
	expect(value('cos(pi)')).toBe(-1);
	expect(value('mod(-1, 4)')).toBe(3);
	expect(readFormula('a * sin(b) + a').names).toEqual(['a', 'b']);
});

test('sums of products at random are what the language itself makes of them', () => {
	const tree = fc.letrec((tie) => ({
		node: fc.oneof(
			{ maxDepth: 5 },
			fc.integer({ min: 1, max: 99 }).map((v) => ({ text: String(v), value: v })),
			fc.tuple(tie('node'), fc.constantFrom('+', '-', '*', '/'), tie('node')).map(([a, op, b]) => {
				const [l, r] = [a, b] as { text: string; value: number }[];
				const ways: Record<string, number> = {
					'+': l.value + r.value,
					'-': l.value - r.value,
					'*': l.value * r.value,
					'/': l.value / r.value
				};
				return { text: `(${l.text} ${op} ${r.text})`, value: ways[op] };
			})
		)
	})).node as fc.Arbitrary<{ text: string; value: number }>;
	fc.assert(
		fc.property(tree, ({ text, value: wanted }) => {
			fc.pre(text.length < 400 && Number.isFinite(wanted));
			const got = value(text);
			expect(Math.abs(got - wanted)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(wanted)));
		})
	);
});

test.each([
	['', /missing/],
	['2 +', /too early/],
	['2 $ 3', /sign is missing/],
	['2 # 3', /not understood at "#/],
	['2 x', /sign is missing/],
	['foo(2)', /no function/],
	['sin', /brackets/],
	['sin(1, 2)', /takes 1 value/],
	['a.b', /no formula/],
	['a[0]', /no formula/],
	['"text"', /not understood/],
	['x = 3', /not understood|sign is missing/],
	['constructor(1)', /no function/],
	[`${'('.repeat(80)}1${')'.repeat(80)}`, /.*/],
	['1+'.repeat(300) + '1', /letters long/]
])('%s is refused in a sentence', (text, says) => {
	if (text.startsWith('((')) expect(value(text)).toBe(1);
	else expect(() => readFormula(text)).toThrow(says);
});

test('names that are not known are told; what a name like "toString" means is nothing', () => {
	expect(() => readFormula('hip + 1', { known: new Set(['waist']) })).toThrow(/"hip" is no name/);
	expect(value('toString + 1', {})).toBeNaN();
	expect(value('__proto__ + 1', {})).toBeNaN();
});

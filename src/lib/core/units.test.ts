import { expect, test } from 'vitest';
import { formatArea, formatLength, lengthDigits, MM_PER, parseLength, parseNumber } from './units';

test.each([
	['12', 'mm', 12],
	['12,5 mm', 'in', 12.5],
	['5 3/8 in', 'mm', 136.525],
	['3/8"', 'mm', 9.525],
	['3\' 4"', 'mm', 1016],
	['3\' 4 1/2"', 'mm', 1028.7],
	['2*15+3', 'mm', 33],
	['(2 + 3) * 4 cm', 'mm', 200],
	['1 in + 10 mm', 'mm', 35.4],
	['1 in + 1', 'mm', 26.4],
	['-3', 'mm', -3],
	['10 / 4', 'mm', 2.5],
	['.5', 'cm', 5],
	['2 m', 'mm', 2000],
	['1e1', 'mm', 10],
	['5/8', 'in', 15.875],
	['100 mm / 2', 'mm', 50],
	['20 − 5', 'mm', 15],
	['+4', 'mm', 4],
	['10 cm / 2 cm', 'mm', 5]
] as const)('%s in %s is %f mm', (text, unit, mm) => {
	const read = parseLength(text, unit);
	expect(read).toMatchObject({ ok: true });
	if (read.ok) expect(read.value).toBeCloseTo(mm, 9);
});

test.each([
	'',
	'abc',
	'5 apples',
	'1/0',
	'5 mm * 3 mm',
	'2 +',
	'(3',
	'1/0 in',
	'5 mm cm',
	'5 1/0',
	'3 mm + 2 mm * 2 mm'
])('"%s" is told apart', (text) => {
	expect(parseLength(text, 'mm')).toMatchObject({ ok: false, problem: { code: 'not-a-length' } });
});

test('a result wildly out of scale is questioned', () => {
	expect(parseLength('1e300', 'mm')).toMatchObject({
		problem: { code: 'too-far', sentence: expect.stringContaining('Is the unit right') }
	});
	expect(parseLength('50 m', 'mm').ok).toBe(false);
});

test('numbers for people always show their unit', () => {
	expect(formatLength(25.4, 'in')).toBe('1 in');
	expect(formatLength(0.005, 'mm')).toBe('0.01 mm');
	expect(formatLength(-0.0001, 'mm')).toBe('0 mm');
	expect(lengthDigits(12.5, 'cm')).toBe('1.25');
	expect(formatArea(645.16, 'in')).toBe('1 in²');
	expect(formatArea(12345, 'mm')).toBe('123.5 cm²');
	expect(formatArea(120, 'cm')).toBe('1.2 cm²');
	expect(MM_PER.ft).toBeCloseTo(12 * MM_PER.in, 9);
	expect(parseNumber('45°')).toEqual({ ok: true, value: 45 });
	expect(parseNumber('x').ok).toBe(false);
});

test('fractions as one letter or hung on by a line, thousands with blanks, points or commas, x as times', () => {
	const read = (text: string, unit: 'mm' | 'in' = 'mm') => {
		const length = parseLength(text, unit);
		return length.ok ? +length.value.toFixed(9) : length.problem.code;
	};
	expect(read('5-3/8 in')).toBe(136.525);
	expect(read('5-3/8"')).toBe(136.525);
	expect(read('5-3/8', 'in')).toBe(136.525);
	// In millimetres, or with blanks, it is taken away.
	expect(read('5-3/8')).toBe(4.625);
	expect(read('5 - 3/8 in', 'in')).toBe(117.475);
	expect(read('½ in')).toBe(12.7);
	expect(read('5½"')).toBe(139.7);
	expect(read('5 ½"')).toBe(139.7);
	expect(read('5\' 4"')).toBe(1625.6);
	expect(read('5\' 4½"')).toBe(1638.3);
	expect(read('1 000')).toBe(1000);
	expect(read('1 234,5')).toBe(1234.5);
	expect(read('1.234,5')).toBe(1234.5);
	expect(read('1,234.5')).toBe(1234.5);
	expect(read('1,234,567 / 1000')).toBe(1234.567);
	expect(read('2 x 3')).toBe(6);
	expect(read('2x3 cm')).toBe(60);
	expect(read('5 3/8 in')).toBe(136.525);
	// One comma with three digits behind it may be either: that is asked.
	expect(read('1,234')).toBe('in-doubt');
	expect(read('0,125')).toBe(0.125);
	expect(read('12,5')).toBe(12.5);
	expect(read('1.234')).toBe(1.234);
});

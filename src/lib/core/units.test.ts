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

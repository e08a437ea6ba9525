/** Numbers, dates and paper as a person wishes; what is taken along to another browser. */
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { unwrap } from '../../core/errors';
import { formatLength, formatNumber, parseLength, useDecimalMark, useInchParts } from '../../core/units';
import { takeWishes, wishesHere } from './wishes';

let kept: Map<string, string>;
beforeEach(() => {
	kept = new Map();
	vi.stubGlobal('localStorage', {
		getItem: (name: string) => kept.get(name) ?? null,
		setItem: (name: string, value: string) => kept.set(name, value)
	});
	vi.resetModules();
});
afterEach(() => {
	vi.unstubAllGlobals();
	useDecimalMark(() => '.');
});
const withLanguage = async (language: string) => {
	vi.stubGlobal('navigator', { language });
	return (await import('./locale.svelte')).locale;
};

describe('as the region writes', () => {
	// Intl of the platform (CLDR) is the source of how regions write.
	test.each([
		['en-US', false, 'Letter'],
		['de-DE', true, 'A4'],
		['fr-CA', true, 'Letter'],
		['en-GB', false, 'A4'],
		['ja-JP', false, 'A4'],
		['pl', true, 'A4']
	])('%s: comma %s, paper %s', async (language, comma, paper) => {
		const locale = await withLanguage(language);
		expect([locale.comma, locale.paper]).toEqual([comma, paper]);
	});

	test('a wish goes before it, is kept, and is taken back', async () => {
		const locale = await withLanguage('en-US');
		locale.set({ comma: true, paper: 'A4', tag: 'de-AT' });
		expect([locale.comma, locale.paper, locale.tag]).toEqual([true, 'A4', 'de-AT']);
		vi.resetModules();
		const next = await withLanguage('en-US');
		expect([next.comma, next.paper, next.tag]).toEqual([true, 'A4', 'de-AT']);
		next.set({ comma: undefined, paper: undefined, tag: undefined });
		expect([next.comma, next.paper, next.tag]).toEqual([false, 'Letter', 'en-US']);
	});
});

describe('with a comma', () => {
	beforeEach(() => useDecimalMark(() => ','));
	const read = (text: string) => {
		const result = parseLength(text, 'mm');
		return result.ok ? result.value : result.problem.code;
	};

	test('numbers are written with it, everywhere the same', () => {
		expect(formatLength(12.345, 'mm')).toBe('12,35 mm');
		expect(formatNumber(-0.5, 3)).toBe('-0,5');
		expect(formatLength(136.525, 'in/64')).toBe('5 3/8 in');
		expect(formatNumber(1000, 2)).toBe('1000');
	});

	test('fractions of an inch are as fine as is wished, in their lowest terms', () => {
		const written = ([8, 16, 32, 64] as const).map((parts) => {
			useInchParts(() => parts);
			return ['5.3907in', '0.99in', '-1/64in'].map((text) =>
				formatLength(unwrap(parseLength(text, 'in')), 'in/64')
			);
		});
		useInchParts(() => 64);
		expect(written).toEqual([
			['5 3/8 in', '1 in', '0 in'],
			['5 3/8 in', '1 in', '0 in'],
			['5 13/32 in', '1 in', '-1/32 in'],
			['5 25/64 in', '63/64 in', '-1/64 in']
		]);
	});

	test('both marks are understood; three digits behind a point are asked about, behind a comma they are not', () => {
		expect(['1,5', '1.5', '0,125', '12,345', '1.234,5', '1 000,5'].map(read)).toEqual([
			1.5, 1.5, 0.125, 12.345, 1234.5, 1000.5
		]);
		expect(read('1.234')).toBe('in-doubt');
		useDecimalMark(() => '.');
		expect(read('1.234')).toBe(1.234);
		expect(read('1,234')).toBe('in-doubt');
	});

	test('what is shown is read back as what it was, in either way of writing', () => {
		for (const mark of [',', '.'] as const) {
			useDecimalMark(() => mark);
			for (let k = 1; k < 400; k++) {
				const mm = (k * 7919) / 1000;
				const shown = parseLength(formatLength(mm, 'mm'), 'mm');
				expect(shown.ok && Math.abs(shown.value - mm) <= 0.005 + 1e-9).toBe(true);
			}
		}
	});
});

describe('how long ago', () => {
	test('in words within a week, the date before', async () => {
		await withLanguage('en-GB');
		const { ago } = await import('./dates');
		const now = Date.UTC(2026, 10, 29, 12);
		const minutes = (n: number) => ago(now - n * 60_000, now);
		expect([0.5, 1, 59, 60, 60 * 23, 60 * 24, 60 * 24 * 6].map(minutes)).toEqual([
			'just now',
			'1 minute ago',
			'59 minutes ago',
			'1 hour ago',
			'23 hours ago',
			'yesterday',
			'6 days ago'
		]);
		expect(minutes(60 * 24 * 9)).toContain('2026');
	});
});

test('wishes go along with all drawings; what was said here stays, what is unknown is left, a screen’s size is the screen’s', () => {
	kept.set('light', 'lamp');
	kept.set('screen-px-per-mm', '4.1');
	kept.set('unknown', 'x');
	expect(wishesHere()).toEqual({ light: 'lamp' });
	takeWishes({ light: 'day', keys: '{"single":false}', unknown: 'y', snaps: 7 });
	expect(kept.get('light')).toBe('lamp');
	expect(kept.get('keys')).toBe('{"single":false}');
	expect(kept.get('unknown')).toBe('x');
	expect(kept.has('snaps')).toBe(false);
	takeWishes('nonsense');
});

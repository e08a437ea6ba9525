/** Keys that are changed, switched off, written for people. */
import { beforeEach, expect, test, vi } from 'vitest';
import { isSingle, keyName, type keys as Shared } from './keys.svelte';

const ALL = [
	{ id: 'trace', key: 't' },
	{ id: 'comb', key: 'Shift+v' },
	{ id: 'undo', key: '$mod+z' },
	{ id: 'band' }
];
let keys: typeof Shared;
beforeEach(async () => {
	const kept = new Map<string, string>();
	vi.stubGlobal('localStorage', {
		getItem: (name: string) => kept.get(name) ?? null,
		setItem: (name: string, value: string) => kept.set(name, value)
	});
	vi.resetModules();
	({ keys } = await import('./keys.svelte'));
});

test('a key that another had goes over; given back both are as they came; kept for the next page', async () => {
	expect(keys.change(ALL[3], 't', ALL)).toBe(ALL[0]);
	expect(ALL.map((c) => keys.of(c))).toEqual([undefined, 'Shift+v', '$mod+z', 't']);
	vi.resetModules();
	const next = (await import('./keys.svelte')).keys;
	expect(next.of(ALL[3])).toBe('t');
	expect(next.change(ALL[0], 't', ALL)).toBe(ALL[3]);
	expect(next.isChanged).toBe(false);
	next.change(ALL[2], '', ALL);
	expect(next.of(ALL[2])).toBeUndefined();
	next.reset();
	expect(next.of(ALL[2])).toBe('$mod+z');
});

test('letters and signs alone are switched off, those with Ctrl stay', () => {
	keys.single = false;
	expect(ALL.map((c) => keys.of(c))).toEqual([undefined, undefined, '$mod+z', undefined]);
	expect(keys.given(ALL[0])).toBe('t');
});

test('what counts as a letter alone; how keys are written', () => {
	expect(['a', 'Shift+a', '+', 'Shift+?', 'Shift++'].every(isSingle)).toBe(true);
	expect(['$mod+a', 'Alt+a', 'Enter', 'Shift+Tab', '$mod++'].some(isSingle)).toBe(false);
	expect(['t', 'Shift+v', '$mod+Shift+s', '+', '$mod++', 'Enter'].map(keyName)).toEqual([
		'T',
		'Shift + V',
		'Ctrl + Shift + S',
		'+',
		'Ctrl + +',
		'Enter'
	]);
});

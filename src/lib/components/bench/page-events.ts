/** What the bench hears of the page: the clipboard, the state before the last step while Q is held, where the keys go, leaving. */
import type { Bench } from '$lib/stores/bench.svelte';
import { answerCopy, answerPaste } from '$lib/stores/copying';
import { keys } from '$lib/stores/keys.svelte';
import { isTyping } from './bench-keys';
import { backToSurface } from '../parts/focus';

/** @param signal ends it. */
export function listenToPage(bench: Bench, signal: AbortSignal): void {
	showBefore(bench, signal);
	const copy = (event: ClipboardEvent) => {
		if (!isTyping(bench, event)) answerCopy(bench, event, event.type === 'cut');
	};
	addEventListener('copy', copy, { signal });
	addEventListener('cut', copy, { signal });
	addEventListener(
		'paste',
		(event) => {
			if (isTyping(bench, event) || !event.clipboardData) return;
			event.preventDefault();
			void answerPaste(bench, event.clipboardData);
		},
		{ signal }
	);
	keepKeys(bench, signal);
	// What is not written yet would be lost with the page.
	addEventListener('beforeunload', (event) => bench.saving && event.preventDefault(), { signal });
	addEventListener('pagehide', () => bench.pen?.finish(), { signal });
}

/** While Q is held the drawing is shown as it was before the last step, or before the operation. */
function showBefore(bench: Bench, signal: AbortSignal): void {
	const isQ = (event: KeyboardEvent) => event.key.toLowerCase() === 'q';
	addEventListener(
		'keydown',
		(event) => {
			if (!keys.single || !isQ(event) || event.ctrlKey || event.metaKey) return;
			if (isTyping(bench, event) || bench.before) return;
			bench.before = bench.operation ? bench.drawing : bench.previous();
		},
		{ signal }
	);
	addEventListener(
		'keyup',
		(event) => {
			if (isQ(event)) bench.before = undefined;
		},
		{ signal }
	);
}

/** The keys stay with the drawing, or come back to it. */
function keepKeys(bench: Bench, signal: AbortSignal): void {
	// A click with the mouse leaves them with the drawing; by keyboard the focus stays where it is.
	addEventListener(
		'click',
		(event) => {
			const button = (event.target as HTMLElement).closest?.('button');
			if (event.detail > 0 && button && !bench.sheet && !bench.finding) backToSurface();
		},
		{ signal }
	);
	// Where what had the focus has gone away, the drawing gets it.
	addEventListener(
		'focusout',
		() =>
			setTimeout(() => {
				const isLost = document.activeElement === document.body && document.hasFocus();
				// A dialog that is only just coming finds it there, and gives it back there.
				if (isLost && !document.querySelector('[role=dialog]')) backToSurface();
			}),
		{ signal }
	);
}

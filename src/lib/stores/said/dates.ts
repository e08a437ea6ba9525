/** Dates and times as the person's own language and region write them. */
import { locale } from './locale.svelte';

const MINUTE_MS = 60_000;
/** From how many of a unit on the next larger one is used. */
const UNITS = [
	['minute', 60],
	['hour', 24],
	['day', 7]
] as const;

/** A date with its time. */
export const dateAndTime = (at: number): string =>
	new Intl.DateTimeFormat(locale.tag, { dateStyle: 'medium', timeStyle: 'short' }).format(at);
/** A date. */
export const date = (at: number): string =>
	new Intl.DateTimeFormat(locale.tag, { dateStyle: 'medium' }).format(at);

/** How long ago it was: in words within a week, the date before. */
export function ago(at: number, now = Date.now()): string {
	const words = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
	let passed = Math.floor((now - at) / MINUTE_MS);
	if (passed < 1) return 'just now';
	for (const [unit, most] of UNITS) {
		if (passed < most) return words.format(-passed, unit);
		passed = Math.floor(passed / most);
	}
	return dateAndTime(at);
}

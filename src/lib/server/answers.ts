/** Answers of the server's routes: a value, or a problem in plain words with a fitting status. */
import { json } from '@sveltejs/kit';
import type { Problem } from '../core/errors';

const STATUS: Readonly<Record<string, number>> = {
	busy: 409,
	'cover-open': 409,
	'no-paper': 409,
	'no-machine': 404,
	'nothing-scanned': 404,
	'too-large': 413,
	'too-slow': 408,
	'cut-off': 400,
	'too-long': 503,
	'too-many': 503,
	'no-queue': 503,
	died: 503
};

export function problemAnswer(problem: Problem): Response {
	return json({ problem }, { status: STATUS[problem.code] ?? 400 });
}

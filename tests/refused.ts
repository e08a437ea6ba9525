/** What is refused, and why. */
import { expect } from 'vitest';
import type { Problem, Result } from '../src/lib/core/errors';

/** The problem of what must not work. */
export function problem(result: Result<unknown>): Problem {
	if (result.ok) expect.fail('It was not refused.');
	return result.problem;
}

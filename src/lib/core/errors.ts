/** What went wrong, as plain data: a stable code and one sentence for the person at the machine. */
export interface Problem {
	readonly code: string;
	readonly sentence: string;
}

/** The outcome of work that may ordinarily fail. */
export type Result<T> =
	{ readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

export function done<T>(value: T): Result<T> {
	return { ok: true, value };
}

export function failed<T = never>(code: string, sentence: string): Result<T> {
	return { ok: false, problem: { code, sentence } };
}

/** A call that is wrong or beyond a limit. The message is a whole sentence that a maker understands. */
export class CoreError extends Error {
	readonly code: string;
	constructor(code: string, sentence: string) {
		super(sentence);
		this.name = 'CoreError';
		this.code = code;
	}
}

/** Turns anything thrown into plain data that can cross to another thread. */
export function toProblem(error: unknown): Problem {
	if (error instanceof CoreError) return { code: error.code, sentence: error.message };
	return {
		code: 'unexpected',
		sentence: `Something unexpected went wrong: ${error instanceof Error ? error.message : String(error)}`
	};
}

/** Whether something is a failed result. */
export const isFailure = (value: unknown): value is { readonly ok: false; readonly problem: Problem } =>
	typeof value === 'object' && value !== null && 'ok' in value && value.ok === false && 'problem' in value;

/** The value of a result, or its problem thrown as a CoreError. */
export function unwrap<T>(result: Result<T>): T {
	if (result.ok) return result.value;
	throw new CoreError(result.problem.code, result.problem.sentence);
}

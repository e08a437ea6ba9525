/**
 * Kinds whose reckoning comes later than the rest: what of them is needed to open and show a drawing is there at once. Until
 * their reckoning is provided (`reckonings.ts`) their lines count as dear, and are made by the worker, which has it.
 */
import type { Point } from '../../geometry/point';
import { type Result } from '../../errors';
import type { InputLine, MadeLine } from './recipe-type';

/** What a kind does beside being read and shown. */
export interface Reckoning<S> {
	resolve(
		inputs: readonly InputLine[],
		settings: S,
		draft: boolean
	): Generator<number, Result<readonly MadeLine[]>>;
	put?(settings: S, at: Point): { readonly settings: S; readonly key: string } | undefined;
	/** The settings with a number typed of which more follows than the number. */
	typed?(settings: S, name: string, value: number): S;
}

export class Late<S> {
	private reckoning: Reckoning<S> | undefined;

	provide(reckoning: Reckoning<S>): void {
		this.reckoning = reckoning;
	}
	get isThere(): boolean {
		return this.reckoning !== undefined;
	}
	/** @throws Error where nobody has provided it: the program is put together wrongly. */
	resolve(
		inputs: readonly InputLine[],
		settings: S,
		draft = false
	): Generator<number, Result<readonly MadeLine[]>> {
		if (!this.reckoning) throw new Error('The reckoning of this recipe was not provided.');
		return this.reckoning.resolve(inputs, settings, draft);
	}
	typed(settings: S, name: string, value: number): S {
		return this.reckoning?.typed?.(settings, name, value) ?? { ...settings, [name]: value };
	}
	put(settings: S, at: Point): { readonly settings: S; readonly key: string } | undefined {
		return this.reckoning?.put?.(settings, at);
	}
}

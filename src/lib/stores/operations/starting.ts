/** The table of operations: how each begins; and what begins, keeps and drops any of them. A new one is a line here. */
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import type { Station } from '../stations';
import { beginAllowance } from './allowance-operation.svelte';
import { beginCombine } from './combine-operation.svelte';
import { beginCorner } from './corner-operation.svelte';
import { beginExtend } from './extend-operation.svelte';
import { beginFair, strongerFair, type FairOperation } from './fair-operation.svelte';
import { beginJoin } from './join-operation.svelte';
import { beginMeet } from './meet-operation.svelte';
import { beginOffset } from './offset-operation.svelte';
import { layOn } from './laying-on';
import type { Operation } from './operation.svelte';
import { beginPart } from './part-operation.svelte';
import { beginPlace } from './place-operation.svelte';
import { beginSimplify, lastTolerance } from './simplify-operation.svelte';
import { beginTrace } from './trace-operation.svelte';
import { beginTrim } from './trim-operation.svelte';

export const OPERATIONS = {
	trace: { station: 'trace', begin: beginTrace },
	simplify: { station: 'mend', begin: beginSimplify },
	fair: { station: 'mend', begin: beginFair },
	offset: { station: 'offset', begin: beginOffset },
	allowance: { station: 'offset', begin: beginAllowance },
	combine: { station: 'build', begin: beginCombine },
	join: { station: 'build', begin: beginJoin },
	trim: { station: 'build', begin: beginTrim },
	corner: { station: 'build', begin: beginCorner },
	meet: { station: 'build', begin: beginMeet },
	place: { station: 'build', begin: beginPlace },
	extend: { station: 'build', begin: beginExtend },
	part: { station: 'build', begin: beginPart }
} as const satisfies Record<string, { station: Station; begin: (bench: Bench, ...more: never[]) => unknown }>;

export type OperationKind = keyof typeof OPERATIONS;
type More<K extends OperationKind> =
	Parameters<(typeof OPERATIONS)[K]['begin']> extends [Bench, ...infer R] ? R : never;
type Begun<K extends OperationKind> = Extract<ReturnType<(typeof OPERATIONS)[K]['begin']>, Operation>;

/**
 * Begins an operation on what is selected, with what was typed last, in place of the one that lay on the bench.
 * @returns undefined where there is nothing to work on, which is told where it is worth a word.
 */
export function start<K extends OperationKind>(
	bench: Bench,
	kind: K,
	...more: More<K>
): Begun<K> | undefined {
	const { station, begin } = OPERATIONS[kind];
	const made = (begin as (bench: Bench, ...more: unknown[]) => Operation | string | undefined)(
		bench,
		...more
	);
	return layOn(bench, station, made) as Begun<K> | undefined;
}

/** Simplifies whole outlines, or the stretch between selected anchors. */
export function startSimplify(bench: Bench): void {
	if (bench.selection.enteredOutlines.some((o) => bench.selection.anchorsOf(o.id).size > 1))
		start(bench, 'fair', { way: 'simplify', drift: lastTolerance() });
	else start(bench, 'simplify');
}

/** Presses of "fair again" that wait for the one before them. */
const presses: { readonly bench: Bench; readonly stronger: number }[] = [];
let isFairing = false;

/** Fairs again as last time, `stronger` times as strong, and keeps it at once; each press counts, one after the other. */
export async function fairAgain(bench: Bench, stronger: number): Promise<void> {
	presses.push({ bench, stronger });
	if (isFairing) return;
	isFairing = true;
	try {
		for (let next = presses.shift(); next; next = presses.shift()) await fairOnce(next.bench, next.stronger);
	} finally {
		// What stopped one press (Esc, another tool) stops those behind it.
		presses.length = 0;
		isFairing = false;
	}
}

async function fairOnce(bench: Bench, stronger: number): Promise<void> {
	const operation: FairOperation | undefined = start(bench, 'fair', strongerFair(stronger));
	if (!operation) return;
	if (stronger > 1) operation.set({ drift: operation.drift * stronger });
	await operation.settled();
	if (bench.operation !== operation) {
		presses.length = 0;
		return;
	}
	if (operation.ready) await keepOperation(bench);
	else {
		bench.dropOperation();
		bench.tell(operation.problem?.sentence ?? operation.nothing ?? '');
	}
}

/** What the operation on the bench gives becomes a step; where it is still being reckoned, once it is there. */
export async function keepOperation(bench: Bench): Promise<void> {
	const { operation } = bench;
	if (operation?.busy && !operation.ready) {
		await operation.settled();
		if (bench.operation !== operation) return;
	}
	if (!operation?.ready) {
		if (operation && !operation.busy && operation.nothing) bench.tell(operation.nothing);
		return;
	}
	const edit = operation.edit(bench.drawing, newId);
	operation.remember();
	bench.operation = undefined;
	if (bench.commit(operation.name, edit)) operation.kept(bench, edit);
	else bench.tell('Nothing changed: there was nothing to gain.');
}

/**
 * Mending: each mend is tried and looked at before it is kept. What would leave as much to mend as before, or something new,
 * is not done and stays with its reason.
 */
import type { Drawing } from '../document/drawing';
import { isFollower } from '../document/graph';
import { applyStep, makeStep, type Edit } from '../document/history';
import type { Outline } from '../document/outline';
import type { NewId } from '../document/edits/operations';
import { instanceIn } from '../document/repeats';
import { pathLength } from '../geometry/measure';
import { boxOf } from '../geometry/pick';
import { part } from '../progress';
import { checkedOf, isMendable, type Checked } from './checked';
import type { Fault, FaultKind } from './fault';
import { mendFault } from './mend';
import { faultSteps, findFaults } from './readiness';

export interface Mended {
	readonly edit: Edit;
	/** How many of each kind were mended. */
	readonly done: readonly { readonly kind: FaultKind; readonly count: number }[];
	/** What could not be, each with the reason. */
	readonly left: readonly { readonly fault: Fault; readonly name: string; readonly why: string }[];
}

/** mm: lines this near to what changes may be touched by it. */
const BESIDE = 1;

/** How often the whole is looked through: what one mend uncovers the next one takes. */
const ROUNDS = 4;

/** Mends everything of which it is clear how. Yields how far it has come, 0 to 1. */
export function* mendAllSteps(drawing: Drawing, newId: NewId): Generator<number, Mended> {
	let now = drawing;
	const counts = new Map<FaultKind, number>();
	let left: Mended['left'] = [];
	for (let round = 0; round < ROUNDS; round++) {
		const share = (k: number) => (round + k) / ROUNDS;
		const checked = checkedOf(now);
		const { mayBeOpen } = checked;
		const faults = yield* part(faultSteps(checked.paths, { mayBeOpen }), share(0), share(0.5));
		const stays: { fault: Fault; name: string; why: string }[] = [];
		let done = 0;
		for (const [i, fault] of faults.entries()) {
			yield share(0.5 + (0.5 * i) / faults.length);
			const outline = fault.outline === undefined ? undefined : checked.outlines[fault.outline];
			const tried = isGuess(fault, checked)
				? { ok: false as const, why: `How it is to be closed is not clear: ${fault.why}` }
				: tryMend(now, fault, checked.outlines, newId);
			if (tried.ok) {
				now = tried.drawing;
				done++;
				counts.set(fault.kind, (counts.get(fault.kind) ?? 0) + 1);
			} else stays.push({ fault, name: outline?.name ?? '', why: tried.why });
		}
		left = stays;
		if (done === 0) break;
	}
	return {
		edit: editBetween(drawing, now),
		done: [...counts].map(([kind, count]) => ({ kind, count })),
		left
	};
}

/** Share of a line's length: a gap above it is closed by a person, who knows what was meant. */
const CLEAR_GAP = 1 / 3;

/** Whether a mend only guesses what was meant. */
function isGuess(fault: Fault, { paths }: Checked): boolean {
	if (fault.mend !== 'close' || fault.outline === undefined) return false;
	const { segs } = paths[fault.outline];
	const apart = Math.hypot(segs[segs.length - 2] - segs[0], segs[segs.length - 1] - segs[1]);
	return apart > CLEAR_GAP * pathLength(paths[fault.outline]);
}

type Tried =
	| { readonly ok: true; readonly drawing: Drawing; readonly edit: Edit }
	| { readonly ok: false; readonly why: string };

/**
 * Tries what mends a fault, and looks at what comes of it.
 * @param outlines what was checked, in the order in which it was.
 */
export function tryMend(drawing: Drawing, fault: Fault, outlines: readonly Outline[], newId: NewId): Tried {
	if (!isMendable(fault.mend)) return { ok: false, why: fault.why };
	const meant = [fault.outline, fault.other, ...(fault.chain ?? [])].flatMap((i) =>
		i === undefined ? [] : [outlines[i]]
	);
	const copy = meant.map((o) => instanceIn(drawing, o.id)).find((one) => one !== undefined);
	if (copy)
		return {
			ok: false,
			why: `This is a copy in "${copy.repeat.name}"; its rule or its first one is to be mended.`
		};
	// An earlier mend has changed it: it is looked at again in the next round.
	if (meant.some((o) => drawing.records.get(o.id) !== o)) return { ok: false, why: fault.why };
	if (isFollower(meant[0]))
		return { ok: false, why: `"${meant[0].name}" follows another line; that one is to be mended.` };
	let edit: Edit | undefined;
	try {
		edit = mendFault(drawing, fault, outlines, newId);
	} catch {
		edit = undefined;
	}
	const step = edit && makeStep(drawing, 'Mend', edit);
	if (!edit || !step) return { ok: false, why: fault.why };
	const after = applyStep(drawing, step, 'forward');
	const [before, now] = faultsAround(drawing, after, edit);
	if (now.length >= before.length)
		return { ok: false, why: `Mended by itself it would not be better: ${fault.why}` };
	const known = new Map<string, number>();
	for (const key of before) known.set(key, (known.get(key) ?? 0) + 1);
	for (const key of now) {
		const have = known.get(key) ?? 0;
		if (have === 0) return { ok: false, why: `Mended by itself something else would be wrong: ${fault.why}` };
		known.set(key, have - 1);
	}
	return { ok: true, drawing: after, edit };
}

/** The kinds of the faults of what an edit changes and what lies beside it, before and after. */
function faultsAround(before: Drawing, after: Drawing, edit: Edit): [FaultKind[], FaultKind[]] {
	const ids = new Set([...(edit.put ?? []).map((r) => r.id), ...(edit.remove ?? [])]);
	const was = checkedOf(before);
	const is = checkedOf(after);
	const boxes = [was, is].flatMap(({ outlines, paths }) =>
		paths.flatMap((path, i) => (ids.has(outlines[i].id) ? [boxOf(path)] : []))
	);
	const faultsIn = ({ paths, mayBeOpen }: Checked): FaultKind[] => {
		const near = paths.flatMap((path, i) => {
			const box = boxOf(path);
			const touches = boxes.some(
				(b) =>
					b.x0 - BESIDE <= box.x1 &&
					box.x0 <= b.x1 + BESIDE &&
					b.y0 - BESIDE <= box.y1 &&
					box.y0 <= b.y1 + BESIDE
			);
			return touches ? [i] : [];
		});
		const open = new Set(mayBeOpen);
		return findFaults(
			near.map((i) => paths[i]),
			{ mayBeOpen: near.flatMap((i, k) => (open.has(i) ? [k] : [])) }
		).map((fault) => fault.kind);
	};
	return [faultsIn(was), faultsIn(is)];
}

/** What makes one drawing the other. */
function editBetween(before: Drawing, after: Drawing): Edit {
	return {
		put: [...after.records.values()].filter((record) => before.records.get(record.id) !== record),
		remove: [...before.records.keys()].filter((id) => !after.records.has(id))
	};
}

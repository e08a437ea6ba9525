/** Holds: made of what is picked, loosened, their values typed; what cannot be kept together is named and can be loosened at one press. */
import { nextRank, recordAs, recordsOf, type Drawing, type Guide } from '../core/document/drawing';
import type { Hold, HoldKind } from '../core/document/holds/hold';
import type { Picked } from '../core/document/holds/offers';
import type { Edit } from '../core/document/history';
import { ANCHOR_STRIDE, placeOfAnchor } from '../core/document/outline';
import { RECORDS } from '../core/document/records';
import type { Bench } from './bench.svelte';
import { HOLD_WORDS } from './commands/hold-words';
import { pickedOf } from './holds-here';
import { newId } from './ids';
import { loadReckonings } from './reckonings';

const offers = () => import('../core/document/holds/offers');

/** An edit of holds or of what they go by as a step, once their reckoning is there. @returns whether it is one. */
export async function commitHolding(bench: Bench, name: string, edit: Edit): Promise<boolean> {
	await loadReckonings();
	const isMade = bench.commit(name, edit);
	if (isMade) bench.holdTrouble = undefined;
	return isMade;
}

export const addHold = (bench: Bench, kind: HoldKind): Promise<boolean> =>
	holdPicked(bench, kind, pickedOf(bench));

/** Two ends of lines are held as they meet. */
export const holdMeeting = (
	bench: Bench,
	way: 'direction' | 'curvature',
	ends: readonly { readonly outline: string; readonly anchor: number }[]
): Promise<boolean> =>
	holdPicked(bench, `meets in ${way}`, {
		anchors: ends.map(({ outline, anchor }) => ({
			outline: recordAs(bench.drawing, 'outline', outline),
			anchor
		})),
		segments: []
	});

/** Two seams are held equally long, or by how much one is longer where that is more than what is nearly equal. */
export const holdSeams = (
	bench: Bench,
	seams: readonly { readonly outline: string; readonly segment: number }[]
): Promise<boolean> =>
	holdPicked(bench, 'seams', {
		anchors: [],
		segments: seams.map(({ outline: id, segment }) => {
			const outline = recordAs(bench.drawing, 'outline', id);
			return { outline, anchor: outline.anchors[segment] };
		})
	});

/** A hold of what is said to be picked. @returns whether it is held; else why not is told. */
async function holdPicked(bench: Bench, kind: HoldKind, picked: Picked): Promise<boolean> {
	const { placesFor, holdAsIs } = await offers();
	const on = placesFor(kind, picked);
	if (typeof on === 'string') {
		bench.tell(on, 'trouble');
		return false;
	}
	const outlines = new Map(
		on.flatMap(({ outline }) => {
			const record = bench.drawing.records.get(outline);
			return record?.type === 'outline' ? [[outline, record] as const] : [];
		})
	);
	const made = [...outlines.values()].find((outline) => outline.recipe);
	if (made) {
		bench.tell(`"${made.name}" is made from something else. Make it plain, then hold it.`, 'trouble');
		return false;
	}
	let guide: string | undefined;
	if (kind === 'on guide' || kind === 'along guide') {
		const at = placeOfAnchor(outlines.get(on[0].outline)!, on[0].anchor)!;
		const off = (g: Guide) => RECORDS.guide.near!(g, at.x, at.y);
		const [nearest] = [...recordsOf(bench.drawing, 'guide')].sort((a, b) => off(a) - off(b));
		if (!nearest) {
			bench.tell('There is no guide yet. Pull one out of a ruler.', 'trouble');
			return false;
		}
		guide = nearest.id;
	}
	const facts = { id: newId(), rank: nextRank(bench.drawing), ...(guide ? { guide } : {}) };
	return commitHolding(bench, HOLD_WORDS[kind].word, { put: [holdAsIs(kind, on, outlines, facts)] });
}

/** Holds that are let go; what waited for that is tried again. */
export async function loosen(bench: Bench, ids: readonly string[]): Promise<void> {
	const { holdTrouble } = bench;
	if (!bench.commit(ids.length === 1 ? 'Loosen a hold' : `Loosen ${ids.length} holds`, { remove: [...ids] }))
		return;
	if (holdTrouble) await commitHolding(bench, holdTrouble.name, holdTrouble.edit);
}

export const setHoldValue = (bench: Bench, hold: Hold, value: string): Promise<boolean> =>
	commitHolding(bench, `${HOLD_WORDS[hold.kind].word}: ${value}`, { put: [{ ...hold, value }] });

/** All that the entered outlines nearly keep is held. */
export async function holdNearly(bench: Bench): Promise<void> {
	const { nearlyHeld, holdAsIs, NEARLY } = await offers();
	const has = recordsOf(bench.drawing, 'hold');
	let rank = nextRank(bench.drawing);
	const put = bench.selection.enteredOutlines
		.filter(({ recipe }) => !recipe)
		.flatMap((outline) =>
			nearlyHeld(outline, has).map(({ kind, on }) =>
				holdAsIs(kind, on, new Map([[outline.id, outline]]), { id: newId(), rank: rank++ })
			)
		);
	if (put.length === 0) {
		bench.tell(
			`Nothing here is level, plumb or equal within ${NEARLY.degrees}° and ${NEARLY.mm} mm that is not held.`
		);
		return;
	}
	const before = bench.drawing;
	if (!(await commitHolding(bench, 'Hold what is nearly so', { put }))) return;
	bench.tell(`${put.length} holds. Anchors moved by up to ${drift(before, bench.drawing).toFixed(3)} mm.`);
}

/** mm by which an anchor was moved at most. */
function drift(before: Drawing, after: Drawing): number {
	let most = 0;
	for (const [id, record] of after.records) {
		const was = before.records.get(id);
		if (record === was || record.type !== 'outline' || was?.type !== 'outline') continue;
		for (let k = 0; k < record.points.length; k += ANCHOR_STRIDE)
			most = Math.max(
				most,
				Math.hypot(record.points[k] - was.points[k], record.points[k + 1] - was.points[k + 1])
			);
	}
	return most;
}

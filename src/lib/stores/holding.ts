/** Holds: made of what is picked, loosened, their values typed; what cannot be kept together is named and can be loosened at one press. */
import type { Drawing } from '../core/document/drawing';
import { nextRank, recordsOf } from '../core/document/drawing';
import { completeEdit } from '../core/document/complete-edit';
import type { Hold, HoldKind } from '../core/document/holds/hold';
import type { Edit } from '../core/document/history';
import { placeOfAnchor } from '../core/document/outline';
import { toProblem } from '../core/errors';
import type { Bench } from './bench.svelte';
import { HOLD_WORDS } from './commands/hold-words';
import { pickedOf } from './holds-here';
import { newId } from './ids';
import { loadReckonings } from './reckonings';

const offers = () => import('../core/document/holds/offers');

/** The edit as a step, where its holds can be kept; else it waits, and what stands against it is named. */
export async function commitHolding(bench: Bench, name: string, edit: Edit): Promise<boolean> {
	await loadReckonings();
	const { HoldConflict } = await import('../core/document/holds/keep');
	try {
		completeEdit(bench.drawing, edit, 'cheap');
	} catch (error) {
		if (error instanceof HoldConflict) bench.holdTrouble = { name, edit, holds: error.holds };
		bench.trouble(toProblem(error));
		return false;
	}
	bench.holdTrouble = undefined;
	return bench.commit(name, edit);
}

export async function addHold(bench: Bench, kind: HoldKind): Promise<void> {
	const { placesFor, holdAsIs } = await offers();
	const on = placesFor(kind, pickedOf(bench));
	if (typeof on === 'string') {
		bench.tell(on, 'trouble');
		return;
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
		return;
	}
	let guide: string | undefined;
	if (kind === 'on guide') {
		const at = placeOfAnchor(outlines.get(on[0].outline)!, on[0].anchor)!;
		const off = (g: { x: number; y: number; angle: number }) => {
			const rad = (g.angle * Math.PI) / 180;
			return Math.abs((at.y - g.y) * Math.cos(rad) - (at.x - g.x) * Math.sin(rad));
		};
		const [nearest] = [...recordsOf(bench.drawing, 'guide')].sort((a, b) => off(a) - off(b));
		if (!nearest) {
			bench.tell('There is no guide yet. Pull one out of a ruler.', 'trouble');
			return;
		}
		guide = nearest.id;
	}
	const facts = { id: newId(), rank: nextRank(bench.drawing), ...(guide ? { guide } : {}) };
	await commitHolding(bench, HOLD_WORDS[kind].word, { put: [holdAsIs(kind, on, outlines, facts)] });
}

/** Holds that are let go; what waited for that is tried again. */
export async function loosen(bench: Bench, ids: readonly string[]): Promise<void> {
	const { holdTrouble } = bench;
	if (!bench.commit(ids.length === 1 ? 'Loosen a hold' : `Loosen ${ids.length} holds`, { remove: [...ids] }))
		return;
	if (!holdTrouble) return;
	bench.holdTrouble = undefined;
	await commitHolding(bench, holdTrouble.name, holdTrouble.edit);
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
		for (let k = 0; k < record.points.length; k += 7)
			most = Math.max(
				most,
				Math.hypot(record.points[k] - was.points[k], record.points[k + 1] - was.points[k + 1])
			);
	}
	return most;
}

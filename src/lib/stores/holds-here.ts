/** The holds about what is picked, and where their marks are drawn. */
import { recordsOf } from '../core/document/drawing';
import { HOLD_SHAPES, type Hold, type HoldPlace } from '../core/document/holds/hold';
import type { Picked } from '../core/document/holds/offers';
import { placeOf } from '../core/document/holds/places';
import type { Point } from '../core/geometry/point';
import type { HoldMark } from '../render/holds';
import type { Bench } from './bench.svelte';

/** What is picked, as holds are made of it. */
export function pickedOf(bench: Bench): Picked {
	const { selection } = bench;
	const inHand = selection.enteredOutline;
	return {
		anchors: selection.enteredOutlines.flatMap((outline) =>
			[...selection.anchorsOf(outline.id)].map((anchor) => ({ outline, anchor }))
		),
		segments: inHand ? [...selection.segments].map((anchor) => ({ outline: inHand, anchor })) : [],
		...(selection.handleInHand ? { side: selection.handleInHand } : {})
	};
}

/** The holds about what is picked; about the entered outlines where nothing is. */
export function holdsHere(bench: Bench): Hold[] {
	const { anchors, segments } = pickedOf(bench);
	const ids = new Set(bench.selection.enteredIds);
	const about = recordsOf(bench.drawing, 'hold').filter(({ on }) =>
		on.some(({ outline }) => ids.has(outline))
	);
	const picked = new Set([
		...anchors.map(({ outline, anchor }) => `${outline.id} ${anchor}`),
		...segments.flatMap(({ outline, anchor }) => {
			const i = outline.anchors.indexOf(anchor);
			return [anchor, outline.anchors[(i + 1) % outline.anchors.length]].map((a) => `${outline.id} ${a}`);
		})
	]);
	if (picked.size === 0) return about;
	const isIn = ({ outline, anchor }: HoldPlace) => picked.has(`${outline} ${anchor}`);
	// About one anchor is all that it is part of; about more, what is between them.
	return about.filter(({ kind, on }) =>
		picked.size === 1
			? on.some(isIn)
			: kind.startsWith('meets')
				? isIn(on[0]) && isIn(on[on.length / 2])
				: kind === 'seams'
					? on.some(isIn)
					: on.length === 4
						? on.slice(0, 2).every(isIn) || on.slice(2).every(isIn)
						: on.every(isIn)
	);
}

/** Where the marks of holds are drawn: of the outlines that are entered. */
export function holdMarks(bench: Bench): readonly HoldMark[] {
	const { drawing, selection, drafts } = bench;
	const all = recordsOf(drawing, 'hold');
	if (all.length === 0 || selection.enteredIds.length === 0) return [];
	const ids = new Set(selection.enteredIds);
	const trouble = new Set(bench.holdTrouble?.holds);
	const at = (place: HoldPlace) => {
		const record = drafts.get(place.outline) ?? drawing.records.get(place.outline);
		return record?.type === 'outline' ? placeOf(record, place) : undefined;
	};
	return all
		.filter(({ on }) => on.some(({ outline }) => ids.has(outline)))
		.flatMap((hold): HoldMark[] => {
			const places = hold.on.map(at);
			if (places.some((p) => !p)) return [];
			const [p, q, r, s] = places as Point[];
			const pairs = hold.kind.startsWith('meets')
				? [[p, p] as const]
				: HOLD_SHAPES[hold.kind].places === 4
					? [[p, q] as const, [r, s] as const]
					: HOLD_SHAPES[hold.kind].places === 2
						? [[p, q] as const]
						: [[p, p] as const];
			return pairs.map(([a, b]) => ({
				kind: hold.kind,
				a,
				b,
				...(hold.value === undefined || (hold.kind === 'seams' && hold.value === '0')
					? {}
					: { text: hold.kind === 'angle' ? `${hold.value}°` : hold.value }),
				isTrouble: trouble.has(hold.id)
			}));
		});
}

/** Where the anchors lie that no hold lets move. */
export const fastPlaces = ({ drawing, heldFast }: Bench): readonly Point[] =>
	heldFast.flatMap((place) => {
		const record = drawing.records.get(place.outline);
		return (record?.type === 'outline' && placeOf(record, place)) || [];
	});

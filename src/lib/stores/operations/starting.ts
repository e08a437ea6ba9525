/** Begins operations on what is selected, with what was typed last, and keeps what they give. */
import type { Reference } from '../../core/document/drawing';
import { endAt, meetingAt, nearestEnds, sidesOf, type MeetSide } from '../../core/document/edits/meet';
import { madePlain, resolve, type Outline } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import type { Way } from '../../core/trace/ways';
import { seenBox } from '../../render/view';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { CombineOperation, CornerOperation, JoinOperation, TrimOperation } from './build-operations.svelte';
import { FairOperation } from './fair-operation.svelte';
import { MeetOperation } from './meet-operation.svelte';
import { OffsetOperation, SimplifyOperation, TraceOperation } from './operations.svelte';
import { PlaceOperation } from './place-operation.svelte';

/** What was typed last is there next time. */
const lastSettings: {
	simplify: number;
	offset: Partial<OffsetOperation['settings']>;
	corner: number;
	fair: Partial<FairOperation['settings']>;
} = {
	fair: {},
	simplify: 0.1,
	offset: {},
	corner: 2
};

/** Puts an operation on the bench, in place of the one that was there, and lets it reckon. */
function begin(bench: Bench, station: Bench['station'], operation: NonNullable<Bench['operation']>): void {
	bench.dropOperation();
	bench.station = station;
	bench.operation = operation;
	operation.change(0);
}

export function startTrace(bench: Bench, reference: Reference, way?: Way): void {
	bench.leave();
	bench.selected = new Set();
	const operation = new TraceOperation(reference, () => ({
		box: seenBox(bench.view, bench.size),
		scale: bench.view.scale
	}));
	if (way) operation.way = way;
	begin(bench, 'trace', operation);
}

export function startSimplify(bench: Bench): void {
	if (bench.enteredOutlines.some((o) => bench.anchorsOf(o.id).size > 1)) {
		startFair(bench, { way: 'simplify', drift: lastSettings.simplify });
		return;
	}
	const outlines = bench.targets();
	if (outlines.length === 0) return;
	const operation = new SimplifyOperation(outlines, bench.drawing);
	operation.tolerance = lastSettings.simplify;
	begin(bench, 'mend', operation);
	void operation.draw();
}

/** Fairs what is selected: the stretch between the selected anchors, or whole outlines. */
export function startFair(
	bench: Bench,
	settings: Partial<FairOperation['settings']> = {}
): FairOperation | undefined {
	const entered = bench.enteredOutline;
	if (bench.enteredOutlines.filter((o) => bench.anchorsOf(o.id).size > 0).length > 1) {
		bench.tell('The selected anchors lie on two outlines. Select a stretch of one, or none for all of both.');
		return undefined;
	}
	const stretch = entered && bench.anchors.size > 1 ? bench.anchors : undefined;
	const outlines = entered ? bench.enteredOutlines : bench.targets();
	if (outlines.length === 0) {
		bench.tell('There is no outline to fair.');
		return undefined;
	}
	const operation = new FairOperation(stretch ? [entered!] : outlines, bench.drawing, stretch);
	if (operation.likely !== undefined) operation.drift = operation.likely;
	Object.assign(operation, lastSettings.fair, settings);
	begin(bench, 'mend', operation);
	return operation;
}

/** Fairs again as last time, `stronger` times as strong, and keeps it at once. */
export async function fairAgain(bench: Bench, stronger: number): Promise<void> {
	lastSettings.fair.strength = Math.min(20, (lastSettings.fair.strength ?? 1) * stronger);
	const operation = startFair(bench, { way: 'fair' });
	if (!operation) return;
	if (stronger > 1) operation.set({ drift: operation.drift * stronger });
	await operation.settled();
	if (bench.operation !== operation) return;
	if (operation.ready && operation.moved > 0) keepOperation(bench);
	else {
		bench.dropOperation();
		bench.tell(operation.problem?.sentence ?? operation.nothing);
	}
}

export function startOffset(bench: Bench): void {
	const outlines = bench.targets();
	if (outlines.length === 0) {
		bench.tell('There is no outline to offset.');
		return;
	}
	bench.leave();
	const operation = new OffsetOperation(outlines);
	Object.assign(operation, lastSettings.offset);
	begin(bench, 'offset', operation);
}

/** Moves, turns, scales, mirrors or copies the selected outlines. */
export function startPlace(bench: Bench): void {
	const outlines = bench.selectedOutlines.filter((o) => !o.locked);
	if (outlines.length === 0) return;
	bench.leave();
	startBuild(bench, new PlaceOperation(outlines));
}

const startBuild = (bench: Bench, operation: NonNullable<Bench['operation']>): void =>
	begin(bench, 'build', operation);

export function startCombine(bench: Bench): void {
	const outlines = bench.selectedOutlines.filter((o) => o.closed);
	if (outlines.length < 2) {
		bench.tell('Select two or more closed outlines to combine.');
		return;
	}
	bench.leave();
	startBuild(bench, new CombineOperation(outlines));
}

export function startJoin(bench: Bench): void {
	const outlines = bench.targets().filter((o) => !o.closed);
	if (outlines.length === 0) {
		bench.tell('There is no open outline to join.');
		return;
	}
	bench.leave();
	startBuild(bench, new JoinOperation(outlines));
}

export function startTrim(bench: Bench): void {
	const outline = bench.enteredOutline;
	if (!outline || bench.segment === undefined) return;
	const cutters = shown(bench.drawing)
		.filter((o) => o.id !== outline.id)
		.map(resolve);
	startBuild(bench, new TrimOperation(outline, outline.anchors.indexOf(bench.segment), cutters));
}

export function startCorner(bench: Bench): void {
	const outline = bench.enteredOutline;
	if (!outline || bench.anchors.size === 0) return;
	const operation = new CornerOperation(outline, bench.anchors);
	operation.amount = operation.given ?? lastSettings.corner;
	startBuild(bench, operation);
}

/** The two parts that are selected to meet: the sides of an anchor, or two ends. */
export function partsToMeet(
	bench: Bench
): { outlines: readonly Outline[]; parts: readonly [MeetSide, MeetSide] } | undefined {
	const picked = bench.enteredOutlines.flatMap((outline) =>
		[...bench.anchorsOf(outline.id)].map((anchor) => ({ outline, anchor }))
	);
	if (picked.length === 0) {
		const outlines = bench.selectedOutlines.filter((o) => !o.closed);
		const parts = outlines.length === 1 || outlines.length === 2 ? nearestEnds(outlines) : undefined;
		return parts && { outlines, parts };
	}
	const [one] = picked;
	if (picked.length === 1)
		return meetingAt(one.outline, one.anchor)
			? { outlines: [one.outline], parts: sidesOf(one.outline.id, one.anchor) }
			: undefined;
	const [first, second] = picked.map((p) => endAt(p.outline, p.anchor));
	if (picked.length !== 2 || !first || !second) return undefined;
	return { outlines: [...new Set(picked.map((p) => p.outline))], parts: [first, second] };
}

export function startMeet(bench: Bench): void {
	const meeting = partsToMeet(bench);
	if (!meeting) return;
	const operation = new MeetOperation(meeting.outlines.map(madePlain), ...meeting.parts);
	startBuild(bench, operation);
	bench.looking.combed = true;
}

export function keepOperation(bench: Bench): void {
	const operation = bench.operation;
	if (!operation?.ready) return;
	const edit = operation.edit(bench.drawing, newId);
	let name: string;
	if (operation.kind === 'trace') name = `Trace "${operation.reference.name}"`;
	else if (operation.kind === 'simplify') {
		name = 'Simplify';
		lastSettings.simplify = operation.tolerance;
	} else {
		name = operation.name;
		if (operation.kind === 'corner') lastSettings.corner = operation.amount;
		if (operation.kind === 'fair') lastSettings.fair = operation.settings;
		if (operation.kind === 'offset') lastSettings.offset = operation.settings;
	}
	bench.operation = undefined;
	if (!bench.commit(name, edit)) {
		bench.tell('Nothing changed: there was nothing to gain.');
		return;
	}
	if (operation.kind === 'trace') {
		bench.station = 'mend';
		bench.tell(`${edit.put?.length ?? 0} outlines traced. The picture stays underneath; P hides it.`);
	} else if (operation.kind === 'fair') {
		bench.picked = new Map();
		bench.tell(`${name}: ${operation.anchorsBefore} anchors are ${operation.anchorsAfter} now.`);
	} else if (operation.kind !== 'simplify') {
		bench.anchors = new Set();
		bench.segment = undefined;
		if (bench.entered && !bench.drawing.records.has(bench.entered)) bench.leave();
		if (!bench.entered)
			bench.selected = new Set((edit.put ?? []).filter((r) => !('hidden' in r && r.hidden)).map((r) => r.id));
	}
}

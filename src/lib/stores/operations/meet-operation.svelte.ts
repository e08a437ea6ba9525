/** Two parts of lines made to meet: how closely, and which of them gives way. */
import type { Point } from '../../core/geometry/point';
import type { Drawing } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import type { MeetWay } from '../../core/fit/meet-ways';
import {
	meet,
	meetingOf,
	type GivesWay,
	type Meeting,
	type MeetSide,
	endAt,
	meetingAt,
	nearestEnds,
	sidesOf
} from '../../core/document/edits/meet';
import { isClosed, madePlain, lineOf, sourceLine, type Outline } from '../../core/document/outline';
import { segmentBeside } from '../../core/document/edits/handles';
import { toProblem } from '../../core/errors';
import { twoWayDistance } from '../../core/geometry/edge-tree';
import { deviationFrom } from '../../core/geometry/deviation';
import { STRIDE, type Path } from '../../core/geometry/path';
import { pointAt } from '../../core/geometry/segment';
import type { Bench } from '../bench.svelte';
import { idsOf, Operation } from './operation.svelte';

/** mm: ends farther apart are drawn together only when that is said to be wanted. */
const NEAR = 1;

/** mm: how finely it is told how far the lines move. */
const FINE = 0.001;

export class MeetOperation extends Operation {
	readonly kind = 'meet';
	way = $state<MeetWay>('curvature');
	gives = $state<GivesWay>('both');
	readonly before: Meeting;
	after = $state.raw<Meeting>() as Meeting;
	/** Ends that lie far apart are not moved before that is said to be wanted. */
	isMovingMeant = $state(false);
	/** They are held meeting so from now on. */
	isHeld = $state(false);
	/** mm: how far the lines move at most. */
	moved = $state(0);
	private made: readonly Outline[];

	constructor(
		readonly outlines: readonly Outline[],
		readonly first: MeetSide,
		readonly second: MeetSide
	) {
		super();
		this.made = outlines;
		this.before = meetingOf(outlines, first, second);
		this.after = this.before;
		this.labels = [first, second].map((part, k) => ({ ...middleOf(outlines, part), text: `${k + 1}` }));
	}

	/** Whether the two parts belong to one anchor, so that they are met in place already. */
	get isOneAnchor(): boolean {
		return this.first.outline === this.second.outline && this.first.anchor === this.second.anchor;
	}
	/** Whether it is still to be said that these ends shall move. */
	get asks(): boolean {
		return this.before.gap > NEAR && !this.isMovingMeant;
	}
	/** Whether they are the two ends of one line. */
	get closes(): boolean {
		return !this.isOneAnchor && this.first.outline === this.second.outline;
	}
	get name(): string {
		return { place: 'Meet', direction: 'Meet in direction', curvature: 'Meet in curvature' }[this.way];
	}
	override get hint(): string {
		if (this.asks) return 'Choose a bridge, or that the ends move together. Esc leaves them as they are.';
		return 'Say how closely they meet and which of the two gives way; the comb shows it. Enter keeps it, Esc leaves it.';
	}

	protected async run(): Promise<void> {
		this.begin();
		this.busy = false;
		if (this.asks) return;
		try {
			this.made = meet(this.outlines, this.first, this.second, this.way, this.gives);
			this.problem = undefined;
		} catch (error) {
			this.fail(toProblem(error));
			return;
		}
		this.after = meetingOf(this.made, this.first, this.second);
		this.preview = this.made.map(lineOf);
		const old: Path[] = this.outlines.map(lineOf);
		const { distance, x, y } = twoWayDistance(old, this.preview, FINE, 0.1);
		this.moved = distance;
		this.worst = distance > 0 ? { x, y, off: distance } : undefined;
		this.deviations = this.preview.map((path, i) => deviationFrom(path, old[i], 0.2, FINE));
	}

	override get replaced(): ReadonlySet<string> {
		return idsOf(this.asks ? [] : this.outlines);
	}

	/** Whether they can be held so: ends of lines, more than in place. */
	get canBeHeld(): boolean {
		return !this.isOneAnchor && !this.closes && this.way !== 'place';
	}
	override kept(bench: Bench, edit: Edit): void {
		super.kept(bench, edit);
		const { way } = this;
		if (!this.isHeld || !this.canBeHeld || way === 'place') return;
		void import('../holding').then(({ holdMeeting }) => holdMeeting(bench, way, [this.first, this.second]));
	}
	edit(_drawing: Drawing): Edit {
		return { put: this.made.filter((o, i) => o !== this.outlines[i]).map(madePlain) };
	}
}

/** The middle of the segment that is a part, mm. */
function middleOf(outlines: readonly Outline[], part: MeetSide): Point {
	const outline = outlines.find((o) => o.id === part.outline)!;
	const segment = segmentBeside(outline, outline.anchors.indexOf(part.anchor), part.side)!;
	const { types, segs } = sourceLine(outline);
	return pointAt(types[segment], segs, STRIDE * segment, 0.5);
}

/** The two parts that are selected to meet: the sides of an anchor, or two ends. */
export function partsToMeet(
	bench: Bench
): { outlines: readonly Outline[]; parts: readonly [MeetSide, MeetSide] } | undefined {
	const picked = bench.selection.enteredOutlines.flatMap((outline) =>
		[...bench.selection.anchorsOf(outline.id)].map((anchor) => ({ outline, anchor }))
	);
	if (picked.length === 0) {
		const outlines = bench.selection.selectedOutlines.filter((o) => !isClosed(o));
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

/** The two ends of lines that are selected; undefined where it is not two ends. */
export function endsToMeet(bench: Bench): ReturnType<typeof partsToMeet> {
	const meeting = partsToMeet(bench);
	const [first, second] = meeting?.parts ?? [];
	return first?.outline === second?.outline && first?.anchor === second?.anchor ? undefined : meeting;
}

/** Makes the two selected parts meet. */
export function beginMeet(bench: Bench): MeetOperation | undefined {
	const meeting = partsToMeet(bench);
	if (!meeting) return undefined;
	bench.looking.combed = true;
	return new MeetOperation(meeting.outlines.map(madePlain), ...meeting.parts);
}

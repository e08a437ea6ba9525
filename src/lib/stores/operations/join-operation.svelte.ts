/** Ends that lie near each other become one line. */
import { settingsOf, type Drawing, type LengthUnit } from '../../core/document/drawing';
import { find, meet, meetingOf, nearestEnds, type MeetSide } from '../../core/document/edits/meet';
import { chainedAt, joinedOutline, joinOutlines } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { isClosed, lineOf, madePlain, placeOfAnchor, type Outline } from '../../core/document/outline';
import { formatLength } from '../../core/units';
import { toProblem, type Result } from '../../core/errors';
import { joinEnds, type Joined } from '../../core/geometry/join';
import { PathBuilder, type Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import { endsToMeet } from './meet-operation.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** Joins ends of the open outlines within a gap. */
export class JoinOperation extends PlainOperation {
	readonly kind = 'join';
	/** mm */
	gap = $state(0.5);
	bridge = $state(false);
	/** mm: the gap that would do, where this one does not. */
	wider = $state<number | undefined>();
	joined = $state.raw<Joined | undefined>();
	readonly name = 'Join ends';

	constructor(
		outlines: readonly Outline[],
		private readonly drawing: Drawing,
		/** Two picked ends: they alone, whatever lies between them. */
		readonly ends?: readonly [MeetSide, MeetSide]
	) {
		super(outlines);
	}

	/** mm between the two picked ends. */
	get apart(): number | undefined {
		return this.ends && meetingOf(this.outlines, ...this.ends).gap;
	}
	private get unit(): LengthUnit {
		return settingsOf(this.drawing).unit;
	}
	/** The two picked ends as one: drawn together at their middle, or with a straight between them. */
	private endsJoined([first, second]: readonly [MeetSide, MeetSide]): Edit {
		if (this.bridge) {
			const [p, q] = [first, second].map((part) => placeOfAnchor(find(this.outlines, part), part.anchor)!);
			const between = new PathBuilder(p.x, p.y).line(q.x, q.y).open();
			return chainedAt(this.drawing, this.outlines, first, second, between);
		}
		const met = meet(this.outlines, first, second, 'place', 'both');
		return chainedAt(this.drawing, met, first, second);
	}

	protected compute(): Result<readonly Path[]> {
		if (this.ends) {
			try {
				const { put = [] } = this.endsJoined(this.ends);
				return { ok: true, value: put.flatMap((r) => (r.type === 'outline' ? [lineOf(r)] : [])) };
			} catch (error) {
				return { ok: false, problem: toProblem(error) };
			}
		}
		this.joined = joinEnds(this.outlines.map(lineOf), this.gap, this.bridge);
		if (this.joined.from.every((list, i) => list.length === 1 && !this.joined!.paths[i].closed)) {
			this.wider = leastGap(this.outlines);
			const would =
				this.wider === undefined ? '' : ` The nearest lie ${formatLength(this.wider, this.unit)} apart.`;
			return {
				ok: false,
				problem: {
					code: 'no-ends',
					sentence: `No two ends lie within ${formatLength(this.gap, this.unit)} of each other.${would}`
				}
			};
		}
		this.wider = undefined;
		const { paths, from, drift } = this.joined;
		const becoming = (path: Path, i: number) =>
			lineOf(
				joinedOutline(
					from[i].map((k) => this.outlines[k]),
					path,
					drift
				)
			);
		return { ok: true, value: paths.map(becoming) };
	}
	edit(drawing: Drawing): Edit {
		return this.ends ? this.endsJoined(this.ends) : joinOutlines(drawing, this.outlines, this.joined!);
	}
}

/** mm, rounded up to hundredths: how far apart the two nearest ends lie, of two lines or of one. */
function leastGap(outlines: readonly Outline[]): number | undefined {
	const pairs = [nearestEnds(outlines), ...outlines.map((o) => nearestEnds([o]))];
	const gaps = pairs.flatMap((pair) => (pair ? [meetingOf(outlines, ...pair).gap] : []));
	return gaps.length ? Math.ceil(100 * Math.min(...gaps)) / 100 : undefined;
}

/** Joins the selected open outlines, whatever lies between two picked ends; or all that are open. */
export function beginJoin(bench: Bench): JoinOperation | string {
	const ends = bench.selection.enteredOutlines.length ? endsToMeet(bench) : undefined;
	const picked = bench.targets().filter((o) => !isClosed(o));
	// What is selected may be closed: others are open all the same.
	const outlines =
		ends?.outlines.map(madePlain) ?? (picked.length ? picked : bench.outlines.filter((o) => !isClosed(o)));
	if (outlines.length === 0) return 'There is no open outline to join.';
	bench.leave();
	return new JoinOperation(outlines, bench.drawing, ends?.parts);
}

/** A bridge between two ends: how closely it meets each, how far each pulls, one outline afterwards or not. */
import { bridgePath } from '../../core/document/edits/bridge';
import type { MeetSide } from '../../core/document/edits/meet';
import type { BridgeEnd, MeetWay } from '../../core/fit/meet-ways';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { chainedAt } from '../../core/document/edits/structure';
import type { Drawing } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import { madePlain, placeOfAnchor, type Outline } from '../../core/document/outline';
import { toProblem } from '../../core/errors';
import { LEAST_PULL, MOST_PULL } from '../../core/document/recipes/bridge';
import { nearestOnPath } from '../../core/geometry/pick';
import { pathLength } from '../../core/geometry/measure';
import type { Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { endsToMeet } from './meet-operation.svelte';
import { Operation } from './operation.svelte';

const last = { ways: ['curvature', 'curvature'] as [MeetWay, MeetWay], isOne: true };

export class BridgeOperation extends Operation {
	readonly kind = 'bridge';
	readonly name = 'Bridge';
	ways = $state<[MeetWay, MeetWay]>([...last.ways]);
	pulls = $state<[number, number]>([1, 1]);
	isOne = $state(last.isOne);
	/** mm */
	length = $state(0);
	private made: Path | undefined;

	constructor(
		readonly outlines: readonly Outline[],
		readonly first: MeetSide,
		readonly second: MeetSide
	) {
		super();
		this.labels = [first, second].map((part, k) => ({
			...placeOfAnchor(
				outlines.find((o) => o.id === part.outline)!,
				part.anchor
			)!,
			text: `${k + 1}`
		}));
	}

	/** Whether it goes from one line back to the same. */
	get closes(): boolean {
		return this.first.outline === this.second.outline;
	}
	override get hint(): string {
		return 'Say how closely the bridge meets each end and how far it goes on there, or pull it; no line moves. Enter keeps it, Esc leaves it.';
	}
	private get ends(): [BridgeEnd, BridgeEnd] {
		return [0, 1].map((k) => ({ way: this.ways[k], pull: this.pulls[k] })) as [BridgeEnd, BridgeEnd];
	}

	/** The bridge pulled away from an end goes on there by as much more. */
	private grip: { readonly k: 0 | 1; readonly pull: number; readonly off: number } | undefined;
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		const off = (k: 0 | 1, px: number, py: number) =>
			Math.hypot(this.labels[k].x - px, this.labels[k].y - py);
		if (!this.grip) {
			if (!this.made || !nearestOnPath(this.made, fromX, fromY, 2 * reach)) return false;
			const near = off(0, fromX, fromY) <= off(1, fromX, fromY) ? 0 : 1;
			// An end that is met in place alone goes nowhere.
			const k = this.ways[near] === 'place' ? ((1 - near) as 0 | 1) : near;
			this.grip = { k, pull: this.pulls[k], off: Math.max(1e-6, off(k, fromX, fromY)) };
		}
		const { k, pull, off: was } = this.grip;
		const next = Math.min(MOST_PULL, Math.max(LEAST_PULL, (pull * off(k, x, y)) / was));
		this.pulls = k === 0 ? [next, this.pulls[1]] : [this.pulls[0], next];
		this.change(0);
		return true;
	}
	override dropped(): void {
		this.grip = undefined;
	}

	protected async run(): Promise<void> {
		this.begin();
		this.busy = false;
		try {
			this.made = bridgePath(this.outlines, this.first, this.second, this.ends);
			this.problem = undefined;
		} catch (error) {
			this.fail(toProblem(error));
			return;
		}
		this.length = pathLength(this.made);
		this.preview = [this.made];
	}

	override remember(): void {
		last.ways = [...this.ways];
		last.isOne = this.isOne;
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		if (this.isOne) return chainedAt(drawing, this.outlines, this.first, this.second, this.made);
		const sources = [...new Set([this.first.outline, this.second.outline])].map((id) =>
			this.outlines.find((o) => o.id === id)!
		);
		const [first, second] = [this.first, this.second].map(({ outline, anchor, side }, k) => ({
			...this.ends[k],
			line: sources.findIndex((o) => o.id === outline),
			anchor,
			at: side === 'in' ? ('end' as const) : ('start' as const)
		}));
		return addFollower('bridge', { ends: [first, second] }, sources, {
			...factsLike(drawing, sources[0], 'Bridge'),
			id: newId()
		});
	}
}

/** Bridges the two selected ends. */
export function openBridge(bench: Bench): BridgeOperation | undefined {
	const meeting = endsToMeet(bench);
	if (!meeting) return undefined;
	bench.looking.combed = true;
	return layOn(bench, 'build', new BridgeOperation(meeting.outlines.map(madePlain), ...meeting.parts));
}

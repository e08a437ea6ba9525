/** A bridge between two ends: how closely it meets each, how far each pulls, one outline afterwards or not. */
import { bridgeEnds, bridgePath, type BridgeEnd } from '../../core/document/edits/bridge';
import type { MeetSide, MeetWay } from '../../core/document/edits/meet';
import type { NewId } from '../../core/document/edits/operations';
import type { Drawing } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import { madePlain, placeOfAnchor, type Outline } from '../../core/document/outline';
import { toProblem } from '../../core/errors';
import { pathLength } from '../../core/geometry/measure';
import type { Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
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
		return 'Say how closely the bridge meets each end and how far it goes on there; no line moves. Enter keeps it, Esc leaves it.';
	}
	private get ends(): [BridgeEnd, BridgeEnd] {
		return [0, 1].map((k) => ({ way: this.ways[k], pull: this.pulls[k] })) as [BridgeEnd, BridgeEnd];
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
		return bridgeEnds(drawing, this.outlines, this.first, this.second, this.made!, this.isOne, newId);
	}
}

/** Bridges the two selected ends. */
export function beginBridge(bench: Bench): BridgeOperation | undefined {
	const meeting = endsToMeet(bench);
	if (!meeting) return undefined;
	bench.looking.combed = true;
	return new BridgeOperation(meeting.outlines.map(madePlain), ...meeting.parts);
}

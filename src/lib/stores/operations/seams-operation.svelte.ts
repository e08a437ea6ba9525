/** Seams compared: edges pressed one after another, their lengths side by side, walked along each other, notched at the same places. */
import { nextRank, recordAs, recordsOf, type Drawing } from '../../core/document/drawing';
import { edgeAt, edgesOf } from '../../core/document/edges';
import {
	alongSeam,
	inOrder,
	notchMarks,
	notchPairs,
	seamLength,
	type NotchSettings,
	type Seam
} from '../../core/document/edits/seams';
import type { Edit } from '../../core/document/history';
import type { NewId } from '../../core/document/edits/operations';
import { sourceLine, type Outline } from '../../core/document/outline';
import { stretchBetween } from '../../core/geometry/join';
import { nearestOnPath } from '../../core/geometry/pick';
import { nextRequest } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { Operation } from './operation.svelte';

export class SeamsOperation extends Operation {
	readonly kind = 'seams';
	readonly name = 'Compare seams';
	readonly outlines: readonly Outline[] = [];
	seams = $state.raw<readonly [Seam, Seam]>([[], []]);
	/** To which of the two a pressed edge goes. */
	side = $state<0 | 1>(0);
	back = $state(true);
	by = $state<NotchSettings['by']>('share');
	count = $state(2);
	/** Where one walks just now, a share of the first. */
	walk = $state(0.5);

	constructor(readonly bench: Bench) {
		super();
	}
	readonly lengths = $derived.by(() => this.seams.map(seamLength) as [number, number]);
	/** mm that the second is longer. */
	get difference(): number {
		return this.lengths[1] - this.lengths[0];
	}
	private readonly pairs = $derived.by(() =>
		this.seams.every((seam) => seam.length)
			? notchPairs(this.seams[0], this.seams[1], { count: this.count, by: this.by, back: this.back })
			: []
	);
	override get hint(): string {
		return this.seams[0].length === 0
			? 'Press the edges of the first seam, one after another.'
			: this.seams[1].length === 0
				? 'Press the edges of the second seam: what is pressed goes to it from now on.'
				: 'A press adds an edge to the seam that is chosen, or takes it out. Enter puts the notches on both.';
	}
	/** A press on an edge takes it into the seam that is chosen, or out of it. */
	override tap(x: number, y: number, reach: number): void {
		const near = this.bench
			.pickable()
			.outlines.flatMap((outline) => {
				const at = nearestOnPath(sourceLine(outline), x, y, reach);
				return at ? [{ outline, at }] : [];
			})
			.sort((a, b) => a.at.distance - b.at.distance)[0];
		const edge = near && edgeAt(near.outline, near.at.segment);
		if (!near || !edge) return;
		const isIt = (one: Seam[number]) => one.outline.id === near.outline.id && one.edge.id === edge.id;
		const taken = this.seams[this.side].some(isIt);
		const left = (seam: Seam) => seam.filter((one) => !isIt(one));
		const without: [Seam, Seam] = [left(this.seams[0]), left(this.seams[1])];
		if (!taken) without[this.side] = inOrder([...without[this.side], { outline: near.outline, edge }]);
		this.seams = without;
		// The first press gives the first seam its edge; the next outline is the other.
		if (this.side === 0 && !taken && this.seams[1].length === 0) this.side = 1;
		this.change(0);
	}
	protected run(): Promise<void> {
		this.request = nextRequest();
		const stretch = ({ outline, edge }: Seam[number]) =>
			stretchBetween(sourceLine(outline), edge.first, edge.first + edge.count);
		this.preview = this.seams.flat().map(stretch);
		this.marksOnSeams();
		this.busy = false;
		return Promise.resolve();
	}
	private marksOnSeams(): void {
		const [first, second] = this.seams;
		const walked = this.walk * this.lengths[0];
		const other = this.by === 'share' ? this.walk * this.lengths[1] : Math.min(this.lengths[1], walked);
		const places = [
			first.length ? alongSeam(first, walked, false) : undefined,
			second.length ? alongSeam(second, other, this.back) : undefined
		];
		this.labels = [
			...this.pairs.flatMap(({ a, b }, i) => [
				{ x: a.x, y: a.y, text: `${i + 1}` },
				{ x: b.x, y: b.y, text: `${i + 1}` }
			]),
			...places.flatMap((p) => (p ? [{ x: p.x, y: p.y, text: '◂' }] : []))
		];
	}
	/** Whether the two can be held: each is one edge. */
	get canBeHeld(): boolean {
		return this.seams.every((seam) => seam.length === 1);
	}
	/** Both are held equally long from now on, or with the ease that there is. */
	async hold(): Promise<void> {
		if (!this.canBeHeld) return;
		const { holdSeams } = await import('../holding');
		const [a, b] = this.seams.map(([{ outline, edge }]) => ({ outline: outline.id, segment: edge.first }));
		if (!(await holdSeams(this.bench, [a, b]))) return;
		const value = recordsOf(this.bench.drawing, 'hold').at(-1)?.value;
		this.bench.tell(
			value === '0'
				? 'The seams stay equally long. The tag of an entered piece says so, and lets go of it.'
				: `The first seam stays ${value} mm longer. The tag of an entered piece says so, and lets go of it.`
		);
		// As they are now.
		const now = (seam: Seam): Seam =>
			seam.flatMap(({ outline, edge }) => {
				const own = recordAs(this.bench.drawing, 'outline', outline.id);
				const kept = edgesOf(own).find(({ id }) => id === edge.id);
				return kept ? [{ outline: own, edge: kept }] : [];
			});
		this.seams = [now(this.seams[0]), now(this.seams[1])];
		this.change(0);
	}
	override get rough(): boolean {
		return true;
	}
	override get nothing(): string | undefined {
		return this.pairs.length ? undefined : 'Press an edge of each seam.';
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		let rank = nextRank(drawing);
		return {
			put: notchMarks(this.pairs, { form: 'T', size: 5, layerOf: (outline) => outline.layer }, () => ({
				id: newId(),
				rank: rank++
			}))
		};
	}
}

export function openSeams(bench: Bench): void {
	layOn(bench, 'offset', bench.outlines.length ? new SeamsOperation(bench) : 'There is no outline yet.');
}

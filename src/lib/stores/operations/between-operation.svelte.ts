/** Lines in between two outlines, or through several; they follow those from then on. */
import type { Drawing } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { inputLine } from '../../core/document/graph';
import type { Edit } from '../../core/document/history';
import { isClosed, type Outline } from '../../core/document/outline';
import type { BetweenSettings } from '../../core/document/recipes/between';
import { anchorCount } from '../../core/geometry/measure';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { Operation } from './operation.svelte';

/** What was typed last is there next time. */
let last: Partial<BetweenSettings> = {};

export class BetweenOperation extends Operation {
	readonly kind = 'between';
	readonly name = 'Lines in between';
	count = $state(3);
	easing = $state<BetweenSettings['easing']>('even');
	shift = $state(0);
	way = $state<BetweenSettings['way']>('matched');
	anchorsAfter = $state(0);

	constructor(readonly outlines: readonly Outline[]) {
		super();
	}
	get settings(): BetweenSettings {
		const { count, easing, shift, way } = this;
		return { count, easing, shift, way };
	}
	override get hint(): string {
		return 'Look at how the lines come about. Where starts do not match, move the start, or take the other direction.';
	}
	protected async run(): Promise<void> {
		const made = await this.reckon('make', ['between', this.outlines.map(inputLine), this.settings]);
		if (!made) return;
		this.preview = made.map((line) => line.path);
		this.anchorsAfter = this.preview.reduce((sum, path) => sum + anchorCount(path), 0);
	}
	override remember(): void {
		const { count, easing } = this;
		last = { count, easing };
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		const [source] = this.outlines;
		return addFollower('between', this.settings, this.outlines, {
			...factsLike(drawing, source, 'In between'),
			id: newId()
		});
	}
}

/** Lines in between the selected outlines, in their order. */
export function openBetween(bench: Bench): void {
	const outlines = bench.selection.selectedOutlines.filter((o) => o.anchors.length > 0);
	const begun = (): BetweenOperation | string => {
		if (outlines.length < 2)
			return 'Select two outlines or more: lines are made in between each two, in their order.';
		if (new Set(outlines.map(isClosed)).size > 1)
			return 'Between an open line and a closed one there is no line. Select lines of one kind.';
		bench.leave();
		return Object.assign(new BetweenOperation(outlines), last);
	};
	layOn(bench, 'offset', begun());
}

/** A line beside the drawn one, which follows it from then on. */
import type { Drawing } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import type { Edit } from '../../core/document/history';
import { isClosed, lineOf, type Outline } from '../../core/document/outline';
import type { OffsetSettings } from '../../core/document/recipes/offset';
import type { Problem } from '../../core/errors';
import { flattenPath } from '../../core/geometry/edge-tree';
import { anchorCount, windingNumber } from '../../core/geometry/measure';
import { nearestOnPath } from '../../core/geometry/pick';
import type { StepOptions } from '../../core/plane/offset-steps';
import type { JoinKind } from '../../core/plane/offset-strips';
import type { Bench } from '../bench.svelte';
import { Operation } from './operation.svelte';

/** What was typed last is there next time. */
let last: Partial<OffsetOperation['settings']> = {};

export class OffsetOperation extends Operation {
	readonly kind = 'offset';
	/** mm, above 0. */
	distance = $state(2);
	steps = $state(1);
	way = $state<StepOptions['way']>('outside');
	join = $state<JoinKind>('round');
	miterLimit = $state(4);
	/** Of open outlines. */
	side = $state<NonNullable<StepOptions['side']>>('both');
	ends = $state<NonNullable<StepOptions['ends']>>('round');
	band = $state(false);
	error = $state(0);
	anchorsAfter = $state(0);
	fallback = $state(false);
	/** Why a part of what was asked for did not come. */
	partly = $state.raw<Problem | undefined>();
	readonly hasClosed: boolean;
	readonly hasOpen: boolean;

	constructor(readonly outlines: readonly Outline[]) {
		super();
		this.hasClosed = outlines.some((o) => isClosed(o));
		this.hasOpen = outlines.some((o) => !isClosed(o));
	}

	/** What is asked for next time as well. */
	get settings() {
		const { distance, way, join, side, ends, band } = this;
		return { distance, way, join, side, ends, band };
	}

	protected async run(): Promise<void> {
		const made = await this.reckon('offset', [this.outlines.map(lineOf), { ...this.recipe }]);
		if (!made) return;
		this.preview = made.paths;
		this.error = made.error;
		this.fallback = made.fallback;
		this.partly = made.problem;
		this.anchorsAfter = made.paths.reduce((sum, path) => sum + anchorCount(path), 0);
	}
	/** The settings as the offset keeps them. */
	private get recipe(): OffsetSettings {
		return { ...this.settings, steps: this.steps, miterLimit: this.miterLimit };
	}
	override remember(): void {
		last = this.settings;
	}

	override get hint(): string {
		return 'Pull the new line to where it should run, or type how far. Enter keeps it, Esc leaves it.';
	}
	/** The new line pulled: as far from the outline as the pointer is; across it, to its other side. */
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		this.pulling ||= this.preview.some((path) => nearestOnPath(path, fromX, fromY, 2 * reach) !== undefined);
		if (!this.pulling) return false;
		let nearest: { off: number; outline: Outline } | undefined;
		for (const outline of this.outlines) {
			const near = nearestOnPath(lineOf(outline), x, y, nearest?.off ?? Infinity);
			if (near) nearest = { off: near.distance, outline };
		}
		if (!nearest) return true;
		this.distance = Math.max(0.01, Math.round((100 * nearest.off) / this.steps) / 100);
		if (isClosed(nearest.outline) && this.way !== 'both')
			this.way = windingNumber(flattenPath(lineOf(nearest.outline), 0.05), x, y) === 0 ? 'outside' : 'inside';
		this.change(15);
		return true;
	}
	private pulling = false;
	override dropped(): void {
		this.pulling = false;
	}

	get name(): string {
		if (!this.hasClosed) return 'Offset line';
		return { outside: 'Offset outside', inside: 'Offset inside', both: 'Offset both ways' }[this.way];
	}

	/** An offset follows its line from now on. */
	edit(drawing: Drawing, newId: NewId): Edit {
		const where = !this.hasClosed
			? 'beside'
			: { outside: 'outside', inside: 'inside', both: 'offset' }[this.way];
		const [source] = this.outlines;
		return addFollower('offset', this.recipe, this.outlines, {
			...factsLike(drawing, source, `${source.name}, ${where}`),
			id: newId()
		});
	}
}

/** Offsets what is selected, or everything. */
export function beginOffset(bench: Bench): OffsetOperation | string {
	const outlines = bench.targets();
	if (outlines.length === 0) return 'There is no outline to offset.';
	bench.leave();
	return Object.assign(new OffsetOperation(outlines), last);
}

/** Fewest anchors within a drift, picked from a chart of anchors against drift. */
import { settingsOf, type Drawing, type LengthUnit } from '../../core/document/drawing';
import { lineOf, type Outline } from '../../core/document/outline';
import type { ChartPoint } from '../../core/operations/work';
import { formatLength } from '../../core/units';
import { behind, type Task } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { LineChange } from './line-change.svelte';

/** A first offer leaves no more than so large a share of the anchors. */
const GAINS = 0.8;

/** What was typed last is there next time, mm. */
let last = 0.1;

/** The drift that was allowed last, mm. */
export const lastTolerance = (): number => last;

export class SimplifyOperation extends LineChange {
	readonly kind = 'simplify';
	readonly name = 'Simplify';
	/** mm */
	tolerance = $state(0.1);
	chart = $state.raw<readonly ChartPoint[]>([]);
	private drawing: Task<'chart'> | undefined;
	/** A drift was chosen by hand: none is offered any more. */
	private isChosen = false;

	private readonly unit: LengthUnit;

	constructor(outlines: readonly Outline[], drawing: Drawing) {
		super(outlines, drawing);
		this.unit = settingsOf(drawing).unit;
	}

	/** Computes the chart of anchors against drift, from fine to coarse. */
	async draw(): Promise<void> {
		const tolerances = Array.from({ length: 13 }, (_, i) => 0.005 * Math.pow(2, i * 0.75));
		this.drawing = behind.run('chart', [this.paths, tolerances], { tell: (points) => (this.chart = points) });
		const answer = await this.drawing.answer;
		if (answer.ok !== true) return;
		this.chart = answer.value;
		// The first offer is one that gains: the least drift of the chart that does.
		const gains = (anchors: number) => anchors <= GAINS * this.anchorsBefore;
		const offered = this.chart.find((point) => point.tolerance >= this.tolerance && gains(point.anchors));
		await this.settled();
		if (this.isChosen || gains(this.anchorsAfter) || !offered) return;
		this.tolerance = offered.tolerance;
		this.change(0);
	}
	/** Chooses a drift, mm. */
	choose(tolerance: number): void {
		this.isChosen = true;
		this.tolerance = tolerance;
		this.change(0);
	}
	override get nothing(): string | undefined {
		if (!this.isUnchanged) return undefined;
		const next = this.chart.find((point) => point.anchors < this.anchorsBefore);
		return next
			? `Nothing to gain within this drift; ${formatLength(next.tolerance, this.unit)} would make ${next.anchors} anchors of ${this.anchorsBefore}.`
			: 'Nothing to gain: the line has no anchor too many.';
	}

	protected async run(): Promise<void> {
		const lines = await this.reckon('simplify', [this.paths, this.tolerance]);
		if (lines) this.take(lines, Math.max(0.001, this.tolerance / 50));
	}

	override stop(): void {
		// What is left of the chart is no longer wanted either.
		this.drawing?.stop();
		super.stop();
	}
	override remember(): void {
		last = this.tolerance;
	}
	override kept(): void {}
	override get driftBand() {
		return { paths: this.outlines.map(lineOf), drift: this.tolerance };
	}
}

/** Simplifies whole outlines. */
export function beginSimplify(bench: Bench): SimplifyOperation | undefined {
	const outlines = bench.targets();
	if (outlines.length === 0) return undefined;
	const operation = new SimplifyOperation(outlines, bench.drawing);
	operation.tolerance = last;
	void operation.draw();
	return operation;
}

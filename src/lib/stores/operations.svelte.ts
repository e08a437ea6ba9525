/** Operations in progress: settings, a live preview, and what it would do; then kept or dropped. */
import type { Drawing, Reference } from '../core/edit/drawing';
import { recordAs } from '../core/edit/drawing';
import type { Edit } from '../core/edit/history';
import { addOffset, addTraced, replaceLines, type NewId } from '../core/edit/operations';
import { resolve, type Outline } from '../core/edit/outline';
import type { Problem } from '../core/errors';
import { anchorCount } from '../core/geometry/measure';
import { twoWayDistance } from '../core/geometry/edge-tree';
import type { StepOptions } from '../core/geometry/offset-steps';
import type { JoinKind } from '../core/geometry/offset-strips';
import { polygonPath, transformPath, type Path } from '../core/geometry/path';
import type { Rectangle } from '../core/trace/perspective';
import type { Trace } from '../core/trace/trace';
import type { Way, WayOptions } from '../core/trace/ways';
import { geometryWorker, proxy, restartGeometryWorker } from '../workers/geometry.client';
import type { ChartPoint } from '../workers/geometry.protocol';
import { pictureWorker } from '../workers/picture.client';
import type {
	CombineOperation,
	CornerOperation,
	JoinOperation,
	TrimOperation
} from './build-operations.svelte';
import { nextRequest, Operation } from './operation.svelte';
import { whenOpen } from './pictures';

export class TraceOperation extends Operation {
	readonly kind = 'trace';
	way = $state<Way>('tone');
	colours = $state<number | 'auto'>('auto');
	levels = $state(5);
	evenLight = $state(false);
	denoise = $state(false);
	/** The picture as the tracer sees it, while that is wanted. */
	seen = $state.raw<ImageBitmap | undefined>();
	seeing = $state(false);
	threshold = $state<number | 'auto'>('auto');
	light = $state(false);
	/** mm, or chosen by itself. */
	tolerance = $state<number | 'auto'>('auto');
	cornerAngle = $state(30);
	/** mm^2, or chosen by itself. */
	leastArea = $state<number | 'auto'>('auto');
	diagonal = $state<'join' | 'part'>('join');
	result = $state.raw<Trace | undefined>();

	constructor(readonly reference: Reference) {
		super();
	}

	protected async run(): Promise<void> {
		const { reference } = this;
		const request = (this.request = nextRequest());
		this.busy = true;
		this.progress = 0;
		await whenOpen(reference.picture);
		if (request !== this.request) return;
		const { options } = this;
		if (this.seeing) void this.look(request, options);
		const answer = await pictureWorker().trace(
			request,
			reference.picture,
			options,
			proxy((p: { share: number }) => {
				if (request === this.request) this.progress = p.share;
			})
		);
		if (request !== this.request || answer.ok === 'stale') return;
		this.busy = false;
		if (!answer.ok) {
			this.problem = answer.problem;
			this.preview = [];
			this.result = undefined;
			return;
		}
		this.problem = undefined;
		this.result = answer.value;
		this.preview = answer.value.paths.map((path) =>
			transformPath(path, [1, 0, 0, 1, reference.x, reference.y])
		);
		this.worst = { x: answer.value.worstAt.x + reference.x, y: answer.value.worstAt.y + reference.y };
	}

	/** Only this part of the picture, px; all of it where undefined. */
	region = $state.raw<{ x: number; y: number; w: number; h: number } | undefined>();

	override get hint(): string {
		return this.reference.sheet
			? 'Look at the new line. Keep it with Enter, drop it with Esc.'
			: 'Keep it with Enter, drop it with Esc. Shift and a drag over the picture trace only that part.';
	}

	setRegion(region: { x: number; y: number; w: number; h: number } | undefined): void {
		this.region = region;
		const scale = this.reference.pxPerMm ?? 1;
		const { x, y } = this.reference;
		this.leftOut = region
			? [
					polygonPath([
						x + region.x / scale,
						y - region.y / scale,
						x + (region.x + region.w) / scale,
						y - region.y / scale,
						x + (region.x + region.w) / scale,
						y - (region.y + region.h) / scale,
						x + region.x / scale,
						y - (region.y + region.h) / scale
					])
				]
			: [];
		this.change(0);
	}

	/** A box drawn on the paper, mm, says which part is meant. */
	override box(x0: number, y0: number, x1: number, y1: number): void {
		const { reference } = this;
		if (reference.sheet) return;
		const scale = reference.pxPerMm ?? 1;
		this.setRegion({
			x: (Math.min(x0, x1) - reference.x) * scale,
			y: (reference.y - Math.max(y0, y1)) * scale,
			w: Math.abs(x1 - x0) * scale,
			h: Math.abs(y1 - y0) * scale
		});
	}

	get options(): WayOptions {
		const { reference } = this;
		return {
			way: this.way,
			pxPerMm: reference.pxPerMm ?? 0,
			...(reference.sheet ? { rectify: $state.snapshot(reference.sheet) as Rectangle } : {}),
			threshold: this.threshold,
			light: this.light,
			colours: this.colours,
			levels: this.levels,
			evenLight: this.evenLight,
			denoise: this.denoise,
			tolerance: this.tolerance === 'auto' ? undefined : this.tolerance,
			cornerAngle: this.cornerAngle,
			leastArea: this.leastArea === 'auto' ? undefined : this.leastArea,
			diagonal: this.diagonal,
			...(this.region ? { region: this.region } : {})
		};
	}

	/** Shows, or no longer, what the tracer sees. */
	showSeen(seeing: boolean): void {
		this.seeing = seeing;
		if (seeing) void this.look(this.request, this.options);
		else this.seen = undefined;
	}

	private async look(request: number, options: WayOptions): Promise<void> {
		const { reference } = this;
		const answer = await pictureWorker().see(reference.picture, options);
		if (request !== this.request || !this.seeing || answer.ok !== true) return;
		this.seen = answer.value;
	}

	override stop(): void {
		void pictureWorker().stop(this.request);
		super.stop();
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		return addTraced(
			drawing,
			recordAs(drawing, 'reference', this.reference.id),
			this.result ?? { paths: [] },
			newId
		);
	}
}

export class SimplifyOperation extends Operation {
	readonly kind = 'simplify';
	/** mm */
	tolerance = $state(0.1);
	drift = $state(0);
	/** Drift from the lines as they first were, mm. */
	total = $state(0);
	anchorsBefore: number;
	anchorsAfter = $state(0);
	chart = $state.raw<readonly ChartPoint[]>([]);
	private readonly paths: Path[];
	private readonly firsts: Path[];

	constructor(
		readonly outlines: readonly Outline[],
		drawing: Drawing
	) {
		super();
		this.paths = outlines.map(resolve);
		this.firsts = outlines.map((o) => (o.first ? recordAs(drawing, 'line', o.first).path : resolve(o)));
		this.anchorsBefore = this.paths.reduce((sum, path) => sum + anchorCount(path), 0);
		this.anchorsAfter = this.anchorsBefore;
	}

	/** Computes the chart of anchors against drift, from fine to coarse. */
	async draw(): Promise<void> {
		const tolerances = Array.from({ length: 13 }, (_, i) => 0.005 * Math.pow(2, i * 0.75));
		const points: ChartPoint[] = [];
		await geometryWorker().chart(
			nextRequest(),
			this.paths,
			tolerances,
			proxy((point: ChartPoint) => {
				points.push(point);
				this.chart = [...points];
			})
		);
	}

	protected async run(): Promise<void> {
		const request = (this.request = nextRequest());
		this.busy = true;
		const answer = await geometryWorker().simplify(request, this.paths, this.tolerance);
		if (request !== this.request || answer.ok === 'stale') return;
		this.busy = false;
		if (!answer.ok) {
			this.problem = answer.problem;
			this.preview = [];
			return;
		}
		this.problem = undefined;
		const simple = answer.value;
		this.preview = simple.map((s) => s.path);
		this.anchorsAfter = simple.reduce((sum, s) => sum + anchorCount(s.path), 0);
		const worst = simple.reduce((a, b) => (b.drift > a.drift ? b : a), simple[0]);
		this.drift = worst?.drift ?? 0;
		this.worst = worst && worst.drift > 0 ? worst.worst : undefined;
		this.total = this.drift;
		if (this.outlines.some((o) => o.first)) {
			this.total = twoWayDistance(
				this.firsts,
				this.preview,
				Math.max(0.001, this.tolerance / 50),
				0.2
			).distance;
		}
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		return replaceLines(drawing, new Map(this.outlines.map((o, i) => [o.id, this.preview[i]])), newId);
	}
}

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
		this.hasClosed = outlines.some((o) => o.closed);
		this.hasOpen = outlines.some((o) => !o.closed);
	}

	/** What is asked for next time as well. */
	get settings() {
		const { distance, way, join, side, ends, band } = this;
		return { distance, way, join, side, ends, band };
	}

	protected async run(): Promise<void> {
		const request = (this.request = nextRequest());
		this.busy = true;
		const answer = await geometryWorker().offset(request, this.outlines.map(resolve), {
			...this.settings,
			steps: this.steps,
			miterLimit: this.miterLimit
		});
		if (request !== this.request || answer.ok === 'stale') return;
		this.busy = false;
		if (!answer.ok) {
			this.problem = answer.problem;
			this.preview = [];
			return;
		}
		this.problem = undefined;
		this.preview = answer.value.paths;
		this.error = answer.value.error;
		this.fallback = answer.value.fallback;
		this.partly = answer.value.problem;
		this.anchorsAfter = answer.value.paths.reduce((sum, path) => sum + anchorCount(path), 0);
	}

	override stop(): void {
		if (this.busy) restartGeometryWorker();
		super.stop();
	}

	get name(): string {
		if (!this.hasClosed) return 'Offset line';
		return { outside: 'Offset outside', inside: 'Offset inside', both: 'Offset both ways' }[this.way];
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		const where = !this.hasClosed
			? 'beside'
			: { outside: 'outside', inside: 'inside', both: 'offset' }[this.way];
		return addOffset(drawing, this.outlines[0], this.preview, where, newId);
	}
}

export type AnyOperation =
	| TraceOperation
	| SimplifyOperation
	| OffsetOperation
	| CombineOperation
	| JoinOperation
	| TrimOperation
	| CornerOperation;

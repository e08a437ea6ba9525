/** Outlines of a picture: the boundary at once, then what is in sight, then the whole. */
import { outlinesOf, recordAs, type Drawing, type Reference } from '../../core/document/drawing';
import {
	cropInOriginal,
	inOriginal,
	onPaper,
	onPicture,
	placement,
	placePath,
	scaleOf
} from '../../core/document/edits/placement';
import { addTraced, removeOutlines, type NewId } from '../../core/document/edits/operations';
import type { Edit } from '../../core/document/history';
import { lineOf, type Outline } from '../../core/document/outline';
import { groupPieces } from '../../core/plane/pieces';
import { transformDeviation } from '../../core/geometry/deviation';
import { polygonPath, type Path } from '../../core/geometry/path';
import type { Box } from '../../core/geometry/segment';
import type { Channel } from '../../core/trace/picture';
import type { Rectangle } from '../../core/trace/perspective';
import type { Trace } from '../../core/trace/trace';
import type { Way, WayOptions } from '../../core/trace/ways';
import { seenBox } from '../../render/view';
import { proxy } from '../../workers/geometry.client';
import { pictureWorker } from '../../workers/picture.client';
import type { Bench } from '../bench.svelte';
import { whenOpen } from '../files/pictures';
import { Operation, type AfterKeeping } from './operation.svelte';

/** What the window shows of the paper, mm, and how many screen pixels a millimetre takes. */
export interface Sight {
	readonly box: Box;
	readonly scale: number;
}

export class TraceOperation extends Operation {
	readonly kind = 'trace';
	readonly outlines = [];
	way = $state<Way>('tone');
	colours = $state<number | 'auto'>('auto');
	withBackground = $state(false);
	levels = $state(5);
	evenLight = $state(false);
	denoise = $state(false);
	/** px, standard deviation; 0 none. */
	blur = $state(0);
	black = $state(0);
	white = $state(255);
	channel = $state<Channel>('lightness');
	/** Tone up to which faint ink counts where it hangs on full ink. */
	faint = $state<number | undefined>();
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
	/** Follow what looks like the grain of paper too. */
	grain = $state(false);
	result = $state.raw<Trace | undefined>();
	/** Lines that were traced from the picture before go. */
	replaces = $state(false);
	/** Only what this polygon on the shown picture holds, x,y pairs in px of it; all of it where undefined. */
	lasso = $state.raw<Float64Array | undefined>();

	constructor(
		readonly reference: Reference,
		private readonly sight: () => Sight,
		/** Lines that were traced from the picture before. */
		readonly earlier: readonly Outline[]
	) {
		super();
	}

	protected async run(): Promise<void> {
		const { reference } = this;
		const request = this.begin();
		await whenOpen(reference.picture);
		const isOver = () => request !== this.request;
		if (isOver()) return;
		const { options } = this;
		const started = performance.now();
		const sight = this.sight();
		await this.showBoundary(request, options, sight);
		performance.measure('boundary', { start: started });
		if (isOver()) return;
		if (this.seeing) void this.look(request, options);
		const tell = proxy((p: { share: number }) => {
			if (!isOver()) this.progress = p.share;
		});
		const part = this.inSight(options, sight);
		if (part) {
			const first = await pictureWorker().trace(request, reference.picture, part, tell);
			if (isOver()) return;
			if (first.ok === true) this.preview = this.placed(first.value.paths);
			performance.measure('lines in sight', { start: started });
		}
		const answer = await pictureWorker().trace(request, reference.picture, options, tell);
		if (isOver() || answer.ok === 'stale') return;
		this.busy = false;
		if (!answer.ok) {
			this.fail(answer.problem);
			this.result = undefined;
			return;
		}
		const trace = answer.value;
		const place = placement(reference);
		this.problem = undefined;
		this.result = trace;
		this.preview = this.placed(trace.paths);
		this.deviations = (trace.stray ?? []).map((d) => transformDeviation(d, place));
		const { x, y } = trace.worstAt;
		const [a, b, c, d, e, f] = place;
		this.worst = { x: a * x + c * y + e, y: b * x + d * y + f, off: trace.worst };
	}

	private placed(paths: readonly Path[]): Path[] {
		return paths.map((path) => placePath(path, this.reference));
	}

	/** The boundary at the screen's resolution, before anything is fitted. */
	private async showBoundary(request: number, options: WayOptions, sight: Sight): Promise<void> {
		const perPixel = sight.scale / scaleOf(this.reference);
		const quick = await pictureWorker().quick(this.reference.picture, options, perPixel);
		if (request !== this.request || quick.ok !== true || quick.value.length === 0) return;
		this.preview = this.placed(quick.value);
		this.deviations = [];
	}

	/** The settings for what is in sight alone, where that is much less than the whole of a large picture. */
	private inSight(options: WayOptions, { box }: Sight): WayOptions | undefined {
		const { reference } = this;
		const { widthPx, heightPx } = reference;
		if (widthPx * heightPx < PATIENCE_PX || options.lasso || options.rectify || options.way === 'colours')
			return undefined;
		const corners = [
			onPicture(reference, box.x0, box.y0),
			onPicture(reference, box.x1, box.y0),
			onPicture(reference, box.x1, box.y1),
			onPicture(reference, box.x0, box.y1)
		];
		const x0 = Math.max(0, Math.floor(Math.min(...corners.map((p) => p.x))));
		const y0 = Math.max(0, Math.floor(Math.min(...corners.map((p) => p.y))));
		const x1 = Math.min(widthPx, Math.ceil(Math.max(...corners.map((p) => p.x))));
		const y1 = Math.min(heightPx, Math.ceil(Math.max(...corners.map((p) => p.y))));
		const region = { x: x0, y: y0, w: x1 - x0, h: y1 - y0 };
		const isSmall = region.w > 0 && region.h > 0 && region.w * region.h < 0.5 * widthPx * heightPx;
		return isSmall ? { ...options, region, stray: false } : undefined;
	}

	override get hint(): string {
		return 'Keep it with Enter, leave it with Esc. Shift and a drag trace only that part; Alt and a drag draw a lasso round it.';
	}

	/** Only what lies in this polygon of the shown picture (px), or all of it. */
	setLasso(polygon: Float64Array | undefined): void {
		this.lasso = polygon;
		const { reference } = this;
		const places: number[] = [];
		for (let i = 0; polygon && i < polygon.length; i += 2) {
			const p = onPaper(reference, polygon[i], polygon[i + 1]);
			places.push(p.x, p.y);
		}
		this.leftOut = polygon ? [polygonPath(places)] : [];
		this.change(0);
	}

	/** A box drawn on the paper, mm, says which part is meant. */
	override box(x0: number, y0: number, x1: number, y1: number): void {
		this.lassoed([x0, y0, x1, y0, x1, y1, x0, y1]);
	}

	/** A line drawn round the part that is meant, x,y pairs, mm. */
	override lassoed(points: readonly number[]): void {
		if (points.length < 6) return;
		const polygon = Float64Array.from(points);
		for (let i = 0; i < polygon.length; i += 2) {
			const p = onPicture(this.reference, polygon[i], polygon[i + 1]);
			polygon[i] = p.x;
			polygon[i + 1] = p.y;
		}
		this.setLasso(polygon);
	}

	get options(): WayOptions {
		const { reference, lasso } = this;
		const only = lasso ? inOriginal(reference, lasso) : cropInOriginal(reference);
		return {
			way: this.way,
			pxPerMm: reference.pxPerMm ?? 0,
			...(reference.sheet ? { rectify: $state.snapshot(reference.sheet) as Rectangle } : {}),
			threshold: this.threshold,
			light: this.light,
			colours: this.colours,
			withBackground: this.withBackground,
			levels: this.levels,
			evenLight: this.evenLight,
			denoise: this.denoise,
			blur: this.blur,
			black: this.black,
			white: this.white,
			channel: this.channel,
			faint: this.faint,
			tolerance: this.tolerance === 'auto' ? undefined : this.tolerance,
			cornerAngle: this.cornerAngle,
			leastArea: this.leastArea === 'auto' ? undefined : this.leastArea,
			diagonal: this.diagonal,
			grain: this.grain,
			stray: true,
			...(only ? { lasso: only } : {})
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

	get name(): string {
		return `Trace "${this.reference.name}"`;
	}
	override kept(bench: AfterKeeping, edit: Edit): void {
		bench.station = 'mend';
		const outlines = edit.put?.filter((r) => r.type === 'outline') ?? [];
		bench.tell(`${tracedWords(outlines)} The picture stays underneath; P hides it.`);
	}
	override get rough(): boolean {
		return this.busy;
	}
	override get seenPicture() {
		return this.seen && { reference: this.reference.id, bitmap: this.seen };
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		const gone = this.replaces
			? (removeOutlines(drawing, new Set(this.earlier.map(({ id }) => id))).remove ?? [])
			: [];
		// Their names are free again.
		const left = new Map(drawing.records);
		for (const id of gone) left.delete(id);
		const reference = recordAs(drawing, 'reference', this.reference.id);
		const { put } = addTraced({ ...drawing, records: left }, reference, this.result ?? { paths: [] }, newId);
		return { put, remove: gone };
	}
}

const counted = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;

/** What was traced, counted as a maker counts: pieces with their holes, and open lines. */
function tracedWords(outlines: readonly Outline[]): string {
	const colours = new Map<string, Path[]>();
	for (const o of outlines.filter((each) => each.closed))
		colours.set(o.colour ?? '', [...(colours.get(o.colour ?? '') ?? []), lineOf(o)]);
	const closed = outlines.filter((o) => o.closed).length;
	const pieces = [...colours.values()].reduce((sum, paths) => sum + groupPieces(paths).length, 0);
	const words = [
		...(pieces
			? [counted(pieces, 'piece') + (closed > pieces ? ` with ${counted(closed - pieces, 'hole')}` : '')]
			: []),
		...(outlines.length > closed ? [counted(outlines.length - closed, 'open line')] : [])
	];
	return `Traced: ${words.join(' and ')}.`;
}

/** px: smaller pictures are traced as a whole at once. */
const PATIENCE_PX = 2_000_000;

/** Traces a picture, in the way that is asked for. */
export function beginTrace(bench: Bench, reference: Reference, way?: Way): TraceOperation {
	bench.leave();
	bench.selection.selected = new Set();
	const operation = new TraceOperation(
		reference,
		() => ({
			box: seenBox(bench.sight.view, bench.sight.size),
			scale: bench.sight.view.scale
		}),
		outlinesOf(bench.drawing).filter(({ traced }) => traced === reference.id)
	);
	if (way) operation.way = way;
	return operation;
}

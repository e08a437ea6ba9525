/** Operations on the structure of outlines: combine, join, trim, and corners rounded or cut off. */
import type { Drawing } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import type { NewId } from '../../core/document/edits/operations';
import {
	combineOutlines,
	joinOutlines,
	replaceBy,
	type SourceFate
} from '../../core/document/edits/structure';
import { placeOfAnchor, resolve, type Outline } from '../../core/document/outline';
import { withCorners } from '../../core/document/edits/corners';
import type { Round } from '../../core/document/rounds';
import type { Problem, Result } from '../../core/errors';
import type { CombineInput, CombineOp, CombinedPiece } from '../../core/plane/area';
import { joinEnds, trim, type Joined } from '../../core/geometry/join';
import { anchorCount, isInside } from '../../core/geometry/measure';
import type { Path } from '../../core/geometry/path';
import { groupPieces } from '../../core/plane/pieces';
import { geometryWorker, restartGeometryWorker } from '../../workers/geometry.client';
import { nextRequest, Operation } from './operation.svelte';

/** Combines pieces: an outer outline among the selected with its holes is one input, in the order of selection. */
export class CombineOperation extends Operation {
	readonly kind = 'combine';
	op = $state<CombineOp>('union');
	fate = $state<SourceFate>('removed');
	anchorsBefore: number;
	anchorsAfter = $state(0);
	fallback = $state(false);
	pieces = $state.raw<readonly CombinedPiece[]>([]);
	/** An empty result is a result: it may be kept. */
	empty = $state(false);
	/** Regions that stay become one piece where they touch. */
	merged = $state(false);
	/** All regions there are, and which of them were picked to be left out. */
	private regions: readonly CombinedPiece[] = [];
	private out: ReadonlySet<number> = new Set();
	private readonly inputs: CombineInput[];

	constructor(readonly outlines: readonly Outline[]) {
		super();
		const paths = outlines.map(resolve);
		this.inputs = groupPieces(paths).map((group) => [{ paths: group.map((i) => paths[i]), rule: 'evenodd' }]);
		this.anchorsBefore = paths.reduce((sum, path) => sum + anchorCount(path), 0);
	}

	protected async run(): Promise<void> {
		const request = this.begin();
		const answer = await geometryWorker().combine(request, this.inputs, this.op);
		if (request !== this.request || answer.ok === 'stale') return;
		if (!answer.ok) {
			this.busy = false;
			this.problem = answer.problem;
			this.show([], false);
			return;
		}
		this.regions = answer.value.pieces;
		this.out = new Set();
		this.under = [];
		await this.choose(request, answer.value.fallback);
	}

	/** Takes the regions that were not left out; united where that is wanted. */
	private async choose(request: number, fallback: boolean): Promise<void> {
		const kept = this.regions.filter((_, i) => !this.out.has(i));
		this.leftOut = this.regions.filter((_, i) => this.out.has(i)).flatMap((r) => r.paths);
		this.problem = undefined;
		if (this.op !== 'regions' || !this.merged || kept.length < 2) {
			this.busy = false;
			this.show(kept, fallback);
			return;
		}
		const inputs = kept.map((r): CombineInput => [{ paths: r.paths, rule: 'evenodd' }]);
		const answer = await geometryWorker().combine(request, inputs, 'union');
		if (request !== this.request || answer.ok === 'stale') return;
		this.busy = false;
		this.problem = answer.ok ? undefined : answer.problem;
		this.show(
			answer.ok ? answer.value.pieces : [],
			fallback || (answer.ok === true && answer.value.fallback)
		);
	}

	private show(pieces: readonly CombinedPiece[], fallback: boolean): void {
		this.pieces = pieces;
		this.fallback = fallback;
		this.preview = pieces.flatMap((piece) => piece.paths);
		this.empty = !this.problem && this.preview.length === 0;
		this.anchorsAfter = this.preview.reduce((sum, path) => sum + anchorCount(path), 0);
	}

	private regionAt(x: number, y: number): number {
		return this.regions.findIndex(
			(r) => r.paths.filter((path) => isInside(path, x, y, 0.05)).length % 2 === 1
		);
	}
	override get hint(): string | undefined {
		return this.op === 'regions' ? 'Tap a region to leave it out, or to have it back.' : undefined;
	}
	override hover(x: number, y: number): void {
		const i = this.op === 'regions' ? this.regionAt(x, y) : -1;
		const paths = i < 0 ? [] : this.regions[i].paths;
		if (paths !== this.under && (paths.length || this.under.length)) this.under = paths;
	}
	override tap(x: number, y: number): void {
		const i = this.op === 'regions' ? this.regionAt(x, y) : -1;
		if (i < 0 || this.busy) return;
		const out = new Set(this.out);
		if (!out.delete(i)) out.add(i);
		this.out = out;
		this.rechoose();
	}
	/** The choice of regions, or how they are kept, has changed. */
	rechoose(): void {
		const request = this.begin();
		void this.choose(request, this.fallback);
	}

	override stop(): void {
		if (this.busy) restartGeometryWorker();
		super.stop();
	}

	override get ready(): boolean {
		return !this.busy && !this.problem && (this.preview.length > 0 || this.empty);
	}
	get name(): string {
		return {
			union: 'Unite',
			difference: 'Take away',
			intersection: 'Keep the common',
			xor: 'Keep what only one covers',
			regions: 'Part into regions'
		}[this.op];
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		return combineOutlines(drawing, this.outlines, this.pieces, this.fate, newId);
	}
}

/** What changes lines at once, without a worker: quick even for long ones. */
abstract class PlainOperation extends Operation {
	constructor(readonly outlines: readonly Outline[]) {
		super();
	}
	protected abstract compute(): Result<readonly Path[]>;
	protected async run(): Promise<void> {
		this.request = nextRequest();
		const result = this.compute();
		this.busy = false;
		this.problem = result.ok ? undefined : (result.problem satisfies Problem);
		this.preview = result.ok ? result.value : [];
	}
}

/** Joins ends of the open outlines within a gap. */
export class JoinOperation extends PlainOperation {
	readonly kind = 'join';
	/** mm */
	gap = $state(0.5);
	bridge = $state(false);
	joined = $state.raw<Joined | undefined>();
	readonly name = 'Join ends';

	protected compute(): Result<readonly Path[]> {
		this.joined = joinEnds(this.outlines.map(resolve), this.gap, this.bridge);
		if (this.joined.from.every((list, i) => list.length === 1 && !this.joined!.paths[i].closed)) {
			return {
				ok: false,
				problem: {
					code: 'no-ends',
					sentence: `No two ends lie within ${this.gap} mm of each other. Allow a wider gap, or draw them nearer.`
				}
			};
		}
		return { ok: true, value: this.joined.paths };
	}
	edit(drawing: Drawing): Edit {
		return joinOutlines(drawing, this.outlines, this.joined!);
	}
}

/** Takes out the stretch around a picked segment, as far as the other outlines that cross it. */
export class TrimOperation extends PlainOperation {
	readonly kind = 'trim';
	readonly name = 'Trim';

	constructor(
		outline: Outline,
		private readonly segment: number,
		private readonly cutters: readonly Path[]
	) {
		super([outline]);
	}
	protected compute(): Result<readonly Path[]> {
		return trim(resolve(this.outlines[0]), this.cutters, { segment: this.segment, t: 0.5 });
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		return replaceBy(drawing, this.outlines[0], this.preview, newId);
	}
}

/** Rounds corners with true arcs, or cuts them off; they stay editable as such. */
export class CornerOperation extends PlainOperation {
	readonly kind = 'corner';
	/** mm: radius, or length cut off before the corner. */
	amount = $state(2);
	/** mm: length cut off after the corner; as before it where undefined. */
	second = $state<number | undefined>();
	cutOff = $state(false);
	/** What the first of the corners has already, mm. */
	readonly given: number | undefined;

	constructor(
		outline: Outline,
		private readonly anchors: ReadonlySet<number>
	) {
		super([outline]);
		const round = outline.rounds?.find((r) => anchors.has(r.anchor));
		if (!round) return;
		this.cutOff = !('radius' in round);
		this.given = 'radius' in round ? round.radius : round.first;
		this.second = 'radius' in round ? undefined : round.second;
	}
	get name(): string {
		return this.amount === 0 ? 'Sharp corners' : this.cutOff ? 'Cut corners off' : 'Round corners';
	}
	override get hint(): string {
		return 'Drag from a corner to make it larger, or type. 0 makes it sharp again. Enter keeps it, Esc drops it.';
	}

	private made: Outline | undefined;

	protected compute(): Result<readonly Path[]> {
		const [outline] = this.outlines;
		const { amount, cutOff, second = amount } = this;
		const make = (anchor: number): Round =>
			cutOff ? { anchor, first: amount, second } : { anchor, radius: amount };
		const result = withCorners(outline, this.anchors, amount > 0 ? make : undefined);
		if (!result.ok) return result;
		this.made = result.value.outline;
		return { ok: true, value: [result.value.path] };
	}

	/** A drag from one of the corners: as far as it goes, so large the radius. */
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		const [outline] = this.outlines;
		const near = [...this.anchors].some((id) => {
			const p = placeOfAnchor(outline, id);
			return p !== undefined && Math.hypot(p.x - fromX, p.y - fromY) <= reach;
		});
		if (!near) return false;
		this.amount = Math.round(100 * Math.hypot(x - fromX, y - fromY)) / 100;
		this.change(0);
		return true;
	}

	edit(): Edit {
		return { put: this.made ? [this.made] : [] };
	}
}

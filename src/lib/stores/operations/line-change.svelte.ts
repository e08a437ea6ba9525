/** Operations that put other lines in place of those of outlines: what they cost and how far they move, now and since the first. */
import type { Point } from '../../core/geometry/point';
import { recordAs, type Drawing } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import { replaceLines, type NewId } from '../../core/document/edits/operations';
import { lineOf, type Outline } from '../../core/document/outline';
import { twoWayDistance } from '../../core/geometry/edge-tree';
import { anchorCount } from '../../core/geometry/measure';
import { isSamePath, type Path } from '../../core/geometry/path';
import { idsOf, Operation } from './operation.svelte';

/** A line in place of another, and how far it lies from it at most, mm. */
interface NewLine {
	readonly path: Path;
	readonly drift: number;
	readonly worst: Point;
}

const anchorsOf = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + anchorCount(path), 0);

export abstract class LineChange extends Operation {
	readonly anchorsBefore: number;
	anchorsAfter = $state(0);
	/** mm: how far the lines move at most. */
	moved = $state(0);
	/** mm: the same from the lines as they first were. */
	total = $state(0);
	protected readonly paths: Path[];
	private readonly firsts: Path[];

	constructor(
		readonly outlines: readonly Outline[],
		drawing: Drawing,
		line: (outline: Outline) => Path = lineOf
	) {
		super();
		this.paths = outlines.map(line);
		this.firsts = outlines.map((o) => (o.first ? recordAs(drawing, 'line', o.first).path : lineOf(o)));
		this.anchorsBefore = anchorsOf(this.paths);
		this.anchorsAfter = this.anchorsBefore;
	}

	/** Shows new lines. @param fine mm to which the drift since the first lines is told. */
	protected take(lines: readonly NewLine[], fine: number): void {
		this.problem = undefined;
		this.preview = lines.map((l) => l.path);
		this.anchorsAfter = anchorsOf(this.preview);
		const worst = lines.reduce((a, b) => (b.drift > a.drift ? b : a), lines[0]);
		this.moved = worst?.drift ?? 0;
		this.worst = worst && worst.drift > 0 ? { ...worst.worst, off: worst.drift } : undefined;
		this.total = this.outlines.some((o) => o.first)
			? twoWayDistance(this.firsts, this.preview, fine, 0.2).distance
			: this.moved;
	}

	/** Whether the lines shown are those that there were, to the bit. */
	get isUnchanged(): boolean {
		return this.preview.length > 0 && this.preview.every((path, i) => isSamePath(path, this.paths[i]));
	}
	override get nothing(): string | undefined {
		return this.isUnchanged ? 'Nothing to gain: the line stays as it is.' : undefined;
	}

	override get replaced(): ReadonlySet<string> {
		return idsOf(this.outlines);
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		const lines = new Map(this.outlines.map((o, i) => [o.id, this.preview[i]]));
		return replaceLines(drawing, lines, newId, this.moved);
	}
}

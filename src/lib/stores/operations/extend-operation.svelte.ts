/** An open line made longer or shorter at an end: by a length that is typed or pulled, or as far as another line. */
import { byLength, endOf, nearerLineEnd, toBoundary, type ExtendHow } from '../../core/document/edits/extend';
import type { Edit } from '../../core/document/history';
import { isClosed, detached, lineOf, replaceLine, type Outline } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import type { Result } from '../../core/errors';
import type { LineEnd } from '../../core/geometry/join';
import { pathLength } from '../../core/geometry/measure';
import type { Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import { idsOf } from './operation.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** What was typed last is there next time, mm. */
let last = 10;

export class ExtendOperation extends PlainOperation {
	readonly kind = 'extend';
	end = $state<LineEnd>('end');
	/** By a length, or to the next line. */
	to = $state<'length' | 'boundary'>('length');
	/** mm, above 0. */
	by = $state(10);
	shorter = $state(false);
	how = $state<ExtendHow>('curve');

	constructor(
		readonly line: Outline,
		private readonly boundaries: readonly Path[]
	) {
		super([line]);
	}
	get name(): string {
		return this.shorter ? 'Shorten' : 'Extend';
	}
	override get hint(): string {
		return 'Pull the end along, or type. A tap near the other end takes that one. Enter keeps it, Esc leaves it.';
	}
	override get replaced(): ReadonlySet<string> {
		return idsOf(this.outlines);
	}
	override remember(): void {
		last = this.by;
	}
	/** mm: how long the line was, and is. */
	get lengths(): { readonly before: number; readonly after: number } {
		return {
			before: pathLength(lineOf(this.line)),
			after: this.preview.length ? pathLength(this.preview[0]) : 0
		};
	}
	protected compute(): Result<readonly Path[]> {
		const path = lineOf(this.line);
		const made =
			this.to === 'boundary'
				? toBoundary(path, this.end, this.boundaries, this.how, this.shorter)
				: byLength(path, this.end, this.shorter ? -this.by : this.by, this.how);
		return made.ok ? { ok: true, value: [made.value] } : made;
	}
	/** Pulled along: as far as the pointer goes beyond the end in its direction, or back along the line. */
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		const path = lineOf(this.line);
		const grip = [path, ...this.preview].some((line) => {
			const e = endOf(line, this.end);
			return Math.hypot(e.x - fromX, e.y - fromY) <= 2 * reach;
		});
		if (!grip && this.pulled === undefined) return false;
		this.pulled ??= this.shorter ? -this.by : this.by;
		const e = endOf(path, this.end);
		const inward = byLength(path, this.end, -Math.min(1, e.length / 10), this.how);
		const inner = inward.ok ? endOf(inward.value, this.end) : e;
		const size = Math.hypot(e.x - inner.x, e.y - inner.y) || 1;
		const along = ((x - e.x) * (e.x - inner.x) + (y - e.y) * (e.y - inner.y)) / size;
		this.to = 'length';
		this.shorter = along < 0;
		this.by = Math.max(0.01, Math.round(100 * Math.abs(along)) / 100);
		this.change(0);
		return true;
	}
	private pulled: number | undefined;
	override dropped(): void {
		this.pulled = undefined;
	}
	override tap(x: number, y: number): void {
		this.end = nearerLineEnd(lineOf(this.line), x, y);
		this.change(0);
	}
	edit(): Edit {
		return { put: [replaceLine(detached(this.line), this.preview[0])] };
	}
}

/** Makes the selected open line longer; at the end whose anchor is selected, where one is. */
export function beginExtend(bench: Bench, shorter = false): ExtendOperation | string | undefined {
	const { selection } = bench;
	const line = (selection.enteredOutline ? [selection.enteredOutline] : selection.selectedOutlines).find(
		(o) => !isClosed(o)
	);
	if (!line) return 'Select an open line first: a closed outline has no end.';
	const others = shown(bench.drawing).filter((o) => o.id !== line.id);
	const operation = new ExtendOperation(line, others.map(lineOf));
	operation.by = last;
	operation.shorter = shorter;
	if (selection.anchors.has(line.anchors[0])) operation.end = 'start';
	return operation;
}

/** What lies between two places of an outline taken out, or made an outline of its own. */
import type { Drawing } from '../../core/document/drawing';
import { stretchesOf } from '../../core/document/edits/parting';
import type { NewId } from '../../core/document/edits/operations';
import { replaceBy } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { detached, lineOf, type Outline } from '../../core/document/outline';
import { done, failed, type Result } from '../../core/errors';
import { pathLength } from '../../core/geometry/measure';
import type { Path } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import type { Bench } from '../bench.svelte';
import type { AfterKeeping } from './operation.svelte';
import { PlainOperation } from './plain-operation.svelte';

export class PartOperation extends PlainOperation {
	readonly kind = 'part';
	/** The two places, segment + t. */
	private places = $state.raw<readonly number[]>([]);
	/** Whether what lies the other way round is meant. */
	other = $state(false);
	/** What goes: nothing is left of it, or it becomes an outline of its own. */
	own = $state(false);

	constructor(
		readonly line: Outline,
		places: readonly number[]
	) {
		super([line]);
		this.places = places;
	}
	get name(): string {
		return this.own ? 'Detach a stretch' : 'Take a stretch out';
	}
	override get hint(): string {
		return this.places.length < 2
			? `Point at the ${this.places.length === 0 ? 'first' : 'second'} place on the line.`
			: 'Point at the side that is meant. Enter keeps it, Esc leaves it.';
	}
	override get replaced(): ReadonlySet<string> {
		return new Set(this.places.length === 2 ? [this.line.id] : []);
	}
	/** What goes and what stays, as it is set now. */
	private get sides(): { readonly goes: readonly Path[]; readonly stays: readonly Path[] } {
		const path = lineOf(this.line);
		const { between, rest } = stretchesOf(path, this.places[0], this.places[1]);
		const isShort = !path.closed || pathLength(between) <= rest.reduce((sum, p) => sum + pathLength(p), 0);
		const goes = isShort !== this.other ? [between] : rest;
		return { goes, stays: isShort !== this.other ? rest : [between] };
	}
	/** mm that go. */
	get length(): number {
		return this.places.length === 2 ? this.sides.goes.reduce((sum, p) => sum + pathLength(p), 0) : 0;
	}
	protected compute(): Result<readonly Path[]> {
		if (this.places.length < 2) return done([]);
		const [a, b] = this.places;
		if (Math.abs(a - b) < 1e-9) return failed('one-place', 'These are one place. Point at another one.');
		const { goes, stays } = this.sides;
		this.going = goes;
		return done(this.own ? [...stays, ...goes] : stays);
	}
	override get ready(): boolean {
		return this.places.length === 2 && !this.busy && !this.problem;
	}
	override tap(x: number, y: number, reach: number): void {
		const path = lineOf(this.line);
		const near = nearestOnPath(path, x, y, 2 * reach);
		if (!near) return;
		const here = near.segment + near.t;
		if (this.places.length < 2) this.places = [...this.places, here];
		else {
			const goes = this.sides.goes.some((p) => nearestOnPath(p, x, y, reach) !== undefined);
			if (!goes) this.other = !this.other;
		}
		this.change(0);
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		const { goes, stays } = this.sides;
		return replaceBy(drawing, detached(this.line), this.own ? [...stays, ...goes] : stays, newId);
	}
	override kept(bench: AfterKeeping, edit: Edit): void {
		super.kept(bench, edit);
		const count = (edit.put ?? []).filter((r) => r.type === 'outline').length;
		bench.tell(
			count <= 1
				? this.line.closed
					? 'The outline is open now: one line, two ends.'
					: 'One line is left.'
				: `There are ${count} lines now, each an outline of its own.`
		);
	}
}

/** Between the two selected anchors, over the picked stretches, or between two places that are pointed at. */
export function beginPart(bench: Bench, own = false): PartOperation | string | undefined {
	const { selection } = bench;
	const line = selection.enteredOutline ?? selection.selectedOutlines[0];
	if (!line) return 'Select an outline first.';
	const index = (id: number) => line.anchors.indexOf(id);
	const picked = [...selection.anchors].map(index).filter((i) => i >= 0);
	const segments = [...selection.segmentIndexes()].sort((a, b) => a - b);
	let places: number[] = [];
	if (segments.length) places = stretchOf(segments, line);
	else if (picked.length >= 2) places = [Math.min(...picked), Math.max(...picked)];
	const operation = new PartOperation(line, places);
	operation.own = own;
	return operation;
}

/** From the first to the last of picked segments that follow one another, over the start too. */
function stretchOf(segments: readonly number[], line: Outline): number[] {
	const n = lineOf(line).types.length;
	const picked = new Set(segments);
	const first = segments.find((i) => !picked.has((i + n - 1) % n)) ?? segments[0];
	let end = first;
	while (picked.has(end % n) && end - first < n) end++;
	return [first, line.closed ? end % n : end];
}

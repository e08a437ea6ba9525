/** Stretches pointed at are taken out, as far as the outlines that cross them; several in one go. */
import type { Drawing, DrawingRecord } from '../../core/document/drawing';
import type { NewId } from '../../core/document/edits/operations';
import { takenOf } from '../../core/document/edits/parting';
import { replaceBy } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { detached, lineOf, type Outline } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import type { Result } from '../../core/errors';
import { trim } from '../../core/geometry/join';
import { STRIDE, type Path } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import { pointAt } from '../../core/geometry/segment';
import type { Bench } from '../bench.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** What is left of one line so far. */
interface Left {
	readonly outline: Outline;
	readonly parts: readonly Path[];
}

export class TrimOperation extends PlainOperation {
	readonly kind = 'trim';
	readonly name = 'Trim';
	/** How many stretches go so far. */
	taken = $state(0);
	/** Lines of which something goes, by id. */
	private left = new Map<string, Left>();
	private history: Map<string, Left>[] = [];

	constructor(
		outlines: readonly Outline[],
		/** Only by these, where some were picked beforehand; else by all others. */
		private readonly cutters: readonly Outline[]
	) {
		super(outlines);
	}
	override get hint(): string {
		return `Point at what has to go, one stretch after the other${this.cutters.length ? `; ${this.cutters.length === 1 ? `"${this.cutters[0].name}" cuts` : `${this.cutters.length} outlines cut`}` : ''}. Enter keeps what is left, Esc leaves it.`;
	}
	override get replaced(): ReadonlySet<string> {
		return new Set(this.left.keys());
	}
	override get ready(): boolean {
		return this.taken > 0;
	}
	override get nothing(): string | undefined {
		return this.taken ? undefined : 'Nothing is pointed at yet.';
	}
	protected compute(): Result<readonly Path[]> {
		return { ok: true, value: [...this.left.values()].flatMap(({ parts }) => parts) };
	}
	/** The lines as they are now, one entry a part. */
	private *parts(): Generator<{ outline: Outline; path: Path }> {
		for (const outline of this.outlines) {
			const left = this.left.get(outline.id);
			for (const path of left ? left.parts : [lineOf(outline)]) yield { outline, path };
		}
	}
	/** What is left of the line under a place once the stretch there is gone, and that stretch. */
	private at(
		x: number,
		y: number,
		reach: number
	): { outline: Outline; path: Path; rest: readonly Path[] } | string | undefined {
		let best: { outline: Outline; path: Path; at: { segment: number; t: number } } | undefined;
		let least = reach;
		for (const { outline, path } of this.parts()) {
			const near = nearestOnPath(path, x, y, least);
			if (!near) continue;
			least = near.distance;
			best = { outline, path, at: near };
		}
		if (!best) return undefined;
		const { outline, path } = best;
		const others = this.cutters.length ? this.cutters.filter((o) => o.id !== outline.id) : undefined;
		const cutters = others
			? others.map(lineOf)
			: [...this.parts()].flatMap((part) => (part.outline.id === outline.id ? [] : [part.path]));
		const result = trim(path, cutters, best.at);
		if (!result.ok) return result.problem.sentence;
		return { outline, path, rest: result.value };
	}
	/** What would go is shown before it does. */
	override hover(x: number, y: number, reach: number): void {
		const found = this.at(x, y, reach);
		this.going = typeof found === 'object' ? takenOf(found.path, found.rest) : [];
	}
	override tap(x: number, y: number, reach: number): void {
		const found = this.at(x, y, reach);
		if (found === undefined) return;
		if (typeof found === 'string') {
			this.fail({ code: 'no-crossing', sentence: found });
			return;
		}
		const was = this.left.get(found.outline.id)?.parts ?? [lineOf(found.outline)];
		this.history.push(new Map(this.left));
		this.left = new Map(this.left).set(found.outline.id, {
			outline: found.outline,
			parts: was.flatMap((part) => (part === found.path ? found.rest : [part]))
		});
		this.taken++;
		this.going = [];
		this.change(0);
	}
	/** The last stretch comes back. */
	back(): boolean {
		const was = this.history.pop();
		if (!was) return false;
		this.left = was;
		this.taken--;
		this.change(0);
		return true;
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		const put: DrawingRecord[] = [];
		const remove: string[] = [];
		let at = drawing;
		for (const { outline, parts } of this.left.values()) {
			const edit = replaceBy(at, detached(outline), parts, newId);
			put.push(...(edit.put ?? []));
			remove.push(...(edit.remove ?? []));
			const records = new Map(at.records);
			for (const record of edit.put ?? []) records.set(record.id, record);
			at = { ...at, records };
		}
		return { put, remove };
	}
}

/** Trims by what is selected, or by everything; a stretch that is picked goes at once. */
export function beginTrim(bench: Bench): TrimOperation | string | undefined {
	const { selection } = bench;
	const entered = selection.enteredOutline;
	const all = shown(bench.drawing);
	if (all.length === 0) return 'There is no outline yet.';
	const operation = new TrimOperation(all, entered ? [] : selection.selectedOutlines);
	if (!entered || selection.segment === undefined) return operation;
	const path = lineOf(entered);
	const i = entered.anchors.indexOf(selection.segment);
	if (i >= 0 && i < path.types.length) {
		const p = pointAt(path.types[i], path.segs, STRIDE * i, 0.5);
		operation.tap(p.x, p.y, bench.reach('mouse'));
	}
	return operation;
}

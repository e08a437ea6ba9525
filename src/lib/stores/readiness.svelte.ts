/** What would stop the cut: found behind the work, gone to, mended. */
import type { Fault } from '../core/check/fault';
import type { Edit } from '../core/document/history';
import { mendFault } from '../core/check/mend';
import type { Outline } from '../core/document/outline';
import { output } from '../core/document/output';
import { toProblem, type Problem } from '../core/errors';
import { behind } from '../workers/geometry.client';
import type { ForReadiness } from './parts';
import { newId } from './ids';

/** Whether a fault is mended by itself, without a person deciding anything. */
export const isMendable = (fault: Fault): boolean => !['none', 'size', 'again'].includes(fault.mend);

/** A check that failed is a fault of its own: the drawing is not ready as long as nobody knows. */
const unchecked = (problem: Problem, place: ArrayLike<number> | undefined): Fault => ({
	kind: 'unchecked',
	x: place?.[0] ?? 0,
	y: place?.[1] ?? 0,
	why: `The check could not be finished, so nobody knows whether this can be cut. ${problem.sentence}`,
	mend: 'again',
	stops: true
});

export class Readiness {
	faults = $state.raw<readonly Fault[]>([]);
	checking = $state(false);
	/** The fault that is gone to; -1 none. */
	at = $state(-1);
	private checked: readonly Outline[] = [];
	private timer: ReturnType<typeof setTimeout> | undefined;
	private request = 0;

	constructor(private readonly bench: ForReadiness) {}

	checkSoon(delay = 250): void {
		clearTimeout(this.timer);
		this.checking = true;
		this.timer = setTimeout(() => void this.check(), delay);
	}

	private async check(): Promise<void> {
		const request = ++this.request;
		const { lines } = output(this.bench.drawing);
		const answer = await behind
			.run('check', [lines.map((line) => line.path)])
			.answer.catch((error: unknown) => ({ ok: false as const, problem: toProblem(error) }));
		if (request !== this.request || answer.ok === 'stale') return;
		this.checking = false;
		// A score line, an engraved one, is open by intention.
		const faults: Fault[] = answer.ok
			? answer.value.filter((f) => f.kind !== 'open-ends' || lines[f.outline!].layer.purpose === 'cut')
			: [unchecked(answer.problem, lines[0]?.path.segs)];
		const unsized = this.bench.references.find((r) => r.pxPerMm === undefined);
		if (unsized) {
			faults.unshift({
				kind: 'no-size',
				x: unsized.x,
				y: unsized.y,
				why: `"${unsized.name}" has no true size yet: what is traced from it would have no scale.`,
				mend: 'size',
				stops: true
			});
		}
		this.checked = lines.map((line) => line.outline);
		this.faults = faults;
		if (this.at >= faults.length) this.at = faults.length - 1;
	}

	/** Goes to the next thing to mend. */
	next(by = 1): void {
		if (this.faults.length === 0) {
			this.bench.tell('Nothing is left to mend.');
			return;
		}
		this.goTo((this.at + by + this.faults.length) % this.faults.length);
	}

	goTo(i: number): void {
		const fault = this.faults[i];
		if (!fault) return;
		this.at = i;
		if (fault.kind === 'no-size') {
			this.bench.station = 'size';
			return;
		}
		this.bench.station = 'mend';
		this.bench.leave();
		const outline = this.outlineOf(fault);
		this.bench.selection.selected = new Set(
			outline && this.bench.drawing.records.has(outline.id) ? [outline.id] : []
		);
		this.bench.sight.lookAt(fault);
	}

	mendWord(fault: Fault): string | undefined {
		return {
			again: 'Check again',
			size: 'Give it a size',
			'join-ends': 'Join the ends',
			close: 'Close it',
			remove: 'Remove it',
			'remove-segments': 'Take them out',
			'take-overlap': 'Take the doubled stretch out',
			'take-spikes': 'Take the spikes out',
			fair: 'Make it fair',
			thin: 'Thin it out',
			none: undefined
		}[fault.mend];
	}

	mend(fault: Fault): void {
		if (fault.mend === 'size') {
			this.bench.station = 'size';
			return;
		}
		if (fault.mend === 'again') {
			this.checkSoon(0);
			return;
		}
		const edit = mendFault(this.bench.drawing, fault, this.checked, newId);
		if (edit) this.bench.commit(this.mendWord(fault) ?? 'Mend', edit);
	}

	/** Mends everything of which it is clear how. */
	mendAll(): void {
		const put = new Map<string, NonNullable<Edit['put']>[number]>();
		const remove = new Set<string>();
		let count = 0;
		for (const fault of this.faults) {
			if (!isMendable(fault)) continue;
			const edit = mendFault(this.bench.drawing, fault, this.checked, newId);
			if (!edit) continue;
			count++;
			for (const r of edit.put ?? []) put.set(r.id, r);
			for (const id of edit.remove ?? []) remove.add(id);
		}
		for (const id of remove) put.delete(id);
		if (this.bench.commit(`Mend ${count} faults`, { put: [...put.values()], remove: [...remove] })) {
			this.bench.tell(`${count} faults mended. One undo takes it all back.`);
		}
	}

	/** The outline that a fault is about. */
	outlineOf(fault: Fault): Outline | undefined {
		return fault.outline === undefined ? undefined : this.checked[fault.outline];
	}
}

/** What would stop the cut: found behind the work, gone to, mended. */
import { FAULT_WORDS, type Fault } from '../core/check/fault';
import { bothCutFaults } from '../core/check/both-cut';
import { checkedOf, tryMend } from '../core/check/mend-all';
import { jobsOf, sheetsOf } from '../core/document/drawing';
import type { Outline } from '../core/document/outline';
import { toProblem, type Problem } from '../core/errors';
import type { Path } from '../core/geometry/path';
import { behind } from '../workers/geometry.client';
import type { ForReadiness } from './parts';
import { newId } from './ids';

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
		const checked = checkedOf(this.bench.drawing);
		const { outlines, paths, mayBeOpen } = checked;
		const answer = await behind
			.run('check', [[...paths], { mayBeOpen }])
			.answer.catch((error: unknown) => ({ ok: false as const, problem: toProblem(error) }));
		if (request !== this.request || answer.ok === 'stale') return;
		const byTool = answer.ok ? await this.checkTool(paths) : [];
		if (request !== this.request || !byTool) return;
		this.checking = false;
		const faults: Fault[] = answer.ok
			? [...answer.value, ...bothCutFaults(checked), ...byTool]
			: [unchecked(answer.problem, paths[0]?.segs)];
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
		this.checked = outlines;
		this.faults = faults;
		if (this.at >= faults.length) this.at = faults.length - 1;
	}

	/** What the sheet and the tools of the jobs make of the lines; undefined where something newer is asked. */
	private async checkTool(paths: readonly Path[]): Promise<readonly Fault[] | undefined> {
		const { drawing } = this.bench;
		const [sheet] = sheetsOf(drawing);
		const tool = jobsOf(drawing).find((job) => !job.off && job.side === 'outside')?.tool.tool;
		if (!sheet && !tool) return [];
		const question = {
			...(tool?.kind === 'cutter' ? { toolRadius: tool.diameter / 2 } : {}),
			...(tool?.kind === 'beam' ? { kerf: tool.kerf } : {}),
			...(sheet ? { sheet } : {})
		};
		const answer = await behind.run('toolFaults', [[...paths], question]).answer.catch(() => undefined);
		if (answer?.ok === 'stale') return undefined;
		return answer?.ok === true ? answer.value : [];
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
			'join-lines': 'Join the lines',
			'bridge-lines': 'Bridge the gap',
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
		const tried = tryMend(this.bench.drawing, fault, this.checked, newId);
		if (tried.ok) this.bench.commit(this.mendWord(fault) ?? 'Mend', tried.edit);
		else this.bench.tell(tried.why, 'trouble');
	}

	/** Mends everything of which it is clear how, as one step; what was done is told by kind, and what stays with its reason. */
	async mendAll(): Promise<void> {
		const { bench } = this;
		const before = bench.drawing;
		const answer = await behind
			.run('mend', [before])
			.answer.catch((error: unknown) => ({ ok: false as const, problem: toProblem(error) }));
		if (answer.ok === 'stale') return;
		if (!answer.ok) {
			bench.trouble(answer.problem);
			return;
		}
		if (bench.drawing !== before) {
			bench.tell('The drawing was changed meanwhile; nothing was mended.');
			return;
		}
		const { edit, done, left } = answer.value;
		const count = done.reduce((sum, { count }) => sum + count, 0);
		const stays = left.length
			? ` ${left.length} ${left.length === 1 ? 'stays' : 'stay'}: ${left[0].name ? `"${left[0].name}": ` : ''}${left[0].why}`
			: '';
		if (count === 0 || !bench.commit(`Mend ${count} ${count === 1 ? 'fault' : 'faults'}`, edit)) {
			bench.tell(`Nothing could be mended by itself.${stays}`);
			return;
		}
		const kinds = done.map(({ kind, count: n }) => `${n} ${FAULT_WORDS[kind][n === 1 ? 0 : 1]}`).join(', ');
		bench.tell(`Mended: ${kinds}.${stays}`);
	}

	/** The outline that a fault is about. */
	/** All outlines of a chain of loose lines; else the one outline. */
	chainOf(fault: Fault): readonly Outline[] {
		const ids = fault.chain ?? (fault.outline === undefined ? [] : [fault.outline]);
		return ids.flatMap((i) => this.checked[i] ?? []);
	}
	outlineOf(fault: Fault): Outline | undefined {
		return fault.outline === undefined ? undefined : this.checked[fault.outline];
	}
}

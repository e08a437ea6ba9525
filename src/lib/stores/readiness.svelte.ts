/** What would stop the cut: found behind the work, gone to, mended. */
import { FAULT_WORDS, type Fault } from '../core/check/fault';
import { bothCutFaults } from '../core/check/both-cut';
import { checkedOf } from '../core/check/checked';
import { jobsOf, sheetsOf } from '../core/document/drawing';
import { placeOutlines } from '../core/document/edits/transform';
import { moveBy } from '../core/geometry/maps';
import { isFollower } from '../core/document/graph';
import type { Tool } from '../core/document/job';
import { lineOf, type Outline } from '../core/document/outline';
import { toProblem, type Problem } from '../core/errors';
import type { Path } from '../core/geometry/path';
import { boxOf } from '../core/geometry/pick';
import { nestPaths } from '../core/plane/pieces';
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
		const sheets = sheetsOf(drawing);
		const tool = jobsOf(drawing).find((job) => !job.off && job.side === 'outside')?.tool.tool;
		if (sheets.length === 0 && !tool) return [];
		const question = {
			...(tool?.kind === 'cutter' ? { toolRadius: tool.diameter / 2 } : {}),
			...(tool?.kind === 'beam' ? { kerf: tool.kerf } : {}),
			...(sheets.length ? { sheets } : {})
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
			'onto-sheet': 'Move it onto the sheet',
			'other-tool': 'Take a tool that fits',
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
		if (fault.mend === 'onto-sheet') {
			this.moveOntoSheet(fault);
			return;
		}
		if (fault.mend === 'other-tool') {
			void this.takeOtherTool(fault);
			return;
		}
		void this.tryMending(fault, this.checked);
	}

	/** Mends a fault by itself, and looks at what comes of it. */
	private async tryMending(fault: Fault, checked: readonly Outline[]): Promise<void> {
		const { tryMend } = await import('../core/check/mend-all');
		const tried = tryMend(this.bench.drawing, fault, checked, newId);
		if (tried.ok) this.bench.commit(this.mendWord(fault) ?? 'Mend', tried.edit);
		else this.bench.tell(tried.why, 'trouble');
	}

	/** Moves a piece with all that lies in it onto the sheet, by the least. */
	private moveOntoSheet(fault: Fault): void {
		const { drawing } = this.bench;
		const outline = this.outlineOf(fault);
		const sheets = sheetsOf(drawing);
		if (sheets.length === 0 || !outline) return;
		const lines = this.checked.map(lineOf);
		const nested = nestPaths(lines);
		const isIn = (i: number): boolean => {
			for (let up: number | undefined = i; up !== undefined; up = nested[up].parent)
				if (up === fault.outline) return true;
			return false;
		};
		const box = boxOf(lines[fault.outline ?? 0]);
		const onto = (from: number, to: number, least: number, most: number) =>
			from < least ? least - from : to > most ? most - to : 0;
		const ways = sheets.map((sheet) => ({
			right: onto(box.x0, box.x1, sheet.x, sheet.x + sheet.width),
			up: onto(box.y0, box.y1, sheet.y, sheet.y + sheet.height)
		}));
		const { right, up } = ways.reduce((a, b) =>
			Math.hypot(b.right, b.up) < Math.hypot(a.right, a.up) ? b : a
		);
		const map = moveBy(right, up);
		const piece = this.checked.filter((_, i) => isIn(i));
		const stuck = piece.find((one) => isFollower(one));
		if (stuck) this.bench.tell(`"${stuck.name}" follows another line: move that one.`, 'trouble');
		else this.bench.commit('Move onto the sheet', placeOutlines(drawing, piece, map));
	}

	/** Jobs get the widest cutter of the workshop that fits in the place of one that is too wide. */
	private async takeOtherTool(fault: Fault): Promise<void> {
		const { workshop } = await import('./machining/workshop.svelte');
		await workshop.load();
		const fits = fault.fits ?? 0;
		const widthOf = ({ tool }: Tool) => (tool.kind === 'cutter' ? tool.diameter : Infinity);
		const tools = workshop.has.tools
			.filter((one) => one.tool.kind === 'cutter' && (one.tool.shape ?? 'flat') === 'flat')
			.filter((one) => widthOf(one) <= fits)
			.sort((a, b) => widthOf(b) - widthOf(a));
		const jobs = jobsOf(this.bench.drawing).filter(
			({ tool }) => widthOf(tool) > fits && widthOf(tool) < Infinity
		);
		if (!tools.length) {
			this.bench.tell(
				`The workshop has no cutter of ${fits} mm or less: add one there, or make the hole wider.`,
				'trouble'
			);
			return;
		}
		const [tool] = tools;
		if (this.bench.commit(`Take ${tool.name}`, { put: jobs.map((job) => ({ ...job, tool })) }))
			this.bench.tell(`The jobs take "${tool.name}" now.`);
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
		if (
			count === 0 ||
			!bench.commit(`Mend ${count} ${count === 1 ? 'fault' : 'faults'}`, { ...edit, isLarge: true })
		) {
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

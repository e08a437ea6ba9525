/** The sheet made ready for a machine: its jobs, what each comes to, where the tool goes; tabs and starts under the hand. */
import { jobsOf, layersOf, nextRank, type Drawing } from '../../core/document/drawing';
import type { CutSide, Job, JobHow, JobTabs } from '../../core/document/job';
import type { Edit } from '../../core/document/history';
import { toProblem } from '../../core/errors';
import { isEmptyBox } from '../../core/geometry/measure';
import { transformPath } from '../../core/geometry/path';
import { output } from '../../core/document/output';
import { addPaths } from '../../core/document/edits/operations';
import { joinMoves } from '../../core/toolpath/moves';
import type { CutMade, Plan } from '../../core/toolpath/plan';
import {
	howFor,
	jobInput,
	jobsFor,
	setupFrom,
	outputOn,
	workSheet,
	type Setup,
	type WorkSheet
} from '../../core/toolpath/recipe';
import { reachOf } from '../../core/toolpath/settings';
import { drawCutting, type Cutting } from '../../render/cutting';
import { CutMaterial, widthAt } from '../../render/material';
import type { SurfaceLook } from '../../render/scene';
import { hand, type Task } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { Operation } from '../operations/operation.svelte';
import type { MachineBench } from './machine-bench.svelte';
import { bringFile, BroughtFile } from './brought-file.svelte';
import { keyOf, shownFile, shownPlan, type Planned } from './planned';
import { Watching } from './watching.svelte';
import { WayMarks } from './way-marks.svelte';
import { workshop } from './workshop.svelte';

const KEY = 'setup';
/** ms of a frame that the material's picture may take. */
const FRAME_MS = 10;
/** What one more job is called. */
const SIDE_NAMES: Partial<Record<CutSide, string>> = { clear: 'Clear', groove: 'Engrave', drill: 'Drill' };
export class MachiningOperation extends Operation {
	readonly kind = 'machine';
	readonly name = 'Machine';
	/** What is cut: the view makes room for it. */
	readonly outlines = $derived.by(() => output(this.bench.drawing).lines.map((line) => line.outline));
	override get isLasting(): boolean {
		return true;
	}
	private wished = $state.raw<{ machine?: string; tool?: string; material?: string }>({});
	/** The job whose settings are shown. */
	private chosenId = $state<string | undefined>();
	planned = $state.raw<readonly Planned[]>([]);
	watching = $state.raw<Watching | undefined>();
	/** The machine's own bench, while a job lies on it. */
	machineBench = $state.raw<MachineBench | undefined>();
	/** A machine's file that lies on the sheet to be looked at. */
	brought = $state.raw<BroughtFile | undefined>();
	private material: CutMaterial | undefined;
	/** Counted up while the material's picture is behind the tool. */
	private catching = $state(0);
	/** Its tabs and starts, under the hand and by keys. */
	readonly marks = new WayMarks(this);
	private readonly tasks = new Map<string, Task<'plan'>>();
	private readonly known = new Map<string, { readonly key: string; readonly planned: Planned }>();
	private readonly unfollow: () => void;

	constructor(readonly bench: Bench) {
		super();
		try {
			this.wished = JSON.parse(localStorage.getItem(KEY) ?? '{}') as typeof this.wished;
		} catch {
			// Nothing that can be read was chosen before.
		}
		void workshop.load();
		// Whenever lines, jobs or the sheet change, what they come to is found anew.
		this.unfollow = $effect.root(() => {
			$effect(() => {
				void bench.drawing;
				this.change(60);
			});
		});
	}

	override stop(): void {
		super.stop();
		this.watching?.pause();
		for (const task of this.tasks.values()) task.stop();
		this.tasks.clear();
		this.unfollow();
	}

	get jobs(): readonly Job[] {
		return jobsOf(this.bench.drawing);
	}
	get chosen(): Job | undefined {
		return this.jobs.find((job) => job.id === this.chosenId) ?? this.jobs.at(-1);
	}
	/** The group of its settings that is shown. */
	group = $state<string | undefined>();
	show(group: string): void {
		this.group = group;
		if (this.jobs.length === 0) this.make();
	}
	choose(id: string): void {
		this.chosenId = id;
	}
	/** The sheet that lies on the machine, where there are several. */
	sheetId = $state<string | undefined>();
	get sheet(): WorkSheet | undefined {
		return workSheet(this.bench.drawing, this.sheetId);
	}

	/** The machine, tool and material that new jobs take. */
	get setup(): Setup | undefined {
		const [job] = this.jobs;
		if (job) {
			const material = workshop.has.materials.find((m) => m.name === job.material);
			if (material) return { machine: job.machine, tool: job.tool, material };
		}
		return setupFrom(workshop.has, this.wished);
	}

	/** Another machine, tool or material: jobs that are there are made anew with it. */
	wish(change: { machine?: string; tool?: string; material?: string }): void {
		const { setup } = this;
		const wished = {
			machine: setup?.machine.id,
			tool: setup?.tool.id,
			material: setup?.material.id,
			...change
		};
		this.wished = wished;
		localStorage.setItem(KEY, JSON.stringify(wished));
		const next = setupFrom(workshop.has, wished);
		if (next && this.jobs.length) this.make(next, 'Change the setup');
	}

	/** Jobs for all that goes out, from its purposes and the material. */
	make(setup = this.setup, name = 'Make the jobs'): void {
		if (!setup) return;
		const { drawing } = this.bench;
		const jobs = jobsFor(drawing, setup, newId, nextRank(drawing));
		if (jobs.length === 0) {
			this.bench.tell('Nothing goes out yet: no line lies on a layer that is cut, scored or engraved.');
			return;
		}
		this.bench.commit(name, { put: jobs, remove: this.jobs.map((job) => job.id) });
		this.chosenId = jobs.at(-1)?.id;
	}

	/** One more job for just what is selected. */
	add(side: CutSide): void {
		const { setup, bench } = this;
		const outlines = bench.selection.selectedOutlines.map((o) => o.id);
		if (!setup) return;
		if (outlines.length === 0) {
			bench.tell('Select the outlines that it is for first: leave, pick them, and come back.');
			return;
		}
		const how = howFor(
			setup,
			side === 'clear' ? 'engrave' : side === 'groove' || side === 'drill' ? side : 'cut'
		);
		if (!how) return;
		const job: Job = {
			type: 'job',
			id: newId(),
			rank: nextRank(bench.drawing),
			name: SIDE_NAMES[side] ?? 'Cut',
			takes: { outlines },
			side,
			machine: setup.machine,
			tool: setup.tool,
			material: setup.material.name,
			thickness: setup.material.thickness,
			how
		};
		if (bench.commit(`Add a job`, { put: [job] })) this.chosenId = job.id;
	}

	setJob(job: Job, change: Partial<Job>, name = 'Change the job'): void {
		this.bench.commit(name, { put: [{ ...job, ...change }] });
	}
	setHow(job: Job, change: Partial<JobHow>, name = 'Change the job'): void {
		this.setJob(job, { how: { ...job.how, ...change } }, name);
	}
	setTabs(job: Job, change: Partial<JobTabs> | undefined): void {
		const { tabs: _tabs, ...rest } = job.how;
		const width = Math.max(3, 2 * reachOf(job.tool.tool));
		const tabs: JobTabs = { width, height: Math.min(1.5, job.thickness / 2), count: 3, ...job.how.tabs };
		this.setJob(job, { how: change ? { ...rest, tabs: { ...tabs, ...change } } : rest }, 'Change the tabs');
	}
	removeJob(job: Job): void {
		this.bench.commit(`Take the job "${job.name}" away`, { remove: [job.id] });
	}

	// ---- what the jobs come to

	protected async run(): Promise<void> {
		const { drawing } = this.bench;
		const { sheet } = this;
		const going = this.jobs.filter((job) => !job.off);
		const request = this.begin();
		if (!sheet || going.length === 0) {
			this.planned = [];
			this.busy = false;
			return;
		}
		try {
			const planned: Planned[] = [];
			for (const [i, job] of going.entries()) {
				const made = await this.planJob(drawing, job, sheet, (share) => {
					if (request === this.request) this.progress = (i + share) / going.length;
				});
				if (request !== this.request) return;
				if (made) planned.push(made);
			}
			if (request !== this.request) return;
			this.endWatching();
			this.planned = planned;
			this.problem = planned.find((p) => p.problem)?.problem;
		} catch (error) {
			if (request === this.request) this.fail(toProblem(error));
		}
		if (request === this.request) this.busy = false;
	}

	private async planJob(
		drawing: Drawing,
		job: Job,
		sheet: WorkSheet,
		tell: (share: number) => void
	): Promise<Planned | undefined> {
		const made = jobInput(drawing, job, sheet);
		const key = keyOf(made, sheet);
		const before = this.known.get(job.id);
		if (before?.key === key) return { ...before.planned, job };
		const task = hand.run('plan', [made.input, made.settings], {
			line: `plan ${job.id}`,
			tell: (share) => tell(typeof share === 'number' ? share : 0)
		});
		this.tasks.set(job.id, task);
		const answer = await task.answer.catch((error: unknown) => ({
			ok: false as const,
			problem: toProblem(error)
		}));
		this.tasks.delete(job.id);
		if (answer.ok === 'stale') return undefined;
		const planned = answer.ok
			? shownPlan(job, made, answer.value as Plan, sheet)
			: { job, ids: made.ids, plan: undefined, problem: answer.problem, shown: [], travel: [], uncut: [] };
		this.known.set(job.id, { key, planned });
		return planned;
	}

	/** The cuts of a job in their order. */
	cutsOf(job: Job): readonly CutMade[] {
		return this.planned.find((p) => p.job.id === job.id)?.plan?.cuts ?? [];
	}
	/** Brings a cut into sight. */
	seeCut(job: Job, cut: number): void {
		const shown = this.planned.find((p) => p.job.id === job.id)?.shown[cut];
		if (shown) this.bench.sight.lookAt(shown.start);
	}
	/** Puts one cut before another and keeps the order so. */
	moveCut(job: Job, from: number, before: number): void {
		const planned = this.planned.find((p) => p.job.id === job.id);
		if (!planned?.plan) return;
		const order = planned.plan.cuts.map((cut) => planned.ids[cut.line]);
		const [moved] = order.splice(from, 1);
		order.splice(before > from ? before - 1 : before, 0, moved);
		// A line whose cut is in parts stands where its first part stands.
		const fixed = [...new Set(order.filter((id) => id !== undefined))];
		this.setHow(job, { fixed }, 'Fix the order');
	}

	/** All moves in their order, and which tool makes each cut. */
	readonly whole = $derived.by(() => {
		const plans = this.planned.flatMap((p) => (p.plan ? [{ job: p.job, plan: p.plan }] : []));
		const cuts = plans.flatMap(({ job, plan }) => plan.cuts.map((cut) => ({ job, cut })));
		return { plans, cuts, moves: joinMoves(plans.map(({ plan }) => plan.moves)) };
	});
	/** What lies on the sheet, whatever runs over it. */
	private readonly lying = $derived.by(() => ({
		cuts: this.planned.flatMap((p) => p.shown),
		travel: this.planned.flatMap((p) => p.travel),
		uncut: this.planned.flatMap((p) => p.uncut)
	}));
	get seconds(): number {
		return this.planned.reduce((sum, p) => sum + (p.plan?.seconds ?? 0), 0);
	}
	get cutLength(): number {
		return this.planned.reduce((sum, p) => sum + (p.plan?.cut ?? 0), 0);
	}
	get warnings(): readonly string[] {
		return this.planned.flatMap((p) => p.plan?.warnings ?? []);
	}

	// ---- the moving preview

	watch(): void {
		const { cuts, plans } = this.whole;
		const { sheet, brought } = this;
		const moves = brought?.moves ?? this.whole.moves;
		const first = plans[0]?.job ?? this.setup;
		if (moves.kinds.length === 0 || !sheet || !first) return;
		const thickness = plans[0]?.job.thickness ?? this.setup?.material.thickness ?? 1;
		this.material?.rest();
		this.material = new CutMaterial(
			moves,
			(move) => (brought ? first : (cuts[moves.cuts[move]]?.job ?? first)).tool.tool,
			{ width: sheet.width, height: sheet.height, thickness }
		);
		this.watching = new Watching(moves, first.machine);
		this.watching.turn();
	}
	/** The same, once what the jobs come to is known; jobs are made where there are none. */
	async watchSoon(): Promise<void> {
		if (this.jobs.length === 0) this.make();
		await new Promise((resolve) => setTimeout(resolve));
		await this.settled();
		if (this.bench.operation === this) this.watch();
	}
	override leaveOne(): boolean {
		if (this.watching) this.endWatching();
		else if (this.brought) this.endBrought();
		else return false;
		return true;
	}
	endWatching(): void {
		this.watching?.pause();
		this.watching = undefined;
		this.material?.rest();
		this.material = undefined;
	}

	// ---- a machine's file, looked at

	/** Lays a file that the person chooses on the sheet. */
	async bring(): Promise<void> {
		try {
			const read = await bringFile();
			const { sheet } = this;
			if (!read) return;
			if (!sheet || read.moves.kinds.length === 0) {
				this.bench.tell(
					sheet
						? `"${read.file.name}" moves nothing${read.faults[0] ? `: line ${read.faults[0].line}: ${read.faults[0].why}` : '.'}`
						: 'Draw something, or lay out a sheet, first.',
					'trouble'
				);
				return;
			}
			await this.settled();
			this.endWatching();
			const job = this.jobs.find((one) => !one.off && one.side !== 'drill' && one.side !== 'groove');
			const lines = job
				? jobInput(this.bench.drawing, job, sheet).input.lines.map(({ path }) => path)
				: outputOn(this.bench.drawing, sheet).lines.map(({ path }) =>
						transformPath(path, [1, 0, 0, 1, -sheet.x, -sheet.y])
					);
			this.brought = new BroughtFile(read.file, read.moves, read.faults, sheet, {
				lines,
				side: job?.side ?? 'on',
				reach: job && job.side !== 'on' ? reachOf(job.tool.tool) : 0,
				planned: this.whole.moves.kinds.length ? this.whole.moves : undefined
			});
		} catch (error) {
			this.bench.trouble(toProblem(error));
		}
	}
	endBrought(): void {
		this.endWatching();
		this.brought = undefined;
	}
	seeGouge(): void {
		const at = this.brought?.compared?.judged?.at;
		if (at && this.sheet) this.bench.sight.lookAt({ x: at.x + this.sheet.x, y: at.y + this.sheet.y });
	}
	/** Its lines as outlines of the drawing. */
	broughtAsOutlines(): void {
		const { brought, bench } = this;
		if (!brought) return;
		const layers = layersOf(bench.drawing);
		const layer = layers.find((one) => one.purpose === 'cut' && !one.hidden) ?? layers[0];
		const name = brought.file.name.replace(/\.[^.]*$/, '');
		const made = addPaths(bench.drawing, brought.cuts, name, layer.id, newId);
		if (bench.commit(`Lines of ${brought.file.name}`, made)) this.endBrought();
	}
	/** The name of the cut that is being made. */
	get now(): string | undefined {
		const cut = this.watching?.cut ?? -1;
		return cut < 0 ? undefined : this.whole.cuts[cut]?.cut.name;
	}

	// ---- on the surface

	override get over(): ((c: CanvasRenderingContext2D, look: SurfaceLook) => void) | undefined {
		const { sheet, watching, material } = this;
		if (!sheet) return undefined;
		let cut: Cutting['cut'];
		if (watching && material) {
			const { index, share } = watching.move;
			const job = (!this.brought && this.whole.cuts[Math.max(0, watching.cut)]?.job) || this.planned[0]?.job;
			const tool = job?.tool ?? this.setup!.tool;
			const at = watching.tool;
			void this.catching;
			// Far jumps are caught up with in the frames that follow.
			if (!material.show(index, share, FRAME_MS)) requestAnimationFrame(() => this.catching++);
			cut = {
				picture: material.picture,
				tool: { x: at.x + sheet.x, y: at.y + sheet.y },
				toolWidth: widthAt(tool.tool, this.planned[0]?.job.thickness ?? 1)
			};
		}
		const { brought } = this;
		const cutting: Cutting = {
			...this.lying,
			...(brought ? { cuts: [shownFile(brought)], travel: brought.travel, uncut: [] } : {}),
			...(watching ? { uncut: [] } : {}),
			sheet: { x0: sheet.x, y0: sheet.y, x1: sheet.x + sheet.width, y1: sheet.y + sheet.height },
			isProposed: !sheet.isLaid,
			held: this.marks.shown,
			...(cut ? { cut } : {}),
			...(watching && !brought && watching.cut >= 0 ? { now: watching.cut } : {})
		};
		return (c, look) => drawCutting(c, look, cutting);
	}

	override get hint(): string | undefined {
		if (this.watching)
			return 'Space runs and stops it; press a place on a line to see the tool there; Esc goes back to the jobs.';
		if (this.brought)
			return 'Where the tool of this file goes, over what is drawn: watch it, take it as outlines, or go back.';
		if (this.jobs.length === 0)
			return 'Choose machine, tool and material, and make the jobs: what is scored first, what is cut out last.';
		return 'Drag a knot of thread to move a tab, a needle to begin elsewhere; press the line to add a tab, a tab to take it away.';
	}

	// ---- under the hand

	override hover(x: number, y: number, reach: number): void {
		if (!this.watching) this.marks.hover(x, y, reach);
	}
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		return !this.watching && this.marks.drag(fromX, fromY, x, y, reach);
	}
	override dropped(): void {
		this.marks.dropped();
	}
	override tap(x: number, y: number, reach: number): void {
		const { watching, sheet } = this;
		if (!watching || !sheet) {
			this.marks.tap(x, y, reach);
			return;
		}
		watching.pause();
		if (!watching.goNear(x - sheet.x, y - sheet.y, 3 * reach))
			this.bench.tell('The tool does not come there.');
	}

	/** It is never kept as a step of its own: each change is one. */
	edit(): Edit {
		return {};
	}
	override get ready(): boolean {
		return false;
	}
}

/** Opens the machine's side of the sheet. */
export function openMachining(bench: Bench): MachiningOperation {
	if (bench.operation instanceof MachiningOperation) return bench.operation;
	bench.dropOperation();
	bench.station = 'cut';
	bench.trayOpen = true;
	const operation = new MachiningOperation(bench);
	bench.operation = operation;
	if (isEmptyBox(bench.contentBox())) bench.tell('There is nothing yet that could be cut.');
	return operation;
}

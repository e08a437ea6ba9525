/** The sheet made ready for a machine: its jobs, what each comes to, where the tool goes; tabs and starts under the hand. */
import { jobsOf, layersOf, nextRank, type Drawing } from '../../core/document/drawing';
import type { CutSide, Job, JobHow, JobTabs } from '../../core/document/job';
import type { Edit } from '../../core/document/history';
import { toProblem, type Problem } from '../../core/errors';
import { isEmptyBox } from '../../core/geometry/measure';
import type { Point } from '../../core/geometry/point';
import { transformPath, type Path } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import { lineOf } from '../../core/document/outline';
import { output } from '../../core/document/output';
import { addPaths } from '../../core/document/edits/operations';
import { Running } from '../../core/toolpath/running';
import { drawnMoves } from '../../core/toolpath/drawn';
import { joinMoves } from '../../core/toolpath/moves';
import type { CutMade, Plan } from '../../core/toolpath/plan';
import {
	howFor,
	jobInput,
	jobsFor,
	setupFrom,
	workSheet,
	type JobInput,
	type Setup,
	type WorkSheet
} from '../../core/toolpath/recipe';
import { reachOf } from '../../core/toolpath/settings';
import { drawCutting, type Cutting, type ShownCut } from '../../render/cutting';
import { CutMaterial, widthAt } from '../../render/material';
import type { SurfaceLook } from '../../render/stage';
import { hand, type Task } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { Operation } from '../operations/operation.svelte';
import type { MachineBench } from './machine-bench.svelte';
import { bringFile, BroughtFile } from './brought-file.svelte';
import { Watching } from './watching.svelte';
import { workshop } from './workshop.svelte';

/** A job and what it comes to. */
export interface Planned {
	readonly job: Job;
	readonly ids: readonly string[];
	readonly plan: Plan | undefined;
	readonly problem: Problem | undefined;
	/** As it is shown. */
	readonly shown: readonly ShownCut[];
	readonly travel: readonly Path[];
	readonly uncut: readonly ArrayLike<number>[];
}

const KEY = 'setup';
/** ms of a frame that the material's picture may take. */
const FRAME_MS = 10;
/** What one more job is called. */
const SIDE_NAMES: Partial<Record<CutSide, string>> = { clear: 'Clear', groove: 'Engrave', drill: 'Drill' };
/** What of a cut is held: one of its tabs, or where it begins. */
type Grip =
	| { readonly kind: 'tab'; readonly job: Job; readonly line: string; readonly index: number }
	| { readonly kind: 'start'; readonly job: Job; readonly line: string };

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
	private grip: Grip | undefined;
	private held = $state.raw<Point | undefined>();
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
	get sheet(): WorkSheet | undefined {
		return workSheet(this.bench.drawing);
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
				: output(this.bench.drawing).lines.map(({ path }) =>
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
			held: this.held ?? (this.chosen && this.heldTab(this.chosen)?.tab),
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

	// ---- tabs by keys

	/** Where the tab is that the keys hold. */
	private keyed = $state.raw<Point | undefined>();

	/** Takes hold of the tab after the one that is held. */
	nextTab(job: Job): void {
		const all = this.allTabs(job);
		if (!all.length) return;
		const own = this.heldTab(job);
		const now = own ? all.findIndex(({ tab }) => tab === own.tab) : -1;
		const next = all[(now + 1) % all.length];
		this.keyed = next.tab;
		this.bench.sight.lookAt(next.tab);
	}
	private allTabs(job: Job): { line: string; index: number; tab: Point; way: Path }[] {
		const planned = this.planned.find((p) => p.job.id === job.id);
		const count = new Map<string, number>();
		return (
			planned?.plan?.cuts.flatMap(({ line: at }, i) => {
				const line = planned.ids[at];
				if (line === undefined) return [];
				return planned.shown[i].tabs.map((tab) => {
					const index = count.get(line) ?? 0;
					count.set(line, index + 1);
					return { line, index, tab, way: planned.shown[i].lines[0] };
				});
			}) ?? []
		);
	}
	/** The tab that is held; after a change it is the one nearest to where it was. */
	private heldTab(job: Job) {
		const { keyed } = this;
		if (!keyed) return undefined;
		const off = ({ tab }: { tab: Point }) => Math.hypot(tab.x - keyed.x, tab.y - keyed.y);
		const all = this.allTabs(job);
		return all.length ? all.reduce((a, b) => (off(b) < off(a) ? b : a)) : undefined;
	}
	/** Moves the tab that is held along its line, mm; false where none is. */
	slideTab(job: Job, by: number): boolean {
		const own = this.heldTab(job);
		if (!own) return false;
		const running = new Running(own.way);
		const { x, y } = running.at(running.nearest(own.tab.x, own.tab.y) + by);
		const places = this.tabsOf(job, own.line).map((p) => [p.x, p.y] as const);
		this.keyed = { x, y };
		this.setTabs(job, { places: { ...job.how.tabs?.places, [own.line]: places.with(own.index, [x, y]) } });
		return true;
	}
	/** Takes the tab that is held away; false where none is. */
	takeTab(job: Job): boolean {
		const own = this.heldTab(job);
		if (!own) return false;
		this.keyed = undefined;
		this.putTabs(
			job,
			own.line,
			this.tabsOf(job, own.line).filter((_, i) => i !== own.index)
		);
		return true;
	}

	// ---- under the hand

	private gripAt(x: number, y: number, reach: number): Grip | undefined {
		let best: { grip: Grip; d: number } | undefined;
		const offer = (grip: Grip, p: Point) => {
			const d = Math.hypot(p.x - x, p.y - y);
			if (d <= 1.5 * reach && (!best || d < best.d)) best = { grip, d };
		};
		for (const { job, ids, plan, shown } of this.planned)
			plan?.cuts.forEach((cut, i) => {
				const line = ids[cut.line];
				if (line === undefined) return;
				shown[i].tabs.forEach((tab, index) => offer({ kind: 'tab', job, line, index }, tab));
				if (cut.way?.closed) offer({ kind: 'start', job, line }, shown[i].start);
			});
		return best?.grip;
	}

	override hover(x: number, y: number, reach: number): void {
		if (this.watching || this.grip) return;
		const grip = this.gripAt(x, y, reach);
		this.held = grip?.kind === 'tab' ? this.tabsOf(grip.job, grip.line)[grip.index] : undefined;
	}

	/** Where the tabs of a line lie now, mm of the drawing. */
	private tabsOf(job: Job, line: string): readonly Point[] {
		const planned = this.planned.find((p) => p.job.id === job.id);
		return (
			planned?.plan?.cuts.flatMap((cut, i) =>
				planned.ids[cut.line] === line ? planned.shown[i].tabs : []
			) ?? []
		);
	}

	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		if (this.watching) return false;
		this.grip ??= this.gripAt(fromX, fromY, reach);
		if (!this.grip) return false;
		this.dragged = { x, y };
		this.held = this.dragged;
		return true;
	}
	private dragged: Point | undefined;

	override dropped(): void {
		const { grip, dragged } = this;
		this.grip = this.dragged = this.held = undefined;
		if (!grip || !dragged) return;
		const { how } = grip.job;
		const place = [dragged.x, dragged.y] as const;
		if (grip.kind === 'start') {
			this.setHow(grip.job, { starts: { ...how.starts, [grip.line]: place } }, 'Move the start');
			return;
		}
		const places = this.tabsOf(grip.job, grip.line).map((p) => [p.x, p.y] as const);
		this.setTabs(grip.job, {
			places: { ...how.tabs?.places, [grip.line]: places.with(grip.index, place) }
		});
	}

	override tap(x: number, y: number, reach: number): void {
		const { watching, sheet } = this;
		if (watching && sheet) {
			watching.pause();
			if (!watching.goNear(x - sheet.x, y - sheet.y, 3 * reach))
				this.bench.tell('The tool does not come there.');
			return;
		}
		const grip = this.gripAt(x, y, reach);
		if (grip?.kind === 'start') return;
		const job = grip?.job ?? this.chosen;
		if (!job?.how.tabs) return;
		if (grip) {
			const left = this.tabsOf(job, grip.line).filter((_, i) => i !== grip.index);
			this.putTabs(job, grip.line, left);
			return;
		}
		// On a line that may have tabs: one more.
		const planned = this.planned.find((p) => p.job.id === job.id);
		planned?.plan?.cuts.some((cut, i) => {
			const line = planned.ids[cut.line];
			const outline = line === undefined ? undefined : this.bench.drawing.records.get(line);
			const near =
				planned.shown[i].lines.some((path) => nearestOnPath(path, x, y, reach)) ||
				(outline?.type === 'outline' && nearestOnPath(lineOf(outline), x, y, reach));
			if (!near || line === undefined || planned.shown[i].tabs.length === 0) return false;
			this.putTabs(job, line, [...planned.shown[i].tabs, { x, y }]);
			return true;
		});
	}
	private putTabs(job: Job, line: string, places: readonly Point[]): void {
		this.setTabs(job, {
			places: { ...job.how.tabs?.places, [line]: places.map((p) => [p.x, p.y] as const) }
		});
	}

	/** It is never kept as a step of its own: each change is one. */
	edit(): Edit {
		return {};
	}
	override get ready(): boolean {
		return false;
	}
}

/** What a plan depends on, to tell whether it still holds. */
function keyOf({ input, settings }: JobInput, sheet: WorkSheet): string {
	const lines = input.lines.map(({ path, name }) => [
		name,
		path.closed,
		Array.from(path.segs),
		Array.from(path.types)
	]);
	return JSON.stringify([lines, input.points, input.sheet, settings, sheet]);
}

/** A plan as it is shown, moved to where the sheet lies. */
function shownPlan(job: Job, { ids, input }: JobInput, plan: Plan, sheet: WorkSheet): Planned {
	const move = (p: Point) => ({ x: p.x + sheet.x, y: p.y + sheet.y });
	const drawn = drawnMoves(plan.moves, sheet.x, sheet.y);
	// A groove is as wide as what is drawn.
	const width = job.side === 'groove' ? 0 : widthAt(job.tool.tool, job.thickness);
	return {
		job,
		ids,
		plan,
		problem: undefined,
		shown: plan.cuts.map((cut, i) => {
			const lines = cut.way
				? [transformPath(cut.way, [1, 0, 0, 1, sheet.x, sheet.y])]
				: drawnMoves(
						{
							...plan.moves,
							start: [cut.start.x, cut.start.y, 0],
							kinds: plan.moves.kinds.subarray(cut.first, cut.end),
							to: plan.moves.to.subarray(3 * cut.first, 3 * cut.end),
							bulges: plan.moves.bulges.subarray(cut.first, cut.end),
							feeds: plan.moves.feeds.subarray(cut.first, cut.end),
							on: plan.moves.on.subarray(cut.first, cut.end),
							cuts: plan.moves.cuts.subarray(cut.first, cut.end)
						},
						sheet.x,
						sheet.y
					).cuts;
			return {
				lines,
				...(cut.way || cut.line < 0
					? {}
					: { around: transformPath(input.lines[cut.line].path, [1, 0, 0, 1, sheet.x, sheet.y]) }),
				start: move(cut.start),
				direction: cut.direction,
				tabs: cut.tabs.map(move),
				place: i + 1,
				width
			};
		}),
		travel: drawn.travel,
		uncut: plan.uncut.map(({ outline }) => outline.map((v, i) => v + (i % 2 ? sheet.y : sheet.x)))
	};
}

/** A file's lines as one cut. */
const shownFile = ({ cuts }: BroughtFile): ShownCut => ({
	lines: cuts,
	start: { x: cuts[0]?.segs[0] ?? 0, y: cuts[0]?.segs[1] ?? 0 },
	direction: { x: 1, y: 0 },
	tabs: [],
	place: 1,
	width: 0
});

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

/** What lies on the way of a tool and can be moved: holding tabs and starts, under the hand and by keys. */
import type { Drawing } from '../../core/document/drawing';
import type { Job, JobHow, JobTabs } from '../../core/document/job';
import { lineOf } from '../../core/document/outline';
import type { Path } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import type { Point } from '../../core/geometry/point';
import { Running } from '../../core/toolpath/running';
import type { Planned } from './planned';

/** What is needed of the operation on whose way they lie. */
export interface MarkedWay {
	readonly planned: readonly Planned[];
	readonly chosen: Job | undefined;
	readonly bench: { readonly drawing: Drawing; readonly sight: { lookAt(place: Point): void } };
	setHow(job: Job, change: Partial<JobHow>, name?: string): void;
	setTabs(job: Job, change: Partial<JobTabs>): void;
}

/** What of a cut is held: one of its tabs, or where it begins. */
type Grip =
	| { readonly kind: 'tab'; readonly job: Job; readonly line: string; readonly index: number }
	| { readonly kind: 'start'; readonly job: Job; readonly line: string };

export class WayMarks {
	private grip: Grip | undefined;
	private held = $state.raw<Point | undefined>();

	constructor(private readonly way: MarkedWay) {}

	/** The tab that the pointer is over or drags, else the one that the keys hold. */
	get shown(): Point | undefined {
		const { chosen } = this.way;
		return this.held ?? (chosen && this.heldTab(chosen)?.tab);
	}

	// ---- by keys

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
		this.way.bench.sight.lookAt(next.tab);
	}
	private allTabs(job: Job): { line: string; index: number; tab: Point; way: Path }[] {
		const planned = this.way.planned.find((p) => p.job.id === job.id);
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
		this.way.setTabs(job, {
			places: { ...job.how.tabs?.places, [own.line]: places.with(own.index, [x, y]) }
		});
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
		for (const { job, ids, plan, shown } of this.way.planned)
			plan?.cuts.forEach((cut, i) => {
				const line = ids[cut.line];
				if (line === undefined) return;
				shown[i].tabs.forEach((tab, index) => offer({ kind: 'tab', job, line, index }, tab));
				if (cut.way?.closed) offer({ kind: 'start', job, line }, shown[i].start);
			});
		return best?.grip;
	}

	hover(x: number, y: number, reach: number): void {
		if (this.grip) return;
		const grip = this.gripAt(x, y, reach);
		this.held = grip?.kind === 'tab' ? this.tabsOf(grip.job, grip.line)[grip.index] : undefined;
	}

	/** Where the tabs of a line lie now, mm of the drawing. */
	private tabsOf(job: Job, line: string): readonly Point[] {
		const planned = this.way.planned.find((p) => p.job.id === job.id);
		return (
			planned?.plan?.cuts.flatMap((cut, i) =>
				planned.ids[cut.line] === line ? planned.shown[i].tabs : []
			) ?? []
		);
	}

	drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		this.grip ??= this.gripAt(fromX, fromY, reach);
		if (!this.grip) return false;
		this.dragged = { x, y };
		this.held = this.dragged;
		return true;
	}
	private dragged: Point | undefined;

	dropped(): void {
		const { grip, dragged } = this;
		this.grip = this.dragged = this.held = undefined;
		if (!grip || !dragged) return;
		const { how } = grip.job;
		const place = [dragged.x, dragged.y] as const;
		if (grip.kind === 'start') {
			this.way.setHow(grip.job, { starts: { ...how.starts, [grip.line]: place } }, 'Move the start');
			return;
		}
		const places = this.tabsOf(grip.job, grip.line).map((p) => [p.x, p.y] as const);
		this.way.setTabs(grip.job, {
			places: { ...how.tabs?.places, [grip.line]: places.with(grip.index, place) }
		});
	}

	tap(x: number, y: number, reach: number): void {
		const grip = this.gripAt(x, y, reach);
		if (grip?.kind === 'start') return;
		const job = grip?.job ?? this.way.chosen;
		if (!job?.how.tabs) return;
		if (grip) {
			const left = this.tabsOf(job, grip.line).filter((_, i) => i !== grip.index);
			this.putTabs(job, grip.line, left);
			return;
		}
		// On a line that may have tabs: one more.
		const planned = this.way.planned.find((p) => p.job.id === job.id);
		planned?.plan?.cuts.some((cut, i) => {
			const line = planned.ids[cut.line];
			const outline = line === undefined ? undefined : this.way.bench.drawing.records.get(line);
			const near =
				planned.shown[i].lines.some((path) => nearestOnPath(path, x, y, reach)) ||
				(outline?.type === 'outline' && nearestOnPath(lineOf(outline), x, y, reach));
			if (!near || line === undefined || planned.shown[i].tabs.length === 0) return false;
			this.putTabs(job, line, [...planned.shown[i].tabs, { x, y }]);
			return true;
		});
	}
	private putTabs(job: Job, line: string, places: readonly Point[]): void {
		this.way.setTabs(job, {
			places: { ...job.how.tabs?.places, [line]: places.map((p) => [p.x, p.y] as const) }
		});
	}
}

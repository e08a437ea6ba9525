/** An operation in progress: settings, a live preview, and what it would do; then kept or dropped. */
import type { Point } from '../../core/geometry/point';
import type { Problem } from '../../core/errors';
import type { Deviation, Worst } from '../../core/geometry/deviation';
import type { CornerVerdict } from '../../core/trace/corner-verdicts';
import type { Path } from '../../core/geometry/path';
import { toProblem } from '../../core/errors';
import type { Edit } from '../../core/document/history';
import type { NewId } from '../../core/document/edits/operations';
import type { Drawing } from '../../core/document/drawing';
import type { Outline } from '../../core/document/outline';
import type { WorkArguments, WorkName } from '../../core/operations/work';
import { hand, nextRequest, type Task } from '../../workers/geometry.client';
import type { SurfaceLook } from '../../render/scene';
import type { Station } from '../stations';

/** What a kept operation may say and pick of the bench that it lay on. */
export interface AfterKeeping {
	readonly drawing: Drawing;
	station: Station | undefined;
	tell(sentence: string): void;
	/** Selects what came of it, where no outline is entered; lets go of anchors and stretches. */
	pickMade(edit: Edit): void;
	readonly selection: { letGoOfAnchors(): void };
}

/** What every operation is and shows: its settings are fields of its own kind. */
export abstract class Operation {
	abstract readonly kind: string;
	/** The name of its step. */
	abstract readonly name: string;
	/** The outlines that it works on. */
	abstract readonly outlines: readonly Outline[];
	/** What keeping it does. */
	abstract edit(drawing: Drawing, newId: NewId): Edit;
	/** Its settings are there next time. */
	remember(): void {}
	/** What is said and picked once it is kept. */
	kept(bench: AfterKeeping, edit: Edit): void {
		bench.selection.letGoOfAnchors();
		bench.pickMade(edit);
	}
	/** Ids of the outlines in whose place the preview stands: they are shown faint. */
	get replaced(): ReadonlySet<string> {
		return NONE;
	}
	/** The band in which lines may move, mm to either side. */
	get driftBand(): { readonly paths: readonly Path[]; readonly drift: number } | undefined {
		return undefined;
	}
	/** Whether it stays on the bench when a step is taken back: what it shows follows the drawing. */
	get isLasting(): boolean {
		return false;
	}
	/** Leaves what lies uppermost of it; false where nothing does, so that it is left itself. */
	leaveOne(): boolean {
		return false;
	}
	/** A drawing of its own over the lines. */
	get over(): ((c: CanvasRenderingContext2D, look: SurfaceLook) => void) | undefined {
		return undefined;
	}
	/** A drawing that is seen in the place of the one that is worked on. */
	get instead(): Drawing | undefined {
		return undefined;
	}
	/** Corners of what is being placed. */
	get frame(): readonly Point[] | undefined {
		return undefined;
	}
	/** The preview is only to be looked at for the moment. */
	get rough(): boolean {
		return false;
	}
	/** A picture as the work sees it, in place of the picture itself, and of which reference. */
	get seenPicture(): { readonly reference: string; readonly bitmap: ImageBitmap } | undefined {
		return undefined;
	}

	/** Lines to show as the result. */
	preview = $state.raw<readonly Path[]>([]);
	/** Where the new line lies farthest off. */
	worst = $state.raw<Worst | undefined>();
	problem = $state.raw<Problem | undefined>();
	/** What lies under the pointer and a tap would pick; what was picked to be left out. Closed paths. */
	under = $state.raw<readonly Path[]>([]);
	leftOut = $state.raw<readonly Path[]>([]);
	/** Stretches that go, or would under the pointer. */
	going = $state.raw<readonly Path[]>([]);
	/** Words written beside places of the drawing. */
	labels = $state.raw<readonly { readonly x: number; readonly y: number; readonly text: string }[]>([]);
	/** Places of which one may doubt whether a corner is meant, and as what each is taken. */
	doubtful = $state.raw<readonly CornerVerdict[]>([]);
	/** How far the preview lies from what it is to follow, all along it. */
	deviations = $state.raw<readonly Deviation[]>([]);
	busy = $state(false);
	/** 0..1 */
	progress = $state(0);
	protected timer: ReturnType<typeof setTimeout> | undefined;
	protected request = 0;

	/** Asks for a new preview once the settings have come to rest. */
	change(delay = 90): void {
		clearTimeout(this.timer);
		this.busy = true;
		this.timer = setTimeout(() => void this.run(), delay);
	}
	/** Takes new settings and asks for a preview of them. */
	set(settings: Partial<this>, delay = 0): void {
		Object.assign(this, settings);
		this.change(delay);
	}
	protected abstract run(): Promise<void>;
	/** Begins to answer the settings as they are; gives the number of the request to the worker. */
	protected begin(): number {
		this.busy = true;
		this.progress = 0;
		return (this.request = nextRequest());
	}
	private task: { stop(): void } | undefined;

	/**
	 * Has work of the core done for the settings as they are, telling its progress.
	 * @returns its value; undefined where newer settings made it stale, or where it failed, which is then shown.
	 */
	protected async reckon<N extends WorkName>(
		name: N,
		args: WorkArguments<N>
	): Promise<Extract<Awaited<Task<N>['answer']>, { ok: true }>['value'] | undefined> {
		const request = this.begin();
		const task = hand.run(name, args, {
			tell: (share) => {
				if (request === this.request && typeof share === 'number') this.progress = share;
			}
		});
		this.task = task;
		const answer = await task.answer.catch((error: unknown) => ({
			ok: false as const,
			problem: toProblem(error)
		}));
		if (request !== this.request || answer.ok === 'stale') return undefined;
		this.task = undefined;
		this.busy = false;
		if (!answer.ok) {
			this.fail(answer.problem);
			return undefined;
		}
		this.problem = undefined;
		return answer.value as Extract<Awaited<Task<N>['answer']>, { ok: true }>['value'];
	}
	/** Shows why there is no result. */
	protected fail(problem: Problem): void {
		this.busy = false;
		this.problem = problem;
		this.preview = [];
		this.deviations = [];
		this.doubtful = [];
		this.worst = undefined;
	}
	/** Why keeping it would change nothing, and what would help; undefined where it does change something. */
	get nothing(): string | undefined {
		return undefined;
	}
	/** What the next move of the person may be, where it is not just to keep or to drop. */
	get hint(): string | undefined {
		return undefined;
	}
	/** The pointer is over this place, mm; nothing for those operations that are not pointed at. */
	hover(_x: number, _y: number, _reach: number): void {}
	/** A box drawn with Shift, mm; nothing where it means nothing. */
	box(_x0: number, _y0: number, _x1: number, _y1: number): void {}
	/** A line drawn round something with Alt, x,y pairs in mm. */
	lassoed(_points: readonly number[]): void {}
	/** A drag from one place to another, mm; false where it means nothing, so that the paper moves. */
	drag(_fromX: number, _fromY: number, _x: number, _y: number, _reach: number): boolean {
		return false;
	}
	/** The drag is over. */
	dropped(): void {}
	/** A tap at this place, mm; how near one must come to what is meant, mm. */
	tap(_x: number, _y: number, _reach: number): void {}
	/** Whether the preview answers the settings as they are. */
	get ready(): boolean {
		return !this.busy && !this.problem && this.preview.length > 0 && this.nothing === undefined;
	}
	/** Resolves when the preview answers the settings, or says why it cannot. */
	async settled(): Promise<void> {
		while (this.busy) await new Promise((resolve) => setTimeout(resolve, 15));
	}
	stop(): void {
		clearTimeout(this.timer);
		this.task?.stop();
		this.task = undefined;
		this.request = nextRequest();
		this.busy = false;
	}
}

const NONE: ReadonlySet<string> = new Set();

/** The ids of outlines, as a set. */
export const idsOf = (outlines: readonly Outline[]): ReadonlySet<string> =>
	new Set(outlines.map((o) => o.id));

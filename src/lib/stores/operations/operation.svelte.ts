/** An operation in progress: settings, a live preview, and what it would do; then kept or dropped. */
import type { Problem } from '../../core/errors';
import type { Deviation, Worst } from '../../core/geometry/deviation';
import type { CornerVerdict } from '../../core/trace/corner-verdicts';
import type { Path } from '../../core/geometry/path';
import { proxy } from '../../workers/geometry.client';

let requests = 0;

/** Numbers requests to workers, so that the newest wins. */
export function nextRequest(): number {
	return ++requests;
}

/** What every operation shows. */
export abstract class Operation {
	/** Lines to show as the result. */
	preview = $state.raw<readonly Path[]>([]);
	/** Where the new line lies farthest off. */
	worst = $state.raw<Worst | undefined>();
	problem = $state.raw<Problem | undefined>();
	/** What lies under the pointer and a tap would pick; what was picked to be left out. Closed paths. */
	under = $state.raw<readonly Path[]>([]);
	leftOut = $state.raw<readonly Path[]>([]);
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
	/** Takes the progress of a request, while it is the newest. */
	protected teller(request: number): (share: number) => void {
		return proxy((share: number) => {
			if (request === this.request) this.progress = share;
		});
	}
	/** What the next move of the person may be, where it is not just to keep or to drop. */
	get hint(): string | undefined {
		return undefined;
	}
	/** The pointer is over this place, mm; nothing for those operations that are not pointed at. */
	hover(_x: number, _y: number): void {}
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
		return !this.busy && !this.problem && this.preview.length > 0;
	}
	/** Resolves when the preview answers the settings, or says why it cannot. */
	async settled(): Promise<void> {
		while (this.busy) await new Promise((resolve) => setTimeout(resolve, 15));
	}
	stop(): void {
		clearTimeout(this.timer);
		this.request = nextRequest();
		this.busy = false;
	}
}

/** A tour of one real job: the fox puppet from its scan to a file. Each step waits until it is done; it can be left at any time. */
import { outlinesOf, type Drawing } from '../../core/document/drawing';
import type { Station } from '../stations';

/** What the tour looks at. */
export interface Toured {
	readonly drawing: Drawing;
	readonly station: Station | undefined;
	readonly operation: { readonly kind: string } | undefined;
	readonly selection: { readonly entered: string | undefined };
	readonly stepNames: readonly string[];
	readonly pointer: number;
}

interface TourStep {
	readonly say: string;
	/** What is pressed, for whoever does not find it: marked on the bench. */
	readonly where?: string;
	isDone(bench: Toured): boolean;
}

const did = (bench: Toured, word: RegExp): boolean =>
	bench.stepNames.slice(0, bench.pointer).some((name) => word.test(name));

export const TOUR: readonly TourStep[] = [
	{
		say: 'This is a scan of a fox puppet in ten parts. Its file says how large it is, so its true size is set, and the thread stands at "Trace". Press the tool "Trace", or T.',
		where: '[data-command=trace]',
		isDone: (bench) => bench.operation?.kind === 'trace' || did(bench, /^Trace/)
	},
	{
		say: 'Pull the slider if you like: closer, or fewer anchors. Enter keeps the outlines.',
		where: '[data-act=keep]',
		isDone: ({ drawing }) => outlinesOf(drawing).length > 0
	},
	{
		say: 'Each part is a piece, each eyelet a hole in it. Double-click one to go into it and see its anchors.',
		isDone: ({ selection }) => selection.entered !== undefined
	},
	{
		say: 'Drag an anchor, or a stretch of the line between two. Undo takes it back.',
		isDone: (bench) => did(bench, /move|bend|drag|nudge|pull/i)
	},
	{
		say: 'Leave the piece with Esc and press "Cut" on the thread: the thread is even from end to end.',
		where: '[data-station=cut]',
		isDone: ({ station }) => station === 'cut'
	},
	{
		say: 'SVG and DXF are files for the machine, "Machine" makes its jobs. That was the whole way. What you drew stays in the list of drawings.',
		isDone: () => false
	}
];

class Tour {
	/** Which step; undefined while no tour goes. */
	at = $state<number | undefined>();

	start(): void {
		this.at = 0;
	}
	leave(): void {
		this.at = undefined;
	}
	/** Goes on past all that is done. */
	look(bench: Toured): void {
		if (this.at === undefined) return;
		if (this.at < TOUR.length - 1 && TOUR[this.at].isDone(bench)) this.at++;
	}
	go(by: number): void {
		if (this.at !== undefined) this.at = Math.min(TOUR.length - 1, Math.max(0, this.at + by));
	}
}

export const tour = new Tour();

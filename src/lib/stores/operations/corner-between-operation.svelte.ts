/** A corner between two outlines: rounded or cut off, the arms pointed at stay, one outline afterwards. */
import type { Drawing } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, removeOutlines, type NewId } from '../../core/document/edits/operations';
import { stayAs } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { detached, lineOf, replaceLine, type Outline } from '../../core/document/outline';
import { cornerBetween } from '../../core/document/recipes/corners';
import type { EndOf } from '../../core/document/recipes/line-ends';
import { done, type Result } from '../../core/errors';
import type { Path } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { idsOf } from './operation.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** What was typed last is there next time, mm. */
let last = 5;

/** One way in which the two lines can make a corner: which arm of each stays. */
interface Arms {
	readonly a: EndOf['at'];
	readonly b: EndOf['at'];
}

export class CornerBetweenOperation extends PlainOperation {
	readonly kind = 'corner-between';
	/** mm: radius, or length cut off on either side; 0: sharp. */
	amount = $state(5);
	cutOff = $state(false);
	/** One outline in the place of both; else a line of its own that follows them, and they stay as guides. */
	isOne = $state(true);
	/** Which of the possible corners is meant. */
	chosen = $state(0);
	private readonly arms: readonly Arms[];

	constructor(
		private readonly a: Outline,
		private readonly b: Outline
	) {
		super([a, b]);
		this.arms = armsOf(lineOf(a), lineOf(b));
	}
	get name(): string {
		return this.amount === 0 ? 'Sharp corner between' : this.cutOff ? 'Flat between' : 'Round between';
	}
	override get hint(): string {
		return this.arms.length > 1
			? 'Point at the arms that stay: all that can be made are shown faint. Enter keeps it, Esc leaves it.'
			: 'Type the radius, 0 for a sharp corner. Enter keeps it, Esc leaves it.';
	}
	override get replaced(): ReadonlySet<string> {
		return this.isOne ? idsOf(this.outlines) : NONE;
	}
	override remember(): void {
		last = this.amount;
	}
	/** How many ways there are. */
	get ways(): number {
		return this.arms.length;
	}
	private made(arms: Arms): Result<Path> {
		return cornerBetween([lineOf(this.a), lineOf(this.b)], [arms.a, arms.b], this);
	}
	protected compute(): Result<readonly Path[]> {
		const results = this.arms.map((arms) => this.made(arms));
		const chosen = results[this.chosen];
		this.leftOut = results.flatMap((r, k) => (r.ok && k !== this.chosen ? [r.value] : []));
		if (!chosen.ok) return chosen;
		return done([chosen.value]);
	}
	/** The arm pointed at stays: among the ways that keep it, the one that keeps most of the other as it is chosen. */
	override tap(x: number, y: number, reach: number): void {
		const off = (k: number) => {
			const made = this.made(this.arms[k]);
			const near = made.ok ? nearestOnPath(made.value, x, y, 2 * reach) : undefined;
			return near ? near.distance : Infinity;
		};
		const fits = this.arms.map((_, k) => k).filter((k) => off(k) < Infinity);
		if (fits.length === 0) return;
		const now = fits.indexOf(this.chosen);
		this.chosen = fits[(now + 1) % fits.length];
		this.change(0);
	}
	next(): void {
		this.chosen = (this.chosen + 1) % this.arms.length;
		this.change(0);
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		if (!this.isOne) {
			const { amount, cutOff } = this;
			const { a, b } = this.arms[this.chosen];
			const settings = { amount, cutOff, arms: [endOf(this.a, 0, a), endOf(this.b, 1, b)] } as const;
			const facts = { ...factsLike(drawing, this.a, `${this.a.name}, corner`), id: newId() };
			const { put = [] } = addFollower('corner', settings, this.outlines, facts);
			return { put: [...put, ...stayAs(this.outlines, 'guides')] };
		}
		const made = replaceLine(detached(this.a), this.preview[0], { sources: [this.a, this.b] });
		return { put: [made], remove: removeOutlines(drawing, new Set([this.b.id])).remove };
	}
}

const ENDS: readonly EndOf['at'][] = ['start', 'end'];
const NONE: ReadonlySet<string> = new Set();

const endOf = (outline: Outline, line: number, at: EndOf['at']): EndOf => ({
	line,
	at,
	anchor: outline.anchors[at === 'start' ? 0 : outline.anchors.length - 1]
});

/** Which arms can be meant. Closed lines have two at a meeting as well. */
function armsOf(a: Path, b: Path): readonly Arms[] {
	const seen = new Set<string>();
	const out: Arms[] = [];
	for (const atA of ENDS)
		for (const atB of ENDS) {
			const made = cornerBetween([a, b], [atA, atB], { amount: 0, cutOff: false });
			if (!made.ok) continue;
			const p = made.value;
			const key = [p.segs[0], p.segs[1], p.segs[p.segs.length - 2], p.segs[p.segs.length - 1]]
				.map((v) => v.toFixed(6))
				.join(' ');
			if (seen.has(key)) continue;
			seen.add(key);
			out.push({ a: atA, b: atB });
		}
	return out;
}

/** A corner between the two selected outlines. */
export function openCornerBetween(bench: Bench): void {
	const { selection } = bench;
	const lines =
		selection.enteredOutlines.length === 2 ? selection.enteredOutlines : selection.selectedOutlines;
	const begun = (): CornerBetweenOperation | string => {
		if (lines.length !== 2) return 'Select the two lines first, with Shift or "pick more".';
		const operation = new CornerBetweenOperation(lines[0], lines[1]);
		if (operation.ways === 0)
			return 'These two do not meet, nor do their ends when they are prolonged: there is no corner between them.';
		return Object.assign(operation, { amount: last });
	};
	layOn(bench, 'build', begun());
}

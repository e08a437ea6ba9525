/** An open line turned about a centre until it closes: every leaf follows the one that is drawn. */
import type { Drawing } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { stayAs } from '../../core/document/edits/structure';
import { inputLine } from '../../core/document/graph';
import type { Edit } from '../../core/document/history';
import { isClosed, type Outline } from '../../core/document/outline';
import { rosetteRecipe, type RosetteSettings } from '../../core/document/recipes/rosette';
import { centreFor } from '../../core/document/recipes/rosettes';
import { done, type Result } from '../../core/errors';
import type { Path } from '../../core/geometry/path';
import { finish } from '../../core/progress';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { PlainOperation } from './plain-operation.svelte';

/** What was typed last is there next time. */
let last: Pick<RosetteSettings, 'count' | 'mirrored' | 'joint'> = {
	count: 6,
	mirrored: false,
	joint: 'smooth'
};

export class RosetteOperation extends PlainOperation {
	readonly kind = 'rosette';
	readonly name = 'Rosette';
	count = $state(last.count);
	mirrored = $state(last.mirrored);
	joint = $state(last.joint);
	/** On which side of the line the centre lies. */
	isLeft = $state(true);
	/** Where a person put the centre; else it lies where the ends fit. */
	centre = $state.raw<{ readonly x: number; readonly y: number } | undefined>();

	constructor(private readonly outline: Outline) {
		super([outline]);
	}
	get settings(): RosetteSettings {
		const { count, mirrored, joint } = this;
		return { ...(this.centre ?? this.fitting), count, mirrored, joint };
	}
	private get fitting() {
		return centreFor(inputLine(this.outline).path, this.count, this.mirrored, this.isLeft);
	}
	override get hint(): string {
		return 'Type how many times it comes round, or drag the centre. Enter keeps it, Esc leaves it.';
	}
	protected compute(): Result<readonly Path[]> {
		const { x, y } = this.settings;
		this.labels = [{ x, y, text: 'centre' }];
		const made = finish(rosetteRecipe.resolve([inputLine(this.outline)], this.settings));
		return made.ok ? done(made.value.map((line) => line.path)) : made;
	}
	override drag(_fromX: number, _fromY: number, x: number, y: number): boolean {
		this.centre = { x, y };
		this.change(0);
		return true;
	}
	override remember(): void {
		const { count, mirrored, joint } = this;
		last = { count, mirrored, joint };
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		const facts = { ...factsLike(drawing, this.outline, `${this.outline.name}, rosette`), id: newId() };
		const { put = [] } = addFollower('rosette', this.settings, this.outlines, facts);
		return { put: [...put, ...stayAs(this.outlines, 'guides')] };
	}
}

/** A rosette of the selected open line. */
export function openRosette(bench: Bench): void {
	const outlines = bench.selection.enteredOutline
		? [bench.selection.enteredOutline]
		: bench.selection.selectedOutlines;
	const [outline] = outlines;
	const isRight = outlines.length === 1 && !isClosed(outline) && outline.anchors.length > 1;
	if (!isRight) {
		bench.tell('Select one open line: the part of the rosette from one ray to the next.');
		return;
	}
	bench.leave();
	layOn(bench, 'build', new RosetteOperation(outline));
}

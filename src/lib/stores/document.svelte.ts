/** The open drawing: its records, its steps, what follows from a change, and its saving. */
import { completeEdit, type Completed } from '../core/document/complete-edit';
import type { Drawing } from '../core/document/drawing';
import { follow, graphOf, inputsOf, remade, staleSets } from '../core/document/graph';
import { amendStep, applyStep, makeStep, touchedIds, type Edit, type Step } from '../core/document/history';
import { KeptSteps } from '../core/document/kept-steps';
import type { Outline } from '../core/document/outline';
import type { InputLine, MadeLine } from '../core/document/recipes/recipe-type';
import type { Recipe } from '../core/document/recipes/recipes';
import type { Result } from '../core/errors';
import { storeAmended, storeHistory, storeStep, type StoredDrawing } from '../storage/drawings';
import { WriteQueue, type Refusal, type Write } from '../storage/writes';

/** Makes a dear recipe away from the hand; undefined where a newer request came first. */
export type MakeFar = (
	set: string,
	recipe: Recipe,
	lines: readonly InputLine[]
) => Promise<Result<readonly MadeLine[]> | undefined>;

/** A drawing as it was stored. */
export type Opened = Omit<StoredDrawing, 'aside'>;

export interface DocumentEars {
	/** The drawing has changed by a step, forward or back. */
	changed(step: Step): void;
	/** A dear result came in. */
	amended(): void;
	/** What an edit brought with it. */
	completed(completed: Completed): void;
	/** Steps that were taken back are left behind by a new one: how the drawing was with them, and how many. */
	left(ahead: Drawing, count: number): void;
	/** A step was written. */
	written(): void;
	/** A step could not be written. */
	refused(refusal: Refusal, error: unknown): void;
	failed(error: unknown): void;
}

export class OpenDocument {
	drawing = $state.raw<Drawing>() as Drawing;
	/** Names of all steps, and how many of them are done. */
	stepNames = $state.raw<readonly string[]>([]);
	pointer = $state(0);
	/** How many steps are not written yet. */
	saving = $state(0);
	private steps = new KeptSteps([]);
	private readonly queue: WriteQueue;
	/** The history as it was opened, where stored steps did not fit: the first write puts them in order. */
	private toBeOrdered?: { readonly steps: readonly Step[]; readonly pointer: number };
	/** Sets being made away from the hand, each with the print of what it is made from. */
	private readonly asked = new Map<string, string>();

	constructor(
		opened: Opened,
		private readonly makeFar: MakeFar,
		private readonly ears: DocumentEars
	) {
		this.become(opened);
		this.queue = new WriteQueue(opened.revision, {
			waiting: (count) => (this.saving = count),
			written: () => ears.written(),
			refused: (refusal, error) => ears.refused(refusal, error)
		});
	}

	/** The drawing as it is stored now, in the place of this one. */
	replace(opened: Opened): void {
		this.asked.clear();
		this.become(opened);
		this.queue.reset(opened.revision);
	}

	private become({ drawing, steps, pointer, cut }: Opened): void {
		this.drawing = drawing;
		this.steps = new KeptSteps(steps);
		this.pointer = pointer;
		this.stepNames = steps.map((s) => s.name);
		this.toBeOrdered = cut > 0 ? { steps, pointer } : undefined;
	}

	/** All that there is of it, for a copy. */
	get history(): { readonly steps: Step[]; readonly pointer: number } {
		return { steps: this.steps.from(), pointer: this.pointer };
	}

	/** Makes a named step of an edit and of all that follows from it. False where nothing changes. @throws CoreError `circle` */
	commit(name: string, edit: Edit): boolean {
		const completed = completeEdit(this.drawing, edit, 'cheap');
		const step = makeStep(this.drawing, name, completed.edit);
		if (!step) return false;
		if (this.canRedo) this.ears.left(this.ahead(), this.steps.length - this.pointer);
		this.drawing = applyStep(this.drawing, step, 'forward');
		this.steps.push(step, this.pointer);
		this.stepNames = [...this.stepNames.slice(0, this.pointer), step.name];
		this.pointer = this.steps.length;
		this.save(step, true);
		this.ears.completed(completed);
		this.ears.changed(step);
		this.makeStale();
		return true;
	}

	get canUndo(): boolean {
		return this.pointer > 0;
	}
	get canRedo(): boolean {
		return this.pointer < this.stepNames.length;
	}

	undo(): Step | undefined {
		return this.canUndo ? this.go(this.steps.at(this.pointer - 1), 'back') : undefined;
	}
	redo(): Step | undefined {
		return this.canRedo ? this.go(this.steps.at(this.pointer), 'forward') : undefined;
	}
	private go(step: Step, direction: 'forward' | 'back'): Step {
		this.drawing = applyStep(this.drawing, step, direction);
		this.pointer += direction === 'forward' ? 1 : -1;
		this.save(step, false);
		this.ears.changed(step);
		this.makeStale();
		return step;
	}

	/** The drawing before its last step. */
	previous(): Drawing | undefined {
		return this.pointer > 0 ? applyStep(this.drawing, this.steps.at(this.pointer - 1), 'back') : undefined;
	}

	/** The drawing with all that was taken back done again. */
	private ahead(): Drawing {
		return this.steps
			.from(this.pointer)
			.reduce((drawing, step) => applyStep(drawing, step, 'forward'), this.drawing);
	}

	/** Has made, away from the hand, whatever is older than what it is made from. */
	makeStale(): void {
		for (const set of staleSets(this.drawing)) {
			const members = graphOf(this.drawing).sets.get(set)!;
			const recipe = members[0].recipe!;
			const input = inputsOf(this.drawing.records, recipe);
			// Made from something that is itself still to be made: its turn comes.
			if (!input || this.asked.get(set) === input.print || this.isWaiting(recipe)) continue;
			this.asked.set(set, input.print);
			void this.makeFar(set, recipe, input.lines)
				.then((result) => this.take(set, input.print, result))
				.catch((error: unknown) => {
					this.asked.delete(set);
					this.ears.failed(error);
				});
		}
	}

	private isWaiting(recipe: Recipe): boolean {
		return recipe.inputs.some(({ record }) => {
			const source = this.drawing.records.get(record);
			return source?.type === 'outline' && source.recipe?.stale === true;
		});
	}

	/** A dear result amends the step that asked for it, if its inputs are still what it was made from. */
	private take(set: string, print: string, result: Result<readonly MadeLine[]> | undefined): void {
		if (this.asked.get(set) === print) this.asked.delete(set);
		if (!result) return;
		const members = graphOf(this.drawing).sets.get(set);
		const recipe = members?.[0]?.recipe;
		if (!members || !recipe?.stale) return;
		const input = inputsOf(this.drawing.records, recipe);
		if (input?.print !== print) {
			this.makeStale();
			return;
		}
		const change = remade(this.drawing, members, input.lines, print, result);
		this.amend(change.put, change.remove);
		this.makeStale();
	}

	/** Puts outlines that came late into the last step that touches them, as if they had come at once. */
	private amend(put: readonly Outline[], remove: readonly string[]): void {
		const before = this.drawing;
		const ids = new Set([...put.map((o) => o.id), ...remove]);
		let at = this.pointer - 1;
		while (at > 0 && !touchedIds(this.steps.at(at)).some((id) => ids.has(id))) at--;
		const records = new Map(before.records);
		for (const o of put) records.set(o.id, o);
		for (const id of remove) records.delete(id);
		// What is made of these in turn.
		const followed = follow({ ...before, records }, ids, 'cheap');
		this.drawing = { ...before, records: followed.records };
		const { drawing } = this;
		const all = new Set([...ids, ...followed.put.keys(), ...followed.remove]);
		if (at >= 0) {
			const step = amendStep(before, this.drawing, this.steps.at(at), all);
			this.steps.replace(at, step);
			this.write((revision) => storeAmended(drawing, all, { step, index: at }, revision));
		} else this.write((revision) => storeAmended(drawing, all, undefined, revision));
		this.ears.amended();
	}

	private save(step: Step, isNew: boolean): void {
		const { drawing, pointer } = this;
		this.write((revision) => storeStep(drawing, step, pointer, isNew, revision));
	}
	private write(work: Write): void {
		if (this.toBeOrdered) {
			const { drawing } = this;
			// What the history was before this write's own step.
			const { steps, pointer } = this.toBeOrdered;
			this.toBeOrdered = undefined;
			this.queue.add((revision) => storeHistory(drawing.id, steps, pointer, revision));
		}
		this.queue.add(work);
	}
	/** Tries again what could not be written. */
	retry(): void {
		this.queue.retry();
	}
	/** Resolves when what could be written is; true where nothing is left. */
	saved(): Promise<boolean> {
		return this.queue.settled();
	}
}

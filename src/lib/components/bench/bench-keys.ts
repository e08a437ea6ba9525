/** The keys of the bench: those of the commands, and those that belong to the hand. */
import { movedCopies } from '$lib/stores/copying';
import { keepOperation } from '$lib/stores/operations/starting';
import type { Bench } from '$lib/stores/bench.svelte';
import { nudgePlace } from '$lib/stores/giving';
import { useCommand } from '$lib/stores/commands/command';
import { commandOf, COMMANDS } from '$lib/stores/commands/commands';
import { keys } from '$lib/stores/keys.svelte';

type Binding = (event: KeyboardEvent) => void;

/** Whether a key belongs to a field, or to a sheet that lies over everything, rather than to the bench. */
export const isTyping = (bench: Bench, event: Event): boolean =>
	(event.target instanceof Element &&
		event.target.matches(
			'input:not([type=range]):not([type=checkbox]):not([type=radio]), textarea, select'
		)) ||
	(bench.sheet !== undefined && bench.sheet !== 'help');

/** Whether a key pressed on a button, a link or a slider is not its own. */
const inSurface = (event: KeyboardEvent): boolean =>
	!(event.target as HTMLElement).closest('button, a, [role=slider], [role=tab]');

/** One thing less: what lies uppermost is left, then what is picked, then the tools. */
export function leaveOne(bench: Bench): void {
	const { selection } = bench;
	if (bench.finding) bench.finding = false;
	else if (bench.menu) bench.menu = undefined;
	else if (bench.drafts.size) bench.drafts = new Map();
	else if (bench.pictures.sizing) bench.pictures.sizing = undefined;
	else if (bench.pictures.placing) bench.pictures.place(undefined);
	else if (bench.operation) {
		if (!bench.operation.leaveOne()) bench.dropOperation();
	} else if (selection.place !== undefined) selection.place = undefined;
	else if (selection.handleInHand) selection.handleInHand = undefined;
	else if ([...selection.picked.values()].some((ids) => ids.size) || selection.segments.size) {
		selection.anchors = new Set();
		selection.segments = new Set();
	} else if (selection.enteredOutline) bench.leave();
	else if (selection.selected.size) bench.select([]);
	else if (selection.groupIn !== undefined) bench.leaveGroup();
	else if (bench.pickingMore) bench.pickingMore = false;
	else if (bench.sheet) bench.sheet = undefined;
	else if (bench.looking.open) bench.looking.toggle();
	else if (bench.stepsOpen) bench.stepsOpen = false;
	else if (bench.rackOpen) bench.rackOpen = false;
	else bench.trayOpen = !bench.trayOpen;
}

/** All bindings, for the key handler, as the keys are just now. */
export function benchKeys(bench: Bench): Record<string, Binding> {
	const plain =
		(act: Binding): Binding =>
		(event) => {
			if (!isTyping(bench, event)) act(event);
		};
	const bindings: Record<string, Binding> = {};
	for (const command of COMMANDS) {
		const key = keys.of(command);
		if (!key || command.isBrowsers) continue;
		bindings[key] = (event) => {
			if (isTyping(bench, event) || (event.target as HTMLElement).closest('[role=slider]')) return;
			event.preventDefault();
			useCommand(bench, command);
		};
	}
	const find = plain((e) => {
		e.preventDefault();
		bench.finding = true;
	});
	const remove = plain(() => useCommand(bench, commandOf('delete')));
	const nudge = (dx: number, dy: number) =>
		plain((event) => {
			const { selection } = bench;
			if (!inSurface(event)) return;
			const step = bench.nudge * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
			const [right, up] = [dx * step, dy * step];
			if (selection.given && selection.place !== undefined) {
				event.preventDefault();
				nudgePlace(bench, right, up);
				return;
			}
			if (!selection.enteredOutline && selection.selected.size > 0 && !bench.operation) {
				event.preventDefault();
				bench.carried = { right, up, alone: false };
				bench.releaseCarried();
				movedCopies(bench, right, up);
				return;
			}
			if (!selection.enteredOutline || (selection.picked.size === 0 && selection.segments.size === 0)) return;
			event.preventDefault();
			bench.nudgeBy(right, up);
		});
	const arrows = Object.fromEntries(
		(['', 'Shift+', 'Alt+'] as const).flatMap((m) => [
			[`${m}ArrowLeft`, nudge(-1, 0)],
			[`${m}ArrowRight`, nudge(1, 0)],
			[`${m}ArrowUp`, nudge(0, 1)],
			[`${m}ArrowDown`, nudge(0, -1)]
		])
	);
	return {
		...bindings,
		'$mod+y': plain(() => bench.redo()),
		Delete: remove,
		Backspace: remove,
		// Always by this; many layouts have no bare sign for it.
		'$mod+k': find,
		...(keys.single ? { '/': find, 'Shift+/': find } : {}),
		Escape: plain(() => leaveOne(bench)),
		Enter: plain((e) => {
			if (!inSurface(e)) return;
			if (bench.operation) void keepOperation(bench);
			else if (!bench.selection.enteredOutline && bench.selection.selected.size) bench.enterSelected();
		}),
		...arrows
	};
}

/** Keys that mean something else while one draws or drags; true where one of them was pressed. */
export function handKey(bench: Bench, event: KeyboardEvent): boolean {
	const { pen } = bench;
	if (event.ctrlKey || event.metaKey || event.altKey) return false;
	if (!keys.single && event.key.length === 1) return false;
	const acts: Record<string, () => void> = pen
		? {
				Escape: () => (pen.anchors.length ? pen.finish() : bench.dropOperation()),
				Enter: () => pen.finish(),
				Backspace: () => pen.undo(),
				c: () => pen.setFlowing(false),
				w: () => pen.setFlowing(true),
				x: () => pen.dropOut()
			}
		: bench.carried
			? {
					y: () => {
						bench.leavesCopy = !bench.leavesCopy;
						bench.tell(
							bench.leavesCopy ? 'It stays, and a copy is put down.' : 'It goes along, and no copy is left.'
						);
					}
				}
			: {};
	const act = acts[event.key];
	if (!act) return false;
	event.preventDefault();
	event.stopImmediatePropagation();
	act();
	return true;
}

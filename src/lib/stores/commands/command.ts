/** What a command is, and what it may need before it can be used. */
import { whenThere } from '../asked';
import type { Bench } from '../bench.svelte';
import type { Station } from '../stations';

/** The groups of tools at the station "Build", in their order. */
export const BUILD_GROUPS = ['together', 'apart', 'longer, round, moved', 'many'] as const;
export type BuildGroup = (typeof BUILD_GROUPS)[number];

export interface Command {
	readonly id: string;
	/** The word on it. */
	readonly word: string;
	/** One line: what it does. */
	readonly line: string;
	/** Other words that a person may type. */
	readonly also: string;
	/** As for the key handler; shown to the person too. */
	readonly key?: string;
	/** The browser answers the key itself, and tells us. */
	readonly isBrowsers?: boolean;
	/** Where the tray offers it. */
	readonly station?: Station;
	/** Where a station has many tools: which of its groups, by a word. */
	readonly group?: BuildGroup;
	/** The small drawing on it. */
	readonly drawing?: string;
	/** What comes nearest, by id, where it is not here. */
	readonly nearest?: readonly string[];
	/** Why it cannot be used just now; undefined where it can. */
	why(bench: Bench): string | undefined;
	/** `command` is itself. */
	run(bench: Bench, command: Command): void;
}

/** Does what a command does, or says why it cannot be done just now. */
export function useCommand(bench: Bench, command: Command): void {
	const why = command.why(bench);
	if (why) bench.tell(why);
	else command.run(bench, command);
}

/** What a command does with a part of the program that is loaded when it is first asked for. */
export const withPart =
	<Part>(load: () => Promise<Part>, act: (bench: Bench, part: Part) => unknown): Command['run'] =>
	(bench, command) =>
		void whenThere(bench, load(), command.why, (part) => act(bench, part));

export const needsOutlines = (bench: Bench) =>
	bench.outlines.length ? undefined : 'There is no outline yet.';
export const needsEntered = (bench: Bench) =>
	bench.selection.enteredOutline ? undefined : 'Enter an outline first: double-click it.';
export const needsAnchors = (bench: Bench) =>
	needsEntered(bench) ?? (bench.selection.anchors.size ? undefined : 'Select an anchor first.');
export const needsSegment = (bench: Bench) =>
	needsEntered(bench) ??
	(bench.selection.segment !== undefined ? undefined : 'Pick a stretch between two anchors first.');

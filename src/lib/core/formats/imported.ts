/** What every drawing format gives when it is read, and takes when it is written. */
import type { Purpose } from '../document/purpose';
import type { Path } from '../geometry/path';
import type { FillRule } from '../plane/area';
import type { EndKind } from '../plane/offset-raw';
import type { Problem, Result } from '../errors';

/** The two rules that files know. */
export type FileFillRule = Extract<FillRule, 'nonzero' | 'evenodd'>;

/** Outlines that belong together in the file: one path element, one entity. mm, y up. */
export interface Shape {
	readonly paths: readonly Path[];
	readonly fillRule: FileFillRule;
	readonly name?: string;
	/** The names of the paths, where the file names them one by one. */
	readonly names?: readonly string[];
	readonly layer?: string;
	/** CSS colours; undefined where the file says nothing or none. */
	readonly fill?: string;
	readonly stroke?: string;
	/** mm, where it is wide enough to be more than a line drawn to be seen, and what its ends are. */
	readonly wide?: { readonly width: number; readonly ends: EndKind };
	/** mm: strokes and gaps by turns. */
	readonly dashes?: readonly number[];
	/** What is done with it, where the file says so. */
	readonly purpose?: Purpose;
}

/** The frame of a file in its own millimetres, y down as in an SVG. */
export interface Frame {
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

export interface Imported {
	readonly shapes: readonly Shape[];
	/** Single points: drill and notch marks. */
	readonly points: readonly { readonly x: number; readonly y: number; readonly layer?: string }[];
	readonly frame?: Frame;
	/** What the drawing is called in the file. */
	readonly title?: string;
	/** Layers as the file has them, beside what shapes say. */
	readonly layers?: readonly Layered[];
	/** Whether the file says what its numbers are: mm, inches, … */
	readonly unitless?: boolean;
	/** One plain sentence for each kind of thing that was skipped. */
	readonly warnings: readonly string[];
}

export interface Layered {
	readonly name: string;
	readonly colour?: string;
}

export type ReadResult = { ok: true; value: Imported } | { ok: false; problem: Problem };

/** A format that can be opened. */
export interface Readable {
	readonly id: string;
	/** What it is called, and what it is good for. */
	readonly word: string;
	readonly ending: string;
	/** Others that it is known by. */
	readonly endings?: readonly string[];
	/** Whether bytes begin as this format does. */
	begins(head: Uint8Array): boolean;
	/** Where it must be turned into another format first, which waits: the bytes of that. @throws CoreError */
	unpacked?(bytes: Uint8Array): Promise<Uint8Array>;
	/** Tells how far it has come, 0 to 1. @throws CoreError `too-much` */
	read(bytes: Uint8Array): Generator<number, Result<Imported>>;
}

/** A sentence for each kind of thing that was left out, with how often where that is more than once. */
export const leftOutWords = (left: ReadonlyMap<string, number>): string[] =>
	[...left].map(([what, count]) =>
		count > 1 ? `${count} times: ${what}.` : `${what[0].toUpperCase()}${what.slice(1)}.`
	);

/** What every verb of the command line is made of. */
import { readFile, writeFile } from 'node:fs/promises';
import { CoreError, unwrap } from '../lib/core/errors';
import { closedPieces, openLines, type Piece } from '../lib/core/formats/solids';
import { readLines } from '../lib/core/formats/formats';
import type { Imported } from '../lib/core/formats/imported';
import { anchorCount } from '../lib/core/geometry/measure';
import type { OptionKind, Words } from './options';

/** Facts for --json; fields that make no sense are left out. */
export type Facts = Record<string, unknown>;

export interface Outcome {
	readonly facts: Facts;
	/** What a person reads when --json is not given. */
	readonly text: string;
	/** 0 done, 1 could not be done (or not all of it). */
	readonly exit?: 0 | 1;
}

export interface Verb {
	readonly usage: string;
	readonly meaning: string;
	readonly options: Readonly<Record<string, OptionKind>>;
	/** One line for each option. */
	readonly help: readonly string[];
	run(words: Words): Promise<Outcome>;
}

/** A drawing file, by what it begins with or its ending. */
export async function readDrawing(file: string): Promise<Imported> {
	let bytes: Uint8Array;
	try {
		bytes = await readFile(file);
	} catch {
		throw new CoreError('no-file', `There is no file "${file}" that could be read.`);
	}
	return unwrap(readLines(bytes, file));
}

/** Everything in a file as pieces: closed ones with their holes, then open lines. */
export function allPieces(imported: Imported): Piece[] {
	return [...closedPieces(imported), ...openLines(imported)];
}

export const writeOut = (file: string, text: string): Promise<void> =>
	writeBytes(file, new TextEncoder().encode(text));

export async function writeBytes(file: string, bytes: Uint8Array): Promise<void> {
	try {
		await writeFile(file, bytes);
	} catch {
		throw new CoreError('cannot-write', `"${file}" could not be written. Is there such a folder?`);
	}
}

export function countFacts(pieces: readonly Piece[]): { pieces: number; outlines: number; anchors: number } {
	return {
		pieces: pieces.length,
		outlines: pieces.reduce((sum, piece) => sum + piece.paths.length, 0),
		anchors: pieces.reduce((sum, piece) => sum + piece.paths.reduce((n, path) => n + anchorCount(path), 0), 0)
	};
}

/** Measures the core's own time: started at once, stopped the first time it is told to. */
export class Stopwatch {
	private since: number | undefined = performance.now();
	private taken = 0;
	/** Goes on where it was stopped. */
	start(): void {
		this.since ??= performance.now();
	}
	stop(): void {
		if (this.since !== undefined) this.taken += performance.now() - this.since;
		this.since = undefined;
	}
	/** Milliseconds, to hundredths. */
	get ms(): number {
		return roundMs(this.taken + (this.since === undefined ? 0 : performance.now() - this.since));
	}
}

/** Milliseconds for facts, to hundredths. */
export const roundMs = (ms: number) => Math.round(ms * 100) / 100;

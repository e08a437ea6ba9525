/** What every verb of the command line is made of. */
import { readFile, writeFile } from 'node:fs/promises';
import { CoreError, unwrap } from '../lib/core/errors';
import { readDxf } from '../lib/core/formats/dxf';
import { closedPieces, openLines, type Piece } from '../lib/core/formats/solids';
import { readSvg } from '../lib/core/formats/svg';
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

export async function readText(file: string): Promise<string> {
	try {
		return await readFile(file, 'utf8');
	} catch {
		throw new CoreError('no-file', `There is no file "${file}" that could be read.`);
	}
}

/** A drawing file by its ending. */
export async function readDrawing(file: string): Promise<Imported> {
	const text = await readText(file);
	if (text.length === 0) throw new CoreError('empty-file', `The file "${file}" is empty.`);
	if (/\.dxf$/i.test(file)) return unwrap(readDxf(text));
	if (/\.svg$/i.test(file) || /^\s*</.test(text)) return unwrap(readSvg(text));
	throw new CoreError('unknown-format', `"${file}" is neither SVG nor DXF.`);
}

/** Everything in a file as pieces: closed ones with their holes, then open lines. */
export function allPieces(imported: Imported): Piece[] {
	return [...closedPieces(imported), ...openLines(imported)];
}

export async function writeOut(file: string, text: string): Promise<void> {
	try {
		await writeFile(file, text);
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

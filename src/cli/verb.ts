/** What every verb of the command line is made of. */
import { rmSync } from 'node:fs';
import { readFile, rename, writeFile } from 'node:fs/promises';
import { CoreError, unwrap } from '../lib/core/errors';
import { closedPieces, openLines, type Piece } from '../lib/core/formats/solids';
import { readLines, unpacked } from '../lib/core/formats/formats';
import type { Frame, Imported } from '../lib/core/formats/imported';
import { anchorCount, pathBox, unionBox } from '../lib/core/geometry/measure';
import type { Path } from '../lib/core/geometry/path';
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
	const name = file === '-' ? 'what came in' : file;
	return unwrap(readLines(await unpacked(await bytesOf(file), name), name));
}

/** What a file holds; of `-` what comes in on standard input. @throws CoreError `no-file` */
async function bytesOf(file: string): Promise<Uint8Array> {
	try {
		if (file !== '-') return await readFile(file);
		const parts: Uint8Array[] = [];
		for await (const part of process.stdin) parts.push(part as Uint8Array);
		return Buffer.concat(parts);
	} catch {
		throw new CoreError('no-file', `There is no file "${file}" that could be read.`);
	}
}

/** Everything in a file as pieces: closed ones with their holes, then open lines. */
export function allPieces(imported: Imported): Piece[] {
	return [...closedPieces(imported), ...openLines(imported)];
}

export const writeOut = (file: string, text: string): Promise<void> =>
	writeBytes(file, new TextEncoder().encode(text));

/** Writes a file whole or not at all: beside its place first, then put there. @throws CoreError `cannot-write` */
export async function writeBytes(file: string, bytes: Uint8Array): Promise<void> {
	const beside = `${file}.${process.pid}.part`;
	const drop = () => rmSync(beside, { force: true });
	const stopped = () => {
		drop();
		process.exit(1);
	};
	process.once('SIGTERM', stopped).once('SIGINT', stopped);
	try {
		await writeFile(beside, bytes);
		await rename(beside, file);
	} catch (error) {
		drop();
		throw new CoreError('cannot-write', whyNotWritten(file, (error as NodeJS.ErrnoException).code));
	} finally {
		process.off('SIGTERM', stopped).off('SIGINT', stopped);
	}
}

function whyNotWritten(file: string, code: string | undefined): string {
	const why: Record<string, string> = {
		ENOENT: 'There is no such folder.',
		ENOTDIR: 'What should be its folder is a file.',
		EISDIR: 'There is a folder of that name.',
		EACCES: 'Writing there is not allowed.',
		EPERM: 'Writing there is not allowed.',
		EROFS: 'Writing there is not allowed.',
		ENOSPC: 'There is no room left.',
		EDQUOT: 'There is no room left.',
		ENAMETOOLONG: 'Its name is too long.'
	};
	return `"${file}" could not be written. ${why[code ?? ''] ?? 'The disk did not take it.'} Nothing was changed.`;
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

/** The frame of a file that says none: what lies in it. */
export function frameAround(paths: readonly Path[]): Frame {
	const b = unionBox(paths.map(pathBox));
	return { x: b.x0, y: -b.y1, w: b.x1 - b.x0, h: b.y1 - b.y0 };
}

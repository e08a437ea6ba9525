/** How much a file from elsewhere may ask for, so that none freezes the page: counted, never timed. */
import { CoreError } from '../errors';
import { LIMIT } from '../tolerance';
import type { Path } from '../geometry/path';

export const FILE_LIMIT = {
	/** Bytes. What a drawing of lines is never larger than; beyond it reading alone takes too long. */
	bytes: 64_000_000,
	/** Characters of the data of one path: about half a million segments. */
	pathData: 9_000_000,
	/** Elements and entities, each counted as often as it is used. */
	elements: 100_000,
	/** Segments of everything. */
	segments: 600_000,
	/** Elements within each other, blocks within each other. */
	depth: 400,
	/** Strokes and gaps of a broken line. */
	dashes: 24
} as const;

/** What has been taken of a file so far. */
export class Budget {
	private elements = 0;
	private segments = 0;

	/** @throws CoreError `too-much` */
	element(depth = 0): void {
		if (++this.elements > FILE_LIMIT.elements)
			throw tooMuch(`more than ${FILE_LIMIT.elements.toLocaleString('en')} things`);
		if (depth > FILE_LIMIT.depth) throw tooMuch(`things more than ${FILE_LIMIT.depth} deep in each other`);
	}
	/** @throws CoreError `too-much` */
	path(path: Path): void {
		this.segments += path.types.length;
		if (this.segments > FILE_LIMIT.segments)
			throw tooMuch(`more than ${FILE_LIMIT.segments.toLocaleString('en')} segments`);
	}
}

const tooMuch = (what: string) =>
	new CoreError(
		'too-much',
		`This file holds ${what}: too much to be a drawing for a cutter. Nothing was opened.`
	);

/** @throws CoreError `too-much` */
export function refuseBytes(count: number): void {
	if (count > FILE_LIMIT.bytes) throw tooMuch(`${Math.round(count / 1e6)} MB`);
}

/** Whether all places of a path are numbers that a drawing can hold. */
export function isWithinReach(path: Path): boolean {
	return path.segs.every((v) => Math.abs(v) <= 100 * LIMIT.drawing);
}

/**
 * A test piece: bars of known widths, a plate with slits, circles and squares of stepped sizes, and a square. Cut and measured it tells
 * the kerf, the play of a slot and whether the machine's axes stand square.
 */
import { circlePath, polygonPath, type Path } from '../geometry/path';

export interface TestLine {
	readonly name: string;
	readonly path: Path;
}

/** mm */
export const BARS: readonly number[] = [2, 5, 10, 20];
export const SQUARE = 40;
const SLITS = 9;
const SLIT_STEP = 0.1;
const SIZES = [4, 6, 8, 10] as const;
const PLATE = { width: 130, height: 56 };
const GAP = 8;

const rect = (x: number, y: number, w: number, h: number): Path =>
	polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
const even = (v: number) => Math.round(v * 1e6) / 1e6;

/** The nominal widths of the slits for a material, mm: around its thickness. */
export const slitWidths = (thickness: number): number[] =>
	Array.from({ length: SLITS }, (_, k) => even(thickness + (k - (SLITS - 1) / 2) * SLIT_STEP)).filter(
		(w) => w > 0
	);

/** The lines of a test piece for a material of that thickness, from 0, 0 up. */
export function testPiece(thickness: number): TestLine[] {
	const lines: TestLine[] = [{ name: 'test plate', path: rect(0, 0, PLATE.width, PLATE.height) }];
	slitWidths(thickness).forEach((w, k) => {
		const x = 12 + (k * (PLATE.width - 24)) / (SLITS - 1);
		lines.push({ name: `slit ${w}`, path: rect(x - w / 2, 36, w, 14) });
	});
	SIZES.forEach((size, k) => {
		const x = 14 + k * 16;
		lines.push({ name: `hole ${size}`, path: circlePath(x, 18, size / 2) });
		lines.push({ name: `square hole ${size}`, path: rect(x + 60 - size / 2, 18 - size / 2, size, size) });
	});
	let x = 0;
	for (const w of BARS) {
		lines.push({ name: `bar ${w}`, path: rect(x, PLATE.height + GAP, w, SQUARE) });
		x += w + GAP;
	}
	lines.push({ name: `square ${SQUARE}`, path: rect(x, PLATE.height + GAP, SQUARE, SQUARE) });
	return lines;
}

/** What was measured of a cut test piece, mm. */
export interface Fits {
	/** The kerf that it was cut with. */
	readonly reckoned: number;
	readonly thickness: number;
	/** Bars by their nominal widths. */
	readonly bars: readonly { readonly nominal: number; readonly measured: number }[];
	/** The nominal width of the slit that the material goes into snugly. */
	readonly slit?: number;
	/** The two diagonals of the square: lower left to upper right, and the other. */
	readonly diagonals?: readonly [number, number];
}

export interface FitsTell {
	/** mm; undefined where no bar was measured. */
	readonly kerf: number | undefined;
	/** mm that a slot must be wider than the material. */
	readonly play: number | undefined;
	/** Degrees that the axes stand off a right angle; above 0 where the corner at the origin is sharper. */
	readonly offSquare: number | undefined;
}

/**
 * What measured fits say. A bar that is too narrow lost more than was reckoned with, at both sides half of it: the kerf is larger by just
 * that. Of a parallelogram with sides a the diagonals tell the angle: cos = (d1^2 - d2^2) / (4 a^2).
 */
export function fitsTell({ reckoned, thickness, bars, slit, diagonals }: Fits): FitsTell {
	const off = bars.map(({ nominal, measured }) => nominal - measured).sort((a, b) => a - b);
	const middle = off.length >> 1;
	const typical = off.length % 2 ? off[middle] : (off[middle - 1] + off[middle]) / 2;
	const kerf = off.length ? Math.max(0, reckoned + typical) : undefined;
	// The slit was cut as much too wide as the bars too narrow.
	const play = slit === undefined || kerf === undefined ? undefined : slit + (kerf - reckoned) - thickness;
	let offSquare: number | undefined;
	if (diagonals && diagonals.every((d) => d > 0)) {
		// The sides follow from both diagonals: d1^2 + d2^2 = 4 a^2.
		const [p, q] = diagonals;
		offSquare = (Math.asin((p * p - q * q) / (p * p + q * q)) * 180) / Math.PI;
	}
	return { kerf, play, offSquare };
}

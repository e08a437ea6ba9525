/** Pieces of flat colours that fit together without a gap, as a picture whose mixed pixels are exact. */
import { coverOf, type Row } from './cover';

export interface Piece {
	/** 0..255 each. */
	readonly colour: readonly [number, number, number];
	/** px, y down. */
	readonly row: Row;
}

const GROUND = [244, 238, 226] as const;
const COLOURS = [
	[29, 92, 158],
	[200, 50, 43],
	[47, 125, 79],
	[242, 193, 78],
	[90, 50, 110]
] as const;

/** What of a convex row lies on the left of a straight, as angles go. */
function clipped(row: Row, [px, py]: readonly [number, number], angle: number): Row {
	const off = (x: number, y: number) => (x - px) * Math.sin(angle) - (y - py) * Math.cos(angle);
	return row.flatMap(([x, y], k): [number, number][] => {
		const [u, v] = row[(k + 1) % row.length];
		const [here, there] = [off(x, y), off(u, v)];
		const t = here / (here - there);
		const cut: [number, number] = [x + t * (u - x), y + t * (v - y)];
		if (here > 0) return there > 0 ? [[x, y]] : [[x, y], cut];
		return there > 0 ? [cut] : [];
	});
}

/**
 * A round or cornered blob cut by two straights into four pieces, which cross at an angle and meet the rim somewhere: now and then in slivers.
 * @param r chance, 0 to 1.
 * @param side px of the picture.
 * @param sliver the least angle between the cuts, degrees.
 */
export function pieces(r: () => number, side: number, sliver: number): Piece[] {
	const middle = side / 2;
	const corners = r() < 0.5 ? 4 + Math.floor(4 * r()) : 720;
	const [wide, high, turn] = [side * (0.3 + 0.15 * r()), side * (0.25 + 0.15 * r()), 6 * r()];
	const blob: Row = Array.from({ length: corners }, (_, k) => {
		const a = turn + (2 * Math.PI * k) / corners;
		return [middle + wide * Math.cos(a), middle + high * Math.sin(a)] as const;
	});
	const first = 6 * r();
	const second = first + ((sliver + (90 - sliver) * r()) * Math.PI) / 180;
	const place = () => middle + side * 0.15 * (r() - 0.5);
	const at = [place(), place()] as const;
	const order = Math.floor(5 * r());
	const rows: Row[] = [];
	for (const a of [first, first + Math.PI])
		for (const b of [second, second + Math.PI]) rows.push(clipped(clipped(blob, at, a), at, b));
	return rows
		.filter((row) => row.length > 2)
		.map((row, k) => ({ colour: COLOURS[(order + k) % COLOURS.length], row }));
}

/** Whether a fill that was found, #rrggbb, is a piece's colour. */
export const isOfColour = (fill: string, colour: Piece['colour']): boolean =>
	colour.every((v, c) => Math.abs(parseInt(fill.slice(1 + 2 * c, 3 + 2 * c), 16) - v) < 24);

/** The picture of them on their ground. */
export function pictureOf(list: readonly Piece[], side: number, scatter: () => number = () => 0) {
	const rgba = new Uint8Array(4 * side * side).fill(255);
	const covers = list.map(({ row }) => coverOf([row], side, side));
	for (let i = 0; i < side * side; i++) {
		const all = covers.reduce((sum, cover) => sum + cover[i], 0);
		for (let c = 0; c < 3; c++) {
			const tone = list.reduce((sum, { colour }, k) => sum + covers[k][i] * colour[c], (1 - all) * GROUND[c]);
			rgba[4 * i + c] = Math.max(0, Math.min(255, Math.round(tone + scatter())));
		}
	}
	return { widthPx: side, heightPx: side, rgba };
}

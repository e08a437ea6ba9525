/** Pieces moved by hand on a sheet: stopped by the others at the gap, and closed up to them. */
import { liesOnSheet, sheetsOf, type Drawing, type Sheet } from '../document/drawing';
import { carriedRecords } from '../document/edits/carrying';
import type { Edit } from '../document/history';
import { lineOf } from '../document/outline';
import { moveBy } from '../geometry/maps';
import { unionBox } from '../geometry/measure';
import { boxOf } from '../geometry/pick';
import type { Point } from '../geometry/point';
import type { Box } from '../geometry/segment';
import { Layout } from './layout';
import { piecesOf, type SheetPiece } from './on-sheets';
import { shapeOf } from './shape';

const boxOfPiece = ({ lines }: SheetPiece): Box => unionBox(lines.map((line) => boxOf(lineOf(line))));

/** Halvings by which it is found how far a piece goes. */
const HALVINGS = 24;
/** Ways down and to the left that are tried in turn when a piece is closed up. */
const TURNS = 12;
/** mm: a way shorter than this is none. */
const NO_WAY = 1e-3;

/** A piece, or several that move together, among the others that lie on the same sheet. */
export class AmongOthers {
	private readonly layout: Layout;
	private readonly centre: Point;
	/** Where it lies as the drawing has it. */
	readonly box: Box;

	constructor(
		readonly moving: readonly SheetPiece[],
		others: readonly SheetPiece[],
		readonly sheet: Sheet,
		gap: number
	) {
		this.box = unionBox(moving.map(boxOfPiece));
		const own = shapeOf(
			moving.flatMap(({ lines }) => lines.map(lineOf)),
			gap
		);
		const shapes = [own, ...others.map(({ lines }) => shapeOf(lines.map(lineOf), gap))];
		this.layout = new Layout(
			shapes.map((shape) => ({ shape, turns: [0] })),
			Infinity
		);
		shapes.forEach(({ centre }, i) => this.layout.put(i, centre.x, centre.y, 0));
		this.centre = own.centre;
	}

	/** Whether it would lie free, so far to the right and up from where it lies. */
	isFree(right: number, up: number): boolean {
		const place = { x: this.centre.x + right, y: this.centre.y + up, angle: 0 };
		return this.layout.loss(0, place, 0) === 0;
	}

	/** How far towards a place it goes before it is stopped, both as ways from where it lies. */
	private reached(from: Point, to: Point): Point {
		if (this.isFree(to.x, to.y)) return to;
		let [low, high] = [0, 1];
		for (let k = 0; k < HALVINGS; k++) {
			const half = (low + high) / 2;
			if (this.isFree(from.x + half * (to.x - from.x), from.y + half * (to.y - from.y))) low = half;
			else high = half;
		}
		return { x: from.x + low * (to.x - from.x), y: from.y + low * (to.y - from.y) };
	}

	/** How far it goes from where it was last on its way to a place: it slides along what stops it. */
	stopped(last: Point, to: Point): Point {
		if (!this.isFree(last.x, last.y)) return to;
		const straight = this.reached(last, to);
		const ways = [
			straight,
			this.reached(straight, { x: to.x, y: straight.y }),
			this.reached(straight, { x: straight.x, y: to.y })
		];
		const off = (p: Point) => Math.hypot(p.x - to.x, p.y - to.y);
		return ways.reduce((a, b) => (off(b) < off(a) ? b : a));
	}

	/** How far it goes down and to the left, in turns, until others or the margin stop it. */
	closedUp(): Point {
		const { sheet, box } = this;
		const least = { x: sheet.x + sheet.margin - box.x0, y: sheet.y + sheet.margin - box.y0 };
		let at: Point = { x: 0, y: 0 };
		if (!this.isFree(0, 0)) return at;
		for (let k = 0; k < TURNS; k++) {
			const before = at;
			at = this.reached(at, { x: at.x, y: Math.min(at.y, least.y) });
			at = this.reached(at, { x: Math.min(at.x, least.x), y: at.y });
			if (Math.hypot(at.x - before.x, at.y - before.y) < NO_WAY) break;
		}
		return at;
	}
}

/** What is picked, among the other pieces on the sheet that it lies on; undefined where it lies on none. */
export function amongOthers(
	drawing: Drawing,
	picked: ReadonlySet<string>,
	gap: number
): AmongOthers | undefined {
	const pieces = piecesOf(drawing);
	const isPicked = ({ lines }: SheetPiece) => lines.some(({ id }) => picked.has(id));
	const moving = pieces.filter(isPicked);
	if (moving.length === 0) return undefined;
	const box = unionBox(moving.map(boxOfPiece));
	const sheet = sheetsOf(drawing).find((one) => liesOnSheet(box, one));
	if (!sheet) return undefined;
	const others = pieces.filter((piece) => !isPicked(piece) && liesOnSheet(boxOfPiece(piece), sheet));
	return new AmongOthers(moving, others, sheet, gap);
}

/** The picked pieces, one after the other, the lowest first, closed up to their neighbours and the margin. */
export function closeUp(drawing: Drawing, picked: ReadonlySet<string>, gap: number): Edit {
	const put = new Map<string, NonNullable<Edit['put']>[number]>();
	let at = drawing;
	const sorted = piecesOf(drawing)
		.filter(({ lines }) => lines.some(({ id }) => picked.has(id)))
		.sort((a, b) => boxOfPiece(a).y0 - boxOfPiece(b).y0 || boxOfPiece(a).x0 - boxOfPiece(b).x0);
	for (const { lines, within } of sorted) {
		const among = amongOthers(at, new Set([lines[0].id]), gap);
		if (!among) continue;
		const { x, y } = among.closedUp();
		if (Math.hypot(x, y) < NO_WAY) continue;
		const records = [...lines.map(({ id }) => id), ...within].flatMap((id) => at.records.get(id) ?? []);
		const moved = carriedRecords(at, records, moveBy(x, y));
		for (const record of moved) put.set(record.id, record);
		at = { ...at, records: new Map([...at.records, ...moved.map((record) => [record.id, record] as const)]) };
	}
	return { put: [...put.values()] };
}

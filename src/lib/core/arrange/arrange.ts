/**
 * Pieces laid on sheets with little waste: turned as they may be, never mirrored, apart from each other by a gap and from the edge by a
 * margin, as little of a sheet's length used as can be found. What fits on no sheet is named.
 *
 * A sheet's length is shortened again and again, and the pieces that lie in each other then are taken apart; where that does not come
 * about, two are exchanged and it is tried again. In the end it is shortened by ever less. (Overlap taken apart by guided local search:
 * Umetani et al. 2009, Int. Trans. Oper. Res. 16; shortening and disrupting: Elkeran 2013, Eur. J. Oper. Res. 231.)
 */
import { seeded } from '../chance';
import { pathArea, pathBox, unionBox } from '../geometry/measure';
import { compose, polygonPath, transformPath, type Affine, type Path } from '../geometry/path';
import { within } from '../progress';
import { combinePolygons, offsetPolygons } from '../plane/polygon-clipper';
import { nestPaths } from '../plane/pieces';
import { Layout, type LayoutPiece, type Placed, type Turns } from './layout';
import { anyTurn, anywhere, moveToLeast, separateSteps, shuffled, USUAL } from './separate';
import { shapeOf, shapeOfRings, type ArrangeShape } from './shape';

export type { Turns } from './layout';

/** A piece: its outline first, then its holes. */
export interface ArrangePiece {
	readonly paths: readonly Path[];
	/** Degrees; it lies as it is with [0]. */
	readonly turns: Turns;
}

/** A sheet from 0, 0 up: pieces gather towards y = 0. */
export interface ArrangeSheet {
	readonly width: number;
	readonly length: number;
	readonly margin: number;
	/** What of it can be used where it is no rectangle: outlines, with spoilt places as holes. */
	readonly usable?: readonly Path[];
}

export interface ArrangeSettings {
	/** mm between pieces. */
	readonly gap: number;
	/** Whether pieces may lie in holes of others. */
	readonly inHoles: boolean;
	readonly seed: number;
	/**
	 * How much of the work is done, from 0, by how often a place was looked at so far; at 1 it ends with the best that was found. By
	 * that number alone it comes out the same every time; by a clock as good as there was time.
	 */
	readonly share: (looks: number) => number;
	/** Where pieces lie already: it goes on from there. */
	readonly begin?: readonly PiecePlace[];
}

/** Where a piece lies. */
export interface PiecePlace {
	readonly piece: number;
	readonly sheet: number;
	/** From where it was to where it lies on its sheet. */
	readonly map: Affine;
}

export interface Arranged {
	readonly places: readonly PiecePlace[];
	/** Pieces that fit on no sheet. */
	readonly left: readonly number[];
	/** mm of each sheet's length that are used, margins among them; 0 of one that stays empty. */
	readonly used: readonly number[];
	/** mm2 of the pieces that lie on sheets, by the area of what is used of them. */
	readonly usage: number;
}

/** Whether one way of laying is better than another: fewer pieces are left, else less is used. */
export const isBetter = (a: Arranged, b: Arranged): boolean =>
	a.left.length !== b.left.length ? a.left.length < b.left.length : a.usage > b.usage;

/** What is told meanwhile: how much of the work is done, and the best so far. */
export interface ArrangeNews {
	readonly share: number;
	readonly best: Arranged | undefined;
}

/** Share of the time after which a sheet is only pressed together. */
const PRESSING = 0.75;
const FIRST_STEP = 0.04;
const LEAST_STEP = 0.002;
const LEAST_PRESS = 2e-4;

/** Arranges; see the head of the file. */
export function* layOnSheetsSteps(
	pieces: readonly ArrangePiece[],
	sheets: readonly ArrangeSheet[],
	settings: ArrangeSettings
): Generator<ArrangeNews, Arranged> {
	const { gap } = settings;
	const chance = seeded(settings.seed);
	// A group has several outlines, each with its holes.
	const isHole = pieces.map(({ paths }) => nestPaths(paths).map(({ depth }) => depth % 2 === 1));
	const shapes = pieces.map(({ paths }, i) =>
		shapeOf(settings.inHoles ? paths : paths.filter((_, k) => !isHole[i][k]), gap)
	);
	const areas = pieces.map(({ paths }, i) =>
		paths.reduce((sum, path, k) => sum + (isHole[i][k] ? -1 : 1) * Math.abs(pathArea(path)), 0)
	);
	const done: PiecePlace[] = [];
	const used: number[] = sheets.map(() => 0);
	let left = pieces.map((_, i) => i).sort((a, b) => shapes[b].area - shapes[a].area);
	let looks = 0;
	let best: Arranged | undefined;
	/** All that lies so far, with what lies on the sheet that is being filled. */
	const arranged = (on: readonly PiecePlace[], sheet: number): Arranged => {
		const places = [...done, ...on];
		const isOn = new Set(places.map(({ piece }) => piece));
		const lengths = used.map((v, k) => (k === sheet ? lengthOf(pieces, on, sheets[k].margin) : v));
		const area = places.reduce((sum, { piece }) => sum + areas[piece], 0);
		const taken = sheets.reduce((sum, { width }, k) => sum + width * lengths[k], 0);
		return {
			places,
			left: pieces.flatMap((_, i) => (isOn.has(i) ? [] : [i])),
			used: lengths,
			usage: taken ? area / taken : 0
		};
	};
	for (const [k, sheet] of sheets.entries()) {
		if (left.length === 0) break;
		const room = roomOf(sheet, gap);
		const begin = settings.share(looks);
		// Sheets after this one get their part of the time.
		const part = (1 - begin) / (sheets.length - k);
		const search = new Search(room, left, shapes, pieces, chance);
		search.take((settings.begin ?? []).filter((place) => place.sheet === k));
		const before = looks;
		const done01 = () => settings.share(before + search.looks);
		const share = (of: number) => Math.min(1, (done01() - begin) / Math.max(1e-9, of));
		const placesNow = () => search.places().map((place) => ({ ...place, sheet: k }));
		for (const isFound of search.fill(() => share(part))) {
			if (isFound) best = arranged(placesNow(), k);
			yield { share: Math.min(1, done01()), best };
		}
		if (search.isAll)
			for (const isFound of search.press(() => share(1 - begin))) {
				if (isFound) best = arranged(placesNow(), k);
				yield { share: Math.min(1, done01()), best };
			}
		looks += search.looks;
		const places = placesNow();
		const on = new Set(places.map(({ piece }) => piece));
		left = left.filter((i) => !on.has(i));
		used[k] = lengthOf(pieces, places, sheet.margin);
		done.push(...places);
	}
	return arranged([], -1);
}

/** How much of a sheet's length places take up. */
function lengthOf(pieces: readonly ArrangePiece[], places: readonly PiecePlace[], margin: number): number {
	if (places.length === 0) return 0;
	const box = unionBox(
		places.flatMap(({ piece, map }) => pieces[piece].paths.map((path) => pathBox(transformPath(path, map))))
	);
	return box.y1 + margin;
}

/** A sheet as a room for shapes, its own corner at 0, 0; what cannot be used of it lies in it fast. */
interface Room {
	readonly width: number;
	readonly length: number;
	readonly fixed: readonly ArrangeShape[];
	/** mm from the sheet's corner to the room's. */
	readonly off: number;
}

/** So many parts each way: what cannot be used is taken apart, so that discs tell how deep a piece lies in it. */
const PARTS = 8;

function roomOf({ width, length, margin, usable }: ArrangeSheet, gap: number): Room {
	// Shapes are grown by half the gap already.
	const off = margin - gap / 2;
	const room = { width: width - 2 * off, length: length - 2 * off, off };
	if (!usable) return { ...room, fixed: [] };
	const frame = box(0, 0, width, length);
	const rings = combinePolygons(
		[[{ paths: [frame], rule: 'evenodd' }], [{ paths: usable, rule: 'evenodd' }]],
		'difference',
		0.02
	);
	const grown = offsetPolygons(
		rings.map((ring) => polygonPath(ring)),
		Math.max(0, off) + 0.02,
		'round',
		2,
		0.02
	).map((ring) => polygonPath(ring));
	const fixed: ArrangeShape[] = [];
	const [w, h] = [room.width / PARTS, room.length / PARTS];
	for (let i = 0; i < PARTS; i++)
		for (let j = 0; j < PARTS; j++) {
			const cell = box(off + i * w, off + j * h, w, h);
			const parts = combinePolygons(
				[[{ paths: grown, rule: 'evenodd' }], [{ paths: [cell], rule: 'evenodd' }]],
				'intersection',
				0.02
			);
			if (parts.length) fixed.push(shapeOfRings(parts));
		}
	return { ...room, fixed };
}

const box = (x: number, y: number, w: number, h: number): Path =>
	polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);

/** Where pieces wait that are not laid yet, mm: each far from all others. */
const AWAY = 1e7;
/** Places that are tried for one piece while the sheet is filled. */
const TRIES = 120;

/** Work in which nothing better is found yet. */
const quietly = <T>(work: Generator<undefined, T>): Generator<boolean, T> => within(work, () => false);

/** The pieces on one sheet: laid one after another, then pressed together. */
class Search {
	private readonly layout: Layout;
	private readonly on = new Set<number>();
	private best: Float64Array;
	private length: number;

	constructor(
		private readonly room: Room,
		/** Indexes of pieces, large ones first. */
		private readonly list: readonly number[],
		shapes: readonly ArrangeShape[],
		pieces: readonly ArrangePiece[],
		private readonly chance: () => number
	) {
		const own: LayoutPiece[] = list.map((i) => ({ shape: shapes[i], turns: pieces[i].turns }));
		const fixed = room.fixed.map((shape): LayoutPiece => ({ shape, turns: [0], isFixed: true }));
		this.layout = new Layout([...own, ...fixed], room.width);
		own.forEach((_, k) => this.layout.put(k, -AWAY * (k + 1), 0, 0));
		room.fixed.forEach(({ centre }, k) =>
			this.layout.put(own.length + k, centre.x - room.off, centre.y - room.off, 0)
		);
		this.length = this.layout.length = room.length;
		this.best = this.layout.save();
	}
	/** How often a place was looked at. */
	get looks(): number {
		return this.layout.looks;
	}
	get isAll(): boolean {
		return this.on.size === this.list.length;
	}

	/** Where pieces lie, by the best that was found. */
	places(): Omit<PiecePlace, 'sheet'>[] {
		const { best, layout, list, room } = this;
		return [...this.on]
			.sort((a, b) => a - b)
			.map((k) => {
				const [x, y, angle] = [best[k], best[layout.n + k], best[2 * layout.n + k]];
				const { centre } = layout.pieces[k].shape;
				const [c, s] = [Math.cos(angle), Math.sin(angle)];
				const turned: Affine = [c, s, -s, c, x + room.off, y + room.off];
				return { piece: list[k], map: compose(turned, [1, 0, 0, 1, -centre.x, -centre.y]) };
			});
	}

	/** Lays pieces where they are said to lie. */
	take(places: readonly PiecePlace[]): void {
		const at = new Map(this.list.map((piece, k) => [piece, k]));
		for (const { piece, map } of places) {
			const k = at.get(piece);
			if (k === undefined) continue;
			const { centre } = this.layout.pieces[k].shape;
			const [a, b, c, d, e, f] = map;
			const x = a * centre.x + c * centre.y + e - this.room.off;
			const y = b * centre.x + d * centre.y + f - this.room.off;
			const place = { x, y, angle: Math.atan2(b, a) };
			if (!this.layout.within(k, place) || this.layout.loss(k, place, 0) > 0) continue;
			this.layout.put(k, place.x, place.y, place.angle);
			this.on.add(k);
		}
	}

	private keep(): void {
		this.best = this.layout.save();
		this.length = this.top();
	}
	private top(): number {
		let top = 0;
		for (const k of this.on) top = Math.max(top, this.layout.topOf(k));
		return top;
	}

	/** Lays as many as find room; yields true whenever more lie. */
	*fill(share: () => number): Generator<boolean> {
		const { layout, chance } = this;
		const waiting: number[] = [];
		for (let k = 0; k < this.list.length; k++) {
			if (this.on.has(k)) continue;
			const place = this.freePlace(k);
			if (place) {
				layout.put(k, place.x, place.y, place.angle);
				this.on.add(k);
			} else waiting.push(k);
			yield false;
		}
		this.keep();
		yield true;
		// What found none is put among the others, which make room where they can.
		for (const k of waiting) {
			if (share() >= 1) return;
			const before = layout.save();
			const place = anywhere(layout, k, chance);
			if (!place) continue;
			layout.put(k, place.x, place.y, place.angle);
			moveToLeast(layout, k, chance, { ...USUAL, anywhere: 200 });
			const isFree = yield* quietly(
				separateSteps(layout, chance, () => share() < 1, { ...USUAL, strikes: 2 })
			);
			if (isFree) {
				this.on.add(k);
				this.keep();
				yield true;
			} else layout.restore(before);
		}
	}

	/** Of places tried at random the lowest that is free. */
	private freePlace(k: number): Placed | undefined {
		const { layout, chance } = this;
		let best: Placed | undefined;
		// Room above what lies already is always looked at.
		const to = Math.min(layout.length, this.top() + 2.2 * layout.pieces[k].shape.reach);
		for (let t = 0; t < TRIES; t++) {
			const place = anywhere(layout, k, chance, 0, to);
			if (!place || (best && place.y >= best.y)) continue;
			if (layout.loss(k, place, 0) === 0) best = place;
		}
		return best;
	}

	/** Shortens what is used of the sheet as long as there is time; yields true whenever it came out shorter. */
	*press(share: () => number): Generator<boolean> {
		const { layout, chance } = this;
		let step = FIRST_STEP;
		let fails = 0;
		while (share() < 1) {
			const isPressing = share() > PRESSING;
			if (isPressing && step > LEAST_STEP) step = LEAST_STEP;
			if (fails === 0 || isPressing || chance() < 0.5) layout.restore(this.best);
			layout.length = this.length * (1 - step);
			if (fails > 0 && !isPressing) this.exchange();
			// Every try is work, however little had to be looked at.
			layout.looks += 20 + this.on.size;
			let isFree = false;
			if (this.pushIn()) {
				const effort = isPressing ? { ...USUAL, strikes: 1 } : USUAL;
				isFree = yield* quietly(separateSteps(layout, chance, () => share() < 1, effort));
			} else yield false;
			if (isFree) {
				this.keep();
				fails = 0;
				step *= isPressing ? 1.4 : 1.05;
				yield true;
				continue;
			}
			fails++;
			if (isPressing) step = Math.max(LEAST_PRESS, step * 0.7);
			else step = Math.max(LEAST_STEP, step * 0.5);
		}
		layout.restore(this.best);
		layout.length = this.room.length;
	}

	/** Brings all that lie beyond the room back into it. @returns false where one is longer than the room. */
	private pushIn(): boolean {
		const { layout } = this;
		let areIn = true;
		for (const k of this.on) {
			const place = { x: layout.x[k], y: layout.y[k], angle: layout.angle[k] };
			if (!layout.within(k, place)) {
				// So turned it is longer than the room: another turn.
				let fits = false;
				for (let t = 0; t < 60 && !fits; t++) {
					place.angle = anyTurn(layout, k, this.chance);
					fits = layout.within(k, place);
				}
				areIn &&= fits;
			}
			layout.put(k, place.x, place.y, place.angle);
		}
		return areIn;
	}

	/** Two of the larger pieces change places. */
	private exchange(): void {
		const { layout, chance } = this;
		const large = [...this.on].sort((a, b) => layout.pieces[b].shape.area - layout.pieces[a].shape.area);
		const [a, b] = shuffled(large.slice(0, Math.max(2, Math.ceil(0.6 * large.length))), chance);
		if (a === undefined || b === undefined) return;
		const [ax, ay] = [layout.x[a], layout.y[a]];
		const turnOf = (k: number) => (chance() < 0.5 ? layout.angle[k] : anyTurn(layout, k, chance));
		layout.put(a, layout.x[b], layout.y[b], turnOf(a));
		layout.put(b, ax, ay, turnOf(b));
	}
}

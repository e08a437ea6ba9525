/** What part of the paper the window shows, and how one moves about on it. */
import type { Point } from '../core/geometry/point';
import { isEmptyBox } from '../core/geometry/measure';
import type { Box } from '../core/geometry/segment';
import { COMB_PX } from '../render/comb';
import {
	fitBox,
	headPx,
	isNarrow,
	MARGINS,
	panBy,
	toPaper,
	toScreen,
	zoomAt,
	type Margins,
	type View
} from '../render/view';

/** px: how wide the rack and the tag are, with the air beside them. */
const RACK_PX = 268;
const TAG_PX = 236;

/** What lies over the window's edges. */
export interface OverEdges {
	readonly rackOpen: boolean;
	readonly showsComb: boolean;
}

export class Sight {
	view = $state.raw<View>({ scale: 3, x: 100, y: -140 });
	size = $state.raw({ widthPx: 1280, heightPx: 800 });
	moving = $state(false);
	/** How much of the window's lower edge the tray and the thread cover, px; told by the page. */
	trayPx = $state(0);
	/** mm per CSS pixel on this screen, once measured. */
	screenPxPerMm = $state(96 / 25.4);
	private settleTimer: ReturnType<typeof setTimeout> | undefined;

	constructor(private readonly over: () => OverEdges) {}

	/** What lies over the window's edges, px. @param tagged there is a tag beside what is shown. */
	margins(tagged = false): Margins {
		const { rackOpen, showsComb } = this.over();
		const comb = showsComb ? COMB_PX : 0;
		return {
			left: MARGINS.left + comb,
			right:
				MARGINS.right + comb + (isNarrow(this.size) ? 0 : (rackOpen ? RACK_PX : 0) + (tagged ? TAG_PX : 0)),
			upper: headPx(this.size) + 8 + comb / 2,
			lower: Math.max(MARGINS.lower, this.trayPx + 14) + comb / 2
		};
	}

	/** A box fills what is free of the window; where there is nothing the beginning of the paper does. */
	fit(box: Box, tagged = false): void {
		this.view = isEmptyBox(box)
			? { scale: 3, x: 100, y: -100 }
			: fitBox(box, this.size, this.margins(tagged));
	}

	/** A box comes into sight where it lies outside the window. */
	bring(box: Box): void {
		if (isEmptyBox(box)) return;
		const a = toPaper(this.view, this.size, 0, this.size.heightPx);
		const b = toPaper(this.view, this.size, this.size.widthPx, 0);
		if (box.x1 < a.x || box.x0 > b.x || box.y1 < a.y || box.y0 > b.y) this.fit(box);
	}

	/** A place comes into the middle of the window, near enough to be seen well. */
	lookAt({ x, y }: Point): void {
		const { upper, lower } = this.margins();
		const scale = Math.max(this.view.scale, NEAR);
		this.view = { scale, x, y: y - (lower - upper) / 2 / scale };
	}

	private before: { readonly was: View; readonly moved: View } | undefined;

	/**
	 * What is in hand comes out from under the paper: moved as little as need be, or fitted where it does not fit as it is. Who has
	 * gone near on purpose, so that it reaches beyond the window, stays where he is.
	 */
	makeRoom(box: Box): void {
		if (isEmptyBox(box)) return;
		const { widthPx, heightPx } = this.size;
		const a = toScreen(this.view, this.size, box.x0, box.y1);
		const b = toScreen(this.view, this.size, box.x1, box.y0);
		const isWhole = a.x >= 0 && a.y >= 0 && b.x <= widthPx && b.y <= heightPx;
		const free = {
			x0: FREE_PX,
			y0: FREE_PX + HEAD_PX,
			x1: widthPx - FREE_PX,
			y1: heightPx - this.trayPx - FREE_PX
		};
		const isFree = a.x >= free.x0 && a.y >= free.y0 && b.x <= free.x1 && b.y <= free.y1;
		if (!isWhole || isFree) return;
		const was = this.view;
		if (b.x - a.x <= free.x1 - free.x0 && b.y - a.y <= free.y1 - free.y0) {
			const by = (lo: number, hi: number, least: number, most: number) =>
				lo < least ? least - lo : hi > most ? most - hi : 0;
			this.view = panBy(this.view, by(a.x, b.x, free.x0, free.x1), by(a.y, b.y, free.y0, free.y1));
		} else this.view = fitBox(box, this.size, this.margins());
		this.before = { was: this.before?.moved === was ? this.before.was : was, moved: this.view };
	}
	/** The view as it was before room was made, where nobody has moved it since. */
	giveBack(): void {
		const { before } = this;
		this.before = undefined;
		if (before && this.view === before.moved) this.view = before.was;
	}

	actualSize(): void {
		this.view = { ...this.view, scale: this.screenPxPerMm };
	}

	zoom(px: number, py: number, factor: number): void {
		this.markMoving();
		this.view = zoomAt(this.view, this.size, px, py, factor);
	}

	pan(dxPx: number, dyPx: number): void {
		this.markMoving();
		this.view = panBy(this.view, dxPx, dyPx);
	}

	private markMoving(): void {
		this.moving = true;
		clearTimeout(this.settleTimer);
		this.settleTimer = setTimeout(() => (this.moving = false), SETTLE_MS);
	}
}

/** px of air round what is in hand; what the head takes. */
const FREE_PX = 24;
const HEAD_PX = 44;
/** px/mm: near enough to see a fault. */
const NEAR = 12;
/** ms without a move: the still picture is drawn sharp. */
const SETTLE_MS = 120;

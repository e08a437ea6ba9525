/** A pointer that is moved by keys: by steps, to numbers, from one place worth catching on to the next; it presses, holds and lets go. */
import type { Point } from '../core/geometry/point';
import { recordsOf, referencesOf, sheetsOf } from '../core/document/drawing';
import { referenceBox } from '../core/document/edits/placement';
import { ANCHOR_STRIDE } from '../core/document/outline';
import { shown, shownMarks } from '../core/document/output';
import type { Box } from '../core/geometry/segment';
import { formatLength, parseLength } from '../core/units';
import type { ForKeyPointer } from './parts';

/** Which way a key leads; y is up. */
export const WAYS: Readonly<Record<string, Point>> = {
	ArrowLeft: { x: -1, y: 0 },
	ArrowRight: { x: 1, y: 0 },
	ArrowUp: { x: 0, y: 1 },
	ArrowDown: { x: 0, y: -1 }
};

export class KeyPointer {
	/** Where it is, mm; undefined while it is put away. */
	at = $state.raw<Point | undefined>();
	/** The main button is held. */
	held = $state(false);

	constructor(private readonly bench: ForKeyPointer) {}

	/** Takes it out in the middle of what is seen, or puts it away. */
	toggle(): void {
		this.at = this.at ? undefined : { x: this.bench.sight.view.x, y: this.bench.sight.view.y };
		this.held = false;
	}

	/** Goes on by a step: a millimetre and more as far as one sees, ten of them, a tenth. */
	step(way: Point, large: boolean, small: boolean): void {
		if (!this.at) return;
		const step = this.stepMm * (large ? 10 : small ? 0.1 : 1);
		this.go({ x: this.at.x + way.x * step, y: this.at.y + way.y * step });
	}
	/** mm of a step: a round number of some pixels. */
	get stepMm(): number {
		const wanted = 6 / this.bench.sight.view.scale;
		const ten = 10 ** Math.floor(Math.log10(wanted));
		return [1, 2, 5, 10].map((k) => k * ten).find((step) => step >= wanted * 0.999)!;
	}

	/** To the nearest place worth catching on that lies this way; false where there is none. */
	catchNext(way: Point): boolean {
		const { at } = this;
		if (!at) return false;
		let best: { readonly place: Point; readonly far: number } | undefined;
		for (const place of placesOf(this.bench)) {
			const [dx, dy] = [place.x - at.x, place.y - at.y];
			const along = dx * way.x + dy * way.y;
			const aside = Math.abs(dx * way.y - dy * way.x);
			if (along <= 1e-6 || aside > along) continue;
			const far = along + aside;
			if (!best || far < best.far) best = { place, far };
		}
		if (best) this.go(best.place);
		return best !== undefined;
	}

	/** To typed numbers: "120, 45", or one of them with its sign for so much farther: "+10, 0". @returns why not. */
	type(text: string): string | undefined {
		const { at, bench } = this;
		if (!at) return undefined;
		const parts = text.trim().split(/\s*[;,]\s+|\s*;\s*|\s+(?=[+\-\d])/);
		if (parts.length !== 2) return 'Type two numbers: to the right and up, as in "120, 45" or "+10, 0".';
		const read = parts.map((part) => parseLength(part.replace(/^\+/, ''), bench.unit));
		for (const result of read) if (!result.ok) return result.problem.sentence;
		const [x, y] = read.map((r) => (r.ok ? r.value : 0));
		const isFarther = (k: number) => /^[+]/.test(parts[k]);
		this.go({ x: isFarther(0) ? at.x + x : x, y: isFarther(1) ? at.y + y : y });
		return undefined;
	}

	private go(place: Point): void {
		this.at = place;
		const { view, size } = this.bench.sight;
		const [inX, inY] = [(place.x - view.x) * view.scale, (place.y - view.y) * view.scale];
		if (Math.abs(inX) > size.widthPx * 0.46 || Math.abs(inY) > size.heightPx * 0.4)
			this.bench.sight.view = { ...view, x: place.x, y: place.y };
	}

	/** Where it is, in words. */
	get words(): string {
		const { at, bench } = this;
		if (!at) return '';
		const near = bench.outlineAt(at.x, at.y, 'mouse');
		const place = `${formatLength(at.x, bench.unit)} right, ${formatLength(at.y, bench.unit)} up`;
		return `${this.held ? 'held, ' : ''}${place}${near ? `, on "${near.name}"` : ''}`;
	}
}

/** Places worth catching on: anchors, marks, corners of pictures and sheets. */
function placesOf({ drawing }: ForKeyPointer): Point[] {
	const corners = ({ x0, y0, x1, y1 }: Box): Point[] => [
		{ x: x0, y: y0 },
		{ x: x1, y: y0 },
		{ x: x1, y: y1 },
		{ x: x0, y: y1 }
	];
	return [
		...shown(drawing).flatMap(({ points }) =>
			Array.from({ length: points.length / ANCHOR_STRIDE }, (_, i) => ({
				x: points[ANCHOR_STRIDE * i],
				y: points[ANCHOR_STRIDE * i + 1]
			}))
		),
		...shownMarks(drawing),
		...recordsOf(drawing, 'guide'),
		...referencesOf(drawing).flatMap((r) => corners(referenceBox(r))),
		...sheetsOf(drawing).flatMap(({ x, y, width, height }) =>
			corners({ x0: x, y0: y, x1: x + width, y1: y + height })
		)
	];
}

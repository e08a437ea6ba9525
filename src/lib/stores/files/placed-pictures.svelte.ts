/** The pictures on the paper: brought in, sized, straightened, placed by hand. */
import { formatNumber } from '../../core/units';
import type { Point } from '../../core/geometry/point';
import { pictureKey, type Reference } from '../../core/document/drawing';
import {
	isOnReference,
	levelledBy,
	onPaper,
	onPicture,
	referenceBox,
	scaleOf
} from '../../core/document/edits/placement';
import { CoreError, toProblem } from '../../core/errors';
import { meanScale, rectifying, type Corner } from '../../core/trace/perspective';
import { keepLevels } from '../../render/levels';
import { fitBox } from '../../render/view';
import { hashOf, loadPicture, storePicture } from '../../storage/drawings';
import { pictureWorker } from '../../workers/picture.client';
import type { ShownPicture } from '../../workers/picture.protocol';
import type { ForPictures } from '../parts';
import { newId } from '../ids';
import { openPicture, whenOpen } from './pictures';

/** Places picked on a picture, in its pixels: two for a distance, four for the corners of a rectangle. */
export interface Sizing {
	readonly reference: string;
	readonly points: readonly Point[];
	readonly purpose: 'size' | 'check' | 'corners' | 'level';
	/** How straight the edges of a sheet found by itself are, px. */
	readonly straightness?: number;
}

export class PlacedPictures {
	readonly bitmaps = new Map<string, ImageBitmap>();
	bitmapVersion = $state(0);
	hidden = $state(false);
	/** Places picked on a picture for its true size, its sheet, or to level it. */
	sizing = $state.raw<Sizing | undefined>();
	/** A picture in hand to be moved, turned and cropped, by id; as it would become while it is dragged. */
	placing = $state.raw<string | undefined>();
	placed = $state.raw<Reference | undefined>();
	/** Where the window is parted between what the tracer sees and the picture, 0..1. */
	split = $state(0.5);
	/** Where the pointer is on the paper, mm, while something is picked there. */
	pointing = $state.raw<Point | undefined>();

	/** The picture whose settings are shown, by id, where there are several. */
	shownId = $state<string | undefined>();

	constructor(private readonly bench: ForPictures) {}

	/** The picture that is in hand, that is being sized, or whose settings are shown. */
	readonly shownReference: Reference | undefined = $derived.by(() => {
		const { references } = this.bench;
		const id = this.sizing?.reference ?? this.placing ?? this.shownId;
		return (
			references.find((r) => r.id === id) ?? references.find((r) => r.pxPerMm === undefined) ?? references[0]
		);
	});
	/** Begins to pick places on the picture that is shown. */
	pick(purpose: Sizing['purpose']): void {
		const reference = this.shownReference;
		if (!reference) return;
		if (this.placing) this.place(undefined);
		this.shownId = reference.id;
		this.sizing = { reference: reference.id, points: [], purpose };
	}

	/** The picture in hand, as it is or as it would become. */
	readonly inHand: Reference | undefined = $derived.by(
		() => this.placed ?? this.bench.references.find((r) => r.id === this.placing)
	);

	async load(reference: Reference): Promise<void> {
		if (this.bitmaps.has(pictureKey(reference))) return;
		// Asked for at once, so that what needs the picture meanwhile waits for it.
		const answer = await openPicture(reference.picture, async () => {
			const stored = await loadPicture(reference.picture);
			if (!stored)
				throw new CoreError('no-picture', `The picture "${reference.name}" is missing from this browser.`);
			return stored.bytes;
		}).catch((error: unknown) => ({ ok: false as const, problem: toProblem(error) }));
		if (answer.ok === true) {
			this.show(reference.picture, answer.value.shown);
			await this.showStraight(reference);
			this.bitmapVersion++;
		} else if (answer.ok === false) this.bench.trouble(answer.problem);
	}

	private show(key: string, { bitmap, smaller }: ShownPicture): void {
		keepLevels(bitmap, smaller);
		this.bitmaps.set(key, bitmap);
	}

	/** Has a straightened picture drawn, where it is one and is not drawn yet. */
	async showStraight(reference: Reference): Promise<void> {
		const key = pictureKey(reference);
		if (!reference.sheet || this.bitmaps.has(key)) return;
		const sheet = $state.snapshot(reference.sheet) as NonNullable<Reference['sheet']>;
		const answer = await pictureWorker().straighten(reference.picture, sheet, reference.pxPerMm ?? 1);
		if (answer.ok === true) {
			this.show(key, answer.value);
			this.bitmapVersion++;
		} else if (answer.ok === false) this.bench.trouble(answer.problem);
	}

	/** Looks for a sheet in a picture, and offers its corners. */
	async offerCorners(reference: Reference): Promise<void> {
		await whenOpen(reference.picture);
		const answer = await pictureWorker().findSheet(reference.picture);
		if (answer.ok === true) {
			const { corners, straightness } = answer.value;
			this.sizing = { reference: reference.id, points: corners, purpose: 'corners', straightness };
			this.bench.tell('A sheet was found. Pull its corners where they are not right.');
		} else if (answer.ok === false) this.bench.trouble(answer.problem);
	}

	/** Takes the perspective out of a picture: four corners of a rectangle of known size. */
	async straighten(
		reference: Reference,
		corners: readonly Corner[],
		width: number,
		height: number
	): Promise<void> {
		const sheet = { corners: corners.map(({ x, y }) => ({ x, y })), width, height };
		try {
			rectifying(sheet);
			const pxPerMm = meanScale(sheet);
			const next: Reference = {
				...reference,
				sheet,
				pxPerMm,
				widthPx: Math.max(1, Math.round(width * pxPerMm)),
				heightPx: Math.max(1, Math.round(height * pxPerMm))
			};
			await whenOpen(reference.picture);
			await this.showStraight(next);
			if (!this.bitmaps.has(pictureKey(next))) return;
			this.bench.commit('Take the slant out', { put: [next] });
			this.sizing = undefined;
			this.bench.fitAll();
		} catch (error) {
			this.bench.trouble(toProblem(error));
		}
	}

	/** Brings a picture in. The drawing is untouched where it cannot be opened. */
	async add(file: File): Promise<void> {
		try {
			const bytes = new Uint8Array(await file.arrayBuffer());
			const hash = await hashOf(bytes);
			const answer = await openPicture(hash, async () => bytes);
			if (answer.ok !== true) {
				if (answer.ok === false)
					this.bench.trouble({ ...answer.problem, sentence: `${file.name}: ${answer.problem.sentence}` });
				return;
			}
			const { widthPx, heightPx, mediaType, statedPxPerMm, shown } = answer.value;
			await storePicture({ hash, mediaType, bytes });
			this.show(hash, shown);
			this.bitmapVersion++;
			const others = this.bench.references.map((r) => referenceBox(r).x1);
			const reference: Reference = {
				type: 'reference',
				id: newId(),
				rank: Math.max(0, ...[...this.bench.drawing.records.values()].map((r) => r.rank)) + 1,
				name: file.name || 'Pasted picture',
				picture: hash,
				mediaType,
				widthPx,
				heightPx,
				...(statedPxPerMm ? { statedPxPerMm, pxPerMm: statedPxPerMm } : {}),
				x: others.length ? Math.max(...others) + 20 : 0,
				y: 0,
				opacity: 1
			};
			if (!this.bench.commit(`Bring in "${reference.name}"`, { put: [reference] })) return;
			this.bench.sight.view = fitBox(
				referenceBox(reference),
				this.bench.sight.size,
				this.bench.sight.margins()
			);
			this.bench.station = statedPxPerMm ? 'trace' : 'size';
			this.bench.tell(
				statedPxPerMm
					? `The file states ${formatNumber(statedPxPerMm * 25.4, 0)} dpi, so the picture is ${formatNumber(widthPx / statedPxPerMm, 1)} × ${formatNumber(heightPx / statedPxPerMm, 1)} mm.`
					: 'The file states no true size. Pick two points whose distance you know.'
			);
		} catch (error) {
			if (error instanceof DOMException && error.name === 'QuotaExceededError') this.bench.saveFailed(error);
			else this.bench.tell(`${file.name}: this file could not be read.`, 'trouble');
		}
	}

	/** Sets the true size of a picture; it keeps its top left corner. */
	setTrueSize(reference: Reference, pxPerMm: number, name = 'Set true size'): void {
		this.bench.commit(name, { put: [{ ...reference, pxPerMm }] });
		this.sizing = undefined;
		this.bench.fitAll();
	}

	/** Takes a picture in hand to be placed, or lets it go. */
	place(reference: Reference | undefined): void {
		this.bench.dropOperation();
		this.bench.leave();
		this.placing = reference?.id;
		if (reference) this.shownId = reference.id;
	}

	/** What is held of a picture becomes a step. */
	release(name: string): void {
		const { placed } = this;
		this.placed = undefined;
		if (placed) this.bench.commit(name, { put: [placed] });
	}

	/** Turns a picture so that the line through two picked places of it is level or plumb. */
	level(): void {
		const { sizing } = this;
		const reference = this.bench.references.find((r) => r.id === sizing?.reference);
		this.sizing = undefined;
		if (!sizing || !reference) return;
		this.bench.commit('Level the picture', {
			put: [levelledBy(reference, sizing.points[0], sizing.points[1])]
		});
	}

	/** The place of the picture's edge nearest to a place of the paper, to a fraction of a pixel; mm. */
	async edgeNear(x: number, y: number, reach: number): Promise<Point | undefined> {
		const reference = [...this.bench.references].reverse().find((r) => !r.hidden && isOnReference(r, x, y));
		if (!reference || reference.sheet) return undefined;
		const p = onPicture(reference, x, y);
		const answer = await pictureWorker().edgeNear(
			reference.picture,
			p.x,
			p.y,
			Math.min(40, Math.max(2, reach * scaleOf(reference)))
		);
		return answer.ok === true && answer.value
			? onPaper(reference, answer.value.x, answer.value.y)
			: undefined;
	}

	/** The picture under a place of the paper that can be taken in hand; the uppermost. */
	at(x: number, y: number): Reference | undefined {
		return [...this.bench.references].reverse().find((r) => !r.hidden && !r.locked && isOnReference(r, x, y));
	}
}

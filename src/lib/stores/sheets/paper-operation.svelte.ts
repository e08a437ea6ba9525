/** The drawing on paper, true to size: on one page of its own, or parted into pages; as PDF, printed, or as a picture. */
import type { Edit } from '../../core/document/history';
import type { Outline } from '../../core/document/outline';
import { output } from '../../core/document/output';
import { toProblem } from '../../core/errors';
import { PAPERS, tilesOf, WHITE_EDGE, type Tiling } from '../../core/formats/paper';
import { paperOf, paperQuestion, type OnPaper } from '../../core/formats/paper-pieces';
import { drawPages } from '../../render/pages';
import type { SurfaceLook } from '../../render/scene';
import type { Bench } from '../bench.svelte';
import { saveAs } from '../files/files';
import { Operation } from '../operations/operation.svelte';
import { locale } from '../said/locale.svelte';

export const OWN = 'own';
/** What was asked for last is there next time. */
let last = {
	paper: locale.paper === 'Letter' ? 'letter' : 'a4',
	overlap: 10,
	names: true,
	guides: false,
	dpi: 300
};
const MOST_PX = 16_000;

export class PaperOperation extends Operation {
	readonly kind = 'paper';
	readonly name = 'Paper';
	readonly outlines: readonly Outline[];
	paper = $state(last.paper);
	/** mm */
	overlap = $state(last.overlap);
	names = $state(last.names);
	guides = $state(last.guides);
	dpi = $state(last.dpi);
	making = $state(false);

	constructor(readonly bench: Bench) {
		super();
		this.outlines = output(bench.drawing).lines.map((line) => line.outline);
	}
	override get isLasting(): boolean {
		return true;
	}
	override get hint(): string {
		return 'Pages lie over the drawing as they will be laid together. Print them at 100 %: each has a square to measure.';
	}
	private get question() {
		const { selected } = this.bench.selection;
		return paperQuestion(this.guides, selected.size ? selected : undefined);
	}
	readonly onPaper: OnPaper | undefined = $derived.by(() => paperOf(this.bench.drawing, this.question));
	private readonly tiled = $derived.by(() => {
		const { onPaper, paper } = this;
		return onPaper && paper !== OWN ? tilesOf(onPaper, PAPERS[paper], this.overlap) : undefined;
	});
	get tiling(): Tiling | undefined {
		return this.tiled?.ok ? this.tiled.value : undefined;
	}
	get trouble(): string | undefined {
		return this.tiled?.ok === false ? this.tiled.problem.sentence : undefined;
	}
	override get over(): ((c: CanvasRenderingContext2D, look: SurfaceLook) => void) | undefined {
		const { onPaper, tiling } = this;
		if (!onPaper || !tiling) return undefined;
		const pages = tiling.tiles.map((tile) => ({
			number: tile.page,
			x: onPaper.x + tile.x + WHITE_EDGE,
			y: onPaper.y + tile.y + WHITE_EDGE,
			width: tiling.page.width - 2 * WHITE_EDGE,
			height: tiling.page.height - 2 * WHITE_EDGE
		}));
		return (c, look) => drawPages(c, look, pages);
	}

	private async make<T>(work: () => Promise<T>): Promise<T | undefined> {
		const { paper, overlap, names, guides, dpi } = this;
		last = { paper, overlap, names, guides, dpi };
		this.making = true;
		try {
			return await work();
		} catch (error) {
			this.bench.trouble(toProblem(error));
			return undefined;
		} finally {
			this.making = false;
		}
	}
	private async bytes(): Promise<Uint8Array<ArrayBuffer> | undefined> {
		const { onPaper, tiling, names } = this;
		if (!onPaper || this.trouble) return undefined;
		const { writePdf } = await import('../../core/formats/pdf-write');
		const { writtenOf } = await import('../../core/formats/formats');
		const { writeSvg } = await import('../../core/formats/svg-write');
		const { width, height, pieces } = onPaper;
		const { drawing } = this.bench;
		const { name } = drawing;
		const written = writtenOf(drawing, this.question);
		const lines = writeSvg(written.pieces, undefined, written.points, name);
		return (await writePdf(pieces, { name, width, height, tiling, names, lines })) as Uint8Array<ArrayBuffer>;
	}
	writePdf(): Promise<void | undefined> {
		return this.make(async () => {
			const bytes = await this.bytes();
			if (bytes) saveAs(`${this.bench.drawing.name}.pdf`, bytes, 'application/pdf');
		});
	}
	/** The same pages through the browser's own print, in a frame of their own. */
	print(): Promise<void | undefined> {
		return this.make(async () => {
			const { onPaper, tiling, names } = this;
			if (!onPaper || this.trouble) return;
			const { printPages } = await import('./print-pages');
			await printPages(onPaper, tiling, { name: this.bench.drawing.name, names });
		});
	}
	writePng(): Promise<void | undefined> {
		return this.make(async () => {
			const { onPaper, dpi } = this;
			if (!onPaper) return;
			const { pngOf } = await import('./png');
			const side = (Math.max(onPaper.width, onPaper.height) / 25.4) * dpi;
			if (side > MOST_PX) {
				this.bench.tell(
					`That would be ${Math.round(side)} px long; a browser makes up to ${MOST_PX}. Take ${Math.floor((MOST_PX / side) * dpi)} dots in an inch or fewer.`,
					'trouble'
				);
				return;
			}
			saveAs(`${this.bench.drawing.name}.png`, await pngOf(onPaper, dpi), 'image/png');
		});
	}

	protected run(): Promise<void> {
		this.busy = false;
		return Promise.resolve();
	}
	/** It changes nothing of the drawing. */
	edit(): Edit {
		return {};
	}
	override get ready(): boolean {
		return false;
	}
}

export function openPaper(bench: Bench): void {
	bench.dropOperation();
	bench.station = 'cut';
	bench.operation = new PaperOperation(bench);
}

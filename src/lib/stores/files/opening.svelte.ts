/** A file of lines being opened: read away from the hand, with its progress and a stop; then what of it was left out. */
import { recordAs, type Drawing, type DrawingRecord } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike } from '../../core/document/edits/operations';
import { placeOutlines } from '../../core/document/edits/transform';
import { scaleBy } from '../../core/geometry/maps';
import type { Edit } from '../../core/document/history';
import type { Outline } from '../../core/document/outline';
import type { OffsetSettings } from '../../core/document/recipes/offset';
import { addImported } from '../../core/formats/add-imported';
import type { Imported } from '../../core/formats/imported';
import type { EndKind } from '../../core/plane/offset-raw';
import { formatNumber } from '../../core/units';
import { hand } from '../../workers/geometry.client';
import { newId } from '../ids';
import type { Choosing, Doing, Seeing } from '../parts';

/** What the numbers of a file may be that says nothing of it; mm each. */
export const FILE_UNITS = [
	{ value: 'mm', word: 'mm', mm: 1 },
	{ value: 'cm', word: 'cm', mm: 10 },
	{ value: 'in', word: 'inches', mm: 25.4 }
] as const;
export type FileUnit = (typeof FILE_UNITS)[number]['value'];

/** What is told of a file once it is open, until it is put away. */
export interface Opened {
	readonly name: string;
	readonly outlines: number;
	readonly warnings: readonly string[];
	/** The unit its numbers were taken for, where it says none. */
	readonly unit?: FileUnit;
	readonly ids: readonly string[];
	/** Lines that are drawn wide, whose width may be taken too. */
	readonly bands: readonly Band[];
}

/** A line that is drawn so wide, mm. */
interface Band {
	readonly id: string;
	readonly width: number;
	readonly ends: EndKind;
	/** Its inside is filled: only its outer half is to be added. */
	readonly isFilled: boolean;
}

export class Opening {
	/** The file that is being read. */
	reading = $state.raw<{ readonly name: string; readonly share: number } | undefined>();
	/** What was opened last. */
	opened = $state.raw<Opened | undefined>();
	private stopReading: (() => void) | undefined;

	constructor(private readonly bench: Doing & Choosing & Seeing) {}

	/** Opens a file into the drawing as one step. */
	async open(file: File): Promise<void> {
		const { bench } = this;
		const name = file.name.replace(/\.[a-z]+$/i, '');
		this.opened = undefined;
		this.reading = { name: file.name, share: 0 };
		try {
			const { unpacked } = await import('../../core/formats/formats');
			const bytes = await unpacked(new Uint8Array(await file.arrayBuffer()), file.name);
			const task = hand.run('open', [bytes, file.name], {
				line: `open ${file.name}`,
				tell: (share) => {
					if (this.reading?.name === file.name) this.reading = { name: file.name, share };
				}
			});
			this.stopReading = () => task.stop();
			const answer = await task.answer;
			if (answer.ok === 'stale') {
				bench.tell(`"${file.name}" was not opened.`);
				return;
			}
			if (!answer.ok) {
				bench.trouble({ ...answer.problem, sentence: `${file.name}: ${answer.problem.sentence}` });
				return;
			}
			const { value } = answer;
			const edit = addImported(bench.drawing, value, name, newId);
			if (!bench.commit(`Open "${name}"`, { ...edit, isLarge: true })) return;
			const ids = (edit.put ?? []).flatMap((r) => (r.type === 'outline' || r.type === 'mark' ? [r.id] : []));
			bench.leave();
			bench.selection.selected = new Set(ids);
			bench.station = 'mend';
			bench.fitAll();
			const made = (edit.put ?? []).filter((r) => r.type === 'outline');
			const outlines = made.length;
			const bands = bandsOf(value, made);
			const { warnings, unitless } = value;
			if (warnings.length || unitless)
				this.opened = {
					name: file.name,
					outlines,
					warnings,
					ids,
					bands,
					...(unitless ? { unit: 'mm' } : {})
				};
		} finally {
			this.reading = undefined;
			this.stopReading = undefined;
		}
	}
	stop(): void {
		this.stopReading?.();
	}

	/** Wide lines of the file become the bands that they are drawn as; the lines stay, hidden, and the bands follow them. */
	takeBands(): void {
		const { opened, bench } = this;
		if (!opened) return;
		const put: DrawingRecord[] = [];
		let at = bench.drawing;
		for (const band of opened.bands) {
			const source = at.records.get(band.id);
			if (source?.type !== 'outline') continue;
			const records = bandOf(at, band, source);
			put.push(...records);
			at = { ...at, records: new Map([...at.records, ...records.map((r) => [r.id, r] as const)]) };
		}
		if (bench.commit(`Widths of "${opened.name}"`, { put })) this.opened = { ...opened, bands: [] };
	}

	/** The numbers of the file are of another unit: what came of it is made larger or smaller. */
	takeAs(unit: FileUnit): void {
		const { opened, bench } = this;
		if (!opened?.unit || opened.unit === unit) return;
		const mm = (value: FileUnit) => FILE_UNITS.find((u) => u.value === value)!.mm;
		const edit = scaledBy(bench.drawing, opened.ids, mm(unit) / mm(opened.unit));
		if (!bench.commit(`Numbers of "${opened.name}" are ${unit}`, edit)) return;
		const factor = mm(unit) / mm(opened.unit);
		this.opened = { ...opened, unit, bands: opened.bands.map((b) => ({ ...b, width: factor * b.width })) };
		bench.fitAll();
	}
}

/** The lines of a file that are drawn wide; its outlines are in the order of its paths. */
function bandsOf({ shapes }: Imported, outlines: readonly { readonly id: string }[]): Band[] {
	const shapeOf = shapes.flatMap((shape) => shape.paths.map(() => shape));
	return outlines.flatMap(({ id }, i) => {
		const { wide, fill } = shapeOf[i];
		return wide ? [{ id, ...wide, isFilled: fill !== undefined }] : [];
	});
}

/** The band of a wide line, which follows it; the line itself goes out no more. */
function bandOf(
	drawing: Drawing,
	{ id, width, ends, isFilled }: Band,
	source: Outline
): readonly DrawingRecord[] {
	const settings: OffsetSettings = {
		distance: width / 2,
		steps: 1,
		way: isFilled ? 'outside' : 'both',
		join: 'miter',
		miterLimit: 4,
		side: 'both',
		ends,
		band: false
	};
	const facts = {
		...factsLike(drawing, source, `${source.name}, ${formatNumber(width, 2)} mm wide`),
		id: newId()
	};
	const { put = [] } = addFollower('offset', settings, [source], facts);
	return [...put, { ...recordAs(drawing, 'outline', id), hidden: true }];
}

/** What of a file is still in the drawing, scaled about the origin of its numbers. */
function scaledBy(drawing: Drawing, ids: readonly string[], factor: number): Edit {
	const there = ids.filter((id) => drawing.records.has(id));
	const outlines = there
		.filter((id) => drawing.records.get(id)?.type === 'outline')
		.map((id) => recordAs(drawing, 'outline', id));
	const marks = there.flatMap((id) => {
		const record = drawing.records.get(id);
		return record?.type === 'mark' ? [{ ...record, x: record.x * factor, y: record.y * factor }] : [];
	});
	const placed = placeOutlines(drawing, outlines, scaleBy(factor, factor, 0, 0));
	return { put: [...(placed.put ?? []), ...marks] };
}

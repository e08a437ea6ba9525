/** A file of lines being opened: read away from the hand, with its progress and a stop; then what of it was left out. */
import { recordAs, type Drawing } from '../../core/document/drawing';
import { placeOutlines, scaleBy } from '../../core/document/edits/transform';
import type { Edit } from '../../core/document/history';
import { addImported } from '../../core/formats/add-imported';
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
			const bytes = new Uint8Array(await file.arrayBuffer());
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
			if (!bench.commit(`Open "${name}"`, edit)) return;
			const ids = (edit.put ?? []).flatMap((r) => (r.type === 'outline' || r.type === 'mark' ? [r.id] : []));
			bench.leave();
			bench.selection.selected = new Set(ids);
			bench.station = 'mend';
			bench.fitAll();
			const outlines = (edit.put ?? []).filter((r) => r.type === 'outline').length;
			const { warnings, unitless } = value;
			if (warnings.length || unitless)
				this.opened = { name: file.name, outlines, warnings, ids, ...(unitless ? { unit: 'mm' } : {}) };
		} finally {
			this.reading = undefined;
			this.stopReading = undefined;
		}
	}
	stop(): void {
		this.stopReading?.();
	}

	/** The numbers of the file are of another unit: what came of it is made larger or smaller. */
	takeAs(unit: FileUnit): void {
		const { opened, bench } = this;
		if (!opened?.unit || opened.unit === unit) return;
		const mm = (value: FileUnit) => FILE_UNITS.find((u) => u.value === value)!.mm;
		const edit = scaledBy(bench.drawing, opened.ids, mm(unit) / mm(opened.unit));
		if (!bench.commit(`Numbers of "${opened.name}" are ${unit}`, edit)) return;
		this.opened = { ...opened, unit };
		bench.fitAll();
	}
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

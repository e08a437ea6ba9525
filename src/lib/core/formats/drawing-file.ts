/** The whole drawing with its pictures as one file: a zip with drawing.json and pictures/HASH. */
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { validateDrawing } from '../../generated/validators';
import type { Drawing, DrawingRecord, KeptLine } from '../document/drawing';
import { ANCHOR_STRIDE, MARK_STRIDE, type Outline } from '../document/outline';
import { done, failed, type Result } from '../errors';
import { STRIDE } from '../geometry/path';

export const DRAWING_VERSION = 2;
/** Ending of the one-file form. */
export const DRAWING_ENDING = '.thread';

type Plain = Record<string, unknown>;

/** For each older version, how its plain form becomes the next one's. Version 1 is the first. */
export const MIGRATIONS: Readonly<Record<number, (plain: Plain) => Plain>> = {
	// Ghosts and a tool's radius came in, both of which may be missing.
	1: (plain) => ({ ...plain, version: 2 })
};

/** The drawing as plain JSON data. */
export function toPlain(drawing: Drawing): Plain {
	const records = [...drawing.records.values()].map((record): Plain => {
		if (record.type === 'outline') {
			return {
				...record,
				anchors: Array.from(record.anchors),
				points: Array.from(record.points),
				marks: Array.from(record.marks)
			};
		}
		if (record.type === 'line') {
			const { path, ...rest } = record;
			return { ...rest, closed: path.closed, types: Array.from(path.types), segs: Array.from(path.segs) };
		}
		return { ...record };
	});
	return {
		format: 'even-thread-drawing',
		version: DRAWING_VERSION,
		id: drawing.id,
		name: drawing.name,
		records
	};
}

/** The drawing out of plain data, migrated from older versions and checked. */
export function fromPlain(
	data: unknown,
	migrations: Readonly<Record<number, (plain: Plain) => Plain>> = MIGRATIONS
): Result<Drawing> {
	if (typeof data !== 'object' || data === null || (data as Plain).format !== 'even-thread-drawing') {
		return failed('not-drawing', 'This is not an Even Thread drawing.');
	}
	let plain = data as Plain;
	const version = plain.version;
	if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) {
		return failed('bad-drawing', 'This drawing does not say which version it has. It may be damaged.');
	}
	if (version > DRAWING_VERSION) {
		return failed(
			'newer-version',
			`This drawing was saved by a newer Even Thread (version ${version}; this one reads up to ${DRAWING_VERSION}). Open it there.`
		);
	}
	for (let v = version; v < DRAWING_VERSION; v++) {
		const migrate = migrations[v];
		if (!migrate) return failed('old-version', `Drawings of version ${v} cannot be read any more.`);
		plain = migrate(plain);
	}
	if (!validateDrawing(plain)) {
		const where = validateDrawing.errors?.[0]?.instancePath ?? '';
		return failed(
			'bad-drawing',
			`This drawing is damaged and was not opened${where ? ` (at ${where})` : ''}.`
		);
	}
	const records = new Map<string, DrawingRecord>();
	for (const r of plain.records as Plain[]) {
		const record = revive(r);
		if (!record || records.has(record.id)) {
			return failed('bad-drawing', `This drawing is damaged and was not opened (record ${String(r.id)}).`);
		}
		records.set(record.id, record);
	}
	for (const record of records.values()) {
		const fits =
			(record.type !== 'outline' && record.type !== 'mark') || records.get(record.layer)?.type === 'layer';
		if (!fits)
			return failed('bad-drawing', 'This drawing is damaged: an outline lies on a layer that is missing.');
	}
	return done({ id: plain.id as string, name: plain.name as string, records });
}

function revive(r: Plain): DrawingRecord | undefined {
	if (r.type === 'outline') {
		const anchors = Uint32Array.from(r.anchors as number[]);
		const points = Float64Array.from(r.points as number[]);
		const marks = Uint8Array.from(r.marks as number[]);
		const n = anchors.length;
		const fits =
			n >= 1 &&
			points.length === ANCHOR_STRIDE * n &&
			marks.length === MARK_STRIDE * n &&
			new Set(anchors).size === n;
		const known = Array.from({ length: n }).every(
			(_, i) => marks[MARK_STRIDE * i] < 4 && marks[MARK_STRIDE * i + 1] < 3
		);
		if (!fits || !known || (r.nextAnchor as number) <= Math.max(...anchors)) return undefined;
		return { ...(r as unknown as Outline), anchors, points, marks };
	}
	if (r.type === 'line') {
		const { closed, types, segs, ...rest } = r as unknown as KeptLine & {
			closed: boolean;
			types: number[];
			segs: number[];
		};
		if (segs.length !== STRIDE * types.length) return undefined;
		return { ...rest, path: { closed, types: Uint8Array.from(types), segs: Float64Array.from(segs) } };
	}
	return r as unknown as DrawingRecord;
}

/** The bytes of the one-file form. @param pictures original picture bytes by hash. */
export function writeDrawingFile(drawing: Drawing, pictures: ReadonlyMap<string, Uint8Array>): Uint8Array {
	const files: Record<string, [Uint8Array, { level: 0 | 6 }]> = {
		'drawing.json': [strToU8(JSON.stringify(toPlain(drawing))), { level: 6 }]
	};
	// Pictures are compressed already.
	for (const [hash, bytes] of pictures) files[`pictures/${hash}`] = [bytes, { level: 0 }];
	return zipSync(files);
}

/** Reads the one-file form. Every picture that the drawing refers to must be there. */
export function readDrawingFile(
	bytes: Uint8Array
): Result<{ drawing: Drawing; pictures: Map<string, Uint8Array> }> {
	if (bytes.length === 0) return failed('empty-file', 'This file is empty.');
	let files: Record<string, Uint8Array>;
	try {
		files = unzipSync(bytes);
	} catch {
		return failed('not-drawing', 'This is not an Even Thread drawing, or it is damaged.');
	}
	const json = files['drawing.json'];
	if (!json) return failed('not-drawing', 'This is not an Even Thread drawing.');
	let data: unknown;
	try {
		data = JSON.parse(strFromU8(json));
	} catch {
		return failed('bad-drawing', 'This drawing is damaged and was not opened: its text is not valid.');
	}
	const read = fromPlain(data);
	if (!read.ok) return read;
	const pictures = new Map<string, Uint8Array>();
	for (const record of read.value.records.values()) {
		if (record.type !== 'reference') continue;
		const picture = files[`pictures/${record.picture}`];
		if (!picture) return failed('bad-drawing', `The picture "${record.name}" is missing from this file.`);
		pictures.set(record.picture, picture);
	}
	return done({ drawing: read.value, pictures });
}

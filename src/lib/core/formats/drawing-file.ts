/** The whole drawing with its pictures as one file: a zip with drawing.json and pictures/HASH. */
import { strFromU8, strToU8, zipSync } from 'fflate';
import { validateDrawing } from '../../generated/validate-drawing';
import type { Drawing, DrawingRecord } from '../document/drawing';
import { withoutLooseRecipes } from '../document/read-back';
import { RECORDS, recordType, type RecordKind } from '../document/records';
import { RECORD_VERSION, upgradeRecord } from '../document/upgrade';
import { CoreError, done, failed, toProblem, type Result } from '../errors';
import { unzipped } from './unzip';

/** Version of the one-file form: that of the records in it. */
export const DRAWING_VERSION = RECORD_VERSION;
/** Ending of the one-file form. */
export const DRAWING_ENDING = '.thread';

type Plain = Record<string, unknown>;

/** The drawing as plain JSON data. */
export function toPlain(drawing: Drawing): Plain {
	return {
		format: 'even-thread-drawing',
		version: DRAWING_VERSION,
		id: drawing.id,
		name: drawing.name,
		records: [...drawing.records.values()].map((record) => recordType(record).plain(record))
	};
}

/** The drawing out of plain data, upgraded from older versions and checked. */
export function fromPlain(data: unknown): Result<Drawing> {
	if (typeof data !== 'object' || data === null || (data as Plain).format !== 'even-thread-drawing') {
		return failed('not-drawing', 'This is not an Even Thread drawing.');
	}
	const plain = data as Plain;
	const { version } = plain;
	if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) {
		return failed('bad-drawing', 'This drawing does not say which version it has. It may be damaged.');
	}
	if (version > DRAWING_VERSION) {
		return failed(
			'newer-version',
			`This drawing was saved by a newer Even Thread (version ${version}; this one reads up to ${DRAWING_VERSION}). Open it there.`
		);
	}
	if (version < 1) return failed('old-version', `Drawings of version ${version} cannot be read any more.`);
	const now = version < DRAWING_VERSION ? upgraded(plain, version) : plain;
	if (!now || !validateDrawing(now)) {
		const where = (now && validateDrawing.errors?.[0]?.instancePath) ?? '';
		return failed(
			'bad-drawing',
			`This drawing is damaged and was not opened${where ? ` (at ${where})` : ''}.`
		);
	}
	const records = new Map<string, DrawingRecord>();
	for (const r of now.records as Plain[]) {
		const record = revive(r);
		if (!record || recordType(record).broken?.(record) || records.has(record.id)) {
			return failed('bad-drawing', `This drawing is damaged and was not opened (record ${String(r.id)}).`);
		}
		records.set(record.id, record);
	}
	for (const record of records.values()) {
		for (const id of recordType(record).needs(record)) {
			if (records.get(id)?.type !== 'layer')
				return failed('bad-drawing', 'This drawing is damaged: an outline lies on a layer that is missing.');
		}
	}
	return done({ id: now.id as string, name: now.name as string, records: withoutLooseRecipes(records) });
}

const revive = (r: Plain): DrawingRecord | undefined =>
	typeof r.type === 'string' && Object.hasOwn(RECORDS, r.type)
		? (RECORDS[r.type as RecordKind].revived(r) as DrawingRecord | undefined)
		: undefined;

/** Each record upgraded on its own. Undefined where one is nothing that could be. */
function upgraded(plain: Plain, from: number): Plain | undefined {
	if (!Array.isArray(plain.records)) return undefined;
	try {
		const records = plain.records.map((r: Plain) => {
			const record = revive(r);
			if (!record) throw new CoreError('bad-drawing', 'no record');
			const next = upgradeRecord(record, from);
			return recordType(next).plain(next);
		});
		return { ...plain, version: DRAWING_VERSION, records };
	} catch {
		return undefined;
	}
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
	let files: ReadonlyMap<string, Uint8Array>;
	try {
		files = unzipped(bytes, (name) => name === 'drawing.json' || /^pictures\/[0-9a-f]{64}$/.test(name));
	} catch (error) {
		const problem = toProblem(error);
		return problem.code === 'not-zip'
			? failed('not-drawing', 'This is not an Even Thread drawing, or it is damaged.')
			: { ok: false, problem };
	}
	const json = files.get('drawing.json');
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
		const picture = files.get(`pictures/${record.picture}`);
		if (!picture) return failed('bad-drawing', `The picture "${record.name}" is missing from this file.`);
		pictures.set(record.picture, picture);
	}
	return done({ drawing: read.value, pictures });
}

/** Versions of the drawing: kept whole under a word, opened beside, gone back to. */
import type { DrawingRecord } from '../core/document/drawing';
import type { Edit } from '../core/document/history';
import { listVersions, recordsOfVersion, storeDrawing, storeVersion } from '../storage/drawings';
import type { KeptVersion } from '../storage/database';
import { storageProblem } from './files/files';
import { newId } from './ids';
import type { Doing } from './parts';

export class Versions {
	/** The latest first; undefined until they were looked up. */
	list = $state.raw<readonly KeptVersion[] | undefined>();

	constructor(private readonly bench: Doing) {}

	async look(): Promise<void> {
		this.list = await listVersions(this.bench.drawing.id).catch(() => []);
	}

	/** Keeps the drawing as it is. */
	async keep(word: string): Promise<void> {
		try {
			await storeVersion(this.bench.drawing, newId(), word);
			await this.look();
			this.bench.tell(`Kept as "${word}".`);
		} catch (error) {
			this.bench.trouble(storageProblem(error).problem);
		}
	}

	/** Makes the drawing what it was then, as one step that can be undone. */
	goBack(version: KeptVersion): void {
		const then = recordsOfVersion(version);
		if (!this.bench.commit(`Back to "${version.word}"`, editTo(this.bench.drawing.records, then)))
			this.bench.tell(`The drawing is as it was kept in "${version.word}".`);
	}

	/** A version as a drawing of its own. @returns its id; undefined where there is no room. */
	async openBeside(version: KeptVersion): Promise<string | undefined> {
		const id = newId();
		const name = `${version.name}, ${version.word}`;
		try {
			await storeDrawing({ id, name, records: recordsOfVersion(version) });
			return id;
		} catch (error) {
			this.bench.trouble(storageProblem(error).problem);
			return undefined;
		}
	}
}

/** What makes records what they were. */
function editTo(now: ReadonlyMap<string, DrawingRecord>, then: ReadonlyMap<string, DrawingRecord>): Edit {
	const same = (a: DrawingRecord | undefined, b: DrawingRecord) =>
		a === b || (a !== undefined && JSON.stringify(plain(a)) === JSON.stringify(plain(b)));
	return {
		put: [...then.values()].filter((record) => !same(now.get(record.id), record)),
		remove: [...now.keys()].filter((id) => !then.has(id))
	};
}

/** Packed numbers as lists, so that two records can be held against each other. */
const plain = (record: DrawingRecord): object =>
	Object.fromEntries(
		Object.entries(record).map(([key, value]) => [
			key,
			ArrayBuffer.isView(value) ? [...(value as Float64Array)] : value
		])
	);

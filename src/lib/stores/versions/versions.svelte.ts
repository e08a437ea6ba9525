/** Versions of the drawing: kept whole under a word, opened beside, gone back to, compared. */
import { same } from '../../core/document/compared';
import type { Drawing, DrawingRecord } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import type { KeptVersion } from '../../storage/database';
import { storeDrawing } from '../../storage/drawings';
import { askToLast } from '../../storage/room';
import { listVersions, nameVersion, recordsOfVersion, removeVersions } from '../../storage/versions';
import { storageProblem } from '../files/files';
import { newId } from '../ids';
import type { Doing } from '../parts';
import { keepVersion } from './keeping';

export class Versions {
	/** The latest first; undefined until they were looked up. */
	list = $state.raw<readonly KeptVersion[] | undefined>();

	constructor(private readonly bench: Doing) {}

	async look(): Promise<void> {
		this.list = await listVersions(this.bench.drawing.id).catch(() => []);
	}

	/** Keeps the drawing as it is. */
	async keep(word: string, bitmaps: ReadonlyMap<string, ImageBitmap>): Promise<void> {
		const { drawing } = this.bench;
		await this.doing(async () => {
			await keepVersion(drawing, { word }, bitmaps);
			this.bench.tell(`Kept as "${word}".`);
			// Whoever keeps versions wants to find them again.
			void askToLast().catch(() => false);
		});
	}

	/** Gives a version another word; one that was kept by itself stays from then on. */
	name(version: KeptVersion, word: string): Promise<void> {
		return this.doing(() => nameVersion(version, word));
	}

	/** Takes a version out. */
	throwAway(version: KeptVersion): Promise<void> {
		return this.doing(() => removeVersions(version.drawing, [version.id]));
	}

	/** Makes the drawing what it was then, as one step that can be undone; what it is now is kept as a version. */
	async goBack(version: KeptVersion): Promise<void> {
		const then = await drawingOf(version);
		const edit = editTo(this.bench.drawing.records, then.records);
		if (!this.bench.commit(`Back to "${version.word}"`, { ...edit, isLarge: true }))
			this.bench.tell(`The drawing is as it was kept in "${version.word}".`);
		await this.look();
	}

	/** A version as a drawing of its own. @returns its id; undefined where there is no room. */
	async openBeside(version: KeptVersion): Promise<string | undefined> {
		const id = newId();
		try {
			await storeDrawing({ ...(await drawingOf(version)), id, name: `${version.name}, ${version.word}` });
			return id;
		} catch (error) {
			this.bench.trouble(storageProblem(error).problem);
			return undefined;
		}
	}

	/** What cannot be done is told. */
	private async doing(work: () => Promise<void>): Promise<void> {
		try {
			await work();
		} catch (error) {
			this.bench.trouble(storageProblem(error).problem);
		}
		await this.look();
	}
}

/** A version as a drawing. */
export async function drawingOf(version: KeptVersion): Promise<Drawing> {
	return { id: version.drawing, name: version.name, records: await recordsOfVersion(version) };
}

/** What makes records what they were. */
function editTo(now: ReadonlyMap<string, DrawingRecord>, then: ReadonlyMap<string, DrawingRecord>): Edit {
	return {
		put: [...then.values()].filter((record) => !same(now.get(record.id), record)),
		remove: [...now.keys()].filter((id) => !then.has(id))
	};
}

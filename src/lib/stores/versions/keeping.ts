/** A drawing kept as a version, with a small picture of it. */
import type { Drawing } from '../../core/document/drawing';
import { makeThumbnail } from '../../render/thumbnail';
import { storeVersion, type NewVersion } from '../../storage/versions';
import { newId } from '../ids';

/** @throws where there is no room for it. */
export async function keepVersion(
	drawing: Drawing,
	said: Pick<NewVersion, 'word' | 'byItself'>,
	bitmaps: ReadonlyMap<string, ImageBitmap> = new Map()
): Promise<void> {
	const picture = await makeThumbnail(drawing, bitmaps).catch(() => undefined);
	await storeVersion(drawing, { id: newId(), ...said, ...(picture ? { picture } : {}) });
}

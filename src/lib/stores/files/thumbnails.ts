/** Small pictures for drawings that have none yet. */
import { referencesOf } from '../../core/document/drawing';
import { makeThumbnail } from '../../render/thumbnail';
import { loadDrawing, loadPicture, loadThumbnail, storeThumbnail } from '../../storage/drawings';

/** The stored small picture of a drawing, made first where it is missing. */
export async function thumbnailOf(id: string): Promise<Blob | undefined> {
	const known = await loadThumbnail(id);
	if (known) return known;
	const stored = await loadDrawing(id);
	if (!stored) return undefined;
	const bitmaps = new Map<string, ImageBitmap>();
	for (const reference of referencesOf(stored.drawing)) {
		const picture = await loadPicture(reference.picture);
		if (!picture) continue;
		const blob = new Blob([picture.bytes as Uint8Array<ArrayBuffer>], { type: picture.mediaType });
		bitmaps.set(
			reference.picture,
			await createImageBitmap(blob, { resizeWidth: 640, resizeQuality: 'medium' })
		);
	}
	const made = await makeThumbnail(stored.drawing, bitmaps);
	for (const bitmap of bitmaps.values()) bitmap.close();
	if (made) await storeThumbnail(id, made);
	return made;
}

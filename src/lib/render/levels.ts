/** Smaller copies of pictures on the paper, so that a large one costs little where it is seen from afar. */

const copies = new WeakMap<ImageBitmap, readonly ImageBitmap[]>();

/** Remembers the smaller copies of a picture, each half as wide as the one before. */
export function keepLevels(picture: ImageBitmap, smaller: readonly ImageBitmap[]): void {
	copies.set(picture, smaller);
}

/**
 * The smallest copy that has a pixel for each of the screen.
 * @param scale px of the screen per px of the whole picture.
 * @returns it, and how smooth it is to be drawn: below half its size plain smoothing would leave pixels out.
 */
export function levelFor(
	picture: ImageBitmap,
	scale: number
): { readonly level: ImageBitmap; readonly quality: ImageSmoothingQuality } {
	const wanted = picture.width * scale;
	let level = picture;
	for (const smaller of copies.get(picture) ?? []) if (smaller.width >= wanted) level = smaller;
	return { level, quality: 2 * wanted < level.width ? 'medium' : 'low' };
}

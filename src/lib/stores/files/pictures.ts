/** The pictures that the picture worker holds, each opened once; whoever needs one waits for it here. */
import type { Answer, OpenedPicture } from '../../workers/picture.protocol';
import { pictureWorker } from '../../workers/picture.client';

const opened = new Map<string, Promise<Answer<OpenedPicture>>>();

/**
 * Has the picture worker decode a picture and keep it.
 *
 * @param key the hash of its bytes.
 * @param bytes gives the bytes of the file.
 */
export function openPicture(key: string, bytes: () => Promise<Uint8Array>): Promise<Answer<OpenedPicture>> {
	const open = async (): Promise<Answer<OpenedPicture>> => pictureWorker().open(key, await bytes());
	const answer = open();
	opened.set(key, answer);
	return answer;
}

/** Resolves when a picture that is being opened can be worked on; at once where none of that key is. */
export async function whenOpen(key: string): Promise<void> {
	await opened.get(key)?.catch(() => undefined);
}

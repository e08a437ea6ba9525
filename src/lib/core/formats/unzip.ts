/** What is packed in a zip, taken out within limits: names are only looked up, sizes are counted and never believed. */
import { Unzip, UnzipInflate } from 'fflate';
import { joined } from '../bytes';
import { CoreError } from '../errors';

/** Bytes that all that is taken out may have. */
const MOST = 250_000_000;
/** Bytes given to the unpacker at once: even what is packed a thousandfold grows by a few megabytes before it is counted. */
const STEP = 8192;

/**
 * Takes out what is wanted by its name; nothing else is unpacked.
 * @param most bytes that all of it may have.
 * @throws CoreError `not-zip`, `too-much`, `doubled`, `cut-off`
 */
export function unzipped(
	bytes: Uint8Array,
	wants: (name: string) => boolean,
	most = MOST
): Map<string, Uint8Array> {
	const parts = new Map<string, Uint8Array[]>();
	const whole = new Set<string>();
	let size = 0;
	let count = 0;
	const unzip = new Unzip((file) => {
		count++;
		const { name } = file;
		if (!wants(name)) return;
		if (parts.has(name)) throw new CoreError('doubled', `This file holds "${name}" twice.`);
		const own: Uint8Array[] = [];
		parts.set(name, own);
		file.ondata = (error, part, isLast) => {
			if (error) throw error;
			size += part.length;
			if (size > most) throw new CoreError('too-much', 'This file unpacks to more than can be taken.');
			own.push(part);
			if (isLast) whole.add(name);
		};
		file.start();
	});
	unzip.register(UnzipInflate);
	try {
		for (let at = 0; at < bytes.length; at += STEP)
			unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length);
	} catch (error) {
		if (error instanceof CoreError) throw error;
		throw new CoreError('not-zip', 'This file is damaged.');
	}
	if (count === 0) throw new CoreError('not-zip', 'This file is damaged, or another kind of file.');
	for (const name of parts.keys())
		if (!whole.has(name)) throw new CoreError('cut-off', `This file is cut off within "${name}".`);
	return new Map([...parts].map(([name, own]) => [name, joined(own)]));
}

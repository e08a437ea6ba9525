/** Bytes that came in parts, as one. */
export function joined(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
	const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
	let at = 0;
	for (const part of parts) {
		all.set(part, at);
		at += part.length;
	}
	return all;
}

/** Whether two rows of numbers are the same, one by one. */
export function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
	if (a.length !== b.length) return false;
	for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
	return true;
}

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

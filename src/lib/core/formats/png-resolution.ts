/** The resolution that a PNG states: chunk pHYs, pixels per metre (W3C PNG specification, 11.3.5.3; CRC as in its annex D). */

const METRE_INCHES = 1000 / 25.4;
/** Signature and header, after which pHYs may stand. */
const AFTER_HEADER = 33;

function crc(bytes: Uint8Array): number {
	let c = 0xffffffff;
	for (const byte of bytes) {
		c ^= byte;
		for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
	}
	return (c ^ 0xffffffff) >>> 0;
}

/** A PNG that states its dots in an inch. @param png one that states none. */
export function withResolution(png: Uint8Array, dpi: number): Uint8Array<ArrayBuffer> {
	const perMetre = Math.round(dpi * METRE_INCHES);
	const chunk = new Uint8Array(21);
	const view = new DataView(chunk.buffer);
	view.setUint32(0, 9);
	chunk.set([0x70, 0x48, 0x59, 0x73], 4);
	view.setUint32(8, perMetre);
	view.setUint32(12, perMetre);
	chunk[16] = 1;
	view.setUint32(17, crc(chunk.subarray(4, 17)));
	const out = new Uint8Array(png.length + chunk.length);
	out.set(png.subarray(0, AFTER_HEADER));
	out.set(chunk, AFTER_HEADER);
	out.set(png.subarray(AFTER_HEADER), AFTER_HEADER + chunk.length);
	return out;
}

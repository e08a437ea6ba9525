/** Short numbers that tell whether content has changed, and ids made of what something was made of. */
import type { Path } from '../geometry/path';

/** Two 32-bit states stirred word by word; 53 bits of them, base 36. Not for secrets. Source: cyrb53, public domain. */
class Stirred {
	private a = 0xdeadbeef;
	private b = 0x41c6ce57;
	add(word: number): void {
		this.a = Math.imul(this.a ^ word, 2654435761);
		this.b = Math.imul(this.b ^ word, 1597334677);
	}
	get value(): number {
		let { a, b } = this;
		a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
		b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
		return 4294967296 * (2097151 & b) + (a >>> 0);
	}
}

/** A text told by 53 bits. */
export function hashOf(text: string): string {
	const stirred = new Stirred();
	for (let i = 0; i < text.length; i++) stirred.add(text.charCodeAt(i));
	return stirred.value.toString(36);
}

/** A path told by the bits of its numbers. */
export function printOfPath({ closed, types, segs }: Path): string {
	const stirred = new Stirred();
	stirred.add(closed ? 1 : 2);
	for (let i = 0; i < types.length; i++) stirred.add(types[i]);
	const words = new Int32Array(segs.buffer, segs.byteOffset, 2 * segs.length);
	for (let i = 0; i < words.length; i++) stirred.add(words[i]);
	return stirred.value.toString(36);
}

/** An anchor's id out of what it was made of: 2^20 to 2^31, so that counted ids stay apart from it. */
export function roleId(role: string): number {
	const stirred = new Stirred();
	for (let i = 0; i < role.length; i++) stirred.add(role.charCodeAt(i));
	return 1_048_576 + (stirred.value % 2_146_000_000);
}

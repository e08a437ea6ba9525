/** The steps of a drawing as they are kept in memory: the last ones as they are, older ones packed into a few bytes each. */
import { joined } from '../bytes';
import type { Change, Step } from './history';

/** Steps packed together. */
const PACK = 64;
/** So many of the last ones are never packed: they are what is taken back. */
const LOOSE = 2 * PACK;

export class KeptSteps {
	private packs: Packed[] = [];
	private loose: Step[];
	/** The pack that was looked into last. */
	private open?: { readonly pack: Packed; readonly steps: readonly Step[] };

	constructor(steps: readonly Step[]) {
		this.loose = [...steps];
	}

	get length(): number {
		return PACK * this.packs.length + this.loose.length;
	}

	/** @param i from 0, below `length`. */
	at(i: number): Step {
		const packed = PACK * this.packs.length;
		return i < packed ? this.opened(Math.floor(i / PACK))[i % PACK] : this.loose[i - packed];
	}

	/** All, or those from one on. */
	from(first = 0): Step[] {
		return Array.from({ length: this.length - first }, (_, k) => this.at(first + k));
	}

	/** A step after the first `count`; what came after those is gone. */
	push(step: Step, count: number): void {
		const whole = Math.floor(count / PACK);
		if (whole < this.packs.length) {
			this.loose = [...this.opened(whole)];
			this.packs.length = whole;
		}
		this.loose.length = count - PACK * this.packs.length;
		this.loose.push(step);
		// One at a time: where many were opened they are packed by and by.
		if (this.loose.length > LOOSE + PACK) this.packs.push(packed(this.loose.splice(0, PACK)));
	}

	/** Another step in the place of one. */
	replace(i: number, step: Step): void {
		const before = PACK * this.packs.length;
		if (i >= before) this.loose[i - before] = step;
		else {
			const pack = Math.floor(i / PACK);
			this.packs[pack] = packed(this.opened(pack).with(i % PACK, step));
		}
	}

	private opened(index: number): readonly Step[] {
		const pack = this.packs[index];
		if (this.open?.pack !== pack) this.open = { pack, steps: unpacked(pack) };
		return this.open.steps;
	}
}

/** Steps as text, and all their rows of numbers one after the other. */
interface Packed {
	readonly text: Uint8Array;
	readonly bytes: Uint8Array;
}

type Row = Uint8Array | Uint32Array | Float64Array;
const KINDS = [Uint8Array, Uint32Array, Float64Array] as const;

/** What text cannot say: a row of numbers by its kind, where its bytes begin and how many numbers; minus nought. */
const ROW = '#';
const MINUS_NOUGHT = '-0';

function packed(steps: readonly Step[]): Packed {
	const parts: Uint8Array[] = [];
	const known = new Map<Row, readonly number[]>();
	let size = 0;
	const rowOf = (row: Row): readonly number[] => {
		let told = known.get(row);
		if (told) return told;
		const bytes = new Uint8Array(row.buffer, row.byteOffset, row.byteLength);
		told = [KINDS.findIndex((kind) => row instanceof kind), size, row.length];
		known.set(row, told);
		parts.push(bytes);
		size += bytes.length;
		return told;
	};
	const names = new Map<string, number>();
	const nameOf = (name: string): number => {
		if (!names.has(name)) names.set(name, names.size);
		return names.get(name)!;
	};
	/** A moved anchor is by far the commonest change: it is told without a word. */
	const told = (c: Change): unknown =>
		c.how === 'splice'
			? [
					nameOf(c.id),
					c.at,
					...[c.before, c.after].flatMap((b) => [
						...[b.anchors, b.points, b.marks].flatMap(rowOf),
						b.nextAnchor,
						b.closed ? 1 : 0
					])
				]
			: c;
	const list = steps.map(({ name, changes }) => [nameOf(name), ...changes.map(told)]);
	const text = JSON.stringify([list, [...names.keys()]], (_, value: unknown) => {
		if (ArrayBuffer.isView(value)) return { [ROW]: rowOf(value as Row) };
		return Object.is(value, -0) ? { [MINUS_NOUGHT]: 0 } : value;
	});
	return { text: new TextEncoder().encode(text), bytes: joined(parts) };
}

function unpacked({ text, bytes }: Packed): Step[] {
	const known = new Map<number, Row>();
	const rowAt = (kind: number, from: number, length: number): Row => {
		const Kind = KINDS[kind];
		// Rows of no length begin where the next one does.
		if (length === 0) return new Kind(0);
		const row = known.get(from) ?? new Kind(bytes.slice(from, from + length * Kind.BYTES_PER_ELEMENT).buffer);
		known.set(from, row);
		return row;
	};
	const [list, names] = JSON.parse(new TextDecoder().decode(text), (_, value: unknown) => {
		if (typeof value !== 'object' || value === null) return value;
		if (ROW in value) return rowAt(...(value[ROW] as [number, number, number]));
		return MINUS_NOUGHT in value ? -0 : value;
	}) as [[number, ...(Change | number[])[]][], string[]];
	return list.map(([name, ...changes]) => ({
		name: names[name],
		changes: changes.map((c): Change => {
			if (!Array.isArray(c)) return c;
			const bits = (i: number) => ({
				anchors: rowAt(c[i], c[i + 1], c[i + 2]) as Uint32Array,
				points: rowAt(c[i + 3], c[i + 4], c[i + 5]) as Float64Array,
				marks: rowAt(c[i + 6], c[i + 7], c[i + 8]) as Uint8Array,
				nextAnchor: c[i + 9],
				closed: c[i + 10] === 1
			});
			return { how: 'splice', id: names[c[0]], at: c[1], before: bits(2), after: bits(13) };
		})
	}));
}

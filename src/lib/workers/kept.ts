/** Lines that a worker has already are not sent to it again: copying a heavy drawing for every edit would hold up the page. */
import type { Path } from '../core/geometry/path';

/** A list of lines on its way: of each the number under which it is kept there, with the line itself the first time. */
export interface Parcel {
	readonly kept: readonly (number | readonly [number, Path])[];
}

const isPath = (value: unknown): value is Path =>
	typeof value === 'object' &&
	value !== null &&
	(value as Path).segs instanceof Float64Array &&
	(value as Path).types instanceof Uint8Array;

const isParcel = (value: unknown): value is Parcel =>
	typeof value === 'object' && value !== null && Array.isArray((value as Parcel).kept);

/** The page's side. Lines are never changed, only replaced, so one that was sent stays what it was. */
export class Sender {
	private readonly numbers = new WeakMap<Path, number>();
	private last = 0;
	private gone: number[] = [];
	private readonly registry = new FinalizationRegistry((number: number) => this.gone.push(number));

	/** Arguments with every list of lines as a parcel. */
	pack(args: readonly unknown[]): unknown[] {
		return args.map((arg) =>
			Array.isArray(arg) && arg.length > 0 && arg.every(isPath)
				? { kept: arg.map((path) => this.numberOf(path)) }
				: arg
		);
	}

	private numberOf(path: Path): number | readonly [number, Path] {
		const known = this.numbers.get(path);
		if (known !== undefined) return known;
		const number = ++this.last;
		this.numbers.set(path, number);
		this.registry.register(path, number);
		return [number, path];
	}

	/** Numbers of lines that nobody has any more, each told once. */
	takeGone(): number[] {
		const list = this.gone;
		this.gone = [];
		return list;
	}
}

/** The worker's side. */
export class Keeper {
	private readonly paths = new Map<number, Path>();

	/** The arguments as they were packed. */
	unpack(args: readonly unknown[]): unknown[] {
		return args.map((arg) => (isParcel(arg) ? arg.kept.map((one) => this.pathOf(one)) : arg));
	}

	private pathOf(one: number | readonly [number, Path]): Path {
		if (typeof one !== 'number') this.paths.set(one[0], one[1]);
		const path = this.paths.get(typeof one === 'number' ? one : one[0]);
		if (!path) throw new Error(`line ${String(one)} was never sent`);
		return path;
	}

	forget(numbers: readonly number[]): void {
		for (const number of numbers) this.paths.delete(number);
	}

	get size(): number {
		return this.paths.size;
	}
}

/** What the workshop has: machines, tools, materials. It begins with a small stock; the person's own are kept in the browser. */
import type { Machine, Material, Tool, Workshop } from '../../core/document/job';
import { done, failed, type Result } from '../../core/errors';
import { readWorkshop, writeWorkshop } from '../../core/formats/workshop-file';
import { STOCK } from '../../core/toolpath/stock';
import { loadWorkshop, storeWorkshop } from '../../storage/workshop';

export type Had = keyof Workshop;
type One<K extends Had> = Workshop[K][number];

class WorkshopStore {
	has = $state.raw<Workshop>(STOCK);
	private loaded: Promise<void> | undefined;

	/** Takes what is kept in this browser, once. */
	load(): Promise<void> {
		return (this.loaded ??= loadWorkshop()
			.then((kept) => {
				if (kept) this.has = kept;
			})
			.catch(() => {
				// What cannot be read stays where it is; the stock serves meanwhile.
				this.loaded = undefined;
			}));
	}

	/** Puts one in the place of the one with its id, or beside the others. */
	async put<K extends Had>(kind: K, one: One<K>): Promise<void> {
		const list = this.has[kind] as readonly (Machine | Tool | Material)[];
		const at = list.findIndex((other) => other.id === one.id);
		await this.keep({ ...this.has, [kind]: at < 0 ? [...list, one] : list.with(at, one) });
	}

	async remove(kind: Had, id: string): Promise<void> {
		await this.keep({
			...this.has,
			[kind]: (this.has[kind] as readonly { id: string }[]).filter((one) => one.id !== id)
		});
	}

	private async keep(workshop: Workshop): Promise<void> {
		this.has = workshop;
		await storeWorkshop(workshop);
	}

	asFile(): Uint8Array {
		return writeWorkshop(this.has);
	}

	/** Takes what a file has: of the same id the file's, beside all others. */
	async bring(bytes: Uint8Array): Promise<Result<number>> {
		const read = readWorkshop(bytes);
		if (!read.ok) return read;
		const merged = <T extends { readonly id: string }>(own: readonly T[], come: readonly T[]): T[] => [
			...own.filter((one) => !come.some((other) => other.id === one.id)),
			...come
		];
		const { machines, tools, materials } = read.value;
		const count = machines.length + tools.length + materials.length;
		if (count === 0) return failed('nothing-in-it', 'There is no machine, tool or material in this file.');
		await this.keep({
			machines: merged(this.has.machines, machines),
			tools: merged(this.has.tools, tools),
			materials: merged(this.has.materials, materials)
		});
		return done(count);
	}
}

export const workshop = new WorkshopStore();

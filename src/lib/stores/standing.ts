/** Holes made pieces, and islands holes, by a person's word. */
import { isFollower } from '../core/document/graph';
import { isClosed, lineOf, type Outline } from '../core/document/outline';
import { shown } from '../core/document/output';
import { nestPaths } from '../core/plane/pieces';
import type { Bench } from './bench.svelte';

/** Outlines become the other of hole and piece than their place says, or what it says again. */
export function turnStanding(bench: Bench, outlines: readonly Outline[]): void {
	const all = shown(bench.drawing).filter((o) => isClosed(o) && !isFollower(o));
	const nesting = nestPaths(all.map(lineOf));
	const put = outlines.flatMap((outline): Outline[] => {
		const { standing, ...rest } = outline;
		if (standing) return [rest];
		const { parent, depth } = nesting[all.indexOf(outline)] ?? {};
		if (parent === undefined || depth === undefined) return [];
		return [{ ...rest, standing: depth % 2 ? 'piece' : 'hole' }];
	});
	if (put.length === 0) {
		bench.tell('It lies in no other outline: it is a piece.');
		return;
	}
	const [{ standing, name }] = put;
	if (!bench.commit(standing ? `Make it a ${standing}` : 'As its place says', { put })) return;
	bench.tell(
		standing
			? `${put.length === 1 ? `"${name}" is` : `${put.length} outlines are`} taken for a ${standing} from now on, wherever ${put.length === 1 ? 'it lies' : 'they lie'}.`
			: 'Its place says again whether it is a hole or a piece.'
	);
}

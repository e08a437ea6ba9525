/** Lines that are made beside others while both go out: usually only one of the two is meant to be cut. */
import { isFollower } from '../document/graph';
import { formatLength } from '../units';
import type { Fault } from './fault';
import type { Checked } from './checked';

/** Kinds of which usually either the line or what it is made from is cut. */
const INSTEAD: readonly string[] = ['offset', 'allowance'];

/** One for each line that is made beside one that is cut too; worth knowing, and no reason not to cut. */
export function bothCutFaults({ outlines, paths, purposes }: Checked): Fault[] {
	const index = new Map(outlines.map((o, i) => [o.id, i]));
	return outlines.flatMap((outline, i): Fault[] => {
		const { recipe } = outline;
		if (!recipe || !isFollower(outline) || !INSTEAD.includes(recipe.kind) || purposes[i] !== 'cut') return [];
		if ((recipe.part ?? '').match(/\./)) return [];
		const source = recipe.inputs.map(({ record }) => index.get(record)).find((k) => k !== undefined);
		if (source === undefined || purposes[source] !== 'cut' || paths[i].types.length === 0) return [];
		const settings = recipe.settings as { readonly distance?: number; readonly width?: number };
		const apart = settings.distance ?? settings.width;
		const far = apart === undefined ? 'beside each other' : `${formatLength(apart, 'mm')} apart`;
		return [
			{
				kind: 'both-cut',
				outline: i,
				other: source,
				x: paths[i].segs[0],
				y: paths[i].segs[1],
				why: `"${outlines[source].name}" and "${outline.name}" would both be cut, ${far}. Hide the one that is not meant, or put it on a layer that is not cut.`,
				mend: 'none',
				stops: false
			}
		];
	});
}

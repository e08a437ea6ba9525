/** Crossings among outlines that one tone or one colour's rim was traced as. */
import { pathCrossings } from '../../src/lib/core/plane/crossings';
import type { Trace } from '../../src/lib/core/trace/trace';

/** How often outlines cross themselves or each other; of levels and of colours, those of the same fill. */
export function crossedOf({ paths, fills }: Pick<Trace, 'paths' | 'fills'>): number {
	const groups = new Map<string, (typeof paths)[number][]>();
	paths.forEach((path, i) => {
		const fill = fills?.[i] ?? '';
		groups.set(fill, [...(groups.get(fill) ?? []), path]);
	});
	return [...groups.values()].reduce(
		(sum, list) => sum + pathCrossings(list).filter((c) => c.through).length,
		0
	);
}

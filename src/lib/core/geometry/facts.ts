/** What is told of lines that are picked. */
import { finish } from '../progress';
import { anchorCount, pathArea, pathLength, tightestRadius } from './measure';
import type { Path } from './path';

export interface LineFacts {
	/** mm, of all together. */
	readonly length: number;
	/** mm², the sum of what each encloses; undefined where one is open. */
	readonly area: number | undefined;
	readonly anchors: number;
	/** mm, of the tightest bend; Infinity where there is none. */
	readonly tightest: number;
}

export const factsOf = (paths: readonly Path[]): LineFacts => finish(factSteps(paths));

/** The same, telling how far it has come (0 to 1). */
export function* factSteps(paths: readonly Path[]): Generator<number, LineFacts> {
	let length = 0;
	let area = 0;
	let anchors = 0;
	let tightest = Infinity;
	for (const [i, path] of paths.entries()) {
		yield i / paths.length;
		length += pathLength(path);
		if (path.closed) area += Math.abs(pathArea(path));
		anchors += anchorCount(path);
		tightest = Math.min(tightest, tightestRadius(path).radius);
	}
	return { length, area: paths.every((path) => path.closed) ? area : undefined, anchors, tightest };
}

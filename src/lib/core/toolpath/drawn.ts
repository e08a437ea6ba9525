/** Moves as lines in the plane: to be shown, and to make outlines of a machine's file. */
import { PathBuilder, transformPath, type Path } from '../geometry/path';
import { FEED, moveStart, type Toolpath } from './moves';

export interface DrawnMoves {
	/** Where the tool works, each run of moves once: passes over the same way are one line. */
	readonly cuts: readonly Path[];
	/** The ways between. */
	readonly travel: readonly Path[];
}

/** mm: a run that ends so near to its start is closed. */
const CLOSES = 2e-3;

/**
 * The lines that a tool goes along, seen from above; moves straight up and down are none.
 * @param x mm that the lines are moved by, so that they lie where the sheet lies.
 */
export function drawnMoves(path: Toolpath, x = 0, y = 0): DrawnMoves {
	const runs: { readonly isCut: boolean; readonly builder: PathBuilder; readonly key: string[] }[] = [];
	const from = [0, 0, 0];
	let run: (typeof runs)[number] | undefined;
	for (let i = 0; i < path.kinds.length; i++) {
		const [x0, y0, z0] = moveStart(path, i, from);
		const [x1, y1, z1] = [path.to[3 * i], path.to[3 * i + 1], path.to[3 * i + 2]];
		if (x0 === x1 && y0 === y1) {
			// Down to the next pass: a run of its own.
			if (z1 !== z0) run = undefined;
			continue;
		}
		const isCut = path.kinds[i] === FEED && path.on[i] === 1;
		if (!run || run.isCut !== isCut || run.builder.endX !== x0 || run.builder.endY !== y0) {
			run = { isCut, builder: new PathBuilder(x0, y0), key: [] };
			runs.push(run);
		}
		run.builder.arc(path.bulges[i], x1, y1);
		run.key.push(`${x1.toFixed(3)} ${y1.toFixed(3)} ${path.bulges[i].toFixed(4)}`);
	}
	const seen = new Set<string>();
	const lines = (isCut: boolean) =>
		runs.flatMap(({ builder, key, isCut: own }) => {
			if (own !== isCut || builder.count === 0) return [];
			const name = key.join();
			if (isCut && seen.has(name)) return [];
			seen.add(name);
			const open = builder.open();
			const gap = Math.hypot(builder.endX - open.segs[0], builder.endY - open.segs[1]);
			const line = isCut && builder.count > 1 && gap < CLOSES ? builder.close(CLOSES) : open;
			return [transformPath(line, [1, 0, 0, 1, x, y])];
		});
	return { cuts: lines(true), travel: lines(false) };
}

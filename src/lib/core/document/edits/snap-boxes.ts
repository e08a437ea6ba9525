/** What a dragged thing catches on: edges and middles of others, guides, and gaps as wide as those beside it. */
import type { Box } from '../../geometry/segment';
import type { GuideLine, SnapKind } from './snap';

export interface BoxSnap {
	/** mm that the dragged thing goes on, so that it lies there. */
	readonly right: number;
	readonly up: number;
	/** Lines by which it lies, and what they are. */
	readonly lines: readonly GuideLine[];
	readonly kinds: readonly SnapKind[];
}

/** One direction of a box: from its least to its most, and where it lies in the other. */
interface Span {
	readonly least: number;
	readonly most: number;
	readonly from: number;
	readonly to: number;
}
const across = ({ x0, x1, y0, y1 }: Box): Span => ({ least: x0, most: x1, from: y0, to: y1 });
const upward = ({ x0, x1, y0, y1 }: Box): Span => ({ least: y0, most: y1, from: x0, to: x1 });
const middle = ({ least, most }: Pick<Span, 'least' | 'most'>) => (least + most) / 2;

interface Caught {
	readonly by: number;
	/** Where the line is by which it lies. */
	readonly at: number;
	readonly kind: SnapKind;
}

/** The nearest of what one direction could catch on; edges and middles before gaps. */
function caught(
	own: Span,
	others: readonly Span[],
	lines: readonly number[],
	reach: number
): Caught | undefined {
	let best: Caught | undefined;
	const offer = (by: number, at: number, kind: SnapKind) => {
		if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by) - 1e-9)) best = { by, at, kind };
	};
	for (const other of others) {
		for (const edge of [other.least, other.most]) {
			offer(edge - own.least, edge, 'edges');
			offer(edge - own.most, edge, 'edges');
		}
		offer(middle(other) - middle(own), middle(other), 'middles');
	}
	for (const line of lines) {
		for (const edge of [own.least, own.most]) offer(line - edge, line, 'guide');
		offer(line - middle(own), line, 'guide');
	}
	// Those in the same row, from the least on: gaps between neighbours are taken over, or halved by what comes between.
	const row = others
		.filter(({ from, to }) => from < own.to && to > own.from)
		.sort((a, b) => a.least - b.least);
	for (let i = 0; i + 1 < row.length; i++) {
		const [a, b] = [row[i], row[i + 1]];
		const gap = b.least - a.most;
		if (!(gap > 0)) continue;
		offer(b.most + gap - own.least, b.most + gap, 'equal gaps');
		offer(a.least - gap - own.most, a.least - gap, 'equal gaps');
		if (gap > own.most - own.least) {
			const centre = (a.most + b.least) / 2;
			offer(centre - middle(own), centre, 'equal gaps');
		}
	}
	return best;
}

/**
 * How far a thing in a box goes on to lie by others.
 * @param reach mm: what is farther off is left alone.
 */
export function snapBox(
	box: Box,
	others: readonly Box[],
	guides: readonly GuideLine[],
	reach: number
): BoxSnap {
	const plumb = guides.filter(({ angle }) => Math.abs(angle) === 90).map(({ x }) => x);
	const level = guides.filter(({ angle }) => angle % 180 === 0).map(({ y }) => y);
	const x = caught(across(box), others.map(across), plumb, reach);
	const y = caught(upward(box), others.map(upward), level, reach);
	return {
		right: x?.by ?? 0,
		up: y?.by ?? 0,
		lines: [
			...(x ? [{ x: x.at, y: middle(upward(box)) + (y?.by ?? 0), angle: 90 }] : []),
			...(y ? [{ x: middle(across(box)) + (x?.by ?? 0), y: y.at, angle: 0 }] : [])
		],
		kinds: [...new Set([x?.kind, y?.kind].filter((kind) => kind !== undefined))]
	};
}

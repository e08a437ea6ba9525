/** What mends a fault that the readiness check has found. */
import { CRUMB_SIZE, END_GAP, type Fault } from './fault';
import { withoutOverlaps } from './overlaps';
import { smoothedLine } from './roughness';
import { PathBuilder, STRIDE, type Path } from '../geometry/path';
import { mergeStraights } from '../geometry/straights';
import type { Drawing } from '../document/drawing';
import type { Edit } from '../document/history';
import { removeOutlines, replaceLines, type NewId } from '../document/edits/operations';
import { lineOf, replaceLine, type Outline } from '../document/outline';
import { closeOutline, joinOutlines, replaceBy } from '../document/edits/structure';
import { joinEnds } from '../geometry/join';

/**
 * What mends a fault, as an edit; undefined where a person must decide.
 * @param outlines the outlines that were checked, in the order in which they were.
 */
export function mendFault(
	drawing: Drawing,
	fault: Fault,
	outlines: readonly Outline[],
	newId: NewId,
	gap = END_GAP
): Edit | undefined {
	const outline = fault.outline === undefined ? undefined : outlines[fault.outline];
	if (!outline || !drawing.records.has(outline.id)) return undefined;
	if (fault.mend === 'remove') return removeOutlines(drawing, new Set([outline.id]));
	if (fault.mend === 'join-lines') {
		const chain = (fault.chain ?? []).map((i) => outlines[i]);
		return joinOutlines(drawing, chain, joinEnds(chain.map(lineOf), gap));
	}
	if (fault.mend === 'bridge-lines') {
		const chain = (fault.chain ?? []).map((i) => outlines[i]);
		const paths = chain.map(lineOf);
		return joinOutlines(drawing, chain, joinEnds(paths, apartAtEnds(paths[0], paths[1]), true));
	}
	const path = lineOf(outline);
	if (fault.mend === 'join-ends') return { put: [closeOutline(outline, gap)] };
	if (fault.mend === 'close') return { put: [closeOutline(outline)] };
	if (fault.mend === 'take-spikes' || fault.mend === 'fair' || fault.mend === 'thin')
		return replaceLines(drawing, new Map([[outline.id, smoothedLine(path, fault.mend)]]), newId);
	if (fault.mend === 'take-overlap') {
		const other = fault.other === undefined ? undefined : outlines[fault.other];
		return other && replaceBy(drawing, outline, withoutOverlaps(path, lineOf(other), CRUMB_SIZE), newId);
	}
	if (fault.mend === 'remove-segments') return { put: [replaceLine(outline, withoutZeroSegments(path))] };
	return undefined;
}

/** mm between the nearest ends of two lines, and a hair. */
function apartAtEnds(a: Path, b: Path): number {
	const ends = ({ segs }: Path) => [
		[segs[0], segs[1]],
		[segs[segs.length - 2], segs[segs.length - 1]]
	];
	const all = ends(a).flatMap(([x, y]) => ends(b).map(([u, v]) => Math.hypot(u - x, v - y)));
	return Math.min(...all) * (1 + 1e-9) + 1e-9;
}

/** The path without segments whose ends and handles lie on one place. */
export function withoutZeroSegments(path: Path): Path {
	const s = path.segs;
	const near = 1e-5;
	const keep = Array.from(path.types, (_, i) => {
		const at = STRIDE * i;
		const spread = Math.max(
			...[2, 4, 6].map((k) =>
				path.types[i] === 2 && k < 6 ? 0 : Math.hypot(s[at + k] - s[at], s[at + k + 1] - s[at + 1])
			)
		);
		return spread > near;
	});
	if (keep.every(Boolean)) return path;
	const first = keep.indexOf(true);
	if (first < 0) return path;
	const builder = new PathBuilder(s[STRIDE * first], s[STRIDE * first + 1]);
	keep.forEach((kept, i) => {
		if (kept) builder.segment(path.types[i], s, STRIDE * i);
	});
	return mergeStraights(path.closed ? builder.close(10 * near) : builder.open());
}

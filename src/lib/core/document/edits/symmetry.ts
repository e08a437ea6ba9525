/** Lines made symmetrical: one half is kept and drawn, the other follows; the axis moved; made plain. */
import { CoreError } from '../../errors';
import { breakAt, meetingPlaces } from '../../geometry/join';
import { CUBIC, PathBuilder, STRIDE, type Path } from '../../geometry/path';
import { boxOf } from '../../geometry/pick';
import { setKind } from './anchors';
import { footOn, sideOf, type Half } from '../half';
import { keptToAxis } from '../kept-to-axis';
import {
	lineOf,
	madePlain,
	MARK_STRIDE,
	ANCHOR_STRIDE,
	replaceLine,
	sourceLine,
	type Outline
} from '../outline';

/** Which side of the axis is drawn by hand: to the left of its direction, or to the right. */
export type KeptSide = 'left' | 'right';
/** How the line goes over the axis: smoothly where it stands nearly upright on it, everywhere, or nowhere. */
export type AxisJoint = 'by angle' | 'smooth' | 'corner';

/** mm: an end this near to the axis is put on it; one farther off gets a straight to it. */
const ON_AXIS = 2;
/** Degrees off the upright up to which an end is taken to go smoothly over the axis. */
const NEAR_UPRIGHT = 25;

/** A straight along the axis that goes beyond a path on both sides. */
function axisLine(path: Path, half: Half): Path {
	const { x0, y0, x1, y1 } = boxOf(path);
	const far = Math.hypot(x1 - x0, y1 - y0) + Math.hypot((x0 + x1) / 2 - half.x, (y0 + y1) / 2 - half.y) + 10;
	const rad = (half.angle * Math.PI) / 180;
	const [dx, dy] = [far * Math.cos(rad), far * Math.sin(rad)];
	return new PathBuilder(half.x - dx, half.y - dy).line(half.x + dx, half.y + dy).open();
}

/** How far a path lies on the kept side at most, and on the other, mm. */
function reachOf(path: Path, half: Half, side: KeptSide): { kept: number; other: number } {
	const sign = side === 'left' ? 1 : -1;
	let kept = 0;
	let other = 0;
	for (let i = 0; i < path.segs.length; i += 2) {
		if (path.types[i >> 3] !== CUBIC && i % STRIDE !== 0 && i % STRIDE !== 6) continue;
		const off = sign * sideOf(half, path.segs[i], path.segs[i + 1]);
		kept = Math.max(kept, off);
		other = Math.max(other, -off);
	}
	return { kept, other };
}

/**
 * The part of a line that lies on the kept side of the axis, its ends on it.
 * @throws CoreError `no-half` where there is no such part in one piece.
 */
function keptPart(path: Path, half: Half, side: KeptSide): Path {
	const places = meetingPlaces(path, [axisLine(path, half)]);
	const n = path.types.length;
	const parts = breakAt(
		path,
		places.map((k) => ({ segment: Math.min(n - 1, Math.floor(k)), t: k - Math.min(n - 1, Math.floor(k)) }))
	);
	const here = parts.filter((part) => {
		const { kept, other } = reachOf(part, half, side);
		return kept > other;
	});
	if (path.closed && places.length < 2)
		throw new CoreError(
			'no-half',
			'The axis does not go through this outline: put it where the halves are to meet.'
		);
	if (here.length === 0) throw new CoreError('no-half', 'On that side of the axis there is nothing of it.');
	if (here.length > 1)
		throw new CoreError(
			'no-half',
			`The axis parts this line into ${here.length} pieces on that side; a half is one piece. Move the axis, or turn it.`
		);
	return here[0];
}

/** A path with a straight to the axis at each end that lies far from it. */
function ledToAxis(path: Path, half: Half): Path {
	const { segs, types } = path;
	const end = segs.slice(-2);
	const first = footOn(half, segs[0], segs[1]);
	const last = footOn(half, end[0], end[1]);
	const isFar = (x: number, y: number) => Math.abs(sideOf(half, x, y)) > ON_AXIS;
	const startFar = isFar(segs[0], segs[1]);
	const builder = startFar
		? new PathBuilder(first.x, first.y).line(segs[0], segs[1])
		: new PathBuilder(segs[0], segs[1]);
	for (let i = 0; i < types.length; i++) builder.segment(types[i], segs, STRIDE * i);
	if (isFar(end[0], end[1])) builder.line(last.x, last.y);
	return builder.open();
}

/**
 * An outline of which one half is drawn from now on. Of a closed one the half on the kept side stays; an open one is the half
 * as it is, but for what of it lies beyond the axis.
 * @throws CoreError `no-half`
 */
export function madeSymmetrical(
	outline: Outline,
	half: Half,
	side: KeptSide,
	joint: AxisJoint = 'by angle'
): Outline {
	const path = lineOf(outline);
	const part = ledToAxis(keptPart(path, half, side), half);
	const made = replaceLine(madePlain(outline), part);
	const n = made.anchors.length;
	const smooth = [0, n - 1].filter((i) => isSmooth(made, i, half, joint)).map((i) => made.anchors[i]);
	return keptToAxis({ ...setKind(made, new Set(smooth), 'smooth'), half });
}

/** Whether the line goes smoothly over the axis at one of its ends. */
function isSmooth(outline: Outline, i: number, half: Half, joint: AxisJoint): boolean {
	if (joint !== 'by angle') return joint === 'smooth';
	// An arc stays an arc, and a straight a straight.
	if (outline.marks[MARK_STRIDE * (i === 0 ? 0 : i - 1) + 1] !== CUBIC) return false;
	const at = ANCHOR_STRIDE * i;
	const h = at + (i === 0 ? 4 : 2);
	const p = outline.points;
	const [dx, dy] = [p[h] - p[at], p[h + 1] - p[at + 1]];
	if (Math.hypot(dx, dy) < 1e-9) return false;
	const rad = (half.angle * Math.PI) / 180;
	const upright = Math.abs(dy * Math.cos(rad) - dx * Math.sin(rad)) / Math.hypot(dx, dy);
	return upright > Math.cos((NEAR_UPRIGHT * Math.PI) / 180);
}

/** The half with another axis: it stays where it is, and its ends go to the axis. */
export const withAxis = (outline: Outline, half: Half): Outline => keptToAxis({ ...outline, half });

/** On which side of its axis the drawn half lies. */
export function sideDrawn(outline: Outline, half: Half): KeptSide {
	const { kept, other } = reachOf(sourceLine(outline), half, 'left');
	return kept >= other ? 'left' : 'right';
}

/** A half with a new whole line: the same half of it, so that the other goes on following; plain where that cannot be. */
export function symmetricalAgain(outline: Outline, path: Path, reach: number): Outline {
	const { half } = outline;
	const made = replaceLine(madePlain(outline), path, { reach });
	if (!half) return made;
	try {
		return madeSymmetrical(made, half, sideDrawn(outline, half));
	} catch {
		return made;
	}
}

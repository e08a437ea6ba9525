/** An outline as what can be moved of it: its anchors, handles, and one place in the middle of each arc. */
import { bulgeThrough } from '../../geometry/arc';
import { ARC, CUBIC, PathBuilder, STRIDE, type Path } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { pointAt } from '../../geometry/segment';

export interface Places {
	readonly x: Float64Array;
	readonly y: Float64Array;
	/** Of every segment its places in order, both anchors among them. */
	readonly of: readonly (readonly number[])[];
}

/** @param path closed. */
export function placesOf({ types, segs }: Path): Places {
	const x: number[] = [];
	const y: number[] = [];
	const add = (p: Point) => {
		x.push(p.x);
		y.push(p.y);
		return x.length - 1;
	};
	const of: number[][] = [];
	for (let k = 0; k < types.length; k++) {
		const at = STRIDE * k;
		const place = (i: number) => add({ x: segs[at + 2 * i], y: segs[at + 2 * i + 1] });
		if (types[k] === CUBIC) of.push([place(0), place(1), place(2)]);
		else if (types[k] === ARC) of.push([place(0), add(pointAt(ARC, segs, at, 0.5))]);
		else of.push([place(0)]);
	}
	of.forEach((own, k) => own.push(of[(k + 1) % of.length][0]));
	return { x: Float64Array.from(x), y: Float64Array.from(y), of };
}

/** The outline through the places, its segments of the kinds given; undefined where one would have no length. */
export function through(types: Uint8Array, { x, y, of }: Places): Path | undefined {
	const at = (k: number): Point => ({ x: x[k], y: y[k] });
	const builder = new PathBuilder(x[of[0][0]], y[of[0][0]]);
	of.forEach((own, k) => {
		const end = own[own.length - 1];
		if (types[k] === CUBIC) builder.cubic(x[own[1]], y[own[1]], x[own[2]], y[own[2]], x[end], y[end]);
		else if (types[k] === ARC)
			builder.arc(bulgeThrough(at(own[0]), at(own[1]), at(end)) || FLAT, x[end], y[end]);
		else builder.line(x[end], y[end]);
	});
	const path = builder.close(1e-9);
	return path.types.length === types.length ? path : undefined;
}
/** The bulge of an arc that has none: it stays one. */
const FLAT = 1e-6;

/** Lines as what can be moved of them: their anchors, handles, and one place in the middle of each arc. */
import { bulgeThrough } from '../../geometry/arc';
import { ARC, CUBIC, STRIDE } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { pointAt } from '../../geometry/segment';
import { courseOf, type Net } from './net';

export interface Places {
	readonly x: Float64Array;
	readonly y: Float64Array;
	/** Of every segment its places in order, both anchors among them. Lines that meet in a junction share its place. */
	readonly of: readonly (readonly number[])[];
}

export function placesOf(net: Net): Places {
	const { types, segs } = net;
	const { before, after } = courseOf(net);
	const x: number[] = [];
	const y: number[] = [];
	const add = (p: Point) => {
		x.push(p.x);
		y.push(p.y);
		return x.length - 1;
	};
	const atJunction = new Map<number, number>();
	/** The place of a junction, which is where the first line has it. */
	const junction = (code: number, p: Point) => {
		const known = atJunction.get(code) ?? add(p);
		atJunction.set(code, known);
		return known;
	};
	const of: number[][] = [];
	for (let k = 0; k < types.length; k++) {
		const at = STRIDE * k;
		const own = (i: number): Point => ({ x: segs[at + 2 * i], y: segs[at + 2 * i + 1] });
		const first = before[k] < 0 ? junction(before[k], own(0)) : add(own(0));
		if (types[k] === CUBIC) of.push([first, add(own(1)), add(own(2))]);
		else if (types[k] === ARC) of.push([first, add(pointAt(ARC, segs, at, 0.5))]);
		else of.push([first]);
	}
	of.forEach((own, k) => {
		const at = STRIDE * k + 6;
		own.push(after[k] < 0 ? junction(after[k], { x: segs[at], y: segs[at + 1] }) : of[after[k]][0]);
	});
	return { x: Float64Array.from(x), y: Float64Array.from(y), of };
}

/** The lines through the places, their segments of the same kinds; undefined where one would have no length. */
export function through({ types, lines }: Net, { x, y, of }: Places): Net | undefined {
	const segs = new Float64Array(STRIDE * types.length);
	const at = (k: number): Point => ({ x: x[k], y: y[k] });
	for (const [k, own] of of.entries()) {
		const [first, last] = [own[0], own[own.length - 1]];
		const from = STRIDE * k;
		if (x[first] === x[last] && y[first] === y[last] && types[k] !== CUBIC) return undefined;
		segs.set([x[first], y[first]], from);
		segs.set([x[last], y[last]], from + 6);
		if (types[k] === CUBIC) segs.set([x[own[1]], y[own[1]], x[own[2]], y[own[2]]], from + 2);
		else if (types[k] === ARC) segs[from + 2] = bulgeThrough(at(first), at(own[1]), at(last)) || FLAT;
	}
	return { types, segs, lines };
}
/** The bulge of an arc that has none: it stays one. */
const FLAT = 1e-6;

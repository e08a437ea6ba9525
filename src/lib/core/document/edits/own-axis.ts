/** The axis about which a closed line is most nearly its own mirror image. */
import { mirrorAt, placed } from '../../geometry/maps';
import { pathBox, pathLength } from '../../geometry/measure';
import { placeAtLength } from '../../geometry/join';
import { STRIDE, type Path } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import type { Point } from '../../geometry/point';
import { pointAt } from '../../geometry/segment';
import type { Half } from '../half';

/** Places at which the two sides are compared. */
const LOOKS = 90;
/** Degrees between the directions that are tried first. */
const STEP = 6;

/** Sought by directions through the middle first, the best of them then turned and moved by ever smaller steps. */
export function ownAxis(path: Path): Half {
	const long = pathLength(path);
	const places = Array.from({ length: LOOKS }, (_, k): Point => {
		const at = placeAtLength(path, (long * k) / LOOKS);
		const i = Math.min(path.types.length - 1, Math.floor(at));
		return pointAt(path.types[i], path.segs, STRIDE * i, at - i);
	});
	const middle = {
		x: places.reduce((sum, p) => sum + p.x, 0) / LOOKS,
		y: places.reduce((sum, p) => sum + p.y, 0) / LOOKS
	};
	const { x0, y0, x1, y1 } = pathBox(path);
	const size = Math.hypot(x1 - x0, y1 - y0);
	/** Mean square distance of the mirrored places from the line. */
	const off = (angle: number, aside: number): number => {
		const map = mirrorAt(angle, ...across(angle, aside));
		return places.reduce((sum, p) => {
			const q = placed(map, p.x, p.y);
			const near = nearestOnPath(path, q.x, q.y, Infinity);
			return sum + (near?.distance ?? size) ** 2;
		}, 0);
	};
	const across = (angle: number, aside: number): [number, number] => {
		const rad = (angle * Math.PI) / 180;
		return [middle.x - aside * Math.sin(rad), middle.y + aside * Math.cos(rad)];
	};
	let [angle, aside] = [90, 0];
	let least = off(90, 0);
	for (let a = 0; a < 180; a += STEP) {
		const now = off(a, 0);
		// Upright where it does not matter.
		if (now < least * 0.999) [least, angle] = [now, a];
	}
	for (let [da, ds] = [STEP / 2, size / 20]; da > 1e-4; [da, ds] = [da / 2, ds / 2]) {
		for (let isBetter = true; isBetter;) {
			isBetter = false;
			for (const [a, s] of [
				[angle + da, aside],
				[angle - da, aside],
				[angle, aside + ds],
				[angle, aside - ds]
			]) {
				const now = off(a, s);
				if (now >= least * (1 - 1e-6)) continue;
				[least, angle, aside] = [now, a, s];
				isBetter = true;
			}
		}
	}
	const [x, y] = across(angle, aside);
	return { x, y, angle };
}

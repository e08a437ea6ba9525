/** Marks of holds: a small stitched patch beside what is held, with a sign of its kind and its value. */
import type { HoldKind } from '../core/document/holds/hold';
import type { Point } from '../core/geometry/point';
import { doubleEdge, labelAt, type MarkScene } from './marks';
import { toScreen } from './view';

export interface HoldMark {
	readonly kind: HoldKind;
	/** What is held lies between these two; at one place where they are the same. */
	readonly a: Point;
	readonly b: Point;
	readonly text?: string;
	/** It cannot be kept with others. */
	readonly isTrouble: boolean;
}

/** Signs as rows of places in a square from -1 to 1, y down. */
const SIGNS: Readonly<Record<HoldKind, readonly (readonly number[])[]>> = {
	pin: [[-0.7, -0.8, 0.7, -0.8, 0, 0.9, -0.7, -0.8]],
	level: [[-1, 0, 1, 0]],
	plumb: [[0, -1, 0, 1]],
	angle: [[0.9, 0.7, -0.9, 0.7, 0.6, -0.8]],
	length: [
		[-0.9, -0.5, -0.9, 0.5],
		[-0.9, 0, 0.9, 0],
		[0.9, -0.5, 0.9, 0.5]
	],
	radius: [
		[-0.8, 0.8, -0.8, 0, -0.5, -0.5, 0, -0.8, 0.8, -0.8],
		[0.8, 0.8, -0.3, -0.4]
	],
	parallel: [
		[-0.8, 0.8, -0.1, -0.8],
		[0.1, 0.8, 0.8, -0.8]
	],
	square: [[-0.7, -0.9, -0.7, 0.7, 0.9, 0.7]],
	equal: [
		[-0.8, -0.4, 0.8, -0.4],
		[-0.8, 0.4, 0.8, 0.4]
	],
	'in line': [
		[-1, 0.4, -0.5, 0.2],
		[-0.2, 0.1, 0.2, -0.1],
		[0.5, -0.2, 1, -0.4]
	],
	middle: [
		[-1, 0, 1, 0],
		[0, -0.7, 0, 0.7]
	],
	share: [
		[-1, 0, 1, 0],
		[-0.35, -0.7, -0.35, 0.7]
	],
	'on guide': [
		[-1, 0.8, 1, -0.8],
		[-0.4, -0.4, 0.4, 0.4]
	],
	'along guide': [
		[-1, 0.8, 1, -0.2],
		[-1, 0.1, -0.4, -0.2],
		[0, -0.4, 0.6, -0.7]
	],
	tangent: [
		[-1, -0.7, 1, -0.7],
		[-0.7, 0.2, -0.4, -0.5, 0, -0.65, 0.4, -0.5, 0.7, 0.2, 0.4, 0.8, -0.4, 0.8, -0.7, 0.2]
	],
	'equal radius': [
		[-0.9, 0.8, -0.9, 0, -0.6, -0.6, 0, -0.9],
		[0, 0.9, 0, 0.2, 0.3, -0.3, 0.9, -0.5]
	],
	'meets in direction': [
		[-1, 0.6, -0.5, 0, 0, 0, 0.5, 0, 1, -0.6],
		[0, -0.6, 0, 0.6]
	],
	'meets in curvature': [
		[-1, 0.8, -0.7, -0.1, 0, -0.5, 0.7, -0.1, 1, 0.8],
		[0, -1, 0, 0]
	],
	seams: [
		[-1, -0.5, -0.3, -0.8, 0.3, -0.8, 1, -0.5],
		[-1, 0.5, -0.3, 0.8, 0.3, 0.8, 1, 0.5],
		[-0.3, -0.8, -0.3, 0.8],
		[0.3, -0.8, 0.3, 0.8]
	]
};
/** px */
const SIZE = 5;
const ASIDE = 15;

export function drawHolds(c: CanvasRenderingContext2D, scene: MarkScene, holds: readonly HoldMark[]): void {
	const { view, size, palette } = scene;
	/** Several at one place lie beside each other. */
	const taken = new Map<string, number>();
	for (const { kind, a, b, text, isTrouble } of holds) {
		const [p, q] = [toScreen(view, size, a.x, a.y), toScreen(view, size, b.x, b.y)];
		const long = Math.hypot(q.x - p.x, q.y - p.y);
		const [nx, ny] = long > 0 ? [(q.y - p.y) / long, -(q.x - p.x) / long] : [0.7, -0.7];
		const key = `${Math.round(p.x + q.x)} ${Math.round(p.y + q.y)}`;
		const count = taken.get(key) ?? 0;
		taken.set(key, count + 1);
		const along = long > 0 ? [(q.x - p.x) / long, (q.y - p.y) / long] : [1, 0];
		const x = (p.x + q.x) / 2 + nx * ASIDE + along[0] * 20 * count;
		const y = (p.y + q.y) / 2 + ny * ASIDE + along[1] * 20 * count;
		const colour = isTrouble ? palette.rust : palette.weld;
		c.fillStyle = palette.paper;
		c.fillRect(x - 8, y - 8, 16, 16);
		c.strokeStyle = colour;
		c.lineWidth = isTrouble ? 2 : 1;
		c.setLineDash(isTrouble ? [] : [2, 2]);
		c.strokeRect(x - 8, y - 8, 16, 16);
		c.setLineDash([]);
		doubleEdge(c, palette, colour, 1.6, () => {
			for (const row of SIGNS[kind])
				for (let i = 0; i < row.length; i += 2) {
					const [u, v] = [x + SIZE * row[i], y + SIZE * row[i + 1]];
					if (i) c.lineTo(u, v);
					else c.moveTo(u, v);
				}
		});
		if (text !== undefined) labelAt(c, palette, text, x + 12, y + 4, colour);
	}
}

/** An anchor that is held fast: sewn on by a ring of stitches. Those that can still move have none. */
export function drawFast(
	c: CanvasRenderingContext2D,
	{ view, size, palette }: MarkScene,
	x: number,
	y: number
): void {
	const p = toScreen(view, size, x, y);
	c.setLineDash([3, 2.5]);
	doubleEdge(c, palette, palette.weld, 1.4, () => c.arc(p.x, p.y, 8.5, 0, 2 * Math.PI));
	c.setLineDash([]);
}

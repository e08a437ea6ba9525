/** The curvature comb: teeth square to the line, as long as it bends; steps, inflections and the tightest place marked. */
import type { Point } from '../core/geometry/point';
import type { LengthUnit } from '../core/document/drawing';
import { TOOTH, type Comb, type TightStretch } from '../core/geometry/comb';
import { formatLength } from '../core/units';
import { labelAt, type MarkScene } from './marks';
import { toScreen } from './view';

/** How a comb is shown. */
export interface CombLook {
	/** px a unit of curvature. */
	readonly gain: number;
	/** What is marked beside them. */
	readonly marks: { readonly inflections: boolean; readonly steps: boolean; readonly tightest: boolean };
	/** Where the lines bend more tightly than the tool. */
	readonly tight: readonly TightStretch[];
}

/** px: how long the longest tooth is while nobody has dragged one. */
export const COMB_PX = 70;
/** px between teeth, at least. */
const APART_PX = 6;

/** px a unit of curvature: the largest is `COMB_PX` long, or as dragged. */
export function combGain(most: number, stretch: number): number {
	return most > 0 ? (COMB_PX * stretch) / most : 0;
}

/** Where the ends of the teeth are, px of the window. */
export function combTips(scene: Pick<MarkScene, 'view' | 'size'>, comb: Comb, gain: number): Float64Array {
	const n = comb.teeth.length / TOOTH;
	const out = new Float64Array(2 * n);
	for (let i = 0; i < n; i++) {
		const at = TOOTH * i;
		const t = comb.teeth;
		const p = toScreen(scene.view, scene.size, t[at], t[at + 1]);
		// Teeth stand on the outer side of the bend.
		out[2 * i] = p.x - t[at + 2] * t[at + 4] * gain;
		out[2 * i + 1] = p.y + t[at + 3] * t[at + 4] * gain;
	}
	return out;
}

export function drawComb(
	c: CanvasRenderingContext2D,
	scene: MarkScene,
	comb: Comb,
	{ gain, marks, tight }: CombLook,
	unit: LengthUnit
): void {
	const { view, size, palette } = scene;
	const tips = combTips(scene, comb, gain);
	const n = tips.length / 2;
	const t = comb.teeth;
	const begins = new Set(comb.begins);
	let tightest = 0;
	for (const [colour, width, over] of [
		[palette.halo, 3, false],
		[palette.woad, 1, true]
	] as const) {
		c.strokeStyle = colour;
		c.lineWidth = width;
		c.beginPath();
		let last: Point | undefined;
		for (let i = 0; i < n; i++) {
			const k = Math.abs(t[TOOTH * i + 4]);
			if (k > Math.abs(t[TOOTH * tightest + 4])) tightest = i;
			const p = toScreen(view, size, t[TOOTH * i], t[TOOTH * i + 1]);
			// Where they would run into each other some teeth are left out; the line over the tips goes over all.
			if (last && !begins.has(i) && Math.hypot(p.x - last.x, p.y - last.y) < APART_PX) continue;
			last = p;
			c.moveTo(p.x, p.y);
			c.lineTo(tips[2 * i], tips[2 * i + 1]);
		}
		if (over) {
			// The line over the tips, broken where a new segment begins, so that a step shows as one.
			for (let i = 0; i < n; i++) {
				if (begins.has(i)) c.moveTo(tips[2 * i], tips[2 * i + 1]);
				else c.lineTo(tips[2 * i], tips[2 * i + 1]);
			}
		}
		c.stroke();
	}
	// A step: only the tangents meet there.
	for (const step of marks.steps ? comb.steps : []) {
		const p = toScreen(view, size, step.x, step.y);
		c.strokeStyle = palette.rust;
		c.lineWidth = 2;
		c.beginPath();
		c.moveTo(p.x - 7, p.y + 4);
		c.lineTo(p.x, p.y + 4);
		c.lineTo(p.x, p.y - 4);
		c.lineTo(p.x + 7, p.y - 4);
		c.stroke();
	}
	for (const turn of marks.inflections ? comb.inflections : []) {
		const p = toScreen(view, size, turn.x, turn.y);
		c.strokeStyle = palette.madder;
		c.lineWidth = 1.6;
		c.beginPath();
		c.arc(p.x - 4, p.y, 4, 0, Math.PI, true);
		c.arc(p.x + 4, p.y, 4, Math.PI, 2 * Math.PI, true);
		c.stroke();
	}
	// Where the tool does not get in the radius is told anyway.
	const at = TOOTH * tightest;
	const isTold = tight.some((s) => s.x === t[at] && s.y === t[at + 1]);
	if (comb.most > 0 && marks.tightest && !isTold) {
		const radius = 1 / comb.most;
		const p = toScreen(view, size, t[at], t[at + 1]);
		labelAt(c, palette, `radius ${formatLength(radius, unit)}`, p.x + 14, p.y - 12, palette.woad);
	}
}

/** Where the tool does not get in: a disc that is too large for its bend, with the radius that there is. */
export function drawTight(
	c: CanvasRenderingContext2D,
	{ view, size, palette }: MarkScene,
	tight: readonly TightStretch[],
	unit: LengthUnit
): void {
	for (const [i, stretch] of tight.entries()) {
		const p = toScreen(view, size, stretch.x, stretch.y);
		if (p.x < -20 || p.y < -20 || p.x > size.widthPx + 20 || p.y > size.heightPx + 20) continue;
		for (const [colour, width] of [
			[palette.halo, 4.5],
			[palette.rust, 2]
		] as const) {
			c.strokeStyle = colour;
			c.lineWidth = width;
			c.beginPath();
			c.arc(p.x, p.y, 9, 0, 2 * Math.PI);
			c.moveTo(p.x - 6, p.y + 6);
			c.lineTo(p.x + 6, p.y - 6);
			c.stroke();
		}
		if (i < MOST_TOLD)
			labelAt(
				c,
				palette,
				`radius ${formatLength(Math.abs(stretch.radius), unit)}: too tight`,
				p.x + 14,
				p.y + 4,
				palette.rust
			);
	}
}

/** Of more places than these the radius is not written. */
const MOST_TOLD = 12;

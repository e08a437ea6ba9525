/** How far a line lies from another, drawn along the line itself: how far by thickness, which side by dye and form. */
import { SAMPLE, worstOf, type Deviation, type Worst } from '../core/geometry/deviation';
import type { LengthUnit } from '../core/document/drawing';
import { formatLength } from '../core/units';
import { labelAt, type MarkScene } from './marks';
import { toScreen } from './view';

/** px: how thick the worst place is drawn. */
const THICK_PX = 24;
/** px between the hairs of the side that is hatched. */
const HAIR_PX = 4;

/** Bands beside the lines: solid where the other line lies left of travel, hairs where it lies right. */
export function drawDeviations(
	c: CanvasRenderingContext2D,
	{ view, size, palette }: MarkScene,
	deviations: readonly Deviation[]
): void {
	const worst = worstOf(deviations);
	if (!worst || !(Math.abs(worst.off) > 0)) return;
	const gain = THICK_PX / Math.abs(worst.off);
	c.lineWidth = 1;
	for (const { samples } of deviations) {
		let lastHair = -Infinity;
		let along = 0;
		let before: { x: number; y: number; tx: number; ty: number; off: number } | undefined;
		for (let i = 0; i < samples.length; i += SAMPLE) {
			const p = toScreen(view, size, samples[i], samples[i + 1]);
			const off = samples[i + 4];
			const here = {
				x: p.x,
				y: p.y,
				tx: p.x + samples[i + 2] * off * gain,
				ty: p.y - samples[i + 3] * off * gain,
				off
			};
			if (before && Number.isFinite(off)) {
				along += Math.hypot(here.x - before.x, here.y - before.y);
				const inside =
					Math.max(here.x, before.x) > -THICK_PX &&
					Math.min(here.x, before.x) < size.widthPx + THICK_PX &&
					Math.max(here.y, before.y) > -THICK_PX &&
					Math.min(here.y, before.y) < size.heightPx + THICK_PX;
				if (inside && off >= 0) {
					c.fillStyle = palette.woad;
					c.globalAlpha = 0.55;
					c.beginPath();
					c.moveTo(before.x, before.y);
					c.lineTo(before.tx, before.ty);
					c.lineTo(here.tx, here.ty);
					c.lineTo(here.x, here.y);
					c.fill();
					c.globalAlpha = 1;
				} else if (inside && along - lastHair >= HAIR_PX) {
					lastHair = along;
					c.strokeStyle = palette.rust;
					c.beginPath();
					c.moveTo(here.x, here.y);
					c.lineTo(here.tx, here.ty);
					c.stroke();
				}
			}
			before = Number.isFinite(off) ? here : undefined;
		}
	}
}

/** Where a line lies farthest off: a ring, and how far. */
export function drawWorst(
	c: CanvasRenderingContext2D,
	{ view, size, palette }: MarkScene,
	worst: Worst,
	unit: LengthUnit
): void {
	const p = toScreen(view, size, worst.x, worst.y);
	c.strokeStyle = palette.rust;
	c.lineWidth = 1.6;
	c.setLineDash([3, 3]);
	c.beginPath();
	c.arc(p.x, p.y, 12, 0, 2 * Math.PI);
	c.stroke();
	c.setLineDash([]);
	labelAt(c, palette, formatLength(Math.abs(worst.off), unit), p.x + 10, p.y - 16, palette.rust);
}

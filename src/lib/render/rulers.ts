/** Rulers along the upper and left edge, and the grid, in the unit in use. */
import { MM_PER, unitWord } from '../core/units';
import type { LengthUnit } from '../core/document/drawing';
import type { MarkScene } from './marks';
import { toPaper } from './view';

export const RULER_PX = 20;

/** A step of 1, 2 or 5 times a power of ten that takes at least `leastPx`. Inches go down by halves. */
function step(scale: number, unit: LengthUnit, leastPx: number): number {
	const per = MM_PER[unit] * scale;
	if (MM_PER[unit] === MM_PER.in && per >= leastPx) {
		let s = 1;
		while ((s / 2) * per >= leastPx && s > 1 / 64) s /= 2;
		return s;
	}
	const raw = leastPx / per;
	const power = Math.pow(10, Math.floor(Math.log10(raw)));
	for (const k of [1, 2, 5, 10]) if (k * power >= raw) return k * power;
	return 10 * power;
}

export function drawRulers(
	c: CanvasRenderingContext2D,
	{ view, size, palette }: MarkScene,
	unit: LengthUnit
): void {
	const per = MM_PER[unit];
	const big = step(view.scale, unit, 64);
	const small = big / (MM_PER[unit] === MM_PER.in ? 4 : 5);
	const lo = toPaper(view, size, 0, size.heightPx);
	const hi = toPaper(view, size, size.widthPx, 0);
	c.fillStyle = palette.ruler;
	c.fillRect(0, 0, size.widthPx, RULER_PX);
	c.fillRect(0, 0, RULER_PX, size.heightPx);
	c.strokeStyle = palette.rulerInk;
	c.fillStyle = palette.rulerInk;
	c.lineWidth = 1;
	c.font = '10px "Source Sans 3 Variable", sans-serif';
	c.textBaseline = 'top';
	const label = (k: number) => {
		const v = k * small;
		return String(+v.toFixed(6)).replace(/^-0$/, '0');
	};
	const ratio = Math.round(big / small);
	c.beginPath();
	for (let k = Math.ceil(lo.x / per / small); k * small * per <= hi.x; k++) {
		const x = Math.round(size.widthPx / 2 + (k * small * per - view.x) * view.scale) + 0.5;
		if (x < RULER_PX) continue;
		const major = k % ratio === 0;
		c.moveTo(x, RULER_PX);
		c.lineTo(x, RULER_PX - (major ? 10 : 4));
		if (major) c.fillText(label(k), x + 3, 3);
	}
	for (let k = Math.ceil(lo.y / per / small); k * small * per <= hi.y; k++) {
		const y = Math.round(size.heightPx / 2 - (k * small * per - view.y) * view.scale) + 0.5;
		if (y < RULER_PX) continue;
		const major = k % ratio === 0;
		c.moveTo(RULER_PX, y);
		c.lineTo(RULER_PX - (major ? 10 : 4), y);
		if (major) {
			c.save();
			c.translate(3, y - 3);
			c.rotate(-Math.PI / 2);
			c.fillText(label(k), 0, 0);
			c.restore();
		}
	}
	c.stroke();
	c.fillStyle = palette.ruler;
	c.fillRect(0, 0, RULER_PX, RULER_PX);
	c.fillStyle = palette.rulerInk;
	c.fillText(unitWord(unit), 3, 5);
}

/** Threads of the weave: the grid, in steps of `spacing` mm, coarser where it would be too dense. */
export function drawGrid(
	c: CanvasRenderingContext2D,
	{ view, size, palette }: MarkScene,
	spacing: number
): void {
	let every = spacing;
	while (every * view.scale < 12) every *= every === spacing ? 5 : 2;
	const lo = toPaper(view, size, 0, size.heightPx);
	const hi = toPaper(view, size, size.widthPx, 0);
	c.strokeStyle = palette.weave;
	c.lineWidth = 1;
	c.beginPath();
	for (let k = Math.ceil(lo.x / every); k * every <= hi.x; k++) {
		const x = Math.round(size.widthPx / 2 + (k * every - view.x) * view.scale) + 0.5;
		c.moveTo(x, 0);
		c.lineTo(x, size.heightPx);
	}
	for (let k = Math.ceil(lo.y / every); k * every <= hi.y; k++) {
		const y = Math.round(size.heightPx / 2 - (k * every - view.y) * view.scale) + 0.5;
		c.moveTo(0, y);
		c.lineTo(size.widthPx, y);
	}
	c.stroke();
}

/** The curvature comb: teeth square to the line, as long as it bends; steps, inflections and the tightest place marked. */
import { TOOTH, type Comb } from '../core/geometry/comb';
import { labelAt, type MarkScene } from './marks';
import { toScreen } from './view';

/** px: how long the longest tooth is while nobody has dragged one. */
export const COMB_PX = 70;

/** px a unit of curvature: the largest is `COMB_PX` long, or as dragged. */
export function combGain(comb: Comb, stretch: number): number {
	return comb.most > 0 ? (COMB_PX * stretch) / comb.most : 0;
}

/** Where the ends of the teeth are, px of the window. */
export function combTips(scene: Pick<MarkScene, 'view' | 'size'>, comb: Comb, stretch: number): Float64Array {
	const gain = combGain(comb, stretch);
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

export function drawComb(c: CanvasRenderingContext2D, scene: MarkScene, comb: Comb, stretch: number): void {
	const { view, size, palette } = scene;
	const tips = combTips(scene, comb, stretch);
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
		for (let i = 0; i < n; i++) {
			const k = Math.abs(t[TOOTH * i + 4]);
			if (k > Math.abs(t[TOOTH * tightest + 4])) tightest = i;
			const p = toScreen(view, size, t[TOOTH * i], t[TOOTH * i + 1]);
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
	for (const step of comb.steps) {
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
	for (const turn of comb.inflections) {
		const p = toScreen(view, size, turn.x, turn.y);
		c.strokeStyle = palette.madder;
		c.lineWidth = 1.6;
		c.beginPath();
		c.arc(p.x - 4, p.y, 4, 0, Math.PI, true);
		c.arc(p.x + 4, p.y, 4, Math.PI, 2 * Math.PI, true);
		c.stroke();
	}
	if (comb.most > 0) {
		const radius = 1 / comb.most;
		const at = TOOTH * tightest;
		const p = toScreen(view, size, t[at], t[at + 1]);
		labelAt(c, palette, `radius ${radius.toPrecision(3)} mm`, p.x + 14, p.y - 12, palette.woad);
	}
}

/** Photographs of drawings on paper, made: light that falls off, shadows, noise, squared paper, chalk on a dark board. */
import { Resvg } from '@resvg/resvg-js';
import { chance } from './shapes';

export interface Photograph {
	readonly widthPx: number;
	readonly heightPx: number;
	readonly rgba: Uint8ClampedArray;
	/** How many closed outlines are drawn on it. */
	readonly outlines: number;
}

export interface Drawn {
	/** px, of a photograph 4,000 px wide. */
	readonly stroke: number;
	/** 0 nothing, 1 black. */
	readonly ink: number;
	/** How much darker the far corner is. */
	readonly fall: number;
	/** Standard deviation of the noise, of 255. */
	readonly noise?: number;
	readonly shadow?: boolean;
	/** Blue squares of 5 mm. */
	readonly squared?: boolean;
	/** Folded across and down: each quarter catches the light otherwise, and the creases are dark. */
	readonly folds?: boolean;
	/** Light strokes on a dark board. */
	readonly chalk?: boolean;
}

export const DRAWINGS: Readonly<Record<string, Drawn>> = {
	pencil: { stroke: 4.5, ink: 0.45, fall: 0.35 },
	ballpoint: { stroke: 4, ink: 0.8, fall: 0.35 },
	marker: { stroke: 14, ink: 0.95, fall: 0.5 },
	'chalk on dark': { stroke: 10, ink: 0.8, fall: 0.35, chalk: true },
	'squared paper': { stroke: 5, ink: 0.85, fall: 0.35, squared: true },
	'shadow of a hand': { stroke: 4.5, ink: 0.5, fall: 0.35, shadow: true },
	'folded twice': { stroke: 4.5, ink: 0.6, fall: 0.3, folds: true }
};

const ROWS = 2;
const EACH = 7;

function scene(widthPx: number, heightPx: number, { stroke, squared }: Drawn): string {
	const k = widthPx / 4000;
	const shapes: string[] = [];
	for (let row = 0; row < ROWS; row++)
		for (let c = 0; c < EACH; c++) {
			const [x, y] = [(300 + c * 550) * k, (800 + row * 1350) * k];
			const q = (150 + 40 * ((row * EACH + c) % 3)) * k;
			const kinds = [
				`<circle cx="${x}" cy="${y}" r="${q}"/>`,
				`<path d="M${x - q} ${y - q}L${x + q} ${y - q * 0.8}L${x + q * 0.7} ${y + q}L${x - q * 0.9} ${y + q * 0.8}Z"/>`,
				`<path d="M${x - q} ${y}C${x - q} ${y - q * 1.4} ${x + q} ${y - q * 1.4} ${x + q} ${y}S${x - q} ${y + q * 1.4} ${x - q} ${y}Z"/>`
			];
			shapes.push(kinds[(row * EACH + c) % 3]);
		}
	const rules: string[] = [];
	if (squared) {
		for (let x = 0; x < widthPx; x += 65 * k) rules.push(`M${x} 0V${heightPx}`);
		for (let y = 0; y < heightPx; y += 65 * k) rules.push(`M0 ${y}H${widthPx}`);
	}
	return (
		`<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}" viewBox="0 0 ${widthPx} ${heightPx}">` +
		`<rect width="100%" height="100%" fill="#fff"/><path d="${rules.join('') || 'M0 0'}" stroke="#7fb2e0" stroke-width="${3 * k}"/>` +
		`<g fill="none" stroke="#000" stroke-width="${stroke * k}">${shapes.join('')}</g></svg>`
	);
}

/** A photograph so many pixels wide, three quarters as high. */
export function photographOf(drawn: Drawn, widthPx: number, seed = 1): Photograph {
	const heightPx = Math.round(0.75 * widthPx);
	const { ink, fall, noise = 6, shadow, folds, chalk } = drawn;
	const k = widthPx / 4000;
	const random = chance(seed);
	// About normal: the sum of four even ones.
	const scatter = () => (random() + random() + random() + random() - 2) * noise * Math.sqrt(3);
	const drawing = new Resvg(scene(widthPx, heightPx, drawn)).render().pixels;
	const rgba = new Uint8ClampedArray(4 * widthPx * heightPx);
	for (let y = 0; y < heightPx; y++)
		for (let x = 0; x < widthPx; x++) {
			const i = 4 * (y * widthPx + x);
			let light = 1 - fall * ((0.7 * x) / widthPx + (0.3 * y) / heightPx);
			if (shadow) {
				const d = Math.hypot(x - 0.3 * widthPx, y - 0.7 * heightPx) / (0.25 * widthPx);
				light *= 1 - 0.35 / (1 + Math.exp(14 * (d - 1)));
			}
			if (folds) {
				const [across, down] = [x - 0.5 * widthPx, y - 0.5 * heightPx];
				light *= (across < 0 ? 1.05 : 0.94) * (down < 0 ? 0.96 : 1.03);
				for (const d of [across, down]) light *= 1 - 0.12 * Math.exp(-((d / (7 * k)) ** 2));
			}
			const grain = scatter();
			for (let c = 0; c < 3; c++) {
				const cover = ((255 - drawing[i + c]) / 255) * ink;
				const paper = c === 2 ? 222 : 232;
				const tone = chalk ? 45 + 170 * cover : paper * (1 - cover);
				rgba[i + c] = tone * light + grain + scatter() / 3;
			}
			rgba[i + 3] = 255;
		}
	return { widthPx, heightPx, rgba, outlines: ROWS * EACH };
}

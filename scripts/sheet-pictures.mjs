// The demo's sheet of parts as pictures to be traced: drawn at a width, and as a photo of it.
import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';

/** A grey picture of the sheet, so many px wide. */
export function drawnSheet(core, width) {
	const sheet = readFileSync('static/demo/fox-parts.svg', 'utf8')
		.replace(/width="[^"]+" height="[^"]+"/, '')
		.replace('<g ', '<rect width="297" height="210" fill="#fff"/><g ');
	const image = new Resvg(sheet, { fitTo: { mode: 'width', value: width } }).render();
	return core.toGrey({ widthPx: image.width, heightPx: image.height, rgba: image.pixels });
}

/** The same blurred, under falling light, with noise. */
export function photoOf(core, picture) {
	const soft = core.blurred(picture, 1.5);
	const rnd = core.chance(7);
	for (let i = 0; i < soft.grey.length; i++) {
		const light = 1 - (0.4 * (i % soft.widthPx)) / soft.widthPx;
		const noise = 14 * (rnd() + rnd() + rnd() - 1.5);
		soft.grey[i] = Math.max(0, Math.min(255, (45 + 0.72 * soft.grey[i]) * light + noise));
	}
	return soft;
}

// The icons of the installed app, from the drawing of the one in the page: rounded, and whole to the edge for those who cut them round.
import { mkdirSync, readFileSync } from 'node:fs';
import sharp from 'sharp';

const drawing = readFileSync('static/icon.svg', 'utf8');
/** The thread a little smaller on a ground without corners: what is cut off round lies outside of it. */
const whole = drawing
	.replace(' rx="5"', '')
	.replace('<path', '<path transform="translate(16 16) scale(.72) translate(-16 -16)"');
mkdirSync('static/icons', { recursive: true });
const png = (svg, px, name) =>
	sharp(Buffer.from(svg), { density: (72 * px) / 32 })
		.resize(px, px)
		.png({ palette: true })
		.toFile(`static/icons/${name}.png`);
await Promise.all([png(drawing, 192, '192'), png(drawing, 512, '512'), png(whole, 512, 'whole-512')]);

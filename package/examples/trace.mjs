// A picture's pixels become outlines of true size, written as an SVG in millimetres.
import { finish, sourceOf, tracePicture, writeSvg } from 'even-thread-core';

// A disc of 20 mm at 10 px/mm, its edge anti-aliased; any decoder gives such pixels of a file.
const [size, radius, pxPerMm] = [300, 100, 10];
const rgba = new Uint8ClampedArray(4 * size * size);
for (let y = 0; y < size; y++) {
	for (let x = 0; x < size; x++) {
		const cover = Math.min(1, Math.max(0, radius - Math.hypot(x + 0.5 - 150, y + 0.5 - 150) + 0.5));
		const grey = Math.round(255 * (1 - cover));
		rgba.set([grey, grey, grey, 255], 4 * (y * size + x));
	}
}

const source = sourceOf({ widthPx: size, heightPx: size, rgba });
const trace = finish(tracePicture(source, { way: 'tone', pxPerMm }));
console.log(writeSvg([{ name: 'disc', paths: trace.paths }]));

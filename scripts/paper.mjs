/** Traces photographs of drawings of 12 megapixels by every way that is meant for them: outlines, anchors, seconds. */
import { openSources } from './sources.mjs';

const vite = await openSources();
const { DRAWINGS, photographOf } = await vite.ssrLoadModule('/tests/photographs.ts');
const { sourceOf, tracePicture } = await vite.ssrLoadModule('/src/lib/core/trace/ways.ts');
const { finish } = await vite.ssrLoadModule('/src/lib/core/progress.ts');

const rows = [];
for (const [name, drawn] of Object.entries(DRAWINGS)) {
	const photograph = photographOf(drawn, 4000);
	for (const way of ['tone', 'local-tone', 'line-centre']) {
		const start = performance.now();
		const trace = finish(
			tracePicture(sourceOf(photograph), { way, pxPerMm: 13.4, light: drawn.chalk === true })
		);
		const wanted = photograph.outlines * (way === 'line-centre' ? 1 : 2);
		rows.push({
			drawing: name,
			way,
			paths: `${trace.paths.length} of ${wanted}`,
			anchors: trace.anchors,
			'worst mm': +trace.worst.toFixed(3),
			seconds: +((performance.now() - start) / 1000).toFixed(1)
		});
	}
}
console.table(rows);
await vite.close();
process.exit(0);

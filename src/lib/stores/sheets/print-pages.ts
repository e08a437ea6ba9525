/** Pages through the browser's own print: each a picture of true size on a page of its own; nothing else is printed. */
import { boxSvg, namesSvg, pageSvg } from '../../core/formats/page-svg';
import type { Tiling } from '../../core/formats/paper';
import type { OnPaper } from '../../core/formats/paper-pieces';

export async function printPages(
	{ pieces, width, height }: OnPaper,
	tiling: Tiling | undefined,
	{ name, names }: { readonly name: string; readonly names: boolean }
): Promise<void> {
	const size = tiling?.page ?? { width, height };
	const svgs = tiling
		? tiling.tiles.map((tile) => pageSvg(pieces, tile, tiling, { name, names }))
		: [boxSvg(pieces, { x0: 0, y0: 0, x1: width, y1: height }, names ? namesSvg(pieces) : '')];
	const urls = svgs.map((svg) => URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' })));
	const box = document.createElement('div');
	box.className = 'printed-pages';
	const rules = new CSSStyleSheet();
	rules.replaceSync(`
		@page { size: ${size.width}mm ${size.height}mm; margin: 0; }
		@media screen { .printed-pages { display: none; } }
		@media print {
			html, body { margin: 0; padding: 0; height: auto; overflow: visible; background: #fff; }
			body > *:not(.printed-pages) { display: none !important; }
			.printed-pages img { display: block; width: ${size.width}mm; height: ${size.height}mm; break-after: page; break-inside: avoid; }
			.printed-pages img:last-child { break-after: auto; }
		}`);
	document.adoptedStyleSheets = [...document.adoptedStyleSheets, rules];
	document.body.append(box);
	try {
		for (const url of urls) {
			const image = new Image();
			image.src = url;
			box.append(image);
			await image.decode();
		}
		await new Promise<void>((resolve) => {
			window.addEventListener('afterprint', () => resolve(), { once: true });
			window.print();
		});
	} finally {
		box.remove();
		document.adoptedStyleSheets = document.adoptedStyleSheets.filter((sheet) => sheet !== rules);
		for (const url of urls) URL.revokeObjectURL(url);
	}
}

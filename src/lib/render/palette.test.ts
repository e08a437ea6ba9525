/** Marks read on any picture: each colour stands out from the edge that is drawn round it, whatever lies under that. */
import { expect, test } from 'vitest';
import { DAY, LAMP, type Palette } from './palette';

type Colour = readonly [red: number, green: number, blue: number];

function colourOf(text: string): { readonly colour: Colour; readonly alpha: number } {
	const hex = /^#(..)(..)(..)$/.exec(text);
	if (hex) return { colour: hex.slice(1).map((h) => parseInt(h, 16)) as unknown as Colour, alpha: 1 };
	const [r, g, b, alpha] = text.match(/[\d.]+/g)!.map(Number);
	return { colour: [r, g, b], alpha };
}
/** Relative luminance and contrast as WCAG 2.2 defines them. */
const luminance = (colour: Colour) => {
	const [r, g, b] = colour.map((v) =>
		v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4
	);
	return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const contrast = (a: Colour, b: Colour) => {
	const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x);
	return (light + 0.05) / (dark + 0.05);
};
const over = (text: string, under: Colour): Colour => {
	const { colour, alpha } = colourOf(text);
	return colour.map((v, k) => alpha * v + (1 - alpha) * under[k]) as unknown as Colour;
};

/** Colours that a picture may have: a net over all of them. */
const STEPS = [0, 51, 102, 153, 204, 255];
const anywhere: Colour[] = STEPS.flatMap((r) => STEPS.flatMap((g) => STEPS.map((b) => [r, g, b] as const)));
/** Those that a mark is drawn in; the others are only beside one. */
const MARKS = ['ink', 'madder', 'woad', 'rust', 'weld'] as const satisfies readonly (keyof Palette)[];

test.each([
	['by day', DAY],
	['by lamp light', LAMP]
])('%s: 3 to 1 at least between a mark and its edge on every colour (WCAG 2.2, 1.4.11)', (_, palette) => {
	for (const mark of MARKS)
		for (const under of anywhere)
			expect(
				contrast(colourOf(palette[mark]).colour, over(palette.halo, under)),
				`${mark} on ${under.join()}`
			).toBeGreaterThan(3);
});

test.each([
	['by day', DAY],
	['by lamp light', LAMP]
])('%s: words and lines stand out from the paper', (_, palette) => {
	const paper = colourOf(palette.paper).colour;
	for (const mark of MARKS) expect(contrast(colourOf(palette[mark]).colour, paper), mark).toBeGreaterThan(3);
	expect(contrast(colourOf(palette.ink).colour, paper)).toBeGreaterThan(7);
	expect(contrast(colourOf(palette.rulerInk).colour, over(palette.ruler, paper))).toBeGreaterThan(4.5);
});

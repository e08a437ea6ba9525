/** Ink across a way. Truth: strokes of known width; blur changes neither how much ink there is nor where its middle lies. */
import { expect, test } from 'vitest';
import { coverOf, type Row } from '../../../../tests/cover';
import { inkAcross } from './across';
import type { GreyPicture } from './picture';
import { blurred } from './prepare';

const TONES = { ink: 20, paper: 235 };
/** A long stroke through (60, 60) at an angle. */
function stroke(width: number, degrees: number): Row {
	const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
	return [
		[-90, -width / 2],
		[90, -width / 2],
		[90, width / 2],
		[-90, width / 2]
	].map(([x, y]) => [60 + c * x - s * y, 60 + s * x + c * y] as const);
}
const picture = (...rows: Row[]): GreyPicture => ({
	widthPx: 120,
	heightPx: 120,
	grey: Uint8Array.from(coverOf(rows, 120, 120), (v) =>
		Math.round(TONES.paper + (TONES.ink - TONES.paper) * v)
	)
});
const ahead = (degrees: number) => ({
	x: Math.cos((degrees * Math.PI) / 180),
	y: Math.sin((degrees * Math.PI) / 180)
});

test('a stroke is as wide as its ink, about its own middle, sharp or blurred', () => {
	for (const degrees of [0, 23, 45, 78])
		for (const width of [1.4, 3, 5.5])
			for (const blur of [0, 1.5]) {
				const sharp = picture(stroke(width, degrees));
				const look = inkAcross(blur ? blurred(sharp, blur) : sharp, TONES, blur, 10);
				const { x, y } = ahead(degrees);
				// Half a pixel beside the middle, to the left of the way.
				const found = look({ x: 60 + y / 2, y: 60 - x / 2 }, { x, y }, width + 1)!;
				const what = `${width} px, ${degrees} degrees, blur ${blur}`;
				// Between pixels the tone is told by straight lines: of one row across that is right to some hundredths.
				expect(Math.abs(found.width - width), what).toBeLessThan(0.12);
				expect(Math.abs(found.off - 0.5), what).toBeLessThan(0.12);
				expect(found.most, what).toBeLessThanOrEqual(1.02);
			}
});

test('blur spreads it by its own square', () => {
	const sharp = picture(stroke(4, 30));
	const at = { x: 60, y: 60 };
	const spread = (p: GreyPicture, blur: number) => inkAcross(p, TONES, blur, 10)(at, ahead(30), 4)!.spread;
	const before = spread(sharp, 0);
	// 4 px wide: a twelfth of the square, and what pixels and reading between them add.
	expect(before).toBeGreaterThan(16 / 12);
	expect(before).toBeLessThan(16 / 12 + 0.4);
	for (const blur of [1, 1.5, 2]) {
		const more = spread(blurred(sharp, blur), blur) - before;
		expect(Math.abs(more / (blur * blur) - 1)).toBeLessThan(0.15);
	}
});

test('what lies beside it does not count; what is wider than looked at, or off the picture, is told nothing of', () => {
	const beside = stroke(3, 0).map(([x, y]) => [x, y + 14] as const);
	const look = inkAcross(picture(stroke(3, 0), beside), TONES, 0, 8);
	expect(Math.abs(look({ x: 60, y: 60 }, { x: 1, y: 0 }, 3)!.width - 3)).toBeLessThan(0.1);
	expect(look({ x: 60, y: 2 }, { x: 1, y: 0 }, 3)).toBeUndefined();
	expect(inkAcross(picture(stroke(60, 0)), TONES, 0, 8)({ x: 60, y: 60 }, { x: 1, y: 0 }, 8)).toBeUndefined();
});

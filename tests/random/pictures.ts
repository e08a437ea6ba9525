/** Small pictures by chance, spoilt in many ways, each with a way to trace it: whatever they show, no outline may cross. */
import type { WayOptions } from '../../src/lib/core/trace/ways';
import { barAt, coverOf, type Row } from '../cover';
import { pieces, pictureOf } from '../pieces';
import { oneOf, type Chance } from '../shapes';

export interface RandomPicture {
	/** What is drawn, and how it is spoilt and traced: told where something is amiss. */
	readonly name: string;
	readonly picture: { readonly widthPx: number; readonly heightPx: number; readonly rgba: Uint8Array };
	readonly options: WayOptions;
}

/** A star that crosses itself, torn, with necks and spots of a pixel or two. */
function star(r: Chance, side: number): Row[] {
	const n = 3 + Math.floor(9 * r());
	return [
		Array.from({ length: n }, (_, k) => {
			const [radius, angle] = [side * (0.08 + 0.38 * r()), 0.7 * k + r()];
			return [side / 2 + radius * Math.cos(angle), side / 2 + radius * Math.sin(angle)] as const;
		})
	];
}
/** Rings about each other, some so near that they nearly touch. */
function rings(r: Chance, side: number): Row[] {
	const n = 2 + Math.floor(4 * r());
	return Array.from({ length: n }, () => {
		const [x, y, radius] = [side * (0.2 + 0.6 * r()), side * (0.2 + 0.6 * r()), side * (0.04 + 0.25 * r())];
		return Array.from({ length: 60 }, (_, k) => {
			const a = (Math.PI * k) / 30;
			return [x + radius * Math.cos(a), y + radius * Math.sin(a)] as const;
		});
	});
}
/** Thin bars any way. */
function bars(r: Chance, side: number): Row[] {
	return Array.from({ length: 2 + Math.floor(4 * r()) }, () => {
		const [x, y, angle] = [side * (0.2 + 0.6 * r()), side * (0.2 + 0.6 * r()), 6 * r()];
		const [long, wide] = [side * (0.1 + 0.3 * r()), 0.4 + 2.5 * r()];
		return barAt(x, y, angle, long, wide);
	});
}
const DRAWN = { star, rings, bars };

/** How an ink's cover of the pixels becomes their tone, 0 to 255. */
const SPOILT: Record<string, (r: Chance) => (cover: number) => number> = {
	clean: () => (c) => 255 * (1 - c),
	faint: () => (c) => 210 - 90 * c,
	'two tones': () => (c) => (c >= 0.5 ? 0 : 255),
	noise: (r) => {
		const much = 6 + 44 * r();
		return (c) => 235 - 205 * c + much * (r() + r() - 1);
	},
	'few tones': () => (c) => 64 * Math.round(4 * (1 - c))
};

/** How each is traced. */
const TRACED: Record<string, (r: Chance, side: number) => Partial<WayOptions>> = {
	tone: () => ({}),
	parted: () => ({ diagonal: 'part' }),
	loose: (r) => ({ tolerance: 0.3 + 2 * r() }),
	levels: (r) => ({ way: 'levels', levels: 1 + Math.floor(4 * r()) }),
	'line centre': () => ({ way: 'line-centre' }),
	'local tone': () => ({ way: 'local-tone' }),
	'even light': () => ({ evenLight: true, denoise: true }),
	blurred: (r) => ({ blur: 0.4 + r() }),
	'other threshold': (r) => ({ threshold: 90 + 80 * r(), grain: true }),
	'at an angle': (r, side) => {
		const near = () => 0.08 * side * r();
		const corners = [
			{ x: near(), y: near() },
			{ x: side - near(), y: near() },
			{ x: side - near(), y: side - near() },
			{ x: near(), y: side - near() }
		] as const;
		return { rectify: { corners, width: side, height: side } } as Partial<WayOptions>;
	}
};

/** The picture of a number, every time the same; a quarter of them are of flat colours. */
export function randomPicture(r: Chance): RandomPicture {
	const side = 40 + Math.floor(70 * r());
	const pick = <T>(of: Record<string, T>): [string, T] => oneOf(r, Object.entries(of));
	if (r() < 0.25) {
		const much = r() < 0.3 ? 30 * r() : 0;
		const list = pieces(r, side, 6 + 80 * r());
		return {
			name: `pieces, ${much ? 'noise' : 'clean'}, colours`,
			picture: pictureOf(list, side, () => much * (r() + r() - 1)),
			options: { pxPerMm: 1, way: 'colours', colours: r() < 0.5 ? 'auto' : list.length + 1 }
		};
	}
	const [[what, draw], [how, spoil], [way, traced]] = [pick(DRAWN), pick(SPOILT), pick(TRACED)];
	const tone = spoil(r);
	const rgba = new Uint8Array(4 * side * side).fill(255);
	coverOf(draw(r, side), side, side).forEach((cover, i) => {
		const grey = Math.max(0, Math.min(255, Math.round(tone(cover))));
		rgba.fill(grey, 4 * i, 4 * i + 3);
	});
	return {
		name: `${what}, ${how}, ${way}`,
		picture: { widthPx: side, heightPx: side, rgba },
		options: { pxPerMm: 1, way: 'tone', ...traced(r, side) }
	};
}

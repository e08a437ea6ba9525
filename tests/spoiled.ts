/** Drawings spoiled as they are in workshops: made from seeds, so that any of them can be made again. */
import { newDrawing, type Drawing, type DrawingRecord } from '../src/lib/core/document/drawing';
import { outlineFromPath } from '../src/lib/core/document/outline';
import { breakAt } from '../src/lib/core/geometry/join';
import {
	circlePath,
	PathBuilder,
	polygonPath,
	STRIDE,
	transformPath,
	type Path
} from '../src/lib/core/geometry/path';
import { blob, chance, jagged } from './shapes';

type Spoil = (path: Path, random: () => number) => Path[];

/** Ways in which an outline is spoiled; each gives what lies there afterwards. */
const WAYS: Readonly<Record<string, Spoil>> = {
	/** In pieces that touch end to end, some running the other way. */
	pieces: (path, random) => {
		const n = path.types.length;
		const count = Math.min(n, 2 + Math.floor(3 * random()));
		const places = Array.from({ length: count }, (_, k) => ({ segment: Math.floor((k * n) / count), t: 0 }));
		return breakAt(path, places);
	},
	/** In pieces with small gaps. */
	gaps: (path, random) =>
		WAYS.pieces(path, random).map((part) =>
			transformPath(part, [1, 0, 0, 1, 0.2 * random(), 0.2 * random()])
		),
	/** Open, its ends on one place or nearly. */
	open: (path, random) => {
		const [part] = breakAt(path, [{ segment: 0, t: 0 }]);
		if (random() < 0.5) return [part];
		const segs = part.segs.slice();
		segs[segs.length - 2] += 0.3 * random();
		return [{ ...part, segs }];
	},
	doubled: (path) => [path, path],
	crumb: (path, random) => {
		const [x, y] = [path.segs[0] + 30 * random(), path.segs[1] + 30 * random()];
		return [path, new PathBuilder(x, y).line(x + 0.1, y + 0.1).open()];
	},
	/** Anchors on one place. */
	still: (path) => {
		const { segs, types } = path;
		const b = new PathBuilder(segs[0], segs[1]);
		const [x, y] = [segs[0], segs[1]];
		b.cubic(x + 2e-6, y, x, y + 2e-6, x + 1e-7, y);
		for (let i = 0; i < types.length; i++) b.segment(types[i], segs, STRIDE * i);
		return [b.close(1e-5)];
	},
	/** Out to a tip and straight back. */
	spike: (path, random) => {
		const b = new PathBuilder(path.segs[0], path.segs[1]);
		const out = 2 + 3 * random();
		b.line(path.segs[0] - out, path.segs[1] + out / 50).line(path.segs[0], path.segs[1] + 1e-3);
		for (let i = 0; i < path.types.length; i++) b.segment(path.types[i], path.segs, STRIDE * i);
		return [b.close(1e-2)];
	},
	/** A stretch of it lies there a second time, by itself. */
	overlap: (path) => {
		const b = new PathBuilder(path.segs[0], path.segs[1]);
		b.segment(path.types[0], path.segs, 0);
		return [path, b.open()];
	}
};

/** What an outline is before it is spoiled, somewhere on a grid so that nothing meets by chance. */
function sound(k: number, random: () => number): Path {
	const at = (path: Path) => transformPath(path, [1, 0, 0, 1, 70 * (k % 4), 70 * Math.floor(k / 4)]);
	const size = 8 + 12 * random();
	const kinds = [
		() => polygonPath([0, 0, size, 0, size, size * 0.7, 0, size]),
		() => circlePath(0, 0, size),
		() => blob(6 + Math.floor(10 * random()), 1 + Math.floor(1e6 * random()), size),
		() => jagged(size, 0.3, 1 + Math.floor(1e6 * random())),
		() =>
			polygonPath(
				Array.from({ length: 12 }, (_, i) => [i, i + 1]).flatMap(([i]) => {
					const r = i % 2 ? size : size / 2;
					return [r * Math.cos((i * Math.PI) / 6), r * Math.sin((i * Math.PI) / 6)];
				})
			)
	];
	return at(kinds[Math.floor(kinds.length * random())]());
}

/** A drawing of some outlines, each spoiled in up to two ways or left sound. */
export function spoiledDrawing(seed: number): Drawing {
	const random = chance(seed);
	const ways = Object.values(WAYS);
	const empty = newDrawing(`spoiled ${seed}`, 'Spoiled');
	const records = new Map<string, DrawingRecord>(empty.records);
	let count = 0;
	const outlines = 2 + Math.floor(5 * random());
	for (let k = 0; k < outlines; k++) {
		const spoil = ways[Math.floor(ways.length * random())];
		for (const path of random() < 0.85 ? spoil(sound(k, random), random) : [sound(k, random)]) {
			const id = `o${count++}`;
			records.set(id, outlineFromPath(path, { id, name: `Part ${count}`, layer: 'cut', rank: count }));
		}
	}
	return { ...empty, records };
}

/** What is drawn beside lines and along the edges of the window, as it comes out on the surface. */
import fc from 'fast-check';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { numberIn } from '../../../tests/numbers';
import { RecordedCanvas, RecordedPath, type Drawn } from '../../../tests/recorded-canvas';
import { blob } from '../../../tests/shapes';
import { combOf, TOOTH } from '../core/geometry/comb';
import { beside } from '../core/geometry/deviation';
import { flattenPath, EdgeTree } from '../core/geometry/edge-tree';
import { circlePath, PathBuilder, polygonPath } from '../core/geometry/path';
import { MM_PER } from '../core/units';
import { COMB_PX, combGain, combTips, drawComb, drawTight, type CombLook } from './comb';
import { drawDeviations, drawWorst } from './deviation';
import { fillPath, inMillimetres, nearPath, needsRebuilding, strokeLine, strokePaths } from './lines';
import type { MarkScene } from './marks';
import { DAY } from './palette';
import { drawGrid, drawRulers, RULER_PX } from './rulers';
import { placeTag, type NotUnder, type TagSize } from './tag-place';
import { headPx, toScreen, type View } from './view';

const size = { widthPx: 1280, heightPx: 800 };
const view: View = { scale: 4, x: 50, y: -30 };
const scene = { view, size, palette: DAY } as MarkScene;

beforeAll(() => {
	vi.stubGlobal('Path2D', RecordedPath);
});

describe('the comb', () => {
	const look: CombLook = { gain: 0, marks: { inflections: true, steps: true, tightest: true }, tight: [] };
	const bow = new PathBuilder(0, 0).cubic(10, 30, 40, 30, 50, 0).open();

	test('the longest tooth is as long as is said; each stands on the outer side of the bend and as long as it bends', () => {
		const comb = combOf(bow, 24);
		const gain = combGain(comb.most, 1);
		expect(comb.most * gain).toBeCloseTo(COMB_PX, 9);
		const tips = combTips(scene, comb, gain);
		for (let i = 0; i < tips.length / 2; i++) {
			const [x, y] = comb.teeth.slice(TOOTH * i);
			const foot = toScreen(view, size, x, y);
			const long = Math.hypot(tips[2 * i] - foot.x, tips[2 * i + 1] - foot.y);
			expect(long).toBeCloseTo(Math.abs(comb.teeth[TOOTH * i + 4]) * gain, 9);
			// The bow bends to the right, its middle lies below: teeth point up.
			if (i > 2 && i < tips.length / 2 - 3) expect(tips[2 * i + 1]).toBeLessThan(foot.y);
		}
	});

	test('dragged twice as long it is; without any bend there is none', () => {
		expect(combGain(0.5, 2)).toBe(2 * combGain(0.5, 1));
		expect(combGain(0, 3)).toBe(0);
	});

	test('teeth are left out where they would run into each other, ends of segments never', () => {
		const far = { ...scene, view: { ...view, scale: 0.05 } } as MarkScene;
		const drawnAt = (where: MarkScene) => {
			const canvas = new RecordedCanvas();
			const comb = combOf(bow, 24);
			drawComb(canvas.context, where, comb, { ...look, gain: combGain(comb.most, 1) }, 'mm');
			return canvas.strokes(DAY.halo).length;
		};
		expect(drawnAt(scene)).toBeGreaterThan(20);
		expect(drawnAt(far)).toBe(1);
	});

	test('the tightest radius is told, and not where it is told as too tight for the tool', () => {
		const comb = combOf(circlePath(50, -30, 12.5));
		const told = (tight: CombLook['tight']) => {
			const canvas = new RecordedCanvas();
			drawComb(canvas.context, scene, comb, { ...look, gain: 100, tight }, 'mm');
			return canvas.texts.map((t) => t.text);
		};
		expect(told([])).toEqual(['radius 12.5 mm']);
		const [x, y] = comb.teeth;
		expect(told([{ x, y, radius: 12.5 } as never])).toEqual([]);
	});

	test('inflections and steps have a mark each, where they lie, unless they are not wanted', () => {
		const wave = new PathBuilder(0, -30).cubic(30, 10, 60, -70, 90, -30).open();
		const step = new PathBuilder(30, -30).line(60, -30).arc(1, 60, -10).open();
		for (const [path, colour, key] of [
			[wave, DAY.madder, 'inflections'],
			[step, DAY.rust, 'steps']
		] as const) {
			const canvas = new RecordedCanvas();
			const comb = combOf(path);
			expect(comb[key]).toHaveLength(1);
			drawComb(canvas.context, scene, comb, { ...look, gain: 10 }, 'mm');
			const at = toScreen(view, size, comb[key][0].x, comb[key][0].y);
			const marks = canvas.strokes(colour);
			expect(marks).toHaveLength(1);
			const middle = [0, 1].map(
				(c) => (Math.min(...marks[0].map((p) => p[c])) + Math.max(...marks[0].map((p) => p[c]))) / 2
			);
			expect(Math.hypot(middle[0] - at.x, middle[1] - at.y)).toBeLessThan(5);
			const without = new RecordedCanvas();
			drawComb(
				without.context,
				scene,
				comb,
				{ ...look, gain: 10, marks: { ...look.marks, [key]: false } },
				'mm'
			);
			expect(without.strokes(colour)).toEqual([]);
		}
	});

	test('places too tight for the tool are ringed in sight only; of very many the radius is not written', () => {
		const tight = Array.from({ length: 30 }, (_, k) => ({ x: 20 + 2 * k, y: -30, radius: -1.5 }));
		const canvas = new RecordedCanvas();
		drawTight(canvas.context, scene, [...tight, { x: 900, y: 0, radius: 1 }] as never, 'mm');
		expect(canvas.strokes(DAY.rust).length).toBe(30 * 2);
		expect(new Set(canvas.texts.map((t) => t.text))).toEqual(new Set(['radius 1.5 mm: too tight']));
		expect(canvas.texts.length).toBe(12);
	});
});

describe('how far a line lies off', () => {
	test('the worst place is the thickest; left is solid, right is hatched; nothing to compare with draws nothing', () => {
		const straight = polygonPath([0, -30, 100, -30], false);
		const drawn = (off: (x: number) => number) => {
			const canvas = new RecordedCanvas();
			drawDeviations(canvas.context, scene, [beside(straight, 1, (x) => off(x))]);
			const fills = canvas.marks.filter((m) => m.how === 'fill');
			return { fills, hairs: canvas.strokes(DAY.rust) };
		};
		const left = drawn((x) => x / 100);
		expect(left.hairs).toEqual([]);
		const depth = left.fills.map(({ lines }) => Math.max(...lines[0].map((p) => Math.abs(p[1] - 400))));
		expect(Math.max(...depth)).toBeCloseTo(24, 6);
		for (let k = 1; k < depth.length; k++) expect(depth[k]).toBeGreaterThanOrEqual(depth[k - 1]);
		// Left of travel to the right is up.
		expect(left.fills.every(({ lines }) => lines[0].every((p) => p[1] <= 400 + 1e-9))).toBe(true);
		const right = drawn((x) => -x / 100);
		expect(right.fills).toEqual([]);
		expect(right.hairs.length).toBeGreaterThan(50);
		expect(right.hairs.every(([from, to]) => from[1] === 400 && to[1] >= 400)).toBe(true);
		expect(drawn(() => NaN)).toEqual({ fills: [], hairs: [] });
		expect(drawn(() => 0)).toEqual({ fills: [], hairs: [] });
	});

	test('where nothing is found the band has a gap', () => {
		const canvas = new RecordedCanvas();
		const straight = polygonPath([0, -30, 100, -30], false);
		drawDeviations(canvas.context, scene, [beside(straight, 1, (x) => (x > 40 && x < 60 ? NaN : 1))]);
		const from = toScreen(view, size, 41, 0).x;
		const to = toScreen(view, size, 59, 0).x;
		for (const { lines } of canvas.marks.filter((m) => m.how === 'fill'))
			for (const [x] of lines[0]) expect(x > from + 1 && x < to - 1).toBe(false);
	});

	test('the worst place has a ring about it and its number in the unit in use', () => {
		const canvas = new RecordedCanvas();
		drawWorst(canvas.context, scene, { x: 50, y: -30, off: -2.54 }, 'in');
		expect(canvas.texts[0].text).toBe('0.1 in');
		expect(canvas.marks[0].dash).toEqual([3, 3]);
		for (const [x, y] of canvas.marks[0].lines[0]) expect(Math.hypot(x - 640, y - 400)).toBeCloseTo(12, 9);
	});
});

describe('rulers and grid', () => {
	const units = ['mm', 'cm', 'in'] as const;

	test.each(units)(
		'numbers of %s stand where the paper has them, far enough apart, in every view',
		(unit) => {
			fc.assert(
				fc.property(numberIn(-2, 3), numberIn(-400, 400), numberIn(-400, 400), (power, x, y) => {
					const canvas = new RecordedCanvas();
					const here = { ...scene, view: { scale: 10 ** power, x, y } } as MarkScene;
					drawRulers(canvas.context, here, unit);
					const upper = canvas.texts.filter((t) => t.y === 3);
					for (const { text, x: at } of upper) {
						const px = toScreen(here.view, size, Number(text) * MM_PER[unit], 0).x;
						expect(Math.abs(at - 3 - px)).toBeLessThan(1.5);
					}
					const places = upper.map((t) => t.x).sort((a, b) => a - b);
					for (let k = 1; k < places.length; k++) expect(places[k] - places[k - 1]).toBeGreaterThan(60);
					expect(places.length).toBeGreaterThan(1);
					const tall = canvas.texts.filter((t) => Math.abs(t.x - 3) < 1e-6 && t.y > RULER_PX);
					for (const { text, y: at } of tall) {
						const px = toScreen(here.view, size, 0, Number(text) * MM_PER[unit]).y;
						expect(Math.abs(at + 3 - px)).toBeLessThan(1.5);
					}
				}),
				{ numRuns: 60 }
			);
		}
	);

	test('threads of the grid lie on multiples of its step and never too dense', () => {
		for (const scale of [0.02, 0.3, 4, 60]) {
			const canvas = new RecordedCanvas();
			drawGrid(canvas.context, { ...scene, view: { ...view, scale } } as MarkScene, 10);
			const lines = canvas.strokes(DAY.weave);
			const upright = lines.filter(([a, b]) => a[0] === b[0]).map(([a]) => a[0]);
			expect(upright.length).toBeGreaterThan(1);
			const every = upright[1] - upright[0];
			expect(every).toBeGreaterThanOrEqual(11);
			for (const x of upright) {
				const mm = view.x + (x - 0.5 - size.widthPx / 2) / scale;
				expect(Math.abs(mm / 10 - Math.round(mm / 10))).toBeLessThan(0.06 / scale + 1e-9);
			}
		}
	});
});

describe('lines as the surface gets them', () => {
	const line = blob(9, 4, 40);
	/** The largest distance from the line, px, of what was stroked. */
	const farthest = (drawn: readonly Drawn[], at: View): number => {
		const points = Float64Array.from(flattenPath(line, 1e-4), (v, k) =>
			k % 2 ? size.heightPx / 2 - (v - at.y) * at.scale : size.widthPx / 2 + (v - at.x) * at.scale
		);
		const tree = new EdgeTree([{ points, closed: true }]);
		return Math.max(...drawn.flat().map(([x, y]) => tree.distance(x, y)));
	};
	const stroked = (at: View): readonly Drawn[] => {
		const canvas = new RecordedCanvas();
		inMillimetres(canvas.context, at, size, 1);
		canvas.strokeStyle = 'x';
		canvas.lineWidth = 2 / at.scale;
		strokeLine(canvas.context, line, at, size, 1);
		expect(canvas.marks.every((m) => Math.abs(m.width - 2) < 1e-9)).toBe(true);
		return canvas.strokes('x');
	};

	test('at every size they lie where they should, as wide as asked', () => {
		for (const scale of [0.5, 4, 60, 900]) {
			const at = { scale, x: 0, y: 0 };
			expect(farthest(stroked(at), at)).toBeLessThan(0.02 * Math.max(1, scale / 60));
		}
	});

	test('looked at so closely that single precision would show, only what is near is drawn, and rightly', () => {
		const on = flattenPath(line, 1e-4);
		const at = { scale: 20_000, x: on[40], y: on[41] };
		expect(needsRebuilding(line, at.scale)).toBe(true);
		const lines = stroked(at);
		expect(lines.length).toBeGreaterThan(0);
		expect(farthest(lines, at)).toBeLessThan(3);
		const all = lines.flat();
		expect(Math.max(...all.map(([x, y]) => Math.max(Math.abs(x), Math.abs(y))))).toBeLessThan(
			20 * size.widthPx
		);
		// The line goes right through the middle of the window.
		const near = new EdgeTree(lines.map((l) => ({ points: Float64Array.from(l.flat()), closed: false })));
		expect(near.distance(640, 400)).toBeLessThan(3);
	});

	test('far from it nothing is drawn', () => {
		expect(nearPath(line, { scale: 50_000, x: 300, y: 300 }, size)).toMatchObject({ lines: [] });
	});

	test('arcs keep their side, round either way', () => {
		for (const bulge of [1, -1, 0.3, -0.3]) {
			const arc = new PathBuilder(0, 0).arc(bulge, 10, 0).open();
			const [piece] = strokePaths(arc) as unknown as RecordedPath[];
			const ys = piece.lines.flat().map(([, y]) => y);
			const high = 5 * Math.abs(bulge);
			// A positive bulge goes round to the left: from left to right its arc hangs below.
			expect(bulge > 0 ? Math.min(...ys) : Math.max(...ys)).toBeCloseTo(-Math.sign(bulge) * high, 6);
		}
	});

	test('very long lines are parted; parts are built once and stay closed only as a whole', () => {
		const many = polygonPath(
			Array.from({ length: 2400 }, (_, k) => (k % 2 ? Math.sin(k) : k)),
			true
		);
		const parts = strokePaths(many) as unknown as RecordedPath[];
		expect(parts).toHaveLength(3);
		expect(parts.every((p) => p.closed === 0)).toBe(true);
		expect(strokePaths(many)).toBe(parts as unknown);
		const whole = fillPath(many) as unknown as RecordedPath;
		expect(whole.closed).toBe(1);
		expect(fillPath(many)).toBe(whole as unknown);
		expect((fillPath(polygonPath([0, 0, 1, 0, 1, 1], false)) as unknown as RecordedPath).closed).toBe(0);
		const [small] = strokePaths(polygonPath([0, 0, 1, 0, 1, 1])) as unknown as RecordedPath[];
		expect(small.closed).toBe(1);
	});
});

describe('where the tag lies', () => {
	const tag: TagSize = { width: 240, height: 180, right: 1280, foot: 700 };
	const none: NotUnder = { own: [], others: () => false };

	test('it lies in the window, and where it says that nothing lies under it, nothing does', () => {
		const number = numberIn(-300, 300);
		fc.assert(
			fc.property(number, number, fc.array(fc.tuple(number, number), { maxLength: 60 }), (x, y, places) => {
				const own = places.map(([px, py]) => toScreen(view, size, px, py));
				const box = { x0: x, y0: y, x1: x + 20, y1: y + 30 };
				const lies = placeTag(box, view, size, tag, { own, others: () => false });
				expect(lies.x).toBeGreaterThanOrEqual(34);
				expect(lies.y).toBeGreaterThanOrEqual(headPx(size));
				expect(lies.x + tag.width).toBeLessThanOrEqual(tag.right);
				expect(lies.y + tag.height).toBeLessThanOrEqual(tag.foot);
				const under = own.filter(
					(p) => p.x > lies.x && p.x < lies.x + tag.width && p.y > lies.y && p.y < lies.y + tag.height
				);
				if (lies.isFree) expect(under).toEqual([]);
			})
		);
	});

	test('it lies beside what it is tied to, to the right where there is room', () => {
		const box = { x0: 40, y0: -40, x1: 60, y1: -20 };
		const right = toScreen(view, size, 60, 0).x;
		expect(placeTag(box, view, size, tag, none).x).toBe(right + 26);
		// Something else on the right: to the left.
		const busy = placeTag(box, view, size, tag, { own: [], others: (_x0, _y0, x1) => x1 > right + 30 });
		expect(busy.x + tag.width).toBeLessThan(toScreen(view, size, 40, 0).x);
		expect(busy.isFree).toBe(true);
	});

	test('while one draws it lies in a corner; where all is full it hides as little as can be, and says so', () => {
		const box = { x0: 40, y0: -40, x1: 60, y1: -20 };
		const aside = placeTag(box, view, size, { ...tag, aside: true }, none);
		expect([aside.x, aside.y]).toEqual([tag.right - tag.width - 14, headPx(size)]);
		const own = Array.from({ length: 900 }, (_, k) => ({
			x: 20 + 44 * (k % 30),
			y: 20 + 26 * Math.floor(k / 30)
		}));
		const full = placeTag(box, view, size, tag, { own: own.filter((p) => p.x < 1000), others: () => false });
		expect(full.x).toBeGreaterThan(900);
		expect(placeTag(box, view, size, tag, { own, others: () => true }).isFree).toBe(false);
	});
});

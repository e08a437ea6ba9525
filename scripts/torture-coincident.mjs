// Outlines that lie on each other or nearly: moved, turned, scaled by 1e-7 to 1e-2 mm, with shared stretches, more anchors
// on the same line, the other way round, at any size. Each of the four combinations is held against windings reckoned
// here, from the curves themselves, at places half way between both lines and close beside them.
//   npm run torture -- --coincident [--seed 1] [--runs 20000] [--only N] [--show]
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const runs = argument('--runs', 20000);
const only = argument('--only', -1);
const show = process.argv.includes('--show');
const core = await import(pathToFileURL(await buildCore()).href);
const { blob, chance, combine, transformPath, circlePath, polygonPath, reversePath, PathBuilder } = core;
const { pointAt, partOf, nearestOn, CUBIC, STRAIGHT, STRIDE } = core;

/** Nearer than this (mm) is the same place; from `APART` on lines are apart. */
const SAME = 1e-6;
const APART = 1e-5;

const spread = (rnd, list) => list[Math.floor(rnd() * list.length)];

function shape(rnd) {
	const kind = Math.floor(rnd() * 5);
	if (kind === 0) return blob(spread(rnd, [4, 6, 12, 24, 60]), 1 + Math.floor(rnd() * 1e6), 8 + 12 * rnd());
	if (kind === 1) return circlePath(0, 0, 3 + 7 * rnd());
	if (kind === 2) {
		const n = 3 + Math.floor(rnd() * 9);
		return polygonPath(
			Array.from({ length: n }, (_, i) => {
				const r = 5 + 10 * rnd();
				return [r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n)];
			}).flat()
		);
	}
	// Straights, arcs and cubics in turn around a middle.
	const n = 4 + Math.floor(rnd() * 8);
	const at = (i, r) => [r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n)];
	const radii = Array.from({ length: n }, () => 6 + 6 * rnd());
	const builder = new PathBuilder(...at(0, radii[0]));
	for (let i = 1; i <= n; i++) {
		const to = at(i, radii[i % n]);
		const which = kind === 3 ? 2 : Math.floor(rnd() * 3);
		if (which === 0) builder.line(...to);
		else if (which === 1) builder.arc(0.1 + 0.3 * rnd(), ...to);
		else builder.cubic(...at(i - 0.7, radii[i - 1] + rnd()), ...at(i - 0.3, radii[i % n] - rnd()), ...to);
	}
	return builder.close(1e-9);
}

/** The same line with more anchors on it. */
function cutMore(path, rnd) {
	const types = [];
	const segs = [];
	for (let i = 0; i < path.types.length; i++) {
		const cuts = rnd() < 0.4 ? [0, 0.1 + 0.8 * rnd(), 1] : [0, 1];
		for (let k = 0; k + 1 < cuts.length; k++) {
			types.push(path.types[i]);
			segs.push(...partOf(path.types[i], path.segs, STRIDE * i, cuts[k], cuts[k + 1]));
		}
	}
	for (let i = 0; i < types.length; i++) {
		const j = (i + 1) % types.length;
		segs[STRIDE * j] = segs[STRIDE * i + 6];
		segs[STRIDE * j + 1] = segs[STRIDE * i + 7];
	}
	return { closed: true, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}

/** A stretch of it replaced by another way outside. */
function otherWay(path, rnd) {
	const n = path.types.length;
	if (n < 4) return path;
	const first = 1 + Math.floor(rnd() * (n - 2));
	const last = first + Math.floor(rnd() * Math.min(3, n - 1 - first));
	const types = [...path.types.subarray(0, first), CUBIC, ...path.types.subarray(last + 1)];
	const [x0, y0] = path.segs.subarray(STRIDE * first, STRIDE * first + 2);
	const [x1, y1] = path.segs.subarray(STRIDE * last + 6, STRIDE * last + 8);
	const out = 1 + 0.6 * rnd();
	const segs = [
		...path.segs.subarray(0, STRIDE * first),
		...[x0, y0, x0 * out, y0 * out, x1 * out, y1 * out, x1, y1],
		...path.segs.subarray(STRIDE * (last + 1))
	];
	return { closed: true, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}

/** Moved, turned or scaled so that places move by about `by` mm. */
function nudged(path, by, size, rnd) {
	const way = Math.floor(rnd() * 4);
	const angle = (by / (size || 1)) * (rnd() < 0.5 ? -1 : 1);
	const dir = 2 * Math.PI * rnd();
	if (way === 0) return transformPath(path, [1, 0, 0, 1, by * Math.cos(dir), by * Math.sin(dir)]);
	if (way === 1)
		return transformPath(path, [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), 0, 0]);
	if (way === 2) return transformPath(path, [1 + angle, 0, 0, 1 + angle, 0, 0]);
	// Each anchor for itself.
	const segs = Float64Array.from(path.segs);
	const n = path.types.length;
	for (let i = 0; i < n; i++) {
		const dx = by * (2 * rnd() - 1);
		const dy = by * (2 * rnd() - 1);
		const before = (i + n - 1) % n;
		segs[STRIDE * i] += dx;
		segs[STRIDE * i + 1] += dy;
		segs[STRIDE * before + 6] = segs[STRIDE * i];
		segs[STRIDE * before + 7] = segs[STRIDE * i + 1];
		if (path.types[i] === CUBIC) {
			segs[STRIDE * i + 2] += dx;
			segs[STRIDE * i + 3] += dy;
		}
		if (path.types[before] === CUBIC) {
			segs[STRIDE * before + 4] += dx;
			segs[STRIDE * before + 5] += dy;
		}
	}
	for (let i = 0; i < n; i++) {
		if (path.types[i] !== STRAIGHT) continue;
		const a = STRIDE * i;
		for (let k = 0; k < 2; k++) {
			const third = (segs[a + 6 + k] - segs[a + k]) / 3;
			segs[a + 2 + k] = segs[a + k] + third;
			segs[a + 4 + k] = segs[a + 6 + k] - third;
		}
	}
	return { ...path, segs };
}

/** Where a segment runs level or may: parameters between which y goes one way only, found by looking closely. */
function fallsOf(type, s, at) {
	if (type === STRAIGHT) return [0, 1];
	const stops = [0];
	const N = 24;
	const dy = (t) => pointAt(type, s, at, t + 1e-6).y - pointAt(type, s, at, t - 1e-6).y;
	let before = dy(1e-6);
	for (let k = 1; k <= N; k++) {
		const t = Math.min(k / N, 1 - 1e-6);
		const here = dy(t);
		if (here > 0 !== before > 0) {
			let [lo, hi] = [(k - 1) / N, t];
			for (let n = 0; n < 40; n++) {
				const mid = (lo + hi) / 2;
				if (dy(mid) > 0 === before > 0) lo = mid;
				else hi = mid;
			}
			stops.push((lo + hi) / 2);
		}
		before = here;
	}
	stops.push(1);
	return stops;
}

/** Winding of closed paths around a place, from the curves themselves by halving. */
function windingOf(paths, x, y) {
	let sum = 0;
	for (const { types, segs, falls } of paths) {
		for (let i = 0; i < types.length; i++) {
			const at = STRIDE * i;
			const stops = falls[i];
			for (let k = 0; k + 1 < stops.length; k++) {
				const ya = k === 0 ? segs[at + 1] : pointAt(types[i], segs, at, stops[k]).y;
				const yb = k + 2 === stops.length ? segs[at + 7] : pointAt(types[i], segs, at, stops[k + 1]).y;
				if (ya <= y === yb <= y) continue;
				let [lo, hi] = [stops[k], stops[k + 1]];
				for (let n = 0; n < 54; n++) {
					const mid = (lo + hi) / 2;
					if (pointAt(types[i], segs, at, mid).y <= y === ya <= y) lo = mid;
					else hi = mid;
				}
				if (pointAt(types[i], segs, at, (lo + hi) / 2).x > x) sum += ya > yb ? -1 : 1;
			}
		}
	}
	return sum;
}
const withFalls = (path) => ({
	...path,
	falls: Array.from(path.types, (type, i) => fallsOf(type, path.segs, STRIDE * i))
});

function nearest(path, x, y) {
	let best = { distance: Infinity };
	for (let i = 0; i < path.types.length; i++) {
		const near = nearestOn(path.types[i], path.segs, STRIDE * i, x, y);
		if (near.distance < best.distance) best = { ...near, segment: i };
	}
	return best;
}
const placeOn = (path, { segment, t }) => pointAt(path.types[segment], path.segs, STRIDE * segment, t);

const OPS = {
	union: (a, b) => a || b,
	difference: (a, b) => a && !b,
	intersection: (a, b) => a && b,
	xor: (a, b) => a !== b
};
const counts = { runs: 0, failed: 0, net: 0, wrong: 0, off: 0, places: 0, slowest: 0 };
let worst = 0;
const said = new Map();
function say(i, what, more) {
	said.set(what, (said.get(what) ?? 0) + 1);
	if (show || said.get(what) <= 12) console.log(`case ${i} ${what} ${more}`);
}

for (let i = 0; counts.runs < runs; i++) {
	const rnd = chance(seed * 1_000_003 + i);
	if (only >= 0 && i > only) break;
	const scale = spread(rnd, [0.1, 1, 1, 1, 10, 60]);
	const base = shape(rnd);
	const a = transformPath(base, [scale, 0, 0, scale, scale * 40 * rnd(), scale * 40 * rnd()]);
	const by = 10 ** (-7 + 5 * rnd());
	let b = a;
	const what = [];
	const ways = [
		[0.5, 'other way', () => otherWay(b, rnd)],
		[0.4, 'cut', () => cutMore(b, rnd)],
		[0.8, `by ${by.toExponential(1)}`, () => nudged(b, by, 15 * scale, rnd)],
		[0.3, 'back', () => reversePath(b)]
	];
	for (const [share, name, make] of ways) {
		if (rnd() >= share) continue;
		b = make();
		what.push(name);
	}
	counts.runs += 4;
	if (only >= 0 && i !== only) continue;
	const inputs = [[{ paths: [a], rule: 'nonzero' }], [{ paths: [b], rule: 'nonzero' }]];
	const [wa, wb] = [withFalls(a), withFalls(b)];
	// Places: half way between both lines where they are apart, and beside them.
	const places = [];
	for (let k = 0; k < 24; k++) {
		const [p, q] = rnd() < 0.5 ? [a, b] : [b, a];
		const here = { segment: Math.floor(rnd() * p.types.length), t: rnd() };
		const at = placeOn(p, here);
		const near = nearest(q, at.x, at.y);
		const other = placeOn(q, near);
		const mid =
			near.distance < 0.5
				? { x: (at.x + other.x) / 2, y: (at.y + other.y) / 2 }
				: { x: at.x + APART * (rnd() - 0.5) * 8, y: at.y + APART * (rnd() - 0.5) * 8 };
		places.push(mid, { x: at.x + 2 * APART * (rnd() < 0.5 ? -1 : 1), y: at.y + 2 * APART * (rnd() - 0.5) });
	}
	const clear = places.filter(
		({ x, y }) => Math.min(nearest(a, x, y).distance, nearest(b, x, y).distance) >= APART / 2
	);
	const insides = clear.map(({ x, y }) => [windingOf([wa], x, y) !== 0, windingOf([wb], x, y) !== 0]);
	for (const [op, rule] of Object.entries(OPS)) {
		const start = performance.now();
		let result;
		try {
			result = combine(inputs, op, { verify: true });
		} catch (error) {
			result = { ok: false, problem: { code: `threw: ${error.message}` } };
		}
		counts.slowest = Math.max(counts.slowest, performance.now() - start);
		const name = `${op} (${what.join(', ')}, size ${scale})`;
		if (!result.ok) {
			counts.failed++;
			say(i, 'failed', `${name}: ${result.problem.code}`);
			continue;
		}
		if (result.value.fallback) {
			counts.net++;
			say(i, 'net', name);
			continue;
		}
		const paths = result.value.pieces.flatMap((p) => p.paths);
		let off = 0;
		for (const path of paths)
			for (let s = 0; s < path.types.length; s++)
				for (const t of [0, 0.13, 0.5, 0.81]) {
					const p = pointAt(path.types[s], path.segs, STRIDE * s, t);
					off = Math.max(off, Math.min(nearest(a, p.x, p.y).distance, nearest(b, p.x, p.y).distance));
				}
		worst = Math.max(worst, off);
		if (off > SAME) {
			counts.off++;
			say(i, 'off', `${name}: ${off.toExponential(1)} mm`);
		}
		const wr = paths.map(withFalls);
		let wrong = 0;
		clear.forEach(({ x, y }, k) => {
			counts.places++;
			const isIn = windingOf(wr, x, y) !== 0;
			if (isIn !== rule(...insides[k])) wrong++;
		});
		if (wrong) {
			counts.wrong++;
			say(i, 'wrong', `${name}: ${wrong} of ${clear.length} places`);
		}
	}
}
console.log(
	`${counts.runs} runs with seed ${seed}: ${counts.failed} failed, ${counts.net} by the polygon net (${((100 * counts.net) / counts.runs).toFixed(3)} %), ${counts.off} off by more than ${SAME} mm (worst ${worst.toExponential(1)}), ${counts.wrong} wrong at any of ${counts.places} places, slowest ${Math.round(counts.slowest)} ms`
);
process.exit(counts.failed + counts.net + counts.off + counts.wrong ? 1 : 0);

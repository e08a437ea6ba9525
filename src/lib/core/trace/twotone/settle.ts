/**
 * The likeliest places of an outline in a picture whose pixels were only told ink or paper: its anchors and handles go
 * together until as many pixels' middles as can be lie on the side that their pixel says. Where sides meet their pixels
 * tell the corner together; where they tell nothing the outline stays as it was.
 */
import type { Path } from '../../geometry/path';
import { Equations } from '../../linear/ways';
import { Line } from './line';
import { placesOf, through, type Places } from './places';
import { nearestAgain, sideOf, type Beside } from './sides';

/** px: how far an anchor goes, and a handle beside its anchors, before pixels have to say so. */
const ANCHOR = 1.5;
const HANDLE = 0.5;
/** Radians: a joint that turns less runs on smoothly, and goes on doing so; how far it may turn in doing it. */
const SMOOTH = 0.05;
const TURN = 1 / 400;
/** px: the farthest that any place goes in one step, and what is no step any more. */
const STRETCH = 0.7;
const STILL = 1e-3;
const ROUNDS = 10;
/** A step that makes no more likelier than this is the last. */
const ENOUGH = 0.03;

/** How well an outline agrees with the pixels beside it. */
export interface Agreement {
	/** How unlikely what the pixels say is, of each segment; natural logarithms, less is better. */
	readonly costs: Float64Array;
	/** px: how far middles lie on the wrong side, added up along each segment. */
	readonly wrong: Float64Array;
}

/**
 * @param spread px: a pixel says its side as surely as a logistic of this spread.
 * @param asked where given, what the pixels ask of the outline's places is added to it.
 */
export function agreement(
	line: Line,
	beside: Beside,
	spread: number,
	asked?: { readonly equations: Equations; readonly places: Places }
): Agreement {
	const n = line.path.types.length;
	const costs = new Float64Array(n);
	const wrong = new Float64Array(n);
	const by = new Float64Array(8);
	const needles = needlesOf(line);
	for (let i = 0; i < beside.count; i++) {
		const off = nearestAgain(line, beside, i);
		const sure = off / spread;
		const [x, y, tone] = [beside.x[i], beside.y[i], beside.tone[i]];
		const side = sideOf(line, x, y);
		const margin = side === tone ? sure : -sure;
		if (margin > NOTHING_NEW || (margin < 0 && side > 0 && isInNeedle(line, needles, off, x, y))) continue;
		costs[line.k] += Math.log1p(Math.exp(-Math.max(-500, margin)));
		if (margin < 0) wrong[line.k] += off;
		if (!asked) continue;
		const doubt = 1 / (1 + Math.exp(margin));
		// From ink to paper, square to the outline.
		if (off < 1e-6) line.moves(-line.dy, line.dx, by);
		else line.moves((side * (line.x - x)) / off, (side * (line.y - y)) / off, by);
		const weight = Math.max(LEAST_WEIGHT, doubt * (1 - doubt)) / (spread * spread);
		asked.equations.add(asked.places.of[line.k], by, weight, (tone * doubt) / spread);
	}
	return { costs, wrong };
}

/** Which joints are tips of needles. */
function needlesOf(line: Line): Uint8Array {
	return Uint8Array.from(line.path.types, (_, k) => (turnAt(line, k) < -NEEDLE ? 1 : 0));
}
/** px: what is narrower than this covers no pixel by half. */
const HALF = 0.5;
/** Radians by which the line turns back at the tip of a needle, at least. */
const NEEDLE = (2 / 3) * Math.PI;

/** Whether a place on the ink's side, \`off\` px from the line, lies where a needle is too narrow for any pixel to be ink. */
function isInNeedle(line: Line, needles: Uint8Array, off: number, x: number, y: number): boolean {
	const { k, t } = line;
	const n = needles.length;
	const other = needles[k] && t < 0.5 ? (k + n - 1) % n : needles[(k + 1) % n] ? (k + 1) % n : -1;
	if (other < 0) return false;
	const across = line.nearest(other, other === (k + 1) % n ? 0 : 1, x, y);
	line.go(k, t);
	return off + across < HALF;
}

/** Spreads beyond which a pixel on its side says nothing any more. */
const NOTHING_NEW = 12;
/** A pixel far on the wrong side pulls, but does not say how far; with some weight steps stay short. */
const LEAST_WEIGHT = 0.02;

/**
 * A closed outline as the pixels beside it have it. Yields between steps.
 * @param isFree of which segments the places may go, all but those that others share; of all where nothing is said.
 */
export function* settled(
	path: Path,
	beside: Beside,
	spread: number,
	isFree?: ArrayLike<number>,
	rounds = ROUNDS
): Generator<void, Path> {
	const first = placesOf(path);
	const isHeld = new Uint8Array(first.x.length);
	if (isFree) first.of.forEach((own, k) => isFree[k] || own.forEach((place) => (isHeld[place] = 1)));
	const smooth = smoothJoints(path);
	const look = (here: Path) => {
		const line = new Line(here);
		const places = placesOf(here);
		const equations = new Equations(places.x.length);
		const { costs } = agreement(line, beside, spread, { equations, places });
		let cost = costs.reduce((sum, c) => sum + c, 0);
		cost += keepStill(first, places, equations) + keepSmooth(line, places, smooth, equations);
		return { here, places, equations, cost };
	};
	let state = look(path);
	for (let round = 0; round < rounds; round++) {
		yield;
		const { places, equations, cost } = state;
		const [dx, dy] = equations.solve(isHeld);
		let most = 0;
		dx.forEach((d, k) => (most = Math.max(most, Math.hypot(d, dy[k]))));
		if (most < STILL) break;
		let share = Math.min(1, STRETCH / most);
		let next: typeof state | undefined;
		for (let tries = 0; tries < 5 && !next; tries++, share /= 2) {
			const [x, y] = [places.x.map((v, k) => v + share * dx[k]), places.y.map((v, k) => v + share * dy[k])];
			const there = through(path.types, { ...places, x, y });
			const tried = there && look(there);
			if (tried && tried.cost < cost) next = tried;
		}
		if (!next) break;
		const isEnough = next.cost > cost - ENOUGH;
		state = next;
		if (isEnough) break;
	}
	return state.here;
}

/** Nothing moves without a reason. */
function keepStill(first: Places, { x, y, of }: Places, equations: Equations): number {
	let cost = 0;
	const keep = (at: readonly number[], shares: readonly number[], spread: number) => {
		const weight = 1 / (spread * spread);
		for (const axis of [0, 1]) {
			const [now, then] = axis === 0 ? [x, first.x] : [y, first.y];
			const gone = at.reduce((sum, p, i) => sum + shares[i] * (now[p] - then[p]), 0);
			cost += 0.5 * weight * gone * gone;
			const by = shares.flatMap((share) => (axis === 0 ? [share, 0] : [0, share]));
			equations.add(at, by, weight, -weight * gone);
		}
	};
	for (const own of of) {
		const last = own.length - 1;
		// Over the same list as the pixels' equations.
		const shares = (i: number, before: number, after: number) =>
			own.map((_, k) => (k === i ? 1 : 0) - (k === 0 ? before : k === last ? after : 0));
		keep(own, shares(0, 0, 0), ANCHOR);
		for (let i = 1; i < last; i++) keep(own, shares(i, 1 - i / last, i / last), HANDLE);
	}
	return cost;
}

/** Which segments begin where the line runs on smoothly. */
function smoothJoints(path: Path): number[] {
	const line = new Line(path);
	return Array.from(path.types.keys()).filter((k) => Math.abs(turnAt(line, k)) < SMOOTH);
}

/** Radians to the left where segment k begins. */
function turnAt(line: Line, k: number): number {
	const n = line.path.types.length;
	line.go((k + n - 1) % n, 1);
	const { dx, dy } = line;
	line.go(k, 0);
	return Math.atan2(dx * line.dy - dy * line.dx, dx * line.dx + dy * line.dy);
}

/** What ran on smoothly goes on doing so. */
function keepSmooth(line: Line, { of }: Places, smooth: readonly number[], equations: Equations): number {
	const weight = 1 / (TURN * TURN);
	let cost = 0;
	for (const k of smooth) {
		const a = (k + of.length - 1) % of.length;
		const turn = turnAt(line, k);
		cost += 0.5 * weight * turn * turn;
		const by = new Float64Array(2 * (of[a].length + of[k].length));
		line.turns(a, 1, -1, by, 0);
		line.turns(k, 0, 1, by, 2 * of[a].length);
		equations.add([...of[a], ...of[k]], by, weight, -weight * turn);
	}
	return cost;
}

/**
 * The likeliest places of lines by the pixels beside them: their anchors and handles go together until the pixels are as likely
 * as can be. Where sides meet their pixels tell the corner together; where they tell nothing the lines stay as they were.
 */
import { Equations } from '../../linear/ways';
import { Line } from './line';
import type { Net } from './net';
import { placesOf, through, type Places } from './places';
import { turnAt, type Beside } from './beside';

/** px: how far an anchor goes, and a handle beside its anchors, before pixels have to say so. */
const ANCHOR = 1.5;
const HANDLE = 0.5;
/** Radians: a joint that turns less runs on smoothly, and goes on doing so; how far it may turn in doing it. */
export const SMOOTH = 0.05;
const TURN = 1 / 400;
/** px: the farthest that any place goes in one step, and what is no step any more. */
const STRETCH = 0.7;
const STILL = 1e-3;
/** Segments from which on a step is judged by their number. */
const OF_MANY = 30;

/** How well lines agree with the pixels beside them, of each of their segments. */
export interface Agreement {
	/** How unlikely what the pixels say is; natural logarithms, less is better. */
	readonly costs: Float64Array;
	/** How unlikely it would be beside the right outline. */
	readonly due: Float64Array;
	/** How much unlikelier than beside the right outline it is near its start and near its end, where junctions may be. */
	readonly atStart: Float64Array;
	readonly atEnd: Float64Array;
	/** How many pixels say something of it. */
	readonly seen: Float64Array;
	/** How rough the pixels seem, in spreads as `Witness.agreement` takes them. */
	readonly rough: Float64Array;
}

/** What a picture says of an outline. */
export interface Witness {
	/** Where an outline lies is told by the single pixel, so that one that agrees need not be settled. */
	readonly isTold: boolean;
	/** How many neighbouring pixels are rough together, where they are rough. */
	readonly together: number;
	/** An edge that seems no rougher is an even one, as far as its outline fits by now. */
	readonly even: number;
	/** px: how far from the outline pixels say something at a spread. */
	readonly reach: (spread: number) => number;
	/**
	 * @param spread how surely pixels say what they say.
	 * @param asked where given, what the pixels ask of the outline's places is added to it.
	 */
	readonly agreement: (line: Line, beside: Beside, spread: number, asked?: Asked) => Agreement;
}

export interface Asked {
	readonly equations: Equations;
	readonly places: Places;
}

export interface Settling {
	/** How surely pixels say what they say. */
	readonly spread: number;
	/** Of which segments the places may go, all but those that others share; of all where nothing is said. */
	readonly isFree?: ArrayLike<number>;
	/** At most. */
	readonly steps: number;
	/** A step that makes no more likelier is the last; of many segments in this share of each. */
	readonly enough: number;
}

/** Lines as the pixels beside them have them. Yields between steps. */
export function* settled(
	net: Net,
	beside: Beside,
	witness: Witness,
	{ spread, isFree, steps, enough }: Settling
): Generator<void, Net> {
	const first = placesOf(net);
	const isHeld = new Uint8Array(first.x.length);
	if (isFree) first.of.forEach((own, k) => isFree[k] || own.forEach((place) => (isHeld[place] = 1)));
	const smooth = smoothJoints(net);
	const look = (here: Net) => {
		const line = new Line(here);
		const places = placesOf(here);
		const equations = new Equations(places.x.length);
		const { costs } = witness.agreement(line, beside, spread, { equations, places });
		let cost = costs.reduce((sum, c) => sum + c, 0);
		cost += keepStill(first, places, equations) + keepSmooth(line, places, smooth, equations);
		return { here, places, equations, cost };
	};
	const least = enough * Math.max(1, net.types.length / OF_MANY);
	let state = look(net);
	for (let step = 0; step < steps; step++) {
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
			const there = through(net, { ...places, x, y });
			yield;
			const tried = there && look(there);
			if (tried && tried.cost < cost) next = tried;
		}
		if (!next) break;
		const isEnough = next.cost > cost - least;
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
function smoothJoints(net: Net): number[] {
	const line = new Line(net);
	return Array.from(net.types.keys()).filter((k) => Math.abs(turnAt(line, k) ?? Infinity) < SMOOTH);
}

/** What ran on smoothly goes on doing so. */
function keepSmooth(line: Line, { of }: Places, smooth: readonly number[], equations: Equations): number {
	const weight = 1 / (TURN * TURN);
	let cost = 0;
	for (const k of smooth) {
		const a = line.course.before[k];
		const turn = turnAt(line, k) ?? 0;
		cost += 0.5 * weight * turn * turn;
		const by = new Float64Array(2 * (of[a].length + of[k].length));
		line.turns(a, 1, -1, by, 0);
		line.turns(k, 0, 1, by, 2 * of[a].length);
		equations.add([...of[a], ...of[k]], by, weight, -weight * turn);
	}
	return cost;
}

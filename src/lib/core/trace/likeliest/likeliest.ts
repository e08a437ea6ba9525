/** The likeliest lines in a picture: settled on its pixels, and of the kinds of segments that these ask for. */
import { fewSquares, pixelsBeside, type Squares } from './beside';
import { changed, changesOf, gains, isSeen, type Change, type Settled } from './changes';
import { Line } from './line';
import { STRIDE } from '../../geometry/path';
import { around, courseOf, endsOf, meetingAt, partOf, type Net } from './net';
import { settled as settledOn, type Agreement, type Witness } from './settle';

/** px: how surely pixels say their side at first, and at most. */
const FIRST = 0.2;
const FINEST = 0.02;
/** px: what is more even than that tells more than it is counted for. */
const EVEN = 0.008;
/** From round to round pixels are taken to be so much surer, and what no step need make likelier; with pixels to spare in longer steps. */
const CAREFUL = { surer: 0.5, enough: 0.03 };
const QUICK = { surer: 0.35, enough: 0.1 };
const SURER_BY = 0.8;
/** What a segment more has to make likelier; natural logarithms. */
const WORTH = 6;
const ROUNDS = 16;
/** Rounds in which nothing came of any change that could be made. */
const IDLE = 2;
/** px: rougher edges do not tell which segments they are of. */
const ROUGH = 0.13;

export interface Asking {
	/** Whether segments may be put in and taken out. */
	readonly mayChange: boolean;
	/** Of long segments one stretch in so many is asked. */
	readonly oneIn: number;
}

/** In so many edge points: the more there are the fewer of their pixels have to be asked for the same answer. */
export const askedOneIn = (edgePoints: number): number =>
	Math.min(FEWEST, Math.max(1, Math.floor(edgePoints / ALL_ASKED)));
const ALL_ASKED = 6000;
const FEWEST = 8;

/**
 * @returns the likeliest lines; the given ones where the pixels' edges are too rough to say more. Yields between steps.
 */
export function* likeliest(net: Net, witness: Witness, { mayChange, oneIn }: Asking): Generator<void, Net> {
	const isMany = oneIn > 1;
	const { surer, enough } = isMany ? QUICK : CAREFUL;
	const squares = isMany ? fewSquares(new Line(net), oneIn) : undefined;
	if (witness.isTold && isAgreed(net, witness, squares)) return net;
	let best = yield* at(net, FIRST, FIRST);
	if (!isSeen(best, [...net.types.keys()], GLANCED) || (witness.isTold && roughness(best) > ROUGH))
		return net;
	let idle = 0;
	const vain = new Set<number>();
	const again = new Set<number>();
	for (let round = 0; round < ROUNDS && roughness(best) <= ROUGH; round++) {
		const rough = Math.min(FIRST, roughness(best));
		const spread = rough < witness.even ? FINEST : Math.max(FINEST, rough);
		const isSurer = spread < SURER_BY * best.spread;
		if (isSurer)
			best = yield* at(best.net, isMany ? Math.max(spread, surer * best.spread) : best.spread, spread);
		const isEven = roughness(best, MOST) < EVEN;
		const worth = WORTH * (isEven ? 1 : witness.together);
		const places = mayChange ? changesOf(best, isEven, worth, round % 2 === 0 ? vain : undefined) : [];
		const { kept, settled } = yield* worthwhile(best, places);
		for (const [{ junction }] of places) if (junction) vain.add(junction.number);
		for (const { junction } of kept) {
			if (!junction || again.has(junction.number)) continue;
			// What helped once may help once more.
			again.add(junction.number);
			vain.delete(junction.number);
		}
		best = settled;
		const isNew = places.some(([{ junction }]) => junction);
		idle = kept.length > 0 || isSurer || isNew ? 0 : idle + 1;
		if (idle === IDLE) break;
	}
	return best.net;

	/** The lines settled with pixels ever surer; what is told of segments that are not free counts for nothing. */
	function* at(start: Net, from: number, to: number, isFree?: Uint8Array): Generator<void, Settled> {
		let here = start;
		for (let spread = from; ; spread = Math.max(to, surer * spread)) {
			const beside = pixelsBeside(new Line(here), witness.reach(spread), isFree, squares);
			const steps = spread > to ? PASSING : STEPS;
			here = yield* settledOn(here, beside, witness, { spread, isFree, steps, enough });
			if (spread > to) continue;
			return {
				net: here,
				spread: to,
				along: beside.along,
				...witness.agreement(new Line(here), beside, to)
			};
		}
	}

	/**
	 * Of what can be changed, and in which ways, what makes the lines enough likelier, in the way that makes them likeliest; and the lines
	 * with that.
	 */
	function* worthwhile(
		before: Settled,
		places: readonly (readonly Change[])[]
	): Generator<void, { kept: Change[]; settled: Settled }> {
		const best: ({ change: Change; gain: number } | undefined)[] = [];
		const tries: { changes: Change[]; after: Settled }[] = [];
		for (let way = 0; places.some((ways) => way < ways.length); way++) {
			const asked = places.flatMap((ways, place) => (way < ways.length ? { place, change: ways[way] } : []));
			const changes = asked.map(({ change }) => change);
			const after = yield* finer(before, changes);
			tries.push({ changes, after });
			gains(before, changes, after).forEach((gain, k) => {
				const { place, change } = asked[k];
				if (gain >= change.worth && gain > (best[place]?.gain ?? -Infinity)) best[place] = { change, gain };
			});
		}
		const kept = best.flatMap((one) => (one ? one.change : []));
		if (kept.length === 0) return { kept, settled: before };
		// What was tried just so need not be settled again.
		const same = tries.find(
			({ changes }) => changes.length === kept.length && changes.every((change, k) => change === kept[k])
		);
		return { kept, settled: same ? same.after : yield* finer(before, kept) };
	}

	/** The same with changes made, settled about them. */
	function* finer(before: Settled, changes: readonly Change[]): Generator<void, Settled> {
		const { net, from } = changed(before.net, changes);
		const { isFree, isBeside } = aboutNew(net, from);
		const part = partOf(net, isBeside);
		const first = changes.some(({ beside }) => beside) ? FIRST : before.spread / surer;
		const free = Uint8Array.from(part.of, (k) => isFree[k]);
		const settled = yield* at(part.net, first, before.spread, free);
		const told = (list: (from: Settled) => Float64Array) => {
			const out = Float64Array.from(from, (old) => (old < 0 ? 0 : list(before)[old]));
			part.of.forEach((k, i) => {
				if (isFree[k]) out[k] = list(settled)[i];
			});
			return out;
		};
		const segs = net.segs.slice();
		part.of.forEach((k, i) =>
			segs.set(settled.net.segs.subarray(STRIDE * i, STRIDE * i + STRIDE), STRIDE * k)
		);
		return {
			net: { ...net, segs },
			spread: before.spread,
			along: told(({ along }) => along),
			costs: told(({ costs }) => costs),
			due: told(({ due }) => due),
			atStart: told(({ atStart }) => atStart),
			atEnd: told(({ atEnd }) => atEnd),
			seen: told(({ seen }) => seen),
			rough: told(({ rough }) => rough)
		};
	}
}

/** Whether lines are already as likely as can be. */
function isAgreed(net: Net, witness: Witness, squares: Squares | undefined): boolean {
	const line = new Line(net);
	const beside = pixelsBeside(line, witness.reach(FINEST), undefined, squares);
	const { costs, due } = witness.agreement(line, beside, FINEST);
	return costs.every((cost, k) => cost <= AGREED * due[k] + 1);
}
/** Of what pixels cost that scatter by the finest spread. */
const AGREED = 0.5;

/** Steps with pixels that are to become surer yet, and with those that are as sure as they get. */
const PASSING = 3;
const STEPS = 10;
/** Segments beside a change that go with it. */
const AROUND = 2;

/**
 * What goes with new segments: those about them, and all that meet where these end; and besides what holds those and says what lies
 * beside their pixels: their neighbours, and all that meet where these end.
 */
function aboutNew(net: Net, from: readonly number[]): { isFree: Uint8Array; isBeside: Uint8Array } {
	const course = courseOf(net);
	const ends = endsOf(course);
	const [isFree, isBeside] = [new Uint8Array(from.length), new Uint8Array(from.length)];
	from.forEach((old, k) => {
		if (old >= 0) return;
		for (const own of around(course, k, AROUND)) {
			isFree[own] = 1;
			for (const { segment } of meetingAt(course, ends, own))
				for (const other of around(course, segment, AROUND)) isFree[other] = 1;
		}
	});
	isFree.forEach((free, k) => {
		for (const own of free ? around(course, k, AROUND) : []) {
			isBeside[own] = 1;
			for (const { segment } of meetingAt(course, ends, own)) isBeside[segment] = 1;
		}
	});
	return { isFree, isBeside };
}

/** How rough the pixels are about lines, of those in the middle of all: where lines err, they err in places. */
function roughness({ rough, seen }: Agreement, share = 0.5): number {
	const order = Array.from(rough.keys()).sort((a, b) => rough[a] - rough[b]);
	const most = share * seen.reduce((sum, n) => sum + n, 0);
	let before = 0;
	return rough[order.find((k) => (before += seen[k]) >= most)!];
}
/** Edges along the rows are even in a rough picture too. */
const MOST = 0.9;

/** The same, for the rest of the lines to be told by them. */
const GLANCED = 0.3;

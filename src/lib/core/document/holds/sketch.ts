/** Holds of a drawing as equations over the places that they are about, and answers back into outlines. */
import * as eq from '../../holds/equations';
import type { ArcSpots, Equation, SeamSegment, Spot } from '../../holds/equations';
import { flow } from '../edits/anchors';
import type { DrawingRecord } from '../drawing';
import { ARC, CUBIC, STRAIGHT } from '../../geometry/path';
import { ANCHOR_STRIDE, handleAt, segmentTypeOf, type Outline } from '../outline';
import type { Hold, HoldPlace } from './hold';
import { seamSegments } from './places';
import { sizesIn, valueOf, valuesOf } from './sizes';

type Records = ReadonlyMap<string, DrawingRecord>;

/** One place whose numbers are unknown: where it stands in its outline's numbers. */
interface Unknown {
	readonly outline: string;
	readonly anchor: number;
	/** Which numbers: the anchor's place, a handle's, or the bulge of the segment that it leaves. */
	readonly what: 'anchor' | 'in' | 'out' | 'bulge';
	readonly at: Spot;
}

/** Equations of holds, with what their unknowns are. */
export class Sketch {
	readonly equations: Equation[] = [];
	readonly unknowns: Unknown[] = [];
	private readonly known = new Map<string, Unknown>();
	private size = 0;

	/** @throws CoreError `bad-formula` */
	constructor(
		records: Records,
		readonly holds: readonly Hold[]
	) {
		const values = valuesOf(sizesIn(records.values()));
		holds.forEach((hold, index) => {
			for (const make of this.equationsOf(hold, records, values)) this.equations.push(...make(index));
		});
	}

	private unknown(place: HoldPlace, what: Unknown['what']): Spot {
		const key = `${place.outline} ${place.anchor} ${what}`;
		let own = this.known.get(key);
		if (!own) {
			own = { outline: place.outline, anchor: place.anchor, what, at: this.size };
			this.size += what === 'bulge' ? 1 : 2;
			this.known.set(key, own);
			this.unknowns.push(own);
		}
		return own.at;
	}
	private spot(place: HoldPlace): Spot {
		return this.unknown(place, place.side ?? 'anchor');
	}
	private arc(from: HoldPlace, to: HoldPlace): ArcSpots {
		return { from: this.spot(from), to: this.spot(to), bulge: this.unknown(from, 'bulge') };
	}

	/** The segments of a seam between two corners, in the order of their line. */
	private seam([from, to]: readonly HoldPlace[], records: Records): SeamSegment[] {
		const outline = records.get(from.outline);
		if (outline?.type !== 'outline') return [];
		return seamSegments(outline, from.anchor, to.anchor).map((i): SeamSegment => {
			const next = (i + 1) % outline.anchors.length;
			const [a, b] = [i, next].map((k) => ({ outline: outline.id, anchor: outline.anchors[k] }));
			const type = segmentTypeOf(outline, i);
			const ends = { from: this.unknown(a, 'anchor'), to: this.unknown(b, 'anchor') };
			if (type === ARC) return { type, ...ends, bulge: this.unknown(a, 'bulge') };
			if (type !== CUBIC) return { type: STRAIGHT, ...ends };
			return { type, ...ends, out: this.unknown(a, 'out'), in: this.unknown(b, 'in') };
		});
	}

	private equationsOf(hold: Hold, records: Records, values: Readonly<Record<string, number>>) {
		const { kind, on } = hold;
		const value = () => valueOf(hold.value ?? '0', values);
		if (kind === 'radius') return [eq.radius(this.arc(on[0], on[1]), value())];
		if (kind === 'equal radius') return [eq.sameRadius(this.arc(on[0], on[1]), this.arc(on[2], on[3]))];
		if (kind === 'seams') {
			const [first, second] = [on.slice(0, 2), on.slice(2)].map((ends) => this.seam(ends, records));
			return [eq.seams(first, second, value())];
		}
		if (kind === 'tangent') return [eq.tangent(this.spot(on[0]), this.spot(on[1]), this.arc(on[2], on[3]))];
		const [p, q, r, s, t, u] = on.map((place) => this.spot(place));
		switch (kind) {
			case 'pin':
				return [eq.pinned(p, hold.x ?? 0, hold.y ?? 0)];
			case 'level':
				return [eq.level(p, q)];
			case 'plumb':
				return [eq.plumb(p, q)];
			case 'angle':
				return [eq.atAngle(p, q, value())];
			case 'length':
				return [eq.apart(p, q, value())];
			case 'parallel':
				return [eq.parallel(p, q, r, s)];
			case 'square':
				return [eq.square(p, q, r, s)];
			case 'equal':
				return [eq.alike(p, q, r, s)];
			case 'in line':
				return [eq.inLine(p, q, r)];
			case 'middle':
				return [eq.atShare(p, q, r, 0.5)];
			case 'share':
				return [eq.atShare(p, q, r, value())];
			case 'meets in direction':
				return [eq.meetsInDirection(p, q, r, s)];
			case 'meets in curvature':
				return [eq.meetsInCurvature([p, q, r], [s, t, u])];
			case 'on guide':
			case 'along guide': {
				const guide = records.get(hold.guide ?? '');
				if (guide?.type !== 'guide') return [];
				return [
					kind === 'on guide' ? eq.onLine(p, guide.x, guide.y, guide.angle) : eq.atAngle(p, q, guide.angle)
				];
			}
		}
		return [];
	}

	/** The numbers of all unknowns as they are in some records; undefined where one is not there. */
	valuesIn(records: Records): Float64Array | undefined {
		const values = new Float64Array(this.size);
		for (const unknown of this.unknowns) {
			const outline = records.get(unknown.outline);
			const i = outline?.type === 'outline' ? outline.anchors.indexOf(unknown.anchor) : -1;
			if (outline?.type !== 'outline' || i < 0) return undefined;
			const k = placeOf(unknown, i);
			values[unknown.at] = outline.points[k];
			if (unknown.what !== 'bulge') values[unknown.at + 1] = outline.points[k + 1];
		}
		return values;
	}

	/** The outlines that answers change; handles that are not held go along with their anchors. */
	applied(records: Records, values: Float64Array): Outline[] {
		const by = new Map<string, Unknown[]>();
		for (const unknown of this.unknowns)
			by.set(unknown.outline, [...(by.get(unknown.outline) ?? []), unknown]);
		const out: Outline[] = [];
		for (const [id, list] of by) {
			const outline = records.get(id);
			if (outline?.type !== 'outline') continue;
			const points = Float64Array.from(outline.points);
			for (const { what, anchor, at } of list) {
				if (what !== 'anchor') continue;
				const k = ANCHOR_STRIDE * outline.anchors.indexOf(anchor);
				const [dx, dy] = [values[at] - points[k], values[at + 1] - points[k + 1]];
				for (const c of [0, 2, 4]) {
					points[k + c] += dx;
					points[k + c + 1] += dy;
				}
				// To the bit what was found.
				points[k] = values[at];
				points[k + 1] = values[at + 1];
			}
			for (const unknown of list) {
				if (unknown.what === 'anchor') continue;
				const k = placeOf(unknown, outline.anchors.indexOf(unknown.anchor));
				points[k] = values[unknown.at];
				if (unknown.what !== 'bulge') points[k + 1] = values[unknown.at + 1];
			}
			if (points.some((v, k) => Math.abs(v - outline.points[k]) > NOTHING))
				out.push(flow({ ...outline, points }));
		}
		return out;
	}
}

/** mm that count as not moved. */
const NOTHING = 1e-12;

const placeOf = ({ what }: Unknown, i: number): number =>
	what === 'anchor' ? ANCHOR_STRIDE * i : what === 'bulge' ? ANCHOR_STRIDE * i + 6 : handleAt(i, what);

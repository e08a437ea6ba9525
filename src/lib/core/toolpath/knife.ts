/**
 * The way of a knife's pivot so that its trailing tip follows a line: ahead of the tip by the offset along the line's direction, and
 * around each corner on an arc about its point while the tip stands still.
 */
import { bulgeOfSweep } from '../geometry/arc';
import type { EdgeTree } from '../geometry/edge-tree';
import { ARC, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { derivativeAt, directionAt, flattenSteps, pointAt, secondAt } from '../geometry/segment';
import type { MovesBuilder } from './moves';
import type { Running } from './running';

/** Radians: a smaller turn is made as it goes. */
const SWIVEL = 0.04;
/** mm: no longer a way in from what falls away. */
const LONGEST_LEAD = 1.2;

/** A knife that keeps its direction while it is lifted. */
export class Knife {
	/** The direction from the tip to the pivot, radians. Before the first cut the tip lies on the side of -x. */
	private heading = 0;

	constructor(
		private readonly moves: MovesBuilder,
		private readonly offset: number,
		private readonly feed: number,
		/** mm, how closely the pivot follows. */
		private readonly tolerance: number
	) {}

	/**
	 * Cuts a line from a length along it, round once and on by the overcut. The first turn of the blade is made beside the line in
	 * what falls away, where there is room.
	 */
	cut(
		running: Running,
		start: number,
		overcut: number,
		waste: 'left' | 'right' | 'none',
		lines: EdgeTree
	): void {
		const { path, length } = running;
		const from = path.closed ? start : 0;
		const to = path.closed ? start + length + Math.min(overcut, length) : length;
		const first = running.at(from);
		const outer = waste === 'none' ? undefined : this.besides(first, waste, lines);
		this.setDown(outer ?? first);
		if (outer) {
			this.turnTo(outer, Math.atan2(first.y - outer.y, first.x - outer.x));
			this.pull(first, this.heading);
		}
		this.along(running.part(from, to));
		this.moves.works = 0;
	}

	/** A place behind the start in what falls away, so that the way from it is nearly the line's own direction. */
	private besides(
		first: Point & { readonly dx: number; readonly dy: number },
		waste: 'left' | 'right',
		lines: EdgeTree
	): Point | undefined {
		const size = Math.min(LONGEST_LEAD, 2 * this.offset + 0.4);
		const sign = waste === 'left' ? 1 : -1;
		const [nx, ny] = [-sign * first.dy, sign * first.dx];
		for (const [back, off] of [
			[0.85, 0.5],
			[0.6, 0.8],
			[0.2, 0.95]
		]) {
			const x = first.x + size * (off * nx - back * first.dx);
			const y = first.y + size * (off * ny - back * first.dy);
			if (lines.distance(x, y) >= 0.4 * size) return { x, y };
		}
		return undefined;
	}

	/** Lets the knife down with its tip at a place, turned as it is. */
	private setDown({ x, y }: Point): void {
		const { moves, offset, heading } = this;
		moves.works = 0;
		moves.rapid(x + offset * Math.cos(heading), y + offset * Math.sin(heading));
		moves.works = 1;
	}

	/** Turns the blade about its tip. */
	private turnTo(tip: Point, heading: number): void {
		let turn = heading - this.heading;
		while (turn > Math.PI) turn -= 2 * Math.PI;
		while (turn <= -Math.PI) turn += 2 * Math.PI;
		const { moves, offset } = this;
		if (offset > 0 && Math.abs(turn) > 1e-9) {
			const parts = Math.ceil(Math.abs(turn) / (Math.PI / 2) - 1e-9);
			for (let k = 1; k <= parts; k++) {
				const a = this.heading + (turn * k) / parts;
				moves.arc(
					bulgeOfSweep(turn / parts),
					tip.x + offset * Math.cos(a),
					tip.y + offset * Math.sin(a),
					0,
					this.feed
				);
			}
		}
		this.heading = heading;
	}

	/** The tip straight on to a place. */
	private pull(tip: Point, heading: number): void {
		const { offset } = this;
		this.moves.straight(tip.x + offset * Math.cos(heading), tip.y + offset * Math.sin(heading), 0, this.feed);
	}

	private along(path: Path): void {
		const { types, segs } = path;
		for (let i = 0; i < types.length; i++) {
			const at = STRIDE * i;
			const begin = directionAt(types[i], segs, at, 0);
			const heading = Math.atan2(begin.y, begin.x);
			let turn = heading - this.heading;
			while (turn > Math.PI) turn -= 2 * Math.PI;
			while (turn <= -Math.PI) turn += 2 * Math.PI;
			if (i === 0 || Math.abs(turn) > SWIVEL) this.turnTo({ x: segs[at], y: segs[at + 1] }, heading);
			if (types[i] === STRAIGHT) {
				this.heading = heading;
				this.pull({ x: segs[at + 6], y: segs[at + 7] }, heading);
			} else this.alongCurve(types[i], segs, at);
		}
	}

	/** On an arc the pivot goes on a circle about the same middle; on a curve on as many straights as it takes. */
	private alongCurve(type: number, segs: Float64Array, at: number): void {
		const { offset } = this;
		const end = directionAt(type, segs, at, 1);
		const heading = Math.atan2(end.y, end.x);
		const [x, y] = [segs[at + 6] + offset * end.x, segs[at + 7] + offset * end.y];
		if (type === ARC) this.moves.arc(segs[at + 2], x, y, 0, this.feed);
		else {
			const steps = this.stepsOn(type, segs, at);
			for (let k = 1; k <= steps; k++) {
				const t = k / steps;
				const p = pointAt(type, segs, at, t);
				const d = directionAt(type, segs, at, t);
				this.moves.straight(p.x + offset * d.x, p.y + offset * d.y, 0, this.feed);
			}
		}
		this.heading = heading;
	}

	/** Straights for the pivot over a curve: the sagitta of how it bends and turns. */
	private stepsOn(type: number, segs: Float64Array, at: number): number {
		let turning = 0;
		for (const t of [0, 0.25, 0.5, 0.75, 1]) {
			const d = derivativeAt(type, segs, at, t);
			const s = secondAt(type, segs, at, t);
			const speedSq = d.x * d.x + d.y * d.y;
			if (speedSq > 0) turning = Math.max(turning, Math.abs(d.x * s.y - d.y * s.x) / speedSq);
		}
		const sway = Math.ceil(turning / Math.sqrt((8 * this.tolerance) / Math.max(this.offset, 1e-6)));
		return Math.min(2000, Math.max(2, flattenSteps(type, segs, at, this.tolerance), sway));
	}
}

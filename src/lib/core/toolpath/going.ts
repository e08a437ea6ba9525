/** From ways in their order to moves: passes, ramps, tabs, leads, overcut; the beam off wherever it only travels. */
import { ARC, reversePath, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { segmentLength } from '../geometry/segment';
import type { Way } from './compensate';
import type { Lead } from './leads';
import type { MovesBuilder } from './moves';
import type { Running } from './running';
import type { WholeSettings } from './settings';
import type { TabStretch } from './tabs';

/** A way made ready: where it begins, how the tool comes and goes, what stays standing. */
export interface Prepared {
	readonly way: Way;
	readonly running: Running;
	/** mm along the way. */
	readonly start: number;
	readonly leadIn: Lead | undefined;
	/** How it leaves at a length along the way. */
	readonly leave: (s: number) => Lead | undefined;
	readonly tabs: readonly TabStretch[];
	/** Whether it may go straight from the end of its lead to where the next pass begins. */
	readonly mayLink: boolean;
}

/** mm over the material to which it comes down at once. */
const ABOVE = 1;
const EPSILON = 1e-9;

/** Up to where it travels, where it stands lower. */
export function liftUp(moves: MovesBuilder, safe: number): void {
	if (moves.z < safe) moves.rapid(moves.x, moves.y, safe);
}

/** Over to a place at the height of travelling, and down to just over the material. */
export function comeOver(moves: MovesBuilder, { x, y }: Point, safe: number): void {
	liftUp(moves, safe);
	moves.rapid(x, y, safe);
	moves.rapid(x, y, Math.min(safe, ABOVE));
}

/** The feed at which a ramp goes down no faster than a plunge. */
export const rampFeed = ({ feed, plunge, ramp = 90 }: WholeSettings): number =>
	Math.min(feed, plunge / Math.sin((ramp * Math.PI) / 180));

/** The heights of the passes, each at most as deep as asked for, all alike. */
export function passHeights({ tool, depth, passes }: WholeSettings): number[] {
	if (tool.kind !== 'cutter') return Array.from({ length: passes }, () => 0);
	return Array.from({ length: passes }, (_, k) => -(depth * (k + 1)) / passes);
}

/** Sends the tool round one way. */
export function goRound(moves: MovesBuilder, prepared: Prepared, settings: WholeSettings): void {
	if (settings.tool.kind === 'cutter') new CutterRun(moves, prepared, settings).go();
	else goFlat(moves, prepared, settings);
}

/** Without heights: a beam, a pen, a knife that turns by itself. */
function goFlat(moves: MovesBuilder, prepared: Prepared, settings: WholeSettings): void {
	const { running, start, leadIn, tabs } = prepared;
	const { feed, overcut } = settings;
	const { path } = running;
	const end = path.closed ? start + running.length + Math.min(overcut, running.length) : running.length;
	const from = path.closed ? start : 0;
	for (let pass = 0; pass < settings.passes; pass++) {
		const begin = leadIn?.from ?? running.at(from);
		moves.works = 0;
		moves.rapid(begin.x, begin.y);
		moves.works = 1;
		if (leadIn) moves.arc(leadIn.bulge, leadIn.to.x, leadIn.to.y, 0, feed);
		for (const stretch of cutUp(from, end, running.length, path.closed ? tabs : [])) {
			if (stretch.isTab) {
				const to = running.at(stretch.to);
				moves.works = 0;
				moves.rapid(to.x, to.y);
				moves.works = 1;
			} else follow(moves, running.part(stretch.from, stretch.to), 0, 0, feed);
		}
		const out = prepared.leave(end);
		if (out) moves.arc(out.bulge, out.to.x, out.to.y, 0, feed);
		moves.works = 0;
	}
}

/** Sends the tool along a path, its height going evenly from one to the other. */
export function follow(moves: MovesBuilder, path: Path, fromZ: number, toZ: number, feed: number): void {
	const n = path.types.length;
	const { segs } = path;
	let whole = 0;
	const lengths: number[] = [];
	if (fromZ !== toZ) {
		for (let i = 0; i < n; i++) {
			lengths.push(segmentLength(path.types[i], segs, STRIDE * i));
			whole += lengths[i];
		}
	}
	let gone = 0;
	for (let i = 0; i < n; i++) {
		let z = toZ;
		if (fromZ !== toZ) {
			gone += lengths[i];
			z = i === n - 1 ? toZ : fromZ + ((toZ - fromZ) * gone) / whole;
		}
		const at = STRIDE * i;
		moves.arc(path.types[i] === ARC ? segs[at + 2] : 0, segs[at + 6], segs[at + 7], z, feed);
	}
}

interface Stretch extends TabStretch {
	readonly isTab: boolean;
}

/** A run along a way parted at its tabs, which come again after each turn. */
function cutUp(from: number, to: number, length: number, tabs: readonly TabStretch[]): Stretch[] {
	const found: Stretch[] = [];
	for (const tab of tabs)
		for (let turn = Math.floor((from - tab.to) / length); ; turn++) {
			const a = Math.max(from, tab.from + turn * length);
			const b = Math.min(to, tab.to + turn * length);
			if (tab.from + turn * length >= to) break;
			if (b > a + EPSILON) found.push({ from: a, to: b, isTab: true });
		}
	found.sort((a, b) => a.from - b.from);
	const out: Stretch[] = [];
	let at = from;
	for (const tab of found) {
		if (tab.from > at + EPSILON) out.push({ from: at, to: tab.from, isTab: false });
		if (tab.to > at + EPSILON) out.push({ ...tab, from: Math.max(at, tab.from) });
		at = Math.max(at, tab.to);
	}
	if (to > at + EPSILON) out.push({ from: at, to, isTab: false });
	return out;
}

/** One way cut by a turning cutter, pass by pass. */
class CutterRun {
	private readonly tabZ: number;
	private z = 0;

	constructor(
		private readonly moves: MovesBuilder,
		private readonly prepared: Prepared,
		private readonly settings: WholeSettings
	) {
		const { tabs, depth } = settings;
		this.tabZ = tabs && prepared.tabs.length ? -depth + tabs.height : -Infinity;
	}

	go(): void {
		const { moves, settings, prepared } = this;
		const { running, start, leadIn } = prepared;
		const heights = passHeights(settings);
		const { path } = running;
		moves.works = 1;
		let at = path.closed ? start : 0;
		for (const [k, z] of heights.entries()) {
			const from = leadIn?.from ?? running.at(at);
			if (k === 0 || leadIn || !path.closed) this.comeTo(from);
			const ramps = settings.ramp !== undefined && settings.ramp < 90;
			if (!ramps) {
				this.down(z);
				if (leadIn) moves.arc(leadIn.bulge, leadIn.to.x, leadIn.to.y, z, settings.feed);
			} else {
				this.down(this.z);
				if (leadIn) moves.arc(leadIn.bulge, leadIn.to.x, leadIn.to.y, this.z, settings.feed);
				at = path.closed ? this.rampRound(at, z) : this.rampAlong(z);
			}
			const end = path.closed
				? at + running.length + Math.min(settings.overcut, running.length)
				: running.length;
			this.run(at, end, z, z);
			at = path.closed ? end : 0;
			const out = prepared.leave(end);
			if (out) moves.arc(out.bulge, out.to.x, out.to.y, z, settings.feed);
			if (leadIn) at = start;
			this.z = z;
			const isBack = !settings.ramp && !settings.overcut;
			if (k + 1 < heights.length && leadIn && out && prepared.mayLink && isBack)
				moves.straight(leadIn.from.x, leadIn.from.y, moves.z, settings.feed);
		}
		liftUp(moves, settings.safe);
	}

	private comeTo({ x, y }: Point): void {
		const { moves, settings } = this;
		if (moves.x === x && moves.y === y && moves.z <= 0) return;
		comeOver(moves, { x, y }, settings.safe);
	}

	private down(z: number): void {
		const { moves, settings } = this;
		if (moves.z > z) moves.height(z, settings.plunge);
	}

	/** Along the way at heights that go evenly from one to the other, over the tabs. */
	private run(from: number, to: number, fromZ: number, toZ: number, feed = this.settings.feed): void {
		const { moves, settings, prepared } = this;
		const { running } = prepared;
		const isBelow = Math.min(fromZ, toZ) < this.tabZ - EPSILON;
		const heightAt = (s: number) => fromZ + ((toZ - fromZ) * (s - from)) / (to - from || 1);
		const stretches = isBelow ? cutUp(from, to, running.length, prepared.tabs) : [{ from, to, isTab: false }];
		for (const { from: a, to: b, isTab } of stretches) {
			const lift = (z: number) => (isTab ? Math.max(z, this.tabZ) : z);
			const [za, zb] = [lift(heightAt(a)), lift(heightAt(b))];
			if (moves.z < za - EPSILON) moves.height(za, settings.feed);
			else if (moves.z > za + EPSILON) moves.height(za, settings.plunge);
			follow(moves, running.part(a, b), za, zb, feed);
		}
	}

	/** Down along a closed way, round and round where it is short. @returns where it is down. */
	private rampRound(at: number, z: number): number {
		const long = (this.z - z) / Math.tan((this.settings.ramp! * Math.PI) / 180);
		this.run(at, at + long, this.z, z, rampFeed(this.settings));
		return at + long;
	}

	/** Down along an open way, there and back as often as it takes. */
	private rampAlong(z: number): number {
		const { running } = this.prepared;
		const slope = Math.tan((this.settings.ramp! * Math.PI) / 180);
		const there = Math.min(running.length, (this.z - z) / slope / 2);
		const turns = Math.max(1, Math.ceil((this.z - z) / slope / 2 / there - EPSILON));
		const forth = running.part(0, there);
		const back = reversePath(forth);
		const slow = rampFeed(this.settings);
		for (let k = 0; k < turns; k++) {
			const z0 = this.z + ((z - this.z) * k) / turns;
			const z1 = this.z + ((z - this.z) * (k + 1)) / turns;
			const middle = (z0 + z1) / 2;
			follow(this.moves, forth, z0, middle, slow);
			follow(this.moves, back, middle, z1, slow);
		}
		return 0;
	}
}

/** The moving preview: the tool runs along its moves, forth and back, at any speed. */
import type { Point } from '../../core/geometry/point';
import { moveAt, type Toolpath } from '../../core/toolpath/moves';
import { moveTimes, type Pace } from '../../core/toolpath/time';

export class Watching {
	/** Seconds of the machine. */
	at = $state(0);
	playing = $state(false);
	/** So many times as fast as the machine. */
	speed = $state(20);
	readonly seconds: number;
	/** Seconds at the end of each move. */
	private readonly ends: Float64Array;
	private frame = 0;
	private last = 0;

	constructor(
		readonly path: Toolpath,
		pace: Pace
	) {
		const times = moveTimes(path, pace);
		this.ends = new Float64Array(times.length);
		let sum = 0;
		times.forEach((t, i) => (this.ends[i] = sum += t));
		this.seconds = sum;
		this.speed = Math.max(1, Math.min(200, Math.round(sum / 20)));
	}

	/** The move under way and the share of it that is done. */
	get move(): { readonly index: number; readonly share: number } {
		const n = this.ends.length;
		let lo = 0;
		let hi = n;
		while (lo < hi) {
			const mid = (lo + hi) >> 1;
			if (this.ends[mid] <= this.at) lo = mid + 1;
			else hi = mid;
		}
		if (lo >= n) return { index: n, share: 0 };
		const begin = lo ? this.ends[lo - 1] : 0;
		return { index: lo, share: (this.at - begin) / Math.max(1e-12, this.ends[lo] - begin) };
	}

	/** Where the tool is. */
	get tool(): Point & { readonly z: number } {
		const { index, share } = this.move;
		const n = this.path.kinds.length;
		return n === 0 ? { x: 0, y: 0, z: 0 } : moveAt(this.path, Math.min(index, n - 1), index >= n ? 1 : share);
	}

	/** The cut under way; -1 on the way between. */
	get cut(): number {
		const { index } = this.move;
		return this.path.cuts[Math.min(index, this.path.cuts.length - 1)] ?? -1;
	}

	/** Goes to a share of the whole time, 0 to 1. */
	goTo(seconds: number): void {
		this.at = Math.min(this.seconds, Math.max(0, seconds));
	}

	/** Goes to where a cut begins. */
	goToCut(cut: number): void {
		const i = this.path.cuts.indexOf(cut);
		if (i >= 0) this.goTo(i ? this.ends[i - 1] + 1e-6 : 0);
	}

	/** Goes to when the tool first comes nearest to a place of the sheet, within a reach, mm; whether it does. */
	goNear(x: number, y: number, reach: number): boolean {
		let best = reach;
		let found: number | undefined;
		for (let i = 0; i < this.path.kinds.length; i++) {
			if (!this.path.on[i] || this.path.kinds[i] === 0) continue;
			for (let k = 0; k <= 4; k++) {
				const p = moveAt(this.path, i, k / 4);
				const d = Math.hypot(p.x - x, p.y - y);
				if (d < best - 1e-6) {
					best = d;
					const begin = i ? this.ends[i - 1] : 0;
					found = begin + ((this.ends[i] - begin) * k) / 4;
				}
			}
		}
		if (found !== undefined) this.goTo(found);
		return found !== undefined;
	}

	/** Begins to run, from the start where it stands at the end; or stands still. */
	turn(): void {
		if (this.playing) this.pause();
		else {
			if (this.at >= this.seconds) this.at = 0;
			this.playing = true;
			this.last = performance.now();
			this.frame = requestAnimationFrame(this.step);
		}
	}
	pause(): void {
		this.playing = false;
		cancelAnimationFrame(this.frame);
	}
	private readonly step = (now: number): void => {
		if (!this.playing) return;
		this.goTo(this.at + ((now - this.last) / 1000) * this.speed);
		this.last = now;
		if (this.at >= this.seconds) this.pause();
		else this.frame = requestAnimationFrame(this.step);
	};
}

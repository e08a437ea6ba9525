/**
 * G-code read as moves, by the words of RS274/NGC (NISTIR 6556): modal groups, arcs by centre or radius, inches and millimetres, absolute
 * and relative, and on one line everything in the order that the report gives, whatever the order of its words. What it does not
 * follow, and what the report calls an error, is told with its line; the rest is read.
 */
import { bulgeOfSweep } from '../geometry/arc';
import { FEED, RAPID, type Toolpath } from '../toolpath/moves';

/** What is wrong with a line, in one sentence. */
export interface LineFault {
	/** From 1. */
	readonly line: number;
	readonly why: string;
}

export interface ReadMoves {
	readonly moves: Toolpath;
	/** The line each move stands on, from 1. */
	readonly lines: Int32Array;
	readonly faults: readonly LineFault[];
	/** Whether it ends with M2 or M30. */
	readonly isEnded: boolean;
	/** Whether any line says a height. */
	readonly hasHeights: boolean;
}

/** Moves as they are read, with the line that each stands on. */
export class ReadCollector {
	readonly faults: LineFault[] = [];
	private readonly kinds: number[] = [];
	private readonly to: number[] = [];
	private readonly bulges: number[] = [];
	private readonly feeds: number[] = [];
	private readonly on: number[] = [];
	private readonly cuts: number[] = [];
	private readonly lineOf: number[] = [];
	private cut = -1;
	private wasCutting = false;
	start: [number, number, number] | undefined;

	get count(): number {
		return this.kinds.length;
	}
	fault(line: number, why: string): void {
		if (this.faults.length < MOST_FAULTS) this.faults.push({ line, why });
	}
	/** One move; those of a cut follow each other. */
	add(line: number, isCut: boolean, to: readonly number[], bulge: number, feed: number, on: boolean): void {
		if (isCut && !this.wasCutting) this.cut++;
		this.wasCutting = isCut;
		this.kinds.push(isCut ? FEED : RAPID);
		this.to.push(to[0], to[1], to[2]);
		this.bulges.push(bulge);
		this.feeds.push(isCut ? feed : 0);
		this.on.push(on ? 1 : 0);
		this.cuts.push(isCut ? this.cut : -1);
		this.lineOf.push(line);
	}
	/** The moves from one on. */
	movesFrom(from: number): Toolpath {
		const at = 3 * (from - 1);
		const start = from === 0 ? (this.start ?? [0, 0, 0]) : [this.to[at], this.to[at + 1], this.to[at + 2]];
		return {
			start: [start[0], start[1], start[2]],
			kinds: Uint8Array.from(this.kinds.slice(from)),
			to: Float64Array.from(this.to.slice(3 * from)),
			bulges: Float64Array.from(this.bulges.slice(from)),
			feeds: Float64Array.from(this.feeds.slice(from)),
			on: Uint8Array.from(this.on.slice(from)),
			cuts: Int32Array.from(this.cuts.slice(from))
		};
	}
	read(isEnded: boolean, hasHeights: boolean): ReadMoves {
		return {
			moves: this.movesFrom(0),
			lines: Int32Array.from(this.lineOf),
			faults: this.faults,
			isEnded,
			hasHeights
		};
	}
}

/** Modal groups, NISTIR 6556 table 4: of each at most one word a line. */
const G_GROUPS: readonly (readonly number[])[] = [
	[0, 1, 2, 3, 38.2, 80, 81, 82, 83, 84, 85, 86, 87, 88, 89],
	[17, 18, 19],
	[90, 91],
	[93, 94],
	[20, 21],
	[40, 41, 42],
	[43, 49],
	[98, 99],
	[54, 55, 56, 57, 58, 59, 59.1, 59.2, 59.3],
	[61, 61.1, 64],
	[4, 10, 28, 30, 53, 92, 92.1, 92.2, 92.3],
	[90.1, 91.1]
];
const M_GROUPS: readonly (readonly number[])[] = [[0, 1, 2, 30, 60], [6], [3, 4, 5], [7, 8, 9], [48, 49]];
/** Words that change nothing of where the tool goes here. */
const QUIET_G = new Set([17, 40, 49, 54, 55, 56, 57, 58, 59, 59.1, 59.2, 59.3, 61, 61.1, 64, 80, 94, 98, 99]);
/** mm: how far the two radii of an arc may differ. The report: 0.002 mm where units are millimetres. */
const RADII_DIFFER = 0.002;
const MOST_FAULTS = 200;

interface Words {
	readonly g: number[];
	readonly m: number[];
	readonly value: Map<string, number>;
}

/** Reads a program. Never throws; nonsense is told line by line. */
export function readGcode(text: string): ReadMoves {
	const reader = new GcodeReader();
	const lines = text.split(/\r\n|\r|\n/);
	for (let i = 0; i < lines.length; i++) reader.line(lines[i], i + 1);
	return reader.result();
}

/** Reads a program line by line, as a machine does. */
export class GcodeReader {
	readonly got = new ReadCollector();
	private scale = 1;
	private hasUnits = false;
	private isAbsolute = true;
	private isCentreAbsolute = false;
	private motion: number | undefined;
	private feed = 0;
	private speed = 0;
	private spindle = false;
	private isEnded = false;
	private readonly at = [0, 0, 0];
	private hasHeights = false;
	private n = 0;

	private fault(why: string): void {
		this.got.fault(this.n, why);
	}

	line(raw: string, n: number): void {
		this.n = n;
		const words = this.words(raw);
		if (!words) return;
		if (this.isEnded) {
			this.fault('Something stands after the end of the program.');
			return;
		}
		this.execute(words);
	}

	/** The words of a line; undefined where it has none or is not understood. */
	private words(raw: string): Words | undefined {
		if (raw.length > 256) {
			this.fault('The line is longer than 256 characters.');
			return undefined;
		}
		let s = raw.replace(/\([^()]*\)/g, '').replace(/;.*$/, '');
		if (/[()]/.test(s)) {
			this.fault('A comment is not closed.');
			return undefined;
		}
		s = s.replace(/\s+/g, '').toUpperCase().replace(/^\//, '');
		if (s === '' || s === '%') return undefined;
		s = s.replace(/^N\d+(\.\d+)?/, '');
		const g: number[] = [];
		const m: number[] = [];
		const value = new Map<string, number>();
		const word = /([A-Z])([-+]?(?:\d+\.?\d*|\.\d+))/y;
		while (word.lastIndex < s.length) {
			const from = word.lastIndex;
			const match = word.exec(s);
			if (!match) {
				this.fault(`"${s.slice(from, from + 20)}" is not understood.`);
				return undefined;
			}
			const [, letter, number] = match;
			if (letter === 'G') g.push(Number(number));
			else if (letter === 'M') m.push(Number(number));
			else if (value.has(letter)) this.fault(`${letter} stands there twice.`);
			else value.set(letter, Number(number));
		}
		return { g, m, value };
	}

	/** In the order of the report, 3.8: feed, speed, tool, spindle, coolant, dwell, plane, units, distance, motion, stop. */
	private execute({ g, m, value }: Words): void {
		this.twoOfOneGroup(g, G_GROUPS, 'G');
		this.twoOfOneGroup(m, M_GROUPS, 'M');
		const inches = g.includes(20);
		if (g.includes(93) || g.includes(95)) this.fault('Only feeds a minute are followed.');
		// The units that hold are those of the line before, the feed is said in them; F stands before G20 in the order.
		const f = value.get('F');
		if (f !== undefined) {
			if (!(f > 0)) this.fault('The feed is 0 or less.');
			else this.feed = f * (inches ? 25.4 : g.includes(21) ? 1 : this.scale);
		}
		const s = value.get('S');
		if (s !== undefined) {
			if (s < 0) this.fault('The speed is below 0.');
			else this.speed = s;
		}
		for (const code of m) this.miscellaneous(code);
		if (g.includes(4)) {
			if (!value.has('P')) this.fault('G4 waits, but P does not say how long.');
			value.delete('P');
		}
		if (g.includes(18) || g.includes(19)) this.fault('Only the plane of X and Y is followed.');
		if (inches || g.includes(21)) {
			this.scale = inches ? 25.4 : 1;
			this.hasUnits = true;
		}
		if (g.includes(41) || g.includes(42) || g.includes(43))
			this.fault('Offsets of the machine’s own tools are not followed.');
		if (g.includes(90)) this.isAbsolute = true;
		if (g.includes(91)) this.isAbsolute = false;
		if (g.includes(90.1)) this.isCentreAbsolute = true;
		if (g.includes(91.1)) this.isCentreAbsolute = false;
		const motion = g.find((code) => G_GROUPS[0].includes(code));
		const other = g.find((code) => G_GROUPS[10].includes(code) && code !== 4);
		if (other !== undefined) this.fault(`G${other} is not followed.`);
		else {
			for (const code of g)
				if (!QUIET_G.has(code) && !G_GROUPS.some((group) => group.includes(code)))
					this.fault(`G${code} is not known.`);
			if (motion !== undefined) this.motion = motion === 80 ? undefined : motion;
			this.move(value, motion);
		}
		if (m.includes(2) || m.includes(30)) {
			this.isEnded = true;
			this.spindle = false;
		}
	}

	private twoOfOneGroup(
		codes: readonly number[],
		groups: readonly (readonly number[])[],
		letter: string
	): void {
		for (const group of groups) {
			const found = codes.filter((code) => group.includes(code));
			if (found.length > 1)
				this.fault(`${found.map((code) => letter + code).join(' and ')} cannot stand on one line.`);
		}
	}

	private miscellaneous(code: number): void {
		if (code === 3 || code === 4) this.spindle = true;
		else if (code === 5) this.spindle = false;
		else if (!M_GROUPS.some((group) => group.includes(code))) this.fault(`M${code} is not known.`);
	}

	private move(value: Map<string, number>, motionHere: number | undefined): void {
		const axes = ['X', 'Y', 'Z'].some((axis) => value.has(axis));
		if (['A', 'B', 'C', 'U', 'V', 'W'].some((axis) => value.has(axis)))
			this.fault('Only X, Y and Z are followed.');
		const { motion } = this;
		if (!axes) {
			if (motionHere !== undefined && motionHere < 80 && !(motionHere > 1 && value.has('I')))
				if (motionHere > 1) this.fault('An arc does not say where it ends.');
			return;
		}
		if (motion === undefined) {
			this.fault('A place without a word of motion.');
			return;
		}
		if (motion > 3) {
			this.fault(`G${motion} is not followed.`);
			return;
		}
		if (!this.hasUnits) {
			this.fault('A move before G20 or G21: its units are not known; taken as millimetres.');
			this.hasUnits = true;
		}
		const to = ['X', 'Y', 'Z'].map((axis, k) => {
			const v = value.get(axis);
			if (v === undefined) return this.at[k];
			return (this.isAbsolute ? 0 : this.at[k]) + v * this.scale;
		});
		if (value.has('Z') && !this.hasHeights) {
			this.hasHeights = true;
			// Where it stood before is not known; it did not come from below.
			if (this.got.count === 0) this.at[2] = to[2];
		}
		this.got.start ??= [this.at[0], this.at[1], this.at[2]];
		if (motion !== 0 && !(this.feed > 0)) this.fault('A cut before a feed is set.');
		const bulges = motion >= 2 ? this.arc(value, to, motion === 3 ? 1 : -1) : [{ bulge: 0, to }];
		if (!bulges) return;
		const works = this.spindle && (this.hasHeights || this.speed > 0);
		for (const part of bulges) this.got.add(this.n, motion !== 0, part.to, part.bulge, this.feed, works);
		for (let k = 0; k < 3; k++) this.at[k] = to[k];
	}

	/** An arc in parts of at most a half turn; undefined where it is none. */
	private arc(
		value: Map<string, number>,
		to: number[],
		side: 1 | -1
	): { bulge: number; to: number[] }[] | undefined {
		const [x, y, z] = this.at;
		let cx: number;
		let cy: number;
		const r = value.get('R');
		if (r !== undefined) {
			if (value.has('I') || value.has('J')) this.fault('An arc by radius and by centre at once.');
			const radius = r * this.scale;
			const [dx, dy] = [to[0] - x, to[1] - y];
			const d = Math.hypot(dx, dy);
			if (d === 0) {
				this.fault('An arc by radius ends where it begins: that could be any circle.');
				return undefined;
			}
			if (d > 2 * Math.abs(radius) + RADII_DIFFER) {
				this.fault('An arc whose radius does not reach its end.');
				return undefined;
			}
			// The shorter arc for a radius above 0, NISTIR 6556 3.5.3.1.
			const h = Math.sqrt(Math.max(0, radius * radius - (d * d) / 4)) / d;
			const left = (side === 1) === radius > 0 ? h : -h;
			cx = x + dx / 2 - left * dy;
			cy = y + dy / 2 + left * dx;
		} else if (value.has('I') || value.has('J')) {
			const [i, j] = [value.get('I') ?? 0, value.get('J') ?? 0];
			cx = (this.isCentreAbsolute ? 0 : x) + i * this.scale;
			cy = (this.isCentreAbsolute ? 0 : y) + j * this.scale;
		} else {
			this.fault('An arc without a centre or a radius.');
			return undefined;
		}
		const [r0, r1] = [Math.hypot(x - cx, y - cy), Math.hypot(to[0] - cx, to[1] - cy)];
		if (Math.abs(r0 - r1) > RADII_DIFFER)
			this.fault(`The radii of an arc differ by ${Math.abs(r0 - r1).toFixed(4)} mm.`);
		if (!(r0 > 0)) {
			this.fault('An arc without a radius.');
			return undefined;
		}
		const a0 = Math.atan2(y - cy, x - cx);
		let sweep = Math.atan2(to[1] - cy, to[0] - cx) - a0;
		while (side * sweep <= 1e-9) sweep += side * 2 * Math.PI;
		while (side * sweep > 2 * Math.PI + 1e-9) sweep -= side * 2 * Math.PI;
		const parts = Math.ceil(Math.abs(sweep) / Math.PI - 1e-9);
		const out: { bulge: number; to: number[] }[] = [];
		for (let k = 1; k <= parts; k++) {
			const a = a0 + (sweep * k) / parts;
			const share = k / parts;
			out.push({
				bulge: bulgeOfSweep(sweep / parts),
				to: k === parts ? to : [cx + r0 * Math.cos(a), cy + r0 * Math.sin(a), z + (to[2] - z) * share]
			});
		}
		return out;
	}

	result(): ReadMoves {
		if (!this.isEnded) this.got.fault(this.n, 'The program has no end: M2 or M30 is missing.');
		return this.got.read(this.isEnded, this.hasHeights);
	}
}

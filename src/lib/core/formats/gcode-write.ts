/**
 * G-code for cutters and beams (RS274/NGC as in NISTIR 6556): G21 G90 G17 first, arcs as G2 and G3 with I J, a feed before the first
 * cut, M30 last, comments in brackets, lines below 80 characters.
 */
import { arcShape } from '../geometry/arc';
import { RAPID, type Toolpath } from '../toolpath/moves';
import type { CutTool, MachineWords } from '../document/job';

/** What is done with one tool. */
export interface GcodePart {
	readonly moves: Toolpath;
	readonly tool: CutTool;
	/** What the tool is called, for whoever changes it. */
	readonly toolName?: string;
	/** Turns a minute, or power: what S says. */
	readonly speed: number;
	/** The names of the cuts, as comments before each. */
	readonly names?: readonly string[];
}

export interface GcodeOptions {
	/** What it is called in the first line. */
	readonly name?: string;
	/** False for machines that read no arcs: straights within the tolerance instead. */
	readonly arcs?: boolean;
	/** mm */
	readonly tolerance?: number;
	/** The words around the moves; those of `GCODE_WORDS` where nothing is said. */
	readonly words?: Partial<MachineWords>;
}

/** The words where a machine has none of its own. */
export const GCODE_WORDS: Readonly<Record<'cutter' | 'beam', MachineWords>> = {
	cutter: { start: '({name})\nG21 G90 G17\nG94', on: 'M3 S{speed}', off: 'M5', end: 'M30' },
	beam: { start: '({name})\nG21 G90 G17\nG94', on: 'M3 S{speed}', off: 'M5', end: 'M30' }
};

/** mm: arcs that bulge less are straights, so that rounding cannot turn one into a whole circle. */
const FLAT_ARC = 2e-5;
const SHORT_ARC = 1e-3;

/** A number with at most four digits after the point. */
export const digits = (v: number): string => {
	const s = v.toFixed(4).replace(/\.?0+$/, '');
	return s === '-0' || s === '' ? '0' : s;
};

/** Bracket-free and short enough for a comment. */
const comment = (text: string) =>
	`(${text
		.replace(/[()\s]+/g, ' ')
		.replace(/[^\x20-\x7e]/g, '?')
		.slice(0, 70)
		.trim()})`;

/** Writes moves as G-code, part after part; between tools of different names the program waits (M0) for the change. */
export function writeGcode(parts: readonly GcodePart[], options: GcodeOptions = {}): string {
	const isCutter = parts[0]?.tool.kind === 'cutter';
	const words = { ...GCODE_WORDS[isCutter ? 'cutter' : 'beam'], ...options.words };
	const writer = new Writer(isCutter, options, words);
	writer.block(words.start);
	parts.forEach((part, i) => {
		const before = parts[i - 1];
		if (before && before.toolName !== part.toolName) writer.change(part.toolName);
		writer.write(part);
	});
	writer.switchOff();
	writer.block(words.end);
	return writer.text();
}

class Writer {
	private readonly lines: string[] = [];
	private motion = '';
	private feed = '';
	private at = ['', '', ''];
	private isOn = false;
	private x = 0;
	private y = 0;
	private z = 0;
	private speed = 0;

	constructor(
		private readonly isCutter: boolean,
		private readonly options: GcodeOptions,
		private readonly words: MachineWords
	) {}

	text(): string {
		return this.lines.join('\n') + '\n';
	}

	/** Words of the template, as many lines as it has. */
	block(template: string): void {
		const { name = 'Even Thread' } = this.options;
		for (const line of template.split('\n')) {
			const filled = line.replaceAll('{speed}', digits(this.speed));
			const text = filled.includes('{name}')
				? comment(filled.replace(/[()]/g, '').replaceAll('{name}', name))
				: filled;
			if (text.trim()) this.lines.push(text);
		}
	}

	private switchTo(on: boolean): void {
		if (on === this.isOn) return;
		this.isOn = on;
		this.block(on ? this.words.on : this.words.off);
	}
	switchOff(): void {
		this.switchTo(false);
	}

	/** Everything off, and a word to whoever changes the tool. */
	change(tool: string | undefined): void {
		this.switchOff();
		if (tool) this.lines.push(comment(`now: ${tool}`));
		this.lines.push('M0');
	}

	write({ moves: path, names, speed }: GcodePart): void {
		const n = path.kinds.length;
		if (this.isOn && speed !== this.speed) this.switchOff();
		this.speed = speed;
		this.z = path.start[2];
		let cut = -1;
		// A spindle turns before the tool goes down, and all the while.
		if (this.isCutter) {
			// Up first, wherever it stands.
			const height = digits(path.start[2]);
			if (this.at[2] !== height) this.lines.push(`G0 Z${(this.at[2] = height)}`);
			this.motion = 'G0';
			this.switchTo(true);
		}
		for (let i = 0; i < n; i++) {
			if (path.cuts[i] !== cut) {
				cut = path.cuts[i];
				const name = names?.[cut];
				if (name) this.lines.push(comment(name));
			}
			const [x, y, z] = [path.to[3 * i], path.to[3 * i + 1], path.to[3 * i + 2]];
			if (!this.isCutter) this.switchTo(path.on[i] === 1);
			if (path.kinds[i] === RAPID) this.line('G0', x, y, z, '', '');
			else this.cut(path.bulges[i], x, y, z, path.feeds[i]);
			[this.x, this.y, this.z] = [x, y, z];
		}
	}

	private cut(bulge: number, x: number, y: number, z: number, feed: number): void {
		const fromZ = this.z;
		const f = digits(feed);
		const chord = Math.hypot(x - this.x, y - this.y);
		if (Math.abs(bulge) * chord < 2 * FLAT_ARC || chord < SHORT_ARC) {
			this.line('G1', x, y, z, '', f);
			return;
		}
		// No more than a half circle at once, so that no rounding changes its side.
		const { cx, cy, radius, startRad, sweepRad } = arcShape(this.x, this.y, x, y, bulge);
		const { arcs = true, tolerance = 0.005 } = this.options;
		const parts = arcs
			? Math.ceil(Math.abs(sweepRad) / Math.PI - 1e-6)
			: Math.ceil(
					Math.abs(sweepRad) / (2 * Math.acos(Math.max(0, 1 - Math.min(tolerance / 2, radius) / radius)))
				);
		for (let k = 1; k <= parts; k++) {
			const a = startRad + (sweepRad * k) / parts;
			const [px, py] = k === parts ? [x, y] : [cx + radius * Math.cos(a), cy + radius * Math.sin(a)];
			const pz = fromZ + ((z - fromZ) * k) / parts;
			const middle = arcs
				? ` I${digits(cx - Number(this.at[0] || digits(this.x)))} J${digits(cy - Number(this.at[1] || digits(this.y)))}`
				: '';
			this.line(arcs ? (sweepRad > 0 ? 'G3' : 'G2') : 'G1', px, py, pz, middle, f);
		}
	}

	private line(motion: string, x: number, y: number, z: number, middle: string, feed: string): void {
		const words: string[] = [];
		const place = [digits(x), digits(y), this.isCutter ? digits(z) : ''];
		'XYZ'.split('').forEach((axis, k) => {
			if (place[k] !== this.at[k]) words.push(axis + place[k]);
		});
		if (words.length === 0) return;
		this.at = place;
		// An arc names its end whole.
		if (middle) {
			words.length = 0;
			words.push(`X${place[0]}`, `Y${place[1]}`);
			if (this.isCutter) words.push(`Z${place[2]}`);
		}
		const head = motion === this.motion && !middle ? '' : motion + ' ';
		this.motion = motion;
		let tail = '';
		if (feed && feed !== this.feed) {
			this.feed = feed;
			tail = ` F${feed}`;
		}
		this.lines.push(head + words.join(' ') + middle + tail);
	}
}

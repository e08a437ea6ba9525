/** HP-GL read as moves: IN DF SP PU PD PA PR AA AR, in units of 0.025 mm (published HP-GL reference; from memory). */
import { bulgeOfSweep } from '../geometry/arc';
import { ReadCollector, type ReadMoves } from './gcode-read';
import { HPGL_UNIT } from './hpgl-write';

/** Words that change nothing of where the pen goes here. */
const QUIET = new Set(['SP', 'VS', 'FS', 'IP', 'SC', 'PG', 'RO', 'IW', 'PS', 'LT', 'PW', 'AS']);

/** Reads a plot. Never throws; what is not understood is told by its place among the commands. The feed is not said and is 1. */
export function readHpgl(text: string): ReadMoves {
	const reader = new HpglReader();
	for (const command of text.replace(/\s+/g, '').split(';')) reader.command(command);
	return reader.result();
}

/** Degrees that one arc may turn: each half turn is a move. */
const MOST_DEGREES = 3600;

/** Reads a plot command by command, as a machine does. */
export class HpglReader {
	readonly got = new ReadCollector();
	private x = 0;
	private y = 0;
	private isDown = false;
	private isRelative = false;
	private isStarted = false;
	private n = 0;

	private move(x: number, y: number, bulge = 0): void {
		this.got.add(this.n, this.isDown, [x, y, 0], bulge, 1, this.isDown);
		[this.x, this.y] = [x, y];
	}

	/** One command, without its semicolon. */
	command(text: string): void {
		this.n++;
		if (!text) return;
		const op = text.slice(0, 2).toUpperCase();
		const rest = text.slice(2);
		const numbers = rest ? rest.split(',').map(Number) : [];
		if (numbers.some((v) => !Number.isFinite(v))) {
			this.got.fault(this.n, `"${text.slice(0, 20)}" is not understood.`);
			return;
		}
		if (op === 'IN' || op === 'DF') {
			this.isStarted = true;
			this.isDown = this.isRelative = false;
			return;
		}
		if (!this.isStarted) {
			this.got.fault(this.n, 'It does not begin with IN.');
			this.isStarted = true;
		}
		if (QUIET.has(op)) return;
		if (op === 'AA' || op === 'AR') this.arc(op === 'AR', numbers);
		else this.go(op, numbers);
	}

	private arc(isRelative: boolean, [cx, cy, degrees]: readonly number[]): void {
		if (degrees === undefined) {
			this.got.fault(this.n, 'An arc says no centre and angle.');
			return;
		}
		if (!(Math.abs(degrees) <= MOST_DEGREES)) {
			this.got.fault(this.n, 'An arc turns more than ten times round.');
			return;
		}
		const mx = (isRelative ? this.x : 0) + cx * HPGL_UNIT;
		const my = (isRelative ? this.y : 0) + cy * HPGL_UNIT;
		const radius = Math.hypot(this.x - mx, this.y - my);
		const sweep = (degrees * Math.PI) / 180;
		const parts = Math.max(1, Math.ceil(Math.abs(sweep) / Math.PI - 1e-9));
		const from = Math.atan2(this.y - my, this.x - mx);
		for (let k = 1; k <= parts; k++) {
			const a = from + (sweep * k) / parts;
			this.move(mx + radius * Math.cos(a), my + radius * Math.sin(a), bulgeOfSweep(sweep / parts));
		}
	}

	private go(op: string, numbers: readonly number[]): void {
		if (op === 'PU' || op === 'PD') this.isDown = op === 'PD';
		else if (op === 'PA') this.isRelative = false;
		else if (op === 'PR') this.isRelative = true;
		else {
			this.got.fault(this.n, `${op} is not known.`);
			return;
		}
		if (numbers.length % 2) this.got.fault(this.n, `${op} has a coordinate too few.`);
		for (let k = 0; k + 1 < numbers.length; k += 2) {
			const [u, v] = [numbers[k] * HPGL_UNIT, numbers[k + 1] * HPGL_UNIT];
			if (this.isRelative) this.move(this.x + u, this.y + v);
			else this.move(u, v);
		}
	}

	result(): ReadMoves {
		if (this.isDown) this.got.fault(this.n, 'The pen or knife is still down at the end.');
		return this.got.read(!this.isDown, false);
	}
}

/**
 * A simulated machine: it takes a job line by line, keeps a short queue, goes along its moves in time, and remembers where it went. It
 * speaks the plain protocol of docs/machine.md. No clock of its own: whoever asks says what time it is.
 */
import { GcodeReader } from '../formats/gcode-read';
import { HpglReader } from '../formats/hpgl-read';
import { FEED, moveAt, moveLength, MovesBuilder, type Toolpath } from '../toolpath/moves';

export interface StandInLimits {
	/** mm that it reaches from 0, 0. */
	readonly width: number;
	readonly height: number;
	/** mm below and above the material. */
	readonly below: number;
	readonly above: number;
	/** mm/min of rapids. */
	readonly rapid: number;
	readonly language: 'gcode' | 'hpgl';
	/** Lines of G-code, or bytes of HP-GL, that it can take before it has done them. */
	readonly room: number;
}

/** What state it is in, in its own words. */
export type StandInState = 'resting' | 'working' | 'holding' | 'halted' | 'open' | 'dark' | 'homing';

/** ms without a word after which another may take a machine that does nothing. */
const FORGOTTEN_MS = 20_000;
/** mm/min at which a plotter draws: its files say no feed. */
const PLOT_FEED = 12_000;

interface Waiting {
	readonly line: number;
	readonly size: number;
	readonly moves: Toolpath;
	/** Of its moves, how many are done, and the share of the next. */
	done: number;
	share: number;
}

export class StandIn {
	state: StandInState = 'resting';
	private driver: { readonly token: string; readonly name: string } | undefined;
	private heard = 0;
	private reader: GcodeReader | HpglReader;
	/** The last line that was taken, and the last that is done. */
	private taken = 0;
	private finished = 0;
	private queue: Waiting[] = [];
	private x = 0;
	private y = 0;
	private z: number;
	private now = 0;
	/** Percent of the feeds. */
	private pace = 100;
	/** So many times as fast as in reality; Infinity: at once. */
	private hurry = 1;
	private passed: MovesBuilder;
	private readonly said: string[] = [];
	private isLost = false;

	constructor(private readonly limits: StandInLimits) {
		this.reader = this.newReader();
		this.z = limits.language === 'gcode' ? Math.min(10, limits.above) : 0;
		this.passed = new MovesBuilder([0, 0, this.z]);
	}

	/** Where it went since the job began, as moves. */
	get trail(): Toolpath {
		return this.passed.moves();
	}
	private say(sentence: string): void {
		this.said.push(sentence);
		if (this.said.length > 50) this.said.shift();
	}

	/**
	 * Answers one message. @param token names whoever drives. @param now ms, never going back.
	 */
	answer(message: string, token: string, now: number): string {
		this.goOn(now);
		const [word, ...rest] = message.trim().split(' ');
		const tail = rest.join(' ');
		if (word === 'where') return this.where(token);
		// Its own panel: whoever stands beside it.
		if (word === 'cover') return this.cover(tail);
		if (word === 'power') return this.power(tail);
		if (this.state === 'dark') return 'dark no power';
		if (word === 'hello') return this.hello(token, tail, now);
		if (word === 'trail') return `trail ${JSON.stringify(plainMoves(this.trail))}`;
		if (this.driver?.token !== token)
			return this.driver ? `taken ${this.driver.name}` : 'nobody say hello first';
		this.heard = now;
		switch (word) {
			case 'bye':
				if (this.state === 'working' || this.queue.length) return 'busy stop it first';
				this.driver = undefined;
				return 'ok';
			case 'new':
				return this.begin();
			case 'line':
				return this.line(rest);
			case 'hold':
				if (this.state === 'working' || (this.state === 'resting' && this.queue.length)) {
					this.state = 'holding';
					this.say('I hold.');
				}
				return `ok ${this.state}`;
			case 'on':
				if (this.state === 'holding') {
					this.state = this.queue.length ? 'working' : 'resting';
					this.say('I go on.');
				}
				return `ok ${this.state}`;
			case 'stop':
				return this.stop('I stop. What was waiting is forgotten.');
			case 'slow': {
				const share = Number(tail);
				if (!(share >= 1 && share <= 200)) return 'refused slower than 1 or faster than 200 percent';
				this.pace = share;
				return 'ok';
			}
			case 'hurry': {
				const times = tail === 'at-once' ? Infinity : Number(tail);
				if (!(times > 0)) return 'refused that is no speed';
				this.hurry = times;
				return 'ok';
			}
			case 'home':
				return this.home();
			default:
				return 'unknown that is no word of mine';
		}
	}

	private hello(token: string, name: string, now: number): string {
		const isIdle = this.state !== 'working' && this.queue.length === 0;
		if (this.driver && this.driver.token !== token && !(isIdle && now - this.heard > FORGOTTEN_MS))
			return `taken ${this.driver.name}`;
		this.driver = { token, name: name || 'somebody' };
		this.heard = now;
		return `yours ${this.limits.language} ${this.limits.width} ${this.limits.height} room ${this.room}`;
	}

	private begin(): string {
		if (this.queue.length || this.state === 'working') return 'busy stop it first';
		if (this.state === 'open') return 'open close the cover first';
		if (this.isLost) return 'lost send me home first';
		this.reader = this.newReader();
		this.taken = this.finished = 0;
		this.passed = new MovesBuilder([this.x, this.y, this.z]);
		this.state = 'resting';
		this.say('A new job.');
		return `ok room ${this.room}`;
	}

	/** What it can still take. */
	private get room(): number {
		return Math.max(0, this.limits.room - this.queue.reduce((sum, w) => sum + w.size, 0));
	}

	/** Takes a line by its number: one that it has already is only answered, one that comes too early is not taken. */
	private line([number, ...words]: string[]): string {
		const n = Number(number);
		const text = words.join(' ');
		if (!Number.isInteger(n) || n < 1) return 'unknown a line has a number';
		if (n <= this.taken) return `ok ${n} room ${this.room}`;
		if (n > this.taken + 1) return `again ${this.taken + 1}`;
		if (this.state === 'halted') return 'halted say new for a new job';
		if (this.state === 'open') return `wait ${n} the cover is open`;
		const size = this.limits.language === 'hpgl' ? text.length : 1;
		if (size > this.limits.room) return `refused ${n} longer than my buffer`;
		if (size > this.room) return `wait ${n} room ${this.room}`;
		const read = this.read(text);
		if (typeof read === 'string') return this.refuse(n, read);
		const beyond = this.beyond(read);
		if (beyond) return this.refuse(n, beyond);
		this.taken = n;
		this.queue.push({ line: n, size, moves: read, done: 0, share: 0 });
		if (this.state === 'resting') this.state = 'working';
		this.goOn(this.now);
		return `ok ${n} room ${this.room}`;
	}

	private refuse(n: number, why: string): string {
		this.say(`Line ${n}: ${why}`);
		this.stop(`I refuse line ${n} and stop.`);
		return `refused ${n} ${why}`;
	}

	private newReader(): GcodeReader | HpglReader {
		return this.limits.language === 'gcode' ? new GcodeReader() : new HpglReader();
	}

	/** The moves that a line adds, or what is wrong with it. */
	private read(text: string): Toolpath | string {
		const { got } = this.reader;
		const [faults, before] = [got.faults.length, got.count];
		if (this.reader instanceof GcodeReader) this.reader.line(text, this.taken + 1);
		else this.reader.command(text.replace(/;$/, ''));
		if (got.faults.length > faults) return got.faults[faults].why;
		const added = got.movesFrom(before);
		// Where the reader does not know where it stands, the machine does.
		return before === 0 ? { ...added, start: [this.x, this.y, this.z] } : added;
	}

	/** Why moves go where it cannot. */
	private beyond(path: Toolpath): string | undefined {
		const { width, height, below, above } = this.limits;
		for (let i = 0; i < path.kinds.length; i++)
			for (const share of path.bulges[i] === 0 ? [1] : [0.25, 0.5, 0.75, 1]) {
				const { x, y, z } = moveAt(path, i, share);
				if (x < -1e-3 || y < -1e-3 || x > width + 1e-3 || y > height + 1e-3)
					return `${x.toFixed(1)}, ${y.toFixed(1)} is beyond my ${width} by ${height} mm`;
				if (this.limits.language === 'gcode' && (z < -below - 1e-3 || z > above + 1e-3))
					return `a height of ${z.toFixed(1)} mm is beyond my ${-below} to ${above}`;
			}
		return undefined;
	}

	private stop(sentence: string): string {
		this.queue = [];
		this.state = this.state === 'open' || this.state === 'dark' ? this.state : 'halted';
		this.say(sentence);
		return `ok ${this.state}`;
	}

	private home(): string {
		if (this.queue.length || this.state === 'working') return 'busy stop it first';
		if (this.state === 'open') return 'open close the cover first';
		this.x = this.y = 0;
		this.z = this.limits.language === 'gcode' ? Math.min(10, this.limits.above) : 0;
		this.isLost = false;
		this.state = 'resting';
		this.say('I am home.');
		return 'ok resting';
	}

	private cover(way: string): string {
		if (way === 'open' && this.state !== 'dark') {
			this.say('The cover is open: everything is off.');
			this.state = 'open';
		} else if (way === 'close' && this.state === 'open') {
			// In the middle of a job nothing starts by itself when somebody takes his hands out.
			const isBegun = this.taken > 0;
			this.state = isBegun ? 'holding' : 'resting';
			this.say(isBegun ? 'The cover is closed. Say on.' : 'The cover is closed.');
		}
		return `ok ${this.state}`;
	}

	private power(way: string): string {
		if (way === 'off') {
			this.queue = [];
			this.state = 'dark';
			this.driver = undefined;
			this.isLost = true;
		} else if (way === 'on' && this.state === 'dark') {
			this.state = 'halted';
			this.say(`I had no power. I do not know where I am; the job broke off after line ${this.finished}.`);
		}
		return `ok ${this.state}`;
	}

	/** How it stands: for everybody. */
	private where(token: string): string {
		const facts = {
			state: this.state,
			x: round(this.x),
			y: round(this.y),
			z: round(this.z),
			taken: this.taken,
			done: this.finished,
			room: this.room,
			pace: this.pace,
			yours: this.driver?.token === token,
			driver: this.driver?.name,
			lost: this.isLost,
			says: this.said.slice(-8)
		};
		return `at ${JSON.stringify(facts)}`;
	}

	// ---- going along

	/** Goes on to a time. */
	private goOn(now: number): void {
		let left = Math.max(0, now - this.now) / 1000;
		this.now = Math.max(this.now, now);
		if (this.state !== 'working') return;
		left *= this.hurry;
		while (this.queue.length) {
			const first = this.queue[0];
			if (first.done >= first.moves.kinds.length) {
				this.finished = first.line;
				this.queue.shift();
				continue;
			}
			if (this.hurry !== Infinity && !(left > 0)) return;
			left = this.advance(first, left);
		}
		this.state = 'resting';
	}

	/** Along one move for so many seconds; gives those that are left. */
	private advance(waiting: Waiting, seconds: number): number {
		const { moves, done: i } = waiting;
		const length = moveLength(moves, i);
		const plotted = this.limits.language === 'hpgl' && moves.kinds[i] === FEED ? PLOT_FEED : moves.feeds[i];
		const speed = ((moves.kinds[i] === FEED ? plotted : this.limits.rapid) / 60) * (this.pace / 100);
		const whole = length / Math.max(1e-9, speed);
		const need = whole * (1 - waiting.share);
		const isWhole = this.hurry === Infinity || need <= seconds;
		const to = isWhole ? 1 : waiting.share + (seconds / whole || 0);
		this.record(moves, i, waiting.share, to);
		if (isWhole) {
			waiting.done++;
			waiting.share = 0;
			return this.hurry === Infinity ? Infinity : seconds - need;
		}
		waiting.share = to;
		return 0;
	}

	/** Remembers a part of a move as gone. */
	private record(moves: Toolpath, i: number, from: number, to: number): void {
		const { x, y, z } = moveAt(moves, i, to);
		const turned = Math.tan(Math.atan(moves.bulges[i]) * (to - from));
		this.passed.works = moves.on[i];
		this.passed.cut = moves.cuts[i];
		if (moves.kinds[i] === FEED) this.passed.arc(turned, x, y, z, moves.feeds[i]);
		else this.passed.rapid(x, y, z);
		[this.x, this.y, this.z] = [x, y, z];
	}
}

const round = (v: number) => Math.round(v * 1e4) / 1e4;

/** Moves as plain lists for a message, and back. */
export interface PlainMoves {
	readonly start: readonly number[];
	readonly kinds: readonly number[];
	readonly to: readonly number[];
	readonly bulges: readonly number[];
	readonly feeds: readonly number[];
	readonly on: readonly number[];
	readonly cuts: readonly number[];
}
export const plainMoves = (path: Toolpath): PlainMoves => ({
	start: [...path.start],
	kinds: Array.from(path.kinds),
	to: Array.from(path.to, (v) => Math.round(v * 1e6) / 1e6),
	bulges: Array.from(path.bulges),
	feeds: Array.from(path.feeds),
	on: Array.from(path.on),
	cuts: Array.from(path.cuts)
});
export const movesFromPlain = (plain: PlainMoves): Toolpath => ({
	start: [plain.start[0], plain.start[1], plain.start[2]],
	kinds: Uint8Array.from(plain.kinds),
	to: Float64Array.from(plain.to),
	bulges: Float64Array.from(plain.bulges),
	feeds: Float64Array.from(plain.feeds),
	on: Uint8Array.from(plain.on),
	cuts: Int32Array.from(plain.cuts)
});

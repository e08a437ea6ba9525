/** HP-GL read as moves: IN DF SP PU PD PA PR AA AR, in units of 0.025 mm (published HP-GL reference; from memory). */
import { bulgeOfSweep } from '../geometry/arc';
import { FEED, RAPID } from '../toolpath/moves';
import type { LineFault, ReadMoves } from './gcode-read';
import { HPGL_UNIT } from './hpgl-write';

/** Words that change nothing of where the pen goes here. */
const QUIET = new Set(['SP', 'VS', 'FS', 'IP', 'SC', 'PG', 'RO', 'IW', 'PS', 'LT', 'PW', 'AS']);
const MOST_FAULTS = 200;

/** Reads a plot. Never throws; what is not understood is told by its place among the commands. The feed is not said and is 1. */
export function readHpgl(text: string): ReadMoves {
	const faults: LineFault[] = [];
	const kinds: number[] = [];
	const to: number[] = [];
	const bulges: number[] = [];
	const on: number[] = [];
	const cuts: number[] = [];
	const lines: number[] = [];
	let [x, y] = [0, 0];
	let isDown = false;
	let isRelative = false;
	let isStarted = false;
	let cut = -1;
	let line = 0;
	const fault = (why: string) => {
		if (faults.length < MOST_FAULTS) faults.push({ line, why });
	};
	const move = (px: number, py: number, bulge = 0) => {
		if (isDown && (kinds.length === 0 || kinds.at(-1) === RAPID)) cut++;
		kinds.push(isDown ? FEED : RAPID);
		to.push(px, py, 0);
		bulges.push(bulge);
		on.push(isDown ? 1 : 0);
		cuts.push(isDown ? cut : -1);
		lines.push(line);
		[x, y] = [px, py];
	};
	for (const command of text.replace(/\s+/g, '').split(';')) {
		line++;
		if (!command) continue;
		const op = command.slice(0, 2).toUpperCase();
		const rest = command.slice(2);
		const numbers = rest ? rest.split(',').map(Number) : [];
		if (numbers.some((v) => !Number.isFinite(v))) {
			fault(`"${command.slice(0, 20)}" is not understood.`);
			continue;
		}
		if (op === 'IN' || op === 'DF') {
			isStarted = true;
			isDown = isRelative = false;
			continue;
		}
		if (!isStarted) {
			fault('It does not begin with IN.');
			isStarted = true;
		}
		if (QUIET.has(op)) continue;
		if (op === 'AA' || op === 'AR') {
			const [cx, cy, degrees] = numbers;
			if (numbers.length < 3) fault(`${op} says no centre and angle.`);
			else {
				const mx = (op === 'AR' ? x : 0) + cx * HPGL_UNIT;
				const my = (op === 'AR' ? y : 0) + cy * HPGL_UNIT;
				const radius = Math.hypot(x - mx, y - my);
				const sweep = (degrees * Math.PI) / 180;
				const parts = Math.max(1, Math.ceil(Math.abs(sweep) / Math.PI - 1e-9));
				const from = Math.atan2(y - my, x - mx);
				for (let k = 1; k <= parts; k++) {
					const a = from + (sweep * k) / parts;
					move(mx + radius * Math.cos(a), my + radius * Math.sin(a), bulgeOfSweep(sweep / parts));
				}
			}
			continue;
		}
		if (op === 'PU' || op === 'PD') isDown = op === 'PD';
		else if (op === 'PA') isRelative = false;
		else if (op === 'PR') isRelative = true;
		else {
			fault(`${op} is not known.`);
			continue;
		}
		if (numbers.length % 2) fault(`${op} has a coordinate too few.`);
		for (let k = 0; k + 1 < numbers.length; k += 2) {
			const [u, v] = [numbers[k] * HPGL_UNIT, numbers[k + 1] * HPGL_UNIT];
			move(isRelative ? x + u : u, isRelative ? y + v : v);
		}
	}
	if (isDown) faults.push({ line, why: 'The pen or knife is still down at the end.' });
	return {
		moves: {
			start: [0, 0, 0],
			kinds: Uint8Array.from(kinds),
			to: Float64Array.from(to),
			bulges: Float64Array.from(bulges),
			feeds: Float64Array.from(kinds, (kind) => (kind === FEED ? 1 : 0)),
			on: Uint8Array.from(on),
			cuts: Int32Array.from(cuts)
		},
		lines: Int32Array.from(lines),
		faults,
		isEnded: !isDown,
		hasHeights: false
	};
}

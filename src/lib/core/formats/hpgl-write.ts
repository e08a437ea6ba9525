/** HP-GL for knives and pens: IN, SP, PU, PD, in units of 0.025 mm (published HP-GL reference; the unit from memory). */
import { FEED, moveAt, moveStart, type Toolpath } from '../toolpath/moves';
import { arcShape } from '../geometry/arc';

/** mm of a plotter unit. */
export const HPGL_UNIT = 0.025;

const unit = (mm: number) => Math.round(mm / HPGL_UNIT);
/** Numbers in one command: machines read a short line at a time. */
const MOST_PAIRS = 12;

/** Writes moves as HP-GL: down where the tool works, up elsewhere; arcs as straights within the tolerance, mm. */
export function writeHpgl(path: Toolpath, tolerance: number, pen = 1): string {
	const lines = ['IN;', `SP${pen};`];
	let down = false;
	let at = [NaN, NaN];
	let run: string[] = [];
	const flush = () => {
		for (let k = 0; k < run.length; k += MOST_PAIRS)
			lines.push(`${down ? 'PD' : 'PU'}${run.slice(k, k + MOST_PAIRS).join(',')};`);
		run = [];
	};
	const go = (x: number, y: number, isDown: boolean) => {
		if (isDown !== down) {
			flush();
			down = isDown;
			if (isDown) lines.push('PD;');
		}
		const place = [unit(x), unit(y)];
		if (place[0] === at[0] && place[1] === at[1]) return;
		at = place;
		// Travelling only the last place counts.
		if (!isDown) run = [];
		run.push(place.join(','));
	};
	const from = [0, 0, 0];
	for (let i = 0; i < path.kinds.length; i++) {
		const isDown = path.kinds[i] === FEED && path.on[i] === 1;
		const b = path.bulges[i];
		let parts = 1;
		if (b !== 0) {
			const [x, y] = moveStart(path, i, from);
			const { radius, sweepRad } = arcShape(x, y, path.to[3 * i], path.to[3 * i + 1], b);
			parts = Math.max(
				1,
				Math.ceil(Math.abs(sweepRad) / (2 * Math.acos(Math.max(0, 1 - Math.min(tolerance, radius) / radius))))
			);
		}
		for (let k = 1; k <= parts; k++) {
			const { x, y } = moveAt(path, i, k / parts);
			go(x, y, isDown);
		}
	}
	flush();
	lines.push('PU;', 'SP0;');
	return lines.join('\n') + '\n';
}

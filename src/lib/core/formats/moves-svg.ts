/** The way of a tool as an SVG to look at: what is cut as one line, what is only travelled as another. */
import { FEED, moveStart, type Toolpath } from '../toolpath/moves';
import { arcShape } from '../geometry/arc';

const num = (v: number) => String(+v.toFixed(4));

/** @param width mm of the sheet @param height mm */
export function writeMovesSvg(path: Toolpath, width: number, height: number): string {
	const lines: Record<'cut' | 'travel', string> = { cut: '', travel: '' };
	const from = [0, 0, 0];
	let last = '';
	for (let i = 0; i < path.kinds.length; i++) {
		const [x0, y0] = moveStart(path, i, from);
		const [x, y] = [path.to[3 * i], path.to[3 * i + 1]];
		if (x === x0 && y === y0) continue;
		const kind = path.kinds[i] === FEED && path.on[i] ? 'cut' : 'travel';
		if (kind !== last) lines[kind] += `M${num(x0)} ${num(height - y0)}`;
		last = kind;
		const b = path.bulges[i];
		if (b === 0) lines[kind] += `L${num(x)} ${num(height - y)}`;
		else {
			const { radius, sweepRad } = arcShape(x0, y0, x, y, b);
			const large = Math.abs(sweepRad) > Math.PI ? 1 : 0;
			// Seen with y down a left turn is a sweep of 0.
			lines[kind] +=
				`A${num(radius)} ${num(radius)} 0 ${large} ${b > 0 ? 0 : 1} ${num(x)} ${num(height - y)}`;
		}
	}
	const size = `width="${num(width)}mm" height="${num(height)}mm" viewBox="0 0 ${num(width)} ${num(height)}"`;
	const line = (d: string, title: string, look: string) =>
		d ? `<path d="${d}" fill="none" ${look}><title>${title}</title></path>` : '';
	return `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${line(lines.travel, 'travel', 'stroke="#999" stroke-width="0.1" stroke-dasharray="1 1"')}${line(lines.cut, 'cut', 'stroke="#1c3f5e" stroke-width="0.2"')}</svg>\n`;
}

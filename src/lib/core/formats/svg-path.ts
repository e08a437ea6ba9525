/** Path data of SVG to paths and back. */
import type { Point } from '../geometry/point';
import svgpath from 'svgpath';
import { addEllipticalArc } from '../geometry/ellipse';
import { ARC, PathBuilder, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { arcShape } from '../geometry/arc';
import { TOLERANCE } from '../tolerance';

/**
 * The subpaths of path data, in the data's own units and with its own y direction. Data with an error is read up to
 * the error (SVG 2, 9.3.9), which is told.
 *
 * @returns paths, and single points (subpaths that never leave their start).
 */
export function parsePathData(d: string): {
	paths: Path[];
	points: Point[];
	error?: string;
} {
	const parsed = svgpath(d) as unknown as { segments: (string | number)[][]; err: string };
	const paths: Path[] = [];
	const points: Point[] = [];
	let builder: PathBuilder | undefined;
	let x = 0;
	let y = 0;
	let startX = 0;
	let startY = 0;
	let drawn = false;
	// The control point that a smooth command mirrors.
	let mirrorX = 0;
	let mirrorY = 0;
	let mirrors: 'C' | 'Q' | '' = '';
	const end = (closed: boolean) => {
		if (builder && drawn) {
			const path = closed ? builder.close(TOLERANCE.coincidence) : builder.open();
			if (path.types.length) paths.push(path);
			else points.push({ x: startX, y: startY });
		}
		builder = undefined;
		drawn = false;
	};
	for (const segment of parsed.segments) {
		const command = segment[0] as string;
		const v = segment.slice(1) as number[];
		const upper = command.toUpperCase();
		const ox = command === upper ? 0 : x;
		const oy = command === upper ? 0 : y;
		if (upper === 'M') {
			end(false);
			x = startX = ox + v[0];
			y = startY = oy + v[1];
			builder = new PathBuilder(x, y);
			mirrors = '';
			continue;
		}
		if (upper === 'Z') {
			drawn = true;
			end(true);
			x = startX;
			y = startY;
			mirrors = '';
			continue;
		}
		builder ??= new PathBuilder(x, y);
		drawn = true;
		let now: 'C' | 'Q' | '' = '';
		if (upper === 'L') builder.line((x = ox + v[0]), (y = oy + v[1]));
		else if (upper === 'H') builder.line((x = ox + v[0]), y);
		else if (upper === 'V') builder.line(x, (y = oy + v[0]));
		else if (upper === 'C' || upper === 'S') {
			const at = upper === 'C' ? 2 : 0;
			const ax = upper === 'C' ? ox + v[0] : mirrors === 'C' ? 2 * x - mirrorX : x;
			const ay = upper === 'C' ? oy + v[1] : mirrors === 'C' ? 2 * y - mirrorY : y;
			mirrorX = ox + v[at];
			mirrorY = oy + v[at + 1];
			builder.cubic(ax, ay, mirrorX, mirrorY, (x = ox + v[at + 2]), (y = oy + v[at + 3]));
			now = 'C';
		} else if (upper === 'Q' || upper === 'T') {
			const qx = upper === 'Q' ? ox + v[0] : mirrors === 'Q' ? 2 * x - mirrorX : x;
			const qy = upper === 'Q' ? oy + v[1] : mirrors === 'Q' ? 2 * y - mirrorY : y;
			const ex = ox + v[upper === 'Q' ? 2 : 0];
			const ey = oy + v[upper === 'Q' ? 3 : 1];
			// A parabola as a cubic: handles two thirds of the way to its control point.
			builder.cubic(
				x + (2 * (qx - x)) / 3,
				y + (2 * (qy - y)) / 3,
				ex + (2 * (qx - ex)) / 3,
				ey + (2 * (qy - ey)) / 3,
				ex,
				ey
			);
			mirrorX = qx;
			mirrorY = qy;
			x = ex;
			y = ey;
			now = 'Q';
		} else if (upper === 'A') {
			x = ox + v[5];
			y = oy + v[6];
			addEllipticalArc(builder, v[0], v[1], v[2], v[3] !== 0, v[4] !== 0, x, y, TOLERANCE.measure);
		}
		mirrors = now;
	}
	end(false);
	return { paths, points, error: parsed.err || undefined };
}

/** A number as written in files: nine decimals, no trailing zeros, no minus zero. */
export function writeNumber(value: number): string {
	const text = value.toFixed(9).replace(/\.?0+$/, '');
	return text === '-0' ? '0' : text;
}

/** Path data of a path in mm with y up, written with y down. */
export function writePathData(path: Path): string {
	const n = path.types.length;
	if (n === 0) return '';
	const s = path.segs;
	const place = (at: number) => `${writeNumber(s[at])} ${writeNumber(-s[at + 1])}`;
	let d = `M${place(0)}`;
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		const last = path.closed && i === n - 1;
		if (path.types[i] === STRAIGHT) {
			// The closing straight is drawn by Z itself.
			if (!last) d += `L${place(at + 6)}`;
		} else if (path.types[i] === ARC) {
			const { radius, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
			const r = writeNumber(radius);
			// Seen with y down an anticlockwise arc runs against the positive angle.
			d += `A${r} ${r} 0 ${Math.abs(sweepRad) > Math.PI ? 1 : 0} ${sweepRad > 0 ? 0 : 1} ${place(at + 6)}`;
		} else d += `C${place(at + 2)} ${place(at + 4)} ${place(at + 6)}`;
	}
	return path.closed ? d + 'Z' : d;
}

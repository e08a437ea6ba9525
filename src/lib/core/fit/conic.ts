/** Conics by two ends, the shoulder where their tangents meet, and a fullness or the radius below the shoulder. */
import type { Point } from '../geometry/point';

export interface Conic {
	readonly start: Point;
	readonly shoulder: Point;
	readonly end: Point;
	/** Share of the way from the chord's middle to the shoulder at which it passes, above 0, below 1. */
	readonly fullness: number;
}

/** The weight of the shoulder. Source: Piegl and Tiller, The NURBS Book, 7.3. */
export const weightOf = (fullness: number): number => fullness / (1 - fullness);

/** Chord, the height of the shoulder over it, and how far along the chord its foot lies. */
function frame({ start, shoulder, end }: Conic): { chord: number; height: number; along: number } {
	const [dx, dy] = [end.x - start.x, end.y - start.y];
	const chord = Math.hypot(dx, dy);
	const [sx, sy] = [shoulder.x - start.x, shoulder.y - start.y];
	return {
		chord,
		height: chord > 0 ? Math.abs(dx * sy - dy * sx) / chord : 0,
		along: chord > 0 ? (dx * sx + dy * sy) / chord : 0
	};
}

/** The radius of curvature below the shoulder, where the tangent is as the chord, mm. */
export function radiusAtShoulder(conic: Conic): number {
	const { chord, height } = frame(conic);
	return (chord * chord * (1 - conic.fullness)) / (4 * conic.fullness * height);
}

/** The fullness at which that radius comes about. */
export function fullnessFor(conic: Conic, radius: number): number {
	const { chord, height } = frame(conic);
	return (chord * chord) / (chord * chord + 4 * height * radius);
}

/** Share within which it is an arc of a circle, and of fullness a parabola. */
const SAME = 1e-9;

export type ConicKind = 'straight' | 'arc of a circle' | 'ellipse' | 'parabola' | 'hyperbola';

export function conicKind(conic: Conic): ConicKind {
	const { chord, height, along } = frame(conic);
	if (!(height > SAME * chord)) return 'straight';
	const leg = Math.hypot(chord / 2, height);
	const isEven = Math.abs(along - chord / 2) < SAME * chord;
	if (isEven && Math.abs(weightOf(conic.fullness) - chord / 2 / leg) < SAME) return 'arc of a circle';
	if (Math.abs(conic.fullness - 0.5) < SAME) return 'parabola';
	return conic.fullness < 0.5 ? 'ellipse' : 'hyperbola';
}

/** The fullness of an arc of a circle; undefined where the legs differ, so that none is. */
export function circleFullness(conic: Conic): number | undefined {
	const { chord, height, along } = frame(conic);
	if (!(height > 0) || Math.abs(along - chord / 2) > 1e-6 * chord) return undefined;
	const w = chord / 2 / Math.hypot(chord / 2, height);
	return w / (1 + w);
}

/** Messages of the geometry worker: simplify, offset, combine, check. */
import type { Fault } from '../core/check/fault';
import type { Combined } from '../core/plane/combine';
import type { CombineInput, CombineOp } from '../core/plane/area';
import type { StepOptions, Steps } from '../core/plane/offset-steps';
import type { LineOptions, MadeLine } from '../core/fairing/lines';
import type { Deviation, Worst } from '../core/geometry/deviation';
import type { Path } from '../core/geometry/path';
import type { Simplified } from '../core/fairing/simplify';
import type { Answer } from './picture.protocol';

export type Job = 'line' | 'simplify' | 'chart' | 'offset' | 'combine' | 'check' | 'compare';

export interface ChartPoint {
	readonly tolerance: number;
	readonly anchors: number;
	readonly drift: number;
}

export interface GeometryApi {
	/** Lines made anew, each whole or on a stretch of it. */
	line(
		request: number,
		paths: Path[],
		options: LineOptions,
		stretch: { readonly from: number; readonly to: number } | undefined,
		tell: (share: number) => void
	): Promise<Answer<MadeLine[]>>;
	simplify(
		request: number,
		paths: Path[],
		tolerance: number,
		tell: (share: number) => void
	): Promise<Answer<Simplified[]>>;
	/** Anchors against drift, told point by point. */
	chart(
		request: number,
		paths: Path[],
		tolerances: number[],
		tell: (point: ChartPoint) => void
	): Promise<Answer<null>>;
	offset(request: number, paths: Path[], options: StepOptions): Promise<Answer<Steps>>;
	combine(request: number, inputs: CombineInput[], op: CombineOp): Promise<Answer<Combined>>;
	check(request: number, paths: Path[]): Promise<Answer<Fault[]>>;
	/** How far lines lie from others all along them, at places at most `step` mm apart. */
	compare(
		request: number,
		pairs: { readonly path: Path; readonly other: Path }[],
		step: number
	): Promise<Answer<Compared[]>>;
}

/** How far a line lies from another all along it, and where the two lie farthest apart, either way. */
export interface Compared {
	readonly deviation: Deviation;
	readonly worst: Worst;
}

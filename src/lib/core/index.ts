/**
 * The core as a package: curves, tracing, fairing, combining, offsets, arranging, toolpaths, files. No interface code, no clock, no chance.
 *
 * Lengths are millimetres, angles radians unless a name says degrees, y points up. Paths are never changed, only made anew.
 * Long work is a generator of its progress (`…Steps`): `finish` runs it to its end, or leave it between two steps.
 *
 * @packageDocumentation
 */
export { CoreError, unwrap, type Problem, type Result } from './errors';
export { finish } from './progress';
export { LIMIT, TOLERANCE } from './tolerance';

export {
	ARC,
	circlePath,
	compose,
	CUBIC,
	inverse,
	PathBuilder,
	polygonPath,
	reversePath,
	STRAIGHT,
	STRIDE,
	transformPath,
	type Affine,
	type Path
} from './geometry/path';
export type { Point } from './geometry/point';
export {
	anchorCount,
	isInside,
	pathArea,
	pathBox,
	pathLength,
	tightestRadius,
	windingNumber
} from './geometry/measure';
export { curvatureAt, directionAt, nearestOn, partOf, pointAt, type Box } from './geometry/segment';
export { segmentMeetings, type SegmentMeeting } from './geometry/meetings';
export { factsOf, type LineFacts } from './geometry/facts';

export { combine, combineSteps, cutLines, type Combined, type CombineOptions } from './plane/combine';
export type { CombineInput, CombineOp, CombinedPiece, FillRule } from './plane/area';
export { offsetPieces, offsetPiecesSteps, type OffsetOptions, type OffsetResult } from './plane/offset';
export { pathCrossings, type Crossing } from './plane/crossings';
export { groupPieces } from './plane/pieces';
export { allowance, type AllowanceEdge, type AllowanceOptions } from './plane/allowance';

export { simplifyPath, simplifySteps } from './fairing/simplify';
export { fairPath, fairSteps, type Faired, type FairOptions } from './fairing/fair';

export { sourceOf, tracePicture, WAYS, type PictureSource, type Way, type WayOptions } from './trace/ways';
export { toGrey, type ColourPicture, type GreyPicture } from './trace/picture';
export type { Trace, TraceOptions, TraceProgress } from './trace/trace';

export { findFaults, type CheckOptions } from './check/readiness';
export type { Fault } from './check/fault';

export {
	layOnSheetsSteps,
	type Arranged,
	type ArrangePiece,
	type ArrangeSettings,
	type ArrangeSheet
} from './arrange/arrange';

export { planSteps, type CutInput, type Plan } from './toolpath/plan';
export type { CutSettings } from './toolpath/settings';
export type { CutTool } from './document/job';

export { readLines, writtenOf, type Format } from './formats/formats';
export type { Imported, Shape } from './formats/imported';
export { writeSvg, type SvgPiece } from './formats/svg-write';
export { writeDxf, type DxfPiece } from './formats/dxf-write';
export { writeGcode, type GcodeOptions } from './formats/gcode-write';
export { readGcode } from './formats/gcode-read';

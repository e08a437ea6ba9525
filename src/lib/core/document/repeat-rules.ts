/** Rules by which things are repeated: where each copy lies, as a map from the first one. */
import { CoreError } from '../errors';
import { mirrorAt, moveBy, placed, turnBy } from '../geometry/maps';
import { compose, IDENTITY, isSimilarity, STRIDE, type Affine, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { nearestOnPath } from '../geometry/pick';
import { derivativeAt, parameterAtLength, pointAt, segmentLength } from '../geometry/segment';

/** Lengths in mm, angles in degrees anticlockwise. The first one is the source where it lies; it counts. */
export type RepeatRule =
	| {
			readonly way: 'rows';
			readonly columns: number;
			readonly rows: number;
			/** From one column to the next, and from one row to the next. */
			readonly right: number;
			readonly up: number;
			/** How the whole is turned. */
			readonly angle: number;
			/** How far every second row is set on, as a share of `right`. */
			readonly stagger: number;
	  }
	| {
			readonly way: 'around';
			readonly number: number;
			readonly x: number;
			readonly y: number;
			/** From the first to the last; 360: all around. */
			readonly sweep: number;
			/** Whether each is turned with the circle. */
			readonly turned: boolean;
	  }
	| {
			readonly way: 'along';
			/** Id of the outline along which they lie. */
			readonly line: string;
			readonly by: 'number' | 'spacing';
			readonly number: number;
			readonly spacing: number;
			/** How much of the line is taken, from the first one on, 0 to 1. */
			readonly share: number;
			readonly turned: boolean;
	  }
	| {
			readonly way: 'mirrored';
			/** A place on the axis, and its direction. */
			readonly x: number;
			readonly y: number;
			readonly angle: number;
	  };
export type RepeatWay = RepeatRule['way'];
export type RuleOf<W extends RepeatWay> = Extract<RepeatRule, { way: W }>;

/** The most copies of one repeat. */
export const MOST_COPIES = 20_000;
/** So near to all around is all around, degrees; and so near to all of a line. */
const ROUND = 1e-9;

const rad = (degrees: number): number => (degrees * Math.PI) / 180;
/** What a rule needs to know of the drawing. */
export interface RuleContext {
	/** The middle of what is repeated. */
	readonly middle: Point;
	/** The outline along which it is repeated. */
	readonly line?: Path;
}

/** How many a rule gives, the first one too. */
export function copiesTotal(rule: RepeatRule, context: RuleContext): number {
	return rule.way === 'along'
		? (alongOf(rule, context)?.number ?? 1)
		: rule.way === 'rows'
			? rule.rows * rule.columns
			: rule.way === 'around'
				? rule.number
				: 2;
}

/**
 * Where every copy lies, as a map from the source; the first is the source itself.
 * @throws CoreError `too-many`
 */
export function mapsOf(rule: RepeatRule, context: RuleContext): Affine[] {
	const total = copiesTotal(rule, context);
	if (!(total <= MOST_COPIES))
		throw new CoreError('too-many', `That would be ${total} copies; ${MOST_COPIES} are the most.`);
	switch (rule.way) {
		case 'rows':
			return rowMaps(rule);
		case 'around':
			return aroundMaps(rule, context.middle);
		case 'along':
			return alongMaps(rule, context);
		case 'mirrored':
			return [IDENTITY, mirrorAt(rule.angle, rule.x, rule.y)];
	}
}

function rowMaps({ columns, rows, right, up, angle, stagger }: RuleOf<'rows'>): Affine[] {
	const [c, s] = turnBy(angle, 0, 0);
	const maps: Affine[] = [];
	for (let r = 0; r < rows; r++)
		for (let k = 0; k < columns; k++) {
			const x = k * right + (r % 2 ? stagger * right : 0);
			const y = r * up;
			maps.push(moveBy(c * x - s * y, s * x + c * y));
		}
	return maps;
}

function aroundMaps({ number, x, y, sweep, turned: isTurned }: RuleOf<'around'>, middle: Point): Affine[] {
	const whole = Math.abs(sweep) >= 360 - ROUND;
	const step = whole ? (Math.sign(sweep) * 360) / number : number > 1 ? sweep / (number - 1) : 0;
	return Array.from({ length: number }, (_, k): Affine => {
		if (k === 0) return IDENTITY;
		const map = turnBy(k * step, x, y);
		if (isTurned) return map;
		const to = placed(map, middle.x, middle.y);
		return moveBy(to.x - middle.x, to.y - middle.y);
	});
}

interface Along {
	readonly number: number;
	/** mm of line between one and the next. */
	readonly step: number;
	/** mm of line from its start to where the first one lies. */
	readonly from: number;
	readonly lengths: Float64Array;
	readonly length: number;
}

/** How a rule spreads over its line; undefined where there is no line. */
export function alongOf(rule: RuleOf<'along'>, { middle, line }: RuleContext): Along | undefined {
	const n = line?.types.length ?? 0;
	if (!line || n === 0) return undefined;
	const lengths = new Float64Array(n + 1);
	for (let i = 0; i < n; i++)
		lengths[i + 1] = lengths[i] + segmentLength(line.types[i], line.segs, STRIDE * i);
	const length = lengths[n];
	const near = nearestOnPath(line, middle.x, middle.y, Infinity);
	const from = near
		? lengths[near.segment] +
			segmentLength(line.types[near.segment], line.segs, STRIDE * near.segment, 0, near.t)
		: 0;
	const share = Math.min(1, Math.max(0, rule.share));
	const whole = line.closed && share >= 1 - ROUND;
	const range = (line.closed ? length : length - from) * share;
	if (whole) {
		const number = rule.by === 'number' ? rule.number : Math.max(1, Math.round(length / rule.spacing));
		return { number, step: length / number, from, lengths, length };
	}
	const number = rule.by === 'number' ? rule.number : Math.floor(range / rule.spacing + ROUND) + 1;
	const step = rule.by === 'spacing' ? rule.spacing : number > 1 ? range / (number - 1) : 0;
	return { number, step, from, lengths, length };
}

function alongMaps(rule: RuleOf<'along'>, context: RuleContext): Affine[] {
	const along = alongOf(rule, context);
	const { line } = context;
	if (!along || !line) return [IDENTITY];
	const { number, step, from, lengths, length } = along;
	const frame = (at: number): Point & { angle: number } => {
		const s = line.closed ? ((at % length) + length) % length : Math.min(at, length);
		let [low, high] = [0, line.types.length - 1];
		while (low < high) {
			const half = (low + high + 1) >> 1;
			if (lengths[half] <= s) low = half;
			else high = half - 1;
		}
		const type = line.types[low];
		const t = parameterAtLength(type, line.segs, STRIDE * low, s - lengths[low]);
		const p = pointAt(type, line.segs, STRIDE * low, t);
		const d = derivativeAt(type, line.segs, STRIDE * low, t);
		return { ...p, angle: (Math.atan2(d.y, d.x) * 180) / Math.PI };
	};
	const first = frame(from);
	return Array.from({ length: number }, (_, k): Affine => {
		if (k === 0) return IDENTITY;
		const to = frame(from + k * step);
		const shift = moveBy(to.x - first.x, to.y - first.y);
		return rule.turned ? compose(shift, turnBy(to.angle - first.angle, first.x, first.y)) : shift;
	});
}

/** The rule after a map that its sources went through too; undefined where it would give something else then. */
export function carriedRule(rule: RepeatRule, map: Affine): RepeatRule | undefined {
	const [a, b, c, d] = map;
	// Rows that lie level are scaled across and up by themselves.
	if (rule.way === 'rows' && rule.angle === 0 && b === 0 && c === 0)
		return { ...rule, right: rule.right * a, up: rule.up * d };
	if (!isSimilarity(map)) return undefined;
	const flips = a * d - b * c < 0;
	const scale = Math.sqrt(Math.abs(a * d - b * c));
	const turn = (Math.atan2(b, a) * 180) / Math.PI;
	const still = a === 1 && b === 0 && c === 0 && d === 1;
	switch (rule.way) {
		case 'rows': {
			if (still) return rule;
			const { right, up, angle } = rule;
			return {
				...rule,
				right: right * scale,
				up: up * scale * (flips ? -1 : 1),
				angle: flips ? turn - angle : angle + turn
			};
		}
		case 'around':
			return { ...rule, ...placed(map, rule.x, rule.y), sweep: flips ? -rule.sweep : rule.sweep };
		case 'along':
			return { ...rule, spacing: rule.spacing * scale };
		case 'mirrored': {
			const on = placed(map, rule.x, rule.y);
			const end = placed(map, rule.x + Math.cos(rad(rule.angle)), rule.y + Math.sin(rad(rule.angle)));
			const angle = (Math.atan2(end.y - on.y, end.x - on.x) * 180) / Math.PI;
			return { ...rule, ...on, ...(still ? {} : { angle }) };
		}
	}
}

/** Whether a rule read from outside makes sense. */
export function ruleHolds(rule: Readonly<Record<string, unknown>>): boolean {
	const finite = (...names: string[]) => names.every((name) => Number.isFinite(rule[name]));
	const count = (name: string) => Number.isInteger(rule[name]) && (rule[name] as number) >= 1;
	switch (rule.way) {
		case 'rows':
			return (
				count('columns') &&
				count('rows') &&
				finite('right', 'up', 'angle', 'stagger') &&
				(rule.columns as number) * (rule.rows as number) <= MOST_COPIES
			);
		case 'around':
			return count('number') && (rule.number as number) <= MOST_COPIES && finite('x', 'y', 'sweep');
		case 'along':
			return (
				count('number') &&
				(rule.number as number) <= MOST_COPIES &&
				finite('share') &&
				Number.isFinite(rule.spacing) &&
				(rule.spacing as number) > 0 &&
				typeof rule.line === 'string'
			);
		case 'mirrored':
			return finite('x', 'y', 'angle');
		default:
			return false;
	}
}

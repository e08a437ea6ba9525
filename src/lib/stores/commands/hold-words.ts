/** What is said of each kind of hold, and on which words it is found. */
import type { HoldKind } from '../../core/document/holds/hold';

export const HOLD_WORDS: Readonly<
	Record<HoldKind, { readonly word: string; readonly line: string; readonly also: string }>
> = {
	pin: { word: 'Pin', line: 'The picked anchor stays where it is.', also: 'fix, fixed, lock, anchor it' },
	level: {
		word: 'Hold level',
		line: 'The stretch, two anchors, or a handle, stay level.',
		also: 'horizontal, constraint'
	},
	plumb: {
		word: 'Hold plumb',
		line: 'The stretch, two anchors, or a handle, stay plumb.',
		also: 'vertical, upright, constraint'
	},
	angle: {
		word: 'Hold the angle',
		line: 'The stretch, two anchors, or a handle, keep a typed angle.',
		also: 'fixed angle, constraint, direction'
	},
	length: {
		word: 'Hold the length',
		line: 'The distance stays what is typed: a number, or a formula with named sizes.',
		also: 'dimension, fixed length, distance, constraint'
	},
	radius: {
		word: 'Hold the radius',
		line: 'The arc keeps a typed radius.',
		also: 'fixed radius, dimension, constraint'
	},
	parallel: { word: 'Hold parallel', line: 'Two stretches stay parallel.', also: 'parallel to, constraint' },
	square: {
		word: 'Hold square',
		line: 'Two stretches stay at a right angle.',
		also: 'perpendicular, right angle, constraint'
	},
	equal: {
		word: 'Hold equally long',
		line: 'Two stretches stay equally long.',
		also: 'equal length, same length, constraint'
	},
	'in line': {
		word: 'Hold in line',
		line: 'An anchor stays on the straight through two others.',
		also: 'collinear, point on line, constraint'
	},
	middle: {
		word: 'Hold in the middle',
		line: 'An anchor stays in the middle between two others.',
		also: 'midpoint, half way, constraint'
	},
	share: {
		word: 'Hold at a share',
		line: 'An anchor stays at a share of the way between two others.',
		also: 'proportion, ratio, constraint'
	},
	'on guide': {
		word: 'Hold on the guide',
		line: 'The picked anchor stays on the nearest guide.',
		also: 'point on guide, constraint'
	},
	'along guide': {
		word: 'Hold along the guide',
		line: 'The stretch, two anchors, or a handle, run as the nearest guide does.',
		also: 'parallel to guide, tangent to guide, constraint'
	},
	tangent: {
		word: 'Hold tangent',
		line: 'A straight stretch stays tangent to an arc.',
		also: 'tangent to, touch, constraint'
	},
	'equal radius': {
		word: 'Hold the same radius',
		line: 'Two arcs keep the same radius.',
		also: 'equal radius, constraint'
	},
	'meets in direction': {
		word: 'Hold meeting in direction',
		line: 'Two ends of lines stay together and go on in one direction.',
		also: 'tangent ends, keep joined smoothly, g1, constraint'
	},
	'meets in curvature': {
		word: 'Hold meeting in curvature',
		line: 'Two ends of lines stay together, go on in one direction and bend alike there.',
		also: 'equal curvature, g2, constraint'
	},
	seams: {
		word: 'Hold the seams equal',
		line: 'Two seams stay equally long, or one longer by a typed ease; pick a stretch of each.',
		also: 'equal seam length, ease, sewn together, constraint'
	}
};

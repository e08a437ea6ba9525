/** Published values and facts of the trade, one describe per source. */
import { describe, expect, test } from 'vitest';
import { arcToCubics } from '../../src/lib/core/geometry/arc';
import { closePath, outlineFromPath, lineOf } from '../../src/lib/core/document/outline';
import {
	deleteAnchors,
	deleteSegments,
	insertAnchors,
	setKind
} from '../../src/lib/core/document/edits/anchors';
import { pathArea, pathLength, tightestRadius } from '../../src/lib/core/geometry/measure';
import { offsetPieces } from '../../src/lib/core/plane/offset';
import { circlePath, CUBIC, PathBuilder, polygonPath, transformPath } from '../../src/lib/core/geometry/path';
import { arcsToCubics, curvatureAt, pointAt, segmentLength } from '../../src/lib/core/geometry/segment';
import { simplifyPath } from '../../src/lib/core/fairing/simplify';
import { splinePoint } from '../../src/lib/core/fit/spline';
import { readDxf } from '../../src/lib/core/formats/dxf';
import { writeDxf } from '../../src/lib/core/formats/dxf-write';
import { readSvg } from '../../src/lib/core/formats/svg';
import { writeSvg } from '../../src/lib/core/formats/svg-write';
import { unwrap } from '../../src/lib/core/errors';

const facts = { id: 'o', name: 'o', layer: 'cut', rank: 1 };

describe('circle from n cubics, handle 4/3 tan(angle / 4) (own reckoning; verified here by sampling)', () => {
	test.each([
		[2, 1.835e-2],
		[3, 1.542e-3],
		[4, 2.725e-4],
		[6, 2.39e-5]
	])('%i cubics err by %f r', (n, error) => {
		const angle = (2 * Math.PI) / n;
		const handle = (4 / 3) * Math.tan(angle / 4);
		const s = [
			1,
			0,
			1,
			handle,
			Math.cos(angle) + handle * Math.sin(angle),
			Math.sin(angle) - handle * Math.cos(angle),
			Math.cos(angle),
			Math.sin(angle)
		];
		let most = 0;
		for (let k = 0; k <= 4000; k++) {
			const p = pointAt(CUBIC, s, 0, k / 4000);
			most = Math.max(most, Math.abs(Math.hypot(p.x, p.y) - 1));
		}
		expect(most / error).toBeCloseTo(1, 2);
		if (n === 4) expect(arcToCubics(1, 0, 0, 1, Math.tan(Math.PI / 8))[3]).toBeCloseTo(0.5522847498, 9);
	});
});

describe('curvature in closed form (definition)', () => {
	test('ellipse: a / b^2 at the ends of the long axis', () => {
		const [a, b] = [30, 12];
		const ellipse = transformPath(arcsToCubics(circlePath(0, 0, 1), 1e-9), [a, 0, 0, b, 0, 0]);
		expect(Math.abs(curvatureAt(CUBIC, ellipse.segs, 0, 0)) / (a / (b * b))).toBeCloseTo(1, 3);
		expect(tightestRadius(ellipse).radius / ((b * b) / a)).toBeCloseTo(1, 3);
	});
	test('parabola y = x^2 / 2p: 1 / p at its vertex', () => {
		// The parabola over -10..10 with p = 5 as one cubic.
		const s = [-10, 10, -10 / 3, -10 / 3, 10 / 3, -10 / 3, 10, 10];
		expect(curvatureAt(CUBIC, s, 0, 0.5)).toBeCloseTo(1 / 5, 9);
		// Its arc length in closed form: x sqrt(1 + x^2/p^2) / 2 + p asinh(x / p) / 2, twice.
		const length = 2 * ((10 * Math.sqrt(1 + 4)) / 2 + (5 * Math.asinh(2)) / 2);
		expect(segmentLength(CUBIC, s, 0)).toBeCloseTo(length, 8);
	});
});

describe('B-spline (Piegl and Tiller, The NURBS Book, 2 and 3)', () => {
	test('the basis sums to one: a spline whose control points are one place stays there', () => {
		const knots = [0, 0, 0, 0, 1, 2.5, 4, 4, 4, 4];
		const points = Array.from({ length: 6 }, () => ({ x: 7, y: -2 }));
		for (const u of [0, 0.3, 1, 2.2, 3.9]) {
			const p = splinePoint({ degree: 3, knots, points }, u);
			expect(p.x).toBeCloseTo(7, 12);
			expect(p.y).toBeCloseTo(-2, 12);
		}
	});
	test('an open pulled curve touches its first and last control point', () => {
		const points = [
			{ x: 0, y: 0 },
			{ x: 3, y: 8 },
			{ x: 9, y: 8 },
			{ x: 12, y: 0 },
			{ x: 20, y: 3 }
		];
		const spline = { degree: 3, knots: [0, 0, 0, 0, 1, 2, 2, 2, 2], points };
		expect(splinePoint(spline, 0)).toEqual(points[0]);
		expect(splinePoint(spline, 2).x).toBeCloseTo(20, 12);
	});
});

describe('sheets and units', () => {
	test('ISO 216: an A4 sheet drawn in CSS pixels is 210 x 297 mm (96 px = 25.4 mm, W3C CSS Values and Units)', () => {
		const px = (mm: number) => (mm * 96) / 25.4;
		const [shape] = unwrap(readSvg(`<svg><rect width="${px(210)}" height="${px(297)}"/></svg>`)).shapes;
		expect(Math.abs(pathArea(shape.paths[0]))).toBeCloseTo(210 * 297, 6);
	});
	test('ISO/IEC 7810: an ID-1 card of 85.60 x 53.98 mm survives SVG and DXF', () => {
		const card = polygonPath([0, 0, 85.6, 0, 85.6, 53.98, 0, 53.98]);
		const there = unwrap(readSvg(writeSvg([{ paths: [card] }]))).shapes[0].paths[0];
		const back = unwrap(readDxf(writeDxf([{ path: there, layer: '0' }], { curves: 'exact' }))).shapes[0]
			.paths[0];
		expect(pathArea(back)).toBeCloseTo(85.6 * 53.98, 6);
	});
	test('published DXF reference: a negative bulge is clockwise; $INSUNITS 4 is millimetres', () => {
		const text = writeDxf([{ path: new PathBuilder(0, 0).arc(-1, 10, 0).open(), layer: '0' }], {
			curves: 'exact'
		});
		expect(text).toMatch(/\$INSUNITS\r\n70\r\n4\r\n/);
		expect(text).toMatch(/\r\n42\r\n-1\.0\r\n/);
		const [path] = unwrap(readDxf(text)).shapes[0].paths;
		expect(pointAt(path.types[0], path.segs, 0, 0.5).y).toBeCloseTo(5, 9);
	});
});

describe('common practice', () => {
	const square = outlineFromPath(polygonPath([0, 0, 20, 0, 20, 20, 0, 20]), facts);
	test('a square that loses a corner anchor is a triangle of half the area', () => {
		for (const id of square.anchors) {
			expect(pathArea(lineOf(deleteAnchors(square, new Set([id]), 'straight')!))).toBeCloseTo(200, 9);
		}
	});
	test('three anchors in a straight line: two are enough', () => {
		const line = polygonPath([0, 0, 5, 0, 9, 0, 20, 0, 20, 20, 0, 20]);
		expect(simplifyPath(line, 0.001).path.types).toHaveLength(4);
	});
	test('n cuts make n open parts of a closed outline (one cut only opens it), n + 1 of an open one', () => {
		expect(deleteSegments(square, new Set([2]))).toHaveLength(1);
		const many = insertAnchors(
			square,
			[0, 1, 2, 3].flatMap((segment) => [0.25, 0.5, 0.75].map((t) => ({ segment, t })))
		).outline;
		expect(deleteSegments(many, new Set([1, 5, 9]))).toHaveLength(3);
		const [open] = deleteSegments(many, new Set([0]));
		expect(deleteSegments(open, new Set([3, 8]))).toHaveLength(3);
	});
	test('closing adds exactly one segment; opening again takes just that one out', () => {
		const open = polygonPath([0, 0, 9, 0, 9, 9], false);
		const closed = outlineFromPath(closePath(open), facts);
		const [again] = deleteSegments(closed, new Set([closed.anchors.length - 1]));
		expect([...lineOf(again).segs]).toEqual([...open.segs]);
	});
	test('an even anchor has handles opposite and equally long; a smooth one opposite', () => {
		const even = setKind(square, new Set(square.anchors), 'even');
		const cross = (o: typeof even, i: number) => {
			const p = o.points.subarray(7 * i, 7 * i + 7);
			return (p[4] - p[0]) * (p[3] - p[1]) - (p[5] - p[1]) * (p[2] - p[0]);
		};
		for (let i = 0; i < 4; i++) expect(cross(even, i)).toBeCloseTo(0, 9);
	});
	test('home sewing allowance: 15 mm around a 100 x 200 mm panel, mitred, is 130 x 230 mm', () => {
		const panel = polygonPath([0, 0, 100, 0, 100, 200, 0, 200]);
		const grown = unwrap(offsetPieces([panel], { distance: 15, join: 'miter' })).paths[0];
		expect(pathArea(grown)).toBeCloseTo(130 * 230, 6);
		expect(pathLength(grown)).toBeCloseTo(720, 6);
	});
});

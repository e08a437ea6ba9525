/** Hands on pictures: places picked on them for their size, and the picture in hand moved, turned, cropped. */
import type { Point } from '../../core/geometry/point';
import type { Reference } from '../../core/document/drawing';
import {
	frameOf,
	isOnReference,
	middleOf,
	onPicture,
	scaleOf,
	turned
} from '../../core/document/edits/placement';
import { lockedDirection } from '../../core/document/edits/snap';
import { turnKnob } from '../../render/marks';
import { toPaper, toScreen } from '../../render/view';
import type { Bench } from '../bench.svelte';
import { REACH_PX } from './pointer';
import type { PointerAt } from './pointer';

export interface PictureGesture {
	readonly what: 'move picture' | 'turn picture';
	readonly x: number;
	readonly y: number;
	readonly from: Reference;
	started: boolean;
}

export class PictureHand {
	constructor(private readonly bench: Bench) {}

	/** Picks a place on the picture that is being sized; a press on one that is picked takes hold of it: its index. */
	pick(p: Point, at: PointerAt): number | undefined {
		const { bench } = this;
		const sizing = bench.pictures.sizing!;
		const px = this.onPicture(p);
		if (!px) {
			bench.tell('That is beside the picture. Pick a point on it.');
			return undefined;
		}
		const most = sizing.purpose === 'corners' ? 4 : 2;
		const reach = bench.reach(at.kind) * px.scale * 1.5;
		const held = sizing.points.findIndex((q) => Math.hypot(q.x - px.x, q.y - px.y) < reach);
		if (held >= 0 && (sizing.purpose === 'corners' || sizing.points.length === most)) {
			return held;
		}
		if (sizing.purpose === 'corners' && sizing.points.length === most) {
			bench.tell('Pull a corner to where it belongs.');
			return undefined;
		}
		const here = { x: px.x, y: px.y };
		const points = sizing.points.length >= most ? [here] : [...sizing.points, here];
		if (
			most === 2 &&
			points.length === 2 &&
			Math.hypot(points[1].x - points[0].x, points[1].y - points[0].y) < 2
		) {
			bench.tell('The two points are too close together to measure by. Pick two that are far apart.');
			return undefined;
		}
		bench.pictures.sizing = { ...sizing, points };
		if (sizing.purpose === 'level' && points.length === 2) bench.pictures.level();
		return undefined;
	}

	/** A place of the paper in the pixels of the picture that is being sized. */
	onPicture(p: Point): { x: number; y: number; scale: number } | undefined {
		const reference = this.bench.references.find((r) => r.id === this.bench.pictures.sizing?.reference);
		if (!reference || !isOnReference(reference, p.x, p.y)) return undefined;
		return { ...onPicture(reference, p.x, p.y), scale: scaleOf(reference) };
	}

	/** Takes hold of the picture in hand: at its knob to turn it, elsewhere to move it, with Shift to crop it. */
	take(p: Point, at: PointerAt): PictureGesture | 'box' | 'pan' | undefined {
		const { bench } = this;
		const reference = bench.pictures.inHand!;
		const corners = frameOf(reference).map((q) => toScreen(bench.sight.view, bench.sight.size, q.x, q.y));
		const knob = turnKnob(corners);
		if (Math.hypot(knob.x - at.x, knob.y - at.y) < REACH_PX[at.kind] + 4) {
			return { what: 'turn picture', x: at.x, y: at.y, from: reference, started: false };
		}
		if (at.shift) return 'box';
		if (isOnReference(reference, p.x, p.y)) {
			return { what: 'move picture', x: at.x, y: at.y, from: reference, started: false };
		}
		const other = bench.pictures.at(p.x, p.y);
		if (!other) return 'pan';
		bench.pictures.placing = other.id;
		return undefined;
	}

	/** The picture follows the pointer. */
	move(gesture: PictureGesture, p: Point, at: PointerAt): void {
		const { bench } = this;
		const { from } = gesture;
		const start = toPaper(bench.sight.view, bench.sight.size, gesture.x, gesture.y);
		if (gesture.what === 'move picture') {
			const d = at.shift
				? lockedDirection(p.x - start.x, p.y - start.y)
				: { x: p.x - start.x, y: p.y - start.y };
			bench.pictures.placed = { ...from, x: from.x + d.x, y: from.y + d.y };
			return;
		}
		const middle = middleOf(from);
		const angleOf = (q: Point) => Math.atan2(q.y - middle.y, q.x - middle.x);
		const by = ((angleOf(p) - angleOf(start)) * 180) / Math.PI;
		bench.pictures.placed = turned(from, at.shift ? 15 * Math.round(by / 15) : by, middle);
	}

	/** Crops the picture in hand to a box of the window. */
	crop(x0: number, y0: number, x1: number, y1: number): void {
		const { bench } = this;
		const reference = bench.pictures.inHand;
		if (!reference) return;
		const places = [
			[x0, y0],
			[x1, y0],
			[x1, y1],
			[x0, y1]
		].map(([x, y]) => {
			const p = toPaper(bench.sight.view, bench.sight.size, x, y);
			return onPicture(reference, p.x, p.y);
		});
		const clamp = (v: number, most: number) => Math.min(most, Math.max(0, Math.round(v)));
		const left = clamp(Math.min(...places.map((p) => p.x)), reference.widthPx);
		const right = clamp(Math.max(...places.map((p) => p.x)), reference.widthPx);
		const top = clamp(Math.min(...places.map((p) => p.y)), reference.heightPx);
		const bottom = clamp(Math.max(...places.map((p) => p.y)), reference.heightPx);
		if (right - left < 2 || bottom - top < 2) {
			bench.tell('That box holds nothing of the picture.');
			return;
		}
		bench.commit('Crop picture', {
			put: [{ ...reference, crop: { x: left, y: top, w: right - left, h: bottom - top } }]
		});
	}
}

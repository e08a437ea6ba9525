/** Places picked on a picture, by which its size, its level or its corners are told. */
import type { Point } from '../../core/geometry/point';
import { isOnReference, onPicture, scaleOf } from '../../core/document/edits/placement';
import type { Bench } from '../bench.svelte';
import type { Gesture, Holding } from './gesture';
import type { PointerAt } from './pointer';

/** px of the picture: two places nearer than this are too close to measure by. */
const LEAST_APART_PX = 2;

/** A press while a picture is being sized: a place more, or one that is taken hold of again. */
export function pressPlace(hand: Holding, p: Point, at: PointerAt): Gesture | undefined {
	const { bench } = hand;
	const sizing = bench.pictures.sizing!;
	const px = onSized(bench, p);
	if (!px) {
		bench.tell('That is beside the picture. Pick a point on it.');
		return undefined;
	}
	const most = sizing.purpose === 'corners' ? 4 : 2;
	const reach = bench.reach(at.kind) * px.scale * 1.5;
	const held = sizing.points.findIndex((q) => Math.hypot(q.x - px.x, q.y - px.y) < reach);
	if (held >= 0 && (sizing.purpose === 'corners' || sizing.points.length === most))
		return new MovePlace(hand, held);
	if (sizing.purpose === 'corners' && sizing.points.length === most) {
		bench.tell('Pull a corner to where it belongs.');
		return undefined;
	}
	const here = { x: px.x, y: px.y };
	const points = sizing.points.length >= most ? [here] : [...sizing.points, here];
	const [a, b] = points;
	if (most === 2 && b && Math.hypot(b.x - a.x, b.y - a.y) < LEAST_APART_PX) {
		bench.tell('The two points are too close together to measure by. Pick two that are far apart.');
		return undefined;
	}
	bench.pictures.sizing = { ...sizing, points };
	if (sizing.purpose === 'level' && points.length === 2) bench.pictures.level();
	return undefined;
}

class MovePlace implements Gesture {
	constructor(
		private readonly hand: Holding,
		private readonly index: number
	) {}

	move(p: Point): void {
		const { bench } = this.hand;
		const { sizing } = bench.pictures;
		const px = onSized(bench, p);
		if (!px || !sizing) return;
		const points = sizing.points.map((q, k) => (k === this.index ? { x: px.x, y: px.y } : q));
		bench.pictures.sizing = { ...sizing, points };
	}
	up(): void {}
}

/** A place of the paper in the pixels of the picture that is being sized. */
function onSized(bench: Bench, p: Point): { x: number; y: number; scale: number } | undefined {
	const reference = bench.references.find((r) => r.id === bench.pictures.sizing?.reference);
	if (!reference || !isOnReference(reference, p.x, p.y)) return undefined;
	return { ...onPicture(reference, p.x, p.y), scale: scaleOf(reference) };
}

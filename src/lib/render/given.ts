/** The places by which a line is given: pins on it, loops that pull it, tips of directions. */
import type { GivenPlace } from '../core/document/recipes/recipe-type';
import type { Point } from '../core/geometry/point';
import { doubleEdge, type MarkScene } from './marks';
import { toScreen } from './view';

export interface GivenLook {
	readonly places: readonly GivenPlace[];
	readonly frame: { readonly row: readonly Point[]; readonly closed: boolean } | undefined;
	/** The key of the picked one. */
	readonly picked: string | undefined;
}

/** px */
const PIN = 4.5;
const LOOP = 5.5;

/**
 * A pin is a round head with its shadowed middle, on the line; a loop that pulls is a lying eye with a thread to its
 * neighbours; a tip is an open arrow. What is picked is filled and larger.
 */
export function drawGiven(
	c: CanvasRenderingContext2D,
	scene: MarkScene,
	{ places, frame, picked }: GivenLook
): void {
	const { view, size, palette } = scene;
	const at = (p: Point) => toScreen(view, size, p.x, p.y);
	if (frame) {
		c.setLineDash([3, 5]);
		doubleEdge(c, palette, palette.weld, 1, () => {
			frame.row.map(at).forEach((p, i) => (i ? c.lineTo(p.x, p.y) : c.moveTo(p.x, p.y)));
			if (frame.closed) c.closePath();
		});
		c.setLineDash([]);
	}
	for (const place of places) {
		const p = at(place);
		const isPicked = place.key === picked;
		const colour = isPicked ? palette.madder : place.looks === 'vertex' ? palette.weld : palette.woad;
		if (place.looks === 'tip' && place.from) {
			drawTip(c, scene, at(place.from), p, colour);
			continue;
		}
		const more = isPicked ? 1.5 : 0;
		doubleEdge(c, palette, colour, 1.8, () => {
			if (place.looks === 'vertex')
				c.ellipse(p.x, p.y, LOOP + more, (LOOP + more) * 0.6, -Math.PI / 5, 0, 2 * Math.PI);
			else c.arc(p.x, p.y, PIN + more, 0, 2 * Math.PI);
		});
		c.fillStyle = isPicked ? colour : palette.paper;
		c.fill();
		if (place.looks === 'vertex') continue;
		c.fillStyle = isPicked ? palette.paper : colour;
		c.beginPath();
		c.arc(p.x, p.y, 1.6, 0, 2 * Math.PI);
		c.fill();
	}
}

function drawTip(
	c: CanvasRenderingContext2D,
	{ palette }: MarkScene,
	from: Point,
	to: Point,
	colour: string
): void {
	const far = Math.hypot(to.x - from.x, to.y - from.y) || 1;
	const [ux, uy] = [(to.x - from.x) / far, (to.y - from.y) / far];
	doubleEdge(c, palette, colour, 1.3, () => {
		c.moveTo(from.x + ux * (PIN + 2), from.y + uy * (PIN + 2));
		c.lineTo(to.x, to.y);
	});
	doubleEdge(c, palette, colour, 2, () => {
		c.moveTo(to.x - 8 * ux - 5 * uy, to.y - 8 * uy + 5 * ux);
		c.lineTo(to.x, to.y);
		c.lineTo(to.x - 8 * ux + 5 * uy, to.y - 8 * uy - 5 * ux);
	});
}

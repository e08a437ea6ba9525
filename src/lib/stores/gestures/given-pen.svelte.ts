/** Drawing curves that are given otherwise than by anchors: through places, by a polygon that pulls, by two ends and a shoulder. */
import { givenOutline } from '../../core/document/edits/made';
import { lineOf, type OutlineFacts } from '../../core/document/outline';
import { leastVertices } from '../../core/fit/least-vertices';
import { circleFullness } from '../../core/fit/conic';
import { throughRecipe, type ThroughRecipeSettings } from '../../core/document/recipes/through';
import type { ConicSettings } from '../../core/document/recipes/conic';
import type { PulledSettings } from '../../core/document/recipes/pulled';
import type { Outline } from '../../core/document/outline';
import { toProblem } from '../../core/errors';
import type { Path } from '../../core/geometry/path';
import type { Point } from '../../core/geometry/point';
import type { GivenLook } from '../../render/given';
import type { ForPen } from '../parts';
import { Pen, type PenAt } from './pen.svelte';

export type GivenPenKind = 'through' | 'pulled' | 'conic';

const HINTS: Readonly<Record<GivenPenKind, readonly string[]>> = {
	through: [
		'Click where the curve begins.',
		'Click the places that it goes through; press and pull to give one a direction. Enter ends it, the first place closes it.'
	],
	pulled: [
		'Click the first corner of the polygon: the curve begins there.',
		'Click the corners that pull the curve; Enter ends it, the first one closes it. Its degree is below.'
	],
	conic: [
		'Click where the arch begins.',
		'Click where it ends.',
		'Click the shoulder: where the sides of both ends meet.'
	]
};
const STEPS: Readonly<Record<GivenPenKind, string>> = {
	through: 'Draw a curve through points',
	pulled: 'Draw a pulled curve',
	conic: 'Draw an arch'
};

export class GivenPen extends Pen {
	/** Of a pulled curve. */
	degree = $state(3);

	constructor(
		bench: ForPen,
		override readonly kind: GivenPenKind
	) {
		super(bench, kind);
	}

	override get hint(): string {
		const words = HINTS[this.kind];
		return `${words[Math.min(this.anchors.length, words.length - 1)]} Esc puts the pen away.`;
	}

	/** The places so far, with the one under the pointer where that is wanted. */
	private placesSoFar(withNext: boolean): (Point & { readonly out?: Point })[] {
		const next =
			withNext && this.at && !this.pressed && !this.closing && this.anchors.length ? [this.at] : [];
		return [...this.anchors, ...next];
	}

	private outline(
		places: readonly (Point & { readonly out?: Point })[],
		facts: OutlineFacts
	): Outline | undefined {
		const numbered = places.map(({ x, y }, i) => ({ id: i + 1, x, y }));
		const closed = this.closing && places.length > 2;
		if (this.kind === 'through') {
			let settings: ThroughRecipeSettings = { places: numbered, closed, pace: 'fair', drift: 0 };
			places.forEach(({ out }, i) => {
				if (out) settings = throughRecipe.places!.moved(settings, `${i + 1}>`, out);
			});
			return numbered.length < 2 ? undefined : givenOutline('through', settings, facts);
		}
		if (this.kind === 'pulled') {
			const most = closed ? numbered.length : numbered.length - 1;
			const degree = Math.min(this.degree, most);
			if (degree < 1 || numbered.length < leastVertices(degree, closed)) return undefined;
			const settings: PulledSettings = { vertices: numbered, degree, closed };
			return givenOutline('pulled', settings, facts);
		}
		const [start, end, shoulder] = places;
		if (!start || !end) return undefined;
		const [dx, dy] = [end.x - start.x, end.y - start.y];
		const top = shoulder ?? { x: (start.x + end.x) / 2 - dy / 3, y: (start.y + end.y) / 2 + dx / 3 };
		const settings: ConicSettings = {
			start: { x: start.x, y: start.y },
			shoulder: { x: top.x, y: top.y },
			end: { x: end.x, y: end.y },
			fullness: 0.5
		};
		return givenOutline('conic', { ...settings, fullness: circleFullness(settings) ?? 0.5 }, facts);
	}

	protected override previewed(): readonly Path[] {
		try {
			const made = this.outline(this.placesSoFar(true), { id: 'drawn', name: '', layer: 'cut', rank: 0 });
			return made ? [lineOf(made)] : [];
		} catch {
			return [];
		}
	}

	override get givenSoFar(): GivenLook | undefined {
		const places = this.placesSoFar(true);
		if (places.length === 0) return undefined;
		const row = this.kind === 'conic' && places.length === 3 ? [places[0], places[2], places[1]] : places;
		return {
			places: places.flatMap(({ x, y, out }, i) => [
				{ key: `${i}`, x, y, looks: this.kind === 'pulled' ? ('vertex' as const) : ('point' as const) },
				...(out ? [{ key: `${i}>`, x: out.x, y: out.y, looks: 'tip' as const, from: { x, y } }] : [])
			]),
			frame: this.kind === 'through' ? undefined : { row, closed: this.closing },
			picked: `${this.anchors.length - 1}`
		};
	}

	override down(p: PenAt): void {
		const place = this.placed(p);
		this.pressed = place;
		this.pulling = false;
		if (this.kind !== 'conic' && this.anchors.length > 2 && this.isFirst(p)) {
			this.closing = true;
			return;
		}
		this.remember();
		this.anchors = [...this.anchors, { x: place.x, y: place.y }];
		this.frozen = undefined;
	}

	override move(p: PenAt, held: boolean): void {
		this.at = this.placed(p);
		if (!held) {
			this.closing = this.kind !== 'conic' && this.anchors.length > 2 && this.isFirst(p);
			return;
		}
		const { last, pressed } = this;
		if (this.kind !== 'through' || !last || !pressed || this.closing) return;
		if (!this.pulling && Math.hypot(p.x - pressed.x, p.y - pressed.y) < p.reach / 2) return;
		this.pulling = true;
		this.anchors = [...this.anchors.slice(0, -1), { x: last.x, y: last.y, out: { x: p.x, y: p.y } }];
	}

	override up(p: PenAt): void {
		this.pressed = undefined;
		this.at = this.placed(p);
		if (this.closing || (this.kind === 'conic' && this.anchors.length === 3)) this.finish();
	}

	override typed(right: number, up: number): void {
		const from = this.last;
		if (!from) return;
		this.at = { x: from.x + right, y: from.y + up };
		this.remember();
		this.anchors = [...this.anchors, this.at];
		if (this.kind === 'conic' && this.anchors.length === 3) this.finish();
	}

	override setFlowing(): void {
		// Such curves have no kinds of anchors.
	}

	override finish(): void {
		try {
			const places = this.placesSoFar(false);
			const made =
				this.kind === 'conic' && places.length < 3 ? undefined : this.outline(places, this.facts());
			if (made) this.put(STEPS[this.kind], made);
			else this.clear();
		} catch (error) {
			this.bench.trouble(toProblem(error));
			this.clear();
		}
	}
}

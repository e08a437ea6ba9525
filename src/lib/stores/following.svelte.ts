/** What follows while something is dragged: cheap lines in every frame, dear ones when the hand rests. */
import type { Drawing } from '../core/document/drawing';
import { follow, graphOf, inputsOf, remade, setOf } from '../core/document/graph';
import type { Outline } from '../core/document/outline';
import type { MakeFar } from './document.svelte';

/** ms without a move: the hand rests. */
const REST_MS = 140;

export interface Followed {
	/** Lines as they would be, drawn in place of what is stored. */
	readonly lines: readonly Outline[];
	/** Stored lines that are older than what they follow: drawn faint. */
	readonly faint: ReadonlySet<string>;
	/** Stored lines that would not be there. */
	readonly away: ReadonlySet<string>;
	readonly dear: readonly string[];
	readonly records: Drawing['records'];
}
const NONE: ReadonlySet<string> = new Set();

export interface Dragged {
	readonly drawing: Drawing;
	/** Outlines as they would become. */
	readonly held: readonly Outline[];
}

export class Following {
	/** Dear lines that were made while the hand rested, and of what. */
	private late = $state.raw<{ of: readonly Outline[]; lines: readonly Outline[] } | undefined>();

	constructor(
		private readonly dragged: Dragged,
		private readonly makeFar: MakeFar
	) {}

	private readonly cheap: Followed | undefined = $derived.by(() => {
		const { drawing, held } = this.dragged;
		const { followers } = graphOf(drawing);
		if (!held.some((o) => followers.has(o.id))) return undefined;
		const records = new Map(drawing.records);
		for (const o of held) records.set(o.id, o);
		const followed = follow(
			{ ...drawing, records },
			held.map((o) => o.id),
			'draft'
		);
		const lines = [...followed.put.values()].filter((o) => !o.recipe?.stale);
		const faint = new Set([...followed.put.values()].filter((o) => o.recipe?.stale).map((o) => o.id));
		return { lines, faint, away: followed.remove, dear: followed.dear, records: followed.records };
	});

	/** What follows what is held just now. */
	readonly now: Followed = $derived.by(() => {
		const { cheap, late } = this;
		if (!cheap)
			return { lines: [], faint: NONE, away: NONE, dear: [], records: this.dragged.drawing.records };
		if (!late || late.of !== this.dragged.held) return cheap;
		const made = new Set(late.lines.map((o) => o.id));
		return {
			...cheap,
			lines: [...cheap.lines, ...late.lines],
			faint: new Set([...cheap.faint].filter((id) => !made.has(id)))
		};
	});

	/** Waits for the hand to rest and has dear lines made then. To be called whenever what is held changes; gives the way to stop it. */
	awaitRest(): (() => void) | undefined {
		const { cheap } = this;
		const { held, drawing } = this.dragged;
		if (!cheap?.dear.length) return undefined;
		const timer = setTimeout(() => void this.make(cheap, held, drawing), REST_MS);
		return () => clearTimeout(timer);
	}

	private async make({ dear, records }: Followed, held: readonly Outline[], drawing: Drawing): Promise<void> {
		const lines: Outline[] = [];
		for (const set of dear) {
			const members = [...records.values()].filter(
				(r): r is Outline => r.type === 'outline' && r.recipe !== undefined && setOf(r) === set
			);
			const recipe = members[0]?.recipe;
			const input = recipe && inputsOf(records, recipe);
			if (!recipe || !input) continue;
			const result = await this.makeFar(set, recipe, input.lines);
			if (!result || held !== this.dragged.held) return;
			lines.push(...remade(drawing, members, input.lines, input.print, result).put);
		}
		this.late = { of: held, lines };
	}
}

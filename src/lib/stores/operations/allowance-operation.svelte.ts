/** A width outside of the edges of pieces, cut instead of them; it follows them from then on. */
import type { Drawing } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { inputLine } from '../../core/document/graph';
import type { Edit } from '../../core/document/history';
import { isClosed, type Outline } from '../../core/document/outline';
import type { AllowanceSettings } from '../../core/document/recipes/allowance';
import { anchorCount } from '../../core/geometry/measure';
import type { Bench } from '../bench.svelte';
import { Operation } from './operation.svelte';

/** What was typed last is there next time. */
let last: Partial<AllowanceSettings> = {};

export class AllowanceOperation extends Operation {
	readonly kind = 'allowance';
	readonly name = 'Give an allowance';
	/** mm, of edges that have none of their own. */
	width = $state(10);
	corner = $state<AllowanceSettings['corner']>('miter');
	anchorsAfter = $state(0);

	constructor(readonly outlines: readonly Outline[]) {
		super();
	}
	get settings(): AllowanceSettings {
		return { width: this.width, corner: this.corner };
	}
	/** How many edges carry a width of their own. */
	get ownWidths(): number {
		return this.outlines.reduce(
			(sum, o) => sum + (o.edges ?? []).filter((e) => e.width !== undefined).length,
			0
		);
	}

	protected async run(): Promise<void> {
		const made = await this.reckon('make', ['allowance', this.outlines.map(inputLine), this.settings]);
		if (!made) return;
		this.preview = made.map((line) => line.path);
		this.anchorsAfter = this.preview.reduce((sum, path) => sum + anchorCount(path), 0);
	}
	override remember(): void {
		last = this.settings;
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		const [source] = this.outlines;
		return addFollower('allowance', this.settings, this.outlines, {
			...factsLike(drawing, source, `${source.name}, allowance`),
			id: newId()
		});
	}
}

/** Gives the selected closed outlines, or all, an allowance. */
export function beginAllowance(bench: Bench): AllowanceOperation | string {
	const outlines = bench.targets().filter((o) => isClosed(o));
	if (outlines.length === 0) return 'An allowance needs a closed outline.';
	bench.leave();
	return Object.assign(new AllowanceOperation(outlines), last);
}

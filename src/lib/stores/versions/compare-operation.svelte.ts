/** Two states of the drawing held against each other: what moved, came and went, on the drawing and in words. */
import { compare, type Difference } from '../../core/document/compared';
import type { Drawing } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import { lineOf, type Outline } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import { recordType } from '../../core/document/records';
import { unionBox } from '../../core/geometry/measure';
import { boxOf } from '../../core/geometry/pick';
import type { Box } from '../../core/geometry/segment';
import { formatLength } from '../../core/units';
import { drawCompared } from '../../render/compared';
import type { SurfaceLook } from '../../render/scene';
import type { KeptVersion } from '../../storage/database';
import { nextRequest } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { Operation } from '../operations/operation.svelte';
import { drawingOf, Versions } from './versions.svelte';

/** The drawing as it is, in the place of a version. */
export const NOW = 'now';
/** Words written on the drawing at most, those of the largest moves. */
const MOST_LABELS = 12;

export class CompareOperation extends Operation {
	readonly kind = 'compare';
	readonly name = 'Compare';
	readonly outlines: readonly Outline[] = [];
	/** Ids of versions, or the drawing as it is. */
	earlier = $state('');
	later = $state(NOW);
	differences = $state.raw<readonly Difference[]>([]);
	private states = $state.raw<readonly [Drawing, Drawing] | undefined>();

	constructor(
		readonly bench: Bench,
		readonly versions: readonly KeptVersion[],
		first: string
	) {
		super();
		this.earlier = first;
	}

	override get hint(): string {
		return 'Dashed as it was, whole as it is; what came is double, what went is dotted. Esc leaves.';
	}
	override get nothing(): string {
		return 'Two states are compared: there is nothing to keep. Esc leaves.';
	}
	edit(): Edit {
		return {};
	}
	protected async run(): Promise<void> {
		const request = (this.request = nextRequest());
		const [before, after] = await Promise.all([this.stateOf(this.earlier), this.stateOf(this.later)]);
		if (request !== this.request) return;
		this.states = [before, after];
		this.differences = compare(before.records, after.records);
		this.labels = this.differences
			.flatMap((d) => (d.how === 'moved' ? [d] : []))
			.sort((a, b) => b.by - a.by)
			.slice(0, MOST_LABELS)
			.map(({ x, y, by }) => ({ x, y, text: formatLength(by, this.bench.unit) }));
		this.busy = false;
	}
	private async stateOf(which: string): Promise<Drawing> {
		const version = this.versions.find(({ id }) => id === which);
		return version ? drawingOf(version) : this.bench.drawing;
	}
	/** Of two versions the later one is seen, not the drawing as it is. */
	override get instead(): Drawing | undefined {
		return this.later === NOW ? undefined : this.states?.[1];
	}

	override get over(): (c: CanvasRenderingContext2D, look: SurfaceLook) => void {
		const { states, differences } = this;
		if (!states) return () => undefined;
		const seen = states.map((state) => new Set(shown(state).map(({ id }) => id)));
		const [was, is] = seen;
		const lines = (pick: (d: Difference) => Outline | undefined, ids: ReadonlySet<string>) =>
			differences.flatMap((d) => {
				const outline = pick(d);
				return outline && ids.has(outline.id) ? [lineOf(outline)] : [];
			});
		const changed = (d: Difference) => (d.how === 'moved' || d.how === 'carried' ? d : undefined);
		const compared = {
			before: lines((d) => changed(d)?.before, was),
			after: lines((d) => changed(d)?.after, is),
			came: lines((d) => (d.how === 'came' && d.record.type === 'outline' ? d.record : undefined), is),
			went: lines((d) => (d.how === 'went' && d.record.type === 'outline' ? d.record : undefined), was)
		};
		return (c, look) => drawCompared(c, look, compared);
	}

	/** Where a difference lies; undefined where it lies nowhere. */
	boxOf(d: Difference): Box {
		if ('record' in d) return recordType(d.record).box(d.record);
		if (d.how === 'said') return recordType(d.after).box(d.after);
		return unionBox([boxOf(lineOf(d.before)), boxOf(lineOf(d.after))]);
	}

	/** The drawing becomes what it was in the earlier of the two. */
	async goBack(): Promise<void> {
		const version = this.versions.find(({ id }) => id === this.earlier);
		if (!version) return;
		this.bench.dropOperation();
		await new Versions(this.bench).goBack(version);
	}
}

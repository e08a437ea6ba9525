/** Ends that lie near each other become one line. */
import type { Drawing } from '../../core/document/drawing';
import { joinedOutline, joinOutlines } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { lineOf } from '../../core/document/outline';
import type { Result } from '../../core/errors';
import { joinEnds, type Joined } from '../../core/geometry/join';
import type { Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** Joins ends of the open outlines within a gap. */
export class JoinOperation extends PlainOperation {
	readonly kind = 'join';
	/** mm */
	gap = $state(0.5);
	bridge = $state(false);
	joined = $state.raw<Joined | undefined>();
	readonly name = 'Join ends';

	protected compute(): Result<readonly Path[]> {
		this.joined = joinEnds(this.outlines.map(lineOf), this.gap, this.bridge);
		if (this.joined.from.every((list, i) => list.length === 1 && !this.joined!.paths[i].closed)) {
			return {
				ok: false,
				problem: {
					code: 'no-ends',
					sentence: `No two ends lie within ${this.gap} mm of each other. Allow a wider gap, or draw them nearer.`
				}
			};
		}
		const { paths, from, drift } = this.joined;
		const becoming = (path: Path, i: number) =>
			lineOf(
				joinedOutline(
					from[i].map((k) => this.outlines[k]),
					path,
					drift
				)
			);
		return { ok: true, value: paths.map(becoming) };
	}
	edit(drawing: Drawing): Edit {
		return joinOutlines(drawing, this.outlines, this.joined!);
	}
}

/** Joins the selected open outlines, or all. */
export function beginJoin(bench: Bench): JoinOperation | string {
	const outlines = bench.targets().filter((o) => !o.closed);
	if (outlines.length === 0) return 'There is no open outline to join.';
	bench.leave();
	return new JoinOperation(outlines);
}

/** The widths of a band along its line: what a stretch has, and a stretch given its own. */
import { STRIDE, type Path } from '../../geometry/path';
import { widthsAlong } from '../../plane/band';
import { saidWidths, widthAt, type BandSettings, type WidthAtAnchor } from '../recipes/band';
import type { InputLine } from '../recipes/recipe-type';

/** A stretch between two anchors of the line, and its width where it begins and where it ends, mm. */
export interface BandStretch {
	/** Indexes of those anchors. */
	readonly start: number;
	readonly end: number;
	readonly from: number;
	readonly to: number;
}

/** Whether an anchor stands in the line itself, so that a width can be said there. */
const isOwn = (role: string): boolean => /^\d+$/.test(role);

/** The stretch that a segment of the line belongs to. */
export function stretchAt(input: InputLine, settings: BandSettings, segment: number): BandStretch {
	const { path, roles } = input;
	const n = path.types.length;
	const count = roles.length;
	let start = segment;
	let end = (segment + 1) % count;
	for (let k = 0; k < n && !isOwn(roles[start]) && (path.closed || start > 0); k++)
		start = (start + count - 1) % count;
	for (let k = 0; k < n && !isOwn(roles[end]) && (path.closed || end < n); k++) end = (end + 1) % count;
	const along = (i: number) =>
		widthsAlong(path, { ...settings, widths: saidWidths(input, settings.widths) }, i);
	return { start, end, from: along(start).from, to: along((end + count - 1) % count).to };
}

/** The settings with a stretch whose width goes from one to another; undefined: as the rest. */
export function withStretch(
	input: InputLine,
	settings: BandSettings,
	{ start, end }: BandStretch,
	from: number | undefined,
	to: number | undefined
): BandSettings {
	const { path, roles } = input;
	const count = roles.length;
	const said = saidWidths(input, settings.widths);
	const known = new Map(said.map((w) => [w.at, w]));
	const along = (i: number) => widthsAlong(path, { ...settings, widths: said }, i);
	const own = (mm: number | undefined) => (mm === settings.width ? undefined : mm);
	const isFree = (at: number) => !path.closed && (at === 0 || at === count - 1);
	const before =
		known.get(start)?.before ??
		(known.has(start) || isFree(start) ? undefined : along((start + count - 1) % count).to);
	const after = known.get(end)?.after ?? (known.has(end) || isFree(end) ? undefined : along(end).from);
	const fresh = new Map<number, WidthAtAnchor>([
		[start, widthAt(Number(roles[start]), own(before), own(from))],
		[end, widthAt(Number(roles[end]), own(to), own(after))]
	]);
	// A closed line of one anchor: both are said of the same.
	if (start === end) fresh.set(start, widthAt(Number(roles[start]), own(to), own(from)));
	const anchors = new Set([...fresh.values()].map(({ anchor }) => anchor));
	return {
		...settings,
		widths: [...settings.widths.filter((w) => !anchors.has(w.anchor)), ...fresh.values()]
	};
}

/** Where an anchor of a path lies. */
export function anchorPlace({ types, segs }: Path, i: number): { x: number; y: number } {
	const k = i < types.length ? STRIDE * i : STRIDE * (types.length - 1) + 6;
	return { x: segs[k], y: segs[k + 1] };
}

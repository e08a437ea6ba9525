/** How the work stands at each station between the picture and the machine. */
import type { Fault } from '../core/check/fault';
import { isFollower } from '../core/document/graph';
import { outlinesOf, referencesOf, sheetsOf, type Drawing } from '../core/document/drawing';

export type Station = 'picture' | 'size' | 'trace' | 'draw' | 'mend' | 'build' | 'offset' | 'sheet' | 'cut';

/** 'ahead': not begun; 'loose': something is not settled; 'even': all is well; 'knot': something would stop the cut. */
export type StitchState = 'ahead' | 'loose' | 'even' | 'knot';

export interface StationState {
	readonly state: StitchState;
	/** How many things stop the cut here. */
	readonly knots: number;
	/** One line: how it stands. */
	readonly line: string;
}

/** The stations in the order of the work, and their words on the thread. */
export const STATIONS: readonly { readonly id: Station; readonly word: string }[] = [
	{ id: 'picture', word: 'Picture' },
	{ id: 'size', word: 'True size' },
	{ id: 'trace', word: 'Trace' },
	{ id: 'draw', word: 'Draw' },
	{ id: 'mend', word: 'Mend' },
	{ id: 'build', word: 'Build' },
	{ id: 'offset', word: 'Offset' },
	{ id: 'sheet', word: 'Sheet' },
	{ id: 'cut', word: 'Cut' }
];

export type StationStates = Readonly<Record<Station, StationState>>;

export function findStationStates(
	drawing: Drawing,
	faults: readonly Fault[],
	outlines: number,
	isChecked: boolean
): StationStates {
	const references = referencesOf(drawing);
	const unsized = references.filter((r) => r.pxPerMm === undefined).length;
	const knots = faults.filter((f) => f.stops && f.kind !== 'no-size').length;
	const some = outlines > 0;
	const offsets = outlinesOf(drawing).filter(isFollower).length;
	const sheets = sheetsOf(drawing);
	const plural = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`;
	return {
		picture: {
			state: references.length || some ? 'even' : 'ahead',
			knots: 0,
			line: references.length
				? plural(references.length, 'picture')
				: some
					? 'None needed'
					: 'Bring in a picture'
		},
		size: {
			state: unsized ? 'loose' : references.length || some ? 'even' : 'ahead',
			knots: 0,
			line: unsized
				? 'No true size yet'
				: references.length
					? 'True size is set'
					: some
						? 'As drawn'
						: 'How large is it?'
		},
		trace: {
			state: some ? (unsized ? 'loose' : 'even') : 'ahead',
			knots: 0,
			line: some ? plural(outlines, 'outline') : 'Outlines by themselves'
		},
		draw: {
			state: some ? 'even' : 'ahead',
			knots: 0,
			line: 'By hand, ready shapes'
		},
		mend: {
			state: knots ? 'knot' : some ? 'even' : 'ahead',
			knots,
			line: knots ? `${plural(knots, 'thing')} to mend` : some ? 'Nothing to mend' : 'Edit, smooth, simplify'
		},
		build: {
			state: some ? 'even' : 'ahead',
			knots: 0,
			line: some ? 'Combine, join, trim' : 'Put pieces together'
		},
		offset: {
			state: some && offsets ? 'even' : 'ahead',
			knots: 0,
			line: offsets ? plural(offsets, 'line') + ' beside' : 'A line beside it'
		},
		sheet: {
			state: sheets.length ? 'even' : 'ahead',
			knots: 0,
			line: sheets.length ? `${sheets[0].width} × ${sheets[0].height} mm` : 'What is it cut from?'
		},
		cut: {
			state: !some ? 'ahead' : knots || unsized || !isChecked ? 'loose' : 'even',
			knots: 0,
			line: !some
				? 'Files for the machine'
				: knots || unsized
					? 'Not ready yet'
					: isChecked
						? 'Ready to cut'
						: 'Being checked'
		}
	};
}

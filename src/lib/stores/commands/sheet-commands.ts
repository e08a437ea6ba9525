/** Commands of the sheet: what pieces are cut from, how they lie on it, and paper. What they open is loaded when it is first asked for. */
import { sheetsOf, nextRank } from '../../core/document/drawing';
import { isClosed } from '../../core/document/outline';
import type { Bench } from '../bench.svelte';
import { PURPOSES, type Purpose } from '../../core/document/purpose';
import { newId } from '../ids';
import { setPurpose } from '../purposes';
import { needsOutlines, withPart, type Command } from './command';

const onSheets = () => import('../../core/arrange/on-sheets');

const needsSheet = (b: Bench) =>
	sheetsOf(b.drawing).length ? undefined : 'There is no sheet yet: lay one out first.';

/** What a purpose is called, what is done then, and other words for it. */
const PURPOSE_WORDS: Readonly<Record<Purpose, readonly [string, string, string]>> = {
	cut: ['cutting', 'cut through', 'through cut'],
	score: ['scoring', 'scored', 'crease, fold line'],
	engrave: ['engraving', 'engraved', 'mark, draw'],
	guide: ['the eye', 'a guide that no machine sees', 'guide line, construction line']
};

export const SHEET_COMMANDS: readonly Command[] = [
	{
		id: 'arrange',
		word: 'Arrange',
		line: 'Pieces are laid on the sheet with little waste, turned as they may be.',
		also: 'nest, pack, lay out, fit on sheet, arrange, save material, layout, nesting',
		station: 'sheet',
		drawing: 'arrange',
		why: (b) => needsOutlines(b) ?? needsSheet(b),
		run: withPart(
			() => import('../sheets/arrange-operation.svelte'),
			(b, { openArrange }) => openArrange(b)
		)
	},
	{
		id: 'close-up',
		word: 'Close up',
		line: 'The selected pieces go down and to the left on their sheet, up to the others and the margin.',
		also: 'close up, push together, move up to, nestle, slide together',
		station: 'sheet',
		drawing: 'close-up',
		why: (b) => needsSheet(b) ?? (b.selection.selectedOutlines.length ? undefined : 'Select pieces first.'),
		run: withPart(
			() => import('../../core/arrange/by-hand'),
			(b, { closeUp }) => {
				if (!b.commit('Close up', closeUp(b.drawing, b.selection.selected, b.pieceGap)))
					b.tell('They lie as close as they can, or on no sheet.');
			}
		)
	},
	{
		id: 'put-back',
		word: 'Put back',
		line: 'Arranged pieces go back to where they came from: the selected ones, or all.',
		also: 'unpack, undo arranging, back from the sheet, where they came from',
		station: 'sheet',
		drawing: 'put-back',
		why: (b) => (hasHome(b) ? undefined : 'No piece was arranged.'),
		run: withPart(onSheets, (b, { broughtHome, cameFromElsewhere }) => {
			const all = cameFromElsewhere(b.drawing);
			const { selected } = b.selection;
			const own = all.filter((id) => selected.has(id));
			b.commit('Put back', broughtHome(b.drawing, own.length ? own : all));
		})
	},
	{
		id: 'sheet-from-outline',
		word: 'Sheet from it',
		line: 'The selected outline is the sheet: a hide, an offcut. It is a guide from then on.',
		also: 'hide, offcut, remnant, odd sheet, scrap, leather skin, own sheet',
		station: 'sheet',
		drawing: 'hide',
		why: (b) =>
			b.selection.selectedOutlines.length === 1 && isClosed(b.selection.selectedOutlines[0])
				? undefined
				: 'Select the one closed outline that goes round the material.',
		run: withPart(onSheets, (b, { sheetFrom }) => {
			const facts = { id: newId(), rank: nextRank(b.drawing) };
			const made = sheetFrom(b.drawing, b.selection.selectedOutlines[0], facts, newId());
			if (made) b.commit('Sheet from an outline', made);
		})
	},
	{
		id: 'spoilt',
		word: 'Leave out',
		line: 'What lies in the selected outlines is spoilt: nothing is laid there. Once more takes it back.',
		also: 'hole in the material, defect, spoilt, avoid, keep free',
		station: 'sheet',
		drawing: 'spoilt',
		why: (b) =>
			needsSheet(b) ??
			(b.selection.selectedOutlines.some((o) => isClosed(o))
				? undefined
				: 'Select closed outlines round the spoilt places.'),
		run: (b) => {
			const ids = b.selection.selectedOutlines.filter((o) => isClosed(o)).map((o) => o.id);
			const [sheet] = sheetsOf(b.drawing);
			const before = sheet.spoilt ?? [];
			const isBack = ids.every((id) => before.includes(id));
			const spoilt = isBack ? before.filter((id) => !ids.includes(id)) : [...new Set([...before, ...ids])];
			const { spoilt: _before, ...rest } = sheet;
			b.commit(isBack ? 'Use spoilt places again' : 'Leave places out', {
				put: [{ ...rest, ...(spoilt.length ? { spoilt } : {}) }]
			});
		}
	},
	...([...PURPOSES, undefined] as const).map((purpose): Command => ({
		id: `purpose-${purpose ?? 'layer'}`,
		word: purpose ? `For ${PURPOSE_WORDS[purpose][0]}` : 'As its layer',
		line: purpose
			? `What is selected is ${PURPOSE_WORDS[purpose][1]}, whatever its layer says.`
			: 'What is done with what is selected is said by its layer again.',
		also: purpose
			? `purpose, ${purpose}, ${PURPOSE_WORDS[purpose][2]}`
			: 'purpose of the layer, no purpose of its own',
		why: (b) => (b.selection.selected.size ? undefined : 'Select lines first.'),
		run: (b) => setPurpose(b, b.selection.selectedOutlines, purpose)
	})),
	{
		id: 'paper',
		word: 'Paper',
		line: 'On paper at true size: PDF on one page or parted into pages, the printer, or a picture.',
		also: 'print, tile, poster, paper, printer, pdf, png, bitmap, picture file, pages, a4, true size print',
		station: 'cut',
		drawing: 'paper',
		why: needsOutlines,
		run: withPart(
			() => import('../sheets/paper-operation.svelte'),
			(b, { openPaper }) => openPaper(b)
		)
	}
];

const hasHome = (b: Bench) =>
	[...b.drawing.records.values()].some(
		(record) => (record.type === 'outline' || record.type === 'mark') && record.home
	);

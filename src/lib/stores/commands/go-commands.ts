/** Commands that lead somewhere: to a station, a file, a setting, a page of help. */
import type { LengthUnit } from '../../core/document/drawing';
import type { Bench, Sheet } from '../bench.svelte';
import { whyNotWritten, writeOut, type WrittenKind } from '../files/writing-out';
import { start } from '../operations/starting';
import { STATIONS, type Station } from '../stations';
import { theme } from '../theme.svelte';
import { withPart, type Command } from './command';

const always = () => undefined;
const needsPicture = (b: Bench) => (b.references.length ? undefined : 'Bring in a picture first.');
const needsSized = (b: Bench) =>
	needsPicture(b) ??
	(b.pictures.shownReference?.pxPerMm ? undefined : 'Give the picture its true size first.');
const openSheet = (b: Bench, sheet: Sheet) => void (b.sheet = sheet);
/** Goes to a station, and leaves what lies on the bench there. */
export function goTo(b: Bench, station: Station): void {
	b.dropOperation();
	b.finding = false;
	b.looking.leave();
	b.station = station;
	b.trayOpen = true;
	if (station === 'mend' && b.readiness.faults.length && b.readiness.at < 0) b.readiness.at = 0;
}

const STATION_LINES: Record<Station, [line: string, also: string]> = {
	picture: ['Bring in a picture, scan a sheet, fade, turn, crop.', 'picture station, photo, image, scan'],
	size: [
		'Give the picture its true size, and check it with a ruler.',
		'size, true size, calibrate, dpi, how big'
	],
	trace: ['The picture becomes closed outlines.', 'trace, vectorise, vectorize'],
	draw: ['Lines by hand and ready shapes.', 'draw, by hand, pen, shapes'],
	mend: ['Faults one by one; anchors, fairing, simplifying.', 'problems, check, errors, faults, mend, edit'],
	build: ['Combine, join, trim, bridge, round, move.', 'build, put together, structure'],
	offset: ['A line beside a line, and allowances.', 'offset, allowance, beside'],
	sheet: ['What it is cut from: its size and margin.', 'sheet, material, plywood, board, paper size, fabric'],
	cut: [
		'What stops the cut, and the files for the machine.',
		'cut, laser, vinyl, cutter, plotter, router, cnc, machine, mill, knife, drag knife, files, export'
	]
};

const UNITS: { unit: LengthUnit; word: string; also: string }[] = [
	{ unit: 'mm', word: 'Millimetres', also: 'mm, unit, units, metric' },
	{ unit: 'cm', word: 'Centimetres', also: 'cm, unit, units, metric' },
	{ unit: 'in', word: 'Inches', also: 'inch, inches, in, unit, units, imperial, zoll' },
	{ unit: 'ft', word: 'Feet', also: 'feet, foot, ft, unit, units, imperial' }
];

const write = (kind: WrittenKind, word: string, line: string, also: string, drawing: string): Command => ({
	id: `write-${kind}`,
	word,
	line,
	also,
	station: 'cut',
	drawing,
	why: kind === 'file' ? always : whyNotWritten,
	run: (b) => void writeOut(b, kind)
});

export const GO_COMMANDS: readonly Command[] = [
	{
		id: 'bring-in',
		word: 'Bring in',
		line: 'A picture to trace, or a drawing as SVG or DXF; or drop it here, or paste it.',
		also: 'picture, photo, image, import, open file, load, bring in, camera, open, file, svg, dxf',
		station: 'picture',
		drawing: 'picture',
		why: always,
		run: (b) => b.pickFiles?.()
	},
	{
		id: 'scan',
		word: 'Scan a sheet',
		line: 'A sheet on the scanner becomes a picture of true size.',
		also: 'scan, scanner, copy machine, digitise, picture',
		station: 'picture',
		drawing: 'scan',
		why: always,
		run: (b) => {
			goTo(b, 'picture');
			b.scanning = !b.scanning;
		}
	},
	write(
		'svg',
		'SVG',
		'Writes an SVG in true millimetres.',
		'svg, export, save as, download, write, file',
		'svg'
	),
	write(
		'dxf',
		'DXF',
		'Writes a DXF with straights, arcs and curves.',
		'dxf, export, save as, download, write, file, cad',
		'dxf'
	),
	write(
		'polylines',
		'DXF, straights',
		'Writes a DXF of polylines alone, for machines that know no curves.',
		'dxf, export, polylines, machine',
		'dxf'
	),
	write(
		'file',
		'Whole drawing',
		'One file with the drawing, its pictures and all that is known of it; it opens elsewhere.',
		'share, send, mail, save, save as, backup, export, file, keep, thread',
		'file'
	),
	...STATIONS.map(({ id, word }): Command => ({
		id: `station-${id}`,
		word,
		line: STATION_LINES[id][0],
		also: STATION_LINES[id][1],
		why: always,
		run: (b) => goTo(b, id)
	})),
	...UNITS.map(({ unit, word, also }): Command => ({
		id: `unit-${unit}`,
		word,
		line: `Lengths are shown and typed in ${word.toLowerCase()}.`,
		also,
		why: (b) => (b.unit === unit ? 'Lengths are shown so already.' : undefined),
		run: (b) => b.commit('Change unit', { put: [{ ...b.settings, unit }] })
	})),
	{
		id: 'fractions',
		word: 'Fractions of an inch',
		line: 'Inches are shown as fractions, to the nearest sixty-fourth; or as decimals again.',
		also: 'fractions, inch, inches, 64th, sixteenth, units',
		why: always,
		run: (b) => {
			const unit = b.unit === 'in/64' ? 'in' : 'in/64';
			b.commit('Change unit', { put: [{ ...b.settings, unit }] });
		}
	},
	{
		id: 'light',
		word: 'Day or lamp light',
		line: 'Unbleached paper by day, a lamp-lit bench by night.',
		also: 'dark, light, night, day, theme, lamp, bright, mode, black',
		why: always,
		run: () => theme.set(!theme.lamp)
	},
	{
		id: 'settings',
		word: 'Settings',
		line: 'Units, light, the size of this screen, the weave, the tool.',
		also: 'settings, options, preferences, language, setup, configure',
		why: always,
		run: (b) => openSheet(b, 'settings')
	},
	{
		id: 'screen',
		word: 'How large is this screen?',
		line: 'A bar is measured once with a ruler, so that actual size is true.',
		also: 'calibrate, screen, true millimetres, actual size, monitor',
		why: always,
		run: (b) => openSheet(b, 'screen')
	},
	{
		id: 'keys',
		word: 'Keys',
		line: 'Every key on one sheet.',
		also: 'keys, shortcuts, keyboard, hotkeys',
		key: 'Shift+k',
		why: always,
		run: (b) => openSheet(b, 'keys')
	},
	{
		id: 'help',
		word: 'How the work goes',
		line: 'A sheet for each station that shows its job with small moving drawings.',
		also: 'help, how, start, tutorial, learn, manual, guide, lesson, first steps, how to',
		key: 'Shift+?',
		why: always,
		run: (b) => {
			b.helpOf = b.operation ? `of ${b.operation.kind}` : (b.station ?? 'picture');
			openSheet(b, 'help');
		}
	},
	...STATIONS.map(({ id, word }): Command => ({
		id: `help-${id}`,
		word: `How: ${word}`,
		line: `The job at "${word}", shown in small drawings.`,
		also: `how to ${word.toLowerCase()}, learn ${word.toLowerCase()}, help with ${word.toLowerCase()}`,
		why: always,
		run: (b) => {
			b.helpOf = id;
			openSheet(b, 'help');
		}
	})),
	{
		id: 'steps',
		word: 'Steps',
		line: 'The list of all steps, to go back and forth.',
		also: 'history, undo, back, list of steps, steps, earlier, list',
		why: always,
		run: (b) => void (b.stepsOpen = !b.stepsOpen)
	},
	{
		id: 'tour',
		word: 'Tour',
		line: 'One real job, step by step, with the demo: from the scan of a puppet to a file for the machine.',
		also: 'tour, tutorial, first steps, learn, how to begin, lesson',
		why: always,
		run: () => void (location.href = '/?tour')
	},
	{
		id: 'key-pointer',
		word: 'Pointer by keys',
		line: 'A pointer for hands without a mouse: arrows move it, Space presses, Shift + Space holds, Ctrl + arrows catch, = takes numbers.',
		also: 'keyboard, cursor, crosshair, draw by keyboard, accessibility, without a mouse',
		key: '$mod+.',
		why: always,
		run: (b) => b.keyPointer.toggle()
	},
	{
		id: 'write-back',
		word: 'Write back to the file',
		line: 'Into the file on the desk that it was opened from; the first time a place is asked for.',
		also: 'save, save file, write back, same file, overwrite, desk, disk',
		key: '$mod+s',
		why: always,
		run: withPart(
			() => import('../files/desk'),
			(b, { writeBack }) => writeBack(b)
		)
	},
	{
		id: 'compare-versions',
		word: 'Compare versions',
		line: 'What moved, what came and what went between two states of the drawing, in mm and on the drawing.',
		also: 'compare, diff, difference, what changed, before and after, version',
		why: always,
		run: withPart(
			() => import('../versions/opening'),
			(b, { openCompare }) => openCompare(b)
		)
	},
	{
		id: 'keep-version',
		word: 'Keep a version',
		line: 'Keeps the drawing as it is under a word.',
		also: 'keep version, snapshot, name this state',
		key: '$mod+Shift+s',
		why: always,
		run: (b) => {
			b.stepsOpen = true;
			b.wantsField = 'version';
		}
	},
	{
		id: 'versions',
		word: 'Versions',
		line: 'Keeps the drawing as it is under a word, and goes back to it. Every step is saved by itself anyway.',
		also: 'save, keep, version, versions, backup, snapshot',
		why: always,
		run: (b) => void (b.stepsOpen = true)
	},
	{
		id: 'drawings',
		word: 'All drawings',
		line: 'The list of drawings: a new one, another one.',
		also: 'new, new drawing, open, close drawing, list, home, other drawing',
		why: always,
		run: () => void (location.href = '/')
	},
	{
		id: 'two-points',
		word: 'Two points and their distance',
		line: 'True size: click two places of the picture and type how far apart they are.',
		also: 'true size, calibrate, size, how big, scale picture, resolution, resize picture',
		why: needsPicture,
		run: (b) => {
			goTo(b, 'size');
			b.pictures.pick('size');
		}
	},
	{
		id: 'ruler',
		word: 'Check with a ruler',
		line: 'Click two places of the picture to see how far apart they are.',
		also: 'measure, ruler, distance, length, how long, check size, dimensions',
		why: needsSized,
		run: (b) => {
			goTo(b, 'size');
			b.pictures.pick('check');
		}
	},
	{
		id: 'corners-of-sheet',
		word: 'Take the slant out',
		line: 'A photograph taken at an angle: four corners of a sheet of known size make it true.',
		also: 'perspective, angle photo, skew, distorted, straighten picture, keystone, tilted, photo',
		why: needsPicture,
		run: (b) => {
			goTo(b, 'size');
			const reference = b.pictures.shownReference!;
			void b.pictures.offerCorners(reference);
		}
	},
	{
		id: 'level-picture',
		word: 'Level the picture',
		line: 'Click two places on a line of it that should be level or plumb.',
		also: 'straighten picture, rotate picture, crooked, horizon, turn picture, straighten',
		why: needsPicture,
		run: (b) => {
			goTo(b, 'picture');
			b.pictures.pick('level');
		}
	},
	{
		id: 'crop-picture',
		word: 'Crop or move the picture',
		line: 'Takes it in hand: drag moves it, its loop turns it, Shift and a drag crop it.',
		also: 'crop, cut picture, trim picture, move picture, position picture, resize picture',
		why: (b) =>
			needsPicture(b) ?? (b.pictures.shownReference?.locked ? 'The picture is tied fast.' : undefined),
		run: (b) => {
			goTo(b, 'picture');
			b.pictures.place(b.pictures.shownReference);
		}
	},
	{
		id: 'fade-picture',
		word: 'Fade the picture',
		line: 'How strongly it shows behind the lines: a slider at the station "Picture".',
		also: 'fade, dim, transparent picture, opacity, paler, lighter picture',
		why: needsPicture,
		run: (b) => goTo(b, 'picture')
	},
	{
		id: 'prepare-picture',
		word: 'Prepare the picture',
		line: 'Levels, blur, noise and uneven light, shown as the tracer sees them: opens the trace.',
		also: 'contrast, brightness, levels, background, noise, clean picture, sharpen picture, grey',
		why: needsSized,
		run: (b) => {
			start(b, 'trace', b.pictures.shownReference!);
		}
	},
	{
		id: 'how-kept',
		word: 'How work is kept',
		line: 'Every step is saved in this browser at once. "Whole drawing" writes one file; "Versions" keeps a state by name.',
		also: 'save, keep, lost, backup, autosave, store',
		why: always,
		run: (b) =>
			b.tell(
				'Every step is saved in this browser at once. "Whole drawing" writes one file to take along; "Versions" keeps a state under a word.'
			)
	},
	{
		id: 'move-paper',
		word: 'Move the paper',
		line: 'Space and a drag, the middle button, or two fingers; the wheel goes nearer and farther.',
		also: 'rotate view, pan, move paper, scroll, hand, drag view',
		why: always,
		run: (b) =>
			b.tell(
				'Space and a drag, the middle button, or two fingers move the paper. It is not turned: level stays level.'
			)
	},
	{
		id: 'measures',
		word: 'What it measures',
		line: 'Select it: its tag tells length, area, size and the tightest radius; each straight and arc its own numbers.',
		also: 'measure, length, distance, area, how long, dimensions, ruler, angle, perimeter, weight',
		why: (b) =>
			b.selection.selected.size ? undefined : 'Select an outline: its tag tells what it measures.',
		run: (b) => b.fitSelection()
	},
	{
		id: 'snapping',
		word: 'Snapping',
		line: 'Drags catch on anchors, middles, crossings, guides and the weave; Ctrl held passes all of it over.',
		also: 'grid, snap, snapping, guides, magnet, catch',
		why: always,
		run: (b) => {
			b.snaps = !b.snaps;
			b.tell(b.snaps ? 'Drags catch on what lies near.' : 'Drags catch on nothing any more.');
		}
	}
];

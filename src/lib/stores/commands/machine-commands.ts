/** Commands that make the sheet ready for a machine. What they open is loaded when it is first asked for. */
import type { Bench } from '../bench.svelte';
import type { MachiningOperation } from '../machining/machining.svelte';
import { needsOutlines, withPart, type Command } from './command';

/** Opens the machine's side of the sheet, and then does something there. */
const opened = (then?: (operation: MachiningOperation, b: Bench) => void) =>
	withPart(
		() => import('../machining/machining.svelte'),
		(b, { openMachining }) => {
			const operation = openMachining(b);
			then?.(operation, b);
		}
	);

/** Shows a group of the job's settings. */
const group = (id: string, word: string, line: string, also: string, value: string): Command => ({
	id,
	word,
	line,
	also,
	why: needsOutlines,
	run: opened((operation) => operation.show(value))
});

export const MACHINE_COMMANDS: readonly Command[] = [
	{
		id: 'machine',
		word: 'Machine',
		line: 'Which machine cuts it, with what, how; the file for it, or the machine itself.',
		also: 'toolpath, machine file, g-code, gcode, nc, hpgl, plt, job, gcode file, router, laser, plotter, cam',
		station: 'cut',
		drawing: 'machine',
		why: needsOutlines,
		run: opened()
	},
	{
		id: 'machine-tool',
		word: 'The tool',
		line: 'Which tool cuts it: its width is taken off, and corners that it leaves are shown.',
		also: 'kerf, bit, tool, tool diameter, tool radius, beam width, blade, cutter, end mill',
		why: needsOutlines,
		run: opened((_, b) => (b.wantsField = 'with'))
	},
	{
		id: 'clear-area',
		word: 'Clear an area',
		line: 'Everything inside the selected outlines is taken away, down to a depth.',
		also: 'pocket, clear, hollow, engrave area, hatch',
		why: (b) =>
			needsOutlines(b) ?? (b.selection.selected.size ? undefined : 'Select what is to be cleared first.'),
		run: opened((operation) => operation.add('clear'))
	},
	{
		id: 'engrave-groove',
		word: 'V groove',
		line: 'A V bit engraves the selected outlines as deep as they are wide.',
		also: 'v carving, engrave, chisel, groove, letters, lettering',
		why: (b) =>
			needsOutlines(b) ?? (b.selection.selected.size ? undefined : 'Select what is to be engraved first.'),
		run: opened((operation) => operation.add('groove'))
	},
	{
		id: 'drill-circles',
		word: 'Drill circles',
		line: 'The tool goes straight down in the middle of each selected circle and at each selected mark.',
		also: 'drill, holes, peck, pilot holes, bore',
		why: (b) =>
			needsOutlines(b) ?? (b.selection.selected.size ? undefined : 'Select the circles to be drilled first.'),
		run: opened((operation) => operation.add('drill'))
	},
	group(
		'holding-tabs',
		'Holding tabs',
		'Short stretches that stay, so that pieces do not come loose.',
		'tab, tabs, bridges, holding, holding tabs',
		'tabs'
	),
	group(
		'tool-goes',
		'How the tool goes',
		'Leads, overcut, starts: how it comes to its line and leaves it.',
		'lead-in, lead, overcut, order, travel, lead-out, ramp',
		'ends'
	),
	{
		id: 'scanned',
		word: 'Lay a scan on its drawing',
		line: 'A cut piece, scanned and traced, is laid on what was drawn: where it is off, and the kerf that would mend it.',
		also: 'compare the cut, measure the kerf, test piece, register, fit a scan, calibrate the kerf, cut against drawing',
		why: (b) =>
			b.selection.selected.size > 1 ? undefined : 'Select the drawn piece and the traced scan of it first.',
		run: withPart(
			() => import('../machining/scanned-operation.svelte'),
			(b, { openScanned }) => openScanned(b)
		)
	},
	{
		id: 'test-piece',
		word: 'Test piece',
		line: 'Bars, slits, holes and a square of known sizes beside what is drawn: cut it, and measure.',
		also: 'test cut, kerf test, comb, fit test, calibration piece, tolerance test',
		why: () => undefined,
		run: withPart(
			() => import('../machining/fits-operation.svelte'),
			(b, { addTestPiece }) => addTestPiece(b)
		)
	},
	{
		id: 'fits',
		word: 'Measured fits',
		line: 'What the caliper says of a cut test piece: kerf, play and squareness follow.',
		also: 'kerf from bars, measure the kerf, fits, play, clearance, square, caliper',
		why: () => undefined,
		run: withPart(
			() => import('../machining/fits-operation.svelte'),
			(b, { openFits }) => openFits(b)
		)
	},
	{
		id: 'workshop',
		word: 'Workshop',
		line: 'Machines, tools and materials: yours to change, and to take elsewhere as a file.',
		also: 'machines, tools, materials, my machine, post, template, feeds and speeds, settings of the machine',
		why: () => undefined,
		run: (b) => void (b.sheet = 'workshop')
	},
	{
		id: 'machine-file-look',
		word: 'Look at a machine file',
		line: 'A G-code or HP-GL file over the drawing: where its tool goes, whether it is in order, how far it is off.',
		also: 'check gcode, open gcode, read nc, view toolpath, verify, hpgl, plt, backplot',
		why: needsOutlines,
		run: opened((operation) => void operation.bring())
	},
	{
		id: 'watch',
		word: 'Moving preview',
		line: 'The tool runs along its way, and you see what it takes away.',
		also: 'simulate, preview, play, watch, animation, dry run',
		why: needsOutlines,
		run: opened((operation) => void operation.watchSoon())
	}
];

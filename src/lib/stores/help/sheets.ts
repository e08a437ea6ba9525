/**
 * What helps at each operation: what it is for, what was before and is after, mistakes people make. The one source of the help
 * sheets on the bench and of the guide for readers (`npm run guide`).
 */
import type { Station } from '../stations';

export interface HelpOfOperation {
	/** As its tray calls it. */
	readonly word: string;
	readonly station: Station;
	/** The small drawing of its tool. */
	readonly drawing: string;
	readonly purpose: string;
	readonly before: string;
	readonly after: string;
	readonly mistakes: readonly string[];
}

/** By the kind of operation. */
export const OPERATION_HELP: Readonly<Record<string, HelpOfOperation>> = {
	trace: {
		word: 'Trace',
		station: 'trace',
		drawing: 'trace',
		purpose: 'Turns what is dark, light or coloured in a picture into closed outlines of true size.',
		before: 'A picture with its true size: two points and their distance are enough.',
		after: 'Outlines with as few anchors as the closeness allows; the picture stays beneath them.',
		mistakes: [
			'Tracing before the size is known: everything comes out right in shape and wrong in millimetres.',
			'Taking up more closeness to be rid of jags: a smoother line needs less of it, or fairing afterwards.',
			'A picture with a shadow across it: "by tone nearby" follows the light, one threshold for all does not.'
		]
	},
	simplify: {
		word: 'Simplify',
		station: 'mend',
		drawing: 'simplify',
		purpose:
			'Fewest anchors for a drift that you allow, so that a line can be edited and a machine runs evenly.',
		before: 'A line with hundreds of anchors, as old traces and drawings from polylines have them.',
		after: 'The same line within the drift; corners that are meant stay where they are.',
		mistakes: [
			'Allowing more than the material cares for: 0.05 mm is much for a laser and nothing for cloth.',
			'Simplifying a jagged line: it becomes a jagged line with fewer anchors. Fair it.'
		]
	},
	fair: {
		word: 'Fair',
		station: 'mend',
		drawing: 'fair',
		purpose: 'Makes a wobbling line run evenly, as a batten bent along it would.',
		before: 'A line that is jagged, stepped or restless, whole or between two anchors.',
		after: 'An even line within the drift; meant corners stay, doubtful ones are asked about.',
		mistakes: [
			'Allowing so little that nothing can become even: the jags themselves are the least drift that helps; it is named.',
			'Fairing a corner away: say of it that it is a corner, and it stays.'
		]
	},
	offset: {
		word: 'Offset',
		station: 'offset',
		drawing: 'offset',
		purpose: 'A line beside a line, everywhere equally far: a border, a liner, room for a thread.',
		before: 'One or more outlines; open lines can be gone round or followed on a side.',
		after: 'A new line that follows the first one until it is made plain.',
		mistakes: [
			'Offsetting inwards by more than half of the narrowest place: there is no line there, and it is told where it went.',
			"Offsetting to make up for the tool: the machine does that by itself, from the tool's own width."
		]
	},
	allowance: {
		word: 'Allowance',
		station: 'offset',
		drawing: 'allowance',
		purpose: 'Material beyond the sewing line, another width for each edge, corners as the seam wants them.',
		before: 'A closed piece whose line is the sewing line.',
		after: 'The cutting line round it, with notches carried out to it.',
		mistakes: [
			'Forgetting that the hem is folded back: choose the folded corner, and its sides lie true when it is turned up.',
			'Cutting the sewing line too: its purpose is "score" or "guide" once there is an allowance.'
		]
	},
	combine: {
		word: 'Combine',
		station: 'build',
		drawing: 'combine',
		purpose:
			'One outline of several that lie over each other: all of it, what they share, one less the other.',
		before: 'Closed outlines that overlap.',
		after:
			'New outlines; the old ones go, stay, are hidden or become guides, and are followed where they stay.',
		mistakes: [
			'Lines that only touch: they meet in a point, not in a place. Let them overlap by a little.',
			'Taking the wrong one away: the one that was picked first is the one that stays.'
		]
	},
	join: {
		word: 'Join',
		station: 'build',
		drawing: 'join',
		purpose: 'Ends of open lines become one line.',
		before: 'Open lines whose ends are near each other.',
		after: 'One line, closed where it comes round.',
		mistakes: [
			'A reach that is too large joins ends that belong to other lines: the preview shows each joint.'
		]
	},
	trim: {
		word: 'Trim',
		station: 'build',
		drawing: 'trim',
		purpose: 'Takes out stretches between crossings.',
		before: 'Lines that run past each other.',
		after: 'What was pressed is gone; what is left ends at the crossing.',
		mistakes: ['Trimming a closed outline opens it: join it again, or combine instead.']
	},
	corner: {
		word: 'Round or cut off corners',
		station: 'build',
		drawing: 'corner',
		purpose: 'Corners that a tool or a thumb can go round.',
		before: 'Corners between straights or curves.',
		after: 'A radius or a cut that stays a number at the corner.',
		mistakes: ['A radius larger than the sides: it is as large as there is room, and told.']
	},
	'corner-between': {
		word: 'Corner of two lines',
		station: 'build',
		drawing: 'corner',
		purpose:
			'Two lines meet in a corner: both go on to it, or one goes on to the other; sharp, rounded or cut off.',
		before: 'Two open lines that would meet, or do.',
		after: 'A corner that follows both lines.',
		mistakes: ['Lines that run side by side meet nowhere, or far away: the place is shown before it is kept.']
	},
	meet: {
		word: 'Meet',
		station: 'build',
		drawing: 'meet',
		purpose: 'Ends or anchors come together in place, in direction or in bend.',
		before: 'Two ends, or two anchors, that should run on into each other.',
		after: 'They meet; held so, they stay together whatever is moved.',
		mistakes: [
			'Asking for the same bend where a line is straight: a straight has none, and the curve is drawn flat.'
		]
	},
	bridge: {
		word: 'Bridge',
		station: 'build',
		drawing: 'bridge',
		purpose: 'A line from one end to another that goes on as both begin.',
		before: 'Two open ends.',
		after: 'A line between them that follows both.',
		mistakes: ['A hairpin with bend at both ends becomes tight at its tip: pull its arms apart.']
	},
	place: {
		word: 'Turn, scale, mirror',
		station: 'build',
		drawing: 'place',
		purpose: 'Things turned, made larger or smaller, mirrored, by hand or by numbers.',
		before: 'Picked things, or anchors of one.',
		after: 'The same things elsewhere; their holds and edges go along.',
		mistakes: ['Scaling a piece with a slot for a board: the slot grows too. Type its width afterwards.']
	},
	extend: {
		word: 'Longer or shorter',
		station: 'build',
		drawing: 'extend',
		purpose: 'An open line goes on, straight or as it bends, or ends earlier.',
		before: 'The end of an open line.',
		after: 'The line, longer by what was typed or as far as another line.',
		mistakes: ['Going on in an arc of a tight end curls it up: go on straight.']
	},
	part: {
		word: 'Take a line apart',
		station: 'build',
		drawing: 'break',
		purpose: 'A line in parts: at its crossings, at anchors, in so many equal ones.',
		before: 'One line.',
		after: 'Several, each by itself.',
		mistakes: [
			'Parting what should be cut: open parts are told as faults until they are joined or meant to be open.'
		]
	},
	seams: {
		word: 'Compare seams',
		station: 'offset',
		drawing: 'seams',
		purpose: 'Two edges that are sewn together: as long as each other, or with the ease that is wanted.',
		before: 'Two edges of two pieces.',
		after: 'Their lengths and notches at the same share of both.',
		mistakes: [
			'Walking one of them the wrong way: pieces lie right sides together, so one runs from its end.'
		]
	},
	band: {
		word: 'Band',
		station: 'offset',
		drawing: 'band',
		purpose: 'A line with a width: a strap, a slat, a limb, wide here and narrow there.',
		before: 'A line, open or closed.',
		after: 'Its outline, following the line and its widths.',
		mistakes: ['Wider than a bend is tight: the inner side runs over itself there and is cut clean.']
	},
	between: {
		word: 'Lines in between',
		station: 'offset',
		drawing: 'in-between',
		purpose: 'Steps from one shape to another: sizes, layers, frames of a movement.',
		before: 'Two outlines or more.',
		after: 'So many between them, following both.',
		mistakes: ['They twist where their beginnings do not belong together: move the start, or turn one round.']
	},
	facing: {
		word: 'Facing',
		station: 'offset',
		drawing: 'facing',
		purpose: 'A strip along chosen edges, to be sewn to the inside of them.',
		before: 'A piece and the edges that are faced.',
		after: 'A piece of its own that follows those edges.',
		mistakes: ['Leaving its own allowance out: it is sewn on too.']
	},
	rosette: {
		word: 'Rosette',
		station: 'draw',
		drawing: 'rosette',
		purpose: 'One motif all round a middle, with even leaves.',
		before: 'A line that is a leaf, or nothing at all.',
		after: 'One outline with so many leaves.',
		mistakes: ['Leaves that are too wide run into each other: fewer, or narrower.']
	},
	repeat: {
		word: 'Repeat',
		station: 'build',
		drawing: 'repeat',
		purpose: 'Copies in a row, in rows, in a ring or along a line, all changed by changing the first.',
		before: 'One thing, or several together.',
		after: 'Copies by a rule; any of them is taken out, or edited apart.',
		mistakes: ['Making them plain too early: from then on each is edited by itself.']
	},
	symmetry: {
		word: 'Two equal halves',
		station: 'build',
		drawing: 'half',
		purpose: 'One half is drawn, the other is its mirror image.',
		before: 'An outline that is meant to be even on both sides.',
		after: 'Exactly even; how far the other half was off is told.',
		mistakes: ['Choosing the worse half: both are shown with their drift.']
	},
	align: {
		word: 'Line up',
		station: 'build',
		drawing: 'align',
		purpose: 'Things at an edge, a middle, a guide, or spread evenly.',
		before: 'Two things or more; one of them may stay put.',
		after: 'They stand in line.',
		mistakes: ['Spreading by middles where gaps should be even: choose the gap.']
	},
	arrange: {
		word: 'Arrange',
		station: 'sheet',
		drawing: 'arrange',
		purpose: 'Pieces on the sheet with little waste, turned as the material allows.',
		before: 'Pieces, and the sheet with its size and margin, or an outline of an offcut.',
		after: 'Pieces laid on it; "put back" brings them home.',
		mistakes: [
			'Leaving no gap for the tool: half of its width on both sides is the least.',
			'Letting cloth be turned: the grain of a piece is said on its tag.'
		]
	},
	paper: {
		word: 'On paper',
		station: 'cut',
		drawing: 'paper',
		purpose: 'True size on pages, to be glued together, pinned and cut round.',
		before: 'Lines that go out.',
		after: 'PDF, print or a picture; a square to measure is on it.',
		mistakes: ['Printing "fit to page": choose 100 %, and measure the square before cutting.']
	},
	machine: {
		word: 'Machine',
		station: 'cut',
		drawing: 'machine',
		purpose: 'From lines to moves of a tool: where, how deep, how fast, in which order.',
		before: 'Lines with their purposes, a machine, a tool, a material.',
		after: 'A file that our own reader has read again, or the job sent line by line.',
		mistakes: [
			'Inner lines after outer ones: the piece is loose by then. The order sees to it; leave it as it is.',
			'No tabs on small pieces: a router throws them. Two knots are enough for most.'
		]
	},
	fits: {
		word: 'Test piece',
		station: 'cut',
		drawing: 'rule',
		purpose: 'The true width of the cut, from a small piece that is cut and measured.',
		before: 'A machine and a material.',
		after: 'The kerf that jobs use from then on.',
		mistakes: ['Measuring the hole and the piece with the same jaw on a burr: file it off first.']
	},
	scanned: {
		word: 'Scanned piece',
		station: 'cut',
		drawing: 'scan',
		purpose: 'A cut piece laid on its drawing: how far off the cut was, and what kerf that means.',
		before: 'A scan of the piece with its true size.',
		after: 'The difference all round, and the kerf.',
		mistakes: ["A scan at an angle: the sheet's corners take the slant out."]
	},
	compare: {
		word: 'Compare versions',
		station: 'mend',
		drawing: 'file',
		purpose: 'What has changed between two states of the drawing, in millimetres and in words.',
		before: 'A version, kept under a word or by itself.',
		after: 'The old line dashed, the new one whole; going back is one step.',
		mistakes: ['Going back and being afraid for what came after: it is kept as a version by itself.']
	}
};

// Which station of the work a source file speaks for: what people read there is kept together.

/** The first that fits counts. */
const STATIONS = [
	['help', /stores\/help\//],
	['list', /routes\/|components\/start\/|all-drawings|files\/demo|storage\//],
	['picture', /Picture|Scan(Row|ned)|SheetTray|picture|trace\/(sheet|perspective)|scanner|files\/taking-in/],
	['size', /SizeTray|Calibrate|OnScreen/],
	['trace', /[Tt]race|fit\//],
	['draw', /PenTray|gestures\/|[Gg]iven|drawing-hand|giving|pulling|hand-commands/],
	[
		'mend',
		/Faults|Moving|Fair|Simplify|Look|Chart|check\/|fairing\/|readiness|fair-|simplify|looking|Magnifier|comb/
	],
	['offset', /Offset|Allowance|Band|Seams|offset|allowance|band|seam/],
	['sheet', /sheets\/|SheetsRow|[Aa]rrange|[Pp]aper|sheet-/],
	['cut', /machin|Machine|Cut|toolpath|Job|Workshop|Watch|Fits|Brought|stand-in|driver/],
	[
		'build',
		/Combine|Join|Trim|Corner|Meet|Bridge|Place|Align|Extend|Part|Repeat|Facing|Rosette|Symmetry|Between|RoundOrCut|structure|plane\/|operations\/|many-/
	],
	['files', /formats\/|files\/|writing-out|copying/],
	['drawing', /core\/|holds?|Holds|versions\/|Tag|tags\//]
];

export const stationOf = (file) => STATIONS.find(([, fits]) => fits.test(file))?.[0] ?? 'bench';

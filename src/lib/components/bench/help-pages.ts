/** The first help: for each station its job in three small drawings of our own, that move. */
import type { Station } from '$lib/stores/stations';

/** How a part of a drawing behaves: it stays, is drawn, comes, goes, or moves from where it is by (12, -8). */
export type Behaviour = 'stays' | 'drawn' | 'comes' | 'goes' | 'moves';
/** One stroke: SVG path data in a field of 96 by 60; how it behaves; which thread it is drawn with. */
export type Stroke = readonly [
	d: string,
	behaviour: Behaviour,
	thread?: 'ink' | 'madder' | 'woad' | 'soft' | 'rust'
];
export interface HelpStep {
	readonly say: string;
	readonly strokes: readonly Stroke[];
}

const FOX = 'M20 46C22 26 30 16 36 16L42 24L54 24L60 16C68 18 74 32 74 46Z';
const BLOB = 'M22 40C18 22 34 12 50 14S78 26 72 42 28 54 22 40Z';
const JAGS = 'M12 44l6-5 3 4 6-12 4 3 5-10 6 4 6-7 5 3 6-1 6 6 5-2 6 9 5 3';
const FAIRED = 'M12 44C30 12 66 8 84 40';

export const HELP: Readonly<Record<Station, readonly HelpStep[]>> = {
	picture: [
		{
			say: 'Drop a photograph or a scan on the paper, paste it, or press "Bring in".',
			strokes: [
				['M8 52H88', 'stays', 'soft'],
				['M30 14H66V44H30Z', 'moves', 'ink'],
				['M36 38C40 22 52 20 60 36', 'moves', 'madder']
			]
		},
		{
			say: '"Take in hand" lets you move it, turn it by its loop, crop it with Shift and a drag.',
			strokes: [
				['M24 16H62V46H24Z', 'goes', 'soft'],
				['M28 20L66 12L72 42L34 50Z', 'comes', 'ink'],
				['M74 8a5 5 0 1 0 .1 0', 'stays', 'madder']
			]
		},
		{
			say: 'Fade it so that lines show on it; hide it with P when you are done.',
			strokes: [
				['M24 12H74V50H24Z', 'goes', 'ink'],
				['M30 42C36 20 60 16 68 40', 'stays', 'madder']
			]
		}
	],
	size: [
		{
			say: 'Two points: click two places whose distance you know, and type it.',
			strokes: [
				['M14 40C30 12 66 12 82 40', 'stays', 'soft'],
				['M18 38L78 38', 'drawn', 'madder'],
				['M18 33v10M78 33v10', 'comes', 'ink']
			]
		},
		{
			say: 'A photograph at an angle: four corners of a sheet make it true.',
			strokes: [
				['M26 14L74 20L82 48L14 42Z', 'goes', 'soft'],
				['M22 12H76V50H22Z', 'comes', 'madder']
			]
		},
		{
			say: 'Check with a ruler: any distance, measured on the picture.',
			strokes: [
				['M10 44H86M16 44v-6M28 44v-4M40 44v-6M52 44v-4M64 44v-6M76 44v-4', 'stays', 'ink'],
				['M20 26H70', 'drawn', 'madder']
			]
		}
	],
	trace: [
		{
			say: 'T traces the picture. You see the outlines before you keep them.',
			strokes: [
				[FOX, 'stays', 'soft'],
				[FOX, 'drawn', 'madder']
			]
		},
		{
			say: 'One slider trades few anchors for a close fit; the worst place is shown.',
			strokes: [
				[JAGS, 'goes', 'soft'],
				[FAIRED, 'comes', 'madder'],
				['M12 44v.1M84 40v.1M48 16v.1', 'comes', 'ink']
			]
		},
		{
			say: 'Shift and a drag trace only a part; Enter keeps, Esc leaves.',
			strokes: [
				['M14 12H82V50H14Z', 'stays', 'soft'],
				['M34 20H66V44H34Z', 'drawn', 'woad'],
				['M40 38C44 24 56 24 60 38Z', 'comes', 'madder']
			]
		}
	],
	draw: [
		{
			say: 'L draws: a click is a corner, press and pull a smooth anchor. The first anchor closes it.',
			strokes: [
				['M14 46L30 16C50 6 66 14 82 44', 'drawn', 'madder'],
				['M14 46v.1M30 16v.1M82 44v.1', 'stays', 'ink']
			]
		},
		{
			say: 'While you draw, type a length or an angle; Tab goes on to the next number.',
			strokes: [
				['M16 46L76 18', 'drawn', 'madder'],
				['M44 10h34v12H44Z', 'comes', 'ink'],
				['M48 16h6M58 16h10', 'comes', 'ink']
			]
		},
		{
			say: 'Ready shapes keep their sizes as fields on the tag.',
			strokes: [
				['M14 16H46V46H14Z', 'drawn', 'madder'],
				['M70 16a15 15 0 1 0 .1 0', 'drawn', 'madder']
			]
		}
	],
	mend: [
		{
			say: 'A knot on the thread is something that stops the cut. F goes to the next, its word mends it.',
			strokes: [
				['M10 34H36c18 0 20-18 10-18s-6 18 12 18H86', 'goes', 'rust'],
				['M10 34H86', 'comes', 'madder']
			]
		},
		{
			say: 'Double-click goes into an outline: drag anchors, handles and stretches.',
			strokes: [
				['M12 46C24 16 44 12 56 22S74 46 86 40', 'stays', 'soft'],
				['M56 22v.1', 'moves', 'madder'],
				['M44 12L68 32', 'moves', 'woad']
			]
		},
		{
			say: 'Shift + F smooths a jagged line within a drift; ; once more, \u2019 stronger.',
			strokes: [
				[JAGS, 'goes', 'soft'],
				[FAIRED, 'drawn', 'madder']
			]
		}
	],
	build: [
		{
			say: 'Combine: pick pieces with Shift, then Shift + C. All, common, less, or regions.',
			strokes: [
				['M36 14a17 17 0 1 0 .1 0', 'goes', 'soft'],
				['M60 14a17 17 0 1 0 .1 0', 'goes', 'soft'],
				['M48 19A17 17 0 1 0 48 43A17 17 0 1 0 48 19Z', 'comes', 'madder']
			]
		},
		{
			say: 'Drop an end on an end and they are one line; "Bridge" leaves both where they are.',
			strokes: [
				['M12 44C20 24 30 20 40 24', 'stays', 'ink'],
				['M84 44C76 24 62 20 54 24', 'stays', 'ink'],
				['M40 24C46 28 48 28 54 24', 'drawn', 'madder']
			]
		},
		{
			say: 'Trim: point at what has to go, as far as the next crossing.',
			strokes: [
				['M10 30H34', 'stays', 'ink'],
				['M34 30H62', 'goes', 'madder'],
				['M62 30H86', 'stays', 'ink'],
				['M34 10V50M62 10V50', 'stays', 'soft']
			]
		}
	],
	offset: [
		{
			say: 'O puts a line beside: pull it on the drawing, or type how far.',
			strokes: [
				[BLOB, 'stays', 'ink'],
				['M16 42C10 18 32 6 51 8S86 22 79 45 24 62 16 42Z', 'drawn', 'madder']
			]
		},
		{
			say: 'It follows its outline from then on, until you make it plain.',
			strokes: [
				['M28 20H58V46H28Z', 'moves', 'ink'],
				['M22 14H64V52H22Z', 'moves', 'madder']
			]
		},
		{
			say: 'An allowance has a width for each edge: seam and hem.',
			strokes: [
				['M28 14H68V42H28Z', 'stays', 'ink'],
				['M22 8H74V56H22Z', 'drawn', 'madder']
			]
		}
	],
	sheet: [
		{
			say: 'Say what it is cut from: its size, and the border that stays free.',
			strokes: [
				['M12 10H84V52H12Z', 'drawn', 'ink'],
				['M18 16H78V46H18Z', 'comes', 'soft']
			]
		},
		{
			say: 'Drag the pieces onto it; what lies outside is told.',
			strokes: [
				['M10 8H84V52H10Z', 'stays', 'soft'],
				['M20 42C24 26 34 26 38 42Z', 'moves', 'madder']
			]
		},
		{
			say: 'Copy with Y while you drag, or "Another one" by the same step.',
			strokes: [
				['M12 38C16 22 26 22 30 38Z', 'stays', 'ink'],
				['M34 38C38 22 48 22 52 38Z', 'comes', 'madder'],
				['M56 38C60 22 70 22 74 38Z', 'comes', 'madder']
			]
		}
	],
	cut: [
		{
			say: 'When the thread is even from end to end, the drawing can be cut.',
			strokes: [['M8 30h9M23 30h9M38 30h9M53 30h9M68 30h9M83 30h5', 'drawn', 'madder']]
		},
		{
			say: 'SVG and DXF go out in true millimetres: everything, or only what is selected.',
			strokes: [
				['M26 10H60L70 20V52H26Z', 'stays', 'ink'],
				['M36 44C40 26 54 26 60 44Z', 'drawn', 'madder']
			]
		},
		{
			say: '"Whole drawing" is one file with its pictures; it opens on any device.',
			strokes: [
				['M20 14H52V50H20Z', 'stays', 'ink'],
				['M26 20H46V34H26Z', 'stays', 'soft'],
				['M56 32H82M74 24l8 8-8 8', 'drawn', 'madder']
			]
		}
	]
};

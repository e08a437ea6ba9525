/** The dyed-thread colours of the surface, by day and by lamp. A colour never stands alone: form or dash says the same. */
export interface Palette {
	readonly paper: string;
	readonly weave: string;
	readonly ink: string;
	readonly halo: string;
	/** What is in hand. */
	readonly madder: string;
	/** The new line of an operation, smooth anchors. */
	readonly woad: string;
	/** What stops the cut. */
	readonly rust: string;
	/** What is snapped to. */
	readonly weld: string;
	readonly faint: string;
	readonly fill: string;
	readonly ruler: string;
	readonly rulerInk: string;
}

export const DAY: Palette = {
	paper: '#f4efe3',
	weave: '#e2d9c5',
	ink: '#22303c',
	halo: 'rgba(255,252,244,0.9)',
	madder: '#b3262e',
	woad: '#1f6f8b',
	rust: '#c2570c',
	weld: '#8a6d00',
	faint: '#8d8373',
	fill: '#c9b68f',
	ruler: 'rgba(236,229,213,0.94)',
	rulerInk: '#5c5344'
};

export const LAMP: Palette = {
	paper: '#26221d',
	weave: '#37312a',
	ink: '#e9dfca',
	halo: 'rgba(24,20,16,0.9)',
	madder: '#ff7d72',
	woad: '#6cc4dd',
	rust: '#ffa24d',
	weld: '#f0d060',
	faint: '#8f8471',
	fill: '#6b5a3d',
	ruler: 'rgba(46,41,35,0.94)',
	rulerInk: '#c8bba0'
};

/** A job: what a machine is to do with lines of the drawing, and how. It copies the machine, the tool and the material that it uses. */

export type MachineKind = 'laser' | 'knife' | 'pen' | 'router' | 'cloth';

/** What touches the material. */
export type CutTool =
	/** A turning cutter of that diameter; a vee with the whole angle at its tip. */
	| {
			readonly kind: 'cutter';
			readonly diameter: number;
			readonly shape?: 'flat' | 'ball' | 'vee';
			readonly angle?: number;
			readonly flutes?: number;
	  }
	/** A beam that takes away a kerf of that width. */
	| { readonly kind: 'beam'; readonly kerf: number }
	/** A knife whose tip trails its pivot by that much; 0 for one that the machine turns. */
	| { readonly kind: 'knife'; readonly offset: number }
	| { readonly kind: 'pen'; readonly width: number };

/** `clear` takes away all that lies inside; `groove` lets a V bit go as deep as what is drawn is wide; `drill` goes down at single points. */
export type CutSide = 'outside' | 'inside' | 'on' | 'clear' | 'groove' | 'drill';
/** Which way round with a spindle turning clockwise: the kept material lies right of a climbing cutter. */
export type CutWay = 'climb' | 'conventional';
/** At tight inside corners: nothing; into the corner until the edge reaches its point; the same along one side. */
export type Relief = 'none' | 'corner' | 'side';
/** Which cut comes after which: the shortest way, small pieces first, or piece by piece. */
export type CutOrder = 'short' | 'small' | 'pieces';

/** A small template: lines before and after all moves, and words for on and off. `{speed}` is what S says, `{name}` the drawing. */
export interface MachineWords {
	readonly start: string;
	readonly on: string;
	readonly off: string;
	readonly end: string;
}

/** A machine of the workshop. */
export interface Machine {
	readonly id: string;
	readonly name: string;
	readonly kind: MachineKind;
	/** mm that it reaches. */
	readonly width: number;
	readonly height: number;
	/** mm/min of rapids and mm/s2. */
	readonly rapid: number;
	readonly acceleration: number;
	readonly language: 'gcode' | 'hpgl';
	/** Whether it reads arcs. */
	readonly arcs: boolean;
	/** Degrees that its axes stand off a right angle, above 0 where the corner at the origin is sharper; taken out of what it is told. */
	readonly offSquare?: number;
	readonly words?: MachineWords;
}

export interface Tool {
	readonly id: string;
	readonly name: string;
	/** Which machines take it. */
	readonly machine: MachineKind;
	readonly tool: CutTool;
	/** mm beyond the start, where the tool asks for it. */
	readonly overcut?: number;
}

/** How a material is worked on one kind of machine. */
export interface MaterialSettings {
	/** mm/min along and straight down. */
	readonly feed: number;
	readonly plunge?: number;
	/** mm in one pass; how often a tool without depth goes round. */
	readonly pass?: number;
	readonly passes?: number;
	/** Turns a minute; or power or pressure. */
	readonly speed: number;
	/** What scoring takes, as a share of the power and the feed. */
	readonly score?: { readonly speed: number; readonly feed: number };
}

export interface Material {
	readonly id: string;
	readonly name: string;
	/** mm */
	readonly thickness: number;
	/** mm that an opening must be wider than a part of it that goes in, as measured. */
	readonly play?: number;
	readonly settings: Partial<Readonly<Record<MachineKind, MaterialSettings>>>;
}

/** All that a workshop has. */
export interface Workshop {
	readonly machines: readonly Machine[];
	readonly tools: readonly Tool[];
	readonly materials: readonly Material[];
}

/** Holding tabs as a job keeps them. */
export interface JobTabs {
	/** So many on each outer outline, or so far apart, mm. */
	readonly count?: number;
	readonly spacing?: number;
	/** mm of material that stay along the line, and how high from below. */
	readonly width: number;
	readonly height: number;
	/** Set by hand: places near the line, mm of the drawing, by the outline's id. */
	readonly places?: Readonly<Record<string, readonly (readonly [number, number])[]>>;
}

/** How a job is done; what is left out is chosen by the tool and the material. */
export interface JobHow {
	/** mm/min along, and straight down. */
	readonly feed: number;
	readonly plunge?: number;
	/** mm: how deep in all, and at most in one pass. Of what has no depth only how often it goes round. */
	readonly depth?: number;
	readonly pass?: number;
	readonly passes?: number;
	/** mm over the material at which it travels. */
	readonly safe?: number;
	/** Turns a minute of the spindle; power or pressure of what has none. */
	readonly speed: number;
	readonly way?: CutWay;
	/** Degrees below the level at which it goes down along the path; left out: straight down. */
	readonly ramp?: number;
	/** mm: radius of the arcs, or length of the straights, on which it comes and goes. */
	readonly lead?: number;
	readonly leadKind?: 'arc' | 'line';
	readonly tabs?: JobTabs;
	/** mm beyond the start. */
	readonly overcut?: number;
	readonly relief?: Relief;
	/** Share of the diameter between neighbouring turns or lines of clearing. */
	readonly step?: number;
	/** How an area is cleared: by turns inside each other, or by parallel lines at an angle, degrees. */
	readonly pattern?: 'turns' | 'lines';
	readonly angle?: number;
	/** mm: the diameter of a larger tool that went before: only what it left is cleared. */
	readonly rest?: number;
	readonly order?: CutOrder;
	/** Straights that two pieces share are cut once. */
	readonly common?: boolean;
	/** mm that openings come out wider than drawn, so that parts go in. */
	readonly play?: number;
	/** Ids of outlines in an order fixed by hand. */
	readonly fixed?: readonly string[];
	/** Where an outline is begun, set by hand: mm of the drawing. */
	readonly starts?: Readonly<Record<string, readonly [number, number]>>;
}

/** One thing that is done, with one tool. Jobs are done in the order of their rank. */
export interface Job {
	readonly type: 'job';
	readonly id: string;
	readonly rank: number;
	readonly name: string;
	/** What it works on: all lines of layers with these purposes, or of them the open or closed ones; or just these outlines. */
	readonly takes:
		| { readonly purposes: readonly string[]; readonly which?: 'open' | 'closed' }
		| { readonly outlines: readonly string[] };
	readonly side: CutSide;
	readonly machine: Machine;
	readonly tool: Tool;
	readonly material: string;
	/** mm */
	readonly thickness: number;
	readonly how: JobHow;
	/** It is kept and not done. */
	readonly off?: boolean;
}

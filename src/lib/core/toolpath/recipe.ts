/** From a drawing and a job to what is planned: which lines, where on the sheet, with which settings; and the jobs that a sheet asks for. */
import { liesOnSheet, sheetsOf, type Drawing, type Purpose } from '../document/drawing';
import type { Job, JobHow, Machine, Material, Tool, Workshop } from '../document/job';
import { output, type Output, type OutputQuestion } from '../document/output';
import { boxOf } from '../geometry/pick';
import type { Box } from '../geometry/segment';
import { unionBox, isEmptyBox } from '../geometry/measure';
import { transformPath, type Affine, type Path } from '../geometry/path';
import { arcsToCubics } from '../geometry/segment';
import { offsetPieces } from '../plane/offset';
import { nestPaths, type Standing } from '../plane/pieces';
import type { CutInput } from './plan';
import type { CutSettings } from './settings';

/** The sheet that is worked on: its lower left corner in the drawing, mm, and its size. */
export interface WorkSheet {
	/** Id of the sheet; undefined where none is laid out. */
	readonly id?: string;
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
	/** False where none is laid out: it is then what goes out, with room around it. */
	readonly isLaid: boolean;
}

/** mm around what goes out where no sheet is laid out. */
const ROOM = 10;

/** Free of the noise of reckoning. */
const even = (mm: number) => Math.round(mm * 1e6) / 1e6;

/** A sheet of a drawing, the first where none is named; undefined where there is none and nothing goes out. */
export function workSheet(drawing: Drawing, id?: string): WorkSheet | undefined {
	const sheets = sheetsOf(drawing);
	const sheet = sheets.find((one) => one.id === id) ?? sheets[0];
	if (sheet)
		return { id: sheet.id, x: sheet.x, y: sheet.y, width: sheet.width, height: sheet.height, isLaid: true };
	const box = unionBox(output(drawing).lines.map((line) => boxOf(line.path)));
	if (isEmptyBox(box)) return undefined;
	return {
		x: even(box.x0 - ROOM),
		y: even(box.y0 - ROOM),
		width: Math.ceil(even(box.x1 - box.x0 + 2 * ROOM)),
		height: Math.ceil(even(box.y1 - box.y0 + 2 * ROOM)),
		isLaid: false
	};
}

/** Whether what lies in a box lies on another sheet than the one that is worked on. */
const isElsewhere = (drawing: Drawing, { id }: WorkSheet, box: Box): boolean =>
	sheetsOf(drawing).some((other) => other.id !== id && liesOnSheet(box, other));

/** What goes out of a drawing and does not lie on another sheet. */
export function outputOn(drawing: Drawing, sheet: WorkSheet, question: OutputQuestion = {}): Output {
	const { lines, marks } = output(drawing, question);
	if (sheetsOf(drawing).length < 2) return { lines, marks };
	return {
		lines: lines.filter(({ path }) => !isElsewhere(drawing, sheet, boxOf(path))),
		marks: marks.filter(({ mark: { x, y } }) => !isElsewhere(drawing, sheet, { x0: x, x1: x, y0: y, y1: y }))
	};
}

/** Which lines a job works on. */
const questionOf = (job: Job): OutputQuestion =>
	'outlines' in job.takes
		? { picked: new Set(job.takes.outlines) }
		: { purposes: job.takes.purposes as readonly Purpose[] };

/** A job as it is planned, and the outline that each line is. */
export interface JobInput {
	readonly input: CutInput;
	readonly settings: CutSettings;
	/** Ids of the outlines, line by line. */
	readonly ids: readonly string[];
}

/** What a job comes to in a drawing, in the sheet's coordinates. */
export function jobInput(drawing: Drawing, job: Job, sheet: WorkSheet): JobInput {
	const { lines, marks } = outputOn(drawing, sheet, questionOf(job));
	const which = 'which' in job.takes ? job.takes.which : undefined;
	const going = lines.filter(
		({ path }) => path.types.length > 0 && (!which || path.closed === (which === 'closed'))
	);
	const ids = going.map(({ outline }) => outline.id);
	const isDrilled = job.side === 'drill';
	const onSheet = toMachine(job.machine, sheet);
	const widened = wider(
		going.map(({ path }) => path),
		job,
		going.map(({ outline }) => outline.standing)
	);
	return {
		input: {
			lines:
				isDrilled && 'purposes' in job.takes
					? []
					: going.map(({ outline }, i) => ({
							path: onSheet.isSquare
								? transformPath(widened[i], onSheet.map)
								: transformPath(arcsToCubics(widened[i], 1e-4), onSheet.map),
							name: outline.name,
							...(outline.standing ? { standing: outline.standing } : {})
						})),
			points: isDrilled
				? marks.map(({ mark }) => {
						const [x, y] = onSheet.at([mark.x, mark.y]);
						return { x, y };
					})
				: [],
			sheet: { width: sheet.width, height: sheet.height }
		},
		settings: settingsOf(job, ids, onSheet.at),
		ids
	};
}

/**
 * Where places of the drawing lie in what the machine is told. Axes that are not square are taken out of it: told x and y, such a machine
 * comes to x + y sin a, y cos a.
 */
function toMachine({ offSquare = 0 }: Machine, sheet: WorkSheet) {
	const rad = (offSquare * Math.PI) / 180;
	const [lean, long] = [Math.tan(rad), 1 / Math.cos(rad)];
	const map: Affine = [1, 0, -lean, long, -sheet.x + lean * sheet.y, -long * sheet.y];
	const at = ([x, y]: readonly [number, number]) =>
		[x - sheet.x - lean * (y - sheet.y), long * (y - sheet.y)] as const;
	return { map, at, isSquare: offSquare === 0 };
}

/** Openings made wider by what a job says, so that parts go in. */
function wider(
	paths: readonly Path[],
	{ side, how }: Job,
	standing: readonly (Standing | undefined)[]
): readonly Path[] {
	const play = how.play ?? 0;
	if (!(play > 0) || (side !== 'outside' && side !== 'inside')) return paths;
	const nested = nestPaths(paths, standing);
	return paths.map((path, i) => {
		if (!path.closed || (nested[i].depth % 2 === 1) !== (side === 'outside')) return path;
		const grown = offsetPieces([path], { distance: play / 2, join: 'miter', tolerance: 1e-3 });
		return grown.ok && grown.value.paths.length === 1 ? grown.value.paths[0] : path;
	});
}

/** The settings of a job: ids become lines, places lie on the sheet. */
function settingsOf(
	{ side, tool, how, machine }: Job,
	ids: readonly string[],
	onSheet: (place: readonly [number, number]) => readonly [number, number]
): CutSettings {
	const { tabs, starts, fixed, play: _play, ...rest } = how;
	const byLine = <T, U>(
		of: Readonly<Record<string, T>> | undefined,
		map: (value: T) => U
	): Record<number, U> =>
		Object.fromEntries(
			ids.flatMap((id, i) => (of && Object.hasOwn(of, id) ? [[i, map(of[id])] as const] : []))
		);
	return {
		...rest,
		tool: tool.tool,
		side,
		power: how.speed,
		rapid: machine.rapid,
		acceleration: machine.acceleration,
		overcut: how.overcut ?? tool.overcut,
		...(tabs && tool.tool.kind !== 'knife' && tool.tool.kind !== 'pen'
			? { tabs: { ...tabs, places: byLine(tabs.places, (list) => list.map(onSheet)) } }
			: {}),
		starts: byLine(starts, onSheet),
		...(fixed ? { fixed: fixed.flatMap((id) => (ids.includes(id) ? [ids.indexOf(id)] : [])) } : {})
	};
}

/** What is chosen for a sheet: the machine, what is cut, and the tools that the machine takes. */
export interface Setup {
	readonly machine: Machine;
	readonly tool: Tool;
	readonly material: Material;
}

/** mm that a turning cutter goes below the material, so that nothing stays at its lower face (common practice). */
const BELOW = 0.2;
const PURPOSE_WORDS: Partial<Record<Purpose, string>> = {
	score: 'Score',
	engrave: 'Engrave',
	cut: 'Cut out'
};

/** How a purpose is done with that setup. Undefined where the machine does not know the material. */
export function howFor(
	{ machine, tool, material }: Setup,
	purpose: Purpose | 'drill' | 'groove'
): JobHow | undefined {
	const settings = material.settings[machine.kind];
	if (!settings) return undefined;
	const isLight = purpose === 'score' || purpose === 'engrave';
	const { score, passes, feed, ...rest } = settings;
	const withPlay = material.play && material.play > 0 ? { play: material.play } : {};
	if (tool.tool.kind === 'cutter') {
		const depth =
			purpose === 'groove'
				? 0.6 * material.thickness
				: isLight
					? Math.min(0.5, material.thickness / 4)
					: material.thickness + BELOW;
		const tabs = {
			count: 3,
			width: Math.max(3, tool.tool.diameter),
			height: Math.min(1.5, material.thickness / 2) + BELOW
		};
		return {
			...rest,
			feed,
			depth,
			safe: 5,
			...(purpose === 'cut' ? { ramp: 8, tabs, ...withPlay } : {})
		};
	}
	return {
		feed: isLight && score ? Math.round(feed * score.feed) : feed,
		speed: isLight && score ? Math.round(settings.speed * score.speed) : settings.speed,
		...(passes && !isLight ? { passes } : {}),
		...(tool.tool.kind === 'beam' && purpose === 'cut' ? { lead: 1, ...withPlay } : {})
	};
}

/**
 * The jobs that a sheet asks for: what is scored and engraved first, then holes drilled at marks, and last what is cut out, so
 * that nothing lies loose before it is done.
 */
export function jobsFor(drawing: Drawing, setup: Setup, newId: () => string, rank: number): Job[] {
	const { machine, tool, material } = setup;
	const { lines, marks } = output(drawing);
	const has = (purpose: Purpose) => lines.some((line) => line.purpose === purpose);
	const jobs: Job[] = [];
	const add = (name: string, takes: Job['takes'], side: Job['side'], how: JobHow | undefined) => {
		if (!how) return;
		jobs.push({
			type: 'job',
			id: newId(),
			rank: rank + jobs.length,
			name,
			takes,
			side,
			machine,
			tool,
			material: material.name,
			thickness: material.thickness,
			how
		});
	};
	const isVee = tool.tool.kind === 'cutter' && tool.tool.shape === 'vee';
	for (const purpose of ['score', 'engrave'] as const) {
		if (!has(purpose)) continue;
		// A V bit engraves what is closed as wide as it is drawn.
		const closed = lines.filter((line) => line.purpose === purpose && line.path.closed).length;
		const all = lines.filter((line) => line.purpose === purpose).length;
		const isGroove = isVee && purpose === 'engrave' && closed > 0;
		if (isGroove) add('Engrave', { purposes: [purpose], which: 'closed' }, 'groove', howFor(setup, 'groove'));
		if (!isGroove || closed < all)
			add(
				PURPOSE_WORDS[purpose]!,
				{ purposes: [purpose], ...(isGroove ? { which: 'open' as const } : {}) },
				'on',
				howFor(setup, purpose)
			);
	}
	if (marks.length && tool.tool.kind === 'cutter')
		add('Drill', { purposes: ['cut', 'score', 'engrave'] }, 'drill', howFor(setup, 'drill'));
	if (has('cut')) {
		const isWide = tool.tool.kind === 'cutter' || tool.tool.kind === 'beam';
		const hasOpen = lines.some(({ purpose, path }) => purpose === 'cut' && !path.closed);
		const hasClosed = lines.some(({ purpose, path }) => purpose === 'cut' && path.closed);
		// Open lines have no outside: they are slits, cut before their piece comes loose.
		const isParted = isWide && hasOpen;
		const {
			tabs: _tabs,
			ramp: _ramp,
			lead: _lead,
			play: _play,
			...slit
		} = howFor(setup, 'cut') ?? { feed: 0, speed: 0 };
		if (isParted) add('Slits', { purposes: ['cut'], which: 'open' }, 'on', slit.feed ? slit : undefined);
		if (hasClosed || !isParted)
			add(
				PURPOSE_WORDS.cut!,
				{ purposes: ['cut'], ...(isParted ? { which: 'closed' as const } : {}) },
				isWide ? 'outside' : 'on',
				howFor(setup, 'cut')
			);
	}
	return jobs;
}

/** The machine, tool and material that go together, from what is wished and what the workshop has. */
export function setupFrom(
	workshop: Workshop,
	wished: { readonly machine?: string; readonly tool?: string; readonly material?: string }
): Setup | undefined {
	const machine = workshop.machines.find((m) => m.id === wished.machine) ?? workshop.machines[0];
	if (!machine) return undefined;
	const tools = workshop.tools.filter((t) => t.machine === machine.kind);
	const materials = workshop.materials.filter((m) => m.settings[machine.kind]);
	const tool = tools.find((t) => t.id === wished.tool) ?? tools[0];
	const material = materials.find((m) => m.id === wished.material) ?? materials[0];
	return tool && material ? { machine, tool, material } : undefined;
}

/** What is said about a cut: the tool, what it does, and how. Everything in mm, degrees, mm/min. */
import type { CutSide, CutTool, JobHow, JobTabs } from '../document/job';
import { failed, type Result, done } from '../errors';

/** Holding tabs, those set by hand by the index of their line. Lines without places get theirs by themselves. */
export interface Tabs extends Omit<JobTabs, 'places'> {
	readonly places?: Readonly<Record<number, readonly (readonly [number, number])[]>>;
}

/** How lines are cut: what a job says, with lines by their index instead of outlines by their ids. */
export interface CutSettings extends Partial<Omit<JobHow, 'tabs' | 'fixed' | 'starts'>> {
	readonly tool: CutTool;
	readonly side: CutSide;
	readonly feed: number;
	/** Power or pressure of what has no spindle. */
	readonly power?: number;
	readonly tabs?: Tabs;
	/** mm, the largest distance of the cut from the drawn line. */
	readonly tolerance?: number;
	/** The lines in an order fixed by hand: they come first, so; what is not named follows in the order that is found. */
	readonly fixed?: readonly number[];
	/** Where a line is begun, set by hand: a place near it. */
	readonly starts?: Readonly<Record<number, readonly [number, number]>>;
	/** mm/min of rapids and mm/s2, for the time. */
	readonly rapid?: number;
	readonly acceleration?: number;
}

/** The same with everything said. */
export type WholeSettings = Required<Omit<CutSettings, 'ramp' | 'tabs' | 'fixed' | 'starts' | 'play'>> &
	Pick<CutSettings, 'ramp' | 'tabs' | 'fixed' | 'starts'>;

/** The most passes that make sense; more is a slip of the keyboard. */
const MOST_PASSES = 1000;

/** mm from the line to the middle of the tool. */
export const reachOf = (tool: CutTool): number =>
	tool.kind === 'cutter' ? tool.diameter / 2 : tool.kind === 'beam' ? tool.kerf / 2 : 0;

/** What the tool's width is called. */
const widthWord = (tool: CutTool) => (tool.kind === 'beam' ? 'kerf' : 'diameter');

/**
 * The settings made whole, or what is wrong with them in one sentence: `bad-tool`, `bad-feed`, `no-depth`, `bad-passes`,
 * `bad-setting`.
 */
export function wholeSettings(given: CutSettings): Result<WholeSettings> {
	const { tool } = given;
	const isCutter = tool.kind === 'cutter';
	const positive = (value: number | undefined) => value !== undefined && value > 0 && Number.isFinite(value);
	const width = tool.kind === 'cutter' ? tool.diameter : tool.kind === 'beam' ? tool.kerf : 1;
	if (!positive(width))
		return failed('bad-tool', `The ${widthWord(tool)} of the tool must be above 0 mm, not ${width}.`);
	if (tool.kind === 'knife' && !(tool.offset >= 0 && tool.offset < 20))
		return failed(
			'bad-tool',
			`The knife's tip trails its pivot by 0 mm or a little more, not ${tool.offset}.`
		);
	if (!positive(given.feed)) return failed('bad-feed', `The feed must be above 0 mm/min, not ${given.feed}.`);
	if (isCutter && !positive(given.depth))
		return failed('no-depth', 'How deep is it cut? The depth must be above 0 mm.');
	const depth = isCutter ? given.depth! : 0;
	const pass = given.pass ?? depth;
	if (isCutter && !positive(pass)) return failed('bad-passes', 'A pass must be deeper than 0 mm.');
	const passes = isCutter ? Math.max(1, Math.ceil(depth / pass - 1e-9)) : (given.passes ?? 1);
	if (!(Number.isInteger(passes) && passes >= 1 && passes <= MOST_PASSES))
		return failed('bad-passes', `That would be ${passes} passes. From 1 to ${MOST_PASSES} can be made.`);
	const plunge = given.plunge ?? given.feed / 3;
	if (!positive(plunge)) return failed('bad-feed', `The feed down must be above 0 mm/min, not ${plunge}.`);
	const safe = given.safe ?? 5;
	if (isCutter && !(safe >= 1 && safe <= 500))
		return failed('bad-setting', `The height for travelling must be from 1 to 500 mm, not ${safe}.`);
	for (const [word, value, most] of [
		['lead', given.lead ?? 0, 1000],
		['larger tool', given.rest ?? 0, 1000],
		['overcut', given.overcut ?? 0, 1000],
		['power', given.power ?? 0, 1e6],
		['speed', given.speed ?? 0, 1e6]
	] as const)
		if (!(value >= 0 && value <= most))
			return failed('bad-setting', `The ${word} must be from 0 to ${most}, not ${value}.`);
	if (given.ramp !== undefined && !(given.ramp > 0 && given.ramp <= 90))
		return failed(
			'bad-setting',
			`The ramp goes down at more than 0 and up to 90 degrees, not ${given.ramp}.`
		);
	const step = given.step ?? 0.4;
	if (!(step > 0 && step <= 1))
		return failed('bad-setting', `The step of clearing is a share of the tool from 0 to 1, not ${step}.`);
	const tolerance = given.tolerance ?? 0.005;
	if (!(tolerance > 0 && tolerance <= 1))
		return failed('bad-setting', `The tolerance must be above 0 and up to 1 mm, not ${tolerance}.`);
	if (!Number.isFinite(given.angle ?? 0))
		return failed('bad-setting', `The angle of the lines must be a number of degrees, not ${given.angle}.`);
	const { tabs } = given;
	if (tabs) {
		if (!(positive(tabs.width) && tabs.height > 0))
			return failed('bad-setting', 'A holding tab must be wider and higher than 0 mm.');
		if (isCutter && !(tabs.height < depth + 1e-9))
			return failed(
				'bad-setting',
				`The tabs are ${tabs.height} mm high and it is only ${depth} mm deep: nothing would be cut there.`
			);
		if (tabs.spacing !== undefined && !positive(tabs.spacing))
			return failed('bad-setting', 'Tabs must be more than 0 mm apart.');
		if (tabs.count !== undefined && !(tabs.count >= 0 && tabs.count <= 1000))
			return failed('bad-setting', `The number of tabs is from 0 to 1000, not ${tabs.count}.`);
	}
	const rapid = given.rapid ?? 3000;
	const acceleration = given.acceleration ?? 500;
	if (!positive(rapid) || !positive(acceleration))
		return failed('bad-setting', 'Rapids and acceleration must be above 0.');
	return done({
		...given,
		depth,
		pass,
		passes,
		plunge,
		safe,
		speed: given.speed ?? 0,
		power: given.power ?? 0,
		way: given.way ?? 'climb',
		lead: given.lead ?? 0,
		leadKind: given.leadKind ?? 'arc',
		overcut: given.overcut ?? 0,
		relief: given.relief ?? 'none',
		step,
		pattern: given.pattern ?? 'turns',
		angle: given.angle ?? 0,
		rest: given.rest ?? 0,
		tolerance,
		order: given.order ?? 'short',
		common: given.common ?? false,
		rapid,
		acceleration
	});
}

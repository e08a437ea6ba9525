/** The file that a machine reads, of planned jobs: read by our own reader before it is given out. */
import type { Job } from '../../core/document/job';
import { done, failed, type Result } from '../../core/errors';
import { readGcode } from '../../core/formats/gcode-read';
import { writeGcode } from '../../core/formats/gcode-write';
import { readHpgl } from '../../core/formats/hpgl-read';
import { writeHpgl } from '../../core/formats/hpgl-write';
import { joinMoves, type Toolpath } from '../../core/toolpath/moves';
import type { Plan } from '../../core/toolpath/plan';

/** A file for a machine: what it is called, what it says. */
export interface MachineFile {
	readonly name: string;
	readonly text: string;
	readonly language: 'gcode' | 'hpgl';
}

/** mm, how closely straights follow an arc where no arcs are read. */
const CHORD = 0.0025;

/**
 * The file of planned jobs. It is read by our own reader before it is given out. @returns it, or `bad-file` with the line and the
 * reason, or `nothing-given`.
 */
export function machineFile(name: string, plans: readonly { job: Job; plan: Plan }[]): Result<MachineFile> {
	const [first] = plans;
	if (!first) return failed('nothing-given', 'There is no job that is done.');
	const { machine } = first.job;
	if (machine.language === 'hpgl') {
		const text = writeHpgl(joinMoves(plans.map(({ plan }) => plan.moves)), CHORD);
		const [fault] = readHpgl(text).faults;
		if (fault) return failed('bad-file', `The file would not be understood: ${fault.why}`);
		return done({ name: `${name}.hpgl`, text, language: 'hpgl' });
	}
	const text = writeGcode(
		plans.map(({ job, plan }) => ({
			moves: plan.moves,
			tool: job.tool.tool,
			toolName: job.tool.name,
			speed: job.how.speed,
			names: plan.cuts.map((cut) => cut.name)
		})),
		{ name, arcs: machine.arcs, tolerance: CHORD, words: machine.words }
	);
	const [fault] = readGcode(text).faults;
	if (fault)
		return failed(
			'bad-file',
			`Line ${fault.line} of the file would not be understood: ${fault.why} Look at the machine's start and end words.`
		);
	return done({ name: `${name}.nc`, text, language: 'gcode' });
}

/** The moves of a file, as any machine would read them. */
export const movesOf = (file: MachineFile): Toolpath =>
	(file.language === 'hpgl' ? readHpgl(file.text) : readGcode(file.text)).moves;

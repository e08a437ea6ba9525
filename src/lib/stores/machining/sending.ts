/** A planned sheet on its way to a machine: as a file that the person gets, or laid on the machine's own bench. */
import { toProblem } from '../../core/errors';
import { jobInput } from '../../core/toolpath/recipe';
import type { Bench } from '../bench.svelte';
import { saveAs } from '../files/files';
import { machineFile } from './machine-file';
import type { MachiningOperation } from './machining.svelte';

/** Gives the person the file; what is wrong with it is told. */
export function writeMachineFile(bench: Bench, operation: MachiningOperation): void {
	const file = machineFile(bench.drawing.name, operation.whole.plans);
	if (file.ok) {
		bench.keepByItself(bench.drawing, `written for ${operation.whole.plans[0].job.machine.name}`);
		saveAs(
			file.value.name,
			new TextEncoder().encode(file.value.text) as Uint8Array<ArrayBuffer>,
			'text/plain'
		);
	} else bench.trouble(file.problem);
}

/** Lays the job on the machine's bench. */
export async function openMachineBench(bench: Bench, operation: MachiningOperation): Promise<void> {
	try {
		const file = machineFile(bench.drawing.name, operation.whole.plans);
		if (!file.ok) {
			bench.trouble(file.problem);
			return;
		}
		const { MachineBench } = await import('./machine-bench.svelte');
		operation.endWatching();
		const { sheet, whole } = operation;
		if (!sheet) return;
		const drawn = jobInput(bench.drawing, whole.plans[0].job, sheet).input.lines.map((line) => line.path);
		bench.keepByItself(bench.drawing, `laid on ${whole.plans[0].job.machine.name}`);
		operation.machineBench = new MachineBench(file.value, whole.plans, { ...sheet, lines: drawn });
		bench.sheet = 'machine';
	} catch (error) {
		bench.trouble(toProblem(error));
	}
}

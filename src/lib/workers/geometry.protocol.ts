/** Messages of the geometry worker: work of the core by its name. */
import type { WorkArguments, WorkName, WorkProgress, WorkValue } from '../core/operations/work';
import type { Answer } from './picture.protocol';

export interface GeometryApi {
	/**
	 * Runs work of the core to its end.
	 * @param args lists of lines among them as parcels (`kept.ts`).
	 * @param line requests of one line make older ones of it stale.
	 * @param request higher than that of the request before it.
	 */
	run<N extends WorkName>(
		name: N,
		line: string,
		request: number,
		args: WorkArguments<N>,
		tell?: (progress: WorkProgress<N>) => void
	): Promise<Answer<WorkValue<N>>>;
	/** Lines that were sent and are not needed any more. */
	forget(numbers: readonly number[]): void;
	/** Makes what is asked on a line up to this request stale: whatever is under way ends at its next step. */
	stop(line: string, request: number): void;
}

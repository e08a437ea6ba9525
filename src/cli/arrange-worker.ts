/** One search for a way to lay pieces, in a thread of its own: several with different seeds use all cores. */
import { parentPort, workerData } from 'node:worker_threads';
import { layOnSheetsSteps, type ArrangePiece, type ArrangeSheet } from '../lib/core/arrange/arrange';

export interface SearchOrder {
	readonly pieces: readonly ArrangePiece[];
	readonly sheets: readonly ArrangeSheet[];
	readonly gap: number;
	readonly inHoles: boolean;
	readonly seed: number;
	readonly seconds: number;
}

const { pieces, sheets, gap, inHoles, seed, seconds } = workerData as SearchOrder;
const begin = performance.now();
const share = () => (performance.now() - begin) / (1000 * seconds);
const steps = layOnSheetsSteps(pieces, sheets, { gap, inHoles, seed, share });
for (;;) {
	const next = steps.next();
	if (!next.done) continue;
	parentPort?.postMessage(next.value);
	break;
}

import type { Problem } from '../../core/errors';

/** Files that were dropped before there was a drawing to take them: the next bench that opens does. */
export const brought: {
	files: readonly File[];
	/** What could not be read of what came with them. */
	trouble?: Problem | undefined;
	/** Called once they are in the drawing and written. */
	taken?: (() => void) | undefined;
} = { files: [] };

/** Files that were dropped before there was a drawing to take them: the next bench that opens does. */
export const brought: { files: readonly File[] } = { files: [] };

/** What can be opened: the one list for every place where files are chosen. */

/** Endings of lines, drawings and machines' files. */
const LINES = ['.svg', '.dxf', '.thread', '.nc', '.gcode', '.ngc', '.tap', '.hpgl', '.plt'];
/** Pictures, each type with its endings. */
const PICTURES: Readonly<Record<string, readonly string[]>> = {
	'image/png': ['.png'],
	'image/jpeg': ['.jpg', '.jpeg'],
	'image/webp': ['.webp'],
	'image/gif': ['.gif'],
	'image/bmp': ['.bmp']
};
/** All drawings as one file: for the list of them. */
const ALL = '.threads';

/** For a file field on the bench. */
export const ON_BENCH = [...Object.keys(PICTURES), ...LINES].join(',');
/** For a file field on the list of drawings. */
export const ON_LIST = `${ON_BENCH},${ALL}`;
/** All endings, for a dialog of the system. */
export const ENDINGS: readonly string[] = [...LINES, ALL, ...Object.values(PICTURES).flat()];

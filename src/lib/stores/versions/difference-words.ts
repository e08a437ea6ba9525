/** Differences between two states of a drawing, in words. */
import type { Difference } from '../../core/document/compared';
import type { DrawingRecord, LengthUnit } from '../../core/document/drawing';
import { recordType } from '../../core/document/records';
import { formatLength } from '../../core/units';

/** What a person calls a field of a record. */
const FIELD_WORDS: Readonly<Record<string, string>> = {
	name: 'name',
	layer: 'layer',
	hidden: 'hidden or shown',
	locked: 'tied or loose',
	closed: 'closed or open',
	colour: 'colour',
	purpose: 'purpose',
	dashes: 'dashes',
	rank: 'place in the order',
	group: 'group',
	standing: 'piece or hole',
	wanted: 'how many',
	grain: 'grain',
	home: 'place on the sheet',
	x: 'place',
	y: 'place',
	angle: 'direction',
	opacity: 'how faint',
	pxPerMm: 'true size',
	crop: 'crop',
	sheet: 'slant',
	width: 'size',
	height: 'size',
	value: 'value',
	formula: 'value',
	rule: 'rule',
	half: 'mirror half',
	openOnPurpose: 'open on purpose',
	unit: 'unit',
	grid: 'weave',
	toolRadius: 'tool radius'
};

export function nameOf(record: DrawingRecord): string {
	const { word } = recordType(record);
	const { name } = record as { readonly name?: string };
	return name ? (record.type === 'outline' ? `"${name}"` : `${word} "${name}"`) : `a ${word}`;
}

/** One sentence without its full stop. */
export function differenceWords(difference: Difference, unit: LengthUnit): string {
	switch (difference.how) {
		case 'came':
			return `${nameOf(difference.record)} came`;
		case 'went':
			return `${nameOf(difference.record)} went`;
		case 'moved':
			return `${nameOf(difference.after)} moved by up to ${formatLength(difference.by, unit)}`;
		case 'carried': {
			const { right, up } = difference;
			const ways = [
				...(Math.abs(right) > 5e-4
					? [`${formatLength(Math.abs(right), unit)} to the ${right > 0 ? 'right' : 'left'}`]
					: []),
				...(Math.abs(up) > 5e-4 ? [`${formatLength(Math.abs(up), unit)} ${up > 0 ? 'up' : 'down'}`] : [])
			];
			return `${nameOf(difference.after)} was carried ${ways.join(' and ') || 'a little'}`;
		}
		case 'said': {
			const words = new Set(difference.fields.map((field) => FIELD_WORDS[field] ?? 'other facts'));
			return `${nameOf(difference.after)}: ${[...words].join(', ')}`;
		}
	}
}

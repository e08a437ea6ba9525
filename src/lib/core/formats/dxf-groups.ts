/**
 * A DXF as pairs of a code and a value, put in order: sections that are not closed are, what is damaged is skipped to the next
 * thing that begins. What the parsing package gets is whole, since on some damaged files it never ends.
 */
import DxfParser from 'dxf-parser';
import { FILE_LIMIT } from './budget';

export interface Group {
	readonly code: number;
	readonly value: string;
}

/** An entity as it stands in the file. */
export interface RawEntity {
	readonly type: string;
	readonly groups: readonly Group[];
}

export interface RawLayer {
	readonly name: string;
	/** An index of colours, negative where the layer is off. */
	readonly colour: number;
	/** 0xrrggbb */
	readonly trueColour?: number;
	readonly frozen: boolean;
	readonly lineType?: string;
}

export interface RawDrawing {
	readonly units: number | undefined;
	readonly layers: ReadonlyMap<string, RawLayer>;
	/** Strokes and gaps by turns, in units of the drawing, by the name of the line type in capitals. */
	readonly lineTypes: ReadonlyMap<string, readonly number[]>;
	readonly blocks: ReadonlyMap<
		string,
		{ readonly x: number; readonly y: number; readonly entities: readonly RawEntity[] }
	>;
	readonly entities: readonly RawEntity[];
	/** How many places were damaged and skipped. */
	readonly damaged: number;
}

const CODE = /^\s*-?\d{1,4}\s*$/;
const NAME = /^\s*(?=[A-Z0-9_]*[A-Z])[A-Z0-9_]+\s*$/;

/** Pairs of code and value; where a line is missing or is none, on from the next thing that begins. */
function groupsOf(text: string): { readonly groups: Group[]; readonly damaged: number } {
	const lines = text.split(/\r\n|\r|\n/);
	const groups: Group[] = [];
	let damaged = 0;
	for (let i = 0; i + 1 < lines.length;) {
		if (CODE.test(lines[i]) && !(lines[i].trim() === '0' && !NAME.test(lines[i + 1]))) {
			groups.push({ code: Number(lines[i]), value: lines[i + 1].trim() });
			i += 2;
			continue;
		}
		if (lines.slice(i).every((line) => line.trim() === '')) break;
		damaged++;
		// What was being read is not trusted: it goes as far back as it began.
		while (groups.length && groups[groups.length - 1].code !== 0) groups.pop();
		groups.pop();
		while (i + 1 < lines.length && !(lines[i].trim() === '0' && NAME.test(lines[i + 1]))) i++;
	}
	return { groups, damaged };
}

/** Codes that say something of a line; of others the parsing package may complain aloud, or refuse the file. */
const isNeeded = (code: number): boolean =>
	(code >= 0 && code < 80) || [210, 220, 230, 420, 1000, 1001].includes(code);

/** The sections that are read, each closed; everything else is left out. */
function inOrder(groups: readonly Group[]): {
	readonly lines: string[];
	readonly types: ReadonlySet<string>;
} {
	const lines: string[] = [];
	const types = new Set<string>();
	const put = (code: number, value: string) => lines.push(String(code), value);
	let section = '';
	let inBlock = false;
	const closeBlock = () => {
		if (inBlock) put(0, 'ENDBLK');
		inBlock = false;
	};
	const close = () => {
		closeBlock();
		if (section === 'BLOCKS' || section === 'ENTITIES') put(0, 'ENDSEC');
		section = '';
	};
	for (let i = 0; i < groups.length; i++) {
		const { code, value } = groups[i];
		if (code === 0 && value === 'SECTION') {
			close();
			section = groups[i + 1]?.code === 2 ? groups[++i].value : '';
			if (section === 'BLOCKS' || section === 'ENTITIES') {
				put(0, 'SECTION');
				put(2, section);
			}
			continue;
		}
		if (code === 0 && (value === 'ENDSEC' || value === 'EOF')) {
			close();
			continue;
		}
		if (section === 'BLOCKS' && code === 0 && value === 'BLOCK') {
			closeBlock();
			inBlock = true;
			put(0, 'BLOCK');
			continue;
		}
		if (section === 'BLOCKS' && code === 0 && value === 'ENDBLK') {
			closeBlock();
			continue;
		}
		if ((section !== 'ENTITIES' && !inBlock) || !isNeeded(code)) continue;
		if (code === 0) types.add(value);
		put(code, value);
	}
	close();
	put(0, 'EOF');
	return { lines, types };
}

/** The layers and line types of the tables, and the unit of the header. */
function tablesOf(groups: readonly Group[]): Pick<RawDrawing, 'units' | 'layers' | 'lineTypes'> {
	const layers = new Map<string, RawLayer>();
	const lineTypes = new Map<string, readonly number[]>();
	let scale = 1;
	let units: number | undefined;
	for (let i = 0; i < groups.length; i++) {
		const { code, value } = groups[i];
		if (code === 9 && value === '$INSUNITS' && groups[i + 1]?.code === 70)
			units = Number(groups[i + 1].value);
		if (code === 9 && value === '$LTSCALE' && Number(groups[i + 1]?.value) > 0)
			scale = Number(groups[i + 1].value);
		if (code === 0 && value === 'LTYPE') {
			const [name, dashes] = lineTypeAt(groups, i + 1);
			if (name && dashes)
				lineTypes.set(
					name.toUpperCase(),
					dashes.map((d) => scale * d)
				);
		}
		if (code !== 0 || value !== 'LAYER') continue;
		const said = new Map<number, string>();
		for (let k = i + 1; k < groups.length && groups[k].code !== 0; k++)
			if (!said.has(groups[k].code)) said.set(groups[k].code, groups[k].value);
		const name = said.get(2);
		if (name === undefined) continue;
		const trueColour = said.get(420);
		layers.set(name, {
			name,
			colour: Number(said.get(62) ?? 7),
			frozen: (Number(said.get(70) ?? 0) & 1) !== 0,
			...(trueColour === undefined ? {} : { trueColour: Number(trueColour) }),
			...(said.has(6) ? { lineType: said.get(6) } : {})
		});
	}
	return { units, layers, lineTypes };
}

/** A dot of a line type is so short a stroke, in units of the drawing. */
const DOT = 0.01;

/** Name and lengths of the line type whose groups begin here; no lengths for a whole line. */
function lineTypeAt(groups: readonly Group[], from: number): [string | undefined, number[] | undefined] {
	let name: string | undefined;
	const parts: number[] = [];
	for (let k = from; k < groups.length && groups[k].code !== 0; k++) {
		if (groups[k].code === 2) name ??= groups[k].value;
		if (groups[k].code === 49) parts.push(Number(groups[k].value));
	}
	const dashes: number[] = [];
	for (const part of parts) {
		if (!Number.isFinite(part)) return [name, undefined];
		// Positive: a stroke; negative: a gap; 0: a dot. Two of a kind are one.
		const isGap = part < 0;
		const length = part === 0 ? DOT : Math.abs(part);
		if (isGap === (dashes.length % 2 === 1)) dashes.push(length);
		else if (dashes.length) dashes[dashes.length - 1] += length;
	}
	if (dashes.length % 2) dashes.pop();
	return [name, dashes.length >= 2 && dashes.length <= FILE_LIMIT.dashes ? dashes : undefined];
}

interface Scanner {
	next(): Group;
	isEOF(): boolean;
	lastReadGroup: Group;
}

/** Keeps an entity as it stands: the package's own handlers leave out what is needed (weights, flags, extrusions). */
const keeps = (name: string) =>
	class {
		readonly ForEntityName = name;
		parseEntity(scanner: Scanner, _: Group): RawEntity {
			const groups: Group[] = [];
			for (let group = scanner.next(); group.code !== 0 && !scanner.isEOF(); group = scanner.next())
				groups.push({ code: group.code, value: String(group.value) });
			return { type: name, groups };
		}
	};

/** The parts of a DXF that draw something. @returns undefined for what is no DXF. */
export function parseDxf(text: string): RawDrawing | undefined {
	const { groups, damaged } = groupsOf(text);
	if (!groups.some((g) => g.code === 0 && (g.value === 'SECTION' || g.value === 'EOF'))) return undefined;
	const { lines, types } = inOrder(groups);
	const parser = new DxfParser();
	for (const type of types) parser.registerEntityHandler(keeps(type) as never);
	const parsed = parser.parseSync(lines.join('\n'));
	const blocks = new Map<string, { x: number; y: number; entities: readonly RawEntity[] }>();
	for (const [name, block] of Object.entries(parsed?.blocks ?? {}))
		blocks.set(name, {
			x: block.position?.x ?? 0,
			y: block.position?.y ?? 0,
			entities: (block.entities ?? []) as unknown as RawEntity[]
		});
	return {
		...tablesOf(groups),
		blocks,
		entities: (parsed?.entities ?? []) as unknown as RawEntity[],
		damaged
	};
}

import { execFile } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { mkdir, stat } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { CoreError, toProblem, unwrap } from '../../lib/core/errors';
import { groupPieces } from '../../lib/core/plane/pieces';
import { toGrey } from '../../lib/core/trace/picture';
import type { Corner, Rectangle } from '../../lib/core/trace/perspective';
import { findSheet } from '../../lib/core/trace/sheet';
import type { Trace, TraceProgress } from '../../lib/core/trace/trace';
import { sourceOf, tracePicture, WAYS, type WayOptions } from '../../lib/core/trace/ways';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import { loadPicture, type DecodedPicture } from '../../lib/server/pictures';
import { UsageError, type Words } from '../options';
import { roundMs, writeOut, type Facts, type Outcome, type Verb } from '../verb';

export const trace: Verb = {
	usage: 'trace PICTURE… --out FILE or FOLDER',
	meaning: 'Traces pictures into closed outlines of true size, or into single lines.',
	options: {
		out: 'text',
		'px-per-mm': 'text',
		width: 'text',
		rectify: 'text',
		rect: 'text',
		by: 'text',
		threshold: 'text',
		light: 'flag',
		colours: 'text',
		levels: 'text',
		tolerance: 'text',
		'corner-angle': 'text',
		'min-area': 'text',
		diagonal: 'text',
		region: 'text',
		'even-light': 'flag',
		denoise: 'flag'
	},
	help: [
		'--out FILE or FOLDER   where the SVG goes; a folder for several pictures',
		'--px-per-mm N          pixels per millimetre (otherwise what the file states)',
		'--width MM             the width of the picture in millimetres',
		'--rectify "x,y x,y x,y x,y" --rect WxH   a known rectangle: its corners in pixels, in order,',
		'                       and its size in mm; or --rectify auto to find a sheet',
		`--by ${WAYS.join('|')}   what parts ink from paper (tone)`,
		'--threshold N|auto     the tone that parts them, 0 to 255 (auto)',
		'--light                light ink on dark',
		'--colours N|auto       by colours: how many flat colours, the background counted',
		'--levels N             level lines: how many (5)',
		'--tolerance MM         how closely the outlines follow the edge',
		'--corner-angle DEG     the least turn that counts as a corner (30)',
		'--min-area MM2         smaller specks are dropped',
		'--diagonal join|part   whether pixels that touch at a corner belong together (join)',
		'--region X,Y,W,H       only this part of the picture, in pixels',
		'--even-light           take uneven light out first',
		'--denoise              average noise away first'
	],
	async run(words) {
		const out = words.text('out');
		if (words.files.length === 0) throw new UsageError('Which picture? trace PICTURE… --out FILE or FOLDER');
		if (!out) throw new UsageError('Where to? Give --out FILE or FOLDER.');
		const asked = readOptions(words);
		if (words.files.length > 1) return traceMany(words, out, asked);
		const isFolder = (await isDirectory(out)) || !/\.svg$/i.test(out);
		if (isFolder) await mkdir(out, { recursive: true }).catch(() => undefined);
		const facts = await traceOne(
			words.files[0],
			isFolder ? targetIn(out, words.files[0]) : out,
			asked,
			words
		);
		return { facts, text: textOf(facts) };
	}
};

const targetIn = (folder: string, file: string) => join(folder, basename(file, extname(file)) + '.svg');
/** Where each of several goes: those of one name are numbered, so that none takes another's place. */
function targetsIn(folder: string, files: readonly string[]): string[] {
	const taken = new Set<string>();
	return files.map((file) => {
		let target = targetIn(folder, file);
		for (let k = 2; taken.has(target); k++)
			target = join(folder, `${basename(file, extname(file))} ${k}.svg`);
		taken.add(target);
		return target;
	});
}
const textOf = (r: Facts) =>
	`${r.out}: ${r.outlines} outlines, ${r.anchors} anchors, worst ${Number(r.worst).toFixed(3)} mm`;

/** Several pictures: one process each, as many at once as there are cores. One that fails does not stop the others. */
async function traceMany(words: Words, folder: string, asked: Asked): Promise<Outcome> {
	await mkdir(folder, { recursive: true }).catch(() => undefined);
	const results: Facts[] = [];
	const failures: string[] = [];
	const targets = targetsIn(folder, words.files);
	const queue = [...words.files.keys()];
	const worker = async () => {
		for (let k = queue.shift(); k !== undefined; k = queue.shift()) {
			const file = words.files[k];
			const answer = await traceApart(file, targets[k], asked, words);
			if (answer.facts) results.push(answer.facts);
			else failures.push(`${file}: ${answer.problem}`);
			if (process.stderr.isTTY && !words.flag('json'))
				process.stderr.write(`\r${results.length + failures.length} of ${words.files.length} `);
		}
	};
	await Promise.all(Array.from({ length: Math.min(availableParallelism(), queue.length) }, worker));
	if (results.length === 0) throw new CoreError('failed', failures.join('\n'));
	for (const failure of failures) process.stderr.write(failure + '\n');
	results.sort((a, b) => String(a.out).localeCompare(String(b.out)));
	return {
		facts: { results, failures },
		text: results.map(textOf).join('\n'),
		exit: failures.length ? 1 : 0
	};
}

/** One picture of several, in a process of its own where this is the command line itself. */
async function traceApart(
	file: string,
	target: string,
	asked: Asked,
	words: Words
): Promise<{ facts?: Facts; problem?: string }> {
	const self = process.argv[1] ?? '';
	if (basename(self) !== 'even-thread.mjs') {
		try {
			return { facts: await traceOne(file, target, asked, words) };
		} catch (error) {
			return { problem: toProblem(error).sentence };
		}
	}
	const args = [self, 'trace', file, '--out', target, '--json'];
	for (const [name, kind] of Object.entries(trace.options)) {
		if (name === 'out') continue;
		const value = words.text(name);
		if (kind === 'flag') {
			if (words.flag(name)) args.push(`--${name}`);
		} else if (value !== undefined) args.push(`--${name}=${value}`);
	}
	return new Promise((resolve) => {
		execFile(process.execPath, args, { maxBuffer: 1e8 }, (error, stdout, stderr) => {
			if (error) resolve({ problem: stderr.trim().split('\n').pop() || error.message });
			else resolve({ facts: JSON.parse(stdout) as Facts });
		});
	});
}

interface Asked extends Omit<WayOptions, 'pxPerMm' | 'rectify'> {
	pxPerMm?: number;
	width?: number;
	corners?: readonly Corner[] | 'auto';
	rect?: { width: number; height: number };
}

function readOptions(words: Words): Asked {
	const positive = (name: string) => {
		const value = words.number(name);
		if (value !== undefined && !(value > 0)) throw new UsageError(`--${name} must be above 0.`);
		return value;
	};
	const whole = (name: string, least: number) => {
		const value = words.number(name);
		if (value !== undefined && !(Number.isInteger(value) && value >= least))
			throw new UsageError(`--${name} is a whole number from ${least}.`);
		return value;
	};
	const numbers = (text: string, count: number, what: string): number[] => {
		const v = text
			.trim()
			.split(/[\s,x×]+/)
			.map(Number);
		if (v.length !== count || v.some((n) => !Number.isFinite(n))) throw new UsageError(what);
		return v;
	};
	const threshold = words.text('threshold');
	if (threshold !== undefined && threshold !== 'auto') {
		const t = words.number('threshold')!;
		if (!(t >= 0 && t <= 255)) throw new UsageError('--threshold is auto or a number from 0 to 255.');
	}
	let region: Asked['region'];
	const text = words.text('region');
	if (text !== undefined) {
		const [x, y, w, h] = numbers(text, 4, '--region needs x,y,w,h in pixels.');
		region = { x, y, w, h };
	}
	const leastArea = words.number('min-area');
	if (leastArea !== undefined && !(leastArea >= 0)) throw new UsageError('--min-area must be 0 or more.');
	let corners: Asked['corners'];
	let rect: Asked['rect'];
	const given = words.text('rectify');
	if (given !== undefined) {
		const size = words.text('rect');
		if (size === undefined)
			throw new UsageError('--rectify needs --rect WxH, the size of the rectangle in mm.');
		const [width, height] = numbers(size, 2, '--rect is WxH in mm, such as 297x210.');
		if (!(width > 0 && height > 0)) throw new UsageError('--rect must be above 0 mm both ways.');
		rect = { width, height };
		if (given === 'auto') corners = 'auto';
		else {
			const v = numbers(given, 8, '--rectify needs four corners "x,y x,y x,y x,y" in pixels, or auto.');
			corners = [0, 2, 4, 6].map((k) => ({ x: v[k], y: v[k + 1] }));
		}
	}
	const colours = words.text('colours');
	return {
		way: words.oneOf('by', WAYS, 'tone'),
		pxPerMm: positive('px-per-mm'),
		width: positive('width'),
		corners,
		rect,
		threshold: threshold === undefined || threshold === 'auto' ? 'auto' : Number(threshold),
		light: words.flag('light'),
		colours: colours === undefined || colours === 'auto' ? 'auto' : whole('colours', 2),
		levels: whole('levels', 1),
		tolerance: positive('tolerance'),
		cornerAngle: positive('corner-angle'),
		leastArea,
		diagonal: words.oneOf('diagonal', ['join', 'part'] as const, 'join'),
		region,
		evenLight: words.flag('even-light'),
		denoise: words.flag('denoise')
	};
}

async function isDirectory(path: string): Promise<boolean> {
	return stat(path).then(
		(s) => s.isDirectory(),
		() => false
	);
}

/** The rectangle that is asked for; its longer side along the found sheet's longer side. */
function rectangleOf(picture: DecodedPicture, asked: Asked): Rectangle | undefined {
	if (!asked.corners || !asked.rect) return undefined;
	if (asked.corners !== 'auto') return { corners: asked.corners, ...asked.rect };
	const { corners } = findSheet(toGrey(picture));
	const side = (a: Corner, b: Corner) => Math.hypot(a.x - b.x, a.y - b.y);
	const across = side(corners[0], corners[1]) + side(corners[2], corners[3]);
	const down = side(corners[1], corners[2]) + side(corners[3], corners[0]);
	const turned =
		across > down !== asked.rect.width > asked.rect.height && asked.rect.width !== asked.rect.height;
	return { corners: turned ? [3, 0, 1, 2].map((k) => corners[k]) : corners, ...asked.rect };
}

async function traceOne(file: string, target: string, asked: Asked, words: Words): Promise<Facts> {
	const picture = unwrap(await loadPicture(file));
	const start = performance.now();
	const rectify = rectangleOf(picture, asked);
	const pxPerMm = asked.pxPerMm ?? (asked.width ? picture.widthPx / asked.width : picture.pxPerMm);
	if (!pxPerMm && !rectify) {
		throw new CoreError('no-size', `"${basename(file)}" states no true size. Give --px-per-mm or --width.`);
	}
	const work = tracePicture(sourceOf(picture), {
		...asked,
		rectify,
		pxPerMm: pxPerMm ?? 1,
		grain: true
	});
	const traced = runWithProgress(work, words);
	const total = performance.now() - start;
	const pieces = piecesOf(traced, basename(file, extname(file)));
	await writeOut(target, writeSvg(pieces, { x: 0, y: 0, ...traced.frame }));
	return {
		out: target,
		pieces: pieces.length,
		outlines: traced.paths.length,
		anchors: traced.anchors,
		worst: traced.worst,
		mean: traced.mean,
		...(rectify ? { corners: rectify.corners.map((c) => [c.x, c.y]) } : {}),
		ms: { total: roundMs(total) },
		warnings: traced.dropped ? [`${traced.dropped} specks were dropped.`] : []
	};
}

/** Outlines with their holes as pieces, colour by colour; drawn lines each by itself. */
function piecesOf({ paths, fills, widths }: Trace, name: string): SvgPiece[] {
	const out: SvgPiece[] = [];
	const add = (piece: Omit<SvgPiece, 'name'>) => out.push({ ...piece, name: `${name} ${out.length + 1}` });
	if (widths) {
		paths.forEach((path, i) =>
			add({
				paths: [path],
				fill: 'none',
				stroke: '#000000',
				strokeWidth: widths[i]
			})
		);
		return out;
	}
	const byFill = new Map<string | undefined, number[]>();
	paths.forEach((_, i) => byFill.set(fills?.[i], [...(byFill.get(fills?.[i]) ?? []), i]));
	for (const [fill, list] of byFill) {
		for (const group of groupPieces(list.map((i) => paths[i])))
			add({ paths: group.map((k) => paths[list[k]]), ...(fill ? { fill } : {}) });
	}
	return out.length === 1 ? [{ ...out[0], name }] : out;
}

function runWithProgress(work: Generator<TraceProgress, Trace>, words: Words): Trace {
	const show = process.stderr.isTTY && !words.flag('json');
	let step = work.next();
	while (!step.done) {
		if (show) process.stderr.write(`\r${Math.round(step.value.share * 100)} % `);
		step = work.next();
	}
	if (show) process.stderr.write('\r      \r');
	return step.value;
}

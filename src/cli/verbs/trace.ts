import { mkdir, stat } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { CoreError, toProblem, unwrap } from '../../lib/core/errors';
import { groupPieces } from '../../lib/core/geometry/pieces';
import { alphaAsInk, toGrey } from '../../lib/core/trace/picture';
import { traceByTone, type Trace, type TraceOptions } from '../../lib/core/trace/trace';
import { writeSvg } from '../../lib/core/formats/svg';
import { loadPicture } from '../../lib/server/pictures';
import { UsageError, type Words } from '../options';
import { roundMs, writeOut, type Facts, type Verb } from '../verb';

export const trace: Verb = {
	usage: 'trace PICTURE… --out FILE or FOLDER',
	meaning: 'Traces pictures into closed outlines of true size.',
	options: {
		out: 'text',
		'px-per-mm': 'text',
		width: 'text',
		by: 'text',
		threshold: 'text',
		light: 'flag',
		tolerance: 'text',
		'corner-angle': 'text',
		'min-area': 'text',
		diagonal: 'text',
		region: 'text'
	},
	help: [
		'--out FILE or FOLDER   where the SVG goes; a folder for several pictures',
		'--px-per-mm N          pixels per millimetre (otherwise what the file states)',
		'--width MM             the width of the picture in millimetres',
		'--by tone|alpha        what parts ink from paper (tone)',
		'--threshold N|auto     the tone that parts them, 0 to 255 (auto)',
		'--light                light ink on dark',
		'--tolerance MM         how closely the outlines follow the edge',
		'--corner-angle DEG     the least turn that counts as a corner (30)',
		'--min-area MM2         smaller specks are dropped',
		'--diagonal join|part   whether pixels that touch at a corner belong together (join)',
		'--region X,Y,W,H       only this part of the picture, in pixels'
	],
	async run(words) {
		const out = words.text('out');
		if (words.files.length === 0) throw new UsageError('Which picture? trace PICTURE… --out FILE or FOLDER');
		if (!out) throw new UsageError('Where to? Give --out FILE or FOLDER.');
		const by = words.oneOf('by', ['tone', 'alpha'] as const, 'tone');
		const options = readOptions(words);
		const isFolder = words.files.length > 1 || (await isDirectory(out)) || !/\.svg$/i.test(out);
		if (isFolder) await mkdir(out, { recursive: true }).catch(() => undefined);
		const results: Facts[] = [];
		const failures: string[] = [];
		for (const file of words.files) {
			const target = isFolder ? join(out, basename(file, extname(file)) + '.svg') : out;
			try {
				results.push(await traceOne(file, target, by, options, words));
			} catch (error) {
				if (error instanceof UsageError) throw error;
				failures.push(
					words.files.length > 1 ? `${file}: ${toProblem(error).sentence}` : toProblem(error).sentence
				);
			}
		}
		if (results.length === 0) throw new CoreError('failed', failures.join('\n'));
		for (const failure of failures) process.stderr.write(failure + '\n');
		const facts = words.files.length === 1 ? results[0] : { results, failures };
		const text = results
			.map(
				(r) =>
					`${r.out}: ${r.outlines} outlines, ${r.anchors} anchors, worst ${Number(r.worst).toFixed(3)} mm`
			)
			.join('\n');
		return { facts, text, exit: failures.length ? 1 : 0 };
	}
};

interface Asked extends Omit<TraceOptions, 'pxPerMm'> {
	pxPerMm?: number;
	width?: number;
}

function readOptions(words: Words): Asked {
	const positive = (name: string) => {
		const value = words.number(name);
		if (value !== undefined && !(value > 0)) throw new UsageError(`--${name} must be above 0.`);
		return value;
	};
	const threshold = words.text('threshold');
	if (threshold !== undefined && threshold !== 'auto') {
		const t = words.number('threshold')!;
		if (!(t >= 0 && t <= 255)) throw new UsageError('--threshold is auto or a number from 0 to 255.');
	}
	let region: Asked['region'];
	const text = words.text('region');
	if (text !== undefined) {
		const v = text.split(',').map(Number);
		if (v.length !== 4 || v.some((n) => !Number.isFinite(n)))
			throw new UsageError('--region needs x,y,w,h in pixels.');
		region = { x: v[0], y: v[1], w: v[2], h: v[3] };
	}
	const leastArea = words.number('min-area');
	if (leastArea !== undefined && !(leastArea >= 0)) throw new UsageError('--min-area must be 0 or more.');
	return {
		pxPerMm: positive('px-per-mm'),
		width: positive('width'),
		threshold: threshold === undefined || threshold === 'auto' ? 'auto' : Number(threshold),
		light: words.flag('light'),
		tolerance: positive('tolerance'),
		cornerAngle: positive('corner-angle'),
		leastArea,
		diagonal: words.oneOf('diagonal', ['join', 'part'] as const, 'join'),
		region
	};
}

async function isDirectory(path: string): Promise<boolean> {
	return stat(path).then(
		(s) => s.isDirectory(),
		() => false
	);
}

async function traceOne(
	file: string,
	target: string,
	by: 'tone' | 'alpha',
	asked: Asked,
	words: Words
): Promise<Facts> {
	const picture = unwrap(await loadPicture(file));
	const pxPerMm = asked.pxPerMm ?? (asked.width ? picture.widthPx / asked.width : picture.pxPerMm);
	if (!pxPerMm) {
		throw new CoreError('no-size', `"${basename(file)}" states no true size. Give --px-per-mm or --width.`);
	}
	const start = performance.now();
	const grey = by === 'alpha' ? alphaAsInk(picture) : toGrey(picture);
	const traced = runWithProgress(traceByTone(grey, { ...asked, pxPerMm }), words);
	const total = performance.now() - start;
	const groups = groupPieces(traced.paths);
	const frame = { x: 0, y: 0, w: picture.widthPx / pxPerMm, h: picture.heightPx / pxPerMm };
	const name = basename(file, extname(file));
	const pieces = groups.map((group, k) => ({
		paths: group.map((i) => traced.paths[i]),
		name: groups.length > 1 ? `${name} ${k + 1}` : name
	}));
	await writeOut(target, writeSvg(pieces, frame));
	return {
		out: target,
		pieces: pieces.length,
		outlines: traced.paths.length,
		anchors: traced.anchors,
		worst: traced.worst,
		mean: traced.mean,
		ms: { total: roundMs(total) },
		warnings: traced.dropped ? [`${traced.dropped} specks were dropped.`] : []
	};
}

function runWithProgress(work: ReturnType<typeof traceByTone>, words: Words): Trace {
	const show = process.stderr.isTTY && !words.flag('json');
	let step = work.next();
	while (!step.done) {
		if (show) process.stderr.write(`\r${Math.round(step.value.share * 100)} % `);
		step = work.next();
	}
	if (show) process.stderr.write('\r      \r');
	return step.value;
}

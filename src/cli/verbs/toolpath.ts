import { CoreError, unwrap } from '../../lib/core/errors';
import { writeGcode } from '../../lib/core/formats/gcode-write';
import { writeHpgl } from '../../lib/core/formats/hpgl-write';
import { writeMovesSvg } from '../../lib/core/formats/moves-svg';
import { transformPath } from '../../lib/core/geometry/path';
import { planSteps, type CutInput } from '../../lib/core/toolpath/plan';
import type { CutTool } from '../../lib/core/document/job';
import type { CutSettings } from '../../lib/core/toolpath/settings';
import { finish } from '../../lib/core/progress';
import { readSize, UsageError, type Words } from '../options';
import { allPieces, frameAround, readDrawing, Stopwatch, writeOut, type Verb } from '../verb';

export const toolpath: Verb = {
	usage: 'toolpath F.svg --out G.nc',
	meaning: 'Plans how a tool cuts the lines, and writes it for a machine: .nc, .hpgl, or .svg to look at.',
	options: {
		out: 'text',
		sheet: 'text',
		tool: 'text',
		beam: 'text',
		knife: 'text',
		side: 'text',
		vee: 'text',
		depth: 'text',
		pass: 'text',
		plunge: 'text',
		safe: 'text',
		speed: 'text',
		ramp: 'text',
		feed: 'text',
		power: 'text',
		climb: 'flag',
		conventional: 'flag',
		lead: 'text',
		tabs: 'text',
		tab: 'text',
		overcut: 'text',
		relief: 'text',
		step: 'text',
		tolerance: 'text',
		rapid: 'text',
		accel: 'text'
	},
	help: [
		'--tool MM | --beam MM | --knife MM   a cutter of that diameter, a beam with that kerf, a knife that trails by that much',
		'--sheet WxH               the sheet; the frame’s lower left corner lies on its own (the frame)',
		'--side outside|inside|on|clear|groove   where the tool goes (outside); groove with --vee: as deep as it is wide',
		'--vee DEG                 the cutter is a V bit with that angle at its tip',
		'--depth MM --pass MM --plunge MM/MIN --safe MM --speed RPM   for a cutter',
		'--ramp DEG                goes down along the path',
		'--feed MM/MIN --power S   how fast, and how strong a beam is',
		'--climb | --conventional  with a spindle turning clockwise (climb)',
		'--lead MM                 comes and goes on an arc of that radius',
		'--tabs N --tab WxH        so many holding tabs on each outer outline, that wide and high',
		'--overcut MM              goes on past the start',
		'--relief none|corner      opens tight inside corners (none)',
		'--step SHARE              of the diameter between turns of clearing (0.4)',
		'--tolerance MM            (0.005)',
		'--rapid MM/MIN --accel MM/S2   for the time (3000, 500)'
	],
	async run(words) {
		const out = words.text('out');
		if (words.files.length !== 1 || !out) throw new UsageError('toolpath F.svg --out G.nc');
		const settings = readSettings(words);
		const ending = /\.(nc|hpgl|svg)$/i.exec(out)?.[1].toLowerCase();
		if (!ending) throw new UsageError('--out ends in .nc, .hpgl or .svg.');
		const imported = await readDrawing(words.files[0]);
		const pieces = allPieces(imported);
		const paths = pieces.flatMap((piece) => piece.paths);
		const frame = imported.frame ?? frameAround(paths);
		const sheet = readSize(words, 'sheet') ?? [frame.w, frame.h];
		// The frame's lower left corner comes to 0, 0; y is up already.
		const place = (path: (typeof paths)[number]) =>
			transformPath(path, [1, 0, 0, 1, -frame.x, frame.y + frame.h]);
		const input: CutInput = {
			lines: pieces.flatMap((piece, i) =>
				piece.paths.map((path, k) => ({
					path: place(path),
					name: `${piece.name ?? `piece ${i + 1}`}${k ? ` hole ${k}` : ''}`
				}))
			),
			sheet: { width: sheet[0], height: sheet[1] }
		};
		const watch = new Stopwatch();
		const plan = unwrap(finish(planSteps(input, settings)));
		watch.stop();
		const names = plan.cuts.map((cut) => cut.name);
		const { tool } = settings;
		if (ending === 'nc')
			await writeOut(
				out,
				writeGcode(
					[
						{
							moves: plan.moves,
							tool,
							speed: (tool.kind === 'cutter' ? settings.speed : settings.power) ?? 0,
							names
						}
					],
					{ name: words.files[0].replace(/^.*[/\\]/, '') }
				)
			);
		else if (ending === 'hpgl') await writeOut(out, writeHpgl(plan.moves, (settings.tolerance ?? 0.005) / 2));
		else await writeOut(out, writeMovesSvg(plan.moves, sheet[0], sheet[1]));
		const facts = {
			out,
			cut: plan.cut,
			travel: plan.travel,
			seconds: plan.seconds,
			passes: plan.passes,
			moves: plan.moves.kinds.length,
			uncut: plan.uncut.map(({ x, y, area }) => ({ x, y, area })),
			ms: { total: watch.ms },
			warnings: [...imported.warnings, ...plan.warnings]
		};
		return {
			facts,
			text: `${out}: ${plan.cuts.length} cuts, ${(plan.cut / 1000).toFixed(2)} m, ${Math.ceil(plan.seconds / 60)} min`
		};
	}
};

function readTool(words: Words): CutTool {
	const [tool, beam, knife] = [words.number('tool'), words.number('beam'), words.number('knife')];
	if ([tool, beam, knife].filter((v) => v !== undefined).length !== 1)
		throw new UsageError('One of --tool, --beam and --knife must be given.');
	const vee = words.number('vee');
	if (vee !== undefined && !(tool !== undefined && vee > 0 && vee < 180))
		throw new UsageError('--vee takes an angle between 0 and 180 degrees, and --tool its diameter.');
	if (tool !== undefined)
		return { kind: 'cutter', diameter: tool, ...(vee === undefined ? {} : { shape: 'vee', angle: vee }) };
	if (beam !== undefined) return { kind: 'beam', kerf: beam };
	return { kind: 'knife', offset: knife! };
}

function readSettings(words: Words): CutSettings {
	const tool = readTool(words);
	const feed = words.number('feed');
	if (feed === undefined) throw new UsageError('--feed MM/MIN must be given.');
	if (words.flag('climb') && words.flag('conventional'))
		throw new UsageError('Either --climb or --conventional.');
	const count = words.number('tabs');
	const tab = readSize(words, 'tab');
	if (count !== undefined && !tab) throw new UsageError('--tabs needs --tab WxH.');
	const power = words.number('power');
	if (tool.kind === 'beam' && power === 0)
		throw new CoreError('bad-setting', 'The power must be above 0, or the beam would not cut.');
	return {
		tool,
		feed,
		side: words.oneOf(
			'side',
			['outside', 'inside', 'on', 'clear', 'groove'] as const,
			tool.kind === 'knife' ? 'on' : 'outside'
		),
		depth: words.number('depth'),
		pass: words.number('pass'),
		plunge: words.number('plunge'),
		safe: words.number('safe'),
		speed: words.number('speed') ?? 10000,
		ramp: words.number('ramp'),
		power: power ?? 1000,
		way: words.flag('conventional') ? 'conventional' : 'climb',
		lead: words.number('lead'),
		...(count !== undefined && tab ? { tabs: { count, width: tab[0], height: tab[1] } } : {}),
		overcut: words.number('overcut'),
		relief: words.oneOf('relief', ['none', 'corner', 'side'] as const, 'none'),
		step: words.number('step'),
		tolerance: words.number('tolerance'),
		rapid: words.number('rapid'),
		acceleration: words.number('accel')
	};
}

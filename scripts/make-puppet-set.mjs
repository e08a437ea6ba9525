// The demo's puppet set: fox, crow and hunter of the travelling shadow-puppet theatre, laid out on two plywood offcuts, one of
// them from a photograph. All made up.
import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import sharp from 'sharp';

/** Pieces in millimetres, y down; the joints that are drilled or cut into them beside. */
const PIECES = [
	[
		'Fox head',
		'M4 42C2 30 8 18 18 14L20 0L30 10C38 8 46 10 52 14L62 2L62 18C70 24 78 30 86 38C84 44 72 50 58 56C46 62 26 60 14 54C8 50 5 46 4 42Z',
		[
			[30, 30, 3],
			[16, 40, 1.6]
		]
	],
	[
		'Fox body',
		'M8 12C18 2 34 4 42 16C50 30 48 50 54 66C56 76 50 86 40 88C26 92 12 86 8 76C2 62 6 46 2 32C0 24 2 16 8 12Z',
		[
			[14, 16, 1.6],
			[36, 18, 1.6],
			[16, 78, 1.6],
			[40, 78, 1.6]
		]
	],
	[
		'Fox tail',
		'M6 60C0 46 6 26 18 14C30 4 46 0 58 8C52 12 50 18 54 24C44 26 38 32 40 40C30 42 26 50 28 58C24 66 12 68 6 60Z',
		[[14, 58, 1.6]]
	],
	[
		'Fox leg',
		'M4 4C12 0 20 4 22 12C24 24 18 36 18 48L32 56C36 58 36 64 30 64L8 64C2 64 2 58 4 52L6 24C2 18 0 8 4 4Z',
		[[12, 10, 1.6]]
	],
	[
		'Crow body',
		'M4 34C12 10 44 2 72 12C88 18 98 28 106 44C86 52 52 58 28 52C14 50 6 44 4 34Z',
		[
			[24, 30, 1.6],
			[72, 28, 1.6]
		]
	],
	[
		'Crow wing',
		'M4 14C22 0 66 0 108 10C116 14 120 20 122 28C96 30 50 36 22 30C12 28 6 22 4 14Z',
		[[16, 15, 1.6]]
	],
	[
		'Crow head',
		'M6 20C10 4 34 2 42 16L74 22L42 32C36 44 12 44 6 32C4 28 4 24 6 20Z',
		[
			[30, 18, 2.6],
			[14, 26, 1.6]
		]
	],
	[
		'Hunter coat',
		'M16 4C28 0 44 0 56 4L70 92C52 100 20 100 2 92Z',
		[
			[20, 12, 1.6],
			[52, 12, 1.6],
			[22, 86, 1.6],
			[50, 86, 1.6]
		]
	],
	[
		'Hunter arm',
		'M8 2A7 7 0 0 1 22 4L30 48C34 52 34 60 28 62C20 64 16 58 16 52L2 8A7 7 0 0 1 8 2Z',
		[[11, 9, 1.6]]
	],
	['Hunter leg', 'M4 2H20L22 44L36 50C40 52 40 58 34 58H6Z', [[12, 8, 1.6]]],
	['Lantern', 'M10 8H30L36 14V44L30 50H10L4 44V14Z', []]
];
/** One half of the hat, brim and crown; the other follows. */
const HAT = 'M40 2C28 2 24 10 22 24C14 26 6 28 2 32C10 38 24 40 40 40';
const WANTED = { 'Hunter arm': 2, 'Hunter leg': 2, 'Fox leg': 4 };
/** The second offcut as it lies on the bench, mm, y down, with a knot that is spoilt. */
const OFFCUT = 'M6 10L150 4L214 12L228 96L206 168L120 176L40 170L8 120Z';
const KNOT = 'M150 112C150 102 172 102 172 114C172 126 150 124 150 112Z';
const PX_PER_MM = 5;

/** The offcut photographed from above: plywood with its grain on a dark bench. */
async function photographed() {
	const grain = Array.from(
		{ length: 46 },
		(_, i) =>
			`<path d="M-10 ${4 * i + 3 * Math.sin(i)}C60 ${4 * i + 5} 150 ${4 * i - 6 + 4 * Math.cos(2 * i)} 250 ${4 * i + 2}" stroke="${i % 3 ? '#c79f6b' : '#b98d57'}" stroke-width="${0.5 + 0.4 * (i % 4)}" fill="none"/>`
	).join('');
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${240 * PX_PER_MM}" height="${184 * PX_PER_MM}" viewBox="0 0 240 184"><rect width="240" height="184" fill="#3d3a38"/><clipPath id="c"><path d="${OFFCUT}"/></clipPath><path d="${OFFCUT}" fill="#d8b885"/><g clip-path="url(#c)">${grain}</g><path d="${KNOT}" fill="#5a3b22"/></svg>`;
	return sharp(Buffer.from(svg)).blur(0.8).jpeg({ quality: 82 }).toBuffer();
}

/** @param core loads a module of the core by its name. @param out the folder of the demo. */
export async function makePuppetSet(core, out) {
	const { newDrawing, sheetsOf } = await core('document/drawing');
	const { writeDrawingFile } = await core('formats/drawing-file');
	const { outlineFromPath } = await core('document/outline');
	const { readSvg } = await core('formats/svg');
	const { transformPath, circlePath, PathBuilder } = await core('geometry/path');
	const { completeEdit } = await core('document/complete-edit');
	const { applyStep, makeStep } = await core('document/history');
	const { addRepeat } = await core('document/edits/repeats');
	const { grouped } = await core('document/edits/groups');
	const { madeSymmetrical } = await core('document/edits/symmetry');
	const { markOn } = await core('document/marks');
	const { arrangedEdit, arrangePieces, arrangeSheets, asWanted, piecesOf } = await core('arrange/on-sheets');
	const { layOnSheetsSteps } = await core('arrange/arrange');

	const pathOf = (d) => {
		const read = readSvg(
			`<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="300mm" viewBox="0 0 300 300"><path d="${d}" fill="none" stroke="#000"/></svg>`
		);
		if (!read.ok) throw new Error(read.problem.sentence);
		return read.value.shapes[0].paths[0];
	};
	const at = (path, x, y) => transformPath(path, [1, 0, 0, 1, x, y]);
	let made = 0;
	const newId = () => `set-${++made}`;
	let drawing = newDrawing('demo-set', 'Puppet set on two offcuts');
	const act = (edit) => {
		const step = makeStep(drawing, 'Demo', completeEdit(drawing, edit).edit);
		if (step) drawing = applyStep(drawing, step, 'forward');
	};
	const named = (name) => [...drawing.records.values()].find((r) => r.name === name);
	let rank = 20;
	const outline = (name, path, layer = 'cut', more = {}) => ({
		...outlineFromPath(path, { id: newId(), name, layer, rank: rank++ }),
		...more
	});
	const layer = (id, name, purpose, colour) => ({ type: 'layer', id, rank: rank++, name, purpose, colour });
	act({
		put: [
			layer('folds', 'Creases', 'score', '#8a4b2d'),
			layer('drawn', 'Drawn', 'engrave', '#2f6d7e'),
			layer('helps', 'Guides', 'guide', '#6b6b6b')
		]
	});

	// Pieces with their joints, in rows above the sheets.
	const places = new Map();
	PIECES.forEach(([name, d, holes], i) => {
		const [x, y] = [135 * (i % 4), 430 - 120 * Math.floor(i / 4)];
		places.set(name, [x, y]);
		const wanted = WANTED[name];
		act({
			put: [
				outline(name, at(pathOf(d), x, y), 'cut', wanted ? { wanted } : {}),
				...holes.map(([hx, hy, r], k) =>
					outline(`${name}, ${r > 2 ? 'eye' : `joint ${k + 1}`}`, circlePath(x + hx, y - hy, r))
				)
			]
		});
	});
	const place = (name, px, py) => [places.get(name)[0] + px, places.get(name)[1] - py];

	// Feathers: one drawn, the others along the wing.
	const [wx, wy] = place('Crow wing', 30, 24);
	const guide = outline(
		'Feather line',
		new PathBuilder(wx, wy).cubic(wx + 25, wy - 1, wx + 50, wy + 2, wx + 76, wy + 3).open(),
		'helps'
	);
	const feather = outline(
		'Feather',
		new PathBuilder(wx - 1, wy).cubic(wx, wy + 5, wx + 2, wy + 9, wx + 7, wy + 12).open(),
		'folds'
	);
	act({ put: [guide, feather] });
	act(
		addRepeat(
			drawing,
			[feather],
			{ way: 'along', line: guide.id, by: 'spacing', number: 9, spacing: 8, share: 1, turned: true },
			{ id: newId(), name: 'Feathers' }
		)
	);
	// Teeth: one cut out, four beside it; buttons drawn in a row; rays of the lantern around its middle.
	const [tx, ty] = place('Fox head', 48, 48);
	const tooth = outline(
		'Tooth',
		new PathBuilder(tx, ty)
			.line(tx + 3, ty)
			.line(tx + 1.5, ty - 4)
			.close(),
		'cut'
	);
	const [bx, by] = place('Hunter coat', 36, 24);
	const button = outline('Button', circlePath(bx, by, 1.6), 'drawn');
	const [lx, ly] = place('Lantern', 20, 29);
	const ray = outline(
		'Ray',
		new PathBuilder(lx + 4, ly)
			.line(lx + 11, ly + 1.6)
			.line(lx + 11, ly - 1.6)
			.close(),
		'cut'
	);
	act({ put: [tooth, button, ray] });
	const rows = { way: 'rows', columns: 1, rows: 1, right: 0, up: 0, angle: 0, stagger: 0 };
	act(
		addRepeat(
			drawing,
			[tooth],
			{ ...rows, columns: 5, right: 4.4, angle: 18 },
			{ id: newId(), name: 'Teeth' }
		)
	);
	act(addRepeat(drawing, [button], { ...rows, rows: 5, up: -12 }, { id: newId(), name: 'Buttons' }));
	act(
		addRepeat(
			drawing,
			[ray],
			{ way: 'around', number: 8, x: lx, y: ly, sweep: 360, turned: true },
			{ id: newId(), name: 'Rays' }
		)
	);
	// The hat: half and mirror; a notch on the coat's hem, and creases on the tail.
	const [hx, hy] = [410, 190];
	act({
		put: [
			madeSymmetrical(
				outline('Hunter hat', at(pathOf(HAT), hx, hy)),
				{ x: hx + 40, y: hy, angle: 90 },
				'left'
			)
		]
	});
	const coat = named('Hunter coat');
	const [nx, ny] = place('Hunter coat', 36, 98);
	act({
		put: [
			markOn(
				{ type: 'mark', id: newId(), rank: rank++, layer: 'cut', x: nx, y: ny, form: 'V', size: 4 },
				coat
			)
		]
	});
	const crease = (x0, y0, x1, y1) =>
		outline(
			'Crease',
			new PathBuilder(...place('Fox tail', x0, y0)).line(...place('Fox tail', x1, y1)).open(),
			'folds'
		);
	act({ put: [crease(18, 30, 34, 22), crease(14, 40, 28, 34)] });
	// A lantern and its hook are laid as one.
	const hook = outline(
		'Lantern hook',
		at(
			pathOf('M14 0A8 8 0 1 1 26 0L22 0A4 4 0 1 0 18 0Z'),
			places.get('Lantern')[0],
			places.get('Lantern')[1] + 16
		)
	);
	act({ put: [hook] });
	act(grouped(drawing, [named('Lantern').id, hook.id], { id: newId(), name: 'Lantern with its hook' }));

	// Two offcuts: a board, and one from its photograph, its edge and its knot traced.
	const photo = await photographed();
	const hash = createHash('sha256').update(photo).digest('hex');
	const [ox, oy] = [330, -20];
	const edge = outline('Offcut', at(pathOf(OFFCUT), ox, oy), 'helps');
	const knot = outline('Knot', at(pathOf(KNOT), ox, oy), 'helps');
	const board = { type: 'sheet', rank: rank++, margin: 3, grain: 0 };
	act({
		put: [
			{
				type: 'reference',
				id: 'offcut-photo',
				rank: 2,
				name: 'offcut.jpg',
				picture: hash,
				mediaType: 'image/jpeg',
				widthPx: 240 * PX_PER_MM,
				heightPx: 184 * PX_PER_MM,
				pxPerMm: PX_PER_MM,
				x: ox,
				y: oy,
				opacity: 0.8
			},
			edge,
			knot,
			{ ...board, id: 'board', name: 'Long offcut', x: 0, y: -190, width: 250, height: 170 },
			{
				...board,
				id: 'photographed',
				name: 'Photographed offcut',
				x: ox + 6,
				y: oy - 176,
				width: 222,
				height: 172,
				edge: edge.id,
				spoilt: [knot.id]
			}
		]
	});
	const pieces = asWanted(piecesOf(drawing));
	const search = layOnSheetsSteps(
		arrangePieces(pieces, [0, 90, 180, 270], sheetsOf(drawing)),
		arrangeSheets(drawing),
		{ gap: 2, seed: 3, share: (looks) => looks / 400_000, inHoles: false }
	);
	let step = search.next();
	while (!step.done) step = search.next();
	act(arrangedEdit(drawing, pieces, step.value.places, newId));
	if (step.value.left.length) throw new Error(`no room for ${step.value.left.map((i) => pieces[i].name)}`);
	writeFileSync(`${out}/puppet-set.thread`, writeDrawingFile(drawing, new Map([[hash, photo]])));
	return { pieces: pieces.length, usage: step.value.usage };
}

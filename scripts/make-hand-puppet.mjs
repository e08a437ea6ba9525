// The demo's felt hand puppet: a pattern in two sizes with seam allowance, a hem folded back, notches, and its measures as named
// sizes that it follows. All made up.
import { writeFileSync } from 'node:fs';

/** Widths round the hand, mm, by the names of the sizes. */
const SIZES = { small: 104, large: 120 };
/** The front as it is drawn for a hem of 104 mm, y up: hem, sides, arms, neck and head. */
const HEM = 104;

/** @param core loads a module of the core by its name. @param out the folder of the demo. */
export async function makeHandPuppet(core, out) {
	const { newDrawing } = await core('document/drawing');
	const { writeDrawingFile } = await core('formats/drawing-file');
	const { outlineFromPath } = await core('document/outline');
	const { edgesOf, withEdge } = await core('document/edges');
	const { PathBuilder, transformPath, circlePath } = await core('geometry/path');
	const { completeEdit } = await core('document/complete-edit');
	const { applyStep, makeStep } = await core('document/history');
	const { addFollower, givenOutline } = await core('document/edits/made');
	const { holdAsIs } = await core('document/holds/offers');
	const { markOn } = await core('document/marks');
	await core('document/recipes/reckonings');

	let made = 0;
	const newId = () => `hand-${++made}`;
	let rank = 20;
	let drawing = newDrawing('demo-hand', 'Felt hand puppet');
	const act = (edit) => {
		const step = makeStep(drawing, 'Demo', completeEdit(drawing, edit).edit);
		if (step) drawing = applyStep(drawing, step, 'forward');
	};
	const layer = (id, name, purpose, colour) => ({ type: 'layer', id, rank: rank++, name, purpose, colour });
	act({
		put: [layer('seams', 'Seams', 'score', '#8a4b2d'), layer('faces', 'Drawn on', 'engrave', '#2f6d7e')]
	});

	const front = new PathBuilder(0, 0)
		.line(HEM, 0)
		.line(94, 74)
		.cubic(108, 70, 124, 76, 128, 90)
		.cubic(130, 104, 118, 110, 108, 106)
		.line(70, 106)
		.cubic(94, 122, 92, 168, 52, 170)
		.cubic(12, 168, 10, 122, 34, 106)
		.line(-4, 106)
		.cubic(-14, 110, -26, 104, -24, 90)
		.cubic(-20, 76, -4, 70, 10, 74)
		.close();

	let left = 0;
	for (const [name, round] of Object.entries(SIZES)) {
		const scale = round / HEM;
		const path = transformPath(front, [scale, 0, 0, scale, left, 0]);
		act({ put: [{ type: 'size', id: `size ${name}`, rank: rank++, name, value: `${round}` }] });
		const piece = {
			...outlineFromPath(path, { id: newId(), name: `Front, ${name}`, layer: 'seams', rank: rank++ })
		};
		const [hem] = edgesOf(piece);
		const hemmed = withEdge(piece, hem.id, { name: 'hem', width: 20 });
		act({ put: [hemmed] });
		const own = drawing.records.get(piece.id);
		const ids = own.anchors;
		const n = ids.length;
		const lines = new Map([[own.id, own]]);
		const place = (k) => ({ outline: own.id, anchor: ids[(k + n) % n] });
		const hold = (kind, ...places) => holdAsIs(kind, places.map(place), lines, { id: newId(), rank: rank++ });
		act({
			put: [
				hold('level', 0, 1),
				{ ...hold('length', 0, 1), value: name },
				// Both sides are sewn together with those of the back: they stay equally long.
				hold('equal', 1, 2, 0, -1)
			]
		});
		act(
			addFollower('allowance', { width: 6, corner: 'fold' }, [drawing.records.get(piece.id)], {
				id: newId(),
				name: `Front, ${name}, cut`,
				layer: 'cut',
				rank: rank++
			})
		);
		const at = (x, y) => [left + scale * x, scale * y];
		for (const [x, y] of [
			[99, 37],
			[5, 37],
			[52, 170]
		]) {
			const [px, py] = at(x, y);
			act({
				put: [
					markOn(
						{ type: 'mark', id: newId(), rank: rank++, layer: 'seams', x: px, y: py, form: 'T', size: 5 },
						drawing.records.get(piece.id)
					)
				]
			});
		}
		const facts = (word) => ({ id: newId(), name: `${word}, ${name}`, layer: 'faces', rank: rank++ });
		const eye = (x) => outlineFromPath(circlePath(...at(x, 146), 3 * scale), facts('Eye'));
		const spots = [
			[38, 130],
			[46, 126],
			[58, 126],
			[66, 131]
		].map(([x, y], i) => {
			const [px, py] = at(x, y);
			return { id: i + 1, x: px, y: py };
		});
		const smile = {
			...givenOutline('through', { places: spots, closed: false, pace: 'fair', drift: 0 }, facts('Smile')),
			openOnPurpose: true
		};
		act({ put: [eye(42), eye(62), smile] });
		left += 190 * scale;
	}
	writeFileSync(`${out}/hand-puppet.thread`, writeDrawingFile(drawing, new Map()));
	return [...drawing.records.values()].filter((r) => r.type === 'outline').length;
}

/** What was read from a file, as records of a drawing. */
import {
	layersOf,
	nextRank,
	outlinesOf,
	type Drawing,
	type DrawingRecord,
	type Layer,
	type Mark
} from '../document/drawing';
import type { Edit } from '../document/history';
import type { Purpose } from '../document/purpose';
import { outlineFromPath } from '../document/outline';
import type { NewId } from '../document/edits/operations';
import type { Imported } from './imported';

/** Everything read from a file: outlines, single points, layers as the file has them. */
export function addImported(drawing: Drawing, imported: Imported, name: string, newId: NewId): Edit {
	const put: DrawingRecord[] = [];
	const layers = new Map(layersOf(drawing).map((layer) => [layer.name.toLowerCase(), layer.id]));
	const colours = new Map(imported.layers?.map((layer) => [layer.name, layer.colour]));
	let rank = nextRank(drawing);
	/** A layer is for what all of it is for. */
	const purposes = new Map<string, Purpose>();
	for (const { layer, purpose = 'cut' } of imported.shapes) {
		const key = layer?.toLowerCase() ?? '';
		purposes.set(key, (purposes.get(key) ?? purpose) === purpose ? purpose : 'cut');
	}
	const purposeOfLayer = new Map(layersOf(drawing).map((layer) => [layer.id, layer.purpose]));
	const layerFor = (label: string | undefined, colour: string | undefined): string => {
		if (!label || label === '0') return 'cut';
		const known = layers.get(label.toLowerCase());
		if (known) return known;
		const layer: Layer = {
			type: 'layer',
			id: newId(),
			rank: rank++,
			name: label,
			purpose: purposes.get(label.toLowerCase()) ?? 'cut',
			colour: colours.get(label) ?? colour ?? '#1c3f5e'
		};
		layers.set(label.toLowerCase(), layer.id);
		put.push(layer);
		purposeOfLayer.set(layer.id, layer.purpose);
		return layer.id;
	};
	let number = outlinesOf(drawing).length;
	for (const shape of imported.shapes) {
		const layer = layerFor(shape.layer, shape.fill ?? shape.stroke);
		for (const [i, path] of shape.paths.entries()) {
			number++;
			const own = shape.names?.[i] || (i === 0 || shape.paths.length === 1 ? shape.name : undefined);
			const label = own ?? `${shape.name ?? name} ${number}`;
			const colour = shape.fill && shape.fill !== '#000000' ? shape.fill : shape.stroke;
			const facts = {
				id: newId(),
				name: label,
				layer,
				rank: rank++,
				...(colour && colour !== '#000000' ? { colour } : {}),
				...(shape.purpose && shape.purpose !== (purposeOfLayer.get(layer) ?? 'cut')
					? { purpose: shape.purpose }
					: {})
			};
			const outline = outlineFromPath(path, facts);
			put.push(shape.dashes ? { ...outline, dashes: shape.dashes } : outline);
		}
	}
	for (const p of imported.points) {
		put.push({
			type: 'mark',
			id: newId(),
			rank: rank++,
			layer: layerFor(p.layer, undefined),
			x: p.x,
			y: p.y
		} satisfies Mark);
	}
	return { put };
}

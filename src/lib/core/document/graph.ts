/**
 * The graph of records: what is made from what, and how a change goes on to all that follows. Results are stored with the
 * recipes, so that opening and undoing make nothing again; whatever a change touches is made again in the same step.
 */
import { CoreError, type Result } from '../errors';
import { finish } from '../progress';
import { mirrorAt, placed } from '../geometry/maps';
import { reversePath, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { nearestOnPath } from '../geometry/pick';
import { freeName, outlinesOf, type Drawing, type DrawingRecord } from './drawing';
import { edgesOf, withKeptEdges } from './edges';
import { ANCHOR_STRIDE, allRounds, lineOf, outlineFromPath, sourceLine, type Outline } from './outline';
import { hashOf, printOfPath, roleId } from './prints';
import { takesLong, type InputLine, type MadeLine } from './recipes/recipe-type';
import { recipeType, type Recipe } from './recipes/recipes';

/** The id of the set of outlines that one recipe gives. */
export const setOf = (outline: Outline): string => outline.recipe?.set ?? outline.id;

/** Whether an outline is made from others and has no place of its own: it lies where they say. */
export const isFollower = ({ recipe }: Outline): boolean =>
	recipe !== undefined && recipe.inputs.length > 0 && !recipeType(recipe).places;

interface Graph {
	/** Outlines of each recipe, in the drawing's order. */
	readonly sets: ReadonlyMap<string, readonly Outline[]>;
	/** Sets that are made from a record. */
	readonly followers: ReadonlyMap<string, ReadonlySet<string>>;
}
const graphs = new WeakMap<Drawing['records'], Graph>();

/** The graph of a drawing, made from its records and never stored. */
export function graphOf(drawing: Drawing): Graph {
	let graph = graphs.get(drawing.records);
	if (!graph) {
		const sets = new Map<string, Outline[]>();
		const followers = new Map<string, Set<string>>();
		for (const outline of outlinesOf(drawing)) {
			const { recipe } = outline;
			if (!recipe) continue;
			const set = setOf(outline);
			const members = sets.get(set);
			if (members) members.push(outline);
			else sets.set(set, [outline]);
			for (const { record } of recipe.inputs) {
				const list = followers.get(record);
				if (list) list.add(set);
				else followers.set(record, new Set([set]));
			}
		}
		graph = { sets, followers };
		graphs.set(drawing.records, graph);
	}
	return graph;
}

/** All outlines that would change with some records, themselves left out. */
export function followersOf(drawing: Drawing, ids: Iterable<string>): Outline[] {
	const { sets, followers } = graphOf(drawing);
	const found = new Map<string, Outline>();
	const wanted = [...ids];
	const start = new Set(wanted);
	for (let id = wanted.pop(); id !== undefined; id = wanted.pop()) {
		for (const set of followers.get(id) ?? []) {
			for (const outline of sets.get(set) ?? []) {
				if (found.has(outline.id) || start.has(outline.id)) continue;
				found.set(outline.id, outline);
				wanted.push(outline.id);
			}
		}
	}
	return [...found.values()];
}

/**
 * Refuses what would make a line follow itself.
 * @throws CoreError `circle` with the names.
 */
export function refuseCircle(drawing: Drawing, members: readonly Outline[], inputs: Recipe['inputs']): void {
	const ids = new Set(members.map((o) => o.id));
	const after = new Set(followersOf(drawing, ids).map((o) => o.id));
	for (const { record } of inputs) {
		if (!ids.has(record) && !after.has(record)) continue;
		const source = drawing.records.get(record);
		const name = source?.type === 'outline' ? source.name : 'it';
		throw new CoreError(
			'circle',
			ids.has(record)
				? `"${name}" cannot be made from itself.`
				: `"${name}" is made from "${members[0].name}" already, so "${members[0].name}" cannot be made from it.`
		);
	}
}

const inputs = new WeakMap<Outline, InputLine>();

/** An outline as what is made from it sees it. Computed once per outline value. */
export function inputLine(outline: Outline): InputLine {
	let input = inputs.get(outline);
	if (!input) {
		const path = lineOf(outline);
		const { roles, sourceOf } = rolesOf(outline, path);
		const edges = edgesOf(outline);
		const total = sourceLine(outline).types.length;
		const bySegment = new Int32Array(total);
		edges.forEach(({ first, count }, e) => {
			for (let k = 0; k < count; k++) bySegment[(first + k) % total] = e;
		});
		const edgeOf = Int32Array.from(sourceOf, (segment) => bySegment[segment]);
		const widths = edges.map(({ id, width, widthEnd }) => ({
			id,
			...(width !== undefined ? { width } : {}),
			...(widthEnd !== undefined ? { widthEnd } : {})
		}));
		const said = hashOf(roles.join(' ') + JSON.stringify(widths) + edgeOf.join());
		input = { record: outline.id, path, roles, edges: widths, edgeOf, print: `${printOfPath(path)}.${said}` };
		inputs.set(outline, input);
	}
	return input;
}

/** What stands at each anchor of the resolved line, and the source segment that each of its segments belongs to. */
function rolesOf(outline: Outline, path: Path): { roles: string[]; sourceOf: Int32Array } {
	const n = path.types.length;
	const total = n + (path.closed || n === 0 ? 0 : 1);
	const { half } = outline;
	if (allRounds(outline).length === 0 && !half)
		return {
			roles: Array.from(outline.anchors, String).slice(0, total),
			sourceOf: Int32Array.from(path.types, (_, i) => i)
		};
	const at = new Map<string, number>();
	const { points } = outline;
	for (let k = outline.anchors.length - 1; k >= 0; k--)
		at.set(`${points[ANCHOR_STRIDE * k]} ${points[ANCHOR_STRIDE * k + 1]}`, k);
	const source = sourceLine(outline);
	const counts = new Map<number, number>();
	const sourceOf = new Int32Array(n);
	// Where the other half begins, and how its places are found on the drawn one.
	const drawn = half ? lineOf({ ...outline, half: undefined }).types.length : n;
	const back = half && mirrorAt(half.angle, half.x, half.y);
	const onDrawn = (isOther: boolean, x: number, y: number): Point =>
		isOther && back ? placed(back, x, y) : { x, y };
	const roles = Array.from({ length: total }, (_, i) => {
		const k = i < n ? STRIDE * i : STRIDE * (n - 1) + 6;
		const own = at.get(`${path.segs[k]} ${path.segs[k + 1]}`);
		if (i < n) {
			// By the middle of the segment: what lies there was cut from one segment, or rounds the corner behind it.
			const mx = (path.segs[k] + path.segs[k + 6]) / 2;
			const my = (path.segs[k + 1] + path.segs[k + 7]) / 2;
			const m = onDrawn(i >= drawn, mx, my);
			sourceOf[i] = nearestWithin(source, m.x, m.y)?.segment ?? 0;
		}
		if (own !== undefined) return String(outline.anchors[own]);
		const isOther = i > drawn;
		const p = onDrawn(isOther, path.segs[k], path.segs[k + 1]);
		const near = nearestWithin(source, p.x, p.y);
		const corner = near ? (near.segment + (near.t > 0.5 ? 1 : 0)) % outline.anchors.length : 0;
		const count = counts.get(isOther ? -1 - corner : corner) ?? 0;
		counts.set(isOther ? -1 - corner : corner, count + 1);
		return `${outline.anchors[corner]}${isOther ? 'm' : 'r'}${count}`;
	});
	return { roles, sourceOf };
}

/** The nearest place on a path, looked for ever farther. */
function nearestWithin(path: Path, x: number, y: number, from = 1) {
	for (let reach = from; reach < 1e6; reach *= 4) {
		const near = nearestOnPath(path, x, y, reach);
		if (near) return near;
	}
	return undefined;
}

/** Ids for the anchors of a made line: what they were made of, told by the anchors and stretches of the inputs nearest to them. */
function derivedAnchors(made: MadeLine, from: readonly InputLine[], set: string): number[] {
	const { path } = made;
	const n = path.types.length;
	const total = n + (path.closed || n === 0 ? 0 : 1);
	const taken = new Set<number>();
	let reach = 1;
	return Array.from({ length: total }, (_, i) => {
		const k = i < n ? STRIDE * i : STRIDE * (n - 1) + 6;
		const [x, y] = [path.segs[k], path.segs[k + 1]];
		let role = '';
		let least = Infinity;
		for (const input of from) {
			const near = nearestWithin(input.path, x, y, reach);
			if (!near || near.distance >= least) continue;
			least = near.distance;
			const { roles } = input;
			const next = (near.segment + 1) % roles.length;
			role =
				near.t < AT_ANCHOR
					? `${input.record}@${roles[near.segment]}`
					: near.t > 1 - AT_ANCHOR
						? `${input.record}@${roles[next]}`
						: `${input.record}@${roles[near.segment]}-`;
		}
		if (least < Infinity) reach = Math.max(1e-3, 2 * least);
		for (let count = 0; ; count++) {
			const id = roleId(`${set}/${made.part}/${role}/${count}`);
			if (taken.has(id)) continue;
			taken.add(id);
			return id;
		}
	});
}
/** Of t: so near to a segment's end is its anchor. */
const AT_ANCHOR = 1e-4;

/** The recipe's result as anchors; empty where nothing could be made. */
function resultOf(
	member: Pick<Outline, 'id' | 'name' | 'layer' | 'rank'>,
	made: MadeLine | undefined,
	from: readonly InputLine[],
	set: string,
	reversed: boolean
): Pick<Outline, 'closed' | 'anchors' | 'points' | 'marks' | 'nextAnchor'> & { made?: MadeLine } {
	const none = { closed: false, types: new Uint8Array(0), segs: new Float64Array(0) };
	let path = made?.path ?? none;
	let ids = made ? (made.anchors ?? derivedAnchors(made, from, set)) : [];
	if (reversed && made) {
		path = reversePath(path);
		ids = path.closed ? [ids[0], ...[...ids.slice(1)].reverse()] : [...ids].reverse();
	}
	const { closed, points, marks } = outlineFromPath(path, member);
	const most = ids.reduce((a, b) => Math.max(a, b), 0);
	return { closed, points, marks, anchors: Uint32Array.from(ids), nextAnchor: most + 1, made };
}

/** What the inputs and the settings of a recipe come to; undefined where an input is gone. */
export function inputsOf(
	records: Drawing['records'],
	recipe: Recipe
): { readonly lines: readonly InputLine[]; readonly print: string } | undefined {
	const lines: InputLine[] = [];
	for (const { record } of recipe.inputs) {
		const source = records.get(record);
		if (source?.type !== 'outline') return undefined;
		lines.push(inputLine(source));
	}
	return { lines, print: hashOf(lines.map((l) => l.print).join() + JSON.stringify(recipe.settings)) };
}

/** The outlines of a set after its recipe was made again: changed, new and gone. */
export function remade(
	drawing: Drawing,
	members: readonly Outline[],
	lines: readonly InputLine[],
	print: string,
	result: Result<readonly MadeLine[]>
): { put: Outline[]; remove: string[] } {
	const [first] = members;
	const recipe = first.recipe!;
	const set = setOf(first);
	const without = new Set(recipe.without);
	const made = result.ok ? result.value.filter((m) => !without.has(m.part)) : [];
	const engine = recipeType(recipe).engine;
	const at = new Map(members.map((o) => [o.recipe!.part ?? '', o]));
	const next = (member: Outline, line: MadeLine | undefined): Outline => {
		const own = member.recipe!;
		const { stale: _s, problem: _p, rounds: _r, ...kept } = own;
		const { made: it, ...anchors } = resultOf(member, line, lines, set, own.reversed === true);
		return withKeptEdges(member, {
			...member,
			...anchors,
			recipe: {
				...kept,
				settings: recipe.settings,
				engine,
				made: print,
				...(line ? { part: line.part } : {}),
				...(it?.rounds ? { rounds: it.rounds } : {}),
				...(line ? {} : { problem: result.ok ? NOTHING : result.problem.sentence })
			} as Recipe
		});
	};
	if (made.length === 0) {
		// One of them stays and waits for better inputs; it is empty and cut nowhere.
		return { put: [next(first, undefined)], remove: members.slice(1).map((o) => o.id) };
	}
	const put: Outline[] = [];
	const kept = new Set<string>();
	const isEmpty = first.recipe!.problem !== undefined || first.recipe!.part === undefined;
	let spare: Outline | undefined = members.length === 1 && isEmpty ? first : undefined;
	let names: Drawing = drawing;
	// Whose name the one there is has: it becomes that line.
	const heir = made.find((line) => nameOfPart(drawing, first, line.part) === first.name) ?? made[0];
	made.forEach((line, k) => {
		let member = at.get(line.part) ?? (made.length === 1 && members.length === 1 ? first : undefined);
		if (!member && spare && line === heir) member = spare;
		if (member) {
			spare = member === spare ? undefined : spare;
			kept.add(member.id);
			put.push(next(member, line));
			return;
		}
		const name = freeName(names, nameOfPart(drawing, first, line.part));
		const fresh: Outline = {
			...first,
			id: `${set}/${line.part}`,
			name,
			rank: first.rank + 1e-4 * (k + 1),
			recipe: { ...recipe, set, part: line.part } as Recipe
		};
		const { rounds: _r, edges: _e, first: _f, ghost: _g, ...plain } = fresh;
		const outline = next(plain, line);
		names = { ...names, records: new Map(names.records).set(outline.id, outline) };
		put.push(outline);
	});
	return { put, remove: members.filter((o) => !kept.has(o.id)).map((o) => o.id) };
}

/** What a further line of a recipe is called: like the first, but after the input that it was made from ("Eye, outside"). */
function nameOfPart({ records }: Drawing, first: Outline, part: string): string {
	const { inputs } = first.recipe!;
	const nameOf = (k: number): string | undefined => {
		const source = inputs[k] && records.get(inputs[k].record);
		return source?.type === 'outline' ? source.name : undefined;
	};
	const own = nameOf(Number(/(\d+)(?:\.\d+)?$/.exec(part)?.[1]));
	const leading = inputs
		.map((_, k) => nameOf(k))
		.find((name) => name !== undefined && first.name.startsWith(name));
	return own !== undefined && leading !== undefined ? own + first.name.slice(leading.length) : first.name;
}

const NOTHING = 'Nothing comes of the lines that it is made from.';

/** Which sets may be made at once: all; only those that take no longer than a frame; those, for the eye alone. */
export type Patience = 'all' | 'cheap' | 'draft';

export interface Followed {
	readonly records: Drawing['records'];
	readonly put: ReadonlyMap<string, Outline>;
	readonly remove: ReadonlySet<string>;
	/** Sets that are too dear to be made now: they keep their lines and are marked stale. */
	readonly dear: readonly string[];
	/** How many sets were made again. */
	readonly made: number;
}

/**
 * Makes again what depends on changed records, in order, and nothing else.
 * @param drawing with the change in it.
 * @param changed ids of records whose lines may have changed, and of outlines whose recipes are to be made.
 */
export function follow(drawing: Drawing, changed: Iterable<string>, patience: Patience = 'all'): Followed {
	const records = new Map(drawing.records);
	const put = new Map<string, Outline>();
	const remove = new Set<string>();
	const dear: string[] = [];
	let made = 0;
	const { sets } = graphOf(drawing);
	const members = (set: string) =>
		(sets.get(set) ?? []).flatMap((o) => {
			const now = records.get(o.id);
			return now?.type === 'outline' ? [now] : [];
		});
	for (const set of inOrder(drawing, changed)) {
		const list = members(set);
		const recipe = list[0]?.recipe;
		if (!recipe) continue;
		const input = inputsOf(records, recipe);
		if (!input || input.print === recipe.made) {
			// Back to inputs whose result it still is: no longer stale.
			for (const o of list) {
				if (!input || !o.recipe?.stale) continue;
				const { stale: _, ...fresh } = o.recipe;
				const next = { ...o, recipe: fresh as Recipe };
				records.set(o.id, next);
				put.set(o.id, next);
			}
			continue;
		}
		const type = recipeType(recipe);
		if (patience !== 'all' && takesLong(type, input.lines, recipe.settings)) {
			dear.push(set);
			for (const o of list) {
				if (o.recipe!.stale) continue;
				const next = { ...o, recipe: { ...o.recipe!, stale: true } as Recipe };
				records.set(o.id, next);
				put.set(o.id, next);
			}
			continue;
		}
		made++;
		const result = finish(type.resolve(input.lines, recipe.settings, patience === 'draft'));
		const change = remade({ ...drawing, records }, list, input.lines, input.print, result);
		for (const o of change.put) {
			records.set(o.id, o);
			put.set(o.id, o);
		}
		for (const id of change.remove) {
			records.delete(id);
			put.delete(id);
			remove.add(id);
		}
	}
	return { records, put, remove, dear, made };
}

/** The sets that depend on changed records, each after those that it is made from. */
function inOrder(drawing: Drawing, changed: Iterable<string>): string[] {
	const { sets, followers } = graphOf(drawing);
	const order: string[] = [];
	const state = new Map<string, 'open' | 'done'>();
	const visit = (set: string) => {
		if (state.has(set)) return;
		state.set(set, 'open');
		for (const member of sets.get(set) ?? []) for (const next of followers.get(member.id) ?? []) visit(next);
		state.set(set, 'done');
		order.push(set);
	};
	for (const id of changed) {
		const record = drawing.records.get(id);
		if (record?.type === 'outline' && record.recipe && record.recipe.made === '') visit(setOf(record));
		for (const set of followers.get(id) ?? []) visit(set);
	}
	return order.reverse();
}

/** The line that an outline stands for: its own, or what its recipe gives of its inputs as they are now. @throws CoreError `gone` */
export function resolve(drawing: Drawing, id: string): Path {
	const record = drawing.records.get(id);
	if (record?.type !== 'outline') throw new CoreError('gone', 'This is no longer in the drawing.');
	const { recipe } = record;
	if (!recipe) return lineOf(record);
	const input = inputsOf(drawing.records, recipe);
	if (!input || input.print === recipe.made) return lineOf(record);
	const { records } = follow(
		drawing,
		recipe.inputs.map((ref) => ref.record)
	);
	const now = records.get(id);
	return now?.type === 'outline'
		? lineOf(now)
		: { closed: false, types: new Uint8Array(0), segs: new Float64Array(0) };
}

/** The drawing with every recipe made again from scratch, in order. */
export function madeAfresh(drawing: Drawing): Drawing {
	const records = new Map<string, DrawingRecord>();
	for (const [id, record] of drawing.records) {
		const plain = record.type === 'outline' && record.recipe;
		records.set(id, plain ? { ...record, recipe: { ...record.recipe!, made: '' } as Recipe } : record);
	}
	const blank = { ...drawing, records };
	const followed = follow(blank, blank.records.keys());
	return { ...drawing, records: followed.records };
}

/** Sets whose lines are older than their inputs, with what they are to be made from. */
export function staleSets(drawing: Drawing): string[] {
	return [...graphOf(drawing).sets]
		.filter(([, list]) => list.some((o) => o.recipe!.stale))
		.map(([set]) => set);
}

/** Whether two values of an outline give those that are made from them the same. */
export function sameForFollowers(a: Outline, b: Outline): boolean {
	return (
		a.points === b.points &&
		a.marks === b.marks &&
		a.anchors === b.anchors &&
		a.closed === b.closed &&
		a.rounds === b.rounds &&
		a.recipe === b.recipe &&
		a.edges === b.edges &&
		a.half === b.half
	);
}

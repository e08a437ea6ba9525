<script lang="ts">
	/** The rack: everything hangs on rails as what it is, by layer or in another order; picked, found, and put elsewhere. */
	import { createVirtualizer } from '@tanstack/svelte-virtual';
	import { untrack } from 'svelte';
	import { jobsOf, layersOf, nextRank, type DrawingRecord, type Layer } from '$lib/core/document/drawing';
	import { putBefore, putOnLayer } from '$lib/core/document/edits/order';
	import {
		matchingThings,
		rackOf,
		RACK_ORDERS,
		sortedThings,
		type RackOrder,
		type RackThing
	} from '$lib/core/document/rack';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { newId } from '$lib/stores/ids';
	import LayerRail from './LayerRail.svelte';
	import Pick from '../parts/Pick.svelte';
	import RackPictures from './RackPictures.svelte';
	import RackThingButton from './RackThing.svelte';

	let { bench }: { bench: Bench } = $props();
	let order = $state<RackOrder>('order');
	let typed = $state('');
	/** Things whose parts hang beside them. */
	let opened = $state.raw<ReadonlySet<string>>(new Set());
	/** Layers whose things are put aside. */
	let folded = $state.raw<ReadonlySet<string>>(new Set());
	const ACROSS = 3;
	const RAIL_PX = 66;
	const ROW_PX = 130;
	const ORDER_WORDS: Readonly<Record<RackOrder, string>> = {
		order: 'by layer',
		anchors: 'heaviest first',
		name: 'by name',
		size: 'largest first',
		purpose: 'by purpose',
		colour: 'by colour'
	};

	const all = $derived(rackOf(bench.drawing));
	const layers = $derived(layersOf(bench.drawing));
	const found = $derived(matchingThings(bench.drawing, all, typed));
	/** Things with the parts of those that are opened after them. */
	const hung = $derived.by(() => {
		const listed = (thing: RackThing): RackThing[] =>
			opened.has(thing.id) && !typed ? [thing, ...thing.parts.flatMap(listed)] : [thing];
		return sortedThings(found, order).flatMap(listed);
	});
	type Row =
		| { readonly rail: (typeof layers)[number]; readonly count: number }
		| { readonly things: readonly RackThing[] };
	const rows = $derived.by((): Row[] => {
		const inRows = (things: readonly RackThing[]): Row[] =>
			Array.from({ length: Math.ceil(things.length / ACROSS) }, (_, i) => ({
				things: things.slice(ACROSS * i, ACROSS * (i + 1))
			}));
		if (order !== 'order' || typed) return inRows(hung);
		const byLayer = new Map<string, RackThing[]>(layers.map((layer) => [layer.id, []]));
		for (const thing of hung) byLayer.get(thing.layer)?.push(thing);
		return layers.flatMap((rail) => {
			const things = byLayer.get(rail.id)!;
			return [{ rail, count: things.length }, ...(folded.has(rail.id) ? [] : inRows(things))];
		});
	});

	let scroller = $state<HTMLDivElement>();
	const virtualizer = createVirtualizer<HTMLDivElement, HTMLDivElement>({
		count: 0,
		getScrollElement: () => scroller ?? null,
		estimateSize: () => ROW_PX,
		overscan: 3
	});
	$effect(() => {
		const now = rows;
		const element = scroller;
		untrack(() =>
			$virtualizer.setOptions({
				count: now.length,
				getScrollElement: () => element ?? null,
				estimateSize: (i) => ('rail' in now[i] ? RAIL_PX : ROW_PX),
				getItemKey: (i) => {
					const row = now[i];
					return 'rail' in row ? `rail ${row.rail.id}` : row.things.map(({ id }) => id).join();
				}
			})
		);
		untrack(() => $virtualizer.measure());
	});

	function press(thing: RackThing, event: MouseEvent): void {
		const more = event.shiftKey || event.ctrlKey || event.metaKey || bench.pickingMore;
		const { selected } = bench.selection;
		const picks = picksOf(thing);
		if (!more) bench.select(picks);
		else if (isChosen(thing)) bench.select([...selected].filter((id) => !thing.ids.includes(id)));
		else bench.select([...selected, ...picks]);
		bench.fitSelection();
	}
	/** What a press picks: a piece by its outline, as on the drawing, since its holes go along. */
	const picksOf = ({ kind, id, ids }: RackThing): readonly string[] => (kind === 'piece' ? [id] : ids);
	const isChosen = (thing: RackThing): boolean =>
		picksOf(thing).every((id) => bench.selection.selected.has(id));
	/** Ids of all that is picked, pieces with their holes. */
	const picked = (): string[] => [
		...bench.selection.selected,
		...all.filter(isChosen).flatMap(({ ids }) => ids)
	];
	const flip = (set: ReadonlySet<string>, id: string): ReadonlySet<string> => {
		const next = new Set(set);
		if (!next.delete(id)) next.add(id);
		return next;
	};
	function toggle(thing: RackThing, what: 'hidden' | 'locked'): void {
		const word = what === 'hidden' ? (thing.hidden ? 'Show' : 'Hide') : thing.locked ? 'Untie' : 'Tie fast';
		const put = thing.ids.flatMap((id): DrawingRecord[] => {
			const record = bench.drawing.records.get(id);
			if (record?.type === 'outline') return [{ ...record, [what]: !thing[what] }];
			if (what === 'hidden' && (record?.type === 'mark' || record?.type === 'repeat'))
				return [{ ...record, hidden: !thing.hidden }];
			return [];
		});
		bench.commit(`${word} "${thing.name}"`, { put });
	}

	/** What is dragged on the rack, and where it would go: onto a rail, or before another thing. */
	let held = $state.raw<ReadonlySet<string> | undefined>();
	let over = $state<string | undefined>();
	function begin(thing: RackThing): void {
		held = new Set(isChosen(thing) ? [...picked(), ...thing.ids] : thing.ids);
	}
	function drop(target: string | undefined): void {
		const ids = held;
		held = over = undefined;
		if (!ids || target === undefined) return;
		if (target.startsWith('layer ')) {
			const layer = layers.find(({ id }) => id === target.slice(6));
			if (layer) moveTo(ids, layer);
			return;
		}
		const thing = hung.find(({ id }) => id === target);
		if (!thing || ids.has(thing.id)) return;
		const onto = putOnLayer(bench.drawing, ids, thing.layer).put ?? [];
		const records = new Map(bench.drawing.records);
		for (const record of onto) records.set(record.id, record);
		const { put = [] } = putBefore({ ...bench.drawing, records }, ids, thing.id);
		const changed = new Map([...onto, ...put].map((record) => [record.id, record]));
		bench.commit('Hang elsewhere', { put: [...changed.values()] });
	}
	function moveTo(ids: Iterable<string>, layer: (typeof layers)[number]): void {
		const list = [...ids];
		if (!bench.commit(`Put on "${layer.name}"`, putOnLayer(bench.drawing, list, layer.id)))
			bench.tell(`All of it lies on "${layer.name}".`);
	}
	function addLayer(): void {
		const taken = new Set(layers.map((l) => l.name));
		let count = layers.length + 1;
		while (taken.has(`Layer ${count}`)) count++;
		const layer: Layer = {
			type: 'layer',
			id: newId(),
			rank: nextRank(bench.drawing),
			name: `Layer ${count}`,
			purpose: 'score',
			colour: '#1c3f5e'
		};
		bench.commit('New layer', { put: [layer] });
	}
	/** px from its edges within which the rack scrolls while something is dragged, and how far with each move. */
	const EDGE_PX = 36;
	const SCROLL_PX = 14;
	function dragged(event: PointerEvent): void {
		over = held && targetAt(event);
		const box = scroller?.getBoundingClientRect();
		if (!box || !scroller) return;
		if (event.clientY < box.top + EDGE_PX) scroller.scrollTop -= SCROLL_PX;
		else if (event.clientY > box.bottom - EDGE_PX) scroller.scrollTop += SCROLL_PX;
	}
	/** The rail or thing under the pointer. */
	const targetAt = (event: PointerEvent): string | undefined =>
		document
			.elementsFromPoint(event.clientX, event.clientY)
			.map((element) => element.closest<HTMLElement>('[data-hang]')?.dataset.hang)
			.find((id) => id !== undefined);
</script>

<aside class="rack" aria-label="Rack" data-paper style:bottom="{Math.max(70, bench.sight.trayPx)}px">
	<div class="rod" aria-hidden="true"></div>
	<p>
		<b data-fact="hanging">{all.length}</b>
		{all.length === 1 ? 'thing' : 'things'}
		<button class="word" onclick={() => (bench.rackOpen = false)} data-act="leave-rack">Leave</button>
	</p>
	<p class="find">
		<input
			class="field"
			type="search"
			placeholder="name, purpose, layer, colour"
			aria-label="Find on the rack"
			data-act="find-on-rack"
			bind:value={typed}
		/>
		<Pick
			label=""
			says="In which order things hang: on the rails of their layers, or all of them on one."
			name="rack-order"
			value={order}
			items={RACK_ORDERS.map((value) => ({ value, word: ORDER_WORDS[value] }))}
			onpick={(value) => (order = value as RackOrder)}
		/>
	</p>
	<div class="scroll" bind:this={scroller}>
		<div style:height="{$virtualizer.getTotalSize()}px" class="whole">
			{#each $virtualizer.getVirtualItems() as item (item.key)}
				{@const row = rows[item.index]}
				{#if row}
					<div class="row" style:transform="translateY({item.start}px)" style:height="{item.size}px">
						{#if 'rail' in row}
							<div class="hang" class:over={over === `layer ${row.rail.id}`} data-hang="layer {row.rail.id}">
								<LayerRail
									{bench}
									layer={row.rail}
									count={row.count}
									folded={folded.has(row.rail.id)}
									onfold={() => (folded = flip(folded, row.rail.id))}
									onput={() => moveTo(picked(), row.rail)}
								/>
							</div>
						{:else}
							<ul>
								{#each row.things as thing (thing.id)}
									<RackThingButton
										{thing}
										chosen={isChosen(thing)}
										over={over === thing.id}
										opened={opened.has(thing.id)}
										onpress={(event) => press(thing, event)}
										onopen={thing.parts.length && !typed
											? () => (opened = flip(opened, thing.id))
											: undefined}
										ontoggle={(what) => toggle(thing, what)}
										ongrip={() => begin(thing)}
										ondrag={dragged}
										ondrop={(event) => drop(targetAt(event))}
										oncancel={() => (held = over = undefined)}
									/>
								{/each}
							</ul>
						{/if}
					</div>
				{/if}
			{/each}
		</div>
		{#if typed && hung.length === 0}<p class="quiet">Nothing on the rack is called so.</p>{/if}
		{#if !typed}
			<button class="word" data-act="new-layer" onclick={addLayer}>new layer</button>
			<RackPictures {bench} jobs={jobsOf(bench.drawing)} />
		{/if}
	</div>
</aside>

<style>
	.rack {
		position: absolute;
		inset: 60px 0 70px auto;
		width: 262px;
		display: flex;
		flex-direction: column;
		background: color-mix(in srgb, var(--paper) 93%, transparent);
		padding: 8px 10px;
	}
	@media (max-width: 720px) {
		.rack {
			inset: 100px 0 110px 0;
			width: auto;
			background: var(--paper);
			z-index: 6;
		}
	}
	.rod {
		height: 5px;
		flex: none;
		border-radius: 3px;
		background: var(--soft);
	}
	p {
		margin: 6px 0 2px;
	}
	.find {
		display: flex;
		gap: 6px;
		align-items: center;
	}
	.find input {
		flex: 1;
		min-width: 0;
		font-size: 13.5px;
	}
	.scroll {
		flex: 1;
		min-height: 0;
		overflow: auto;
	}
	.whole {
		position: relative;
	}
	.row {
		position: absolute;
		inset: 0 0 auto;
	}
	.over {
		background: var(--wash);
	}
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		gap: 2px;
	}
</style>

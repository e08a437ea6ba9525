<script lang="ts">
	/** The rack: outlines hang on a rail as their own shapes, the heaviest first where one wants. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { isClosed, lineOf, type Outline } from '$lib/core/document/outline';
	import { anchorCount } from '$lib/core/geometry/measure';
	import { boxOf } from '$lib/core/geometry/pick';
	import LayerRail from './LayerRail.svelte';
	import { writePathData } from '$lib/core/formats/svg-path';

	let { bench }: { bench: Bench } = $props();
	let heaviest = $state(false);
	const MOST = 120;
	const list = $derived.by(() => {
		const all = [...bench.outlines];
		if (heaviest) all.sort((a, b) => anchorCount(lineOf(b)) - anchorCount(lineOf(a)));
		return all;
	});
	function shape(outline: Outline): { d: string; box: string; width: number } {
		const path = lineOf(outline);
		const b = boxOf(path);
		const size = Math.max(b.x1 - b.x0, b.y1 - b.y0, 0.01);
		const pad = size * 0.06;
		return {
			d: path.types.length > 3000 ? '' : writePathData(path),
			box: `${(b.x0 + b.x1 - size) / 2 - pad} ${-(b.y0 + b.y1 + size) / 2 - pad} ${size + 2 * pad} ${size + 2 * pad}`,
			width: size / 26
		};
	}
	function toggle(outline: Outline, what: 'hidden' | 'locked'): void {
		const word =
			what === 'hidden' ? (outline.hidden ? 'Show' : 'Hide') : outline.locked ? 'Untie' : 'Tie fast';
		bench.commit(`${word} "${outline.name}"`, { put: [{ ...outline, [what]: !outline[what] }] });
	}
</script>

<aside class="rack" aria-label="Rack" data-paper style:bottom="{Math.max(70, bench.sight.trayPx)}px">
	<div class="rail" aria-hidden="true"></div>
	<p>
		<b>{bench.outlines.length} outlines</b>
		<button class="word" aria-pressed={heaviest} onclick={() => (heaviest = !heaviest)}
			>{heaviest ? 'in their order' : 'heaviest first'}</button
		>
		<button class="word" onclick={() => (bench.rackOpen = false)} data-act="leave-rack">Leave</button>
	</p>
	<LayerRail {bench} />
	<ul>
		{#each list.slice(0, MOST) as outline (outline.id)}
			{@const s = shape(outline)}
			<li class:chosen={bench.selection.selected.has(outline.id)} class:turned={outline.hidden}>
				<span class="string" aria-hidden="true"></span>
				<button
					class="piece"
					aria-description={outline.name}
					onclick={(e) => {
						bench.select(e.shiftKey ? new Set([...bench.selection.selected, outline.id]) : [outline.id]);
						bench.fitSelection();
					}}
					aria-label="{outline.name}, {anchorCount(lineOf(outline))} anchors"
				>
					<svg viewBox={s.box} width="62" height="62"
						><path
							d={s.d}
							fill={isClosed(outline) ? 'var(--wash)' : 'none'}
							stroke="currentColor"
							stroke-width={s.width}
							stroke-dasharray={isClosed(outline) ? 'none' : `${s.width * 3}`}
						/></svg
					>
					<span class="label">{outline.name}</span>
					<span class="quiet">{anchorCount(lineOf(outline))}</span>
				</button>
				<span class="acts">
					<button class="word" onclick={() => toggle(outline, 'hidden')}
						>{outline.hidden ? 'show' : 'hide'}</button
					>
					<button class="word" onclick={() => toggle(outline, 'locked')}
						>{outline.locked ? 'untie' : 'tie'}</button
					>
				</span>
			</li>
		{/each}
	</ul>
	{#if list.length > MOST}<p class="quiet">and {list.length - MOST} more</p>{/if}
</aside>

<style>
	.rack {
		position: absolute;
		inset: 60px 0 70px auto;
		width: 262px;
		overflow: auto;
		background: color-mix(in srgb, var(--paper) 93%, transparent);
		padding: 8px 10px;
	}
	.rail {
		height: 5px;
		border-radius: 3px;
		background: var(--soft);
	}
	p {
		margin: 6px 0;
	}
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		gap: 2px;
	}
	li {
		position: relative;
		padding-top: 14px;
		text-align: center;
	}
	.string {
		position: absolute;
		top: 0;
		left: 50%;
		height: 16px;
		border-left: 1px solid var(--soft);
	}
	.piece {
		display: grid;
		justify-items: center;
		width: 100%;
		background: none;
		border: 0;
		color: var(--ink);
		font: inherit;
		font-size: 12.5px;
		cursor: pointer;
	}
	.chosen .piece {
		color: var(--madder);
	}
	.turned .piece {
		opacity: 0.35;
	}
	.label {
		max-width: 76px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.acts {
		visibility: hidden;
		font-size: 12px;
	}
	.acts .word {
		padding: 0 2px;
		font-weight: 400;
	}
	li:hover .acts,
	li:focus-within .acts {
		visibility: visible;
	}
</style>

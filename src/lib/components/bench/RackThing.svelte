<script lang="ts">
	/** One thing on the rack: its own shape on a string, by which it is taken and hung elsewhere. */
	import { lineOf } from '$lib/core/document/outline';
	import type { RackThing } from '$lib/core/document/rack';
	import { unionBox } from '$lib/core/geometry/measure';
	import { boxOf } from '$lib/core/geometry/pick';
	import { writePathData } from '$lib/core/formats/svg-path';

	let {
		thing,
		chosen,
		over,
		opened,
		onpress,
		onopen,
		ontoggle,
		ongrip,
		ondrag,
		ondrop,
		oncancel
	}: {
		thing: RackThing;
		chosen: boolean;
		/** What is dragged would hang before it. */
		over: boolean;
		opened: boolean;
		onpress: (event: MouseEvent) => void;
		/** Hangs its parts beside it. */
		onopen: (() => void) | undefined;
		ontoggle: (what: 'hidden' | 'locked') => void;
		ongrip: () => void;
		ondrag: (event: PointerEvent) => void;
		ondrop: (event: PointerEvent) => void;
		oncancel: () => void;
	} = $props();

	/** Segments above which no picture is drawn. */
	const MOST = 3000;
	const picture = $derived.by(() => {
		const paths = thing.outlines.map(lineOf);
		const b = unionBox(paths.map(boxOf));
		const size = Math.max(b.x1 - b.x0, b.y1 - b.y0, 0.01);
		if (!Number.isFinite(size)) return undefined;
		const pad = size * 0.06;
		const total = paths.reduce((sum, path) => sum + path.types.length, 0);
		const closed = paths.filter((path) => path.closed);
		const open = paths.filter((path) => !path.closed);
		const write = (list: typeof paths) =>
			total > MOST ? '' : list.map((path) => writePathData(path)).join('');
		return {
			closed: write(closed),
			open: write(open),
			box: `${(b.x0 + b.x1 - size) / 2 - pad} ${-(b.y0 + b.y1 + size) / 2 - pad} ${size + 2 * pad} ${size + 2 * pad}`,
			width: size / 26
		};
	});
	const DASHES = { cut: '', score: '3 2', engrave: '1 2', guide: '4 1.5 1 1.5', mixed: '' };
	const dash = $derived(
		DASHES[thing.purpose]
			.split(' ')
			.filter(Boolean)
			.map((d) => Number(d) * (picture?.width ?? 1))
			.join(' ')
	);
	const holes = $derived(thing.holes ? `${thing.holes} ${thing.holes === 1 ? 'hole' : 'holes'}, ` : '');
	const note = $derived(
		thing.kind === 'repeat'
			? `${thing.anchors} copies`
			: thing.kind === 'group'
				? `${thing.parts.length} together`
				: `${holes}${thing.anchors}`
	);
	/** What is seen, and what its number counts. */
	const said = $derived(
		thing.kind === 'mark'
			? 'mark'
			: thing.kind === 'piece' || thing.kind === 'line'
				? `${note} anchors`
				: note
	);

	/** px that a press moves before it takes the thing off the rail. */
	const TAKEN_PX = 7;
	/** A press that took the thing is no press on it. */
	let swallowed = false;
	/** Follows a press wherever it goes: beyond some px it takes the thing off the rail. */
	function down(event: PointerEvent): void {
		// A finger on the picture scrolls; by its string it takes it.
		const isString = (event.target as HTMLElement).closest('.string') !== null;
		if (event.button !== 0 || (event.pointerType === 'touch' && !isString)) return;
		const from = { x: event.clientX, y: event.clientY };
		let taken = false;
		swallowed = false;
		const move = (e: PointerEvent) => {
			if (!taken && Math.hypot(e.clientX - from.x, e.clientY - from.y) > TAKEN_PX) {
				taken = true;
				ongrip();
			}
			if (taken) ondrag(e);
		};
		const end = () => {
			removeEventListener('pointermove', move);
			removeEventListener('pointerup', up);
			removeEventListener('pointercancel', cancel);
			removeEventListener('keydown', leave, true);
		};
		const up = (e: PointerEvent) => {
			end();
			swallowed = taken;
			if (taken) ondrop(e);
		};
		const cancel = () => {
			end();
			swallowed = taken;
			if (taken) oncancel();
		};
		const leave = (e: KeyboardEvent) => {
			if (e.key !== 'Escape' || !taken) return;
			e.preventDefault();
			e.stopImmediatePropagation();
			cancel();
		};
		addEventListener('pointermove', move);
		addEventListener('pointerup', up);
		addEventListener('pointercancel', cancel);
		addEventListener('keydown', leave, true);
	}
</script>

<li
	class:chosen
	class:over
	class:turned={thing.hidden}
	data-hang={thing.id}
	data-kind={thing.kind}
	onpointerdown={down}
>
	<span class="string" aria-hidden="true"></span>
	<button
		class="piece"
		aria-description={thing.name}
		aria-label="{thing.name}, {said}"
		aria-pressed={chosen}
		onclick={(event) => {
			if (!swallowed) onpress(event);
			swallowed = false;
		}}
	>
		{#if picture}
			<svg viewBox={picture.box} width="62" height="62" aria-hidden="true"
				><path
					d={picture.closed}
					fill="var(--wash)"
					fill-rule="evenodd"
					stroke={thing.colour && thing.colour !== '#000000' ? thing.colour : 'currentColor'}
					stroke-width={picture.width}
					stroke-dasharray={dash}
				/><path
					d={picture.open}
					fill="none"
					stroke={thing.colour && thing.colour !== '#000000' ? thing.colour : 'currentColor'}
					stroke-width={picture.width}
					stroke-dasharray={dash || `${picture.width * 3}`}
				/></svg
			>
		{:else}
			<svg viewBox="0 0 62 62" width="62" height="62" aria-hidden="true"
				><path d="M22 22l18 18m0-18l-18 18" fill="none" stroke="currentColor" stroke-width="2.4" /></svg
			>
		{/if}
		<span class="label">{thing.name}</span>
		<span class="quiet">{note}</span>
	</button>
	<span class="acts">
		<button class="word" onclick={() => ontoggle('hidden')}>{thing.hidden ? 'show' : 'hide'}</button>
		{#if thing.kind !== 'mark' && thing.kind !== 'repeat'}<button
				class="word"
				onclick={() => ontoggle('locked')}>{thing.locked ? 'untie' : 'tie'}</button
			>{/if}
		{#if onopen}<button class="word" aria-expanded={opened} data-act="unfold" onclick={onopen}
				>{opened ? 'fold' : 'parts'}</button
			>{/if}
	</span>
</li>

<style>
	li {
		position: relative;
		height: 128px;
		padding-top: 14px;
		text-align: center;
		user-select: none;
	}
	/* Broader than the string that is seen, for a finger. */
	.string {
		position: absolute;
		top: 0;
		left: calc(50% - 22px);
		width: 44px;
		height: 24px;
		cursor: grab;
		touch-action: none;
	}
	.string::after {
		content: '';
		position: absolute;
		left: 22px;
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
	.over {
		box-shadow: -2px 0 0 var(--madder);
	}
	.turned .piece {
		opacity: 0.35;
	}
	.label,
	.quiet {
		max-width: 76px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.acts {
		position: absolute;
		inset: auto 0 0;
		visibility: hidden;
		font-size: 12px;
		background: var(--paper);
		z-index: 1;
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

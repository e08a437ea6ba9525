<script lang="ts">
	/** What can be done with what lies under the finger or the pointer, on a slip beside it. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { COMMANDS, keyName } from '$lib/stores/commands/commands';

	let { bench }: { bench: Bench } = $props();
	const AT_ANCHOR = [
		'kind-corner',
		'kind-smooth',
		'kind-even',
		'kind-flowing',
		'corner',
		'delete',
		'delete-straight',
		'break',
		'start-here',
		'take-out',
		'detach',
		'place',
		'select-between'
	];
	const AT_SEGMENT = [
		'add-half',
		'straighten',
		'curve',
		'arc',
		'trim',
		'break',
		'detach',
		'take-out',
		'delete',
		'select-edge',
		'guide-along'
	];
	const AT_OUTLINE = [
		'enter',
		'place',
		'double',
		'copy',
		'simplify',
		'fair',
		'offset',
		'combine',
		'corner-between',
		'extend',
		'holes-beside',
		'flip',
		'plain',
		'delete'
	];
	const AT_PAPER = ['paste', 'draw-line', 'draw-freehand', 'draw-shape', 'trace', 'fit', 'filled', 'undo'];
	const ids = $derived(
		bench.selection.enteredOutline
			? bench.selection.segments.size
				? AT_SEGMENT
				: bench.selection.picked.size
					? AT_ANCHOR
					: AT_PAPER
			: bench.selection.selected.size
				? AT_OUTLINE
				: AT_PAPER
	);
	const commands = $derived(
		ids
			.map((id) => COMMANDS.find((c) => c.id === id))
			.filter((c) => c !== undefined)
			.filter((c) => c.why(bench) === undefined)
	);
	const place = $derived({
		x: Math.min((bench.menu?.x ?? 0) + 10, bench.sight.size.widthPx - 210),
		y: Math.min((bench.menu?.y ?? 0) + 6, bench.sight.size.heightPx - 34 * commands.length - 90)
	});
</script>

{#if bench.menu}
	<ul
		class="menu slip"
		style:left="{place.x}px"
		style:top="{Math.max(30, place.y)}px"
		aria-label="What can be done here"
		data-testid="near-menu"
	>
		{#each commands as command (command.id)}
			<li>
				<button
					onclick={() => {
						bench.menu = undefined;
						command.run(bench);
					}}
					data-menu={command.id}
					>{command.word}{#if command.key}<kbd>{keyName(command.key)}</kbd>{/if}</button
				>
			</li>
		{/each}
	</ul>
{/if}

<style>
	.menu {
		position: absolute;
		margin: 0;
		padding: 4px;
		list-style: none;
		z-index: 7;
		min-width: 190px;
	}
	button {
		display: flex;
		justify-content: space-between;
		gap: 14px;
		width: 100%;
		min-height: 32px;
		padding: 4px 10px;
		background: none;
		border: 0;
		font: inherit;
		color: var(--ink);
		text-align: left;
		cursor: pointer;
	}
	button:hover {
		background: var(--wash);
	}
	kbd {
		font: inherit;
		color: var(--soft);
	}
</style>

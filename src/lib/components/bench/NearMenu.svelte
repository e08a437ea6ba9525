<script lang="ts">
	/** What can be done with what lies under the finger or the pointer, on a slip beside it. */
	import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import { keyName, keys } from '$lib/stores/keys.svelte';

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
		'group',
		'ungroup',
		'repeat',
		'edit-apart',
		'copy-out',
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
	const commands = $derived(ids.map(commandOf).filter((c) => c.why(bench) === undefined));
	const at = $derived(bench.menu ?? { x: 0, y: 0 });
	function use(id: string): void {
		bench.menu = undefined;
		useCommand(bench, commandOf(id));
	}
</script>

{#if bench.menu}
	<Menu
		open={true}
		positioning={{
			placement: 'right-start',
			strategy: 'fixed',
			gutter: 10,
			getAnchorRect: () => ({ x: at.x, y: at.y, width: 1, height: 1 })
		}}
		onOpenChange={(d) => {
			// Once the key or the press that did it has been answered.
			if (!d.open) setTimeout(() => (bench.menu = undefined));
		}}
		onSelect={(d) => use(d.value)}
	>
		<Portal>
			<Menu.Positioner>
				<Menu.Content class="near slip" aria-label="What can be done here" data-testid="near-menu">
					{#each commands as command (command.id)}
						{@const key = keys.of(command)}
						<Menu.Item value={command.id} data-menu={command.id}>
							<Menu.ItemText>{command.word}</Menu.ItemText>
							{#if key}<kbd>{keyName(key)}</kbd>{/if}
						</Menu.Item>
					{/each}
				</Menu.Content>
			</Menu.Positioner>
		</Portal>
	</Menu>
{/if}

<style>
	:global(.near) {
		padding: 4px;
		min-width: 190px;
		max-height: calc(100vh - 60px);
		overflow: auto;
		z-index: 40;
		outline: none;
	}
	:global(.near [data-part='item']) {
		display: flex;
		justify-content: space-between;
		gap: 14px;
		min-height: 32px;
		align-items: center;
		padding: 2px 10px;
		border-radius: 3px;
		color: var(--ink);
		cursor: pointer;
		font-size: var(--type);
	}
	:global(.near [data-part='item'][data-highlighted]) {
		background: var(--wash);
	}
	kbd {
		font: inherit;
		color: var(--soft);
	}
</style>

<script lang="ts">
	/** One tool in the tray: a small drawing, its word, its key under it; says why it cannot be used. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { keyName, type Command } from '$lib/stores/commands/commands';
	import ToolDrawing from './ToolDrawing.svelte';

	let { bench, command }: { bench: Bench; command: Command } = $props();
	const why = $derived(command.why(bench));
</script>

<button
	class="tool"
	aria-disabled={why !== undefined}
	aria-description={why ?? command.line}
	onclick={() => useCommand(bench, command)}
	data-command={command.id}
>
	<ToolDrawing name={command.drawing ?? ''} />
	<span class="name">{command.word}</span>
	<kbd>{command.key ? keyName(command.key) : ' '}</kbd>
</button>

<style>
	.tool {
		display: flex;
		flex-direction: column;
		align-items: center;
		min-width: 64px;
		max-width: 92px;
		min-height: 68px;
		padding: 3px 5px 2px;
		background: none;
		border: 0;
		border-radius: 4px;
		color: var(--ink);
		font: inherit;
		line-height: 1.15;
		cursor: pointer;
	}
	.name {
		font-size: var(--type-small);
		font-weight: 600;
		white-space: nowrap;
	}
	.tool:hover {
		background: var(--wash);
	}
	.tool[aria-disabled='true'] {
		opacity: 0.5;
	}
	kbd {
		font: inherit;
		font-size: var(--type-least);
		color: var(--soft);
		white-space: nowrap;
	}
</style>

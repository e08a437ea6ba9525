<script lang="ts">
	/** One tool in the tray: a small drawing, its word, its key under it; says why it cannot be used. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import type { Command } from '$lib/stores/commands/commands';
	import { keyName, keys } from '$lib/stores/keys.svelte';

	let { bench, command }: { bench: Bench; command: Command } = $props();
	/** The drawings come after what is needed to work; their room is there at once. */
	const drawn = import('./ToolDrawing.svelte');
	const why = $derived(command.why(bench));
	const key = $derived(keys.of(command));
</script>

<button
	class="tool"
	aria-disabled={why !== undefined}
	aria-description={why ?? command.line}
	onclick={() => useCommand(bench, command)}
	data-command={command.id}
>
	<span class="drawing"
		>{#await drawn then { default: ToolDrawing }}<ToolDrawing name={command.drawing ?? ''} />{/await}</span
	>
	<span class="name">{command.word}</span>
	<kbd>{key ? keyName(key) : ' '}</kbd>
</button>

<style>
	.tool {
		display: flex;
		flex-direction: column;
		align-items: center;
		min-width: 64px;
		max-width: 112px;
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
	.drawing {
		width: 40px;
		height: 32px;
	}
	.name {
		font-size: var(--type-small);
		font-weight: 600;
		text-align: center;
		overflow-wrap: anywhere;
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

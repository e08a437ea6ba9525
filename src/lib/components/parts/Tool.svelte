<script lang="ts">
	/** One tool in the tray: a small drawing, its word, its key; says why it cannot be used. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { keyName, type Command } from '$lib/stores/commands/commands';
	import ToolDrawing from './ToolDrawing.svelte';

	let { bench, command }: { bench: Bench; command: Command } = $props();
	const why = $derived(command.why(bench));
	function use(): void {
		if (why) bench.tell(why);
		else command.run(bench);
	}
</script>

<button
	class="tool"
	aria-disabled={why !== undefined}
	title={why ?? command.line}
	onclick={use}
	data-command={command.id}
>
	<ToolDrawing name={command.drawing ?? ''} />
	<span>{command.word}</span>
	{#if command.key}<kbd>{keyName(command.key)}</kbd>{/if}
</button>

<style>
	.tool {
		position: relative;
		display: flex;
		flex-direction: column;
		align-items: center;
		gap: 1px;
		min-width: 74px;
		padding: 6px 8px 5px;
		background: none;
		border: 0;
		border-radius: 4px;
		color: var(--ink);
		font: inherit;
		font-size: 14px;
		font-weight: 600;
		cursor: pointer;
	}
	.tool:hover {
		background: var(--wash);
	}
	.tool[aria-disabled='true'] {
		opacity: 0.42;
	}
	kbd {
		position: absolute;
		top: 3px;
		right: 5px;
		font: inherit;
		font-size: 11px;
		font-weight: 400;
		color: var(--soft);
	}
</style>

<script lang="ts">
	/** The help of one operation: what it is for, before and after, mistakes people make. */
	import { OPERATION_HELP } from '$lib/stores/help/sheets';
	import ToolDrawing from '../parts/ToolDrawing.svelte';

	let { kind }: { kind: string } = $props();
	const help = $derived(OPERATION_HELP[kind]);
</script>

{#if help}
	<div data-testid="operation-help">
		<p class="what"><ToolDrawing name={help.drawing} /> {help.purpose}</p>
		<p><b>Before</b> {help.before}</p>
		<p><b>After</b> {help.after}</p>
		<p><b>{help.mistakes.length === 1 ? 'A mistake' : 'Mistakes'} people make</b></p>
		<ul>
			{#each help.mistakes as mistake (mistake)}<li>{mistake}</li>{/each}
		</ul>
	</div>
{/if}

<style>
	p {
		margin: 6px 0 0;
		font-size: var(--type-small);
	}
	.what {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 10px;
		align-items: center;
	}
	ul {
		margin: 2px 0 4px;
		padding-left: 18px;
		font-size: var(--type-small);
	}
</style>

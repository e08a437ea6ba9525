<script lang="ts">
	/** What is left of trimmed lines. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { TrimOperation } from '$lib/stores/operations/trim-operation.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: TrimOperation } = $props();
</script>

<div class="rows">
	<OperationStrip {bench} keepWord="Keep what is left">
		{#snippet facts()}
			<span
				><b data-fact="taken">{operation.taken}</b>
				{operation.taken === 1 ? 'stretch goes' : 'stretches go'}, each as far as the next crossing</span
			>
			{#if operation.taken}
				<span
					><b data-fact="outlines">{operation.preview.length}</b>
					{operation.preview.length === 1 ? 'part stays' : 'parts stay'}</span
				>
				<button
					class="word"
					onclick={() => operation.back()}
					aria-description="The last stretch stays after all."
					data-act="trim-back">the last one back</button
				>
			{/if}
		{/snippet}
	</OperationStrip>
</div>

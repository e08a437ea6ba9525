<script lang="ts">
	/** What is left of a trimmed line. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { TrimOperation } from '$lib/stores/operations/trim-operation.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: TrimOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<p class="quiet">The picked stretch goes, as far as the next outline that crosses it on either side.</p>
	</div>
	<OperationStrip {bench} keepWord="Keep what is left">
		{#snippet facts()}
			<span
				><b data-fact="outlines">{operation.preview.length}</b>
				{operation.preview.length === 1 ? 'part stays' : 'parts stay'}</span
			>
		{/snippet}
	</OperationStrip>
</div>

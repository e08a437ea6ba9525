<script lang="ts">
	import { page } from '$app/state';
	import BenchView from '$lib/components/bench/BenchView.svelte';
	import { Bench } from '$lib/stores/bench.svelte';

	const opening = $derived(Bench.open(page.params.id ?? ''));
</script>

{#await opening}
	<p class="wait">Opening …</p>
{:then bench}
	{#if bench}
		{#key bench}<BenchView {bench} />{/key}
	{:else}
		<p class="wait">There is no such drawing in this browser. <a class="word" href="/">All drawings</a></p>
	{/if}
{:catch}
	<p class="wait">
		This drawing could not be read from the browser's storage. <a class="word" href="/">All drawings</a>
	</p>
{/await}

<style>
	.wait {
		padding: 40px;
	}
</style>

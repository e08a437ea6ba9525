<script lang="ts">
	import { onNavigate } from '$app/navigation';
	import { page } from '$app/state';
	import BenchView from '$lib/components/bench/BenchView.svelte';
	import { Bench } from '$lib/stores/bench.svelte';

	const opening = $derived(Bench.open(page.params.id ?? ''));
	/** ms that another page waits at most for what is still to be written. */
	const MOST_WAITED = 3000;

	// Whatever leads to another page, the line in hand is finished and written first.
	onNavigate(async () => {
		const bench = await opening.catch(() => undefined);
		if (!bench) return;
		bench.pen?.finish();
		if (bench.saving)
			await Promise.race([bench.saved(), new Promise((resolve) => setTimeout(resolve, MOST_WAITED))]);
	});
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

<script lang="ts">
	/** A file on its way in, with a stop; then what of it was left out, and what its numbers are. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { FILE_UNITS, type FileUnit } from '$lib/stores/files/opening.svelte';
	import Choice from '../parts/Choice.svelte';

	let { bench }: { bench: Bench } = $props();
	const { opening } = $derived(bench);
	const opened = $derived(opening.opened);
</script>

{#if opening.reading}
	<div class="slip opening" role="status" data-testid="opening">
		Reading {opening.reading.name}
		<progress max="1" value={opening.reading.share}></progress>
		<button class="word" onclick={() => opening.stop()} data-act="stop-opening">stop</button>
	</div>
{:else if opened}
	<section class="slip opening" aria-label="What came of the file" data-testid="opened">
		<p><b>{opened.name}</b>: {opened.outlines} {opened.outlines === 1 ? 'outline' : 'outlines'}.</p>
		{#if opened.unit}
			<p class="quiet">It says no unit. Its numbers are</p>
			<Choice
				label="Its numbers are"
				says="The unit that the numbers of the file are taken for."
				value={opened.unit}
				items={FILE_UNITS}
				onpick={(unit) => opening.takeAs(unit as FileUnit)}
			/>
		{/if}
		<ul>
			{#each opened.warnings as warning (warning)}<li>{warning}</li>{/each}
		</ul>
		{#if opened.bands.length}
			<button class="word" onclick={() => opening.takeBands()} data-act="take-bands"
				>{opened.bands.length === 1
					? 'Give the wide line its width'
					: `Give ${opened.bands.length} wide lines their width`}</button
			>
		{/if}
		<button class="word" onclick={() => (opening.opened = undefined)} data-act="opened-seen">Leave</button>
	</section>
{/if}

<style>
	.opening {
		position: absolute;
		left: 30px;
		top: 76px;
		max-width: 330px;
		max-height: 40vh;
		overflow: auto;
		padding: 8px 14px;
		font-size: 14px;
	}
	p {
		margin: 0 0 4px;
	}
	ul {
		margin: 4px 0;
		padding-left: 16px;
	}
	progress {
		width: 90px;
		accent-color: var(--rust);
	}
</style>

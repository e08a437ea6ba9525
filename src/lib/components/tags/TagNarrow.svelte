<script lang="ts">
	/** The narrowest neck and gap of what is picked; a press goes there. Found behind the work, and shown once it is known. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Narrow, NarrowPlaces } from '$lib/core/check/narrow';
	import type { Path } from '$lib/core/geometry/path';
	import { formatLength } from '$lib/core/units';
	import { askAtRest } from '../parts/later';

	let { bench, paths }: { bench: Bench; paths: readonly Path[] } = $props();
	let found = $state.raw<NarrowPlaces | undefined>();

	$effect(() => {
		const asked = paths.filter((path) => path.closed);
		found = undefined;
		if (asked.length === 0) return;
		return askAtRest('narrow', [asked], (places) => (found = places));
	});

	function look({ from, to, width }: Narrow): void {
		const middle = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
		bench.sight.lookAt(middle);
		bench.looking.place = { ...middle, radius: width / 2, along: 0 };
	}
</script>

{#snippet place(word: string, says: string, narrow: Narrow | undefined)}
	{#if narrow}
		<button
			class="word"
			data-fact={word}
			aria-label="{word} {formatLength(narrow.width, bench.unit)}"
			aria-description={says}
			onclick={() => look(narrow)}>{formatLength(narrow.width, bench.unit)}</button
		>
	{/if}
{/snippet}

{#if found?.neck || found?.gap}
	<dt>{[found.neck && 'neck', found.gap && 'gap'].filter(Boolean).join(', ')}</dt>
	<dd>
		{@render place('neck', 'The narrowest place of the material; a press goes there.', found.neck)}
		{@render place(
			'gap',
			'The narrowest place between lines, where a tool must get through; a press goes there.',
			found.gap
		)}
	</dd>
{/if}

<style>
	dd .word {
		padding: 0 6px 0 0;
		min-height: 0;
		height: auto;
		font-weight: 400;
	}
</style>

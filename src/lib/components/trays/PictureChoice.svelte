<script lang="ts">
	/** Which of several pictures is meant. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import Choice from '../parts/Choice.svelte';

	let { bench, says }: { bench: Bench; says: string } = $props();
</script>

<Choice
	label="Which picture"
	{says}
	value={bench.pictures.shownReference?.id ?? ''}
	items={bench.references.map((r) => ({ value: r.id, word: r.name }))}
	onpick={(id) => (bench.pictures.shownId = id)}
/>

<script lang="ts">
	/** The finder's field while the finder itself is still being fetched: what is typed meanwhile is not lost. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { TypedEarly } from './typed-early';

	let { bench, early }: { bench: Bench; early: TypedEarly } = $props();
</script>

<input
	class="slip field"
	aria-label="Type what you want"
	readonly={early.isTaken}
	value={early.text}
	oninput={(e) => (early.text = e.currentTarget.value)}
	onkeydown={(e) => {
		e.stopPropagation();
		if (e.key === 'Escape') {
			early.text = '';
			bench.finding = false;
		}
		if (e.key === 'Enter') early.isTaken = true;
	}}
	{@attach (field) => field.focus()}
/>

<style>
	/* As wide as the finder, so that nothing jumps when it comes. */
	input {
		width: min(640px, calc(100vw - 24px));
		padding: 6px 10px;
		font-size: var(--type-large);
	}
</style>

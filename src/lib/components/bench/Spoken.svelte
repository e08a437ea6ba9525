<script lang="ts">
	/** Changes of the drawing as they are spoken: what is picked and where it went, which fault comes next, which step was made. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { faultWords, pickedWords } from '$lib/stores/said/spoken';

	let { bench }: { bench: Bench } = $props();
	// While something is dragged nothing is said: it would never end.
	const picked = $derived(bench.draft || bench.carried ? undefined : pickedWords(bench));
	const fault = $derived(faultWords(bench));
	let last = $state('');
	$effect(() => {
		if (picked !== undefined) last = picked;
	});
	let step = $state('');
	let before = -1;
	$effect(() => {
		const { pointer } = bench;
		if (before >= 0 && pointer !== before)
			step =
				pointer > before ? `${bench.stepNames[pointer - 1]}.` : `Taken back: ${bench.stepNames[pointer]}.`;
		before = pointer;
	});
</script>

<div class="hidden-word" aria-live="polite" data-fact="spoken">
	<p>{step}</p>
	<p>{last}</p>
	<p>{fault}</p>
</div>

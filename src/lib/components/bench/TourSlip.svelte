<script lang="ts">
	/** The step of the tour, in a corner; what is pressed next is marked on the bench. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { tour, TOUR } from '$lib/stores/help/tour.svelte';

	let { bench }: { bench: Bench } = $props();
	$effect(() => tour.look(bench));
	const step = $derived(tour.at === undefined ? undefined : TOUR[tour.at]);
	// A stitch round what is pressed next.
	$effect(() => {
		const { where } = step ?? {};
		if (!where) return;
		const mark = () => document.querySelector(where)?.classList.add('toured');
		mark();
		// What is not there yet comes with its tray.
		const watcher = new MutationObserver(mark);
		watcher.observe(document.body, { childList: true, subtree: true });
		return () => {
			watcher.disconnect();
			document.querySelectorAll('.toured').forEach((e) => e.classList.remove('toured'));
		};
	});
</script>

{#if step && tour.at !== undefined}
	<aside class="slip" aria-label="Tour" data-testid="tour" data-paper>
		<p role="status"><b>{tour.at + 1} of {TOUR.length}</b> {step.say}</p>
		<p class="acts">
			<button class="word" disabled={tour.at === 0} onclick={() => tour.go(-1)}>before</button>
			<button
				class="word"
				disabled={tour.at === TOUR.length - 1}
				onclick={() => tour.go(1)}
				data-act="tour-next">next</button
			>
			<button class="word" onclick={() => tour.leave()} data-act="leave-tour">Leave the tour</button>
		</p>
	</aside>
{/if}

<style>
	aside {
		position: absolute;
		top: 74px;
		left: 30px;
		width: min(300px, calc(100vw - 40px));
		padding: 8px 14px;
		z-index: 6;
	}
	p {
		margin: 0;
	}
	.acts {
		margin-top: 6px;
		display: flex;
		gap: 10px;
	}
	.acts .word {
		font-weight: 400;
		padding-left: 0;
	}
	@media (max-width: 720px) {
		aside {
			top: 108px;
			left: 20px;
		}
	}
	:global(.toured) {
		outline: 2px dashed var(--madder);
		outline-offset: 2px;
	}
</style>

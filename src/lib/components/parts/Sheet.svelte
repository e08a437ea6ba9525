<script lang="ts">
	/** A sheet that lies over everything until it is left. */
	import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Snippet } from 'svelte';
	import type { Bench } from '$lib/stores/bench.svelte';

	let { bench, title, line, children }: { bench: Bench; title: string; line: string; children: Snippet } =
		$props();
</script>

<Dialog open={true} onOpenChange={(d) => !d.open && bench.leaveSheet()}>
	<Portal>
		<Dialog.Backdrop class="dim" />
		<Dialog.Positioner class="middle">
			<Dialog.Content class="slip sheet">
				<Dialog.Title class="sheet-title">{title}</Dialog.Title>
				<Dialog.Description class="quiet">{line}</Dialog.Description>
				{@render children()}
				<Dialog.CloseTrigger class="word">Leave</Dialog.CloseTrigger>
			</Dialog.Content>
		</Dialog.Positioner>
	</Portal>
</Dialog>

<style>
	:global(.dim) {
		position: fixed;
		inset: 0;
		background: rgb(30 22 10 / 0.4);
		z-index: 50;
	}
	:global(.middle) {
		position: fixed;
		inset: 0;
		z-index: 51;
		display: grid;
		place-items: center;
		padding: 16px;
	}
	:global(.sheet) {
		padding: 18px 24px;
		max-height: 90vh;
		overflow: auto;
		max-width: 1120px;
	}
	:global(.sheet-title) {
		font-size: var(--type-large);
		font-weight: 650;
	}
</style>

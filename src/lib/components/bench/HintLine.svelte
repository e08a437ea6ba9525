<script lang="ts">
	/**
	 * The one line over the thread: what is expected next, what the thing under the pointer does, or what was said just now, with
	 * what is offered. Nothing else on the bench speaks.
	 */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Notice } from '$lib/stores/telling.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import { hintOf } from '$lib/stores/hint';

	let { bench, saying }: { bench: Bench; saying: string | undefined } = $props();
	const notice = $derived(bench.telling.now);
	/** Does what is offered; the sentence goes. */
	function take({ id, act }: Notice): void {
		bench.telling.dismiss(id);
		act?.run();
	}
	const hint = $derived(saying ?? hintOf(bench));
</script>

<div class="line" data-testid="hint-line">
	<div class="notices" role="log" aria-live="polite">
		{#if notice}
			<p class="slip {notice.tone}" data-testid="notice">
				<span>{notice.sentence}</span>
				{#if notice.act}
					{@const { word } = notice.act}
					<button class="word" data-act={word} onclick={() => take(notice)}>{word}</button>
				{/if}
				<button
					class="word"
					onclick={() => bench.telling.dismiss(notice.id)}
					aria-label="Leave this message"
					data-act="leave-message">Leave</button
				>
			</p>
		{/if}
	</div>
	<p class="hint" role="status" hidden={notice !== undefined}>
		{hint}
		{#if !saying && !bench.operation && !bench.pen}
			<button class="word" onclick={() => useCommand(bench, commandOf('help'))} data-act="help">how?</button>
		{/if}
	</p>
</div>

<style>
	.line {
		/* Always as high: what is longer lies over the tray for a moment, and nothing moves for it. */
		height: 26px;
		position: relative;
		z-index: 3;
		padding: 0 60px 0 20px;
		display: flex;
		align-items: end;
		pointer-events: none;
	}
	p {
		margin: 0;
	}
	.hint {
		padding: 2px 8px;
		border-radius: 3px;
		font-size: var(--type-small);
		color: var(--soft);
		background: color-mix(in srgb, var(--paper) 90%, transparent);
	}
	.hint .word {
		padding: 0 4px;
		font-weight: 400;
		color: inherit;
		pointer-events: auto;
	}
	@media (max-width: 720px) {
		.line {
			height: 44px;
			padding: 0 4px;
		}
		.hint {
			display: -webkit-box;
			-webkit-box-orient: vertical;
			-webkit-line-clamp: 2;
			line-clamp: 2;
			overflow: hidden;
			line-height: 1.25;
		}
		.hint[hidden] {
			display: none;
		}
	}
	.notices p {
		display: flex;
		align-items: baseline;
		gap: 6px;
		padding: 1px 10px;
		max-width: min(1100px, calc(100vw - 90px));
		font-size: var(--type-small);
		pointer-events: auto;
		box-shadow: none;
	}
	.notices .word {
		padding: 2px 4px;
	}
	.notices .trouble {
		border-left: 4px double var(--rust);
	}
</style>

<script lang="ts">
	/** The cuts in their order, the one that is being made marked; dragged, or moved by Alt and the arrows, the order is fixed by hand. */
	import type { CutMade } from '$lib/core/toolpath/plan';

	let {
		cuts,
		now = -1,
		onpick,
		onmove
	}: {
		cuts: readonly CutMade[];
		/** Which is being made. */
		now?: number;
		onpick: (cut: number) => void;
		/** The cut at one place is put before the one at another; nothing where the order cannot be changed here. */
		onmove?: (from: number, before: number) => void;
	} = $props();
	let held = $state<number | undefined>();
	let over = $state<number | undefined>();
	let list = $state<HTMLElement>();

	// The cut under way stays in sight.
	$effect(() => {
		if (now >= 0) list?.children[now]?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
	});
	function keydown(event: KeyboardEvent, i: number): void {
		const by = { ArrowLeft: -1, ArrowRight: 2 }[event.key];
		if (!by || !event.altKey || !onmove) return;
		event.preventDefault();
		event.stopPropagation();
		const before = i + by;
		if (before >= 0 && before <= cuts.length) onmove(i, before);
	}
</script>

<ol class="cuts" bind:this={list} aria-label="Cuts in their order">
	{#each cuts as cut, i (i)}
		<li class:over={over === i && held !== undefined} class:now={i === now}>
			<button
				class="word"
				draggable={onmove !== undefined}
				data-cut={cut.name}
				aria-current={i === now ? 'step' : undefined}
				aria-description={onmove
					? 'Drag it, or Alt and an arrow, to fix the order by hand; a press shows it.'
					: 'A press shows it.'}
				onclick={() => onpick(i)}
				onkeydown={(e) => keydown(e, i)}
				ondragstart={() => (held = i)}
				ondragover={(e) => {
					if (held === undefined) return;
					e.preventDefault();
					over = i;
				}}
				ondrop={(e) => {
					e.preventDefault();
					if (held !== undefined && held !== i) onmove?.(held, held < i ? i + 1 : i);
					held = over = undefined;
				}}
				ondragend={() => (held = over = undefined)}>{i + 1}. {cut.name}</button
			>
		</li>
	{/each}
</ol>

<style>
	.cuts {
		display: flex;
		flex: 1;
		min-width: 0;
		gap: 2px;
		margin: 0;
		padding: 0;
		list-style: none;
		overflow-x: auto;
		scrollbar-width: thin;
	}
	li {
		flex: none;
		border-left: 3px solid transparent;
	}
	li.over {
		border-left-color: var(--madder);
	}
	button {
		font-weight: 400;
		padding: 0 6px;
	}
	.now button {
		font-weight: 650;
		color: var(--madder);
	}
</style>

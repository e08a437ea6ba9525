<script lang="ts">
	/** Anything by a word: commands, stations, files, units, settings, help. */
	import { Combobox, useListCollection } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { commandOf, type Command } from '$lib/stores/commands/commands';
	import { keyName, keys } from '$lib/stores/keys.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { findCommands, nearestOf } from '$lib/stores/commands/finding';
	import { onMount } from 'svelte';
	import type { TypedEarly } from './typed-early';

	let { bench, early }: { bench: Bench; early: TypedEarly } = $props();
	const MOST = 5;
	let text = $state(takeEarly());
	/** What was typed; what is not here is followed by what comes nearest. */
	const found = $derived.by((): readonly Command[] => {
		const list = findCommands(text).slice(0, MOST);
		const near = list.length && list[0].nearest ? nearestOf(list[0]) : [];
		return [...new Set([...list.slice(0, 1), ...near, ...list.slice(1)])].slice(0, MOST);
	});
	const collection = $derived(
		useListCollection({
			items: [...found],
			itemToString: (c) => c.word,
			itemToValue: (c) => c.id
		})
	);
	/** The one that Enter takes: the best, until another is pointed at. */
	let at = $derived<string | null>(found[0]?.id ?? null);

	function use(id: string | undefined): void {
		if (id === undefined) return;
		bench.finding = false;
		useCommand(bench, commandOf(id));
	}
	function goOnTyping(field: HTMLElement): void {
		field.focus();
		(field as HTMLInputElement).setSelectionRange(text.length, text.length);
	}
	function takeEarly(): string {
		const { text } = early;
		early.text = '';
		return text;
	}
	onMount(() => {
		if (early.isTaken) use(found[0]?.id);
		early.isTaken = false;
	});
</script>

<section class="finder slip" aria-label="Find anything" data-paper>
	<Combobox
		{collection}
		inputValue={text}
		open={true}
		highlightedValue={at}
		onHighlightChange={(d) => (at = d.highlightedValue)}
		onInputValueChange={(d) => (text = d.inputValue)}
		onOpenChange={(d) => {
			if (d.reason === 'escape-key') bench.finding = false;
		}}
		onValueChange={(d) => use(d.value[0])}
		selectionBehavior="preserve"
		allowCustomValue
		loopFocus={false}
	>
		<Combobox.Control>
			<Combobox.Input
				class="field"
				placeholder="Type what you want: fewer points, close the gap, cut out, inches …"
				aria-label="Type what you want"
				data-field="find"
				{@attach goOnTyping}
				onkeydown={(e: KeyboardEvent) => {
					e.stopPropagation();
					if (e.key === 'Escape') bench.finding = false;
					if (e.key === 'Enter') {
						e.preventDefault();
						use(at ?? found[0]?.id);
					}
				}}
			/>
			<button
				class="word"
				onclick={() => (bench.finding = false)}
				aria-description="Puts the finder away (Esc)."
				data-act="leave-finder">Leave</button
			>
		</Combobox.Control>
		<Combobox.Content>
			{#each found as command (command.id)}
				{@const why = command.why(bench)}
				{@const key = keys.of(command)}
				<Combobox.Item item={command} class={why === undefined ? 'hit' : 'hit off'} data-found={command.id}>
					<Combobox.ItemText><b>{command.word}</b></Combobox.ItemText>
					<span>{why ?? command.line}</span>
					{#if key}<kbd>{keyName(key)}</kbd>{/if}
				</Combobox.Item>
			{:else}
				<li class="quiet nothing">
					{text.trim()
						? 'Nothing by that word. Try another one, or a shorter one.'
						: 'Every tool, station, file, unit, setting and page of help has its word here.'}
				</li>
			{/each}
		</Combobox.Content>
	</Combobox>
</section>

<style>
	.finder {
		width: min(640px, calc(100vw - 24px));
		padding: 6px 10px;
		pointer-events: auto;
	}
	.finder :global([data-scope='combobox'][data-part='control']) {
		display: flex;
		gap: 8px;
		align-items: baseline;
	}
	.finder :global(.field) {
		flex: 1;
		font-size: var(--type-large);
	}
	.finder :global([data-part='content']) {
		list-style: none;
		margin: 4px 0 0;
		padding: 0;
		background: none;
		border: 0;
		box-shadow: none;
		max-height: none;
	}
	.finder :global(.hit) {
		display: flex;
		gap: 10px;
		align-items: baseline;
		min-height: 30px;
		padding: 3px 6px;
		border-radius: 3px;
		cursor: pointer;
		line-height: 1.2;
	}
	.finder :global(.hit b) {
		white-space: nowrap;
	}
	.finder :global(.hit span:not([data-part])) {
		flex: 1;
		color: var(--soft);
		font-size: var(--type-small);
	}
	.finder :global(.hit[data-highlighted]) {
		background: var(--wash);
	}
	.finder :global(.off b) {
		color: var(--soft);
	}
	.nothing {
		padding: 4px 6px;
	}
	kbd {
		font: inherit;
		color: var(--soft);
		white-space: nowrap;
	}
</style>

<script lang="ts">
	/** On the tag: the group, the repeat or the half that is selected, its name, and what can be done with it. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { makePlain } from '$lib/core/document/edits/made';
	import { membersOf } from '$lib/core/document/groups';
	import { repeatFacts } from '$lib/core/document/repeats';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import { editApart, fillAgain, makeRepeatsPlain, pressedCopy, selectedRepeat } from '$lib/stores/repeating';
	import NameField from '../parts/NameField.svelte';

	let { bench }: { bench: Bench } = $props();
	const group = $derived(
		bench.selection.units === 1 && bench.selection.selectedGroups.length === 1
			? bench.selection.selectedGroups[0]
			: undefined
	);
	const repeat = $derived(group ? undefined : selectedRepeat(bench));
	const half = $derived.by(() => {
		const { enteredOutline, selectedOutlines } = bench.selection;
		const one = enteredOutline ?? (selectedOutlines.length === 1 ? selectedOutlines[0] : undefined);
		return one?.half ? one : undefined;
	});
	const pressed = $derived(pressedCopy(bench));
	const empty = $derived(repeat?.without?.length ?? 0);
</script>

{#if group}
	<div class="part" data-testid="group">
		<NameField
			class="name"
			value={group.name}
			label="Name of the group"
			onname={(name) => name && bench.commit('Rename the group', { put: [{ ...group, name }] })}
		/>
		<span class="quiet">group of {membersOf(bench.drawing, group.id).length}</span>
		<button class="word" data-act="enter-group" onclick={() => bench.enterGroup(group.id)}>go into it</button>
	</div>
{:else if repeat}
	{@const { total } = repeatFacts(bench.drawing, repeat)}
	<div class="part" data-testid="repeat">
		<NameField
			class="name"
			value={repeat.name}
			label="Name of the repeat"
			onname={(name) => name && bench.commit('Rename the repeat', { put: [{ ...repeat, name }] })}
		/>
		<span class="quiet" data-fact="copies"
			>{total - empty} with the first{empty ? `, ${empty} left out` : ''}</span
		>
		<button class="word" data-act="change-repeat" onclick={() => useCommand(bench, commandOf('repeat'))}
			>change it</button
		>
		{#if pressed}<button class="word" data-act="edit-apart" onclick={() => editApart(bench)}
				>edit this one apart</button
			>{/if}
		{#if empty}<button class="word" data-act="fill-again" onclick={() => fillAgain(bench, repeat)}
				>fill empty places</button
			>{/if}
		<button class="word" data-act="repeat-plain" onclick={() => makeRepeatsPlain(bench)}>make plain</button>
	</div>
{:else if half}
	<div class="part" data-testid="half">
		<span class="quiet">half and mirror image</span>
		<button class="word" data-act="move-axis" onclick={() => useCommand(bench, commandOf('symmetry'))}
			>move the axis</button
		>
		<button
			class="word"
			data-act="half-plain"
			onclick={() => bench.commit('Make plain', makePlain(bench.drawing, [half]))}>make plain</button
		>
	</div>
{/if}

<style>
	.part {
		display: flex;
		flex-wrap: wrap;
		gap: 0 10px;
		max-width: 200px;
		align-items: baseline;
	}
	.word {
		padding: 0;
	}
</style>

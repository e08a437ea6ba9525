<script lang="ts">
	/** On the tag: what is held of what is picked, its values, the way to loosen it; what more can be held. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { HOLD_KINDS, HOLD_SHAPES } from '$lib/core/document/holds/hold';
	import { recordsOf } from '$lib/core/document/drawing';
	import { heldFast, redundantHolds } from '$lib/core/document/holds/keep';
	import { placesFor } from '$lib/core/document/holds/offers';
	import { HOLD_WORDS } from '$lib/stores/commands/hold-words';
	import { addHold, holdNearly, loosen, setHoldValue } from '$lib/stores/holding';
	import { holdsHere, pickedOf } from '$lib/stores/holds-here';

	let { bench }: { bench: Bench } = $props();
	const holds = $derived(holdsHere(bench));
	const picked = $derived(pickedOf(bench));
	const can = $derived(
		!bench.offersHolds || bench.draft || (picked.anchors.length === 0 && picked.segments.length === 0)
			? []
			: HOLD_KINDS.filter(
					(kind) => !holds.some((hold) => hold.kind === kind) && typeof placesFor(kind, picked) !== 'string'
				)
	);
	/** What follows from other holds, and what none lets move: told once the hand rests. */
	const told = $derived.by(() => {
		const ids = new Set(bench.selection.enteredIds);
		if (bench.draft || recordsOf(bench.drawing, 'hold').length === 0) return undefined;
		return { needless: new Set(redundantHolds(bench.drawing, ids)), fast: heldFast(bench.drawing, ids) };
	});
	$effect(() => {
		if (!bench.draft) bench.heldFast = told?.fast ?? [];
		return () => (bench.heldFast = []);
	});
	const trouble = $derived(
		(bench.holdTrouble?.holds ?? []).flatMap((id) => {
			const hold = bench.drawing.records.get(id);
			const isWanted = bench.holdTrouble?.edit.put?.some((record) => record.id === id);
			return hold?.type === 'hold' && !isWanted ? [hold] : [];
		})
	);
	const short = (word: string) => word.replace(/^Hold (the |in the |on the |at a |in )?/, '').toLowerCase();
	const unitOf = { length: 'mm', angle: '°', share: '' } as const;
</script>

{#if can.length || holds.length || trouble.length}
	<div class="part" data-testid="holds">
		{#if trouble.length}
			<p class="trouble" role="status">
				Loosen one of these to have the new hold:
				{#each trouble as hold (hold.id)}
					<button class="word" data-act="loosen-{hold.kind}" onclick={() => void loosen(bench, [hold.id])}
						>{short(HOLD_WORDS[hold.kind].word)}{hold.value === undefined ? '' : ` ${hold.value}`}</button
					>
				{/each}
				<button class="word" onclick={() => (bench.holdTrouble = undefined)}>leave it</button>
			</p>
		{/if}
		{#each holds as hold (hold.id)}
			{@const value = HOLD_SHAPES[hold.kind].value}
			<span class="hold" data-hold={hold.kind}>
				<b>{short(HOLD_WORDS[hold.kind].word)}</b>
				{#if value}
					<input
						aria-label="Held {short(HOLD_WORDS[hold.kind].word)}"
						aria-description="A number, or a formula with named sizes: hip / 4 + 5 mm."
						value={hold.value}
						spellcheck="false"
						autocomplete="off"
						onchange={(e) => {
							const field = e.currentTarget;
							void setHoldValue(bench, hold, field.value).then((kept) => {
								if (!kept) field.value = hold.value ?? '';
							});
						}}
					/>{unitOf[value]}
				{/if}
				{#if told?.needless.has(hold.id)}<span class="quiet" data-fact="needless"
						>follows from the others</span
					>{/if}
				<button class="word" data-act="loosen" onclick={() => void loosen(bench, [hold.id])}>loosen</button>
			</span>
		{/each}
		{#if can.length}
			<span class="kinds" role="group" aria-label="Hold">
				<span class="quiet">hold</span>
				{#each can as kind (kind)}
					<button
						class="word"
						data-hold-as={kind}
						aria-description={HOLD_WORDS[kind].line}
						onclick={() => void addHold(bench, kind)}>{short(HOLD_WORDS[kind].word)}</button
					>
				{/each}
				<button
					class="word"
					data-act="hold-nearly"
					aria-description="All that is nearly level, plumb or equally long here is held so."
					onclick={() => void holdNearly(bench)}>what is nearly so</button
				>
			</span>
		{/if}
	</div>
{/if}

<style>
	.hold {
		display: flex;
		gap: 6px;
		align-items: baseline;
	}
	input {
		width: 9em;
		padding: 1px 4px;
		border: 0;
		border-bottom: 1px solid var(--madder);
		background: none;
		color: inherit;
		font: inherit;
	}
	.trouble {
		margin: 2px 0;
		color: var(--rust);
	}
	.kinds {
		display: flex;
		flex-wrap: wrap;
		gap: 0 8px;
		max-width: 280px;
	}
</style>

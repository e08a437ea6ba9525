<script lang="ts">
	/** Two states of the drawing: which, and all that differs, in words; a press brings it into sight. */
	import { differenceWords } from '$lib/stores/versions/difference-words';
	import { NOW, type CompareOperation } from '$lib/stores/versions/compare-operation.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { ago } from '$lib/stores/said/dates';
	import { isEmptyBox } from '$lib/core/geometry/measure';
	import Pick from '../parts/Pick.svelte';

	let { bench, operation }: { bench: Bench; operation: CompareOperation } = $props();
	const items = $derived([
		{ value: NOW, word: 'as it is now' },
		...operation.versions.map((v) => ({ value: v.id, word: `${v.word}, ${ago(v.at)}` }))
	]);
	/** Rows that are shown at most. */
	const MOST = 200;
	const { differences } = $derived(operation);
	const count = (how: string) => differences.filter((d) => d.how === how).length;
	const sum = $derived(
		[
			[count('came'), 'came'],
			[count('went'), 'went'],
			[count('moved') + count('carried'), 'moved'],
			[count('said'), 'otherwise changed']
		]
			.filter(([n]) => n)
			.map(([n, word]) => `${n} ${word}`)
			.join(', ')
	);
</script>

<div class="rows">
	<div class="row">
		<Pick
			label="From"
			says="The earlier of the two states."
			name="earlier"
			value={operation.earlier}
			items={items.slice(1)}
			onpick={(earlier) => operation.set({ earlier })}
		/>
		<Pick
			label="to"
			says="The later of the two states."
			name="later"
			value={operation.later}
			{items}
			onpick={(later) => operation.set({ later })}
		/>
		<b data-fact="differences" role="status">{operation.busy ? '…' : sum || 'nothing differs'}</b>
		<span class="end">
			<button class="word" onclick={() => void operation.goBack()} data-act="go-back"
				>go back to the first</button
			>
			<button class="word strong" onclick={() => bench.dropOperation()} data-act="drop">Leave</button>
		</span>
	</div>
	{#if differences.length}
		<ul aria-label="What differs">
			{#each differences.slice(0, MOST) as difference, i (i)}
				<li class={difference.how}>
					<button
						class="word"
						onclick={() => {
							const box = operation.boxOf(difference);
							if (!isEmptyBox(box)) bench.sight.bring(box);
						}}>{differenceWords(difference, bench.unit)}</button
					>
				</li>
			{/each}
			{#if differences.length > MOST}<li class="quiet">and {differences.length - MOST} more</li>{/if}
		</ul>
	{/if}
</div>

<style>
	.row {
		flex-wrap: wrap;
	}
	.end {
		margin-left: auto;
		display: flex;
		gap: 10px;
	}
	ul {
		list-style: none;
		margin: 4px 0 0;
		padding: 0;
		max-height: 96px;
		overflow: auto;
		columns: 3 260px;
		column-gap: 20px;
	}
	li .word {
		font-weight: 400;
		padding: 1px 0 1px 22px;
		text-align: left;
	}
	li {
		position: relative;
		break-inside: avoid;
	}
	/* The strokes that they are drawn with. */
	li::before {
		content: '';
		position: absolute;
		left: 0;
		top: 0.7em;
		width: 16px;
		border-top: 2px solid var(--woad);
	}
	li.came::before {
		border-top: 5px double var(--madder);
		top: 0.55em;
	}
	li.went::before {
		border-top: 3px dotted var(--rust);
	}
	li.said::before {
		border-top-width: 0;
	}
</style>

<script lang="ts">
	/** What one looks at lines by: the curvature along the length, the tool, and the line against others. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { COMPARED, type CombMarks, type Compared } from '$lib/stores/looking.svelte';
	import { formatLength } from '$lib/core/units';
	import NumberField from '../parts/NumberField.svelte';

	let { bench }: { bench: Bench } = $props();
	const looking = $derived(bench.looking);
	const most = $derived(looking.most);
	const worst = $derived(looking.worst);
	const WORDS: Record<Compared, string> = {
		nothing: 'nothing',
		first: 'as it first was',
		ghost: 'its ghost',
		picture: 'the picture'
	};
	const MARKS: { mark: keyof CombMarks; word: string; says: string }[] = [
		{ mark: 'inflections', word: 'inflections', says: 'Where the line bends over to the other side.' },
		{ mark: 'steps', word: 'jumps', says: 'Where the bend jumps: only the directions meet.' },
		{ mark: 'tightest', word: 'tightest', says: 'The place with the smallest radius, and its value.' }
	];
</script>

<div class="rows" role="group" aria-label="Looking closely">
	<div class="row">
		<button
			class="word"
			aria-pressed={looking.combed}
			onclick={() => (looking.combed = !looking.combed)}
			aria-description="Teeth beside the line, as long as it bends (Shift + V).">comb</button
		>
		{#each MARKS as { mark, word, says } (mark)}
			<button
				class="word"
				aria-pressed={looking.marks[mark]}
				data-mark={mark}
				aria-description={says}
				onclick={() => looking.mark(mark)}>{word}</button
			>
		{/each}
		<button
			class="word"
			aria-pressed={looking.whileDragging}
			aria-description="Whether the comb shows only while something is dragged."
			onclick={() => (looking.whileDragging = !looking.whileDragging)}
			>{looking.whileDragging ? 'only while dragging' : 'always'}</button
		>
		<button
			class="word"
			aria-pressed={looking.polygon}
			onclick={() => (looking.polygon = !looking.polygon)}
			aria-description="All handles as one polygon; pull its beads (Shift + A).">polygon</button
		>
		<NumberField
			label="Tool radius"
			says="Places tighter than this radius are marked."
			unit={bench.unit}
			value={looking.toolRadius}
			width={9}
			least={0.001}
			onset={(v) => looking.setToolRadius(v)}
		/>
		{#if most > 0}<span class="quiet"
				>tightest <b data-fact="tightest">{formatLength(1 / most, bench.unit)}</b></span
			>{/if}
		{#if looking.toolRadius !== undefined && looking.combs.length}
			{#if looking.tight.length}<button class="word tight" onclick={() => looking.nextTight()}
					><b data-fact="tight">{looking.tight.length}</b> too tight for it</button
				>{:else}<span class="quiet">the tool gets in everywhere</span>{/if}
		{/if}
	</div>
	<div class="row" role="group" aria-label="Compare with">
		<span class="quiet">Against</span>
		{#each COMPARED as compared (compared)}
			<button
				class="word"
				aria-pressed={looking.compared === compared}
				data-compare={compared}
				aria-description="Shows how far the line lies off from {WORDS[compared]}."
				onclick={() => looking.compare(compared)}>{WORDS[compared]}</button
			>
		{/each}
		{#if looking.why}<span class="quiet" role="status">{looking.why}</span>
		{:else if worst}<span class="off"
				>at most <b data-fact="off">{formatLength(Math.abs(worst.off), bench.unit)}</b> off
				<button
					class="word"
					onclick={() => bench.seeWorst()}
					aria-description="Goes to where it lies farthest off (Shift + X).">see the worst</button
				></span
			>{/if}
		<button
			class="word away"
			onclick={() => looking.toggle()}
			aria-description="Puts all that was shown away (Shift + G, or Esc)."
			data-act="leave-look">Leave</button
		>
	</div>
	{#if looking.charted}
		{#await import('./CurvatureChart.svelte') then { default: CurvatureChart }}
			<CurvatureChart
				comb={looking.charted}
				length={looking.chartedLength}
				toolRadius={looking.toolRadius}
				along={looking.place?.along}
				unit={bench.unit}
				onpoint={(along) => looking.pointAlong(along)}
				onpick={() => looking.place && bench.sight.lookAt(looking.place)}
			/>
		{/await}
	{:else}<p class="quiet">Select an outline to see how it bends along its length.</p>{/if}
</div>

<style>
	.row .word {
		font-weight: 400;
		text-decoration-color: transparent;
	}
	.row .word[aria-pressed='true'] {
		font-weight: 700;
		text-decoration-color: var(--madder);
	}
	.row .tight {
		color: var(--rust);
		text-decoration-color: var(--rust);
	}
	.away {
		margin-left: auto;
	}
	p {
		margin: 0;
	}
</style>

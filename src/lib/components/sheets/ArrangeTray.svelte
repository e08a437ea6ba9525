<script lang="ts">
	/** Pieces laid on the sheet: how far apart, how turned, how long it looks; what of the sheet is used so far. */
	import { formatLength, formatNumber } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { keepOperation } from '$lib/stores/operations/starting';
	import type { ArrangeOperation, Patience, Turning } from '$lib/stores/sheets/arrange-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';

	let { bench, operation }: { bench: Bench; operation: ArrangeOperation } = $props();
	const TURNINGS = [
		{ value: 'none', word: 'As it lies', says: 'Pieces are not turned: the grain stays.' },
		{ value: '180', word: 'Half turns', says: 'With the grain or against it.' },
		{ value: '90', word: 'Quarter turns', says: 'Turned by right angles.' },
		{ value: 'free', word: 'Any way', says: 'Turned by any angle: least waste.' }
	];
	const PATIENCE = [
		{ value: 'short', word: 'Short' },
		{ value: 'usual', word: 'Usual' },
		{ value: 'long', word: 'Long' }
	];
	const best = $derived(operation.best);
	const length = $derived(Math.max(0, ...(best?.used ?? [0])));
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Gap"
			says="How much stays free between pieces; the margin of the sheet stays free too."
			unit={bench.unit}
			value={operation.gap}
			least={0}
			most={200}
			onset={(gap) => operation.set({ gap })}
		/>
		<Choice
			label="How pieces are turned"
			says="How pieces may be turned; they are never mirrored."
			value={operation.turning}
			items={TURNINGS}
			onpick={(turning) => operation.set({ turning: turning as Turning })}
		/>
		<Toggle
			on="In holes too"
			off="Not in holes"
			checked={operation.inHoles}
			says="Whether small pieces may lie in the holes of large ones."
			onset={(inHoles) => operation.set({ inHoles })}
		/>
		<Choice
			label="How long it looks"
			says="How long it looks for a better way; it can be stopped at any time."
			value={operation.patience}
			items={PATIENCE}
			onpick={(patience) => operation.set({ patience: patience as Patience })}
		/>
	</div>
	<div class="row">
		<div class="facts" role="status" data-testid="arrange-facts" data-searching={operation.searching}>
			{#if operation.problem}<span class="trouble">{operation.problem.sentence}</span>
			{:else if best}
				<span><b data-fact="placed">{best.places.length}</b> of {operation.pieces.length} pieces</span>
				<span><b data-fact="usage">{formatNumber(100 * best.usage, 1)}</b> % used</span>
				<span
					><b data-fact="used-length">{formatLength(length, bench.unit)}</b>
					<span class="quiet">of the sheet</span></span
				>
				{#if operation.left.length}
					<span class="trouble" data-fact="left"
						>no room for {operation.left.slice(0, 3).join(', ')}{operation.left.length > 3
							? ` and ${operation.left.length - 3} more`
							: ''}</span
					>
				{/if}
			{:else}<span class="quiet">laying the pieces …</span>{/if}
			{#if operation.searching}
				<progress value={operation.progress} max="1" aria-label="How long it has looked"></progress>
			{/if}
		</div>
		{#if operation.searching}
			<button
				class="word"
				data-act="enough"
				aria-description="Ends the search; the best way so far stays."
				onclick={() => operation.enough()}>Good enough</button
			>
		{:else}
			<button
				class="word"
				data-act="further"
				disabled={!best}
				aria-description="Looks on from here for a better way."
				onclick={() => operation.further()}>Look further</button
			>
		{/if}
		<button
			class="word strong"
			disabled={!operation.ready}
			data-act="keep"
			aria-description="The pieces lie so from now on (Enter); where they came from is kept."
			onclick={() => keepOperation(bench)}>Lay them so</button
		>
		<button
			class="word"
			data-act="leave"
			aria-description="The pieces stay where they were (Esc)."
			onclick={() => bench.dropOperation()}>Leave</button
		>
	</div>
</div>

<style>
	.rows {
		display: grid;
		gap: 4px;
	}
	.facts {
		flex: 1;
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0 14px;
		min-width: 0;
	}
	progress {
		width: 120px;
		height: 6px;
		accent-color: var(--madder);
	}
	.trouble {
		color: var(--rust);
	}
</style>

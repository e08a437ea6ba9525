<script lang="ts">
	/** What of the chosen outlines stays, and what becomes of the old ones. */
	import Choice from '../parts/Choice.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { CombineOperation } from '$lib/stores/operations/combine-operation.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: CombineOperation } = $props();
	const OPS = [
		{ value: 'union', word: 'All of them' },
		{ value: 'difference', word: 'First less the rest' },
		{ value: 'intersection', word: 'What is common' },
		{ value: 'xor', word: 'What only one covers' },
		{ value: 'regions', word: 'Every region' }
	] as const;
	const FATES = [
		{ value: 'removed', word: 'go' },
		{ value: 'guides', word: 'stay as guides' },
		{ value: 'hidden', word: 'are hidden' },
		{ value: 'kept', word: 'stay' }
	] as const;
</script>

<div class="rows">
	<div class="row">
		<Choice
			label="Keep"
			says="What of the outlines stays."
			value={operation.op}
			items={OPS}
			onpick={(v) => operation.set({ op: v as CombineOperation['op'] })}
		/>
		{#if operation.op === 'difference'}
			<span class="quiet" data-fact="first">"{operation.first}" less the rest</span>
			<button
				class="word"
				onclick={() => operation.swap()}
				data-act="swap-first"
				aria-description="Another piece is the first one (Shift + W).">another first</button
			>
		{/if}
		{#if operation.op === 'regions'}
			<Toggle
				on="one piece where they touch"
				off="each region a piece"
				says="Whether picked regions that touch become one piece."
				act="merged"
				checked={operation.merged}
				onset={(checked) => {
					operation.merged = checked;
					operation.rechoose();
				}}
			/>
		{/if}
		<div class="fate">
			<span class="quiet">the old ones</span>
			<Choice
				label="The old outlines"
				says="What becomes of the outlines it is made of."
				value={operation.fate}
				items={FATES}
				onpick={(v) => {
					operation.fate = v as CombineOperation['fate'];
				}}
			/>
		</div>
	</div>
	<OperationStrip {bench} keepWord="Keep the result">
		{#snippet facts()}
			<span
				><b data-fact="pieces">{operation.pieces.length}</b>
				{operation.pieces.length === 1 ? 'piece' : 'pieces'}</span
			>
			<span
				><b>{operation.anchorsBefore}</b> →
				<b data-fact="anchors">{operation.anchorsAfter}</b> anchors</span
			>
			{#if operation.follows}<span class="quiet">it follows them from now on</span>{/if}
			{#if operation.empty}<span class="quiet">nothing is left of them</span>{/if}
			{#if operation.fallback}<span class="quiet">the careful way had to serve here</span>{/if}
		{/snippet}
	</OperationStrip>
</div>

<style>
	.fate {
		display: flex;
		align-items: center;
		gap: 8px;
	}
</style>

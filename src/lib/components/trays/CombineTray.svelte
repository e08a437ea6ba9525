<script lang="ts">
	/** What of the chosen outlines stays, and what becomes of the old ones. */
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import Choice from '../parts/Choice.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { CombineOperation } from '$lib/stores/operations/combine-operation.svelte';
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
		{ value: 'hidden', word: 'are hidden' },
		{ value: 'kept', word: 'stay' }
	] as const;
</script>

<div class="rows">
	<div class="row">
		<Choice
			label="Keep"
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
				title="Another piece is the first one (Shift+W)">another first</button
			>
		{/if}
		{#if operation.op === 'regions'}
			<Switch
				class="switch"
				checked={operation.merged}
				onCheckedChange={(d) => {
					operation.merged = d.checked;
					operation.rechoose();
				}}
			>
				<Switch.Control><Switch.Thumb /></Switch.Control>
				<Switch.Label>As one piece where they touch</Switch.Label>
				<Switch.HiddenInput />
			</Switch>
		{/if}
		<div class="fate">
			<span class="quiet">the old ones</span>
			<Choice
				label="The old outlines"
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

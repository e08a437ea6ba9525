<script lang="ts">
	/** Settings of combining, joining, trimming and rounding, with what they would give. */
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type {
		CombineOperation,
		CornerOperation,
		JoinOperation,
		TrimOperation
	} from '$lib/stores/operations/build-operations.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let {
		bench,
		operation
	}: { bench: Bench; operation: CombineOperation | JoinOperation | TrimOperation | CornerOperation } =
		$props();
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
	const CORNERS = [
		{ value: 'round', word: 'Rounded' },
		{ value: 'cut', word: 'Cut off' }
	];
	const keepWords = {
		combine: 'Keep the result',
		join: 'Keep them joined',
		trim: 'Keep what is left',
		corner: 'Keep the corners'
	};
</script>

<div class="rows">
	<div class="row">
		{#if operation.kind === 'combine'}
			<Choice
				label="Keep"
				value={operation.op}
				items={OPS}
				onpick={(v) => operation.set({ op: v as CombineOperation['op'] })}
			/>
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
		{:else if operation.kind === 'join'}
			<NumberField
				label="Gap"
				unit={bench.unit}
				value={operation.gap}
				least={0}
				onset={(v) => operation.set({ gap: v })}
			/>
			<Switch
				class="switch"
				checked={operation.bridge}
				onCheckedChange={(d) => operation.set({ bridge: d.checked })}
			>
				<Switch.Control><Switch.Thumb /></Switch.Control>
				<Switch.Label>Bridge with a straight; no end moves</Switch.Label>
				<Switch.HiddenInput />
			</Switch>
		{:else if operation.kind === 'corner'}
			<NumberField
				label={operation.cutOff ? 'Cut off' : 'Radius'}
				unit={bench.unit}
				value={operation.amount}
				least={0}
				onset={(v) => operation.set({ amount: v })}
			/>
			{#if operation.cutOff}
				<NumberField
					label="after it"
					unit={bench.unit}
					value={operation.second ?? operation.amount}
					least={0.001}
					onset={(v) => operation.set({ second: v })}
				/>
			{/if}
			<Choice
				label="Corners"
				value={operation.cutOff ? 'cut' : 'round'}
				items={CORNERS}
				onpick={(v) => operation.set({ cutOff: v === 'cut' })}
			/>
		{:else}
			<p class="quiet">The picked stretch goes, as far as the next outline that crosses it on either side.</p>
		{/if}
	</div>
	<OperationStrip {bench} keepWord={keepWords[operation.kind]}>
		{#snippet facts()}
			{#if operation.kind === 'combine'}
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
			{:else if operation.kind === 'join' && operation.joined}
				<span
					><b data-fact="outlines">{operation.preview.length}</b>
					{operation.preview.length === 1 ? 'line' : 'lines'} from {operation.outlines.length}</span
				>
				<span><b data-fact="unjoined">{operation.joined.unjoined}</b> loose ends left</span>
				<span class="quiet">ends move {operation.joined.drift.toFixed(3)} mm at most</span>
			{:else if operation.kind === 'trim'}
				<span
					><b data-fact="outlines">{operation.preview.length}</b>
					{operation.preview.length === 1 ? 'part stays' : 'parts stay'}</span
				>
			{/if}
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

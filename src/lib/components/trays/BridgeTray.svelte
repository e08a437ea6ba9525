<script lang="ts">
	/** How closely a bridge meets each of its ends, how far it goes on there, and whether all becomes one outline. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { BridgeOperation } from '$lib/stores/operations/bridge-operation.svelte';
	import type { MeetWay } from '$lib/core/fit/meet-ways';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: BridgeOperation } = $props();
	const WAYS: { value: MeetWay; word: string }[] = [
		{ value: 'place', word: 'in place' },
		{ value: 'direction', word: 'in direction' },
		{ value: 'curvature', word: 'in curvature' }
	];
	const changed = <T,>(pair: readonly [T, T], k: number, value: T): [T, T] =>
		k === 0 ? [value, pair[1]] : [pair[0], value];
</script>

<div class="rows">
	<div class="row">
		{#each [0, 1] as k (k)}
			<span class="end" data-end={k + 1}>
				<span class="quiet">Meets {k + 1}</span>
				<Choice
					label="How closely it meets end {k + 1}"
					says="Whether only the places meet, the directions too, or the curvature as well."
					value={operation.ways[k]}
					items={WAYS}
					onpick={(v) => operation.set({ ways: changed(operation.ways, k, v as MeetWay) })}
				/>
				{#if operation.ways[k] !== 'place'}
					<NumberField
						label="Goes on"
						says="How far the bridge goes on in the line's direction there."
						kind="number"
						suffix=" ×"
						value={operation.pulls[k]}
						least={0.05}
						most={10}
						width={6}
						onset={(v) => operation.set({ pulls: changed(operation.pulls, k, v) })}
					/>
				{/if}
			</span>
		{/each}
		<Toggle
			on={operation.closes ? 'it closes the line' : 'one outline afterwards'}
			off="a line by itself, it follows both"
			says="Whether the bridge and what it joins are one outline, or the bridge stays a line of its own."
			act="one-outline"
			checked={operation.isOne}
			onset={(checked) => operation.set({ isOne: checked })}
		/>
	</div>
	<OperationStrip {bench} keepWord="Keep the bridge">
		{#snippet facts()}
			<span>bridge <b data-fact="bridge">{formatLength(operation.length, bench.unit)}</b></span>
			<span class="quiet">no line moves</span>
		{/snippet}
	</OperationStrip>
</div>

<style>
	.end {
		display: inline-flex;
		align-items: center;
		gap: 8px;
	}
</style>

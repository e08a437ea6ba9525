<script lang="ts">
	/** How closely a bridge meets each of its ends, how far it goes on there, and whether all becomes one outline. */
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { BridgeOperation } from '$lib/stores/operations/bridge-operation.svelte';
	import type { MeetWay } from '$lib/core/document/edits/meet';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
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
	{#each [0, 1] as k (k)}
		<div class="row" data-end={k + 1}>
			<span class="quiet">Meets end {k + 1}</span>
			<Choice
				label="How closely it meets end {k + 1}"
				value={operation.ways[k]}
				items={WAYS}
				onpick={(v) => operation.set({ ways: changed(operation.ways, k, v as MeetWay) })}
			/>
			{#if operation.ways[k] !== 'place'}
				<NumberField
					label="Goes on there"
					kind="number"
					suffix=" ×"
					value={operation.pulls[k]}
					least={0.05}
					most={10}
					width={6}
					onset={(v) => operation.set({ pulls: changed(operation.pulls, k, v) })}
				/>
			{/if}
		</div>
	{/each}
	<div class="row">
		<Switch
			class="switch"
			checked={operation.isOne}
			onCheckedChange={(d) => operation.set({ isOne: d.checked })}
		>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label
				>{operation.closes ? 'It closes the line' : 'One outline afterwards'}; else the bridge is a line by
				itself</Switch.Label
			>
			<Switch.HiddenInput />
		</Switch>
	</div>
	<OperationStrip {bench} keepWord="Keep the bridge">
		{#snippet facts()}
			<span>bridge <b data-fact="bridge">{formatLength(operation.length, bench.unit)}</b></span>
			<span class="quiet">no line moves</span>
		{/snippet}
	</OperationStrip>
</div>

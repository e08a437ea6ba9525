<script lang="ts">
	/** How far an open line goes on, at which end, and along what. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { ExtendOperation } from '$lib/stores/operations/extend-operation.svelte';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: ExtendOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<Choice
			label="Which way"
			says="Whether the line goes on, or some of it goes."
			value={operation.shorter ? 'shorter' : 'longer'}
			items={[
				{ value: 'longer', word: 'Longer' },
				{ value: 'shorter', word: 'Shorter' }
			]}
			onpick={(v) => operation.set({ shorter: v === 'shorter' })}
		/>
		<Choice
			label="How far"
			says="By a length, or as far as the next outline on its way."
			value={operation.to}
			items={[
				{ value: 'length', word: 'by a length' },
				{ value: 'boundary', word: 'to the next line' }
			]}
			onpick={(v) => operation.set({ to: v as ExtendOperation['to'] })}
		/>
		{#if operation.to === 'length'}
			<NumberField
				label="by"
				says="How much longer or shorter; or pull its end."
				unit={bench.unit}
				value={operation.by}
				least={0.001}
				onset={(v) => operation.set({ by: v })}
			/>
		{/if}
		<Choice
			label="At which end"
			says="At which end it changes; a tap near an end takes that one."
			value={operation.end}
			items={[
				{ value: 'start', word: 'at its start' },
				{ value: 'end', word: 'at its end' }
			]}
			onpick={(v) => operation.set({ end: v as ExtendOperation['end'] })}
		/>
		{#if !operation.shorter}
			<Choice
				label="Along what"
				says="Straight on, or along the curve of its end."
				value={operation.how}
				items={[
					{ value: 'curve', word: 'along its curve' },
					{ value: 'straight', word: 'straight on' }
				]}
				onpick={(v) => operation.set({ how: v as ExtendOperation['how'] })}
			/>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep it so">
		{#snippet facts()}
			<span
				>length {formatLength(operation.lengths.before, bench.unit)} →
				<b data-fact="length">{formatLength(operation.lengths.after, bench.unit)}</b></span
			>
		{/snippet}
	</OperationStrip>
</div>

<script lang="ts">
	/** Two seams side by side: how long, by how much they differ, where notches come. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { SeamsOperation } from '$lib/stores/operations/seams-operation.svelte';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: SeamsOperation } = $props();
</script>

<div class="rows">
	<div class="row">
		<Choice
			label="Pressed edges go to"
			says="Which of the two seams an edge is added to, or taken out of."
			value={`${operation.side}`}
			items={[
				{ value: '0', word: 'The first' },
				{ value: '1', word: 'The second' }
			]}
			onpick={(v) => operation.set({ side: Number(v) as 0 | 1 })}
		/>
		<Toggle
			on="The second from its end"
			off="Both from their beginnings"
			says="Pieces are sewn right sides together: one of the seams then runs the other way."
			act="seam-back"
			checked={operation.back}
			onset={(back) => operation.set({ back })}
		/>
	</div>
	<div class="row">
		<NumberField
			label="Notches"
			says="How many between the ends, on both seams."
			kind="number"
			digits={0}
			width={4}
			value={operation.count}
			least={0}
			most={50}
			onset={(v) => operation.set({ count: Math.round(v) })}
		/>
		<Choice
			label="Placed by"
			says="At the same share of each, so that ease is spread; or at the same distance from both beginnings."
			value={operation.by}
			items={[
				{ value: 'share', word: 'Share' },
				{ value: 'distance', word: 'Distance' }
			]}
			onpick={(v) => operation.set({ by: v as SeamsOperation['by'] })}
		/>
		<NumberField
			label="Walk at"
			says="A share of the first seam: where one is on it, and where on the second."
			kind="number"
			digits={3}
			width={6}
			value={operation.walk}
			least={0}
			most={1}
			onset={(walk) => operation.set({ walk })}
		/>
		{#if operation.canBeHeld}
			<button
				class="word"
				data-act="hold-seams"
				aria-description="From now on both stay equally long, whatever is moved; where they differ by more than 2 mm, they keep that as ease."
				onclick={() => void operation.hold()}>hold them so</button
			>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Put the notches">
		{#snippet facts()}
			<span>first <b data-fact="first-seam">{formatLength(operation.lengths[0], bench.unit)}</b></span>
			<span>second <b data-fact="second-seam">{formatLength(operation.lengths[1], bench.unit)}</b></span>
			<span
				>{operation.difference < 0 ? 'shorter by' : 'longer by'}
				<b data-fact="seam-difference">{formatLength(Math.abs(operation.difference), bench.unit)}</b></span
			>
		{/snippet}
	</OperationStrip>
</div>

<script lang="ts">
	/** How many lines lie in between, how they are spread, and where they begin. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { BetweenOperation } from '$lib/stores/operations/between-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: BetweenOperation } = $props();
	const STEPS = [
		{ value: 'even', word: 'Even' },
		{ value: 'start', word: 'Close to the first' },
		{ value: 'end', word: 'Close to the last' },
		{ value: 'both', word: 'Close to both' }
	];
	const WAYS = [
		{ value: 'matched', word: 'As shapes match' },
		{ value: 'other', word: 'The other way' }
	];
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="How many"
			says="Lines between each two."
			kind="number"
			digits={0}
			width={4}
			value={operation.count}
			least={1}
			most={200}
			onset={(v) => operation.set({ count: Math.round(v) })}
		/>
		<Choice
			label="Steps"
			says="Even, or closer to one of the two."
			value={operation.easing}
			items={STEPS}
			onpick={(v) => operation.set({ easing: v as BetweenOperation['easing'] })}
		/>
	</div>
	<div class="row">
		<Choice
			label="Direction"
			says="How the second line is gone against the first."
			value={operation.way}
			items={WAYS}
			onpick={(v) => operation.set({ way: v as BetweenOperation['way'] })}
		/>
		<NumberField
			label="Start moved by"
			says="A share of the second line's length, from where the shapes match."
			kind="number"
			digits={3}
			width={6}
			value={operation.shift}
			least={-1}
			most={1}
			onset={(shift) => operation.set({ shift })}
		/>
	</div>
	<OperationStrip {bench} keepWord="Keep the lines">
		{#snippet facts()}
			<span><b data-fact="outlines">{operation.preview.length}</b> lines</span>
			<span><b data-fact="anchors">{operation.anchorsAfter}</b> anchors</span>
			<span class="quiet">they follow both from now on</span>
		{/snippet}
	</OperationStrip>
</div>

<script lang="ts">
	/** How wide a band is, stretch by stretch where that is wanted; its corners and ends. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { BandOperation } from '$lib/stores/operations/band-operation.svelte';
	import { END_WORDS, TAPER_WORDS, type BandSettings } from '$lib/core/document/recipes/band';
	import { JOIN_WORDS } from '$lib/core/document/recipes/offset';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: BandOperation } = $props();
	const stretch = $derived(operation.stretch);
	const settings = $derived(operation.settings);
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Width"
			says="How wide the band is wherever nothing else is said."
			unit={bench.unit}
			value={settings.width}
			least={0}
			most={10000}
			onset={(width) => operation.say({ width })}
		/>
		{#if stretch}
			<NumberField
				label="This stretch from"
				says="How wide the pressed stretch is where it begins."
				unit={bench.unit}
				value={stretch.from}
				least={0}
				most={10000}
				onset={(v) => operation.sayStretch(v, stretch.to)}
			/>
			<NumberField
				label="to"
				says="How wide the pressed stretch is where it ends."
				unit={bench.unit}
				value={stretch.to}
				least={0}
				most={10000}
				onset={(v) => operation.sayStretch(stretch.from, v)}
			/>
			<button
				class="word"
				data-act="as-the-rest"
				aria-description="The pressed stretch is as wide as the rest."
				onclick={() => operation.sayStretch(undefined, undefined)}>as the rest</button
			>
		{:else if operation.outlines.length === 1}
			<button
				class="word"
				data-act="pick-stretch"
				aria-description="Gives the first stretch of the line a width of its own; or press one on the drawing."
				onclick={() => operation.pick(0)}>widths of stretches</button
			>
		{/if}
		{#if stretch}
			<button
				class="word"
				data-act="next-stretch"
				aria-description="Goes on to the next stretch of the line."
				onclick={() => operation.pick(stretch.end)}>next stretch</button
			>
		{/if}
	</div>
	<div class="row">
		<Choice
			label="Widths change"
			says="How it goes from one width to the next: evenly, softly, or all at once where the stretch ends."
			value={settings.taper}
			items={TAPER_WORDS}
			onpick={(v) => operation.say({ taper: v as BandSettings['taper'] })}
		/>
		<Choice
			label="Corners"
			says="How the outer side goes round a corner of the line."
			value={settings.join}
			items={JOIN_WORDS}
			onpick={(v) => operation.say({ join: v as BandSettings['join'] })}
		/>
		{#if operation.hasOpen}
			<Choice
				label="Ends"
				says="How the band ends where the line does."
				value={settings.ends}
				items={END_WORDS}
				onpick={(v) => operation.say({ ends: v as BandSettings['ends'] })}
			/>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep the band">
		{#snippet facts()}
			<span
				><b data-fact="pieces">{operation.pieces}</b>
				{operation.pieces === 1 ? 'outline' : 'outlines'}</span
			>
			<span><b data-fact="anchors">{operation.anchorsAfter}</b> anchors</span>
			<span class="quiet">it follows the line from now on</span>
		{/snippet}
	</OperationStrip>
</div>

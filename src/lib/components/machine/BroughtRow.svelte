<script lang="ts">
	/** A machine's file laid on the sheet: what it says, what is wrong with it, how far it is from what is drawn. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { BroughtFile } from '$lib/stores/machining/brought-file.svelte';
	import type { MachiningOperation } from '$lib/stores/machining/machining.svelte';
	import { lengthsOf } from '$lib/core/toolpath/moves';
	import { formatLength, formatNumber } from '$lib/core/units';

	let { bench, operation, brought }: { bench: Bench; operation: MachiningOperation; brought: BroughtFile } =
		$props();
	const lengths = $derived(lengthsOf(brought.moves));
	const compared = $derived(brought.compared);
	const area = (mm2: number) => formatNumber(mm2, mm2 < 1 ? 3 : 1);
</script>

<div class="row">
	<div class="facts" role="status" data-testid="brought-facts">
		<span><b>{brought.file.name}</b></span>
		<span
			><b data-fact="cuts">{brought.cuts.length}</b>
			{brought.cuts.length === 1 ? 'line' : 'lines'}, {formatLength(lengths.cut, bench.unit)}</span
		>
		{#if brought.faults.length}
			<span class="trouble"
				>line {brought.faults[0].line}: {brought.faults[0].why}{brought.faults.length > 1
					? ` (and ${brought.faults.length - 1} more)`
					: ''}</span
			>
		{:else}<span class="quiet">every line is understood</span>{/if}
	</div>
</div>
<div class="row">
	<div class="facts" role="status">
		{#if brought.comparing}<span class="quiet">comparing …</span>
		{:else if compared}
			{#if operation.whole.plans.length}
				<span
					>from the jobs <b data-fact="apart"
						>{Number.isFinite(compared.apart) ? `${formatNumber(compared.apart, 3)} mm` : 'all'}</b
					> apart</span
				>
			{/if}
			{#if compared.judged}
				<span
					>cuts <b data-fact="gouge">{formatNumber(compared.judged.gouge, 3)}</b> mm into what is kept</span
				>
				{#if compared.judged.low}
					<span class="trouble"
						>{compared.judged.low}
						{compared.judged.low === 1 ? 'way' : 'ways'} through the material without a feed</span
					>
				{/if}
				{#if compared.judged.still}
					<span class="trouble">{compared.judged.still} cuts with nothing turning or burning</span>
				{/if}
			{/if}
			<span class="quiet"
				>left beside the lines {area(compared.rest)} mm², taken from pieces {area(compared.gouged)} mm²</span
			>
		{/if}
	</div>
	{#if compared?.judged && compared.judged.gouge > 0.01}
		<button
			class="word"
			data-act="see-gouge"
			aria-description="Goes to where it cuts deepest into what is kept."
			onclick={() => operation.seeGouge()}>see where</button
		>
	{/if}
	<button
		class="word"
		data-act="watch-file"
		aria-description="The tool runs along the file's way."
		onclick={() => operation.watch()}>Watch it</button
	>
	<button
		class="word"
		data-act="file-outlines"
		aria-description="Its lines become outlines of this drawing."
		onclick={() => operation.broughtAsOutlines()}>As outlines</button
	>
	<button
		class="word"
		data-act="end-brought"
		aria-description="The file is laid aside; nothing is changed (Esc)."
		onclick={() => operation.endBrought()}>Back to the jobs</button
	>
</div>

<style>
	.facts {
		flex: 1;
		display: flex;
		gap: 14px;
		min-width: 0;
	}
	.trouble {
		color: var(--rust);
	}
</style>

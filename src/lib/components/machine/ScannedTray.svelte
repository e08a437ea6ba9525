<script lang="ts">
	/** A scan laid on its drawing: how much larger it is all round, the kerf that would mend it, and how much of it is burr. */
	import { formatNumber } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { ScannedOperation } from '$lib/stores/machining/scanned-operation.svelte';
	import { takeKerf } from '$lib/stores/machining/taken-over';
	import NumberField from '../parts/NumberField.svelte';
	import OperationStrip from '../trays/OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: ScannedOperation } = $props();
	const found = $derived(operation.found);
	const worst = $derived(
		Math.max(
			0,
			...operation.deviations.flatMap(({ samples }) => {
				let most = 0;
				for (let i = 4; i < samples.length; i += 5) most = Math.max(most, Math.abs(samples[i]));
				return most;
			})
		)
	);
</script>

<div class="rows">
	<div class="row">
		<span class="quiet">"{operation.scanned[0]?.name}" laid on "{operation.drawn[0]?.name}"</span>
		<button
			class="word"
			data-act="swap"
			aria-description="The other of the two is the drawing."
			onclick={() => operation.swap()}>the other way round</button
		>
		<NumberField
			label="Cut with a kerf of"
			says="The width that was taken off when it was cut: of the beam, or the diameter of the cutter."
			unit={bench.unit}
			value={operation.reckoned}
			least={0}
			most={50}
			onset={(v) => (operation.reckoned = v)}
		/>
		{#if operation.kerf !== undefined}
			<span>in truth <b data-fact="kerf">{formatNumber(operation.kerf, 3)}</b> mm</span>
			<button
				class="word strong"
				data-act="take-kerf"
				aria-description="Tools and jobs that were reckoned with the old kerf get this one."
				onclick={() =>
					operation.kerf !== undefined && void takeKerf(bench, operation.reckoned, operation.kerf)}
				>Take it over</button
			>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Lay it there">
		{#snippet facts()}
			{#if found}
				<span
					><b data-fact="larger">{formatNumber(Math.abs(found.larger), 3)}</b> mm {found.larger < 0
						? 'smaller'
						: 'larger'} all round</span
				>
				<span class="quiet"
					>typically {formatNumber(found.rest, 3)} mm off besides, at most {formatNumber(worst, 2)} mm</span
				>
				<span class="quiet">{Math.round(100 * found.burrs)} % is burr</span>
			{/if}
		{/snippet}
	</OperationStrip>
</div>

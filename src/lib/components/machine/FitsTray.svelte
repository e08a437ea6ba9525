<script lang="ts">
	/** What was measured of a cut test piece, and what it says. */
	import { BARS, SQUARE } from '$lib/core/toolpath/test-piece';
	import { formatNumber } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { FitsOperation } from '$lib/stores/machining/fits-operation.svelte';
	import { takeKerf, takePlay, takeSquareness } from '$lib/stores/machining/taken-over';
	import NumberField from '../parts/NumberField.svelte';
	import Pick from '../parts/Pick.svelte';

	let { bench, operation }: { bench: Bench; operation: FitsOperation } = $props();
	const tells = $derived(operation.tells);
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Cut with a kerf of"
			says="The kerf that was reckoned with when the test piece was cut."
			unit={bench.unit}
			value={operation.reckoned}
			least={0}
			most={50}
			onset={(v) => (operation.reckoned = v)}
		/>
		{#each BARS as nominal (nominal)}
			<NumberField
				label={`bar ${nominal}`}
				says={`How wide the bar of ${nominal} mm came out.`}
				unit={bench.unit}
				width={7}
				value={operation.bars[nominal]}
				least={0.01}
				most={nominal * 2}
				onset={(v) => (operation.bars = { ...operation.bars, [nominal]: v })}
			/>
		{/each}
	</div>
	<div class="row">
		<Pick
			label="snug in slit"
			says="The slit that the material goes into without play and without force."
			name="slit"
			value={operation.slit === undefined ? '' : String(operation.slit)}
			items={[
				{ value: '', word: '–' },
				...operation.slits.map((slit) => ({ value: String(slit), word: `${slit} mm` }))
			]}
			onpick={(slit) => (operation.slit = slit === '' ? undefined : Number(slit))}
		/>
		{#each ['↗', '↖'] as way, k (way)}
			<NumberField
				label={`diagonal ${way}`}
				says={`The diagonal of the square of ${SQUARE} mm, ${k === 0 ? 'from lower left to upper right' : 'from lower right to upper left'}.`}
				unit={bench.unit}
				width={8}
				value={operation.diagonals[k]}
				least={1}
				most={SQUARE * 3}
				onset={(v) =>
					(operation.diagonals = k === 0 ? [v, operation.diagonals[1]] : [operation.diagonals[0], v])}
			/>
		{/each}
	</div>
	<div class="row">
		<div class="facts" role="status">
			{#if tells.kerf !== undefined}<span>kerf <b data-fact="kerf">{formatNumber(tells.kerf, 3)}</b> mm</span
				>{/if}
			{#if tells.play !== undefined}<span
					>slots <b data-fact="play">{formatNumber(tells.play, 3)}</b> mm wider than the material</span
				>{/if}
			{#if tells.offSquare !== undefined}<span
					>axes <b data-fact="off-square">{formatNumber(Math.abs(tells.offSquare), 2)}</b>° off square{tells.offSquare ===
					0
						? ''
						: tells.offSquare > 0
							? ', too sharp at the origin'
							: ', too wide at the origin'}</span
				>{/if}
			{#if tells.kerf === undefined && tells.offSquare === undefined}<span class="quiet"
					>Nothing is measured yet.</span
				>{/if}
		</div>
		<button
			class="word strong"
			disabled={tells.kerf === undefined}
			data-act="take-kerf"
			aria-description="Beams and jobs that were reckoned with the old kerf get this one."
			onclick={() => tells.kerf !== undefined && void takeKerf(bench, operation.reckoned, tells.kerf)}
			>Take the kerf over</button
		>
		<button
			class="word"
			disabled={tells.play === undefined}
			data-act="take-play"
			aria-description="The material keeps it, and openings of its jobs come out that much wider."
			onclick={() => tells.play !== undefined && void takePlay(bench, tells.play)}>the play</button
		>
		<button
			class="word"
			disabled={tells.offSquare === undefined}
			data-act="take-square"
			aria-description="The machine keeps it, and what it is told makes up for that."
			onclick={() => tells.offSquare !== undefined && void takeSquareness(bench, tells.offSquare)}
			>the squareness</button
		>
		<button
			class="word"
			data-act="leave"
			aria-description="Nothing of the drawing is changed (Esc)."
			onclick={() => bench.dropOperation()}>Leave</button
		>
	</div>
</div>

<style>
	.facts {
		flex: 1;
		display: flex;
		gap: 14px;
	}
</style>

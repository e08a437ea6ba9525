<script lang="ts">
	/** What holds for this drawing and this browser: units, light, the screen, the weave, the tool. */
	import type { LengthUnit } from '$lib/core/document/drawing';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { theme } from '$lib/stores/theme.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import Sheet from '../parts/Sheet.svelte';

	let { bench }: { bench: Bench } = $props();
	const UNITS = [
		{ value: 'mm', word: 'mm' },
		{ value: 'cm', word: 'cm' },
		{ value: 'in', word: 'inches' },
		{ value: 'in/64', word: 'inches, fractions' },
		{ value: 'ft', word: 'feet' }
	];
	const put = (name: string, changed: Partial<Bench['settings']>) =>
		bench.commit(name, { put: [{ ...bench.settings, ...changed }] });
</script>

<Sheet {bench} title="Settings" line="The first three belong to this drawing, the others to this browser.">
	<div class="list">
		<Choice
			label="Unit"
			says="In what lengths are shown, and taken where none is typed."
			value={bench.unit}
			items={UNITS}
			onpick={(unit) => put('Change unit', { unit: unit as LengthUnit })}
		/>
		<NumberField
			label="The weave is"
			says="How far apart the lines of the weave are."
			unit={bench.unit}
			value={bench.settings.grid}
			least={0.01}
			onset={(grid) => put('Change the weave', { grid })}
		/>
		<NumberField
			label="Tool radius"
			says="What bends more tightly is told."
			unit={bench.unit}
			value={bench.settings.toolRadius}
			least={0.001}
			onset={(v) => bench.looking.setToolRadius(v)}
		/>
		<Toggle
			on="lamp light"
			off="daylight"
			says="A lamp-lit bench by night, unbleached paper by day."
			act="set-light"
			checked={theme.lamp}
			onset={(lamp) => theme.set(lamp)}
		/>
		<Toggle
			on="drags catch on what lies near"
			off="drags catch on nothing"
			says="Anchors, middles, crossings, guides, the weave; Ctrl held passes it over."
			act="set-snaps"
			checked={bench.snaps}
			onset={(snaps) => (bench.snaps = snaps)}
		/>
		<button class="word" onclick={() => (bench.sheet = 'screen')}>how large is this screen?</button>
	</div>
</Sheet>

<style>
	.list {
		display: grid;
		gap: 10px;
		justify-items: start;
		margin: 14px 0;
	}
</style>

<script lang="ts">
	/** Once per screen: a bar of known pixels is measured with a real ruler, so that actual size is true. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Sheet from '../parts/Sheet.svelte';

	let { bench }: { bench: Bench } = $props();
	const BAR_PX = 480;
	function set(mm: number): void {
		bench.sight.screenPxPerMm = BAR_PX / mm;
		localStorage.setItem('screen-px-per-mm', String(bench.sight.screenPxPerMm));
		bench.sheet = undefined;
		bench.sight.actualSize();
		bench.tell('From now on actual size is true on this screen.');
	}
</script>

<Sheet {bench} title="How large is this screen?" line="Hold a ruler to the bar and type its length.">
	<div class="bar" style:width="{BAR_PX}px"></div>
	<NumberField
		label="The bar is long"
		says="What a real ruler held to the bar says."
		unit={bench.unit}
		value={BAR_PX / bench.sight.screenPxPerMm}
		least={20}
		most={1000}
		onset={set}
	/>
</Sheet>

<style>
	.bar {
		height: 16px;
		margin: 18px 0;
		border: solid var(--ink);
		border-width: 0 1px;
		background: linear-gradient(var(--madder), var(--madder)) center / 100% 2px no-repeat;
	}
</style>

<script lang="ts">
	/** On the tag: where a mark or a guide lies, each number a field. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Spot } from '$lib/stores/selection.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, spot }: { bench: Bench; spot: Spot } = $props();
	const mark = import('./TagMark.svelte');
	const put = (changed: Partial<Spot>) =>
		bench.commit(`Place the ${spot.type}`, { put: [{ ...spot, ...changed } as Spot] });
</script>

<div class="part" data-testid="spot">
	<b>{spot.type}</b>
	<NumberField
		label="x"
		says="Where it lies, from the left."
		unit={bench.unit}
		value={spot.x}
		width={11}
		onset={(x) => put({ x })}
	/>
	<NumberField
		label="y"
		says="Where it lies, upward."
		unit={bench.unit}
		value={spot.y}
		width={11}
		onset={(y) => put({ y })}
	/>
	{#if spot.type === 'guide'}
		<NumberField
			label="at"
			says="At which angle the guide runs."
			kind="number"
			suffix="°"
			digits={3}
			width={9}
			value={spot.angle}
			onset={(angle) => put({ angle })}
		/>
	{/if}
</div>
{#if spot.type === 'mark'}{#await mark then { default: TagMark }}<TagMark {bench} mark={spot} />{/await}{/if}

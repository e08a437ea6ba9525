<script lang="ts">
	/** How often a line comes round, about which centre, and how it goes on where two meet. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { RosetteOperation } from '$lib/stores/operations/rosette-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: RosetteOperation } = $props();
	const settings = $derived(operation.settings);
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="Times"
			says="How many times the line comes round until it closes."
			kind="number"
			digits={0}
			width={5}
			least={2}
			most={360}
			value={operation.count}
			onset={(v) => operation.set({ count: Math.round(v) })}
		/>
		<NumberField
			label="Centre x"
			says="The place about which it is turned, from the left."
			unit={bench.unit}
			value={settings.x}
			onset={(x) => operation.set({ centre: { x, y: settings.y } })}
		/>
		<NumberField
			label="y"
			says="The place about which it is turned, upward."
			unit={bench.unit}
			value={settings.y}
			onset={(y) => operation.set({ centre: { x: settings.x, y } })}
		/>
		<button
			class="word"
			data-act="fit-centre"
			aria-description="The centre lies where the ends of the line fit as they are; pressed again, on the other side of it."
			onclick={() =>
				operation.set({ isLeft: operation.centre ? operation.isLeft : !operation.isLeft, centre: undefined })}
			>{operation.centre ? 'where the ends fit' : 'on the other side'}</button
		>
	</div>
	<div class="row">
		<Toggle
			on="every leaf is even"
			off="leaf by leaf"
			says="Whether each time the line is followed by its mirror image."
			act="mirrored"
			checked={operation.mirrored}
			onset={(mirrored) => operation.set({ mirrored })}
		/>
		<Choice
			label="Where they meet"
			says="Whether the line goes on smoothly where two meet, or by a corner."
			value={operation.joint}
			items={[
				{ value: 'smooth', word: 'Smooth' },
				{ value: 'corner', word: 'Corner' }
			]}
			onpick={(joint) => operation.set({ joint: joint as RosetteOperation['joint'] })}
		/>
	</div>
	<OperationStrip {bench} keepWord="Keep the rosette">
		{#snippet facts()}
			<span class="quiet">the line stays as a guide; the rosette follows it</span>
		{/snippet}
	</OperationStrip>
</div>

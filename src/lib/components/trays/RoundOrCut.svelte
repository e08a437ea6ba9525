<script lang="ts">
	/** How a corner is made: an arc of a radius, or a flat. */
	import type { LengthUnit } from '$lib/core/document/drawing';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';

	interface Settings {
		/** mm */
		readonly amount: number;
		readonly cutOff: boolean;
	}
	let {
		amount,
		cutOff,
		unit,
		onset
	}: Settings & { unit: LengthUnit; onset: (changed: Partial<Settings>) => void } = $props();
</script>

<NumberField
	label={cutOff ? 'Cut off' : 'Radius'}
	says={cutOff
		? 'How far from the corner the flat begins; 0 is sharp.'
		: 'The radius of the arc; 0 is a sharp corner.'}
	{unit}
	value={amount}
	least={0}
	onset={(v) => onset({ amount: v })}
/>
<Choice
	label="Corners"
	says="An arc in the place of the corner, or a flat."
	value={cutOff ? 'cut' : 'round'}
	items={[
		{ value: 'round', word: 'Rounded' },
		{ value: 'cut', word: 'Cut off' }
	]}
	onpick={(v) => onset({ cutOff: v === 'cut' })}
/>

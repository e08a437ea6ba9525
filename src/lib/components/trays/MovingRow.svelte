<script lang="ts">
	/** How anchors move, how far a soft pull reaches, how far an arrow goes. */
	import { MOVING_WAYS, type Bench, type MovingWay } from '$lib/stores/bench.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench }: { bench: Bench } = $props();
	const WORDS: Record<MovingWay, string> = {
		free: 'freely',
		before: 'along the side before',
		after: 'along the side after',
		'own line': 'on their own line',
		soft: 'softly'
	};
	const items = MOVING_WAYS.map((value) => ({ value, word: WORDS[value] }));
</script>

<div class="row">
	<span class="quiet">anchors move</span>
	<Choice
		label="How anchors move"
		says="What a drag of anchors keeps (Z goes through them)."
		value={bench.movingWay}
		{items}
		onpick={(v) => (bench.movingWay = v as MovingWay)}
	/>
	{#if bench.movingWay === 'soft'}
		<NumberField
			label="reach before"
			says="How far back along the line the pull goes."
			unit={bench.unit}
			value={bench.reachAlong.before}
			least={0.1}
			onset={(v) => (bench.reachAlong = { ...bench.reachAlong, before: v })}
		/>
		<NumberField
			label="after"
			says="How far on along the line the pull goes."
			unit={bench.unit}
			value={bench.reachAlong.after}
			least={0.1}
			onset={(v) => (bench.reachAlong = { ...bench.reachAlong, after: v })}
		/>
	{/if}
	<NumberField
		label="an arrow goes"
		says="How far one press of an arrow moves; with Shift ten times as far."
		unit={bench.unit}
		value={bench.nudge}
		least={0.0001}
		onset={(v) => (bench.nudge = v)}
	/>
	<NumberField
		label="anchors put in"
		says="Puts so many anchors in, at equal distances; the shape stays."
		kind="number"
		digits={0}
		width={4}
		value={bench.evenly}
		least={1}
		most={500}
		onset={(v) => {
			bench.evenly = Math.round(v);
			useCommand(bench, commandOf('add-evenly'));
		}}
	/>
</div>

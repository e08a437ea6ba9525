<script lang="ts">
	/** Numbers of moving, turning, scaling, mirroring and copying whole outlines. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { PlaceOperation } from '$lib/stores/operations/place-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: PlaceOperation } = $props();
	const MIRRORS = [
		{ value: 'no', word: 'As it is' },
		{ value: 'left and right', word: 'Left and right swapped' },
		{ value: 'top and bottom', word: 'Top and bottom swapped' }
	];
	const width = $derived(operation.bounds.x1 - operation.bounds.x0);
	const height = $derived(operation.bounds.y1 - operation.bounds.y0);
	function scale(across: number, tall: number, from: 'across' | 'tall'): void {
		operation.across = operation.alike && from === 'tall' ? tall : across;
		operation.tall = operation.alike && from === 'across' ? across : tall;
		operation.change(0);
	}
</script>

<div class="rows">
	<div class="row">
		<NumberField
			label="right"
			says="How far it goes to the right."
			unit={bench.unit}
			value={operation.right}
			onset={(v) => operation.set({ right: v })}
		/>
		<NumberField
			label="up"
			says="How far it goes up."
			unit={bench.unit}
			value={operation.up}
			onset={(v) => operation.set({ up: v })}
		/>
		<NumberField
			label="turn"
			says="How far it is turned, anticlockwise."
			kind="number"
			suffix="°"
			width={7}
			value={operation.turn}
			onset={(v) => operation.set({ turn: v })}
		/>
		{#if width > 0}
			<NumberField
				label="wide"
				says="Its width afterwards."
				unit={bench.unit}
				value={width * operation.across}
				least={0.001}
				onset={(v) => scale(v / width, operation.tall, 'across')}
			/>
		{/if}
		{#if height > 0}
			<NumberField
				label="high"
				says="Its height afterwards."
				unit={bench.unit}
				value={height * operation.tall}
				least={0.001}
				onset={(v) => scale(operation.across, v / height, 'tall')}
			/>
		{/if}
		<NumberField
			label="scale"
			says="Both ways by so many percent."
			kind="number"
			suffix=" %"
			width={8}
			digits={3}
			value={100 * operation.across}
			least={0.01}
			onset={(v) => {
				operation.across = operation.tall = v / 100;
				operation.change(0);
			}}
		/>
		<Toggle
			on="both ways alike"
			off="each way by itself"
			says="Whether width and height change together."
			act="alike"
			checked={operation.alike}
			onset={(checked) => (operation.alike = checked)}
		/>
	</div>
	<div class="row">
		<Choice
			label="Mirror"
			says="Which sides change places."
			value={operation.mirror}
			items={MIRRORS}
			onpick={(v) => operation.set({ mirror: v as PlaceOperation['mirror'] })}
		/>
		<NumberField
			label="about"
			says="The place it is turned and scaled about, from the left."
			unit={bench.unit}
			value={operation.about.x}
			onset={(v) => operation.set({ about: { ...operation.about, x: v } })}
		/>
		<NumberField
			label="and"
			says="The place it is turned and scaled about, upward."
			unit={bench.unit}
			value={operation.about.y}
			onset={(v) => operation.set({ about: { ...operation.about, y: v } })}
		/>
		{#if !operation.anchors}
			<Toggle
				on="the old ones stay"
				off="the old ones go along"
				says="Whether copies are made, or the things themselves are moved."
				act="old-stay"
				checked={operation.copy}
				onset={(checked) => (operation.copy = checked)}
			/>
		{/if}
	</div>
	<OperationStrip {bench} keepWord="Keep it there">
		{#snippet facts()}
			<span
				>{operation.anchors
					? `${operation.anchorCount} anchors`
					: `${operation.outlines.length} ${operation.outlines.length === 1 ? 'outline' : 'outlines'}`}</span
			>
		{/snippet}
	</OperationStrip>
</div>

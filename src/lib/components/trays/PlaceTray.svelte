<script lang="ts">
	/** Numbers of moving, turning, scaling, mirroring and copying whole outlines. */
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { PlaceOperation } from '$lib/stores/operations/place-operation.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
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
			unit={bench.unit}
			value={operation.right}
			onset={(v) => operation.set({ right: v })}
		/>
		<NumberField label="up" unit={bench.unit} value={operation.up} onset={(v) => operation.set({ up: v })} />
		<NumberField
			label="turn"
			kind="number"
			suffix="°"
			width={7}
			value={operation.turn}
			onset={(v) => operation.set({ turn: v })}
		/>
		{#if width > 0}
			<NumberField
				label="wide"
				unit={bench.unit}
				value={width * operation.across}
				least={0.001}
				onset={(v) => scale(v / width, operation.tall, 'across')}
			/>
		{/if}
		{#if height > 0}
			<NumberField
				label="high"
				unit={bench.unit}
				value={height * operation.tall}
				least={0.001}
				onset={(v) => scale(operation.across, v / height, 'tall')}
			/>
		{/if}
		<NumberField
			label="scale"
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
		<Switch class="switch" checked={operation.alike} onCheckedChange={(d) => (operation.alike = d.checked)}>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label>both alike</Switch.Label>
			<Switch.HiddenInput />
		</Switch>
	</div>
	<div class="row">
		<Choice
			label="Mirror"
			value={operation.mirror}
			items={MIRRORS}
			onpick={(v) => operation.set({ mirror: v as PlaceOperation['mirror'] })}
		/>
		<NumberField
			label="about"
			unit={bench.unit}
			value={operation.about.x}
			onset={(v) => operation.set({ about: { ...operation.about, x: v } })}
		/>
		<NumberField
			label="and"
			unit={bench.unit}
			value={operation.about.y}
			onset={(v) => operation.set({ about: { ...operation.about, y: v } })}
		/>
		<Switch class="switch" checked={operation.copy} onCheckedChange={(d) => (operation.copy = d.checked)}>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label>The old ones stay</Switch.Label>
			<Switch.HiddenInput />
		</Switch>
	</div>
	<OperationStrip {bench} keepWord="Keep it there">
		{#snippet facts()}
			<span>{operation.outlines.length} {operation.outlines.length === 1 ? 'outline' : 'outlines'}</span>
		{/snippet}
	</OperationStrip>
</div>

<script lang="ts">
	import { Slider, Switch } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { TraceOperation } from '$lib/stores/operations.svelte';
	import { formatLength } from '$lib/core/units';
	import NumberField from './NumberField.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: TraceOperation } = $props();
	const result = $derived(operation.result);
	const threshold = $derived(
		operation.threshold === 'auto' ? (result?.threshold ?? 128) : operation.threshold
	);
	/** The one trade-off: from close with many anchors to few anchors. In px of the picture, as a power of two. */
	const pxPerMm = $derived(operation.reference.pxPerMm ?? 1);
	const closeness = $derived(
		Math.log2((operation.tolerance === 'auto' ? (result?.tolerance ?? 0.1) : operation.tolerance) * pxPerMm)
	);
	const plain = (n: number, word: string) => `${n} ${n === 1 ? word : word + 's'}`;
</script>

<div class="rows">
	<div class="row">
		<Slider
			class="slider"
			value={[threshold]}
			min={1}
			max={254}
			step={1}
			onValueChange={(d) => {
				operation.threshold = d.value[0];
				operation.change();
			}}
		>
			<Slider.Label>Darker than this is ink</Slider.Label>
			<Slider.Control>
				<Slider.Track><Slider.Range /></Slider.Track>
				<Slider.Thumb index={0}><Slider.HiddenInput /></Slider.Thumb>
			</Slider.Control>
		</Slider>
		<NumberField
			label="Tone"
			labelHidden
			kind="number"
			digits={0}
			width={4}
			value={Math.round(threshold)}
			least={0}
			most={255}
			onset={(v) => {
				operation.threshold = v;
				operation.change(0);
			}}
		/>
		<button
			class="word"
			disabled={operation.threshold === 'auto'}
			onclick={() => {
				operation.threshold = 'auto';
				operation.change(0);
			}}>found by itself</button
		>
		<Switch
			class="switch"
			checked={operation.light}
			onCheckedChange={(d) => {
				operation.light = d.checked;
				operation.change(0);
			}}
		>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label>Light on dark</Switch.Label>
			<Switch.HiddenInput />
		</Switch>
		<Switch
			class="switch"
			checked={operation.by === 'alpha'}
			onCheckedChange={(d) => {
				operation.by = d.checked ? 'alpha' : 'tone';
				operation.threshold = 'auto';
				operation.change(0);
			}}
		>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label>By transparency</Switch.Label>
			<Switch.HiddenInput />
		</Switch>
	</div>
	<div class="row">
		<Slider
			class="slider"
			value={[closeness]}
			min={-4}
			max={4}
			step={0.05}
			onValueChange={(d) => {
				operation.tolerance = Math.pow(2, d.value[0]) / pxPerMm;
				operation.change();
			}}
		>
			<Slider.Label>Closer to the edge ↔ fewer anchors</Slider.Label>
			<Slider.Control>
				<Slider.Track><Slider.Range /></Slider.Track>
				<Slider.Thumb index={0}><Slider.HiddenInput /></Slider.Thumb>
			</Slider.Control>
		</Slider>
		<NumberField
			label="Within"
			labelHidden
			unit={bench.unit}
			value={operation.tolerance === 'auto' ? result?.tolerance : operation.tolerance}
			least={0.0001}
			onset={(v) => {
				operation.tolerance = v;
				operation.change(0);
			}}
		/>
		<button
			class="word"
			disabled={operation.tolerance === 'auto'}
			onclick={() => {
				operation.tolerance = 'auto';
				operation.change(0);
			}}>from the picture</button
		>
		<NumberField
			label="Corner from"
			kind="number"
			suffix="°"
			digits={0}
			width={4}
			value={operation.cornerAngle}
			least={5}
			most={170}
			onset={(v) => {
				operation.cornerAngle = v;
				operation.change(0);
			}}
		/>
		<NumberField
			label="No specks below"
			kind="number"
			suffix=" mm²"
			width={9}
			placeholder="by itself"
			value={operation.leastArea === 'auto' ? undefined : operation.leastArea}
			least={0}
			onset={(v) => {
				operation.leastArea = v;
				operation.change(0);
			}}
		/>
	</div>
	<OperationStrip {bench} keepWord="Keep the outlines">
		{#snippet facts()}
			{#if result}
				<span
					><b data-fact="outlines">{result.paths.length}</b>
					{result.paths.length === 1 ? 'outline' : 'outlines'}</span
				>
				<span><b data-fact="anchors">{result.anchors}</b> anchors</span>
				<span>at worst <b data-fact="worst">{formatLength(result.worst, bench.unit)}</b> from the edge</span>
				{#if result.dropped}<span class="quiet">{plain(result.dropped, 'speck')} left out</span>{/if}
			{/if}
		{/snippet}
	</OperationStrip>
</div>

<style>
	.rows {
		display: grid;
		gap: 9px;
		width: min(760px, calc(100vw - 40px));
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 14px;
	}
	.row :global(.slider) {
		flex: 1 1 210px;
		max-width: 270px;
	}
</style>

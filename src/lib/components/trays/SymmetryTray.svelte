<script lang="ts">
	/** Where the axis lies, which half stays, and how the line goes over the axis. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { AxisJoint, KeptSide } from '$lib/core/document/edits/symmetry';
	import type { SymmetryOperation } from '$lib/stores/operations/symmetry-operation.svelte';
	import { formatLength } from '$lib/core/units';
	import { isClosed } from '$lib/core/document/outline';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: SymmetryOperation } = $props();
</script>

{#snippet facts()}
	{#if operation.problem}<span class="quiet">{operation.problem.sentence}</span>
	{:else if operation.nothing}<span class="quiet">{operation.nothing}</span>
	{:else}
		<span>The other half follows what is done with this one.</span>
		{#if operation.drift !== undefined}
			<span class="quiet"
				>it goes by <b data-fact="drift">{formatLength(operation.drift, bench.unit)}</b> at most</span
			>
		{/if}
	{/if}
{/snippet}

<div class="rows">
	<div class="row">
		<NumberField
			label="Axis x"
			says="A place on the axis, from the left."
			unit={bench.unit}
			value={operation.axis.x}
			onset={(x) => operation.put({ x })}
		/>
		<NumberField
			label="y"
			says="A place on the axis, upward."
			unit={bench.unit}
			value={operation.axis.y}
			onset={(y) => operation.put({ y })}
		/>
		<NumberField
			label="at"
			says="The direction of the axis: 90° is plumb."
			kind="number"
			suffix="°"
			digits={2}
			width={8}
			value={operation.axis.angle}
			onset={(angle) => operation.put({ angle })}
		/>
		{#if !operation.isHalf && isClosed(operation.outline)}
			<button
				class="word"
				data-act="find-axis"
				aria-description="Puts the axis where the line is nearest to its own mirror image."
				onclick={() => operation.findAxis()}>find the axis</button
			>
		{/if}
		{#if operation.isHalf}
			<Toggle
				on="The half goes along"
				off="The half stays"
				says="Whether the half moves with the axis, or stays where it is and only its ends go to the axis."
				checked={operation.along}
				act="half-along"
				onset={(along) => operation.set({ along })}
			/>
		{:else}
			<Choice
				label="Which half"
				says="Which half stays; the other becomes its mirror image. Or press it on the drawing."
				value={operation.side}
				items={[
					{ value: 'left', word: 'Left of the axis' },
					{ value: 'right', word: 'Right of it' }
				]}
				onpick={(side) => operation.set({ side: side as KeptSide })}
			/>
			<Choice
				label="Over the axis"
				says="Whether the line goes over the axis smoothly or by a corner; by angle: as it nearly does already."
				value={operation.joint}
				items={[
					{ value: 'by angle', word: 'By angle' },
					{ value: 'smooth', word: 'Smooth' },
					{ value: 'corner', word: 'Corner' }
				]}
				onpick={(joint) => operation.set({ joint: joint as AxisJoint })}
			/>
		{/if}
	</div>
	<OperationStrip {bench} {facts} keepWord={operation.isHalf ? 'Move the axis' : 'Make it symmetrical'} />
</div>

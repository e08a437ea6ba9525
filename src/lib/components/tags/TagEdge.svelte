<script lang="ts">
	/** On the tag: the edge of what is picked, from corner to corner; its name and the width of its allowance are fields. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { edgeAt, edgeLength, withEdge } from '$lib/core/document/edges';
	import type { Outline } from '$lib/core/document/outline';
	import { formatLength } from '$lib/core/units';
	import NameField from '../parts/NameField.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, outline }: { bench: Bench; outline: Outline } = $props();
	const edge = $derived.by(() => {
		const [segment] = bench.selection.segmentIndexes();
		return segment === undefined ? undefined : edgeAt(outline, segment);
	});
	function say(name: string, said: { name?: string; width?: number; widthEnd?: number }): void {
		if (edge) bench.commit(name, { put: [withEdge(outline, edge.id, said)] });
	}
</script>

{#if edge}
	<div class="part" data-testid="edge">
		<b>edge</b>
		<span class="quiet">{formatLength(edgeLength(outline, edge), bench.unit)} from corner to corner</span>
		<NameField
			value={edge.name ?? ''}
			placeholder="no name"
			label="Name of the edge"
			onname={(name) => say('Name the edge', { name: name || undefined })}
		/>
		{#if outline.closed}
			<NumberField
				label="allowance"
				says="How wide the allowance is along this edge."
				unit={bench.unit}
				value={edge.width}
				placeholder="as the piece"
				width={11}
				least={0}
				onset={(v) => say('Set the width of the edge', { width: v })}
			/>
			{#if edge.width !== undefined}
				<NumberField
					label="at its end"
					says="How wide it is where the edge ends; in between it changes evenly."
					unit={bench.unit}
					value={edge.widthEnd ?? edge.width}
					width={11}
					least={0}
					onset={(v) => say('Set the width at the end', { widthEnd: v === edge.width ? undefined : v })}
				/>
				<button
					class="word"
					onclick={() => say('Width as the piece', { width: undefined, widthEnd: undefined })}
					>as the piece</button
				>
			{/if}
		{/if}
	</div>
{/if}

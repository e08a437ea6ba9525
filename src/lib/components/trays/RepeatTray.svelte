<script lang="ts">
	/** How things are repeated: the way, and its numbers. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { RepeatOperation } from '$lib/stores/operations/repeat-operation.svelte';
	import { MOST_COPIES, type RepeatWay } from '$lib/core/document/repeat-rules';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: RepeatOperation } = $props();
	const rule = $derived(operation.rule);
	const WAYS: readonly { value: RepeatWay; word: string }[] = [
		{ value: 'rows', word: 'Rows' },
		{ value: 'around', word: 'Around' },
		{ value: 'along', word: 'Along a line' },
		{ value: 'mirrored', word: 'Mirrored' }
	];
</script>

{#snippet facts()}
	{#if operation.problem}<span class="quiet">{operation.problem.sentence}</span>
	{:else if operation.nothing}<span class="quiet">{operation.nothing}</span>
	{:else}<span
			><b data-fact="copies">{operation.total}</b> with the first{#if operation.step !== undefined}, <b
					data-fact="step">{formatLength(operation.step, bench.unit)}</b
				> of line from one to the next{/if}</span
		>{/if}
{/snippet}

{#snippet count(label: string, says: string, value: number, onset: (value: number) => void)}
	<NumberField
		{label}
		{says}
		kind="number"
		digits={0}
		width={6}
		least={1}
		most={MOST_COPIES}
		{value}
		onset={(v) => onset(Math.round(v))}
	/>
{/snippet}

{#snippet angle(label: string, says: string, value: number, onset: (value: number) => void)}
	<NumberField {label} {says} kind="number" suffix="°" digits={2} width={8} {value} {onset} />
{/snippet}

<div class="rows">
	<div class="row">
		<Choice
			label="Way"
			says="By which rule the copies lie."
			value={rule.way}
			items={WAYS}
			onpick={(v) => operation.setWay(v as RepeatWay)}
		/>
		{#if rule.way === 'rows'}
			{@render count('Across', 'How many stand beside each other.', rule.columns, (columns) =>
				operation.put({ columns })
			)}
			{@render count('Up', 'How many rows there are.', rule.rows, (rows) => operation.put({ rows }))}
			<NumberField
				label="Right by"
				says="From one to the next in a row."
				unit={bench.unit}
				value={rule.right}
				onset={(right) => operation.put({ right })}
			/>
			<NumberField
				label="Up by"
				says="From one row to the next."
				unit={bench.unit}
				value={rule.up}
				onset={(up) => operation.put({ up })}
			/>
			<NumberField
				label="Set on"
				says="How far every second row is set on, as a share of the way to the right: 0.5 is half."
				kind="number"
				digits={2}
				width={6}
				least={-1}
				most={1}
				value={rule.stagger}
				onset={(stagger) => operation.put({ stagger })}
			/>
			{@render angle('At', 'How the rows as a whole are turned.', rule.angle, (a) =>
				operation.put({ angle: a })
			)}
		{:else if rule.way === 'around'}
			{@render count('How many', 'How many there are around, the first one too.', rule.number, (number) =>
				operation.put({ number })
			)}
			{@render angle('Over', 'From the first to the last; 360° is all around.', rule.sweep, (sweep) =>
				operation.put({ sweep })
			)}
			<Toggle
				on="Turned with it"
				off="All upright"
				says="Whether each is turned with the circle."
				checked={rule.turned}
				act="turned"
				onset={(turned) => operation.put({ turned })}
			/>
		{:else if rule.way === 'along'}
			<Choice
				label="By"
				says="By how many there are, or by how far one is from the next, measured along the line."
				value={rule.by}
				items={[
					{ value: 'number', word: 'By number' },
					{ value: 'spacing', word: 'By spacing' }
				]}
				onpick={(by) => operation.put({ by: by as 'number' | 'spacing' })}
			/>
			{#if rule.by === 'number'}
				{@render count('How many', 'How many there are, the first one too.', rule.number, (number) =>
					operation.put({ number })
				)}
			{:else}
				<NumberField
					label="Spacing"
					says="Along the line from one to the next; all around a closed one it is fitted to go round evenly."
					unit={bench.unit}
					least={0.01}
					value={rule.spacing}
					onset={(spacing) => operation.put({ spacing })}
				/>
			{/if}
			<NumberField
				label="Over"
				says="How much of the line is taken, from the first one on: 100 % is all of it."
				kind="number"
				suffix="%"
				digits={1}
				width={8}
				least={0.1}
				most={100}
				value={100 * rule.share}
				onset={(share) => operation.put({ share: share / 100 })}
			/>
			<Toggle
				on="Turned with it"
				off="All upright"
				says="Whether each is turned with the line."
				checked={rule.turned}
				act="turned"
				onset={(turned) => operation.put({ turned })}
			/>
		{:else}
			{@render angle(
				'Axis at',
				'The direction of the line at which it is mirrored: 90° is plumb.',
				rule.angle,
				(a) => operation.put({ angle: a })
			)}
		{/if}
	</div>
	<OperationStrip {bench} {facts} keepWord={operation.changed ? 'Change it' : 'Repeat it'} />
</div>

<script lang="ts">
	/** Fairing and the other ways of making a line anew: settings, drift, anchors before and after. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { FairOperation } from '$lib/stores/operations/fair-operation.svelte';
	import type { LineWay } from '$lib/core/fairing/lines';
	import { formatLength } from '$lib/core/units';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: FairOperation } = $props();
	const WAYS: { value: LineWay; word: string; says: string }[] = [
		{ value: 'fair', word: 'Fair', says: 'Jags and waves go within the drift; meant corners stay.' },
		{ value: 'simplify', word: 'Simplify', says: 'As few anchors as the drift allows.' },
		{ value: 'through', word: 'Through its anchors', says: 'A smooth curve through every anchor.' },
		{ value: 'rebuild', word: 'Rebuild', says: 'A new curve from so many control points.' },
		{ value: 'arcs', word: 'Straights and arcs', says: 'Straights and true arcs within the drift.' },
		{ value: 'straights', word: 'Straights', says: 'Straights alone within the drift.' }
	];
	const NUMBERS: {
		name: 'strength' | 'cornerAngle' | 'count' | 'degree';
		label: string;
		says: string;
		suffix?: string;
		digits: number;
		least: number;
		most: number;
		ways: LineWay[];
	}[] = [
		{
			name: 'strength',
			label: 'Strength',
			says: 'How strongly jags are smoothed: 1 is gentle.',
			digits: 2,
			least: 0.1,
			most: 20,
			ways: ['fair']
		},
		{
			name: 'cornerAngle',
			label: 'Corner from',
			says: 'Sharper turns than this stay corners.',
			suffix: '°',
			digits: 0,
			least: 5,
			most: 170,
			ways: ['fair', 'simplify', 'through']
		},
		{
			name: 'count',
			label: 'Control points',
			says: 'How many points the new curve is pulled by.',
			digits: 0,
			least: 2,
			most: 400,
			ways: ['rebuild']
		},
		{
			name: 'degree',
			label: 'Degree',
			says: '1 gives straights; 3 is a usual curve; higher is smoother.',
			digits: 0,
			least: 1,
			most: 7,
			ways: ['rebuild']
		}
	];
	/** So many doubtful corners are asked about in the tray; all of them on the drawing. */
	const MOST_ASKED = 3;
	const drifts: LineWay[] = ['fair', 'simplify', 'arcs', 'straights'];
</script>

<div class="rows">
	<div class="row">
		<Choice
			label="How"
			says="What is done with the line."
			value={operation.way}
			items={WAYS}
			onpick={(v) => operation.set({ way: v as LineWay })}
		/>
		{#if drifts.includes(operation.way)}
			<NumberField
				label="May drift"
				says="How far the line may move anywhere."
				unit={bench.unit}
				value={operation.drift}
				least={0.0005}
				onset={(v) => operation.set({ drift: v })}
			/>
		{/if}
		{#each NUMBERS.filter( (n) => n.ways.includes(operation.way) ) as { name, label, says, suffix, digits, least, most } (name)}
			<NumberField
				{label}
				{says}
				kind="number"
				{suffix}
				{digits}
				width={6}
				{least}
				{most}
				value={operation[name]}
				onset={(v) => operation.set({ [name]: digits === 0 ? Math.round(v) : v })}
			/>
		{/each}
		{#if operation.outlines.length === 1}
			<Toggle
				on="where I brush"
				off="all of it"
				says="Fairs only what you go over with the brush; drag on the line."
				act="brush"
				checked={operation.brushing}
				onset={(checked) => operation.set({ brushing: checked, stretch: undefined })}
			/>
			{#if operation.brushing}
				<NumberField
					label="Brush"
					says="How wide the brush is."
					unit={bench.unit}
					value={operation.brush}
					least={0.01}
					onset={(v) => (operation.brush = v)}
				/>
			{:else if operation.stretch}
				<span class="quiet">only between the selected anchors</span>
				<button class="word" onclick={() => operation.set({ stretch: undefined })}>the whole outline</button>
			{/if}
		{/if}
	</div>
	{#if operation.way === 'fair' && operation.doubtful.length}
		<div class="row" data-testid="doubtful">
			<span
				><b data-fact="doubtful">{operation.doubtful.length}</b>
				{operation.doubtful.length === 1 ? 'place' : 'places'} may be a corner or not.</span
			>
			{#each operation.doubtful.slice(0, MOST_ASKED) as place, i (i)}
				<span class="ask">
					<button class="word" onclick={() => bench.sight.lookAt(place)}>{i + 1}</button>
					<Choice
						label="What place {i + 1} is"
						says="A corner stays sharp; a round place is faired like the rest."
						value={place.isCorner ? 'corner' : 'round'}
						items={[
							{ value: 'corner', word: 'corner' },
							{ value: 'round', word: 'round' }
						]}
						onpick={(v) => operation.decide(place, v === 'corner')}
					/>
				</span>
			{/each}
		</div>
	{/if}
	<OperationStrip {bench} keepWord="Keep the new line">
		{#snippet facts()}
			{#if operation.preview.length}
				<span
					>anchors <b data-fact="before">{operation.anchorsBefore}</b> →
					<b data-fact="after">{operation.anchorsAfter}</b></span
				>
				<span
					>drift <b data-fact="drift">{formatLength(operation.moved, bench.unit)}</b>
					<button class="word" onclick={() => bench.seeWorst()}>see the worst</button></span
				>
				<span class="quiet"
					>since it first was <b data-fact="total">{formatLength(operation.total, bench.unit)}</b></span
				>
				{#if operation.nothing}<span class="quiet" data-fact="nothing">{operation.nothing}</span>{/if}
				{#if operation.nothing && operation.helpful}
					<button class="word" onclick={() => operation.allow()} data-act="allow-drift"
						>Allow {formatLength(operation.helpful.drift, bench.unit)}</button
					>
				{/if}
			{:else if operation.brushing}<span class="quiet">nothing brushed yet</span>{/if}
		{/snippet}
	</OperationStrip>
</div>

<style>
	.ask {
		display: inline-flex;
		align-items: center;
	}
</style>

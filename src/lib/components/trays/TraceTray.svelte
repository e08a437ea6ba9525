<script lang="ts">
	import { start } from '$lib/stores/operations/starting';
	import { onMount } from 'svelte';
	import { Slider } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { TraceOperation } from '$lib/stores/operations/trace-operation.svelte';
	import { formatLength, formatNumber } from '$lib/core/units';
	import { CHANNELS, type Channel } from '$lib/core/trace/picture';
	import type { Way } from '$lib/core/trace/ways';
	import Choice from '../parts/Choice.svelte';
	import Groups from '../parts/Groups.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';
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
	const others = $derived(bench.references.filter((r) => r.pxPerMm !== undefined && !r.hidden));
	const WORDS: { value: Way; word: string; says: string }[] = [
		{ value: 'tone', word: 'Tone', says: 'What is darker than one threshold is ink: for clean scans.' },
		{
			value: 'local-tone',
			word: 'Tone nearby',
			says: 'What is darker than its own surroundings is ink: for light that is not the same everywhere.'
		},
		{
			value: 'alpha',
			word: 'Transparency',
			says: 'What is not transparent is ink: for pictures with a clear ground.'
		},
		{
			value: 'colours',
			word: 'Flat colours',
			says: 'Each flat colour becomes pieces on a layer of its own.'
		},
		{
			value: 'line-centre',
			word: 'Middle of lines',
			says: 'Drawn strokes become single lines along their middle.'
		},
		{
			value: 'levels',
			word: 'Level lines',
			says: 'Lines of the same grey at equal distances: for stacked layers.'
		}
	];
	const TONES: Way[] = ['tone', 'line-centre', 'levels'];
	const SWITCHES: {
		name: 'light' | 'evenLight' | 'denoise' | 'withBackground';
		on: string;
		off: string;
		says: string;
		ways: Way[];
	}[] = [
		{
			name: 'light',
			on: 'light on dark',
			off: 'dark on light',
			says: 'Which of the two is the drawing: what is dark, or what is light.',
			ways: ['tone', 'local-tone', 'line-centre']
		},
		{
			name: 'evenLight',
			on: 'shadows taken out',
			off: 'shadows left in',
			says: 'Takes slow changes of the light out before it looks for ink.',
			ways: TONES
		},
		{
			name: 'denoise',
			on: 'noise taken out',
			off: 'noise left in',
			says: 'Takes single pixels and grain out; edges stay where they are.',
			ways: TONES
		},
		{
			name: 'withBackground',
			on: 'the ground too',
			off: 'without the ground',
			says: 'Whether the colour that lies round everything becomes a piece as well.',
			ways: ['colours']
		}
	];
	const CHANNEL_WORDS: Record<Channel, string> = {
		lightness: 'its lightness',
		red: 'its red light',
		green: 'its green light',
		blue: 'its blue light',
		dye: 'how dyed it is'
	};
	const NUMBERS: {
		name: 'black' | 'white' | 'blur' | 'faint';
		label: string;
		says: string;
		suffix?: string;
		least: number;
		most: number;
		digits: number;
		placeholder?: string;
	}[] = [
		{
			name: 'black',
			label: 'Black from',
			says: 'Tones up to this one are taken as black (0 to 255).',
			least: 0,
			most: 254,
			digits: 0
		},
		{
			name: 'white',
			label: 'White from',
			says: 'Tones from this one on are taken as white (0 to 255).',
			least: 1,
			most: 255,
			digits: 0
		},
		{
			name: 'blur',
			label: 'Blur',
			says: 'Softens the picture by so many pixels before it is traced.',
			suffix: ' px',
			least: 0,
			most: 4,
			digits: 1
		},
		{
			name: 'faint',
			label: 'Faint ink up to',
			says: 'Fainter ink counts too, where it hangs on to darker ink.',
			least: 0,
			most: 255,
			digits: 0,
			placeholder: 'no'
		}
	];
	/** px^2: what is smaller than this may be the grain of paper. */
	const SPECK_PX = 64;
	function unprepared(): void {
		Object.assign(operation, { black: 0, white: 255, blur: 0, faint: undefined, channel: 'lightness' });
		operation.evenLight = operation.denoise = false;
		operation.change(0);
	}
	const groups = $derived([
		{ value: 'main', word: 'Ink and anchors', content: main },
		...(operation.way === 'colours' ? [] : [{ value: 'prepare', word: 'Prepare', content: prepare }]),
		{ value: 'finer', word: 'Finer', content: finer }
	]);
	/** The tray stands in some strokes, one after the other, so that the hand never waits for it. */
	let strokes = $state(0);
	onMount(() => {
		const next = (): void => {
			if (strokes < 3) timer = setTimeout(next);
			strokes++;
		};
		let timer = setTimeout(next);
		return () => clearTimeout(timer);
	});
	const plain = (n: number, word: string) => `${n} ${n === 1 ? word : word + 's'}`;
</script>

{#snippet main()}
	{#if operation.way === 'colours'}
		<NumberField
			label="Flat colours"
			says="How many flat colours the picture has, its paper counted."
			kind="number"
			digits={0}
			width={7}
			placeholder="by itself"
			value={operation.colours === 'auto' ? undefined : operation.colours}
			least={2}
			most={64}
			onset={(v) => operation.set({ colours: Math.round(v) })}
		/>
		<button
			class="word"
			disabled={operation.colours === 'auto'}
			aria-description="Lets the picture say how many colours it has."
			onclick={() => operation.set({ colours: 'auto' })}>found by itself</button
		>
		{#if result?.fills}
			<span class="dyes" data-fact="colours">
				{#each [...new Set(result.fills)] as fill (fill)}<i style:background={fill}></i>{/each}
			</span>
		{/if}
	{:else if operation.way === 'levels'}
		<NumberField
			label="Levels"
			says="How many greys lie between black and white."
			kind="number"
			digits={0}
			width={4}
			value={operation.levels}
			least={1}
			most={64}
			onset={(v) => operation.set({ levels: Math.round(v) })}
		/>
	{:else if strokes > 1}
		<Slider
			class="slider"
			value={[threshold]}
			min={1}
			max={254}
			step={1}
			aria-description="Darker than this is ink: farther right takes fainter ink too."
			onValueChange={(d) => operation.set({ threshold: d.value[0] }, 15)}
		>
			<Slider.Label>Ink</Slider.Label>
			<Slider.Control>
				<Slider.Track><Slider.Range /></Slider.Track>
				<Slider.Thumb index={0}><Slider.HiddenInput /></Slider.Thumb>
			</Slider.Control>
		</Slider>
		<NumberField
			label="Tone"
			labelHidden
			says="The tone below which all is ink, 0 to 255."
			kind="number"
			digits={0}
			width={4}
			value={Math.round(threshold)}
			least={0}
			most={255}
			onset={(v) => operation.set({ threshold: v })}
		/>
		<button
			class="word"
			disabled={operation.threshold === 'auto'}
			aria-description="Lets the picture say which tones are ink."
			onclick={() => operation.set({ threshold: 'auto' })}>found by itself</button
		>
	{/if}
	{#if strokes > 2}<Slider
			class="slider"
			value={[closeness]}
			min={-4}
			max={4}
			step={0.05}
			aria-description="Left: nearer to the picture's edge. Right: fewer anchors."
			onValueChange={(d) => operation.set({ tolerance: Math.pow(2, d.value[0]) / pxPerMm }, 15)}
		>
			<Slider.Label>True ↔ few anchors</Slider.Label>
			<Slider.Control>
				<Slider.Track><Slider.Range /></Slider.Track>
				<Slider.Thumb index={0}><Slider.HiddenInput /></Slider.Thumb>
			</Slider.Control>
		</Slider>{/if}
	<NumberField
		label="Within"
		labelHidden
		says="How far the outline may lie from the picture's edge."
		unit={bench.unit}
		width={9}
		value={operation.tolerance === 'auto' ? result?.tolerance : operation.tolerance}
		least={0.0001}
		onset={(v) => operation.set({ tolerance: v })}
	/>
	<button
		class="word"
		disabled={operation.tolerance === 'auto'}
		aria-description="As close as the sharpness of the picture allows."
		onclick={() => operation.set({ tolerance: 'auto' })}>from the picture</button
	>
{/snippet}

{#snippet prepare()}
	{#if operation.way !== 'alpha'}
		<label class="which" aria-description="Which light of the picture is looked at for its tones."
			><span class="quiet">Tones of</span>
			<select
				value={operation.channel}
				data-act="channel"
				onchange={(e) => operation.set({ channel: e.currentTarget.value as Channel, threshold: 'auto' })}
			>
				{#each CHANNELS as channel (channel)}<option value={channel}>{CHANNEL_WORDS[channel]}</option>{/each}
			</select></label
		>
	{/if}
	{#each NUMBERS as { name, label, says, suffix, least, most, digits, placeholder } (name)}
		<NumberField
			{label}
			{says}
			kind="number"
			{suffix}
			{digits}
			width={5}
			{least}
			{most}
			placeholder={placeholder ?? ''}
			value={operation[name]}
			onset={(v) => operation.set({ [name]: v })}
		/>
	{/each}
	<button class="word" onclick={unprepared} aria-description="Takes all preparing back." data-act="unprepared"
		>as it is</button
	>
{/snippet}

{#snippet finer()}
	{#each SWITCHES as { name, on, off, says, ways } (name)}
		{#if ways.includes(operation.way)}
			<Toggle
				{on}
				{off}
				{says}
				act={name}
				checked={operation[name]}
				onset={(checked) => operation.set({ [name]: checked })}
			/>
		{/if}
	{/each}
	{#if operation.way !== 'colours' && operation.way !== 'line-centre'}
		<Toggle
			on="tips that touch are one"
			off="tips that touch are apart"
			says="Whether ink that touches only at a tip, corner to corner of pixels, is one piece."
			act="diagonal"
			checked={operation.diagonal === 'join'}
			onset={(checked) => operation.set({ diagonal: checked ? 'join' : 'part' })}
		/>
	{/if}
	<NumberField
		label="Corner from"
		says="Sharper turns than this stay corners; gentler ones become curves."
		kind="number"
		suffix="°"
		digits={0}
		width={4}
		value={operation.cornerAngle}
		least={5}
		most={170}
		onset={(v) => operation.set({ cornerAngle: v })}
	/>
	<NumberField
		label="No specks below"
		says="Pieces and holes smaller than this area are left out."
		kind="number"
		suffix=" mm²"
		width={9}
		placeholder="by itself"
		value={operation.leastArea === 'auto' ? undefined : operation.leastArea}
		least={0}
		onset={(v) => operation.set({ leastArea: v })}
	/>
{/snippet}

{#snippet grain()}
	{#if operation.problem?.code === 'grain'}
		<span data-testid="grain">
			{#if operation.threshold !== 'auto'}
				<button class="word" onclick={() => operation.set({ threshold: 'auto' })} data-act="mend-grain"
					>Find the threshold by itself</button
				>
			{:else}
				<button
					class="word"
					onclick={() => operation.set({ leastArea: SPECK_PX / (pxPerMm * pxPerMm) })}
					data-act="mend-grain">Leave out what is small</button
				>
			{/if}
			<button class="word" onclick={() => operation.set({ grain: true })} data-act="take-grain"
				>Follow it all the same</button
			>
		</span>
	{/if}
{/snippet}

<div class="rows">
	<div class="row">
		<Choice
			label="By what"
			says="By what the picture's ink is found."
			value={operation.way}
			items={WORDS}
			onpick={(v) => operation.set({ way: v as Way, threshold: 'auto' })}
		/>
		{#if others.length > 1}
			<label class="which" aria-description="Which of the pictures is traced."
				><span class="quiet">of</span>
				<select
					value={operation.reference.id}
					data-act="which-picture"
					onchange={(e) => {
						const next = others.find((r) => r.id === e.currentTarget.value);
						if (next) start(bench, 'trace', next, operation.way);
					}}
				>
					{#each others as r (r.id)}<option value={r.id}>{r.name}</option>{/each}
				</select></label
			>
		{/if}
		{#if operation.lasso}
			<button class="word" onclick={() => operation.setLasso(undefined)} data-act="whole-picture"
				>the whole picture again</button
			>
		{/if}
		{#if operation.earlier.length}
			<Toggle
				on="the {plain(operation.earlier.length, 'earlier line')} {operation.earlier.length === 1
					? 'goes'
					: 'go'}"
				off="beside the {plain(operation.earlier.length, 'earlier line')}"
				says="Whether lines that were traced from this picture before go, with what was done to them since; undo brings them back."
				act="replace-traced"
				checked={operation.replaces}
				onset={(checked) => (operation.replaces = checked)}
			/>
		{/if}
		<Toggle
			on="as the tracer sees it"
			off="the picture itself"
			says="Shows the picture as it is prepared, half beside the picture itself."
			act="seen"
			checked={operation.seeing}
			onset={(checked) => operation.showSeen(checked)}
		/>
	</div>
	{#if strokes > 0}<Groups {groups} label="Settings of the trace" />{/if}
	<OperationStrip {bench} keepWord="Keep the outlines" mends={grain}>
		{#snippet facts()}
			{#if result}
				<span
					><b data-fact="outlines">{result.paths.length}</b>
					{result.paths.length === 1 ? 'outline' : 'outlines'}</span
				>
				<span><b data-fact="anchors">{result.anchors}</b> anchors</span>
				<span
					>at worst <b data-fact="worst">{formatLength(result.worst, bench.unit)}</b>
					({formatNumber(result.worst * pxPerMm, 2)} px) from the edge, on average
					<b data-fact="mean">{formatLength(result.mean, bench.unit)}</b>
					({formatNumber(result.mean * pxPerMm, 2)} px)
					<button class="word" onclick={() => bench.seeWorst()} data-act="see-worst">see the worst</button
					></span
				>
				{#if result.widths}<span
						>strokes <b data-fact="stroke"
							>{formatLength(
								[...result.widths].sort((a, b) => a - b)[result.widths.length >> 1] ?? 0,
								bench.unit
							)}</b
						> wide</span
					>{/if}
				{#if result.ground && operation.way === 'colours'}
					<span class="quiet" data-fact="ground"
						>the ground <i class="dye" style:background={result.ground}></i> is left out</span
					>
					<button class="word" onclick={() => operation.set({ withBackground: true })} data-act="take-ground"
						>take it too</button
					>
				{/if}
				{#if result.dropped}<span class="quiet">{plain(result.dropped, 'speck')} left out</span>{/if}
			{/if}
		{/snippet}
	</OperationStrip>
</div>

<style>
	.which {
		display: inline-flex;
		gap: 6px;
		align-items: baseline;
	}
	.which select {
		border: 0;
		border-bottom: 1.5px dotted var(--slip-edge);
		background: transparent;
		font: inherit;
		padding: 1px 4px;
		max-width: 150px;
	}
	.dyes {
		display: inline-flex;
		gap: 3px;
	}
	.dyes i,
	.dye {
		display: inline-block;
		width: 14px;
		height: 14px;
		border: 1px solid var(--slip-edge);
	}
</style>

<script lang="ts">
	import { start } from '$lib/stores/operations/starting';
	import { Slider, Switch } from '@skeletonlabs/skeleton-svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { TraceOperation } from '$lib/stores/operations/trace-operation.svelte';
	import { formatLength, formatNumber } from '$lib/core/units';
	import { CHANNELS, type Channel } from '$lib/core/trace/picture';
	import type { Way } from '$lib/core/trace/ways';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
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
	const WORDS: { value: Way; word: string }[] = [
		{ value: 'tone', word: 'Tone' },
		{ value: 'local-tone', word: 'Tone nearby' },
		{ value: 'alpha', word: 'Transparency' },
		{ value: 'colours', word: 'Flat colours' },
		{ value: 'line-centre', word: 'Middle of lines' },
		{ value: 'levels', word: 'Level lines' }
	];
	const TONES: Way[] = ['tone', 'line-centre', 'levels'];
	const SWITCHES: {
		name: 'light' | 'evenLight' | 'denoise' | 'withBackground';
		word: string;
		ways: Way[];
	}[] = [
		{ name: 'light', word: 'Light on dark', ways: ['tone', 'local-tone', 'line-centre'] },
		{ name: 'evenLight', word: 'Even out the light', ways: TONES },
		{ name: 'denoise', word: 'Less noise', ways: TONES },
		{ name: 'withBackground', word: 'The ground too', ways: ['colours'] }
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
		suffix?: string;
		least: number;
		most: number;
		digits: number;
		placeholder?: string;
	}[] = [
		{ name: 'black', label: 'Black from', least: 0, most: 254, digits: 0 },
		{ name: 'white', label: 'White from', least: 1, most: 255, digits: 0 },
		{ name: 'blur', label: 'Blur', suffix: ' px', least: 0, most: 4, digits: 1 },
		{
			name: 'faint',
			label: 'Ink that hangs on counts up to',
			least: 0,
			most: 255,
			digits: 0,
			placeholder: 'no'
		}
	];
	/** px^2: what is smaller than this may be the grain of paper. */
	const SPECK_PX = 64;
	let preparing = $state(false);
	function unprepared(): void {
		Object.assign(operation, { black: 0, white: 255, blur: 0, faint: undefined, channel: 'lightness' });
		operation.evenLight = operation.denoise = false;
		operation.change(0);
	}
	const plain = (n: number, word: string) => `${n} ${n === 1 ? word : word + 's'}`;
</script>

<div class="rows">
	<div class="row">
		<Choice
			label="By what"
			value={operation.way}
			items={WORDS}
			onpick={(v) => operation.set({ way: v as Way, threshold: 'auto' })}
		/>
		{#if others.length > 1}
			<label class="which"
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
		<button class="word" aria-expanded={preparing} onclick={() => (preparing = !preparing)} data-act="prepare"
			>{preparing ? 'less' : 'prepare the picture'}</button
		>
	</div>
	{#if preparing && operation.way !== 'colours'}
		<div class="row prepare">
			{#if operation.way !== 'alpha'}
				<label class="which"
					><span class="quiet">Tones of</span>
					<select
						value={operation.channel}
						data-act="channel"
						onchange={(e) => operation.set({ channel: e.currentTarget.value as Channel, threshold: 'auto' })}
					>
						{#each CHANNELS as channel (channel)}<option value={channel}>{CHANNEL_WORDS[channel]}</option
							>{/each}
					</select></label
				>
			{/if}
			{#each NUMBERS as { name, label, suffix, least, most, digits, placeholder } (name)}
				<NumberField
					{label}
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
			<button class="word" onclick={unprepared} data-act="unprepared">as it is</button>
		</div>
	{/if}
	<div class="row">
		{#if operation.way === 'colours'}
			<NumberField
				label="Flat colours, paper counted"
				kind="number"
				digits={0}
				width={4}
				placeholder="by itself"
				value={operation.colours === 'auto' ? undefined : operation.colours}
				least={2}
				most={64}
				onset={(v) => operation.set({ colours: Math.round(v) })}
			/>
			<button
				class="word"
				disabled={operation.colours === 'auto'}
				onclick={() => operation.set({ colours: 'auto' })}>found by itself</button
			>
			{#if result?.fills}
				<span class="dyes" data-fact="colours">
					{#each [...new Set(result.fills)] as fill (fill)}<i style:background={fill} title={fill}></i>{/each}
				</span>
			{/if}
		{:else if operation.way === 'levels'}
			<NumberField
				label="Levels"
				kind="number"
				digits={0}
				width={4}
				value={operation.levels}
				least={1}
				most={64}
				onset={(v) => operation.set({ levels: Math.round(v) })}
			/>
		{:else}
			<Slider
				class="slider"
				value={[threshold]}
				min={1}
				max={254}
				step={1}
				onValueChange={(d) => operation.set({ threshold: d.value[0] }, 15)}
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
				onset={(v) => operation.set({ threshold: v })}
			/>
			<button
				class="word"
				disabled={operation.threshold === 'auto'}
				onclick={() => operation.set({ threshold: 'auto' })}>found by itself</button
			>
		{/if}
		{#each SWITCHES as { name, word, ways } (name)}
			{#if ways.includes(operation.way)}
				<Switch
					class="switch"
					checked={operation[name]}
					onCheckedChange={(d) => operation.set({ [name]: d.checked })}
				>
					<Switch.Control><Switch.Thumb /></Switch.Control>
					<Switch.Label>{word}</Switch.Label>
					<Switch.HiddenInput />
				</Switch>
			{/if}
		{/each}
		<Switch
			class="switch"
			checked={operation.seeing}
			onCheckedChange={(d) => operation.showSeen(d.checked)}
			data-act="seen"
		>
			<Switch.Control><Switch.Thumb /></Switch.Control>
			<Switch.Label>Show what is traced</Switch.Label>
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
			onValueChange={(d) => operation.set({ tolerance: Math.pow(2, d.value[0]) / pxPerMm }, 15)}
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
			onset={(v) => operation.set({ tolerance: v })}
		/>
		<button
			class="word"
			disabled={operation.tolerance === 'auto'}
			onclick={() => operation.set({ tolerance: 'auto' })}>from the picture</button
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
			onset={(v) => operation.set({ cornerAngle: v })}
		/>
		<NumberField
			label="No specks below"
			kind="number"
			suffix=" mm²"
			width={9}
			placeholder="by itself"
			value={operation.leastArea === 'auto' ? undefined : operation.leastArea}
			least={0}
			onset={(v) => operation.set({ leastArea: v })}
		/>
		{#if operation.way !== 'colours' && operation.way !== 'line-centre'}
			<Switch
				class="switch"
				checked={operation.diagonal === 'join'}
				onCheckedChange={(d) => operation.set({ diagonal: d.checked ? 'join' : 'part' })}
				data-act="diagonal"
			>
				<Switch.Control><Switch.Thumb /></Switch.Control>
				<Switch.Label>Ink that touches at a tip is one</Switch.Label>
				<Switch.HiddenInput />
			</Switch>
		{/if}
	</div>
	{#if operation.problem?.code === 'grain'}
		<div class="row" data-testid="grain">
			{#if operation.threshold !== 'auto'}
				<button class="word strong" onclick={() => operation.set({ threshold: 'auto' })} data-act="mend-grain"
					>Find the threshold by itself</button
				>
			{:else}
				<button
					class="word strong"
					onclick={() => operation.set({ leastArea: SPECK_PX / (pxPerMm * pxPerMm) })}
					data-act="mend-grain">Leave out what is small</button
				>
			{/if}
			<button class="word" onclick={() => operation.set({ grain: true })} data-act="take-grain"
				>Follow it all the same</button
			>
		</div>
	{/if}
	<OperationStrip {bench} keepWord="Keep the outlines">
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
						>the ground <i class="dye" style:background={result.ground} title={result.ground}></i> is left out</span
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
	.rows {
		width: min(880px, calc(100vw - 40px));
	}
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
		padding: 2px 4px;
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
	.row :global(.slider) {
		flex: 1 1 210px;
		max-width: 270px;
	}
</style>

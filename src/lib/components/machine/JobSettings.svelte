<script lang="ts">
	/** How one job is done, in groups: where the tool goes, how deep, how it comes and goes, what holds, in which order. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { MachiningOperation } from '$lib/stores/machining/machining.svelte';
	import type { CutOrder, CutSide, Job } from '$lib/core/document/job';
	import Choice from '../parts/Choice.svelte';
	import CutsStrip from './CutsStrip.svelte';
	import Groups from '../parts/Groups.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Toggle from '../parts/Toggle.svelte';

	let { bench, operation, job }: { bench: Bench; operation: MachiningOperation; job: Job } = $props();
	const how = $derived(job.how);
	const kind = $derived(job.tool.tool.kind);
	const isCutter = $derived(kind === 'cutter');
	const isWide = $derived(kind === 'cutter' || kind === 'beam');
	const isVee = $derived(job.tool.tool.kind === 'cutter' && job.tool.tool.shape === 'vee');
	const isBeside = $derived(job.side === 'outside' || job.side === 'inside');
	/** Areas have no way round them: no tabs, no leads. */
	const isArea = $derived(job.side === 'clear' || job.side === 'groove');
	const sides = $derived(
		[
			{
				value: 'outside',
				word: 'Outside',
				says: 'The pieces come out true to size: outside their outlines, inside their holes.'
			},
			{ value: 'inside', word: 'Inside', says: 'The openings come out true to size.' },
			{ value: 'on', word: 'On the line', says: 'The middle of the tool goes along the line.' },
			{ value: 'clear', word: 'Clear', says: 'Everything inside is taken away down to the depth.' },
			{
				value: 'groove',
				word: 'V groove',
				says: 'The tip runs along the middle, as deep as what is drawn is wide there.'
			}
		].filter(({ value }) =>
			value === 'on' ? true : value === 'groove' ? isVee : value === 'clear' ? isCutter : isWide
		)
	);
	const speedWord = $derived(isCutter ? 'Turns' : kind === 'beam' ? 'Power' : 'Pressure');
	const groups = $derived([
		{ value: 'where', word: 'Where', content: where },
		...(isWide && isBeside ? [{ value: 'fit', word: 'Fit', content: fit }] : []),
		...(isCutter ? [{ value: 'deep', word: 'Depth', content: deep }] : []),
		{ value: 'fast', word: 'Speed', content: fast },
		...(isWide && !isArea && job.side !== 'drill' ? [{ value: 'tabs', word: 'Tabs', content: tabs }] : []),
		...(job.side !== 'groove' && job.side !== 'drill'
			? [{ value: 'ends', word: 'Coming and going', content: ends }]
			: []),
		{ value: 'order', word: 'Order', content: order }
	]);
</script>

{#snippet where()}
	{#if job.side === 'drill'}<span class="quiet">Straight down at each mark and circle.</span>
	{:else}
		<Choice
			label="Where the tool goes"
			says="Where the tool goes."
			value={job.side}
			items={sides}
			onpick={(side) => operation.setJob(job, { side: side as CutSide })}
		/>
	{/if}
	{#if job.side === 'clear'}
		<NumberField
			label="Step"
			says="How far apart neighbouring turns lie, as a share of the tool's width; half leaves nothing between them."
			kind="number"
			digits={2}
			width={5}
			value={how.step ?? 0.4}
			least={0.05}
			most={0.5}
			onset={(step) => operation.setHow(job, { step })}
		/>
	{/if}
	{#if job.side === 'clear'}
		<Choice
			label="How it is cleared"
			says="Turns inside each other, or parallel lines and then once along the edge."
			value={how.pattern ?? 'turns'}
			items={[
				{ value: 'turns', word: 'Turns' },
				{ value: 'lines', word: 'Lines' }
			]}
			onpick={(pattern) => operation.setHow(job, { pattern: pattern as 'turns' | 'lines' })}
		/>
		{#if how.pattern === 'lines'}
			<NumberField
				label="at"
				says="The angle of the lines, from the right, anticlockwise."
				kind="number"
				suffix="°"
				digits={1}
				width={6}
				value={how.angle ?? 0}
				onset={(angle) => operation.setHow(job, { angle })}
			/>
		{/if}
	{/if}
	{#if job.side === 'clear'}
		<NumberField
			label="after a tool of"
			says="The diameter of a larger tool that went before: only what it left is cleared. 0 clears everything."
			unit={bench.unit}
			value={how.rest ?? 0}
			least={0}
			most={500}
			onset={(rest) => operation.setHow(job, { rest: rest || undefined })}
		/>
	{/if}
	<Toggle
		on="It is done"
		off="It is left out"
		checked={!job.off}
		says="Whether this job is done; it is kept either way."
		act="job-on"
		onset={(on) => operation.setJob(job, { off: !on })}
	/>
	<button
		class="word"
		data-act="remove-job"
		aria-description="Takes this job off the list; undo brings it back."
		onclick={() => operation.removeJob(job)}>take it away</button
	>
{/snippet}

{#snippet fit()}
	{#if isCutter}
		<Choice
			label="Tight corners"
			says="Inside corners that the tool cannot reach: they stay round, or are opened so that a square part goes in."
			value={how.relief ?? 'none'}
			items={[
				{ value: 'none', word: 'Round corners' },
				{ value: 'corner', word: 'Opened' },
				{ value: 'side', word: 'Along a side' }
			]}
			onpick={(relief) => operation.setHow(job, { relief: relief as NonNullable<typeof how.relief> })}
		/>
	{/if}
	<NumberField
		label="Openings wider by"
		says="Holes and slots come out this much wider than drawn, so that parts go in; what was measured of the material stands here."
		unit={bench.unit}
		value={how.play ?? 0}
		least={0}
		most={100}
		onset={(play) => operation.setHow(job, { play: play || undefined })}
	/>
{/snippet}

{#snippet deep()}
	<NumberField
		label="Depth"
		says="How deep it goes in all, from the top of the material."
		unit={bench.unit}
		value={how.depth}
		least={0.01}
		most={500}
		onset={(depth) => operation.setHow(job, { depth })}
	/>
	<NumberField
		label="in passes of"
		says="No pass goes deeper than this at once."
		unit={bench.unit}
		value={how.pass ?? how.depth}
		least={0.01}
		most={500}
		onset={(pass) => operation.setHow(job, { pass })}
	/>
	<NumberField
		label="Ramp"
		says="It goes down along the line at this slope; 90 goes straight down."
		kind="number"
		suffix="°"
		digits={1}
		width={5}
		value={how.ramp ?? 90}
		least={0.2}
		most={90}
		onset={(ramp) => operation.setHow(job, { ramp: ramp >= 90 ? undefined : ramp })}
	/>
	<NumberField
		label="Travels at"
		says="The height over the material at which it goes from cut to cut."
		unit={bench.unit}
		value={how.safe ?? 5}
		least={1}
		most={500}
		onset={(safe) => operation.setHow(job, { safe })}
	/>
{/snippet}

{#snippet fast()}
	<NumberField
		label="Feed"
		says="How fast it goes along, in millimetres a minute."
		kind="number"
		suffix=" mm/min"
		digits={0}
		width={11}
		value={how.feed}
		least={1}
		most={200000}
		onset={(feed) => operation.setHow(job, { feed })}
	/>
	{#if isCutter}
		<NumberField
			label="Down"
			says="How fast it goes down, in millimetres a minute."
			kind="number"
			suffix=" mm/min"
			digits={0}
			width={11}
			value={how.plunge ?? how.feed / 3}
			least={1}
			most={200000}
			onset={(plunge) => operation.setHow(job, { plunge })}
		/>
	{:else}
		<NumberField
			label="Times round"
			says="How often it goes over each line."
			kind="number"
			digits={0}
			width={4}
			value={how.passes ?? 1}
			least={1}
			most={100}
			onset={(passes) => operation.setHow(job, { passes: Math.round(passes) })}
		/>
	{/if}
	<NumberField
		label={speedWord}
		says={isCutter ? 'Turns of the spindle in a minute.' : 'How strong it is, in the numbers of the machine.'}
		kind="number"
		digits={0}
		width={7}
		value={how.speed}
		least={0}
		most={100000}
		onset={(speed) => operation.setHow(job, { speed })}
	/>
{/snippet}

{#snippet tabs()}
	<Toggle
		on="Tabs hold the pieces"
		off="No tabs"
		checked={how.tabs !== undefined}
		says="Short stretches that stay, so that pieces do not come loose while it cuts."
		act="tabs"
		onset={(on) => operation.setTabs(job, on ? {} : undefined)}
	/>
	{#if how.tabs}
		<NumberField
			label="How many"
			says="So many on each outer outline; those moved by hand stay where they are."
			kind="number"
			digits={0}
			width={4}
			value={how.tabs.count ?? 3}
			least={0}
			most={100}
			onset={(count) =>
				operation.setTabs(job, { count: Math.round(count), spacing: undefined, places: undefined })}
		/>
		<NumberField
			label="Wide"
			says="How much material stays along the line."
			unit={bench.unit}
			value={how.tabs.width}
			least={0.1}
			most={100}
			onset={(width) => operation.setTabs(job, { width })}
		/>
		{#if isCutter}
			<NumberField
				label="High"
				says="How much of the thickness stays, from below."
				unit={bench.unit}
				value={how.tabs.height}
				least={0.05}
				most={(how.depth ?? 1) - 0.01}
				onset={(height) => operation.setTabs(job, { height })}
			/>
		{/if}
		<button
			class="word"
			data-act="next-tab"
			aria-description="Goes from tab to tab; the arrows then move it along its line, with Shift by ten times as much; Delete takes it away."
			onclick={() => operation.marks.nextTab(job)}
			onkeydown={(e) => {
				const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[e.key];
				const took =
					by !== undefined
						? operation.marks.slideTab(job, by * (e.shiftKey ? 10 : 1))
						: (e.key === 'Delete' || e.key === 'Backspace') && operation.marks.takeTab(job);
				if (!took) return;
				e.preventDefault();
				e.stopPropagation();
			}}>next tab</button
		>
	{/if}
{/snippet}

{#snippet ends()}
	{#if isCutter && job.side !== 'on' && job.side !== 'drill' && job.side !== 'groove'}
		<Toggle
			on="Climb"
			off="Conventional"
			checked={(how.way ?? 'climb') === 'climb'}
			says="Which way round: with the turning cutter's edge (climb), or against it."
			onset={(climb) => operation.setHow(job, { way: climb ? 'climb' : 'conventional' })}
		/>
	{/if}
	{#if isWide && !isArea}
		<NumberField
			label="Lead"
			says="It comes and goes on an arc of this radius out of what falls away; shorter where there is less room."
			unit={bench.unit}
			value={how.lead ?? 0}
			least={0}
			most={100}
			onset={(lead) => operation.setHow(job, { lead })}
		/>
		{#if how.lead}
			<Toggle
				on="On an arc"
				off="On a straight"
				checked={(how.leadKind ?? 'arc') === 'arc'}
				says="The shape of the way in and out."
				onset={(arc) => operation.setHow(job, { leadKind: arc ? 'arc' : 'line' })}
			/>
		{/if}
	{/if}
	{#if !isArea}
		<NumberField
			label="Overcut"
			says="How far it goes on past its start, so that the end is cut through."
			unit={bench.unit}
			value={how.overcut ?? job.tool.overcut ?? 0}
			least={0}
			most={100}
			onset={(overcut) => operation.setHow(job, { overcut })}
		/>
	{/if}
	{#if how.starts}
		<button
			class="word"
			aria-description="Starts moved by hand go back to where they serve the way best."
			onclick={() => operation.setHow(job, { starts: undefined }, 'Free the starts')}>free the starts</button
		>
	{/if}
{/snippet}

{#snippet order()}
	<Choice
		label="Which first"
		says="What lies within another always comes before it."
		value={how.order ?? 'short'}
		items={[
			{
				value: 'short',
				word: 'Shortest way',
				says: 'What lies within comes first; else the shortest way from cut to cut.'
			},
			{
				value: 'small',
				word: 'Small pieces first',
				says: 'Small before large, where pieces may come loose.'
			},
			{
				value: 'pieces',
				word: 'Piece by piece',
				says: 'All that lies in a piece and then the piece, before the next.'
			}
		]}
		onpick={(o) => operation.setHow(job, { order: o as CutOrder })}
	/>
	{#if !isArea && job.side !== 'drill'}
		<Toggle
			on="Shared lines once"
			off="Each line whole"
			checked={how.common ?? false}
			says="Straights that two neighbouring pieces share are cut once: pieces may lie as near as the tool is wide."
			onset={(common) => operation.setHow(job, { common: common || undefined })}
		/>
	{/if}
	{#if operation.cutsOf(job).length}
		<CutsStrip
			cuts={operation.cutsOf(job)}
			onpick={(i) => operation.seeCut(job, i)}
			onmove={(from, before) => operation.moveCut(job, from, before)}
		/>
	{/if}
	{#if how.fixed}
		<button
			class="word"
			data-act="free-order"
			aria-description="The order is found anew."
			onclick={() => operation.setHow(job, { fixed: undefined }, 'Free the order')}>free the order</button
		>
	{/if}
{/snippet}

<Groups {groups} label="Settings of the job" bind:picked={operation.group} />

<script lang="ts">
	/** The sheet made ready for a machine: what it is cut on, with and from; the jobs; what they come to and where they go. */
	import { sheetsOf } from '$lib/core/document/drawing';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { MachiningOperation } from '$lib/stores/machining/machining.svelte';
	import { openMachineBench, writeMachineFile } from '$lib/stores/machining/sending';
	import { workshop } from '$lib/stores/machining/workshop.svelte';
	import { formatLength } from '$lib/core/units';
	import { toScreen } from '$lib/render/view';
	import BroughtRow from './BroughtRow.svelte';
	import JobSettings from './JobSettings.svelte';
	import Pick from '../parts/Pick.svelte';
	import WatchRow from './WatchRow.svelte';

	let { bench, operation }: { bench: Bench; operation: MachiningOperation } = $props();
	const setup = $derived(operation.setup);
	const sheets = $derived(sheetsOf(bench.drawing));
	const isVee = $derived(setup?.tool.tool.kind === 'cutter' && setup.tool.tool.shape === 'vee');
	const machines = $derived(workshop.has.machines);
	const tools = $derived(workshop.has.tools.filter((t) => t.machine === setup?.machine.kind));
	const materials = $derived(workshop.has.materials.filter((m) => setup && m.settings[setup.machine.kind]));
	const jobs = $derived(operation.jobs);
	const chosen = $derived(operation.chosen);
	const cuts = $derived(operation.planned.reduce((sum, p) => sum + (p.plan?.cuts.length ?? 0), 0));
	const corners = $derived(operation.planned.reduce((sum, p) => sum + p.uncut.length, 0));
	const area = $derived(
		operation.planned.reduce((sum, p) => sum + (p.plan?.uncut.reduce((all, u) => all + u.area, 0) ?? 0), 0)
	);
	const minutes = $derived.by(() => {
		const s = Math.round(operation.seconds);
		return s < 60 ? `${s} s` : `${Math.floor(s / 60)} min ${s % 60} s`;
	});
	/** Where tabs lie in the window, px: what the surface shows, told in the page as well. */
	const tabPlaces = $derived(
		operation.planned.flatMap((p) =>
			p.shown.flatMap((cut) =>
				cut.tabs.map((tab) => {
					const { x, y } = toScreen(bench.sight.view, bench.sight.size, tab.x, tab.y);
					return `${x.toFixed(1)} ${y.toFixed(1)}`;
				})
			)
		)
	);
	const stopping = $derived(bench.readiness.faults.filter((f) => f.stops).length);
	const ready = $derived(cuts > 0 && !operation.busy && !operation.problem);
</script>

{#snippet choice(
	word: string,
	says: string,
	name: 'machine' | 'tool' | 'material',
	value: string | undefined,
	items: readonly { id: string; name: string }[]
)}
	<Pick
		label={word}
		{says}
		{name}
		{value}
		items={items.map(({ id, name: word }) => ({ value: id, word }))}
		onpick={(id) => operation.wish({ [name]: id })}
	/>
{/snippet}

<div class="rows">
	{#if operation.watching}
		<WatchRow {bench} {operation} watching={operation.watching} />
	{:else if operation.brought}
		<BroughtRow {bench} {operation} brought={operation.brought} />
	{:else}
		<div class="row">
			{@render choice('on', 'The machine that does it.', 'machine', setup?.machine.id, machines)}
			{@render choice('with', 'The tool that it takes.', 'tool', setup?.tool.id, tools)}
			{@render choice(
				'from',
				'What it is cut from; feeds and depth come from it.',
				'material',
				setup?.material.id,
				materials
			)}
			{#if sheets.length > 1}
				<Pick
					label="sheet"
					says="Which of the sheets lies on the machine: what lies on the others is not cut now."
					name="work-sheet"
					value={operation.sheet?.id}
					items={sheets.map(({ id, name }) => ({ value: id, word: name }))}
					onpick={(sheetId) => operation.set({ sheetId })}
				/>
			{/if}
			<button
				class="word"
				data-act="workshop"
				aria-description="Machines, tools and materials of this workshop: yours to change, and to take elsewhere."
				onclick={() => (bench.sheet = 'workshop')}>workshop …</button
			>
			{#if jobs.length === 0}
				<button
					class="word strong"
					disabled={!setup}
					data-act="make-jobs"
					aria-description="From the purposes of the layers: what is scored first, what is cut out last."
					onclick={() => operation.make()}>Make the jobs</button
				>
			{:else}
				<div class="jobs" role="tablist" aria-label="Jobs in their order">
					{#each jobs as job, i (job.id)}
						<button
							role="tab"
							aria-selected={job.id === chosen?.id}
							class:off={job.off}
							data-job={job.name}
							aria-description="Its settings; jobs are done from left to right."
							onclick={() => operation.choose(job.id)}>{i + 1}. {job.name}</button
						>
					{/each}
				</div>
				<button
					class="word"
					data-act="add-job"
					aria-description={isVee
						? 'One more job for the outlines that are selected: a groove as deep as they are wide.'
						: 'One more job for the outlines that are selected: everything inside them is taken away.'}
					onclick={() => operation.add(isVee ? 'groove' : 'clear')}>{isVee ? '+ V groove' : '+ clear'}</button
				>
			{/if}
		</div>
		<div hidden>
			{#each tabPlaces as place, i (i)}<span data-tab={place}></span>{/each}
		</div>
		{#if chosen}<JobSettings {bench} {operation} job={chosen} />{/if}
		<div class="row">
			<div class="facts" role="status" data-testid="machine-facts">
				{#if operation.busy}
					<span class="quiet"
						>planning {operation.progress > 0 ? `${Math.round(100 * operation.progress)} %` : '…'}</span
					>
				{:else if operation.problem}
					<span class="trouble">{operation.problem.sentence}</span>
				{:else if cuts}
					<span><b data-fact="cuts">{cuts}</b> cuts</span>
					<span><b data-fact="time">{minutes}</b></span>
					<span><b data-fact="length">{formatLength(operation.cutLength, bench.unit)}</b></span>
					{#if corners}
						<span class="quiet"
							><b data-fact="corners">{corners}</b>
							{corners === 1 ? 'corner stays' : 'corners stay'}, {area < 0.1
								? area.toFixed(3)
								: area.toFixed(1)} mm²</span
						>
					{/if}
					{#if stopping}
						<button
							class="word"
							data-act="to-knots"
							aria-description="Goes to the first of them."
							onclick={() => bench.readiness.next()}
							>{stopping} {stopping === 1 ? 'thing is' : 'things are'} to be mended</button
						>
					{/if}
					{#if operation.warnings.length}<span class="trouble">{operation.warnings[0]}</span>{/if}
				{:else if jobs.length}
					<span class="quiet">All jobs are off.</span>
				{/if}
			</div>
			<button
				class="word"
				disabled={!ready}
				data-act="watch"
				aria-description="The tool runs along its way, and you see what it takes away."
				onclick={() => operation.watch()}>Watch it</button
			>
			<button
				class="word strong"
				disabled={!ready}
				data-act="write-machine"
				aria-description="Writes the file that the machine reads."
				onclick={() => writeMachineFile(bench, operation)}
				>{(jobs[0]?.machine.language ?? setup?.machine.language) === 'hpgl' ? 'HP-GL' : 'G-code'}</button
			>
			<button
				class="word strong"
				disabled={!ready}
				data-act="to-machine"
				aria-description="Lays the job on the machine's own bench, where it is sent line by line."
				onclick={() => openMachineBench(bench, operation)}>To the machine</button
			>
			<button
				class="word"
				data-act="leave"
				aria-description="Goes back to the drawing; the jobs stay (Esc)."
				onclick={() => bench.dropOperation()}>Leave</button
			>
		</div>
	{/if}
</div>

<style>
	.rows {
		display: grid;
		gap: 4px;
	}
	.jobs {
		display: inline-flex;
		gap: 2px;
	}
	.jobs button {
		height: 30px;
		padding: 0 10px;
		border: none;
		background: none;
		color: inherit;
		font: inherit;
		border-bottom: 2px solid transparent;
	}
	.jobs button[aria-selected='true'] {
		border-bottom-color: var(--madder);
		font-weight: 600;
	}
	.off {
		text-decoration: line-through;
		color: var(--soft);
	}
	.facts {
		flex: 1;
		display: flex;
		gap: 4px 14px;
		min-width: 0;
	}
	.trouble {
		color: var(--rust);
	}
</style>

<script lang="ts">
	/** A sheet from the scanner: settings, progress, stop. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { ScanJob } from '$lib/stores/files/scan.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, onend }: { bench: Bench; onend: () => void } = $props();
	const job = new ScanJob();
	const resolutions = $derived(
		(job.state?.resolutions ?? [200]).map((r) => ({ value: String(r), word: `${r}` }))
	);

	async function scan(): Promise<void> {
		const file = await job.scan();
		if (!file) return;
		await bench.pictures.add(file);
		onend();
	}
</script>

<div class="row" role="status">
	{#if job.running}
		<span>scanning <b data-fact="scanned">{Math.round(100 * (job.state?.progress ?? 0))} %</b></span>
		<progress max="1" value={job.state?.progress ?? 0}></progress>
		<button class="word" onclick={() => job.stop()}>stop</button>
	{:else}
		<span class="quiet">dpi</span>
		<Choice
			label="Resolution, dpi"
			says="How many pixels in an inch: more is finer and slower."
			value={String(job.dpi)}
			items={resolutions}
			onpick={(v) => (job.dpi = Number(v))}
		/>
		<Choice
			label="Tones"
			says="Grey is enough for ink; colour is needed for flat colours."
			value={job.colour ? 'colour' : 'grey'}
			items={[
				{ value: 'grey', word: 'Grey' },
				{ value: 'colour', word: 'Colour' }
			]}
			onpick={(v) => (job.colour = v === 'colour')}
		/>
		<NumberField
			label="Wide"
			says="How wide the scanned part of the bed is."
			unit={bench.unit}
			value={job.width}
			least={5}
			most={297}
			onset={(v) => (job.width = v)}
		/>
		<NumberField
			label="High"
			says="How high the scanned part of the bed is."
			unit={bench.unit}
			value={job.height}
			least={5}
			most={210}
			onset={(v) => (job.height = v)}
		/>
		<button class="word strong" onclick={() => void scan()} data-act="scan-now">Scan</button>
		<button class="word" onclick={onend} data-act="leave-scan">Leave</button>
	{/if}
	{#if job.problem}<span class="trouble">{job.problem.sentence}</span>{/if}
</div>

<style>
	progress {
		accent-color: var(--woad);
	}
	.trouble {
		color: var(--rust);
	}
</style>

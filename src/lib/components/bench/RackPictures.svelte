<script lang="ts">
	/** At the end of the rack: the pictures and the jobs. */
	import type { Job } from '$lib/core/document/job';
	import type { Bench } from '$lib/stores/bench.svelte';

	let { bench, jobs }: { bench: Bench; jobs: readonly Job[] } = $props();
</script>

{#if bench.references.length}
	<ul aria-label="Pictures">
		{#each bench.references as reference (reference.id)}
			<li class:turned={reference.hidden}>
				<span class="name">{reference.name}</span>
				<button
					class="word"
					onclick={() =>
						bench.commit(reference.hidden ? 'Show the picture' : 'Hide the picture', {
							put: [{ ...reference, hidden: !reference.hidden }]
						})}>{reference.hidden ? 'show' : 'hide'}</button
				>
				<button
					class="word"
					onclick={() =>
						bench.commit(reference.locked ? 'Untie the picture' : 'Tie the picture', {
							put: [{ ...reference, locked: !reference.locked }]
						})}>{reference.locked ? 'untie' : 'tie'}</button
				>
			</li>
		{/each}
	</ul>
{/if}
{#if jobs.length}
	<ul aria-label="Jobs">
		{#each jobs as job (job.id)}
			<li class:turned={job.off}>
				<span class="name">{job.name}</span>
				<span class="quiet">{job.tool.name}</span>
				<button
					class="word"
					onclick={() =>
						bench.commit(job.off ? 'Do the job' : 'Leave the job out', { put: [{ ...job, off: !job.off }] })}
					>{job.off ? 'do it' : 'leave out'}</button
				>
			</li>
		{/each}
	</ul>
{/if}

<style>
	ul {
		list-style: none;
		margin: 6px 0;
		padding: 4px 0 0;
		border-top: 2px solid var(--soft);
		font-size: 13.5px;
	}
	li {
		display: flex;
		gap: 8px;
		align-items: baseline;
	}
	.name {
		flex: 1;
		min-width: 0;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.turned {
		opacity: 0.6;
	}
	.word {
		padding: 0;
		font-weight: 400;
		font-size: 12.5px;
	}
</style>

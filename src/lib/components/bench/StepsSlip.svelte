<script lang="ts">
	/** The steps of the drawing, to go back and forth; and the versions kept of it under a word. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { Versions } from '$lib/stores/versions.svelte';

	let { bench }: { bench: Bench } = $props();
	const versions = $derived(new Versions(bench));
	let word = $state('');
	$effect(() => void versions.look());

	function keep(): void {
		const name = word.trim();
		if (!name) return;
		word = '';
		void versions.keep(name);
	}
	const dateOf = (at: number) => new Date(at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' });
</script>

<div class="steps slip">
	<form
		onsubmit={(e) => {
			e.preventDefault();
			keep();
		}}
	>
		<label class="hidden-word" for="version-word">A word for the drawing as it is</label>
		<input
			id="version-word"
			class="field"
			placeholder="keep it as it is: a word"
			bind:value={word}
			onkeydown={(e) => e.key !== 'Escape' && e.stopPropagation()}
		/>
		<button class="word" disabled={!word.trim()} data-act="keep-version">keep</button>
	</form>
	{#if versions.list?.length}
		<ul aria-label="Versions">
			{#each versions.list as version (version.id)}
				<li data-version={version.word}>
					<b>{version.word}</b> <span class="quiet">{dateOf(version.at)}</span>
					<button class="word" onclick={() => versions.goBack(version)}>go back to it</button>
					<button
						class="word"
						onclick={async () => {
							const id = await versions.openBeside(version);
							if (id) open(`/drawing/${id}`, '_blank');
						}}>open beside</button
					>
				</li>
			{/each}
		</ul>
	{/if}
	<ol aria-label="Steps">
		<li>
			<button class="word" class:here={bench.pointer === 0} onclick={() => bench.goTo(0)}
				>as it was opened</button
			>
		</li>
		{#each bench.stepNames as name, i (i)}
			<li>
				<button
					class="word"
					class:here={bench.pointer === i + 1}
					class:undone={i >= bench.pointer}
					onclick={() => bench.goTo(i + 1)}>{name}</button
				>
			</li>
		{/each}
	</ol>
</div>

<style>
	.steps {
		position: absolute;
		top: 68px;
		left: 30px;
		max-width: 340px;
		max-height: 50vh;
		overflow: auto;
		padding: 6px 12px;
		z-index: 5;
	}
	form {
		display: flex;
		gap: 6px;
	}
	ul,
	ol {
		list-style: none;
		margin: 4px 0;
		padding: 0;
	}
	ol .word {
		font-weight: 400;
		text-decoration-color: transparent;
	}
	ol .here {
		font-weight: 700;
		text-decoration-color: var(--madder);
	}
	ol .undone {
		color: var(--soft);
	}
</style>

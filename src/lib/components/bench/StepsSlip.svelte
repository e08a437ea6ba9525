<script lang="ts">
	/** The steps of the drawing, to go back and forth; and the versions kept of it, as small pictures in the order of time. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { byItself } from '$lib/stores/versions/by-itself.svelte';
	import { openCompare, Versions } from '$lib/stores/versions/opening';
	import { ago } from '$lib/stores/said/dates';
	import type { KeptVersion } from '$lib/storage/database';

	let { bench }: { bench: Bench } = $props();
	const versions = $derived(new Versions(bench));
	let word = $state('');
	/** The version whose words are shown. */
	let chosen = $state<string>();
	let strip = $state<HTMLElement>();
	// Looked up anew whenever one was kept by itself.
	$effect(() => {
		void byItself.kept;
		void versions.look();
	});
	const inOrder = $derived([...(versions.list ?? [])].reverse());
	const one = $derived(inOrder.find(({ id }) => id === chosen) ?? inOrder.at(-1));
	// The latest lies at the end, where one looks first.
	$effect(() => {
		if (inOrder.length && strip) strip.scrollLeft = strip.scrollWidth;
	});
	const pictures = $derived(new Map(inOrder.flatMap((v) => (v.picture ? [[v.id, v.picture] as const] : []))));
	/** A blob as an address, given up when its picture goes. */
	function shown(image: HTMLImageElement, blob: Blob) {
		const url = URL.createObjectURL(blob);
		image.src = url;
		return { destroy: () => URL.revokeObjectURL(url) };
	}

	function keep(): void {
		const name = word.trim();
		if (!name) return;
		word = '';
		chosen = undefined;
		void versions.keep(name, bench.pictures.bitmaps);
	}
	async function openBeside(version: KeptVersion): Promise<void> {
		const id = await versions.openBeside(version);
		if (id) open(`/drawing/${id}`, '_blank');
	}
</script>

<div class="steps slip" data-paper>
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
	{#if inOrder.length}
		<ul class="strip" aria-label="Versions" bind:this={strip}>
			{#each inOrder as version (version.id)}
				{@const picture = pictures.get(version.id)}
				<li>
					<button
						aria-pressed={version === one}
						data-version={version.word}
						class:by-itself={version.byItself}
						onclick={() => (chosen = version.id)}
					>
						{#if picture}<img use:shown={picture} alt="" width="80" height="55" />{:else}<span class="blank"
							></span>{/if}
						<span class="said">{version.word}</span>
					</button>
				</li>
			{/each}
		</ul>
		{#if one}
			<p class="one">
				<b>{one.word}</b>
				<span class="quiet">{ago(one.at)}{one.byItself ? ', kept by itself' : ''}</span><br />
				<button class="word" onclick={() => openCompare(bench, one.id)} data-act="compare">compare</button>
				<button class="word" onclick={() => void versions.goBack(one)}>go back to it</button>
				<button class="word" onclick={() => void openBeside(one)}>open beside</button>
				{#if one.byItself}
					<button class="word" onclick={() => void versions.name(one, one.word)} data-act="keep-it"
						>keep it</button
					>
				{/if}
				<button class="word" onclick={() => void versions.throwAway(one)} data-act="drop-version"
					>take it out</button
				>
			</p>
		{/if}
		{#if inOrder.some(({ byItself }) => byItself)}
			<p class="quiet note">
				What is kept by itself grows thinner with age: all of a day, one a day for a month, then one a month.{byItself.thinned
					? ` ${byItself.thinned} went just now.`
					: ''}
			</p>
		{/if}
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
		width: min(340px, calc(100vw - 60px));
		max-height: 60vh;
		overflow: auto;
		padding: 6px 12px;
		z-index: 5;
	}
	@media (max-width: 720px) {
		.steps {
			top: 100px;
			left: 4px;
			width: calc(100vw - 8px);
			max-height: 38vh;
		}
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
	.strip {
		display: flex;
		gap: 8px;
		overflow-x: auto;
		padding: 6px 2px;
		scrollbar-width: thin;
	}
	.strip button {
		display: grid;
		width: 84px;
		padding: 2px;
		border: 1px solid transparent;
		background: none;
		font: inherit;
		font-size: 12.5px;
		line-height: 1.2;
		color: inherit;
		text-align: left;
		cursor: pointer;
	}
	.strip button[aria-pressed='true'] {
		border-color: var(--madder);
		border-bottom-width: 3px;
	}
	.strip img,
	.blank {
		width: 80px;
		height: 55px;
		background: #f4efe3;
		border: 1px solid var(--slip-edge);
	}
	/* What the program kept is pale, and its edge is dashed. */
	.by-itself img,
	.by-itself .blank {
		border-style: dashed;
		opacity: 0.75;
	}
	.said {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.by-itself .said {
		color: var(--soft);
	}
	.one {
		margin: 2px 0 4px;
	}
	.one .word {
		padding-left: 0;
		margin-right: 10px;
	}
	.note {
		margin: 0;
		font-size: 12.5px;
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

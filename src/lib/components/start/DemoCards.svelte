<script lang="ts">
	/** The demo drawings: each is fetched when it is pressed. */
	import { DEMOS, demos, type Demo } from '$lib/stores/files/demo.svelte';

	let { onopen }: { onopen: (demo: Demo) => void } = $props();
</script>

{#if demos.offered.length}
	<section aria-labelledby="demos">
		<h2 id="demos">To try things on</h2>
		<p>
			Out of the workshop of a travelling shadow-puppet theatre.
			<button class="word" onclick={() => demos.take(DEMOS)} data-act="demos-away">put them away</button>
		</p>
		<ul>
			{#each demos.offered as demo (demo.file)}
				<li>
					<button onclick={() => onopen(demo)} data-demo={demo.name}>
						<img src="/demo/cards/{demo.file}.webp" alt="" width="160" height="110" loading="lazy" />
						<span>{demo.name}</span>
					</button>
				</li>
			{/each}
		</ul>
	</section>
{/if}

<style>
	section {
		margin-top: 40px;
	}
	h2 {
		font-size: 18px;
		margin: 0;
	}
	p {
		margin: 2px 0 10px;
		color: var(--soft);
	}
	p .word {
		font-weight: 400;
	}
	ul {
		list-style: none;
		padding: 0;
		margin: 0;
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
		gap: 18px 20px;
	}
	li button {
		display: grid;
		gap: 4px;
		width: 100%;
		text-align: left;
		font: inherit;
		color: inherit;
		background: none;
		border: 0;
		border-top: 2px dashed var(--soft);
		padding: 8px 0 0;
		cursor: pointer;
	}
	li button:hover span {
		color: var(--madder);
	}
	img {
		width: 100%;
		height: auto;
		background: #f4efe3;
		border: 1px solid var(--slip-edge);
	}
</style>

<script lang="ts">
	/** All drawings, with small pictures; a new one, a file, the demo. */
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { newDrawing } from '$lib/core/document/drawing';
	import { openDemo } from '$lib/stores/files/demo';
	import { brought } from '$lib/stores/files/brought';
	import { kindOfFile, openDrawingFile, storageProblem } from '$lib/stores/files/files';
	import { theme } from '$lib/stores/theme.svelte';
	import { thumbnailOf } from '$lib/stores/files/thumbnails';
	import { listDrawings, removeDrawing, storeDrawing } from '$lib/storage/drawings';
	import type { DrawingHead } from '$lib/storage/database';

	let drawings = $state.raw<DrawingHead[] | undefined>();
	let thumbnails = $state.raw<ReadonlyMap<string, string>>(new Map());
	let trouble = $state('');
	let picker = $state<HTMLInputElement>();
	let leaving = $state<string | undefined>();
	let dropping = $state(false);

	async function refresh(): Promise<void> {
		drawings = await listDrawings();
		for (const d of drawings) {
			const blob = await thumbnailOf(d.id).catch(() => undefined);
			if (blob) thumbnails = new Map(thumbnails).set(d.id, URL.createObjectURL(blob));
		}
	}

	onMount(() => {
		theme.start();
		void (async () => {
			try {
				// The demo drawings are there at the first visit.
				if ((await listDrawings()).length === 0 && !localStorage.getItem('demo-seen')) {
					const opened = await openDemo();
					if (!opened.ok) trouble = opened.problem.sentence;
					localStorage.setItem('demo-seen', 'yes');
				}
				await refresh();
			} catch {
				trouble = 'This browser does not let drawings be stored here. Is it in a private window?';
				drawings = [];
			}
		})();
	});

	async function begin(): Promise<void> {
		const drawing = newDrawing(crypto.randomUUID(), 'Untitled drawing');
		try {
			await storeDrawing(drawing);
		} catch (error) {
			trouble = storageProblem(error).problem.sentence;
			return;
		}
		await goto(`/drawing/${drawing.id}`);
	}
	async function demo(): Promise<void> {
		const opened = await openDemo();
		if (opened.ok) await refresh();
		else trouble = opened.problem.sentence;
	}
	/** A drawing file is opened as it is; a picture, an SVG or a DXF becomes a drawing of its own. */
	async function open(file: File): Promise<void> {
		trouble = '';
		if ((await kindOfFile(file)) !== 'drawing') {
			const drawing = newDrawing(
				crypto.randomUUID(),
				file.name.replace(/\.[a-z0-9]+$/i, '') || 'Untitled drawing'
			);
			try {
				await storeDrawing(drawing);
			} catch (error) {
				trouble = storageProblem(error).problem.sentence;
				return;
			}
			brought.files = [file];
			await goto(`/drawing/${drawing.id}`);
			return;
		}
		const opened = await openDrawingFile(new Uint8Array(await file.arrayBuffer()));
		if (opened.ok) await goto(`/drawing/${opened.value}`);
		else trouble = `${file.name}: ${opened.problem.sentence}`;
	}
	async function remove(id: string): Promise<void> {
		await removeDrawing(id);
		leaving = undefined;
		await refresh();
	}
</script>

<svelte:head><title>Even Thread</title></svelte:head>

<svelte:window
	ondragover={(e) => {
		e.preventDefault();
		dropping = true;
	}}
	ondragleave={(e) => e.relatedTarget === null && (dropping = false)}
	ondrop={(e) => {
		e.preventDefault();
		dropping = false;
		const file = e.dataTransfer?.files[0];
		if (file) void open(file);
	}}
	onpaste={(e) => {
		const file = e.clipboardData?.files[0];
		if (file) void open(file);
	}}
/>

<main class:dropping>
	<header>
		<h1>Even Thread</h1>
		<svg class="stitch" viewBox="0 0 400 24" aria-hidden="true"
			><path d="M2 14q14-18 30 0t30 0 30 0M100 14H398" /></svg
		>
		<p>From a picture to outlines of true size that can be cut. Drop a picture here to begin.</p>
	</header>
	{#if trouble}<p class="trouble slip" role="alert">{trouble}</p>{/if}
	<p class="acts">
		<button class="word strong" onclick={begin} data-act="new">New drawing</button>
		<button class="word" onclick={() => picker?.click()}>Open a picture or a drawing</button>
		<button class="word" onclick={demo} data-act="demo">Put the demo drawings here</button>
		<input
			bind:this={picker}
			type="file"
			accept=".thread,.svg,.dxf,.nc,.gcode,.ngc,.tap,.hpgl,.plt,image/png,image/jpeg,image/webp,image/gif,image/bmp"
			hidden
			data-testid="file-input"
			onchange={(e) => {
				const file = e.currentTarget.files?.[0];
				e.currentTarget.value = '';
				if (file) void open(file);
			}}
		/>
	</p>
	{#if drawings}
		<ul>
			{#each drawings as drawing, i (drawing.id)}
				<li style:--tilt="{((i * 37) % 5) - 2}deg">
					<a href="/drawing/{drawing.id}">
						{#if thumbnails.get(drawing.id)}<img
								src={thumbnails.get(drawing.id)}
								alt=""
								width="320"
								height="220"
							/>
						{:else}<span class="blank"></span>{/if}
						<b>{drawing.name}</b>
						<span class="quiet">{new Date(drawing.changedAt).toLocaleString()}</span>
					</a>
					{#if leaving === drawing.id}
						<span class="sure"
							>It will be gone from this browser. <button class="word" onclick={() => remove(drawing.id)}
								>Throw it away</button
							> <button class="word" onclick={() => (leaving = undefined)}>Keep it</button></span
						>
					{:else}<button
							class="word small"
							onclick={() => (leaving = drawing.id)}
							aria-label="Throw away {drawing.name}">throw away</button
						>{/if}
				</li>
			{:else}<li class="quiet">No drawings yet. Drop a picture here, and it becomes one.</li>{/each}
		</ul>
	{/if}
</main>

<style>
	main {
		max-width: 1120px;
		margin: 0 auto;
		padding: 34px 26px 60px;
	}
	.dropping {
		outline: 3px dashed var(--madder);
		outline-offset: -10px;
	}
	h1 {
		font-size: 34px;
		font-weight: 680;
		margin: 0;
		letter-spacing: -0.01em;
	}
	.stitch {
		width: 400px;
		height: 24px;
		display: block;
	}
	.stitch path {
		fill: none;
		stroke: var(--madder);
		stroke-width: 2.8;
		stroke-dasharray: 11 6;
		stroke-linecap: round;
	}
	header p {
		margin: 4px 0 14px;
		color: var(--soft);
		font-size: 17px;
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 18px;
		align-items: center;
	}
	.trouble {
		padding: 8px 14px;
		border-left: 4px double var(--rust);
	}
	ul {
		list-style: none;
		padding: 0;
		margin: 26px 0 0;
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
		gap: 30px 34px;
	}
	li {
		position: relative;
	}
	a {
		display: grid;
		gap: 2px;
		color: var(--ink);
		text-decoration: none;
		padding-top: 14px;
		border-top: 2px solid var(--soft);
	}
	a::before {
		content: '';
		position: absolute;
		top: -7px;
		left: 50%;
		width: 12px;
		height: 20px;
		border: 1.5px solid var(--soft);
		border-radius: 3px;
		background: var(--wash);
		transform: rotate(var(--tilt));
	}
	img,
	.blank {
		width: 100%;
		height: auto;
		aspect-ratio: 320 / 220;
		background: #f4efe3;
		border: 1px solid var(--slip-edge);
	}
	a:hover b {
		color: var(--madder);
	}
	.small {
		font-weight: 400;
		font-size: 13px;
		padding-left: 0;
		color: var(--soft);
	}
</style>

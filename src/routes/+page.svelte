<script lang="ts">
	/** All drawings, with small pictures; a new one, a file, the demo. */
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { newDrawing } from '$lib/core/document/drawing';
	import { DEMOS, demos, openDemo, type Demo } from '$lib/stores/files/demo.svelte';
	import { installed, sharedFiles } from '$lib/stores/app/installed.svelte';
	import { chooseFiles, handleOf, keepsFiles, whenLaunched } from '$lib/stores/files/desk';
	import { ON_LIST } from '$lib/stores/files/endings';
	import { brought } from '$lib/stores/files/brought';
	import { kindOfFile, openDrawingFile, saveAs, storageProblem } from '$lib/stores/files/files';
	import { date } from '$lib/stores/said/dates';
	import { theme } from '$lib/stores/theme.svelte';
	import { thumbnailOf } from '$lib/stores/files/thumbnails';
	import {
		copyDrawing,
		DAYS_KEPT,
		keepFile,
		listDrawings,
		listThrown,
		removeDrawing,
		sayOfDrawing,
		storeDrawing
	} from '$lib/storage/drawings';
	import DemoCards from '$lib/components/start/DemoCards.svelte';
	import DrawingCard from '$lib/components/start/DrawingCard.svelte';
	import type { DrawingHead } from '$lib/storage/database';

	let drawings = $state.raw<DrawingHead[] | undefined>();
	let thumbnails = $state.raw<ReadonlyMap<string, string>>(new Map());
	let trouble = $state('');
	let picker = $state<HTMLInputElement>();
	let thrown = $state.raw<DrawingHead[]>([]);
	/** What was done just now, with the way back where there is one. */
	let told = $state<{ readonly sentence: string; readonly back?: () => Promise<void> } | undefined>();
	let sought = $state('');
	let order = $state<'latest' | 'name' | 'shelf'>('latest');
	let busy = $state('');
	let dropping = $state(false);

	async function refresh(): Promise<void> {
		[drawings, thrown] = [await listDrawings(), await listThrown()];
		for (const d of drawings) {
			if (thumbnails.has(d.id)) continue;
			const blob = await thumbnailOf(d.id).catch(() => undefined);
			if (blob) thumbnails = new Map(thumbnails).set(d.id, URL.createObjectURL(blob));
		}
	}

	onMount(() => {
		theme.start();
		installed.start();
		void (async () => {
			try {
				await refresh();
				const { files, letGo } = await sharedFiles();
				if (files.length) await open(files, letGo);
				whenLaunched(open);
				if (new URLSearchParams(location.search).has('tour')) await takeTour();
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
	async function demo(wanted: Demo): Promise<void> {
		busy = `"${wanted.name}" is being fetched …`;
		const opened = await openDemo(wanted);
		busy = '';
		if (!opened.ok) {
			trouble = opened.problem.sentence;
			return;
		}
		demos.take([wanted]);
		await goto(`/drawing/${opened.value}`);
	}
	/** The tour goes over a fresh copy of the first demo. */
	async function takeTour(): Promise<void> {
		const { tour } = await import('$lib/stores/help/tour.svelte');
		tour.start();
		await demo(DEMOS[0]);
	}
	async function allDemos(): Promise<void> {
		busy = 'The demo drawings are being fetched …';
		for (const wanted of [...DEMOS].reverse()) {
			const opened = await openDemo(wanted);
			if (opened.ok) demos.take([wanted]);
			else trouble = opened.problem.sentence;
		}
		busy = '';
		await refresh();
	}
	/** Where the browser keeps files on the desk, what is opened can be written back there. */
	async function choose(): Promise<void> {
		if (!keepsFiles()) {
			picker?.click();
			return;
		}
		await open(await chooseFiles());
	}
	/**
	 * A drawing file is opened as it is; pictures and files of lines that come together become one drawing of their own.
	 * @param taken called once all of them are written where they belong, or are told to be none; not where there was no room.
	 */
	async function open(files: readonly File[], taken: () => void = () => undefined): Promise<void> {
		if (files.length === 0) return;
		trouble = '';
		const parts: File[] = [];
		const troubles: string[] = [];
		let at: string | undefined;
		let hasRoom = true;
		for (const file of files) {
			if (/\.threads$/i.test(file.name)) await bringAll(file);
			else if ((await kindOfFile(file)) !== 'drawing') parts.push(file);
			else {
				const opened = await openDrawingFile(new Uint8Array(await file.arrayBuffer()));
				if (opened.ok) await remember(file, (at = opened.value));
				else {
					troubles.push(`${file.name}: ${opened.problem.sentence}`);
					hasRoom &&= !opened.problem.code.startsWith('storage');
				}
			}
		}
		if (parts.length) {
			const name = parts[0].name.replace(/\.[a-z0-9]+$/i, '') || 'Untitled drawing';
			const drawing = newDrawing(crypto.randomUUID(), name);
			try {
				await storeDrawing(drawing);
			} catch (error) {
				trouble = storageProblem(error).problem.sentence;
				return;
			}
			at = drawing.id;
			brought.files = parts;
			brought.taken = hasRoom ? taken : undefined;
			if (troubles.length) brought.trouble = { code: 'not-opened', sentence: troubles.join(' ') };
			if (parts.length === 1) await remember(parts[0], drawing.id);
		} else if (hasRoom) taken();
		// Of several drawings none is opened by itself: they lie in the list.
		if (at && (files.length === 1 || parts.length)) await goto(`/drawing/${at}`);
		else {
			trouble ||= troubles.join(' ');
			await refresh();
		}
	}
	/** The file on the desk belongs to the drawing from now on. */
	async function remember(file: File, drawing: string): Promise<void> {
		const handle = handleOf(file);
		if (handle) await keepFile(drawing, handle);
	}
	/** What the list is asked to do; why it cannot be is told, and nothing is changed. */
	async function act(work: () => Promise<void>): Promise<void> {
		trouble = '';
		told = undefined;
		try {
			await work();
		} catch (error) {
			trouble = storageProblem(error).problem.sentence;
		}
		await refresh();
	}
	const throwAway = ({ id, name }: DrawingHead) =>
		act(async () => {
			await sayOfDrawing(id, { thrownAt: Date.now() });
			told = {
				sentence: `"${name}" is thrown away. It lies below for ${DAYS_KEPT} days.`,
				back: () => act(() => sayOfDrawing(id, { thrownAt: undefined }))
			};
		});
	const allDrawings = () => import('$lib/stores/files/all-drawings');
	async function saveAll(): Promise<void> {
		busy = 'All drawings are being packed …';
		await act(async () => {
			const { ALL_ENDING, allAsFile } = await allDrawings();
			const bytes = await allAsFile();
			saveAs(
				`Even Thread ${new Date().toISOString().slice(0, 10)}${ALL_ENDING}`,
				bytes as BlobPart,
				'application/zip'
			);
		});
		busy = '';
	}
	async function bringAll(file: File): Promise<void> {
		busy = 'The drawings are being brought in …';
		await act(async () => {
			const { bringAllIn } = await allDrawings();
			const brought = await bringAllIn(new Uint8Array(await file.arrayBuffer()));
			if (!brought.ok) {
				trouble = `${file.name}: ${brought.problem.sentence}`;
				return;
			}
			const { added, beside, alike, damaged } = brought.value;
			told = {
				sentence: [
					`${added} brought in`,
					...(beside ? [`${beside} beside those that differ`] : []),
					...(alike ? [`${alike} were there already`] : []),
					...(damaged.length ? [`${damaged.length} could not be opened: ${damaged.join(', ')}`] : [])
				]
					.join(', ')
					.concat('.')
			};
		});
		busy = '';
	}
	const shelves = $derived([...new Set((drawings ?? []).flatMap(({ shelf }) => shelf ?? []))].sort());
	const found = $derived.by(() => {
		const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
		const list = (drawings ?? []).filter(({ name, shelf = '' }) => {
			const own = `${name} ${shelf}`.toLowerCase();
			return words.every((word) => own.includes(word));
		});
		const byName = (a: DrawingHead, b: DrawingHead) => a.name.localeCompare(b.name);
		if (order === 'name') return list.sort(byName);
		if (order === 'shelf')
			return list.sort((a, b) => (a.shelf ?? '\uffff').localeCompare(b.shelf ?? '\uffff') || byName(a, b));
		return list;
	});
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
		void open([...(e.dataTransfer?.files ?? [])]);
	}}
	onpaste={(e) => {
		void open([...(e.clipboardData?.files ?? [])]);
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
	{#if installed.newer}
		<p class="slip newer">
			A newer Even Thread lies here.
			<button class="word" onclick={() => installed.takeUp()} data-act="take-newer">Begin with it</button>
		</p>
	{/if}
	<p class="told" role="status">
		{busy || (told?.sentence ?? '')}
		{#if told?.back}<button class="word" data-act="take-back" onclick={() => void told?.back?.()}
				>take it back</button
			>{/if}
	</p>
	<p class="acts">
		<button class="word strong" onclick={begin} data-act="new">New drawing</button>
		<button class="word" onclick={() => void choose()} data-act="open">Open a picture or a drawing</button>
		<button class="word" onclick={() => void allDemos()} data-act="demo">Put all demo drawings here</button>
		<button class="word" onclick={() => void takeTour()} data-act="tour">Take the tour</button>
		{#if installed.offer}
			<button class="word" onclick={() => void installed.install()} data-act="install"
				>Install it on this device</button
			>
		{/if}
		{#if installed.offline}<span class="quiet" data-fact="works-offline">works without a network</span>{/if}
		<input
			bind:this={picker}
			type="file"
			accept={ON_LIST}
			multiple
			hidden
			data-testid="file-input"
			onchange={(e) => {
				const files = [...(e.currentTarget.files ?? [])];
				e.currentTarget.value = '';
				void open(files);
			}}
		/>
	</p>
	{#if drawings}
		{#if drawings.length > 1 || sought}
			<div class="row">
				<input
					type="search"
					placeholder="find a drawing"
					aria-label="Find a drawing by its name or its shelf"
					bind:value={sought}
				/>
				<span class="kinds" role="group" aria-label="Order">
					{#each [['latest', 'latest first'], ['name', 'by name'], ['shelf', 'by shelf']] as const as [value, word] (value)}
						<button
							class="word"
							class:here={order === value}
							aria-pressed={order === value}
							onclick={() => (order = value)}>{word}</button
						>
					{/each}
				</span>
				<button
					class="word"
					data-act="save-all"
					aria-description="All drawings with their pictures as one file, to be brought in elsewhere."
					onclick={() => void saveAll()}>save all as one file</button
				>
			</div>
		{/if}
		<ul>
			{#each found as drawing, i (drawing.id)}
				{#if order === 'shelf' && shelves.length && (i === 0 || found[i - 1].shelf !== drawing.shelf)}
					<li class="shelf"><h2>{drawing.shelf ?? 'on no shelf'}</h2></li>
				{/if}
				<DrawingCard
					{drawing}
					picture={thumbnails.get(drawing.id)}
					tilt={((i * 37) % 5) - 2}
					{shelves}
					onsay={(said) => void act(() => sayOfDrawing(drawing.id, said))}
					oncopy={() => void act(() => copyDrawing(drawing.id, crypto.randomUUID()))}
					onthrow={() => void throwAway(drawing)}
				/>
			{:else}<li class="quiet">
					{sought
						? `No drawing is called "${sought}".`
						: 'No drawings yet. Drop a picture here, and it becomes one.'}
				</li>{/each}
		</ul>
		<DemoCards onopen={(wanted) => void demo(wanted)} />
		{#if thrown.length}
			<details class="thrown">
				<summary>Thrown away ({thrown.length}), kept for {DAYS_KEPT} days</summary>
				<ul>
					{#each thrown as head (head.id)}
						<li>
							<b>{head.name}</b> <span class="quiet">{date(head.thrownAt!)}</span>
							<button
								class="word"
								aria-label="Take {head.name} back"
								onclick={() => void act(() => sayOfDrawing(head.id, { thrownAt: undefined }))}
								>take it back</button
							>
							<button
								class="word"
								aria-label="Remove {head.name} for good"
								onclick={() => void act(() => removeDrawing(head.id))}>for good</button
							>
						</li>
					{/each}
				</ul>
			</details>
		{/if}
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
		max-width: 100%;
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
	.newer {
		padding: 6px 14px;
	}
	.told {
		min-height: 1.5em;
		margin: 4px 0;
		color: var(--soft);
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 20px;
		align-items: baseline;
		margin-top: 10px;
	}
	.row input {
		width: 16em;
		padding: 3px 4px;
		border: 0;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
	}
	.here {
		font-weight: 600;
		text-decoration: underline;
		text-underline-offset: 4px;
	}
	.shelf {
		grid-column: 1 / -1;
	}
	.shelf h2 {
		margin: 0;
		font-size: 18px;
	}
	.thrown {
		margin-top: 40px;
		color: var(--soft);
	}
	.thrown ul {
		display: block;
		margin-top: 6px;
	}
</style>

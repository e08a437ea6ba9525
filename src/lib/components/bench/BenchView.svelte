<script lang="ts">
	/** The bench: the drawing fills the window; the thread runs along the lower edge; slips lie where they are needed. */
	import { onMount, untrack, type Component } from 'svelte';
	import { tinykeys } from 'tinykeys';
	import { replaceState } from '$app/navigation';
	import { unitWord } from '$lib/core/units';
	import { makeThumbnail } from '$lib/render/thumbnail';
	import { isNarrow } from '$lib/render/view';
	import { storeThumbnail } from '$lib/storage/drawings';
	import type { Bench, Sheet } from '$lib/stores/bench.svelte';
	import { Claim } from '$lib/stores/claim.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import { goTo } from '$lib/stores/commands/go-commands';
	import { brought } from '$lib/stores/files/brought';
	import { installed } from '$lib/stores/app/installed.svelte';
	import { ON_BENCH } from '$lib/stores/files/endings';
	import { goingOut } from '$lib/stores/files/going-out.svelte';
	import { takeIn } from '$lib/stores/files/taking-in';
	import { writeOut } from '$lib/stores/files/writing-out';
	import { isWished, wish } from '$lib/stores/said/wishes';
	import { STATIONS } from '$lib/stores/stations';
	import { theme } from '$lib/stores/theme.svelte';
	import { benchKeys, handKey, isTyping } from './bench-keys';
	import { listenToPage } from './page-events';
	import { Saying } from './saying.svelte';
	import FinderComing from './FinderComing.svelte';
	import type { TypedEarly } from './typed-early';
	import HintLine from './HintLine.svelte';
	import type PointerFields from './PointerFields.svelte';
	import Surface from './Surface.svelte';
	import Thread from './Thread.svelte';
	import Tray from '../trays/Tray.svelte';

	let { bench }: { bench: Bench } = $props();
	/** What is not seen at first is loaded once the bench stands. */
	const tag = import('../tags/Tag.svelte');
	const openingSlip = import('./OpeningSlip.svelte');
	const emptyBench = import('./EmptyBench.svelte');
	const fields = import('./PointerFields.svelte');
	const splitLine = () => import('./SplitLine.svelte');
	const finder = import('./Finder.svelte');
	const early: TypedEarly = { text: '', isTaken: false };
	const nearMenu = import('./NearMenu.svelte');
	const rack = import('./Rack.svelte');
	const tourSlip = import('./TourSlip.svelte');
	const spoken = import('./Spoken.svelte');
	const stepsSlip = import('./StepsSlip.svelte');
	const magnifier = import('./Magnifier.svelte');
	const SHEETS: Record<Sheet, () => Promise<{ default: Component<{ bench: Bench }> }>> = {
		sizes: () => import('./SizesSheet.svelte'),
		keys: () => import('./KeysSheet.svelte'),
		screen: () => import('./Calibrate.svelte'),
		settings: () => import('./SettingsSheet.svelte'),
		help: () => import('./HelpSheet.svelte'),
		machine: () => import('../machine/MachineSheet.svelte'),
		workshop: () => import('../machine/WorkshopSheet.svelte')
	};
	let picker = $state<HTMLInputElement>();
	let dropping = $state(false);
	let footHeight = $state(0);
	const saying = new Saying();
	// What the tray and the thread cover of the window.
	$effect(() => {
		bench.sight.trayPx = footHeight;
	});
	let threadWidth = $state(1280);

	/** The tray stands over its station, as far as the window lets it. */
	const trayAt = $derived(
		64 +
			(STATIONS.findIndex((s) => s.id === (bench.station ?? 'mend')) * (threadWidth - 128)) /
				(STATIONS.length - 1)
	);
	const isTrayShown = $derived(
		bench.trayOpen || bench.operation || bench.pictures.sizing || bench.pen || bench.looking.open
	);

	const claim = new Claim((id) => replaceState(`/drawing/${id}`, {}));

	let pointerFields = $state<ReturnType<typeof PointerFields>>();
	/** While something is dragged or drawn a digit begins a typed number. */
	function typeNumber(event: KeyboardEvent): void {
		if (isTyping(bench, event) || handKey(bench, event)) return;
		if (!bench.measure || event.ctrlKey || event.metaKey || !/^[0-9.,-]$/.test(event.key)) return;
		event.preventDefault();
		event.stopImmediatePropagation();
		pointerFields?.begin(event.key);
	}

	onMount(() => {
		theme.start();
		installed.start();
		goingOut.start();
		bench.snaps = isWished('snaps', true);
		const measured = Number(localStorage.getItem('screen-px-per-mm'));
		if (measured > 0) bench.sight.screenPxPerMm = measured;
		claim.take(bench);
		bench.sight.trayPx = footHeight;
		bench.fitAll();
		bench.pickFiles = () => picker?.click();
		void import('$lib/stores/app/scarce').then(({ tellScarce }) => tellScarce(bench));
		const { files, trouble, taken } = brought;
		Object.assign(brought, { files: [], trouble: undefined, taken: undefined });
		if (trouble) bench.trouble(trouble);
		if (files.length)
			void takeIn(bench, files)
				.then(() => bench.saved())
				.then((isSaved) => isSaved && taken?.());
		const left = new AbortController();
		const { signal } = left;
		addEventListener('keydown', typeNumber, { capture: true, signal });
		listenToPage(bench, signal);
		saying.listen(signal);
		return () => {
			left.abort();
			// Whatever leads away, a line that is being drawn is kept.
			bench.dropOperation();
			claim.release();
		};
	});

	// As the keys are; whoever changes one has it at once.
	$effect(() => tinykeys(window, benchKeys(bench)));

	// The whole drawing is fitted once more when it is known what the foot takes.
	let isFitted = false;
	$effect(() => {
		if (isFitted || bench.sight.trayPx === 0) return;
		isFitted = true;
		untrack(() => bench.fitAll());
	});
	// What is in hand comes out from under the paper when an operation opens, and goes back when it is left.
	let made: object | undefined;
	/** How often room was made for it: when it opens, and when it first shows what it gives. */
	let times = 0;
	$effect(() => {
		const { operation, looking, sight } = bench;
		const { trayPx } = sight;
		const opened = operation ?? (looking.open ? looking : undefined);
		const wanted = operation?.preview.length ? 2 : 1;
		untrack(() => {
			if (made !== opened) {
				if (!opened) sight.giveBack();
				made = opened;
				times = 0;
			}
			if (
				!opened ||
				trayPx === 0 ||
				times >= wanted ||
				(operation?.kind === 'trace' && !isNarrow(sight.size))
			)
				return;
			times = wanted;
			sight.makeRoom(bench.inHand);
		});
	});
	/** ms for which a field that was asked for is looked for. */
	const SEEK_MS = 10_000;
	/** Fields that are no part of a tray. */
	const OWN_FIELDS: Readonly<Record<string, string>> = { name: '.tag input', version: '#version-word' };
	const fieldOf = (name: string): HTMLElement | null | undefined =>
		OWN_FIELDS[name]
			? document.querySelector<HTMLElement>(OWN_FIELDS[name])
			: [...document.querySelectorAll<HTMLLabelElement>('.tray label')].find((l) => l.textContent === name)
					?.control;
	// A field that was asked for is typed in as soon as it is there; what it lies in may still have to come.
	let seeking = 0;
	$effect(() => {
		const name = bench.wantsField;
		if (!name) return;
		bench.wantsField = undefined;
		cancelAnimationFrame(seeking);
		const until = performance.now() + SEEK_MS;
		const seek = () => {
			const field = fieldOf(name);
			if (field) field.focus();
			else if (performance.now() < until) seeking = requestAnimationFrame(seek);
		};
		seeking = requestAnimationFrame(seek);
	});
	$effect(() => wish('snaps', bench.snaps));
	$effect(() => bench.looking.follow());
	$effect(() => bench.following.awaitRest());

	// A small picture for the list of drawings, once things have come to rest.
	$effect(() => {
		const { drawing } = bench;
		const timer = setTimeout(() => {
			makeThumbnail(drawing, bench.pictures.bitmaps)
				.then((picture) => picture && storeThumbnail(drawing.id, picture))
				.catch(() => undefined);
		}, 1500);
		return () => clearTimeout(timer);
	});
</script>

<svelte:head><title>{bench.drawing.name} · Even Thread</title></svelte:head>

<main
	class="bench"
	bind:clientWidth={threadWidth}
	ondragover={(e) => {
		e.preventDefault();
		dropping = true;
	}}
	ondragleave={() => (dropping = false)}
	ondrop={(e) => {
		e.preventDefault();
		dropping = false;
		void takeIn(bench, [...(e.dataTransfer?.files ?? [])]);
	}}
>
	<Surface {bench} palette={theme.palette} />

	<header class="head slip">
		<a class="word" href="/">drawings</a>
		<input
			class="field title"
			value={bench.drawing.name}
			aria-label="Name of the drawing"
			style:width="{Math.max(8, bench.drawing.name.length + 1)}ch"
			onkeydown={(e) => {
				e.stopPropagation();
				if (e.key === 'Enter') e.currentTarget.blur();
			}}
			onchange={(e) => {
				const name = e.currentTarget.value.trim();
				if (name) bench.commit('Rename the drawing', { rename: name });
			}}
		/>
		<button
			class="word"
			disabled={!bench.canUndo}
			onclick={() => bench.undo()}
			aria-description={bench.pointer > 0
				? `Takes back: ${bench.stepNames[bench.pointer - 1]} (Ctrl + Z).`
				: 'There is nothing to undo.'}
			data-act="undo">undo</button
		>
		<button class="word" disabled={!bench.canRedo} onclick={() => bench.redo()} data-act="redo">redo</button>
		<button
			class="word"
			data-fact="steps"
			aria-expanded={bench.stepsOpen}
			onclick={() => (bench.stepsOpen = !bench.stepsOpen)}
			>{bench.pointer} {bench.pointer === 1 ? 'step' : 'steps'}</button
		>
		<span class="quiet" role="status" data-fact="saved"
			>{bench.storageFull ? `${bench.saving} not saved: no room` : bench.saving ? 'saving …' : 'saved'}</span
		>
		{#if installed.newer}
			<button
				class="word"
				onclick={() => void bench.saved().then(() => installed.takeUp())}
				aria-description="A newer Even Thread lies here. The page begins anew with it; the drawing is as it is."
				data-act="take-newer">newer version …</button
			>
		{/if}
		{#if !installed.online}<span class="quiet" data-fact="offline">no network</span>{/if}
	</header>
	{#if bench.stepsOpen}{#await stepsSlip then { default: StepsSlip }}<StepsSlip {bench} />{/await}{/if}

	<div class="corner">
		<button
			class="word"
			onclick={() => bench.fitAll()}
			aria-description="The whole drawing in the window (H).">all</button
		>
		<button
			class="word"
			onclick={() => useCommand(bench, commandOf('actual'))}
			aria-description="A millimetre on the screen is a millimetre (M).">actual size</button
		>
		<button
			class="word"
			aria-pressed={bench.filled}
			onclick={() => (bench.filled = !bench.filled)}
			aria-description="Pieces in flat colour, holes empty, open outlines unfilled (G).">filled</button
		>
		<button
			class="word"
			aria-pressed={bench.rackOpen}
			onclick={() => (bench.rackOpen = !bench.rackOpen)}
			aria-description="All outlines and layers on a rail (R).">rack</button
		>
		<button
			class="word"
			onclick={() => (bench.sheet = 'settings')}
			aria-description="Units, light, this screen, the weave, the tool."
			data-act="settings">{unitWord(bench.unit)} …</button
		>
	</div>

	{#if bench.rackOpen}{#await rack then { default: Rack }}<Rack {bench} />{/await}{/if}
	{#await tag then { default: Tag }}<Tag {bench} />{/await}
	{#await fields then { default: Fields }}<Fields {bench} bind:this={pointerFields} />{/await}
	{#await nearMenu then { default: NearMenu }}<NearMenu {bench} />{/await}

	{#if bench.pictures.sizing}{#await magnifier then { default: Magnifier }}<Magnifier {bench} />{/await}{/if}
	{#if bench.operation?.seenPicture}{#await splitLine() then { default: SplitLine }}<SplitLine
				{bench}
			/>{/await}{/if}
	{#await openingSlip then { default: OpeningSlip }}<OpeningSlip {bench} />{/await}
	{#await emptyBench then { default: EmptyBench }}<EmptyBench {bench} />{/await}
	<div class="foot" bind:clientHeight={footHeight}>
		{#if bench.finding}
			<div class="over" style:--at="{threadWidth}px" data-testid="finder">
				{#await finder}<FinderComing {bench} {early} />{:then { default: Finder }}<Finder
						{bench}
						{early}
					/>{/await}
			</div>
		{:else if isTrayShown}
			<div class="over" style:--at="{trayAt}px" data-testid="tray"><Tray {bench} /></div>
		{/if}
		<HintLine {bench} saying={saying.sentence} />
		<Thread {bench} onpick={(station) => goTo(bench, station)} />
	</div>

	{#if bench.readOnly}
		<div class="banner slip" role="alert">
			{#if claim.withheld}
				{claim.withheld.unwritten
					? `The other tab has ${claim.withheld.unwritten} ${claim.withheld.unwritten === 1 ? 'step' : 'steps'} that it cannot write; taken over now, they stay there alone.`
					: 'The other tab does not answer; what it has not written stays there alone.'}
				<button class="word" onclick={() => claim.takeNow()} data-act="take-now"
					>Take it over all the same</button
				>
			{:else}
				This drawing is being edited in another tab; this one reads along.
				<button class="word" onclick={() => claim.ask()} data-act="take-over">Take it over</button>
			{/if}
		</div>
	{/if}
	{#if bench.storageFull}
		<div class="banner slip" role="alert">
			The browser has no room left to save; what is not saved waits until there is.
			<button class="word" onclick={() => bench.document.retry()} data-act="retry">Try again</button>
			<button class="word" onclick={() => void writeOut(bench, 'file')}
				>Save the whole drawing as a file</button
			>
		</div>
	{/if}
	{#await spoken then { default: Spoken }}<Spoken {bench} />{/await}
	{#await tourSlip then { default: TourSlip }}<TourSlip {bench} />{/await}
	{#if dropping}<div class="drop">Let it go here: a picture, an SVG, a DXF or a drawing.</div>{/if}
	<input
		bind:this={picker}
		type="file"
		multiple
		hidden
		accept={ON_BENCH}
		data-testid="file-input"
		onchange={(e) => {
			const files = [...(e.currentTarget.files ?? [])];
			e.currentTarget.value = '';
			void takeIn(bench, files);
		}}
	/>
	{#if bench.sheet}
		{#await SHEETS[bench.sheet]() then { default: Lying }}<Lying {bench} />{/await}
	{/if}
</main>

<style>
	.bench {
		position: fixed;
		inset: 0;
		overflow: hidden;
	}
	.head {
		position: absolute;
		top: 28px;
		left: 30px;
		display: flex;
		align-items: baseline;
		gap: 4px;
		padding: 3px 10px;
	}
	.title {
		font-size: var(--type-large);
		font-weight: 600;
	}
	.corner {
		position: absolute;
		top: 26px;
		right: 12px;
		display: flex;
		align-items: baseline;
		background: color-mix(in srgb, var(--paper) 85%, transparent);
		border-radius: 4px;
		padding: 0 4px;
		z-index: 4;
	}
	.corner .word {
		font-weight: 400;
	}
	.corner .word[aria-pressed='true'] {
		font-weight: 700;
		color: var(--madder);
	}
	.foot {
		position: absolute;
		inset: auto 0 0 0;
		display: grid;
		gap: 2px;
		pointer-events: none;
	}
	.over {
		margin: 0 8px;
		display: flex;
		pointer-events: none;
	}
	/* As near above its station as the window lets it. */
	.over::before {
		content: '';
		flex: 0 1 calc(var(--at) - 90px);
	}
	.over > :global(*) {
		flex: 0 0 auto;
		pointer-events: auto;
	}
	.banner {
		position: absolute;
		top: 70px;
		left: 50%;
		transform: translateX(-50%);
		padding: 8px 14px;
		border-color: var(--rust);
	}
	/* A phone, or a window as narrow as one. */
	@media (max-width: 720px) {
		.head {
			top: 22px;
			left: 22px;
			right: 4px;
			padding: 0 4px;
			gap: 0;
			white-space: nowrap;
		}
		.head .title {
			flex: 1 1 60px;
			min-width: 40px;
			text-overflow: ellipsis;
		}
		.corner {
			top: 66px;
			right: 4px;
		}
		.over {
			margin: 0 4px;
		}
		.banner {
			width: calc(100vw - 40px);
		}
	}
	.drop {
		position: absolute;
		inset: 14px;
		border: 3px dashed var(--madder);
		display: grid;
		place-items: center;
		font-size: 22px;
		background: color-mix(in srgb, var(--paper) 70%, transparent);
		pointer-events: none;
	}
</style>

<script lang="ts">
	/** The bench: the drawing fills the window; the thread runs along the lower edge; slips lie where they are needed. */
	import { keepOperation } from '$lib/stores/operations/starting';
	import { onMount } from 'svelte';
	import { tinykeys } from 'tinykeys';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Station } from '$lib/stores/stations';
	import { COMMANDS } from '$lib/stores/commands/commands';
	import { drawingAs, drawingAsFile, kindOfFile, openDrawingFile, saveAs } from '$lib/stores/files/files';
	import { goingOut } from '$lib/stores/files/going-out.svelte';
	import { replaceState } from '$app/navigation';
	import { DrawingHold } from '$lib/stores/hold';
	import { theme } from '$lib/stores/theme.svelte';
	import { storeThumbnail } from '$lib/storage/drawings';
	import { makeThumbnail } from '$lib/render/thumbnail';
	import { toProblem } from '$lib/core/errors';
	import type { LengthUnit } from '$lib/core/document/drawing';
	import Calibrate from './Calibrate.svelte';
	import { backToSurface } from '../parts/focus';
	import OpeningSlip from './OpeningSlip.svelte';
	import NearMenu from './NearMenu.svelte';
	import PointerFields from './PointerFields.svelte';
	import Magnifier from './Magnifier.svelte';
	import StepsSlip from './StepsSlip.svelte';
	import SplitLine from './SplitLine.svelte';
	import KeysSheet from './KeysSheet.svelte';
	import Rack from './Rack.svelte';
	import Surface from './Surface.svelte';
	import Tag from '../tags/Tag.svelte';
	import Thread from './Thread.svelte';
	import Tray from '../trays/Tray.svelte';

	let { bench }: { bench: Bench } = $props();
	let picker = $state<HTMLInputElement>();
	let keysOpen = $state(false);
	let calibrating = $state(false);
	let dropping = $state(false);
	let trayOpen = $state(true);
	let stepsOpen = $state(false);
	let over = $state<HTMLElement>();
	let trayHeight = $state(0);
	/** What the tray and the thread cover of the window. */
	function measureTray(): void {
		bench.sight.trayPx =
			over && trayHeight >= 0 ? bench.sight.size.heightPx - over.getBoundingClientRect().top : 0;
	}
	$effect(measureTray);
	let threadWidth = $state(1280);
	let hold: DrawingHold | undefined;

	const ORDER: Station[] = ['picture', 'size', 'trace', 'mend', 'build', 'offset', 'sheet', 'cut'];
	/** The tray stands over its station, as far as the window lets it. */
	const trayAt = $derived(
		64 + (ORDER.indexOf(bench.station ?? 'mend') * (threadWidth - 128)) / (ORDER.length - 1)
	);

	const hint = $derived.by((): string => {
		if (bench.pictures.placing)
			return 'Drag the picture to move it, its loop to turn it; Shift and a drag crop it. Esc lets it go.';
		if (bench.pictures.sizing?.purpose === 'level')
			return 'Click two points on a line of the picture that should be level or plumb. Esc gives up.';
		if (bench.pictures.sizing)
			return bench.pictures.sizing.purpose === 'corners'
				? bench.pictures.sizing.points.length < 4
					? 'Click the four corners of a rectangle of known size, one after the other. Esc gives up.'
					: 'Pull a corner to where it belongs, say what the rectangle is, and straighten.'
				: bench.pictures.sizing.points.length < 2
					? 'Click two points on the picture. Esc gives up.'
					: 'Type how far apart they are.';
		if (bench.operation)
			return bench.operation.hint ?? 'Look at the new line. Keep it with Enter, drop it with Esc.';
		if (bench.pen) return bench.pen.hint;
		if (bench.selection.enteredOutline) {
			if (bench.selection.handleInHand)
				return `The arrows move the handle ${bench.selection.handleInHand === 'in' ? 'before' : 'after'} the anchor. Esc lets go of it.`;
			if (bench.selection.anchors.size) {
				const way = {
					free: 'Drag or arrows move it, Shift locks, Ctrl passes snaps over; type a number while dragging.',
					before: 'It moves along the side before it, which keeps its angle (Z: another way).',
					after: 'It moves along the side after it, which keeps its angle (Z: another way).',
					'own line': 'It slides along its own line (Z: another way).',
					soft: 'Its neighbourhood follows as far as the pegs (Z: another way).'
				}[bench.movingWay];
				return `${way} C S V W change its kind, X takes it out, N and B step along.`;
			}
			if (bench.selection.segments.size)
				return 'Pull it to bend it, with Alt move it whole. A halves it, I straightens, U curves, Shift + U makes an arc, X takes it out.';
			return 'Pick an anchor, or a stretch between two. Double-click the line for a new anchor. Esc leaves.';
		}
		if (bench.selection.selected.size)
			return 'Drag moves it, Enter or double click goes into it. Shift + P turns and scales, D simplifies, O offsets, X removes.';
		if (bench.outlines.length === 0)
			return bench.references.length ? 'T traces the picture.' : 'Drop a picture or a drawing here.';
		return 'Click an outline, or drag a box. L draws a line. / finds any command by a word.';
	});

	/** Holds the drawing under its id: one tab edits it, the others read along. */
	function claim(): void {
		hold?.release();
		let wasReader = false;
		const now = new DrawingHold(bench.drawing.id, {
			async got(mine) {
				if (mine && wasReader) await bench.readAgain();
				wasReader = !mine;
				bench.readOnly = !mine;
				withheld = undefined;
			},
			// What is not written yet is tried first: where it cannot be any more it becomes a copy.
			written: () => (bench.saving ? bench.document.retry() : void bench.readAgain()),
			async giveUp() {
				bench.dropOperation();
				bench.readOnly = true;
				await bench.saved();
				if (bench.saving) bench.readOnly = false;
				return bench.saving;
			},
			withheld: (unwritten) => (withheld = { unwritten })
		});
		hold = now;
		bench.onwritten = () => now.told();
		bench.onmoved = (id) => {
			replaceState(`/drawing/${id}`, {});
			claim();
		};
	}
	/** The other tab was asked for the drawing and does not give it. */
	let withheld = $state<{ unwritten: number | undefined }>();

	async function takeFiles(files: Iterable<File>): Promise<void> {
		for (const file of files) {
			try {
				const kind = await kindOfFile(file);
				if (kind === 'drawing') {
					const opened = await openDrawingFile(new Uint8Array(await file.arrayBuffer()));
					if (opened.ok) location.href = `/drawing/${opened.value}`;
					else bench.trouble({ ...opened.problem, sentence: `${file.name}: ${opened.problem.sentence}` });
				} else if (kind === 'picture') await bench.pictures.add(file);
				else await bench.opening.open(file);
			} catch (error) {
				bench.trouble(toProblem(error));
			}
		}
	}

	async function exportAs(format: 'svg' | 'dxf' | 'polylines' | 'file'): Promise<void> {
		try {
			const name = bench.drawing.name;
			if (format === 'file') {
				saveAs(
					`${name}.thread`,
					(await drawingAsFile(bench.drawing)) as Uint8Array<ArrayBuffer>,
					'application/zip'
				);
				return;
			}
			const [id, curves] =
				format === 'polylines' ? ['dxf', 'polylines' as const] : [format, 'exact' as const];
			const { bytes, ending, mediaType } = await drawingAs(bench.drawing, id, {
				curves,
				look: goingOut.filled ? 'filled' : 'lines',
				question: goingOut.question(bench)
			});
			saveAs(`${name}${ending}`, bytes as Uint8Array<ArrayBuffer>, mediaType);
		} catch (error) {
			bench.trouble(toProblem(error));
		}
	}

	function nudge(dx: number, dy: number, event: KeyboardEvent): void {
		if (!bench.selection.enteredOutline || bench.selection.picked.size === 0) return;
		event.preventDefault();
		const step = bench.nudge * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
		bench.nudgeBy(dx * step, dy * step);
	}

	/** Keys that mean something else while one draws; true where one of them was pressed. */
	function penKey(event: KeyboardEvent): boolean {
		const { pen } = bench;
		if (!pen || event.ctrlKey || event.metaKey || event.altKey) return false;
		const acts: Record<string, () => void> = {
			Escape: () => (pen.anchors.length ? pen.finish() : bench.dropOperation()),
			Enter: () => pen.finish(),
			Backspace: () => pen.undo(),
			c: () => pen.setFlowing(false),
			w: () => pen.setFlowing(true),
			x: () => pen.dropOut()
		};
		const act = acts[event.key];
		if (!act) return false;
		event.preventDefault();
		event.stopImmediatePropagation();
		act();
		return true;
	}
	let pointerFields = $state<{ begin: (key: string) => void }>();
	/** While something is dragged or drawn a digit begins a typed number. */
	function typeNumber(event: KeyboardEvent): void {
		if (typing(event) || penKey(event)) return;
		if (!bench.measure || event.ctrlKey || event.metaKey || !/^[0-9.,-]$/.test(event.key)) return;
		event.preventDefault();
		event.stopImmediatePropagation();
		pointerFields?.begin(event.key);
	}

	function escape(): void {
		if (bench.finding) bench.finding = false;
		else if (bench.menu) bench.menu = undefined;
		else if (bench.drafts.size) bench.drafts = new Map();
		else if (bench.pictures.sizing) bench.pictures.sizing = undefined;
		else if (bench.pictures.placing) bench.pictures.place(undefined);
		else if (bench.operation) bench.dropOperation();
		else if (bench.selection.handleInHand) bench.selection.handleInHand = undefined;
		else if ([...bench.selection.picked.values()].some((ids) => ids.size) || bench.selection.segments.size) {
			bench.selection.anchors = new Set();
			bench.selection.segments = new Set();
		} else if (bench.selection.enteredOutline) bench.leave();
		else if (bench.selection.selected.size) bench.select([]);
		else if (bench.looking.open) bench.looking.toggle();
		else if (bench.rackOpen) bench.rackOpen = false;
		else trayOpen = !trayOpen;
	}

	/** Whether a key belongs to a field rather than to the bench. */
	const typing = (event: Event) => {
		const t = event.target as HTMLElement;
		return (
			t.matches('input:not([type=range]):not([type=checkbox]):not([type=radio]), textarea, select') ||
			keysOpen ||
			calibrating
		);
	};

	onMount(() => {
		theme.start();
		goingOut.start();
		const measured = Number(localStorage.getItem('screen-px-per-mm'));
		if (measured > 0) bench.sight.screenPxPerMm = measured;
		claim();
		measureTray();
		bench.fitAll();
		const bindings: Record<string, (event: KeyboardEvent) => void> = {};
		for (const command of COMMANDS) {
			if (!command.key) continue;
			bindings[command.key] = (event) => {
				if (typing(event) || (event.target as HTMLElement).closest('[role=slider]')) return;
				event.preventDefault();
				const why = command.why(bench);
				if (why) bench.tell(why);
				else command.run(bench);
			};
		}
		const plain = (act: (event: KeyboardEvent) => void) => (event: KeyboardEvent) => {
			if (!typing(event)) act(event);
		};
		const inSurface = (event: KeyboardEvent) =>
			!(event.target as HTMLElement).closest('button, a, [role=slider]');
		const stop = tinykeys(window, {
			...bindings,
			'$mod+y': plain(() => bench.redo()),
			Delete: plain(() => COMMANDS.find((c) => c.id === 'delete')!.run(bench)),
			Backspace: plain(() => COMMANDS.find((c) => c.id === 'delete')!.run(bench)),
			'/': plain((e) => {
				e.preventDefault();
				trayOpen = true;
				bench.finding = true;
			}),
			'Shift+?': plain(() => (keysOpen = true)),
			Escape: plain(escape),
			Enter: plain((e) => {
				if (!inSurface(e)) return;
				if (bench.operation) keepOperation(bench);
				else if (!bench.selection.enteredOutline && bench.selection.selected.size)
					bench.enter(...bench.selection.selected);
			}),
			...Object.fromEntries(
				(['', 'Shift+', 'Alt+'] as const).flatMap((m) => [
					[`${m}ArrowLeft`, plain((e) => inSurface(e) && nudge(-1, 0, e))],
					[`${m}ArrowRight`, plain((e) => inSurface(e) && nudge(1, 0, e))],
					[`${m}ArrowUp`, plain((e) => inSurface(e) && nudge(0, 1, e))],
					[`${m}ArrowDown`, plain((e) => inSurface(e) && nudge(0, -1, e))]
				])
			)
		});
		const qDown = (e: KeyboardEvent) => {
			if (e.key.toLowerCase() !== 'q' || e.ctrlKey || e.metaKey || typing(e) || bench.before) return;
			bench.before = bench.operation ? bench.drawing : bench.previous();
		};
		const qUp = (e: KeyboardEvent) => {
			if (e.key.toLowerCase() === 'q') bench.before = undefined;
		};
		const paste = (e: ClipboardEvent) => {
			const files = [...(e.clipboardData?.files ?? [])];
			if (files.length) void takeFiles(files);
		};
		// A click with the mouse leaves the keys with the drawing; by keyboard the focus stays where it is.
		const afterClick = (e: MouseEvent) => {
			const button = (e.target as HTMLElement).closest?.('button');
			if (e.detail > 0 && button && !keysOpen && !calibrating && !bench.finding) backToSurface();
		};
		addEventListener('keydown', typeNumber, { capture: true });
		addEventListener('click', afterClick);
		addEventListener('keydown', qDown);
		addEventListener('keyup', qUp);
		addEventListener('paste', paste);
		// What is not written yet would be lost with the page.
		const beforeLeaving = (e: BeforeUnloadEvent) => {
			if (bench.saving) e.preventDefault();
		};
		addEventListener('beforeunload', beforeLeaving);
		const leaving = () => bench.pen?.finish();
		addEventListener('pagehide', leaving);
		return () => {
			stop();
			removeEventListener('keydown', typeNumber, { capture: true });
			removeEventListener('click', afterClick);
			removeEventListener('keydown', qDown);
			removeEventListener('keyup', qUp);
			removeEventListener('paste', paste);
			removeEventListener('beforeunload', beforeLeaving);
			removeEventListener('pagehide', leaving);
			// Whatever leads away, a line that is being drawn is kept.
			bench.dropOperation();
			hold?.release();
		};
	});

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
		void takeFiles([...(e.dataTransfer?.files ?? [])]);
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
			title={bench.pointer > 0 ? `Undo: ${bench.stepNames[bench.pointer - 1]}` : 'Nothing to undo'}
			data-act="undo">undo</button
		>
		<button class="word" disabled={!bench.canRedo} onclick={() => bench.redo()} data-act="redo">redo</button>
		<button class="word" data-fact="steps" aria-expanded={stepsOpen} onclick={() => (stepsOpen = !stepsOpen)}
			>{bench.pointer} {bench.pointer === 1 ? 'step' : 'steps'}</button
		>
		<span class="quiet" role="status" data-fact="saved"
			>{bench.storageFull ? `${bench.saving} not saved: no room` : bench.saving ? 'saving …' : 'saved'}</span
		>
	</header>
	{#if stepsOpen}<StepsSlip {bench} />{/if}

	<div class="corner">
		<button class="word" onclick={() => bench.fitAll()} title="See all (H)">all</button>
		<button
			class="word"
			onclick={() =>
				localStorage.getItem('screen-px-per-mm') ? bench.sight.actualSize() : (calibrating = true)}
			title="Actual size (M)">actual size</button
		>
		<button
			class="word"
			aria-pressed={bench.filled}
			onclick={() => (bench.filled = !bench.filled)}
			title="Filled view (G)">filled</button
		>
		<button
			class="word"
			aria-pressed={bench.rackOpen}
			onclick={() => (bench.rackOpen = !bench.rackOpen)}
			title="Rack (R)">rack</button
		>
		<button class="word" onclick={() => theme.set(!theme.lamp)} title="Day or lamp light"
			>{theme.lamp ? 'day' : 'lamp'}</button
		>
		<button class="word" onclick={() => (keysOpen = true)} title="Keys (?)">keys</button>
		<label class="hidden-word" for="unit">Unit</label>
		<select
			id="unit"
			class="field"
			value={bench.unit}
			onchange={(e) =>
				bench.commit('Change unit', {
					put: [{ ...bench.settings, unit: e.currentTarget.value as LengthUnit }]
				})}
		>
			{#each ['mm', 'cm', 'in', 'ft'] as unit (unit)}<option>{unit}</option>{/each}
		</select>
	</div>

	{#if bench.rackOpen}<Rack {bench} />{/if}
	<Tag {bench} />
	<PointerFields {bench} bind:this={pointerFields} />
	<NearMenu {bench} />

	{#if bench.pictures.sizing}<Magnifier {bench} />{/if}
	{#if bench.operation?.seenPicture}<SplitLine {bench} />{/if}
	{#if trayOpen || bench.operation || bench.finding || bench.pictures.sizing || bench.pen}
		<div
			class="over"
			style:--at="{trayAt}px"
			data-testid="tray"
			bind:this={over}
			bind:clientHeight={trayHeight}
		>
			<Tray {bench} onopen={() => picker?.click()} onexport={exportAs} />
		</div>
	{/if}
	<OpeningSlip {bench} />
	<p class="hint" role="status">{hint}</p>
	<Thread
		{bench}
		onpick={(station) => {
			bench.finding = false;
			const same = bench.station === station && trayOpen;
			if (!bench.operation && !bench.pen) trayOpen = !same;
			else bench.dropOperation();
			bench.station = station;
			if (station === 'mend' && bench.readiness.faults.length && bench.readiness.at < 0)
				bench.readiness.at = 0;
		}}
	/>

	{#if bench.readOnly}
		<div class="banner slip" role="alert">
			{#if withheld}
				{withheld.unwritten
					? `The other tab has ${withheld.unwritten} ${withheld.unwritten === 1 ? 'step' : 'steps'} that it cannot write; taken over now, they stay there alone.`
					: 'The other tab does not answer; what it has not written stays there alone.'}
				<button class="word" onclick={() => hold?.takeNow()} data-act="take-now"
					>Take it over all the same</button
				>
			{:else}
				This drawing is being edited in another tab; this one reads along.
				<button class="word" onclick={() => hold?.ask()} data-act="take-over">Take it over</button>
			{/if}
		</div>
	{/if}
	{#if bench.storageFull}
		<div class="banner slip" role="alert">
			The browser has no room left to save; what is not saved waits until there is.
			<button class="word" onclick={() => bench.document.retry()} data-act="retry">Try again</button>
			<button class="word" onclick={() => exportAs('file')}>Save the whole drawing as a file</button>
		</div>
	{/if}
	<div class="notices" role="log" aria-live="polite">
		{#each bench.telling.notices as notice (notice.id)}
			<p class="slip {notice.tone}">
				{notice.sentence}
				{#if notice.act}
					{@const { word, run } = notice.act}
					<button
						class="word"
						data-act={word}
						onclick={() => {
							bench.telling.dismiss(notice.id);
							run();
						}}>{word}</button
					>
				{/if}
				<button class="word" onclick={() => bench.telling.dismiss(notice.id)} aria-label="Dismiss">×</button>
			</p>
		{/each}
	</div>
	{#if dropping}<div class="drop">Let it go here: a picture, an SVG, a DXF or a drawing.</div>{/if}
	<input
		bind:this={picker}
		type="file"
		multiple
		hidden
		accept="image/png,image/jpeg,image/webp,image/gif,image/bmp,.svg,.dxf,.thread"
		data-testid="file-input"
		onchange={(e) => {
			const files = [...(e.currentTarget.files ?? [])];
			e.currentTarget.value = '';
			void takeFiles(files);
		}}
	/>
	<KeysSheet bind:open={keysOpen} />
	<Calibrate bind:open={calibrating} {bench} />
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
	.over {
		position: absolute;
		bottom: 92px;
		left: 8px;
		right: 8px;
		display: grid;
		pointer-events: none;
		/* As near above its station as the window lets it. */
		grid-template-columns: minmax(0, calc(var(--at) - 90px)) auto minmax(0, 1fr);
	}
	.over > :global(*) {
		grid-column: 2;
		pointer-events: auto;
	}
	.hint {
		position: absolute;
		bottom: 66px;
		left: 24px;
		max-width: calc(100vw - 36px);
		margin: 0;
		padding: 0 7px;
		border-radius: 3px;
		font-size: 14px;
		color: var(--soft);
		background: color-mix(in srgb, var(--paper) 86%, transparent);
		pointer-events: none;
	}
	.banner {
		position: absolute;
		top: 70px;
		left: 50%;
		transform: translateX(-50%);
		padding: 8px 14px;
		border-color: var(--rust);
	}
	.notices {
		position: absolute;
		top: 70px;
		right: 14px;
		display: grid;
		gap: 6px;
		justify-items: end;
		pointer-events: none;
		z-index: 20;
	}
	.notices p {
		margin: 0;
		padding: 6px 12px;
		max-width: 420px;
		pointer-events: auto;
	}
	.notices .trouble {
		border-left: 4px double var(--rust);
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

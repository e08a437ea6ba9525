<script lang="ts">
	/** The hand tray above the station in use: its few tools, or what was typed. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { COMMANDS, findCommands, keyName } from '$lib/stores/commands/commands';
	import { formatLength, formatNumber } from '$lib/core/units';
	import NumberField from '../parts/NumberField.svelte';
	import CutTray from './CutTray.svelte';
	import LookTray from './LookTray.svelte';
	import MovingRow from './MovingRow.svelte';
	import PenTray from './PenTray.svelte';
	import PictureRow from './PictureRow.svelte';
	import ScanRow from './ScanRow.svelte';
	import SheetsRow from './SheetsRow.svelte';
	import SheetTray from './SheetTray.svelte';
	import { trayOf } from './operation-trays';
	import Tool from '../parts/Tool.svelte';
	import ToolDrawing from '../parts/ToolDrawing.svelte';

	interface Props {
		bench: Bench;
		onopen: () => void;
		onexport: (format: 'svg' | 'dxf' | 'polylines' | 'file') => void;
	}
	let { bench, onopen, onexport }: Props = $props();

	let text = $state('');
	let at = $state(0);
	let scanning = $state(false);
	const found = $derived(findCommands(text).slice(0, 7));
	const operation = $derived(bench.operation);
	/** What is of use only where something is to be mended is not shown otherwise. */
	const tools = $derived(
		COMMANDS.filter(
			(c) =>
				c.station === bench.station &&
				c.drawing &&
				(bench.readiness.faults.length > 0 || !['next-knot', 'mend-all'].includes(c.id))
		)
	);
	const fault = $derived(bench.readiness.faults[bench.readiness.at]);
	const sizing = $derived(bench.pictures.sizing);
	const picked = $derived.by(() => {
		if (!sizing || sizing.points.length < 2) return undefined;
		const [a, b] = sizing.points;
		return Math.hypot(b.x - a.x, b.y - a.y);
	});
	const sizedReference = $derived(
		sizing ? bench.references.find((r) => r.id === sizing.reference) : undefined
	);

	function finder(event: KeyboardEvent): void {
		event.stopPropagation();
		if (event.key === 'ArrowDown') at = Math.min(at + 1, found.length - 1);
		else if (event.key === 'ArrowUp') at = Math.max(at - 1, 0);
		else if (event.key === 'Escape') bench.finding = false;
		else if (event.key === 'Enter' && found[at]) use(at);
		else return;
		event.preventDefault();
	}
	function use(i: number): void {
		const command = found[i];
		bench.finding = false;
		text = '';
		const why = command.why(bench);
		if (why) bench.tell(why);
		else command.run(bench);
	}
	const focus = (element: HTMLElement) => element.focus();
</script>

<section class="tray slip" aria-label="Tools">
	{#if bench.finding}
		<div class="finder">
			<input
				class="field"
				placeholder="Type what you want: fewer, close, cut line, zoom …"
				bind:value={text}
				oninput={() => (at = 0)}
				onkeydown={finder}
				{@attach focus}
				aria-label="Type what you want"
				data-field="find"
			/>
			<ul>
				{#each found as command, i (command.id)}
					{@const why = command.why(bench)}
					<li>
						<button class:here={i === at} class:off={why !== undefined} onclick={() => use(i)}>
							<b>{command.word}</b> <span>{why ?? command.line}</span>
							{#if command.key}<kbd>{keyName(command.key)}</kbd>{/if}
						</button>
					</li>
				{:else}<li class="quiet nothing">Nothing by that word.</li>{/each}
			</ul>
		</div>
	{:else if operation}
		{@const OperationTray = trayOf(operation)}
		<OperationTray {bench} {operation} />
	{:else if bench.looking.open}<LookTray {bench} />
	{:else if bench.pen}<PenTray {bench} pen={bench.pen} />
	{:else if bench.station === 'picture'}
		<div class="row">
			<button class="big" onclick={onopen}
				><ToolDrawing name="picture" /><span>Bring in a picture or drawing</span></button
			>
			<button class="big" onclick={() => (scanning = !scanning)} data-act="scan"
				><ToolDrawing name="scan" /><span>Scan a sheet</span></button
			>
			<p class="quiet">or drop it here, or paste it. PNG, JPEG, WebP, GIF, BMP; SVG and DXF drawings too.</p>
		</div>
		{#if scanning}<ScanRow {bench} onend={() => (scanning = false)} />{/if}
		{#each bench.references as reference (reference.id)}<PictureRow {bench} {reference} />{/each}
		{#if sizing?.purpose === 'level' && sizedReference}
			<p class="ask" role="status">
				Click two points of "{sizedReference.name}" on a line that should be level or plumb.
			</p>
		{/if}
	{:else if bench.station === 'size'}
		{#each bench.references as reference (reference.id)}
			<div class="row reference">
				<b>{reference.name}</b>
				{#if reference.pxPerMm}
					<span data-fact="size"
						>{formatLength(reference.widthPx / reference.pxPerMm, bench.unit)} × {formatLength(
							reference.heightPx / reference.pxPerMm,
							bench.unit
						)}</span
					>
					<span class="quiet">{formatNumber(reference.pxPerMm * 25.4, 1)} dpi</span>
				{:else}<span class="loose">no true size yet</span>{/if}
				<NumberField
					label="Resolution"
					kind="number"
					suffix=" dpi"
					digits={1}
					width={9}
					value={reference.pxPerMm ? reference.pxPerMm * 25.4 : undefined}
					least={1}
					most={20000}
					onset={(v) => bench.pictures.setTrueSize(reference, v / 25.4, 'Set resolution')}
				/>
				<button
					class="word"
					onclick={() => (bench.pictures.sizing = { reference: reference.id, points: [], purpose: 'size' })}
					data-act="two-points">pick two points</button
				>
				<button
					class="word"
					disabled={!reference.pxPerMm}
					onclick={() => (bench.pictures.sizing = { reference: reference.id, points: [], purpose: 'check' })}
					>check with a ruler</button
				>
				{#if reference.sheet}
					<span class="quiet">straightened</span>
				{:else}
					<button
						class="word"
						onclick={() =>
							(bench.pictures.sizing = { reference: reference.id, points: [], purpose: 'corners' })}
						data-act="corners">pick four corners</button
					>
					<button
						class="word"
						onclick={() => void bench.pictures.offerCorners(reference)}
						data-act="find-sheet">find the sheet</button
					>
				{/if}
			</div>
		{:else}<p class="quiet">There is no picture to size. Drawings that were opened have their own.</p>{/each}
		{#if sizing?.purpose === 'corners' && sizedReference}
			<SheetTray {bench} {sizing} reference={sizedReference} />
		{:else if sizing && sizedReference}
			<div class="row ask" role="status">
				{#if sizing.points.length < 2}
					<span
						>Click the {sizing.points.length === 0 ? 'first' : 'second'} of two points {sizing.purpose ===
						'size'
							? 'whose distance you know'
							: 'to measure'}. Zoom in to be exact.</span
					>
				{:else if picked && sizing.purpose === 'size'}
					<NumberField
						label="These two are apart"
						unit={bench.unit}
						value={sizedReference.pxPerMm ? picked / sizedReference.pxPerMm : undefined}
						least={0.01}
						onset={(mm) => bench.pictures.setTrueSize(sizedReference, picked / mm)}
					/>
					<span class="quiet">{formatNumber(picked, 1)} px</span>
				{:else if picked && sizedReference.pxPerMm}
					<span
						>They are <b data-fact="ruler">{formatLength(picked / sizedReference.pxPerMm, bench.unit)}</b> apart.</span
					>
				{/if}
				<button class="word" onclick={() => (bench.pictures.sizing = undefined)}>enough</button>
			</div>
		{/if}
	{:else if bench.station === 'mend'}
		{#if bench.readiness.faults.some((f) => f.kind !== 'no-size')}
			<ul class="faults">
				{#each bench.readiness.faults as f, i (i)}
					{#if f.kind !== 'no-size' && (bench.readiness.faults.length <= 4 || i === bench.readiness.at || (bench.readiness.at < 0 && i < 3))}
						<li class:here={i === bench.readiness.at}>
							<button class="go" onclick={() => bench.readiness.goTo(i)} data-fault={f.kind}
								><b>{bench.readiness.outlineOf(f)?.name ?? ''}</b> {f.why}</button
							>
							{#if bench.readiness.mendWord(f)}<button
									class="word"
									onclick={() => bench.readiness.mend(f)}
									data-mend={f.mend}>{bench.readiness.mendWord(f)}</button
								>{/if}
						</li>
					{/if}
				{/each}
				{#if bench.readiness.faults.length > 4}<li class="quiet">
						{bench.readiness.at + 1 || '–'} of {bench.readiness.faults.length}; F goes to the next.
					</li>{/if}
			</ul>
		{:else if fault}<p>{fault.why}</p>{/if}
		{#if bench.selection.enteredOutline && bench.tuning}<MovingRow {bench} />{/if}
		<div class="row tools">
			{#each tools as command (command.id)}<Tool {bench} {command} />{/each}
		</div>
	{:else if bench.station === 'sheet'}<SheetsRow {bench} />
	{:else if bench.station === 'cut'}
		<CutTray {bench} {onexport} />
	{:else}
		<div class="row tools">
			{#each tools as command (command.id)}<Tool {bench} {command} />{/each}
			<p class="quiet aside">
				{#if bench.station === 'trace'}{bench.references.length
						? 'The picture becomes closed outlines; you see them before you keep them.'
						: 'There is no picture to trace yet.'}
				{:else if bench.station === 'offset'}{bench.selection.selected.size
						? `Beside ${bench.selection.selected.size === 1 ? `"${bench.selection.selectedOutlines[0]?.name}"` : `${bench.selection.selected.size} outlines`}.`
						: 'Beside everything; select an outline to take only that.'}{/if}
			</p>
		</div>
	{/if}
</section>

<style>
	.tray {
		padding: 10px 14px;
		max-width: calc(100vw - 16px);
		display: grid;
		gap: 8px;
	}
	.tools {
		gap: 2px;
	}
	.reference :global(.fade) {
		width: 150px;
	}
	p {
		margin: 0;
	}
	.aside {
		max-width: 320px;
		padding-left: 10px;
	}
	.loose {
		color: var(--weld);
	}
	.ask {
		border-top: 1.5px dashed var(--slip-edge);
		padding-top: 8px;
	}
	.tray :global(.big) {
		display: flex;
		flex-direction: column;
		align-items: center;
		background: none;
		border: 0;
		border-radius: 4px;
		padding: 6px 12px;
		font: inherit;
		font-weight: 600;
		color: var(--ink);
		cursor: pointer;
	}
	.tray :global(.big:hover:not(:disabled)) {
		background: var(--wash);
	}
	.tray :global(.big:disabled) {
		opacity: 0.42;
		cursor: default;
	}
	.tray :global(small) {
		color: var(--soft);
		font-weight: 400;
	}
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
	}
	.faults li {
		display: flex;
		align-items: baseline;
		gap: 10px;
		border-left: 3px solid transparent;
		padding: 2px 8px;
	}
	.faults li.here {
		border-left: 3px double var(--rust);
		background: var(--wash);
	}
	.go {
		background: none;
		border: 0;
		padding: 2px 0;
		font: inherit;
		color: var(--ink);
		text-align: left;
		cursor: pointer;
		max-width: 520px;
	}
	.finder {
		width: min(560px, calc(100vw - 40px));
		display: grid;
		gap: 6px;
	}
	.finder .field {
		font-size: 17px;
	}
	.finder li button {
		display: flex;
		gap: 10px;
		width: 100%;
		background: none;
		border: 0;
		padding: 4px 6px;
		font: inherit;
		color: var(--ink);
		text-align: left;
		cursor: pointer;
	}
	.finder li button span {
		flex: 1;
		color: var(--soft);
	}
	.finder .here {
		background: var(--wash);
	}
	.finder .off b {
		opacity: 0.5;
	}
	.nothing {
		padding: 4px 6px;
	}
	kbd {
		font: inherit;
		color: var(--soft);
	}
</style>

<script lang="ts">
	/** The drawing on paper: which page, how pages share their edges, and what is made of it. */
	import { PAPERS } from '$lib/core/formats/paper';
	import { formatLength } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { OWN, type PaperOperation } from '$lib/stores/sheets/paper-operation.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Pick from '../parts/Pick.svelte';
	import Toggle from '../parts/Toggle.svelte';

	let { bench, operation }: { bench: Bench; operation: PaperOperation } = $props();
	const word = (id: string) => (/^[ab]\d$/.test(id) ? id.toUpperCase() : id[0].toUpperCase() + id.slice(1));
	const tiling = $derived(operation.tiling);
	const ready = $derived(operation.onPaper !== undefined && !operation.trouble && !operation.making);
</script>

<div class="rows">
	<div class="row">
		<Pick
			label="On"
			says="The paper that lies in the printer; a drawing that is larger is parted into pages."
			name="paper"
			value={operation.paper}
			items={[
				{ value: OWN, word: 'one page of its own size' },
				...Object.keys(PAPERS).map((id) => ({ value: id, word: word(id) }))
			]}
			onpick={(paper) => (operation.paper = paper)}
		/>
		{#if operation.paper !== OWN}
			<NumberField
				label="sharing"
				says="How much neighbouring pages show both, to be laid upon each other; the crosses lie in its middle."
				unit={bench.unit}
				value={operation.overlap}
				least={0}
				most={150}
				onset={(v) => (operation.overlap = v)}
			/>
		{/if}
		<Toggle
			on="With names"
			off="No names"
			checked={operation.names}
			says="Whether each piece has its name in its middle."
			onset={(v) => (operation.names = v)}
		/>
		<Toggle
			on="With guides"
			off="No guides"
			checked={operation.guides}
			says="Whether lines on layers for guides are on the paper too."
			onset={(v) => (operation.guides = v)}
		/>
		<NumberField
			label="Picture at"
			says="How fine a picture of it is: dots in an inch."
			kind="number"
			suffix=" dpi"
			digits={0}
			width={8}
			value={operation.dpi}
			least={10}
			most={2400}
			onset={(v) => (operation.dpi = Math.round(v))}
		/>
	</div>
	<div class="row">
		<div class="facts" role="status" data-testid="paper-facts">
			{#if operation.trouble}<span class="trouble">{operation.trouble}</span>
			{:else if !operation.onPaper}<span class="quiet">Nothing goes out yet.</span>
			{:else}
				<span
					><b data-fact="pages">{tiling?.tiles.length ?? 1}</b>
					{(tiling?.tiles.length ?? 1) === 1 ? 'page' : 'pages'}{tiling && tiling.tiles.length > 1
						? `, ${tiling.columns} across and ${tiling.rows} down`
						: ''}</span
				>
				<span class="quiet"
					>{formatLength(operation.onPaper.width, bench.unit)} × {formatLength(
						operation.onPaper.height,
						bench.unit
					)}</span
				>
			{/if}
		</div>
		<button
			class="word strong"
			disabled={!ready}
			data-act="write-pdf"
			aria-description="A PDF of true size."
			onclick={() => void operation.writePdf()}>PDF</button
		>
		<button
			class="word strong"
			disabled={!ready}
			data-act="print"
			aria-description="The same pages through the browser's print: choose 100 % there."
			onclick={() => void operation.print()}>Print</button
		>
		<button
			class="word"
			disabled={!ready}
			data-act="write-png"
			aria-description="A picture of all of it that says its resolution."
			onclick={() => void operation.writePng()}>PNG</button
		>
		<button
			class="word"
			data-act="leave"
			aria-description="Back to the drawing (Esc)."
			onclick={() => bench.dropOperation()}>Leave</button
		>
	</div>
</div>

<style>
	.rows {
		display: grid;
		gap: 4px;
	}
	.facts {
		flex: 1;
		display: flex;
		gap: 14px;
		min-width: 0;
	}
	.trouble {
		color: var(--rust);
	}
</style>

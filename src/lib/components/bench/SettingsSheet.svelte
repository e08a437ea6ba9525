<script lang="ts">
	/** What holds for this drawing and this browser: units, numbers, light, keys, the hand, the tool, the storage. */
	import type { LengthUnit } from '$lib/core/document/drawing';
	import { formatNumber, INCH_PARTS, type InchParts } from '$lib/core/units';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { date } from '$lib/stores/said/dates';
	import { locale, type PaperWish } from '$lib/stores/said/locale.svelte';
	import { touch } from '$lib/stores/touch.svelte';
	import { theme } from '$lib/stores/theme.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Pick from '../parts/Pick.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import Sheet from '../parts/Sheet.svelte';
	import StorageRows from './StorageRows.svelte';

	let { bench }: { bench: Bench } = $props();
	const UNITS = [
		{ value: 'mm', word: 'mm' },
		{ value: 'cm', word: 'cm' },
		{ value: 'in', word: 'inches' },
		{ value: 'in/64', word: 'inches, fractions' },
		{ value: 'ft', word: 'feet' }
	];
	const MARKS = [
		{ value: 'browser', word: 'as the browser' },
		{ value: 'point', word: '12.5' },
		{ value: 'comma', word: '12,5' }
	];
	/** Ways in which dates are written, each by a region that writes them so. */
	const REGIONS = ['en-GB', 'en-US', 'de-DE', 'fr-FR', 'es-ES', 'it-IT', 'nl-NL', 'pl-PL', 'sv-SE', 'ja-JP'];
	const now = Date.now();
	const dated = (tag: string) => new Intl.DateTimeFormat(tag, { dateStyle: 'short' }).format(now);
	const put = (name: string, changed: Partial<Bench['settings']>) =>
		bench.commit(name, { put: [{ ...bench.settings, ...changed }] });
	const { comma, tag, paper } = $derived(locale.wished);
</script>

<Sheet {bench} title="Settings" line="What is kept, and taken along when all drawings are saved as one file.">
	<section aria-labelledby="of-drawing">
		<h3 id="of-drawing">This drawing</h3>
		<Choice
			label="Unit"
			says="In what lengths are shown, and taken where none is typed."
			value={bench.unit}
			items={UNITS}
			onpick={(unit) => put('Change unit', { unit: unit as LengthUnit })}
		/>
		{#if bench.unit === 'in/64'}
			<Choice
				label="Fractions"
				says="How fine fractions of an inch are written; the lengths themselves stay as exact as they are."
				value={String(locale.inchParts)}
				items={INCH_PARTS.map((parts) => ({ value: String(parts), word: `1/${parts}` }))}
				onpick={(parts) => locale.set({ inchParts: Number(parts) as InchParts })}
			/>
		{/if}
		<NumberField
			label="The weave is"
			says="How far apart the lines of the weave are."
			unit={bench.unit}
			value={bench.settings.grid}
			least={0.01}
			onset={(grid) => put('Change the weave', { grid })}
		/>
		<NumberField
			label="Tool radius"
			says="What bends more tightly is told."
			unit={bench.unit}
			value={bench.settings.toolRadius}
			least={0.001}
			onset={(v) => bench.looking.setToolRadius(v)}
		/>
	</section>
	<section aria-labelledby="of-hand">
		<h3 id="of-hand">The hand</h3>
		<Toggle
			on="drags catch on what lies near"
			off="drags catch on nothing"
			says="Anchors, middles, crossings, guides, the weave; Ctrl held passes it over."
			act="set-snaps"
			checked={bench.snaps}
			onset={(snaps) => (bench.snaps = snaps)}
		/>
		<Toggle
			on="a finger holds things by a grip beside them"
			off="a finger is where it touches"
			says="What a finger drags or puts lies a little above it, under a ring, so that the finger covers nothing."
			act="set-grip"
			checked={touch.grip}
			onset={(grip) => (touch.grip = grip)}
		/>
		<button class="word" onclick={() => (bench.sheet = 'keys')} data-act="to-keys">keys …</button>
	</section>
	<section aria-labelledby="of-look">
		<h3 id="of-look">Light, numbers, paper</h3>
		<Toggle
			on="lamp light"
			off="daylight"
			says="A lamp-lit bench by night, unbleached paper by day."
			act="set-light"
			checked={theme.lamp}
			onset={(lamp) => theme.set(lamp)}
		/>
		<Choice
			label="Numbers"
			says="The mark between whole and tenth. Both are understood when typed."
			value={comma === undefined ? 'browser' : comma ? 'comma' : 'point'}
			items={MARKS}
			onpick={(mark) => locale.set({ comma: mark === 'browser' ? undefined : mark === 'comma' })}
		/>
		<Pick
			label="Dates"
			says="How dates are written: today is {date(now)}."
			name="dates"
			value={tag ?? 'browser'}
			items={[
				{ value: 'browser', word: `as the browser: ${dated(navigator.language)}` },
				...REGIONS.map((value) => ({ value, word: dated(value) }))
			]}
			onpick={(value) => locale.set({ tag: value === 'browser' ? undefined : value })}
		/>
		<Choice
			label="Paper"
			says="The page that patterns are put on at first."
			value={paper ?? 'browser'}
			items={[
				{ value: 'browser', word: `as the region: ${locale.paper}` },
				{ value: 'A4', word: 'A4' },
				{ value: 'Letter', word: 'Letter' }
			]}
			onpick={(value) => locale.set({ paper: value === 'browser' ? undefined : (value as PaperWish) })}
		/>
		<p>
			{#if bench.sight.screenPxPerMm}<span class="quiet"
					>{formatNumber(bench.sight.screenPxPerMm, 2)} px are a millimetre on this screen.</span
				>{/if}
			<button class="word" onclick={() => (bench.sheet = 'screen')}>how large is this screen?</button>
		</p>
	</section>
	<section aria-labelledby="of-storage">
		<h3 id="of-storage">What lies in this browser</h3>
		<StorageRows />
	</section>
</Sheet>

<style>
	section {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 22px;
		align-items: center;
		max-width: 760px;
		padding: 10px 0;
		border-bottom: 1px dashed var(--slip-edge);
	}
	h3 {
		flex-basis: 100%;
		margin: 0;
		font-size: 16px;
		font-weight: 600;
	}
	p {
		margin: 0;
		flex-basis: 100%;
	}
</style>

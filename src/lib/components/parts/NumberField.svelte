<script lang="ts">
	/** A length or a plain number that can be typed with a unit, a fraction or a sum. */
	import type { LengthUnit } from '$lib/core/document/drawing';
	import { lengthDigits, MM_PER, unitWord, parseLength, parseNumber, formatNumber } from '$lib/core/units';
	import { backToSurface } from './focus';

	interface Props {
		/** mm for a length, as it is for a number. Undefined: several different values. */
		value: number | undefined;
		label: string;
		unit?: LengthUnit;
		kind?: 'length' | 'number';
		/** Shown behind a plain number, such as °. */
		suffix?: string;
		digits?: number;
		width?: number;
		least?: number;
		most?: number;
		/** Shown while there is no value. */
		placeholder?: string;
		labelHidden?: boolean;
		/** One plain sentence about it. */
		says: string;
		onset: (value: number) => void;
	}
	let {
		value,
		label,
		unit = 'mm',
		kind = 'length',
		suffix = '',
		digits = 2,
		width = 10,
		least = -Infinity,
		most = Infinity,
		placeholder = '–',
		labelHidden = false,
		says,
		onset
	}: Props = $props();

	const uid = $props.id();
	let typed = $state<string | undefined>();
	let trouble = $state('');
	const shown = $derived(
		value === undefined ? '' : kind === 'length' ? written(value) : `${formatNumber(value, digits)}${suffix}`
	);

	/** A length with its unit; one that would be rounded to nothing keeps its first digits. */
	function written(mm: number): string {
		const digits = lengthDigits(mm, unit);
		const small = Math.abs(mm / MM_PER[unit]);
		const few =
			digits === '0' && small > 0 && unit !== 'in/64'
				? formatNumber(mm / MM_PER[unit], Math.min(12, Math.ceil(-Math.log10(small))))
				: digits;
		return `${few} ${unitWord(unit)}`;
	}
	const parse = (text: string) =>
		kind === 'length' ? parseLength(text, unit) : parseNumber(text.replace(suffix || '°', ''));

	function take(): void {
		if (typed === undefined) return;
		const text = typed;
		if (text.trim() === '' || text === shown) {
			typed = undefined;
			trouble = '';
			return;
		}
		const parsed = parse(text);
		if (!parsed.ok) {
			trouble = parsed.problem.sentence;
			return;
		}
		if (parsed.value < least || parsed.value > most) {
			const write = (v: number) => (kind === 'length' ? written(v) : `${v}${suffix}`);
			// A least value that would be shown as nothing stands for "more than nothing".
			const tooLittle =
				least > 0 && least < 0.01 ? 'It must be above 0.' : `It must be at least ${write(least)}.`;
			trouble = parsed.value < least ? tooLittle : `It must be at most ${write(most)}.`;
			return;
		}
		if (isFarOut(parsed.value) && asked !== parsed.value) {
			asked = parsed.value;
			trouble = `${written(parsed.value)}, where it was ${written(value!)}? Enter once more takes it.`;
			return;
		}
		asked = undefined;
		trouble = '';
		typed = undefined;
		onset(parsed.value);
	}
	/** A length of which one has been asked whether it is meant. */
	let asked: number | undefined;
	/** mm, and times as much as before: what is beyond both is asked about once. */
	const FAR_OUT = 1000;
	const FAR_OUT_TIMES = 40;
	const isFarOut = (v: number): boolean =>
		kind === 'length' &&
		value !== undefined &&
		Math.abs(value) > 1e-6 &&
		Math.abs(v) >= FAR_OUT &&
		Math.abs(v / value) >= FAR_OUT_TIMES;
	/** One press of an arrow: a millimetre, a sixteenth of an inch; a whole number, or a tenth of a small one. */
	const step = $derived(
		kind === 'length'
			? { mm: 1, cm: 1, in: MM_PER.in / 16, 'in/64': MM_PER.in / 16, ft: MM_PER.in }[unit]
			: digits > 0 && Math.abs(value ?? 0) < 1
				? 0.1
				: 1
	);
	/** Up and down change the value by a step; with Shift by ten, with Alt by a tenth of one. */
	function stepBy(event: KeyboardEvent): void {
		event.preventDefault();
		const from = read();
		if (from === undefined) return;
		const times = event.shiftKey ? 10 : event.altKey && digits > 0 ? 0.1 : 1;
		const next = from + (event.key === 'ArrowUp' ? times : -times) * step;
		// Free of the noise of adding tenths.
		const clean = Number(next.toPrecision(12));
		if (clean < least || clean > most) return;
		typed = undefined;
		trouble = '';
		onset(clean);
	}
	/** The value as it stands in the field just now. */
	function read(): number | undefined {
		if (typed === undefined || typed.trim() === '') return value;
		const parsed = parse(typed);
		return parsed.ok ? parsed.value : undefined;
	}
	function keydown(event: KeyboardEvent): void {
		event.stopPropagation();
		if (event.key === 'ArrowUp' || event.key === 'ArrowDown') stepBy(event);
		if (event.key === 'Enter') {
			take();
			if (!trouble) backToSurface();
		}
		if (event.key === 'Escape') {
			asked = undefined;
			typed = undefined;
			trouble = '';
			(event.target as HTMLElement).blur();
		}
	}
</script>

<span class="number" aria-description={says}>
	<label for={uid} class:hidden-word={labelHidden}>{label}</label>
	<input
		id={uid}
		class="field"
		style:width="{width}ch"
		value={typed ?? shown}
		{placeholder}
		inputmode="text"
		autocomplete="off"
		spellcheck="false"
		aria-description={says}
		aria-invalid={trouble !== ''}
		aria-describedby={trouble ? `${uid}-trouble` : undefined}
		oninput={(e) => (typed = e.currentTarget.value)}
		onfocus={(e) => e.currentTarget.select()}
		onblur={() => take()}
		onkeydown={keydown}
	/>
	{#if trouble}<span class="trouble slip" id="{uid}-trouble" role="alert">{trouble}</span>{/if}
</span>

<style>
	.number {
		position: relative;
		display: inline-flex;
		align-items: baseline;
		gap: 5px;
		white-space: nowrap;
	}
	label {
		color: var(--soft);
	}
	.trouble {
		position: absolute;
		bottom: calc(100% + 6px);
		left: 0;
		z-index: 30;
		width: max-content;
		max-width: 320px;
		white-space: normal;
		padding: 6px 9px;
		color: var(--rust);
		font-size: 14px;
	}
</style>

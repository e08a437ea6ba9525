<script lang="ts">
	/** Numbers at the pointer while something is dragged or drawn: along and at, right and up; each can be typed. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { lengthDigits, parseLength, parseNumber, formatNumber } from '$lib/core/units';
	import { backToSurface } from '../parts/focus';

	let { bench }: { bench: Bench } = $props();
	type Name = 'along' | 'at' | 'right' | 'up';
	const NAMES: Name[] = ['along', 'at', 'right', 'up'];
	let typed = $state<Partial<Record<Name, string>>>({});
	let trouble = $state('');
	let fields = $state<Record<Name, HTMLInputElement | undefined>>({
		along: undefined,
		at: undefined,
		right: undefined,
		up: undefined
	});
	const measure = $derived(bench.measure);
	const values = $derived.by(() => {
		const { right = 0, up = 0 } = measure ?? {};
		return {
			along: Math.hypot(right, up),
			at: (Math.atan2(up, right) * 180) / Math.PI,
			right,
			up
		};
	});
	const shown = (name: Name) =>
		typed[name] ??
		(name === 'at' ? `${formatNumber(values.at, 1)}°` : lengthDigits(values[name], bench.unit));

	$effect(() => {
		if (measure) return;
		typed = {};
		trouble = '';
	});

	/** A digit pressed while dragging goes to the length; the field takes over from there. */
	export function begin(key: string): void {
		typed = { ...typed, along: key };
		fields.along?.focus();
	}

	function read(name: Name): number | undefined {
		const text = typed[name];
		if (text === undefined || text.trim() === '') return undefined;
		const result = name === 'at' ? parseNumber(text.replace('°', '')) : parseLength(text, bench.unit);
		if (!result.ok) throw new Error(result.problem.sentence);
		return result.value;
	}

	function take(): void {
		if (!measure) return;
		try {
			const along = read('along');
			const at = read('at');
			const right = read('right');
			const up = read('up');
			if (right !== undefined || up !== undefined) measure.set(right ?? measure.right, up ?? measure.up);
			else if (along === undefined && at !== undefined && bench.pen) {
				// Only a direction: it is frozen, and the length follows the pointer.
				bench.pen.frozen = at;
			} else {
				const rad = ((at ?? values.at) * Math.PI) / 180;
				const size = along ?? values.along;
				const isRight = at !== undefined && at % 90 === 0;
				const c = isRight ? Math.round(Math.cos(rad)) : Math.cos(rad);
				const s = isRight ? Math.round(Math.sin(rad)) : Math.sin(rad);
				measure.set(size * c, size * s);
			}
			typed = {};
			trouble = '';
			backToSurface();
		} catch (error) {
			trouble = (error as Error).message;
		}
	}
	function keydown(event: KeyboardEvent): void {
		event.stopPropagation();
		if (event.key === 'Enter') take();
		else if (event.key === 'Escape') {
			typed = {};
			trouble = '';
			backToSurface();
		}
	}
	const place = $derived({
		x: Math.min((measure?.x ?? 0) + 22, bench.sight.size.widthPx - 330),
		y: Math.max(30, Math.min((measure?.y ?? 0) + 20, bench.sight.size.heightPx - 150))
	});
</script>

{#if measure}
	<div class="fields slip" style:left="{place.x}px" style:top="{place.y}px" data-testid="pointer-fields">
		{#each NAMES as name (name)}
			<label
				>{name}
				<input
					class="field"
					bind:this={fields[name]}
					value={shown(name)}
					data-measure={name}
					autocomplete="off"
					oninput={(e) => (typed = { ...typed, [name]: e.currentTarget.value })}
					onfocus={(e) => typed[name] === undefined && e.currentTarget.select()}
					onkeydown={keydown}
				/></label
			>
		{/each}
		{#if trouble}<span class="trouble" role="alert">{trouble}</span>{/if}
	</div>
{/if}

<style>
	.fields {
		position: absolute;
		display: flex;
		flex-wrap: wrap;
		gap: 2px 10px;
		padding: 2px 9px;
		max-width: 330px;
		font-size: 13px;
		z-index: 6;
		pointer-events: none;
	}
	.fields label {
		color: var(--soft);
	}
	.fields input {
		width: 6.5ch;
		font-size: 13px;
		pointer-events: auto;
	}
	.trouble {
		color: var(--rust);
		flex-basis: 100%;
	}
</style>

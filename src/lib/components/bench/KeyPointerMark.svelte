<script lang="ts">
	/** The pointer that is moved by keys, where it is; and the field for its numbers. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { KeyPointer } from '$lib/stores/key-pointer.svelte';
	import { toScreen } from '$lib/render/view';
	import { backToSurface } from '../parts/focus';

	let {
		bench,
		pointer,
		typing = $bindable()
	}: { bench: Bench; pointer: KeyPointer; typing: boolean } = $props();
	const place = $derived(
		pointer.at && toScreen(bench.sight.view, bench.sight.size, pointer.at.x, pointer.at.y)
	);
	let text = $state('');
	let why = $state<string>();
	function go(): void {
		why = pointer.type(text);
		if (!why) leave();
	}
	function leave(): void {
		typing = false;
		text = '';
		why = undefined;
		backToSurface();
	}
	const focused = (field: HTMLInputElement) => field.focus();
</script>

{#if place}
	<div class="mark" class:held={pointer.held} style:left="{place.x}px" style:top="{place.y}px">
		<svg data-testid="key-pointer" viewBox="-20 -20 40 40" width="40" height="40" aria-hidden="true">
			<path class="edge" d="M-18 0H-5M5 0H18M0 -18V-5M0 5V18" />
			<path d="M-18 0H-5M5 0H18M0 -18V-5M0 5V18" />
			{#if pointer.held}<circle r="8" />{/if}
		</svg>
		{#if typing}
			<div class="slip typed">
				<label
					>right, up
					<input
						class="field"
						use:focused
						bind:value={text}
						placeholder="120, 45 or +10, +0"
						onkeydown={(e) => {
							e.stopPropagation();
							if (e.key === 'Enter') go();
							if (e.key === 'Escape') leave();
						}}
					/></label
				>
				{#if why}<span role="alert">{why}</span>{/if}
			</div>
		{/if}
	</div>
	<p class="hidden-word" aria-live="polite" data-fact="key-pointer">{pointer.words}</p>
{/if}

<style>
	.mark {
		position: absolute;
		width: 0;
		height: 0;
		pointer-events: none;
		z-index: 5;
	}
	svg {
		position: absolute;
		left: -20px;
		top: -20px;
	}
	path,
	circle {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.6;
	}
	.edge {
		stroke: var(--paper);
		stroke-width: 4;
	}
	.held path:not(.edge),
	circle {
		stroke: var(--madder);
	}
	.typed {
		position: absolute;
		left: 16px;
		top: 14px;
		width: 230px;
		padding: 4px 8px;
		pointer-events: auto;
	}
	.typed span {
		display: block;
		font-size: 13px;
	}
</style>
